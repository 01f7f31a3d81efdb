package exchange

import (
	"fmt"
	"strings"
	"unicode"

	"archetyp/core/markup"
)

// What formats in XML share.

const xmlHead = `<?xml version="1.0" encoding="UTF-8"?>` + "\n"

// xmlText escapes words and drops what XML cannot hold.
func xmlText(s string) string { return markup.EscapeText(xmlChars(s)) }

var attrSpaces = strings.NewReplacer("\n", "&#10;", "\t", "&#9;")

func xmlAttr(s string) string { return attrSpaces.Replace(markup.EscapeAttr(xmlChars(s))) }

func xmlChars(s string) string {
	if strings.IndexFunc(s, notXML) < 0 {
		return s
	}
	return strings.Map(func(r rune) rune {
		if notXML(r) {
			return -1
		}
		return r
	}, s)
}

// notXML reports whether a character cannot stand in XML 1.0. A carriage return could, but readers turn it into a line
// end.
func notXML(r rune) bool {
	return r < 0x20 && r != '\n' && r != '\t' || r == 0xFFFE || r == 0xFFFF
}

// nmtoken is a key as an XML name token, which is what ids are; what cannot stand in one becomes its code point.
func nmtoken(key string) string {
	var b strings.Builder
	for _, r := range key {
		if r < 0x80 && (unicode.IsLetter(r) || unicode.IsDigit(r)) || r == '.' || r == '-' || r >= 0xC0 && r < 0x2000 &&
			unicode.IsLetter(r) {
			b.WriteRune(r)
		} else {
			fmt.Fprintf(&b, "_%X_", r)
		}
	}
	return b.String()
}

// local are the child elements of a node with a name, whatever their namespace.
func local(n *markup.Node, name string) []*markup.Node {
	var out []*markup.Node
	for _, c := range n.Children {
		if c.Kind == markup.Element && c.Local == name {
			out = append(out, c)
		}
	}
	return out
}

// child is the first of local; nil for none.
func child(n *markup.Node, name string) *markup.Node {
	for _, c := range n.Children {
		if c.Kind == markup.Element && c.Local == name {
			return c
		}
	}
	return nil
}

// lang is the xml:lang or lang of a node.
func lang(n *markup.Node) string {
	if v, ok := n.AttrNS(markup.XML, "lang"); ok {
		return v
	}
	return n.AttrOr("lang", "")
}

// rooted parses a file and refuses one that begins with another element.
func rooted(data []byte, name string) (*markup.Document, error) {
	x, err := markup.ParseXML(data)
	if err != nil {
		return nil, err
	}
	if x.Root.Local != name {
		p := x.Position(x.Root.Offset)
		return nil, fault(p.Line, p.Column, "the file begins with <%s>, not with <%s>", x.Root.Name, name)
	}
	return x, nil
}
