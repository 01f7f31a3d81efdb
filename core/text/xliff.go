package text

import (
	"fmt"
	"strings"
	"unicode"

	"archetyp/core/markup"
)

// XLIFF writes the catalogue as XLIFF 2.1 for a target locale ("" for none): a unit a key, with its places and the
// number of lines as notes. https://docs.oasis-open.org/xliff/xliff-core/v2.1/xliff-core-v2.1.html
func (c *Catalogue) XLIFF(name, target string) string {
	var b strings.Builder
	b.WriteString(`<?xml version="1.0" encoding="UTF-8"?>` + "\n")
	fmt.Fprintf(&b, `<xliff xmlns="urn:oasis:names:tc:xliff:document:2.0" version="2.1" srcLang="%s"`, markup.EscapeAttr(c.Locale))
	if target != "" {
		fmt.Fprintf(&b, ` trgLang="%s"`, markup.EscapeAttr(target))
	}
	fmt.Fprintf(&b, ">\n  <file id=\"texts\" original=\"%s\">\n", markup.EscapeAttr(name))
	for _, e := range c.Entries {
		if e.Unused {
			continue
		}
		fmt.Fprintf(&b, "    <unit id=\"%s\" name=\"%s\">\n", nmtoken(e.Key), markup.EscapeAttr(e.Key))
		if notes := e.notes(); len(notes) > 0 {
			b.WriteString("      <notes>\n")
			for _, n := range notes {
				fmt.Fprintf(&b, "        <note category=\"%s\">%s</note>\n", n[0], markup.EscapeText(n[1]))
			}
			b.WriteString("      </notes>\n")
		}
		b.WriteString("      <segment state=\"initial\">\n        <source xml:space=\"preserve\">" + xmlText(e.Words) + "</source>\n      </segment>\n    </unit>\n")
	}
	b.WriteString("  </file>\n</xliff>\n")
	return b.String()
}

// nmtoken is a key as an XML name token, which is what ids are; what cannot stand in one becomes its code point.
func nmtoken(key string) string {
	var b strings.Builder
	for _, r := range key {
		if unicode.IsLetter(r) || unicode.IsDigit(r) || r == '.' || r == '-' || r == '_' {
			b.WriteRune(r)
		} else {
			fmt.Fprintf(&b, "_%X_", r)
		}
	}
	return b.String()
}

func (e *Entry) notes() [][2]string {
	var out [][2]string
	if e.Note != "" {
		out = append(out, [2]string{"description", e.Note})
	}
	for _, p := range e.Places {
		out = append(out, [2]string{"place", p.Screen + ": " + p.Element})
	}
	if len(e.Places) > 0 && e.Places[0].Room != nil {
		r := e.Places[0].Room
		for _, p := range e.Places { // the narrowest counts
			if p.Room != nil && p.Room.Width < r.Width {
				r = p.Room
			}
		}
		out = append(out, [2]string{"room", fmt.Sprintf("%g px wide, %d %s", r.Width, r.Lines, map[bool]string{true: "line", false: "lines"}[r.Lines == 1])})
	}
	return out
}

// xmlText escapes text and drops what XML cannot hold.
func xmlText(s string) string {
	return markup.EscapeText(strings.Map(func(r rune) rune {
		if r < 0x20 && r != '\n' && r != '\t' || r == 0xFFFE || r == 0xFFFF {
			return -1
		}
		return r
	}, s))
}
