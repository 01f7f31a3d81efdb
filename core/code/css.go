// Package code turns elements into code: what their facts say, in the words of a language, without positions nobody
// asked for.
package code

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/escape"
	"archetyp/core/infer/role"
)

// Tokens names the token that stands for an element's value, by the kind of value and its CSS text. Kinds are
// color:text, color:surface, color:border, color:icon, radius, space, shadow, gradient, fontFamily, and type, whose
// text is family|size|weight|letter spacing, with the first family only.
type Tokens func(e *design.Element, kind, value string) Name

// Name is a custom property that stands for a value; Behind says that it has another value than the drawing shows.
type Name struct {
	Property   string // "" for none
	Path       string // of the token
	Behind     bool
	LineHeight float64 // px; of a type style that has one
}

// Block is one CSS rule to be.
type Block struct {
	Within       string               `json:"within,omitempty"` // the condition it stands under, as "@media (…)"
	Note         string               `json:"note,omitempty"`   // what it is about, in a few words
	Selector     string               `json:"selector"`
	Declarations []design.Declaration `json:"declarations"`
	Comments     []Comment            `json:"comments,omitempty"` // what CSS cannot say, or is left to the reader
}

// Comment is a remark in a rule, and the property it is about; in JSON it is its text.
type Comment struct{ Property, Text string }

// MarshalText gives the text alone.
func (c Comment) MarshalText() ([]byte, error) { return []byte(c.Text), nil }

// UnmarshalText reads a text; what it is about is not known then.
func (c *Comment) UnmarshalText(text []byte) error {
	*c = Comment{Text: string(text)}
	return nil
}

// comment adds a remark about a property, each once.
func (b *Block) comment(property, text string) {
	if c := (Comment{property, text}); !slices.Contains(b.Comments, c) {
		b.Comments = append(b.Comments, c)
	}
}

// Options are what is written, and how.
type Options struct {
	Tokens Tokens // nil for none
	Sizes  bool   // widths and heights too, where content would give them
	Unit   design.Unit
	Groups Choice // which groups of properties; nil for all

	roles map[*design.Screen]*role.Screen // known ones, where several elements are written

	Notes      bool                                              // a comment above each rule describes it
	Classes    *Classes                                          // that the team has; nil for none
	Components map[string]Linked                                 // those the team has in code, by name
	Keys       func(text *design.Element) string                 // the key of a text; "" for none. nil for none
	Words      func(text *design.Element) (code string, ok bool) // how a text is written; nil for as words
}

// CSS writes an element as rules: one for itself, and where it holds others, one for each different look inside; no two
// have the same selector. Values that a token stands for are written as var(). A rule that would be empty is left out,
// except the first.
func CSS(e *design.Element, o Options) []Block {
	p := newPager(NewTree(e, o), o, true)
	root := p.page.Tree.Root
	first := p.own(e)
	if root.Cell.Words() && !root.Alone {
		p.spans(&Tag{}, root, "")
	}
	p.parts(root)
	out := []Block{first}
	for _, name := range p.order {
		b := p.rules[name].block
		b.Selector = first.Selector + " " + b.Selector
		out = append(out, b)
	}
	return o.Groups.of(append(out[:1:1], joinRules(out[1:])...))
}

// own is the rule of the element that the tree was made of.
func (p *pager) own(e *design.Element) Block {
	root := p.page.Tree.Root
	b := p.s.of(root, nil, "")
	b.Selector = ClassName(e)
	if p.o.Notes {
		b.Note = root.note()
	}
	return b
}

// parts gives rules to all that stands on a node.
func (p *pager) parts(n *Node) {
	if n.Alone {
		p.spans(&Tag{}, n.Nodes[0], "")
		return
	}
	for _, k := range slices.Concat(n.Nodes, n.Over) {
		if k.Picture == nil || !k.Cell.Leaf() {
			p.class(k, p.name(k, n, ""), "", p.s.of(k, n, ""))
		}
		if k.Cell.Words() {
			p.spans(&Tag{}, k, "")
		}
		p.parts(k)
	}
}

// run writes the properties in which a run differs from its text.
func (w *writer) run(b *Block, e *design.Element, r design.Run) {
	t := e.Words
	if r.Family != t.Family.Value && r.Family != "" {
		w.put(b, "font-family", design.FamilyCSS(r.Family), "fontFamily")
	}
	if r.Size != t.Size.Value {
		w.put(b, "font-size", css.Px(r.Size), "")
	}
	if r.Weight != t.Weight.Value {
		w.put(b, "font-weight", strconv.Itoa(r.Weight), "")
	}
	if r.Italic != t.Italic.Value {
		style := "normal"
		if r.Italic {
			style = "italic"
		}
		w.put(b, "font-style", style, "")
	}
	if r.Fill.Kind != design.Solid {
		return
	}
	colour := r.Fill.Color.CSS()
	for _, f := range e.Fills {
		if f.Value.Kind == design.Solid && f.Value.Color.CSS() == colour {
			return
		}
	}
	w.put(b, "color", colour, "color:text")
}

// Own writes only each element's own rule.
func Own(elements []*design.Element, o Options) []Block {
	var out []Block
	o.roles = map[*design.Screen]*role.Screen{}
	for _, e := range elements {
		out = append(out, newPager(NewTree(e, o), o, true).own(e))
	}
	return o.Groups.of(out)
}

// classes counts the classes given out, so that none is given twice.
type classes map[string]int

func (c classes) next(class string) string {
	c[class]++
	if c[class] == 1 {
		return class
	}
	return c.next(class + "-" + strconv.Itoa(c[class]))
}

// plainName is what an element is called, or else what it is.
func plainName(e *design.Element) string {
	if e.Name != "" {
		return e.Name
	}
	return string(e.Kind)
}

// empty reports whether a rule says nothing.
func (b *Block) empty() bool { return len(b.Declarations)+len(b.Comments) == 0 }

// Print writes rules as CSS text and leaves out empty ones. Consecutive rules under one condition share it.
func Print(blocks []Block) string {
	var s strings.Builder
	within := ""
	for _, b := range blocks {
		if b.empty() {
			continue
		}
		if within != "" && b.Within != within {
			s.WriteString("}\n")
		}
		if s.Len() > 0 {
			s.WriteString("\n")
		}
		if b.Within != "" && b.Within != within {
			s.WriteString(b.Within + " {\n")
		}
		within = b.Within
		b.print(&s)
	}
	if within != "" {
		s.WriteString("}\n")
	}
	return s.String()
}

// print writes a rule; one under a condition is indented.
func (b *Block) print(s *strings.Builder) {
	indent := ""
	if b.Within != "" {
		indent = "  "
	}
	if b.Note != "" {
		s.WriteString(indent + "/* " + escape.In("css", escape.BlockComment, b.Note) + " */\n")
	}
	s.WriteString(indent + strings.ReplaceAll(b.Selector, "\n", "\n"+indent) + " {\n")
	for _, c := range b.Comments {
		s.WriteString(indent + "  /* " + escape.In("css", escape.BlockComment, c.Text) + " */\n")
	}
	for _, d := range b.Declarations {
		s.WriteString(indent + "  " + d.Prop + ": " + d.Value + ";\n")
	}
	s.WriteString(indent + "}\n")
}

func declText(ds []design.Declaration) string {
	var s strings.Builder
	for _, d := range ds {
		s.WriteString(d.Prop + ":" + d.Value + ";")
	}
	return s.String()
}

// ClassName is the class selector an element gets: by component, variant and state, else by name.
func ClassName(e *design.Element) string {
	m := e.Marks
	if m.Component == "" {
		return "." + slug(plainName(e))
	}
	return "." + slug(m.Component) + variantSelector(m.Variant) + stateSelector(m.State)
}

// variantSelector has a class for each value of a variant.
func variantSelector(variant string) string {
	s := ""
	for _, v := range strings.Fields(variant) {
		_, value, ok := strings.Cut(v, "=")
		if !ok {
			value = v
		}
		s += "." + slug(value)
	}
	return s
}

// stateSelector is how a platform says a state: a pseudo-class, or an attribute of ARIA; a class for any other.
func stateSelector(state string) string {
	switch state {
	case "", "default":
		return ""
	case "hover", "focus", "focus-visible", "focus-within", "active", "disabled", "checked", "visited", "target", "open":
		return ":" + state
	case "loading", "busy":
		return "[aria-busy=true]"
	case "selected":
		return "[aria-selected=true]"
	case "current":
		return "[aria-current]"
	case "expanded":
		return "[aria-expanded=true]"
	case "pressed":
		return "[aria-pressed=true]"
	case "invalid", "error":
		return "[aria-invalid=true]"
	}
	return "." + slug(state)
}

// slug is a name as a CSS class.
func slug(s string) string {
	out := design.Slug(s)
	if out == "" || out[0] >= '0' && out[0] <= '9' {
		out = "e" + out
	}
	return out
}

type writer struct {
	Options
	of *design.Element // the one being written
}

// property is the CSS property that a kind of token is for.
func property(kind string) string {
	switch kind {
	case "color:text":
		return "color"
	case "color:border":
		return "border"
	case "radius":
		return "border-radius"
	case "space":
		return "gap"
	case "shadow":
		return "box-shadow"
	case "fontFamily", "type":
		return "font"
	}
	return "background"
}

// name is the custom property for a value; where it has another one than the drawing, a comment says so.
func (w *writer) name(b *Block, kind, value string) string {
	n := w.Tokens(w.of, kind, value)
	if n.Behind {
		b.comment(property(kind), "the drawing shows "+value+" for "+n.Property)
	}
	return n.Property
}

func (w *writer) put(b *Block, prop, value, kind string) {
	if kind != "" {
		if name := w.name(b, kind, value); name != "" {
			value = "var(" + name + ")"
		}
	}
	value = w.Unit.Lengths(value)
	for i := range b.Declarations {
		if b.Declarations[i].Prop == prop {
			b.Declarations[i].Value = value
			return
		}
	}
	b.Declarations = append(b.Declarations, design.Declaration{Prop: prop, Value: value})
}

func (w *writer) paint(b *Block, e *design.Element) {
	for _, f := range e.Fills {
		text, ok := e.PaintCSS(f.Value)
		switch {
		case !ok:
			b.comment("background", "background: "+text)
		case e.Kind == design.Path:
			b.comment("", outline)
		case f.Value.Kind == design.Solid:
			w.put(b, "background", text, "color:surface")
		default:
			w.put(b, "background", text, "gradient")
			if fades(f.Value.Gradient) {
				b.comment("background", "its colours change while it fades: browsers mix them a little differently than drawn")
			}
		}
	}
	if e.Kind == design.Path {
		if len(e.Strokes) > 0 {
			b.comment("", outline)
		}
		return
	}
	for _, s := range e.Strokes {
		w.border(b, e, s)
	}
}

// fades reports whether a gradient's colour and opacity change together so much that it shows how they are mixed: CSS
// multiplies colours by opacity first, and SVG does not. https://www.w3.org/TR/css-images-4/#color-stop-syntax
func fades(g *design.Gradient) bool {
	if g == nil {
		return false
	}
	for i := 1; i < len(g.Stops); i++ {
		a, b := g.Stops[i-1].Color, g.Stops[i].Color
		x, y := a.SRGB(), b.SRGB()
		most := 0.0
		for k := range x {
			most = max(most, math.Abs(x[k]-y[k]))
		}
		if most*math.Abs(a.Alpha-b.Alpha) > 0.1 {
			return true
		}
	}
	return false
}

// outline is the comment for a shape that CSS cannot draw.
const outline = "an outline: export it as an asset, or use it as inline SVG"

func (w *writer) effects(b *Block, e *design.Element, shadows []design.Fact[design.Shadow]) {
	w.shadows(b, e, shadows)
	w.cut(b, e)
	w.blends(b, e)
}

// blends writes how an element mixes with what lies under it: opacity, filters, blend mode.
func (w *writer) blends(b *Block, e *design.Element) {
	if e.Opacity.Set && e.Opacity.Value != 1 {
		w.put(b, "opacity", css.Num(e.Opacity.Value, 4), "")
	}
	if e.Blur.Set {
		w.put(b, "filter", "blur("+css.Px(e.Blur.Value)+")", "")
	} else if f := e.Paint; f != nil && f.Filter != nil && len(e.Shadows) == 0 {
		if f.Filter.CSS != "" {
			w.put(b, "filter", f.Filter.CSS, "")
		} else if !e.Casts {
			b.comment("filter", "a filter that CSS cannot say: export it as an asset, or use it as inline SVG")
		}
	}
	if e.Blend.Set {
		w.put(b, "mix-blend-mode", e.Blend.Value, "")
	}
}

// cut writes how an element is clipped: by its own box as overflow and corners, by another basic shape as a clip path.
func (w *writer) cut(b *Block, e *design.Element) {
	for i, c := range e.Cuts() {
		switch {
		case i > 0 || !c.Value.Basic:
			b.comment("clip-path", "cut off by "+c.Value.Text+": export it as an asset, or use it as inline SVG")
		case c.Value.Box:
			if e.Kind == design.Group { // anything else ends at its box
				w.put(b, "overflow", "hidden", "")
			}
			if !c.Value.Radii.Zero() {
				w.put(b, "border-radius", c.Value.Radii.CSS(), "radius")
			}
		default:
			w.put(b, "clip-path", c.Value.Text, "")
		}
	}
}

// shadows writes the shadows of a box or of letters. A group without a background casts one with all its contents.
func (w *writer) shadows(b *Block, e *design.Element, list []design.Fact[design.Shadow]) {
	if len(list) == 0 {
		return
	}
	prop, bare := "box-shadow", e.Kind == design.Group && e.Background() == nil
	if e.Words != nil {
		prop = "text-shadow"
	}
	var texts, filters []string
	for _, s := range list {
		texts = append(texts, s.Value.CSS())
		bare = bare && !s.Value.Inset && s.Value.Spread == 0
		s.Value.Blur /= 2 // drop-shadow() takes the standard deviation, half the blur radius
		filters = append(filters, "drop-shadow("+s.Value.CSS()+")")
	}
	if bare {
		w.put(b, "filter", strings.Join(filters, " "), "")
		return
	}
	w.put(b, prop, strings.Join(texts, ", "), "shadow")
}

// typeKey is what makes a type style, as Tokens knows it.
func typeKey(t *design.TextFacts) string {
	family, _, _ := strings.Cut(t.Family.Value, ",")
	return strings.Join([]string{strings.TrimSpace(family), css.Px(t.Size.Value), strconv.Itoa(t.Weight.Value),
		css.Px(t.Spacing.Value)}, "|")
}

// lineHeight is that which a text's type token holds, in px; 0 for none.
func (o Options) lineHeight(e *design.Element) float64 {
	if o.Tokens == nil || e.Words == nil {
		return 0
	}
	return o.Tokens(e, "type", typeKey(e.Words)).LineHeight
}

func (w *writer) text(b *Block, e *design.Element) {
	t := e.Words
	styled := w.name(b, "type", typeKey(t))
	if styled != "" {
		w.put(b, "font", "var("+styled+")", "")
	} else {
		if t.Family.Set {
			w.put(b, "font-family", design.FamilyCSS(t.Family.Value), "fontFamily")
		}
		w.put(b, "font-size", css.Px(t.Size.Value), "")
		w.put(b, "font-weight", strconv.Itoa(t.Weight.Value), "")
	}
	if t.Italic.Value {
		w.put(b, "font-style", "italic", "")
	}
	if t.LineHeight.Set {
		w.put(b, "line-height", css.Px(t.LineHeight.Value), "")
	}
	if t.Spacing.Set && styled != "" {
		w.put(b, "letter-spacing", "var("+styled+"-letter-spacing)", "")
	} else if t.Spacing.Set {
		w.put(b, "letter-spacing", css.Px(t.Spacing.Value), "")
	}
	if t.Align.Value != "left" && len(t.Lines) > 1 { // a line alone is as wide as its words
		w.put(b, "text-align", t.Align.Value, "")
	}
	if t.Case.Set {
		w.put(b, "text-transform", t.Case.Value, "")
	}
	if t.Decoration.Set {
		w.put(b, "text-decoration", t.Decoration.Value, "")
	}
	for _, f := range e.Fills {
		if f.Value.Kind == design.Solid {
			w.put(b, "color", f.Value.Color.CSS(), "color:text")
		} else if text, ok := e.PaintCSS(f.Value); ok {
			w.put(b, "background", text, "gradient")
			w.put(b, "background-clip", "text", "")
			w.put(b, "color", "transparent", "")
		}
	}
}
