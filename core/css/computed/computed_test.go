package computed_test

import (
	"strings"
	"testing"

	"archetyp/core/css"
	"archetyp/core/css/computed"
	"archetyp/core/markup"
)

// styled is the style of each paragraph of a page, in a window of 800 by 600 px.
func styled(t testing.TB, body, sheet string) (styles []*computed.Style, page *computed.Page) {
	t.Helper()
	return styledIn(t, body, sheet, 800, 600)
}

// styledIn is styled in a window of another size, in px.
func styledIn(t testing.TB, body, sheet string, width, height float64) (styles []*computed.Style, page *computed.Page) {
	t.Helper()
	doc, err := markup.ParseHTML([]byte("<!doctype html><body>"+body), "text/html; charset=utf-8", nil)
	if err != nil {
		t.Fatal(err)
	}
	m := css.Medium{Width: width, Height: height, Page: true}
	page = computed.NewPage(doc.Root, []*css.Sheet{css.ParseSheet(sheet, m)}, m, nil, nil, nil)
	page.URL = func(_ *css.Sheet, ref string) string {
		if strings.Contains(ref, ":") || strings.HasPrefix(ref, "#") {
			return ref
		}
		return "http://ferry.example/" + ref
	}
	var walk func(n *markup.Node, parent *computed.Style)
	walk = func(n *markup.Node, parent *computed.Style) {
		own := page.Style(n, parent)
		if n.Local == "p" {
			styles = append(styles, own)
		}
		for _, c := range n.Children {
			if c.Kind == markup.Element {
				walk(c, own)
			}
		}
	}
	walk(doc.Root, nil)
	return styles, page
}

// TestValues holds what declarations compute to against what a browser printed of them.
func TestValues(t *testing.T) {
	for _, c := range values {
		styles, _ := styled(t, "<p></p><p class=a></p>", "p { display: block; font-size: 20px; color: rgb(1, 2, 3) } .a { "+c.declared+" }")
		plain, own := styles[0], styles[1]
		var got []string
		colour, _ := own.Get("color")
		for _, name := range computed.Properties() {
			was, _ := plain.Get(name)
			is, _ := own.Get(name)
			if was != is && (name == "color" || is != colour || strings.Contains(c.want, name+": ")) {
				got = append(got, name+": "+is)
			}
		}
		if g := strings.Join(got, "; "); g != c.want {
			t.Errorf("%s\n got %s\nwant %s", c.declared, g, c.want)
		}
	}
}
