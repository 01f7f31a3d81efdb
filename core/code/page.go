package code

import (
	"slices"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/infer/layout"
	"archetyp/core/infer/role"
)

// Page is a tree in the elements of HTML, and the rules for them. HTML and JSX are printed from it.
type Page struct {
	Tree  *Tree
	Body  *Tag
	Rules []Block
	Free  []Free // what stands free of the flow
	Lang  string

	Widths   []Width    // wider drawings of it
	Lengths  []Length   // how its gaps and widths follow its width
	Pictures []*Picture // that it shows
	Missing  []string   // what has no counterpart in a drawing of another width
	Usages   []Usage    // of linked components
	Imports  []string   // further lines a component begins with
	linked   map[string]Linked
}

// Tag is an element of HTML.
type Tag struct {
	Name    string
	Classes []string
	Attrs   []Attr
	Kids    []*Tag // without words
	Words   []Span
	Raw     string // code of the team's own that stands for the whole element
	Code    string // code that stands for its words
	flexed  bool   // it stands in a row, column or grid
	node    *Node
	runs    []string // the class of each span; "" for none
}

// Attr is an attribute; one without a value is only there.
type Attr struct{ Name, Value string }

// Free is something that stands free, and why.
type Free struct {
	Selector string `json:"selector"`
	Why      string `json:"why"`
}

// pager makes a page.
type pager struct {
	page  *Page
	s     *styles
	rules map[string]*rule // by class
	order []string         // classes
	ids   classes
	o     Options
}

// rule is the rule of a class.
type rule struct {
	block Block
	text  string
}

// NewPage writes a tree as a page.
func NewPage(t *Tree, o Options) *Page { return NewPages(t, nil, o) }

// newPager makes a pager of a tree. part is for rules to be used elsewhere: they inherit nothing.
func newPager(t *Tree, o Options, part bool) *pager {
	none := func(*design.Element, string, string) Name { return Name{} }
	if o.Tokens == nil {
		o.Tokens = none
	}
	plain := o
	plain.Tokens, plain.Unit = none, design.Unit{}
	s := &styles{w: &writer{Options: o}, plain: &writer{Options: plain}, base: initial, part: part,
		flex: &layout.Finder{}}
	if !part {
		s.ratio = t.line
		s.base = s.inherits(t)
	}
	page := &Page{Tree: t, linked: o.Components, Pictures: slices.Clone(t.Pictures)}
	return &pager{page: page, s: s, rules: map[string]*rule{}, ids: classes{}, o: o}
}

// File is the picture's file, from the page.
func (p *Picture) File() string {
	if p.Bitmap {
		return "assets/" + p.Name + ".png"
	}
	return "assets/" + p.Name + ".svg"
}

// tags are the HTML elements of roles. https://www.w3.org/TR/html-aria/
var tags = map[role.Role]string{role.Paragraph: "p", role.Text: "p", role.Button: "button", role.Tab: "button",
	role.Link: "a", role.Field: "input", role.Search: "input", role.Checkbox: "input", role.Radio: "input",
	role.Switch: "input", role.Area: "textarea", role.Select: "select", role.Separator: "hr", role.Header: "header",
	role.Footer: "footer", role.Navigation: "nav", role.Main: "main", role.List: "ul"}

// phrasing are those that may stand where only words and spans may.
var phrasing = []string{"input", "textarea", "select"}

// tagOf is the HTML element that a node is.
func (p *pager) tagOf(n, holder *Node) string {
	in := holder != nil && holder.phrasing
	tag := tags[n.Role]
	if n.Role == role.Heading {
		tag = "h" + strconv.Itoa(max(1, n.Rank))
	}
	switch c := n.Control; {
	case holder == nil && p.page.Tree.Whole:
		return "body"
	case n.Picture != nil:
		return "img"
	case c != nil && (c.Label == n || isChoice(c)):
		return "label"
	case n.Table != nil:
		return "table"
	case tag != "" && (!in || slices.Contains(phrasing, tag)):
		return tag
	case in:
		return "span"
	case n.Cell.Words():
		return "p"
	}
	return "div"
}

// tag is the HTML of a node.
func (p *pager) tag(n, holder *Node, within string) *Tag {
	if e := n.Element(); e != nil && holder != nil {
		if u, ok := p.o.Usage(e); ok {
			p.page.Usages = append(p.page.Usages, u)
			return &Tag{Raw: u.Line, node: n}
		}
	}
	name := p.tagOf(n, holder)
	t := &Tag{Name: name, node: n}
	n.phrasing = holder != nil && holder.phrasing || name == "button" || name == "a" || name == "label" || name == "p" ||
		name == "span"
	base := p.name(n, holder, within)
	block := p.s.of(n, holder, name)
	if holder == nil && !p.page.Tree.Whole {
		block.Declarations = append(p.s.typical(p.page.Tree), block.Declarations...)
	}
	t.Classes = p.class(n, base, name, block)
	if name == "input" && n.faint() && len(t.Classes) > 0 {
		p.placeholder(t.Classes[0], n.words().Cell.Element)
	}
	p.attrs(t, n)
	switch {
	case name == "input" || name == "img" || name == "hr":
		return t
	case name == "textarea":
		t.Words = []Span{{Words: n.Value}}
		return t
	case name == "select":
		t.Kids = []*Tag{{Name: "option", Words: []Span{{Words: n.Value}}}}
		return t
	case name == "table":
		p.tableTag(t, n, base)
		return t
	case n.Cell.Words():
		p.spans(t, n, base)
		return t
	case n.Alone:
		p.spans(t, n.Nodes[0], base)
		return t
	}
	for _, k := range n.Over {
		if k.Cell.Under {
			t.Kids = append(t.Kids, p.free(k, n, base))
		}
	}
	for _, k := range n.Nodes {
		kid := p.tag(k, n, base)
		if name == "ul" {
			kid = item(kid)
		}
		kid.flexed = slices.ContainsFunc(block.Declarations, func(d design.Declaration) bool {
			return d.Prop == "display" && (d.Value == "flex" || d.Value == "grid")
		})
		t.Kids = append(t.Kids, kid)
	}
	for _, k := range n.Over {
		if !k.Cell.Under {
			t.Kids = append(t.Kids, p.free(k, n, base))
		}
	}
	return t
}

// placeholder writes the colour of the words that stand for those to come.
func (p *pager) placeholder(class string, words *design.Element) {
	name := class + "::placeholder"
	if p.rules[name] != nil {
		return
	}
	b := Block{Selector: "." + name}
	p.s.w.of = words
	p.s.w.put(&b, "color", words.Fills[0].Value.Color.CSS(), "color:text")
	p.s.w.put(&b, "opacity", "1", "")
	p.rules[name] = &rule{block: b}
	p.order = append(p.order, name)
}

// item is a tag as an item of a list.
func item(t *Tag) *Tag {
	if t.Name == "div" {
		t.Name = "li"
		return t
	}
	return &Tag{Name: "li", Kids: []*Tag{t}}
}

// free is the tag of what lies across others.
func (p *pager) free(k, holder *Node, within string) *Tag {
	t := p.tag(k, holder, within)
	t.flexed = true // what stands free is a block
	why := "it lies across what stands beside it"
	if k.Cell.Under {
		why = "it lies under what stands beside it"
	}
	p.page.Free = append(p.page.Free, Free{t.selector(), why})
	return t
}

// name is what a node's class is called.
func (p *pager) name(n, holder *Node, within string) string {
	if e := n.Element(); e != nil && e.Marks.Component != "" {
		name := e.Marks.Component
		for _, v := range strings.Fields(e.Marks.Variant) {
			_, value, ok := strings.Cut(v, "=")
			if !ok {
				value = v
			}
			name += "-" + value
		}
		if e.Marks.State != "default" {
			name += " " + e.Marks.State
		}
		return slug(name)
	}
	if n.Name != "" {
		return slug(strings.TrimRight(n.Name, "0123456789 -_."))
	}
	if within == "" && p.page.Tree.Title != "" {
		within = slug(p.page.Tree.Title)
	}
	what := "part"
	switch {
	case n.Role == role.Heading:
		what = "title"
	case n.Cell.Words():
		what = "text"
	case n.Picture != nil:
		what = "picture"
	case n.Role != "" && n.Role != role.Group && n.Role != role.Picture:
		what = design.Slug(string(n.Role))
	case n.Cell.Kind == layout.Row:
		what = "row"
	case n.Cell.Kind == layout.Grid:
		what = "grid"
	case n.Cell.Kind == layout.Column:
		what = "column"
	case n.Cell.Face != nil || n.Cell.Leaf():
		what = "box"
	}
	if p.s.part {
		return what
	}
	for _, old := range []string{"text", "title", "row", "column", "grid", "box", "part", "picture", what} {
		within = strings.TrimSuffix(within, "-"+old)
	}
	return within + "-" + what
}

// class gives a node a class for what it looks like: one that is there already, where the name and the rule are the
// same.
func (p *pager) class(n *Node, base, tag string, b Block) []string {
	if tag == "body" {
		b.Selector = "body"
		p.rules["body"] = &rule{block: b}
		p.order = append(p.order, "body")
		return nil
	}
	team := p.o.Classes.take(&b)
	if b.empty() {
		return team
	}
	if p.o.Notes && n != nil {
		b.Note = n.note()
	}
	text := declText(b.Declarations)
	name := base
	for i := 2; ; i++ {
		r := p.rules[name]
		if r == nil {
			b.Selector = "." + name
			p.rules[name] = &rule{block: b, text: text}
			p.order = append(p.order, name)
			break
		}
		if r.text == text {
			break
		}
		name = base + "-" + strconv.Itoa(i)
	}
	return append([]string{name}, team...)
}

// spans gives a tag its words. Runs that are set differently from the text get a class.
func (p *pager) spans(t *Tag, n *Node, base string) {
	if p.o.Words != nil && n.Cell.Lines == nil {
		if code, ok := p.o.Words(n.Cell.Element); ok {
			t.Code = code
			return
		}
	}
	for _, s := range n.Words {
		class := ""
		if s.Run != nil {
			var b Block
			p.s.w.of = n.Cell.Element
			p.s.w.run(&b, n.Cell.Element, *s.Run)
			if len(b.Declarations) > 0 {
				class = strings.Join(p.class(n, strings.TrimPrefix(base+"-run", "-"), "span", b), " ")
			}
		}
		if k := len(t.Words) - 1; k >= 0 && t.runs[k] == class && !t.Words[k].Break {
			t.Words[k].Words += s.Words
			t.Words[k].Break = s.Break
			continue
		}
		t.Words, t.runs = append(t.Words, s), append(t.runs, class)
	}
}

// sheet puts together the rules of a page: what all elements need, then those of classes.
func (p *pager) sheet(t *Tree) {
	var out []Block
	out = append(out, Block{Selector: "*,\n::before,\n::after",
		Declarations: []design.Declaration{{Prop: "box-sizing", Value: "border-box"}}})
	if r := p.rules["body"]; r != nil {
		p.body(&r.block, t)
		out = append(out, r.block)
	}
	out = append(out, p.reset()...)
	for _, name := range p.order {
		if r := p.rules[name]; name != "body" {
			out = append(out, r.block)
		}
	}
	p.page.Rules = joinRules(out)
	p.narrow(t)
}

// body writes the rule of the page: how most words are set, the width it was drawn for, its background.
func (p *pager) body(b *Block, t *Tree) {
	box := t.Root.Cell.Box
	base := append(p.s.typical(t), design.Declaration{Prop: "max-width", Value: p.s.w.Unit.Lengths(css.Px(box.W))},
		design.Declaration{Prop: "min-height", Value: "100vh"}, design.Declaration{Prop: "margin", Value: "0 auto"})
	own := slices.DeleteFunc(b.Declarations, func(d design.Declaration) bool {
		return d.Prop == "height" || d.Prop == "width" || d.Prop == "min-height" || d.Prop == "max-width"
	})
	b.Declarations = append(base, own...)
}

// Number gives every element of the page that shows something of the drawing a number, and lists what they show.
func (p *Page) Number() (nodes []*Node) {
	p.Body.walk(func(t *Tag) {
		if t.node != nil && t.Raw == "" {
			t.Attrs = append(t.Attrs, Attr{"data-n", strconv.Itoa(len(nodes))})
			nodes = append(nodes, t.node)
		}
	})
	return nodes
}

// joinRules merges rules with the same declarations.
func joinRules(list []Block) (out []Block) {
	at := map[string]int{}
	for _, b := range list {
		text := declText(b.Declarations)
		if i, ok := at[text]; ok && len(b.Comments) == 0 && len(out[i].Comments) == 0 {
			out[i].Selector += ",\n" + b.Selector
			if b.Note != "" {
				out[i].Note += "; " + b.Note
			}
			continue
		}
		at[text] = len(out)
		out = append(out, b)
	}
	return out
}
