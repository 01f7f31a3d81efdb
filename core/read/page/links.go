package page

import (
	"net/url"
	"strings"

	"archetyp/core/markup"
)

// Links is where a page leads to, and what it says its own address is.
type Links struct {
	Canonical string   // of <link rel="canonical">; "" for none
	Pages     []string // addresses of links, without fragments, each once, in the order they stand
}

// LinksOf are the links of a page at an address.
func LinksOf(data []byte, contentType, address string) (out Links) {
	doc, err := markup.ParseHTML(data, contentType, nil)
	if err != nil {
		return out
	}
	base := (&Page{Markup: doc}).base(address)
	seen := map[string]bool{}
	doc.Root.Walk(func(n *markup.Node) bool {
		href := strings.TrimSpace(n.AttrOr("href", ""))
		if !n.HTML || href == "" {
			return true
		}
		switch n.Local {
		case "a", "area":
			if _, download := n.Attr("download"); download {
				return true
			}
			if to := absolute(base, href); to != "" && !seen[to] && len(seen) < mostLinks {
				seen[to] = true
				out.Pages = append(out.Pages, to)
			}
		case "link":
			if out.Canonical == "" && hasRel(n, "canonical") {
				out.Canonical = absolute(base, href)
			}
		}
		return true
	})
	return out
}

// mostLinks are as many links of one page as are looked at.
const mostLinks = 10000

func hasRel(n *markup.Node, want string) bool {
	for _, r := range strings.Fields(strings.ToLower(n.AttrOr("rel", ""))) {
		if r == want {
			return true
		}
	}
	return false
}

// absolute is an address of a page without its fragment; "" for what is none.
func absolute(base, ref string) string {
	b, err := url.Parse(base)
	if err != nil {
		return ""
	}
	u, err := b.Parse(ref)
	if err != nil || u.Scheme != "http" && u.Scheme != "https" {
		return ""
	}
	u.Fragment, u.RawFragment = "", ""
	if u.Path == "" {
		u.Path = "/"
	}
	return u.String()
}

// Title is the title of a page; "" for none.
func Title(data []byte, contentType string) (title string) {
	doc, err := markup.ParseHTML(data, contentType, nil)
	if err != nil {
		return ""
	}
	return titleOf(doc.Root)
}

func titleOf(root *markup.Node) (title string) {
	root.Walk(func(n *markup.Node) bool {
		if title == "" && n.HTML && n.Local == "title" {
			title = oneLine(n.TextContent())
		}
		return title == ""
	})
	return title
}
