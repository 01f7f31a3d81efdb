package code

import (
	"slices"
	"strings"
	"unicode"

	"archetyp/core/design"
	"archetyp/core/escape"
)

// JSX prints a page as a component, a function without parameters that is called after it.
func JSX(p *Page) string {
	var s strings.Builder
	for _, i := range p.imports() {
		s.WriteString(i + "\n")
	}
	s.WriteString("import \"./style.css\";\n\nexport function " + p.Tree.ComponentName() + "() {\n  return (\n")
	roots := []*Tag{p.Body}
	if p.Tree.Whole {
		roots = p.Body.Kids
	}
	if len(roots) == 1 {
		jsxTag(&s, roots[0], "    ")
	} else {
		s.WriteString("    <>\n")
		for _, t := range roots {
			jsxTag(&s, t, "      ")
		}
		s.WriteString("    </>\n")
	}
	s.WriteString("  );\n}\n")
	return s.String()
}

// ComponentName is the name of a tree as a component: its words, each with a capital.
func (t *Tree) ComponentName() string {
	name := t.Title
	if e := t.Root.Element(); !t.Whole && e != nil {
		name = firstOf(e.Marks.Component, e.Name, name)
	}
	out := ""
	for _, w := range strings.Split(design.Slug(name), "-") {
		r := []rune(w)
		if len(r) > 0 {
			out += string(unicode.ToUpper(r[0])) + string(r[1:])
		}
	}
	if out == "" || !unicode.IsLetter([]rune(out)[0]) {
		out = "Screen" + out
	}
	return out
}

// jsxNames are the attributes with another name in JSX.
var jsxNames = map[string]string{"for": "htmlFor", "checked": "defaultChecked", "value": "defaultValue"}

// jsxTag writes an element on lines of its own.
func jsxTag(s *strings.Builder, t *Tag, indent string) {
	if t.Raw != "" {
		s.WriteString(indent + t.Raw + "\n")
		return
	}
	s.WriteString(indent + "<" + t.Name)
	if len(t.Classes) > 0 {
		s.WriteString(` className="` + strings.Join(t.Classes, " ") + `"`)
	}
	attrs := t.Attrs
	if t.Name == "textarea" {
		attrs = append(slices.Clone(attrs), Attr{"value", t.words()})
	}
	for _, a := range attrs {
		name := firstOf(jsxNames[a.Name], a.Name)
		s.WriteString(" " + name)
		switch {
		case a.Name == "width" || a.Name == "height":
			s.WriteString("={" + a.Value + "}")
		case a.Value != "" || a.Name == "alt":
			s.WriteString("=" + jsxString(a.Value))
		}
	}
	if empty[t.Name] || t.Name == "textarea" || len(t.Kids)+len(t.Words) == 0 && t.Code == "" {
		s.WriteString(" />\n")
		return
	}
	s.WriteString(">")
	switch {
	case t.Code != "":
		s.WriteString(t.Code)
	case len(t.Kids) > 0:
		s.WriteString("\n")
		for _, k := range t.Kids {
			jsxTag(s, k, indent+"  ")
		}
		s.WriteString(indent)
	default:
		t.phrases(s, "className", jsxText, "<br />")
	}
	s.WriteString("</" + t.Name + ">\n")
}

// words are those of an element as one text.
func (t *Tag) words() string {
	var list []string
	for _, w := range t.Words {
		list = append(list, w.Words)
	}
	return strings.Join(list, "")
}

// jsxString is the value of an attribute. Those that JSX would read in its own way are strings of JavaScript.
func jsxString(v string) string {
	if strings.ContainsAny(v, "\"&\\\n{}<>") {
		return "{" + escape.In("ts", escape.String, v) + "}"
	}
	return `"` + v + `"`
}

// jsxText is text between tags. Air at its ends, and signs that mean something in JSX, need a string.
func jsxText(v string) string {
	if v != strings.TrimSpace(v) || strings.ContainsAny(v, "{}<>&\n") {
		return "{" + escape.In("ts", escape.String, v) + "}"
	}
	return v
}
