package drift

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/markup"
	"archetyp/core/match"
)

// called is what to call an element of a page in a sentence: by its id, else its name and its first class.
func called(n *markup.Node) string {
	part := ""
	if strings.HasPrefix(n.Local, "::") {
		part, n = n.Local, n.Parent
	}
	name := n.Local
	if id := n.ID(); id != "" {
		name = "#" + id
	} else if list := strings.Fields(n.AttrOr("class", "")); len(list) > 0 {
		name += "." + list[0]
	}
	return name + part
}

// short is the beginning of words.
func short(s string) string {
	if r := []rune(s); len(r) > 40 {
		return strings.TrimSpace(string(r[:39])) + "…"
	}
	return s
}

// words compares what stands in an element itself.
func (c *comparing) words(o, n *markup.Node) {
	was, is := match.OwnWords(o), match.OwnWords(n)
	if was == is || n.Local == "style" || n.Local == "script" {
		return
	}
	s := seen{kind: Words, spot: c.spot(o, n, "", was, is), message: fmt.Sprintf("%s reads %s, in the design %s", called(n), quoted(from(is, was)), quoted(from(was, is)))}
	s.cause.Place = c.wordsPlace(o, n)
	c.out = append(c.out, s)
}

// from is a text from shortly before where it is other than another text.
func from(text, other string) string {
	a, b := strings.Fields(text), strings.Fields(other)
	same := 0
	for same < len(a) && same < len(b) && a[same] == b[same] {
		same++
	}
	const before = 2 // words
	if same <= before+1 {
		return text
	}
	return "… " + strings.Join(a[same-before:], " ")
}

// quoted is words in quotation marks, or that there are none.
func quoted(s string) string {
	if s == "" {
		return "nothing"
	}
	return "“" + short(s) + "”"
}

// wordsPlace is where in the page words begin to be others.
func (c *comparing) wordsPlace(o, n *markup.Node) design.StylePlace {
	runs := func(n *markup.Node) (out []*markup.Node) {
		for _, k := range n.Children {
			if k.Kind == markup.Text && strings.TrimSpace(k.Data) != "" {
				out = append(out, k)
			}
		}
		return out
	}
	was, is := runs(o), runs(n)
	d := c.view.Site
	for i, k := range is {
		var a []string
		if i < len(was) {
			a = strings.Fields(was[i].Data)
		}
		b := strings.Fields(k.Data)
		if slices.Equal(a, b) {
			continue
		}
		same := 0
		for same < len(a) && same < len(b) && a[same] == b[same] {
			same++
		}
		lines, rest := 0, k.Data
		for j := 0; j <= same && j < len(b); j++ {
			at := strings.Index(rest, b[j])
			lines += strings.Count(rest[:at], "\n")
			if rest = rest[at:]; j < same {
				rest = rest[len(b[j]):]
			}
		}
		pos := d.Markup.Position(k.Offset)
		if lines > 0 {
			pos.Line, pos.Column = pos.Line+lines, 1
		}
		return design.StylePlace{File: d.Name, Line: pos.Line, Column: pos.Column}
	}
	return c.markupPlace(n)
}

// allWords are the words in an element and in all that it holds.
func allWords(n *markup.Node) string {
	var list []string
	n.Walk(func(k *markup.Node) bool {
		if k.Kind == markup.Text {
			list = append(list, strings.Fields(k.Data)...)
		}
		return !silent(k)
	})
	return strings.Join(list, " ")
}

// words compares the words of a text, as they are written.
func (d *drawn) words(x *match.Across) {
	was := strings.Join(strings.Fields(x.Drawn.Words.Words), " ")
	is := ""
	switch {
	case x.Part != "":
		is = x.Page.Node.AttrOr(x.Part, "")
	case x.Page.Words != nil:
		is = x.Page.Words.Words
	}
	is = strings.Join(strings.Fields(is), " ")
	if was == is || is == "" || strings.EqualFold(was, is) && (asking{d.page.Styles, d.node(x)}).get("text-transform") != "none" {
		return
	}
	s := seen{kind: Words, spot: d.spot(x, "", was, is)}
	s.message = fmt.Sprintf("%s reads %s, in the design %s", called(d.node(x)), quoted(from(is, was)), quoted(from(was, is)))
	s.cause.Place = d.place(d.node(x))
	d.out = append(d.out, s)
}

// mixed reports whether the runs of a text have several values of a property.
func mixed(e *design.Element, property string) bool {
	if len(e.Words.Runs) < 2 {
		return false
	}
	for _, r := range e.Words.Runs {
		for _, c := range runClaims(r) {
			if c[0] == property && c[1] != lookup(runClaims(e.Words.Runs[0]), property) {
				return true
			}
		}
	}
	return false
}

// runClaims are the values that runs of one text may differ in.
func runClaims(r design.Run) [][2]string {
	return [][2]string{{"font-weight", strconv.Itoa(r.Weight)}, {"font-size", css.Px(r.Size)}, {"font-style", map[bool]string{true: "italic", false: "normal"}[r.Italic]}}
}

func lookup(list [][2]string, name string) string {
	for _, c := range list {
		if c[0] == name {
			return c[1]
		}
	}
	return ""
}

// runs compares the runs of a text that differ from each other with the elements in it that hold the same words.
func (d *drawn) runs(x *match.Across) {
	if x.Part != "" || len(x.Drawn.Words.Runs) < 2 {
		return
	}
	for _, r := range x.Drawn.Words.Runs {
		words := strings.Join(strings.Fields(r.Words), " ")
		var on *markup.Node
		d.node(x).Walk(func(n *markup.Node) bool {
			if on == nil && n.Kind == markup.Element && match.OwnWords(n) == words {
				on = n
			}
			return on == nil
		})
		if on == nil || words == "" {
			continue
		}
		for _, c := range runClaims(r) {
			if !mixed(x.Drawn, c[0]) {
				continue
			}
			is := asking{d.page.Styles, on}.get(c[0])
			if far, unit, same := d.in.Tolerances.apart(c[0], c[1], is); !same {
				d.differs(x, on, claim{property: c[0], value: c[1], written: c[0] + ": " + c[1] + ";"}, is, far, unit)
			}
		}
	}
}
