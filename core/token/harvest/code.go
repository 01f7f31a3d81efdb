package harvest

import (
	"slices"
	"sort"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/markup"
)

// Sheet is a style sheet to collect from.
type Sheet struct {
	Name string
	Text string
	Line int // of its first line in its file, from 1
}

// Code is what style sheets declare: custom properties by context, and the values of all other declarations.
type Code struct {
	Contexts   []string // in the order they come, "" for where nothing is asked: "@media (prefers-color-scheme: dark)", "[data-scheme=dark]"
	Properties []*CodeProperty
	Values     []*CodeValue
	Skipped    []string // what was no CSS, with its place
}

// CodeProperty is a custom property with its value in each context.
type CodeProperty struct {
	Name  string
	In    []CodeIn
	Uses  int  // by var()
	Whole bool // it is declared for the whole page, and not for some elements only
}

// CodeIn is the value of a custom property in a context.
type CodeIn struct {
	Context string
	Value   string
	Place   CodePlace
}

// CodePlace is where something stands.
type CodePlace struct {
	File     string
	Line     int
	Selector string
	Property string
	around   []string
}

// CodeValue is a value that declarations use.
type CodeValue struct {
	Kind   string // color, size, family, weight, space, radius, shadow, time, easing, layer, width
	Text   string // as it is written, colours as CSS writes them shortest
	Uses   int
	Places []CodePlace // the first few
	Is     []string    // custom properties that have it
}

// mostPlaces are as many places of a value as are kept.
const mostPlaces = 20

// ReadCode collects from style sheets, whatever their medium.
func ReadCode(sheets []Sheet) *Code {
	c := &coder{out: &Code{}, byName: map[string]*CodeProperty{}, byValue: map[string]*CodeValue{}, memo: map[[2]string][]string{}, contexts: map[string]bool{}}
	for _, s := range sheets {
		c.sheet(s)
	}
	c.finish()
	return c.out
}

type coder struct {
	out      *Code
	byName   map[string]*CodeProperty
	byValue  map[string]*CodeValue // by kind and text
	memo     map[[2]string][]string
	contexts map[string]bool
	uses     map[string]int
}

func (c *coder) sheet(s Sheet) {
	list, skipped := css.ParseScoped(s.Text)
	lines := markup.Lines([]byte(s.Text))
	line := func(offset int) int { return lines.Position(offset).Line + s.Line - 1 }
	for _, e := range skipped {
		if len(c.out.Skipped) < mostPlaces {
			c.out.Skipped = append(c.out.Skipped, s.Name+":"+strconv.Itoa(line(e.Offset))+": "+e.Msg)
		}
	}
	seen := ""
	for i := range list {
		d := &list[i]
		at := CodePlace{File: s.Name, Selector: d.Selector, Property: d.Prop, around: d.Around}
		if strings.HasPrefix(d.Prop, "--") {
			at.Line = line(d.Offset)
			c.property(d, at)
		} else {
			c.declared(d, at, func() int { return line(d.Offset) })
		}
		c.used(d.Value)
		if a := strings.Join(d.Around, " "); a != seen {
			seen = a
			for _, head := range d.Around {
				c.breakpoints(head, s.Name, line(d.Offset))
			}
		}
	}
}

// property notes a custom property in its context.
func (c *coder) property(d *css.Scoped, at CodePlace) {
	p := c.byName[d.Prop]
	if p == nil {
		p = &CodeProperty{Name: d.Prop}
		c.byName[d.Prop] = p
		c.out.Properties = append(c.out.Properties, p)
	}
	for _, sel := range css.SplitTop(d.Selector, ',') {
		context, whole := contextOf(d.Around, sel)
		p.Whole = p.Whole || whole
		value := d.Value
		if d.Important {
			value += " !important"
		}
		if i := slices.IndexFunc(p.In, func(in CodeIn) bool { return in.Context == context }); i >= 0 {
			p.In[i] = CodeIn{context, value, at} // the later wins
		} else {
			p.In = append(p.In, CodeIn{context, value, at})
		}
		if !c.contexts[context] {
			c.contexts[context] = true
			c.out.Contexts = append(c.out.Contexts, context)
		}
	}
}

// contextOf is the context of a rule: the at-rules around it and its selector, without what means the whole page. whole
// says that the rule is for the whole page, or for all that bears an attribute or class of a theme.
func contextOf(around []string, selector string) (context string, whole bool) {
	var parts []string
	for _, a := range around {
		if !strings.HasPrefix(a, "@layer") {
			parts = append(parts, a)
		}
	}
	rest := strings.TrimSpace(selector)
	for _, r := range []string{":root", ":host", "html", "body", "*"} {
		if cut, ok := strings.CutPrefix(rest, r); ok && (cut == "" || strings.IndexByte("[.:#", cut[0]) >= 0) {
			rest, whole = cut, true
			break
		}
	}
	if rest != "" && (rest[0] == '[' || rest[0] == '.' || rest[0] == ':') && !strings.ContainsAny(rest, " >+~") && themes(rest) {
		whole = true
	}
	if rest != "" {
		parts = append(parts, rest)
	}
	return strings.Join(parts, " "), whole
}

// themes reports whether a selector is one of a scheme or theme by its name.
func themes(s string) bool {
	s = strings.ToLower(s)
	for _, w := range []string{"dark", "light", "theme", "scheme", "color-mode", "contrast", "brand"} {
		if strings.Contains(s, w) {
			return true
		}
	}
	return false
}

// used counts what var() refers to.
func (c *coder) used(value string) {
	for {
		i := strings.Index(value, "var(--")
		if i < 0 {
			return
		}
		value = value[i+4:]
		end := 0
		for end < len(value) && value[end] != ',' && value[end] != ')' && value[end] != ' ' {
			end++
		}
		if c.uses == nil {
			c.uses = map[string]int{}
		}
		c.uses[value[:end]]++
	}
}

// declared notes the values of a declaration.
func (c *coder) declared(d *css.Scoped, at CodePlace, line func() int) {
	found := c.valuesOf(d.Prop, d.Value)
	for i := 0; i+1 < len(found); i += 2 {
		c.value(found[i], found[i+1], at, line)
	}
}

// valuesOf is valuesOf, once for the same declaration.
func (c *coder) valuesOf(prop, value string) []string {
	key := [2]string{prop, value}
	found, known := c.memo[key]
	if !known {
		found = valuesOf(prop, value)
		c.memo[key] = found
	}
	return found
}

func (c *coder) value(kind, text string, at CodePlace, line func() int) {
	key := kind + "\x00" + text
	v := c.byValue[key]
	if v == nil {
		v = &CodeValue{Kind: kind, Text: text}
		c.byValue[key] = v
		c.out.Values = append(c.out.Values, v)
	}
	v.Uses++
	if len(v.Places) < mostPlaces {
		at.Line = line()
		v.Places = append(v.Places, at)
	}
}

// breakpoints notes the widths that media queries ask for.
func (c *coder) breakpoints(head, file string, line int) {
	if !strings.HasPrefix(head, "@media") {
		return
	}
	for _, f := range strings.FieldsFunc(head, func(r rune) bool { return r == '(' || r == ')' || r == ',' }) {
		if !strings.Contains(f, "width") {
			continue
		}
		for _, w := range strings.FieldsFunc(f, func(r rune) bool { return r == ' ' || r == ':' || r == '<' || r == '>' || r == '=' }) {
			if l, err := css.ParseLength(w); err == nil && l.Unit != "" {
				c.value("width", w, CodePlace{File: file, Selector: head, Property: "@media"}, func() int { return line })
			}
		}
	}
}

// finish sorts what was found, and finds the values that are custom properties already.
func (c *coder) finish() {
	is := map[string][]string{}
	for _, p := range c.out.Properties {
		p.Uses = c.uses[p.Name]
		for _, in := range p.In {
			if in.Context != "" {
				continue
			}
			for _, prop := range []string{"color", "padding-top"} {
				if found := c.valuesOf(prop, in.Value); len(found) == 2 {
					is[found[1]] = append(is[found[1]], p.Name)
				}
			}
		}
	}
	for _, v := range c.out.Values {
		for _, name := range is[v.Text] {
			if goesWith(v.Kind, name) {
				v.Is = append(v.Is, name)
			}
		}
	}
	kinds := map[string]int{"color": 0, "gradient": 1, "size": 2, "family": 3, "weight": 4, "line": 5, "space": 6, "radius": 7, "shadow": 8, "time": 9, "easing": 10, "layer": 11, "width": 12}
	sort.SliceStable(c.out.Values, func(i, j int) bool {
		a, b := c.out.Values[i], c.out.Values[j]
		if kinds[a.Kind] != kinds[b.Kind] {
			return kinds[a.Kind] < kinds[b.Kind]
		}
		return a.Uses > b.Uses
	})
}

// goesWith reports whether the name of a custom property fits a kind of value: 16px may be a space, a radius or a size.
func goesWith(kind, name string) bool {
	has := func(words ...string) bool {
		return slices.ContainsFunc(words, func(w string) bool { return strings.Contains(name, w) })
	}
	switch kind {
	case "size":
		return has("size", "font", "text", "type")
	case "radius":
		return has("radius", "round", "corner")
	case "space":
		return !has("size", "font", "text", "type", "radius", "round", "corner")
	}
	return true
}

// CSS writes the custom properties again, in the contexts they stand in and in their order.
func (c *Code) CSS() string {
	var b strings.Builder
	type block struct {
		around   []string
		selector string
		lines    []string
	}
	var blocks []*block
	for _, context := range c.Contexts {
		for _, p := range c.Properties {
			for _, in := range p.In {
				if in.Context != context {
					continue
				}
				last := len(blocks) - 1
				sel := in.Place.Selector
				if last < 0 || blocks[last].selector != sel || !slices.Equal(blocks[last].around, in.Place.around) {
					blocks = append(blocks, &block{around: in.Place.around, selector: sel})
					last++
				}
				blocks[last].lines = append(blocks[last].lines, p.Name+": "+in.Value+";")
			}
		}
	}
	for i, bl := range blocks {
		if i > 0 {
			b.WriteByte('\n')
		}
		indent := ""
		for _, a := range bl.around {
			b.WriteString(indent + a + " {\n")
			indent += "  "
		}
		b.WriteString(indent + bl.selector + " {\n")
		for _, l := range bl.lines {
			b.WriteString(indent + "  " + l + "\n")
		}
		b.WriteString(indent + "}\n")
		for range bl.around {
			indent = indent[2:]
			b.WriteString(indent + "}\n")
		}
	}
	return b.String()
}
