package markup

import (
	"bytes"
	"fmt"
	"strconv"
	"strings"
	"unicode/utf8"

	"archetyp/core/limit"

	"golang.org/x/net/html"
	"golang.org/x/net/html/charset"
)

// placeMark is the attribute that carries the place of a start tag through the parser, which keeps none.
const placeMark = "archetyp-place"

// MaxHTMLDepth is how many elements may stand inside one another in HTML, where the parser stops.
const MaxHTMLDepth = 512

// ParseHTML reads a page as browsers do without scripts. contentType is what the server said it is; "" for a file. The
// error is an *Error with the place.
func ParseHTML(src []byte, contentType string, budget *limit.Budget) (*Document, error) {
	text, err := decodeHTML(src, contentType)
	if err != nil {
		return nil, err
	}
	lines := Lines(text)
	marked, elements := markPlaces(text)
	if most := budget.Limit(limit.Elements); most > 0 && int64(elements) > most {
		over := &limit.Error{Kind: limit.Elements, Limit: most}
		return nil, &Error{Position{1, 1}, over.Error(), over.Hint()}
	}
	root, err := html.ParseWithOptions(bytes.NewReader(marked), html.ParseOptionEnableScripting(false))
	if err != nil {
		return nil, &Error{lines.Position(deepest(text)), fmt.Sprintf("more than %d elements inside one another", MaxHTMLDepth),
			"A page this deep is usually one whose end tags are missing."}
	}
	d := &Document{lines: lines, Quirks: true}
	for c := root.FirstChild; c != nil; c = c.NextSibling {
		switch c.Type {
		case html.DoctypeNode:
			d.Quirks = quirky(c)
		case html.ElementNode:
			if d.Root == nil {
				d.Root = fromHTML(c)
			}
		}
	}
	if d.Root == nil {
		return nil, &Error{Position{1, 1}, "there is no element in this file", ""}
	}
	return d, nil
}

// decodeHTML is the text of a page in UTF-8.
func decodeHTML(src []byte, contentType string) ([]byte, error) {
	enc, name, certain := charset.DetermineEncoding(src, contentType)
	if !certain && name == "windows-1252" && utf8.Valid(src) && !bytes.Contains(bytes.ToLower(src[:min(len(src), 1024)]), []byte("charset")) {
		name = "utf-8" // nobody says anything else
	}
	if name == "utf-8" {
		src = bytes.TrimPrefix(src, []byte("\xef\xbb\xbf"))
		return bytes.ToValidUTF8(src, []byte("\uFFFD")), nil
	}
	out, err := enc.NewDecoder().Bytes(src)
	if err != nil {
		return nil, &Error{Position{1, 1}, fmt.Sprintf("the page is not in the encoding %s it declares", name), "Save it as UTF-8."}
	}
	return bytes.TrimPrefix(out, []byte("\xef\xbb\xbf")), nil
}

// markPlaces gives every start tag an attribute with its place.
func markPlaces(text []byte) (out []byte, elements int) {
	out = make([]byte, 0, len(text)+len(text)/4)
	z := html.NewTokenizer(bytes.NewReader(text))
	at := 0
	for {
		tt := z.Next()
		raw := z.Raw()
		if tt == html.ErrorToken {
			return append(out, raw...), elements
		}
		if tt == html.StartTagToken || tt == html.SelfClosingTagToken {
			elements++
			n := 1
			for n < len(raw) && !bytes.ContainsRune([]byte(" \t\r\n\f/>"), rune(raw[n])) {
				n++
			}
			out = append(out, raw[:n]...)
			out = append(out, " "+placeMark+"=\""...)
			out = strconv.AppendInt(out, int64(at), 10)
			out = append(out, '+')
			out = strconv.AppendInt(out, int64(len(raw)), 10)
			out = append(out, "\" "...)
			out = append(out, raw[n:]...)
		} else {
			out = append(out, raw...)
		}
		at += len(raw)
	}
}

// deepest is the place of the start tag that is too deep, as far as tags tell.
func deepest(text []byte) int {
	z := html.NewTokenizer(bytes.NewReader(text))
	at, depth := 0, 0
	for {
		tt := z.Next()
		n := len(z.Raw())
		switch tt {
		case html.ErrorToken:
			return at
		case html.StartTagToken:
			if depth++; depth > MaxHTMLDepth {
				return at
			}
		case html.EndTagToken:
			depth = max(0, depth-1)
		}
		at += n
	}
}

var spaces = map[string]string{"": XHTML, "svg": SVG, "math": "http://www.w3.org/1998/Math/MathML"}

// fromHTML makes our tree of the parser's.
func fromHTML(h *html.Node) *Node {
	n := &Node{Space: spaces[h.Namespace], Local: h.Data, Name: h.Data, HTML: h.Namespace == "", Lax: true}
	for _, a := range h.Attr {
		if a.Key == placeMark {
			from, length, _ := strings.Cut(a.Val, "+")
			n.Offset, _ = strconv.Atoi(from)
			k, _ := strconv.Atoi(length)
			n.End = n.Offset + k
			continue
		}
		at := Attr{Local: a.Key, Name: a.Key, Value: a.Val}
		if a.Namespace != "" {
			at.Space, at.Name = map[string]string{"xlink": XLink, "xml": XML, "xmlns": "http://www.w3.org/2000/xmlns/"}[a.Namespace], a.Namespace+":"+a.Key
		}
		if !n.has(at.Name) {
			n.Attrs = append(n.Attrs, at)
		}
	}
	into := n
	if h.Data == "template" && h.Namespace == "" {
		into = &Node{Kind: Fragment, Local: "#fragment", HTML: true, Offset: n.Offset, End: n.End}
		n.Content = into
	}
	for c := h.FirstChild; c != nil; c = c.NextSibling {
		switch c.Type {
		case html.ElementNode:
			k := fromHTML(c)
			if k.Content != nil && n.Shadow == nil && into == n {
				if mode, ok := k.Attr("shadowrootmode"); ok && (mode == "open" || mode == "closed") && hosts(n) {
					n.Shadow = k.Content
					n.Shadow.Host = n
					continue
				}
			}
			into.Append(k)
		case html.TextNode:
			into.Append(&Node{Kind: Text, Data: c.Data, Offset: n.End, End: n.End})
		}
	}
	return n
}

// hosts reports whether an element can have a shadow root. https://dom.spec.whatwg.org/#valid-shadow-host-name
func hosts(n *Node) bool {
	switch n.Local {
	case "article", "aside", "blockquote", "body", "div", "footer", "h1", "h2", "h3", "h4", "h5", "h6", "header", "main", "nav", "p", "section", "span":
		return true
	}
	return strings.Contains(n.Local, "-")
}

func (n *Node) has(name string) bool {
	for i := range n.Attrs {
		if n.Attrs[i].Name == name {
			return true
		}
	}
	return false
}

// quirky reports whether a page with this doctype is laid out as in the old days.
// https://html.spec.whatwg.org/multipage/parsing.html#the-initial-insertion-mode
func quirky(doctype *html.Node) bool {
	if !strings.EqualFold(doctype.Data, "html") {
		return true
	}
	public, system, hasSystem := "", "", false
	for _, a := range doctype.Attr {
		switch a.Key {
		case "public":
			public = strings.ToLower(a.Val)
		case "system":
			system, hasSystem = strings.ToLower(a.Val), true
		}
	}
	switch public {
	case "-//w3o//dtd w3 html strict 3.0//en//", "-/w3c/dtd html 4.0 transitional/en", "html":
		return true
	}
	if system == "http://www.ibm.com/data/dtd/v11/ibmxhtml1-transitional.dtd" {
		return true
	}
	for _, p := range quirkyIDs {
		if strings.HasPrefix(public, p) {
			return true
		}
	}
	return !hasSystem && (strings.HasPrefix(public, "-//w3c//dtd html 4.01 frameset//") || strings.HasPrefix(public, "-//w3c//dtd html 4.01 transitional//"))
}

var quirkyIDs = []string{"+//silmaril//dtd", "-//as//dtd", "-//advasoft", "-//ietf//dtd", "-//metrius//dtd", "-//microsoft//dtd", "-//netscape",
	"-//o'reilly", "-//sq//dtd", "-//softquad", "-//spyglass//dtd", "-//sun microsystems", "-//w3c//dtd html 3s draft", "-//w3c//dtd html 3 draft",
	"-//w3c//dtd html 3.2", "-//w3c//dtd html 4.0 frameset", "-//w3c//dtd html 4.0 transitional", "-//w3c//dtd html experimental 19960712",
	"-//w3c//dtd html experimental 970421", "-//w3c//dtd w3 html", "-//w3o//dtd w3 html", "-//webtechs//dtd mozilla html"}
