package drift

import (
	"fmt"
	"slices"
	"strings"

	"archetyp/core/css/computed"
	"archetyp/core/design"
	"archetyp/core/digest"
	"archetyp/core/markup"
	"archetyp/core/match"
)

// seen is a difference at one pair of elements.
type seen struct {
	kind     Kind
	spot     Spot
	cause    Cause
	old      *design.StyleDeclaration // what the design's page declares; nil for none
	token    string                   // of the design's value
	far      float64
	unit     string
	message  string                    // of what is no value of a property
	claimed  string                    // what the line of CSS that mends it declares; "" for the design's own declaration
	property string                    // as CSS writes it together, for values of a drawing
	idle     bool                      // it shows nowhere
	vars     []design.StyleDeclaration // custom properties that a value of the page comes from, outermost first
}

// comparing holds one page against an earlier state of it, in one view.
type comparing struct {
	in     *In
	pair   *PagePair
	view   ViewPair
	plain  bool                          // the first view, where words and markup are compared, too
	old    map[*markup.Node]*markup.Node // partner of a node of the site
	new    map[*markup.Node]*markup.Node // partner of a node of the design
	why    map[*markup.Node]match.Reason // by node of the site
	moving map[*markup.Node]bool         // containers of the site in which elements came, went or moved
	hidden [2]map[*markup.Node]bool
	causes map[causeKey]causeOf
	out    []seen
	names  [2]map[*markup.Node]*design.Element
}

// comparePages holds a page against its earlier state in all views.
func comparePages(in *In, p *PagePair) (out []seen, pair Pair) {
	for i := range p.Views {
		c := &comparing{in: in, pair: p, view: p.Views[i], plain: i == 0, old: map[*markup.Node]*markup.Node{}, new: map[*markup.Node]*markup.Node{},
			why: map[*markup.Node]match.Reason{}, causes: map[causeKey]causeOf{}}
		d, s := c.view.Design, c.view.Site
		pairs := match.Trees(d.Markup.Root, s.Markup.Root)
		for _, x := range pairs {
			c.old[x.New], c.new[x.Old], c.why[x.New] = x.Old, x.New, x.Why
		}
		c.run(pairs)
		out = append(out, c.out...)
		if i == 0 {
			pair = Pair{Screen: p.Screen, Design: d.Name, Site: s.Name, Elements: count(d.Markup.Root), Paired: len(pairs)}
		}
		pair.Views = append(pair.Views, c.view.View)
		if i == 0 && in.Reasons {
			for _, x := range pairs {
				pair.Matched = append(pair.Matched, Matched{c.ref(0, x.Old), c.ref(1, x.New), x.Old, x.New, x.Why})
			}
		}
	}
	return out, pair
}

func count(root *markup.Node) (n int) {
	root.Walk(func(k *markup.Node) bool {
		if k.Kind == markup.Element {
			n++
		}
		return true
	})
	return n
}

func (c *comparing) design(n *markup.Node) asking { return asking{c.view.Design.Styles, n} }
func (c *comparing) site(n *markup.Node) asking   { return asking{c.view.Site.Styles, n} }

func (c *comparing) run(pairs []match.NodePair) {
	c.hidden[0] = hiddenIn(c.view.Design)
	c.hidden[1] = hiddenIn(c.view.Site)
	c.moving = map[*markup.Node]bool{}
	c.order(pairs)
	c.lists()
	if !c.plain { // said in the first view; here only for what follows from it
		c.out = nil
	}
	for _, p := range pairs {
		if c.hidden[0][p.Old] && c.hidden[1][p.New] || silent(p.New) {
			continue
		}
		c.styles(p.Old, p.New)
		parts := map[string]*markup.Node{}
		for _, k := range c.view.Design.Styles.Parts(p.Old) {
			parts[k.Local] = k
		}
		for _, k := range c.view.Site.Styles.Parts(p.New) {
			if was := parts[k.Local]; was != nil {
				delete(parts, k.Local)
				c.styles(was, k)
			} else {
				c.part(nil, k, p)
			}
		}
		for _, k := range parts {
			c.part(k, nil, p)
		}
		if c.plain && !c.hidden[1][p.New] {
			c.words(p.Old, p.New)
			c.attributes(p.Old, p.New)
		}
	}
	if c.plain {
		c.pictures()
		c.idleVariables(pairs[0].Old, pairs[0].New)
		c.idleRules()
	}
}

// hiddenIn are the elements of which nothing is shown.
func hiddenIn(d *design.Document) map[*markup.Node]bool {
	out := map[*markup.Node]bool{}
	var visit func(n *markup.Node, hidden bool)
	visit = func(n *markup.Node, hidden bool) {
		if n.Kind == markup.Element {
			hidden = hidden || n.HTML && n.Local != "title" && (silent(n) && n.Local != "head" || asking{d.Styles, n}.hides() && n.Local != "head")
			if hidden {
				out[n] = true
			}
		}
		for _, k := range match.Inside(n) {
			visit(k, hidden)
		}
	}
	visit(d.Markup.Root, false)
	return out
}

// inherited are the properties that pass from parent to child by themselves.
var inherited = func() (out []string) {
	for _, p := range computed.Properties() {
		if computed.Inherited(p) {
			out = append(out, p)
		}
	}
	return out
}()

// styles compares the values of what either side declares for an element; of one whose surroundings are others, also what
// it inherits.
func (c *comparing) styles(o, n *markup.Node) {
	a, b := c.design(o), c.site(n)
	if c.plain || c.view.State == "" {
		if h := c.hidden[0][o]; h != c.hidden[1][n] && h != c.hidden[0][parent(o)] { // shown on one side only: display says so
			c.value(o, n, "display")
			return
		}
	}
	props := append(a.styles.Set(o), b.styles.Set(n)...)
	if c.old[parent(n)] != parent(o) && !strings.HasPrefix(n.Local, "::") {
		props = append(props, inherited...)
	}
	slices.Sort(props)
	for i, p := range props {
		if i == 0 || props[i-1] != p {
			c.value(o, n, p)
		}
	}
}

// parent is the element around a node, also out of a shadow root.
func parent(n *markup.Node) *markup.Node {
	p := n.Parent
	if p != nil && p.Kind == markup.Fragment {
		p = p.Host
	}
	return p
}

// value compares one property.
func (c *comparing) value(o, n *markup.Node, property string) {
	a, b := c.design(o), c.site(n)
	was, is := a.get(property), b.get(property)
	if was == is {
		return
	}
	was, is = relative(was, c.pair.Bases[0]), relative(is, c.pair.Bases[1])
	far, unit, same := c.in.Tolerances.apart(property, was, is)
	if same || !a.takes(property) && !b.takes(property) {
		return
	}
	cause := c.cause(o, n, property)
	if !n.HTML && cause.Selector == "" && slices.Contains(geometry, property) { // compared as an attribute
		return
	}
	if cause.same || c.moving[parent(n)] && (positional(cause.Selector) || cause.old != nil && positional(cause.old.Selector)) { // declared alike, with a value that follows from others that are compared themselves
		return
	}
	kind := kindOf(property)
	if kind == Colour && (strings.Contains(was, "url(") || strings.Contains(is, "url(")) {
		kind = Picture
	}
	c.out = append(c.out, seen{kind: kind, cause: cause.Cause, old: cause.old, far: far, unit: unit,
		spot: c.spot(o, n, property, was, is)})
}

// positional reports whether a selector asks for the place among siblings.
func positional(selector string) bool {
	if strings.ContainsAny(selector, "+~") {
		return true
	}
	for _, p := range []string{":first-", ":last-", ":nth-", ":only-", ":empty"} {
		if strings.Contains(selector, p) {
			return true
		}
	}
	return false
}

// relative takes what addresses begin with out of a value.
func relative(v, base string) string {
	if base == "" || !strings.Contains(v, base) {
		return v
	}
	return strings.ReplaceAll(v, base, "")
}

func (c *comparing) spot(o, n *markup.Node, property, was, is string) Spot {
	s := Spot{Screen: c.pair.Screen, View: c.view.View, Prop: property, Was: was, Is: is}
	if o != nil {
		s.Design = c.ref(0, o)
	}
	if n != nil {
		s.Site, s.Why = c.ref(1, n), c.why[n]
	}
	return s
}

// ref is an element of a side (0 the design, 1 the site).
func (c *comparing) ref(side int, n *markup.Node) Ref {
	d := c.view.Design
	if side == 1 {
		d = c.view.Site
	}
	if c.names[side] == nil {
		c.names[side] = map[*markup.Node]*design.Element{}
		for _, e := range d.All() {
			if e.Node != nil && e.Node.Kind == markup.Element {
				c.names[side][e.Node] = e
			}
		}
	}
	return refOf(d, n, c.names[side][n])
}

// refOf is a node of a document, and the element it is where it is one.
func refOf(d *design.Document, n *markup.Node, e *design.Element) Ref {
	part := ""
	if strings.HasPrefix(n.Local, "::") {
		part, n = n.Local, n.Parent
	}
	if e == nil {
		e = &design.Element{Node: n, Screen: &design.Screen{Document: &design.Document{Markup: d.Markup}}}
	}
	pos := d.Markup.Position(n.Offset)
	name := e.Name
	if name == "" {
		name = short(match.OwnWords(n))
	}
	if name == "" {
		name = n.Local
	}
	return Ref{Source: d.Name, Selector: e.Selector() + part, Element: name, Line: pos.Line, Column: pos.Column}
}

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
	s := seen{kind: Words, spot: c.spot(o, n, "", was, is), message: fmt.Sprintf("%s reads %s, in the design %s", called(n), said(from(is, was)), said(from(was, is)))}
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

// said is words in quotation marks, or that there are none.
func said(s string) string {
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

func (c *comparing) markupPlace(n *markup.Node) design.StylePlace {
	pos := c.view.Site.Markup.Position(n.Offset)
	return design.StylePlace{File: c.view.Site.Name, Line: pos.Line, Column: pos.Column}
}

// spoken are attributes that are read, pictured those that say which picture is shown, and changing those that change what
// a control or table shows.
var (
	spoken   = []string{"alt", "title", "placeholder", "aria-label", "label", "value", "summary"}
	pictured = []string{"src", "srcset", "poster", "data"}
	changing = []string{"disabled", "checked", "selected", "hidden", "open", "dir", "colspan", "rowspan", "type", "size", "start", "multiple", "controls"}
)

// attributes compares attributes that show.
func (c *comparing) attributes(o, n *markup.Node) {
	one := func(kind Kind, name, what string) {
		was, hadIt := o.Attr(name)
		is, hasIt := n.Attr(name)
		if kind == Picture {
			was, is = relative(was, c.pair.Bases[0]), relative(is, c.pair.Bases[1])
		}
		if was == is && hadIt == hasIt || hadIt != hasIt && was == is && kind == Words {
			return
		}
		s := seen{kind: kind, spot: c.spot(o, n, name, was, is), message: fmt.Sprintf("%s %s %s, in the design %s", what, called(n), attribute(is, hasIt), attribute(was, hadIt))}
		s.cause.Place, s.cause.Property, s.cause.Value = c.markupPlace(n), name, is
		c.out = append(c.out, s)
	}
	for _, name := range spoken {
		if name == "value" && n.Local != "input" && n.Local != "button" {
			continue
		}
		one(Words, name, "the "+name+" of")
	}
	if !n.HTML {
		for _, name := range shapeAttributes(o, n) {
			one(Picture, name, "the "+name+" of")
		}
		return
	}
	for _, name := range pictured {
		one(Picture, name, "the "+name+" of")
	}
	for _, name := range changing {
		one(Other, name, "the "+name+" of")
	}
}

// geometry are attributes of shapes that are names of properties, too.
var geometry = []string{"d", "x", "y", "width", "height", "cx", "cy", "r", "rx", "ry"}

// shapeAttributes are the attributes that make up a shape of an inline picture, but those that are properties of style.
func shapeAttributes(o, n *markup.Node) (out []string) {
	for _, list := range [][]markup.Attr{o.Attrs, n.Attrs} {
		for _, a := range list {
			switch {
			case a.Name == "class", a.Name == "id", a.Name == "style", a.Name == "role", strings.HasPrefix(a.Name, "aria-"), strings.HasPrefix(a.Name, "data-"),
				strings.HasPrefix(a.Name, "xmlns"), strings.HasPrefix(a.Name, "on"), computed.Known(a.Name) && !slices.Contains(geometry, a.Name), a.Name == "focusable", a.Name == "version":
			default:
				if !slices.Contains(out, a.Name) {
					out = append(out, a.Name)
				}
			}
		}
	}
	return out
}

func attribute(v string, there bool) string {
	if !there {
		return "is not there"
	}
	return "is " + fmt.Sprintf("%q", short(v))
}

// part reports a pseudo-element that only one side styles, where it shows something.
func (c *comparing) part(o, n *markup.Node, of match.NodePair) {
	if !c.plain {
		return
	}
	if n != nil {
		if k := c.site(n); n.Local == "::before" || n.Local == "::after" {
			if k.get("content") == "none" || k.get("content") == "normal" || k.hides() {
				return
			}
		}
		s := seen{kind: Extra, spot: c.spot(of.Old, n, "", "", ""), message: called(n) + " is styled, which the design does not do"}
		s.spot.Why = c.why[of.New]
		if rules := c.view.Site.Styles.Rules(n); len(rules) > 0 {
			s.cause.Selector, s.cause.Place = rules[0].Selector, rules[0].Place
		}
		c.out = append(c.out, s)
		return
	}
	if k := c.design(o); o.Local == "::before" || o.Local == "::after" {
		if k.get("content") == "none" || k.get("content") == "normal" || k.hides() {
			return
		}
	}
	s := seen{kind: Missing, spot: c.spot(o, of.New, "", "", ""), message: called(o) + " is not styled"}
	s.cause.Place, s.cause.Lacking = c.markupPlace(of.New), true
	c.out = append(c.out, s)
}

// order compares the order of what stands in the same container, and finds what went to another one.
func (c *comparing) order(pairs []match.NodePair) {
	byParent := map[*markup.Node][]*markup.Node{}
	var parents []*markup.Node
	for _, p := range pairs { // in document order of the site
		up := parent(p.New)
		if up == nil || silent(p.New) || c.hidden[1][p.New] || strings.EqualFold(up.Local, "head") {
			continue
		}
		was := c.nearest(0, parent(p.Old))
		is := c.nearest(1, up)
		if was != nil && is != nil && c.new[was] != is {
			if c.nearest(0, p.Old) == p.Old {
				c.moved(p.Old, p.New, fmt.Sprintf("%s stands in %s, in the design in %s", called(p.New), called(is), called(was)))
			}
			continue
		}
		if byParent[is] == nil {
			parents = append(parents, is)
		}
		byParent[is] = append(byParent[is], p.New)
	}
	rank := map[*markup.Node]int{} // in the tree: in the file, misplaced elements of tables stand elsewhere
	c.view.Design.Markup.Root.Walk(func(n *markup.Node) bool {
		rank[n] = len(rank)
		return true
	})
	for _, up := range parents {
		list := byParent[up]
		at := make([]int, len(list))
		for i, n := range list {
			at[i] = rank[c.old[n]]
		}
		message := ""
		for _, i := range outOfOrder(at) {
			n := list[i]
			if message == "" { // one for all in a container
				where := "first"
				if i > 0 {
					where = "after " + called(list[i-1])
				}
				message = fmt.Sprintf("%s stands %s, which is another order than in the design", called(n), where)
			}
			c.moved(c.old[n], n, message)
		}
	}
}

func (c *comparing) moved(o, n *markup.Node, message string) {
	c.moving[parent(n)] = true
	if up := c.new[parent(o)]; up != nil {
		c.moving[up] = true
	}
	s := seen{kind: Order, spot: c.spot(o, n, "", "", ""), message: message}
	s.cause.Place = c.markupPlace(n)
	c.out = append(c.out, s)
}

// nearest is the nearest element, itself included, that has a partner.
func (c *comparing) nearest(side int, n *markup.Node) *markup.Node {
	for ; n != nil; n = parent(n) {
		if side == 0 && c.new[n] != nil || side == 1 && c.old[n] != nil {
			return n
		}
	}
	return nil
}

// outOfOrder are the places in a list of numbers that must go for the rest to rise: as few as can be.
func outOfOrder(list []int) (out []int) {
	// The longest rising subsequence, by the smallest last number of each length.
	tails, before := []int{}, make([]int, len(list))
	for i, v := range list {
		at, _ := slices.BinarySearchFunc(tails, v, func(t, v int) int { return list[t] - v })
		before[i] = -1
		if at > 0 {
			before[i] = tails[at-1]
		}
		if at == len(tails) {
			tails = append(tails, i)
		} else {
			tails[at] = i
		}
	}
	keep := map[int]bool{}
	if len(tails) > 0 {
		for i := tails[len(tails)-1]; i >= 0; i = before[i] {
			keep[i] = true
		}
	}
	for i := range list {
		if !keep[i] {
			out = append(out, i)
		}
	}
	return out
}

// lists finds what only one side has: the outermost elements that show something.
func (c *comparing) lists() {
	var visit func(side int, n *markup.Node)
	visit = func(side int, n *markup.Node) {
		if n.Kind == markup.Element {
			if silent(n) && n.Local != "head" || c.hidden[side][n] {
				return
			}
			if side == 0 && c.new[n] == nil || side == 1 && c.old[n] == nil {
				if c.alone(side, n) {
					return
				}
			}
		}
		for _, k := range match.Inside(n) {
			visit(side, k)
		}
	}
	visit(0, c.view.Design.Markup.Root)
	visit(1, c.view.Site.Markup.Root)
}

// alone reports an element that has no partner, where it shows something; whole says that all in it is with it.
func (c *comparing) alone(side int, n *markup.Node) (whole bool) {
	holds, shows := false, false // partners; something to see
	a := c.design(n)
	if side == 1 {
		a = c.site(n)
	}
	n.Walk(func(k *markup.Node) bool {
		if k.Kind != markup.Element {
			return true
		}
		if c.hidden[side][k] {
			return false
		}
		holds = holds || c.new[k] != nil || c.old[k] != nil
		shows = shows || (asking{a.styles, k}).shown(false)
		return true
	})
	if holds { // a wrapper: it matters only where it shows something itself
		if !a.shown(true) {
			return false
		}
	} else if !shows {
		return true
	}
	if up := parent(n); side == 0 {
		c.moving[c.new[up]] = true
	} else {
		c.moving[up] = true
	}
	what := short(allWords(n))
	if what != "" {
		what = " “" + what + "”"
	}
	s := seen{kind: Extra}
	if side == 0 {
		s.kind, s.spot, s.message = Missing, c.spot(n, nil, "", "", ""), "the site lacks "+called(n)+what
		if at := c.nearest(0, parent(n)); at != nil {
			s.cause.Place, s.spot.Site = c.markupPlace(c.new[at]), c.ref(1, c.new[at])
		}
		s.cause.Lacking = true
	} else {
		s.spot, s.message = c.spot(nil, n, "", "", ""), "the design lacks "+called(n)+what
		s.cause.Place = c.markupPlace(n)
	}
	c.out = append(c.out, s)
	return !holds
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

// pictures compares the files of pictures and fonts that have the same address on both sides.
func (c *comparing) pictures() {
	sums := map[string]string{}
	for _, p := range c.view.Design.Styles.Pictures() {
		if len(p.Data) > 0 && p.Address != "" {
			sums[p.Kind+"\x00"+relative(p.Address, c.pair.Bases[0])] = digest.Of(string(p.Data))
		}
	}
	for _, p := range c.view.Site.Styles.Pictures() {
		address := relative(p.Address, c.pair.Bases[1])
		was, ok := sums[p.Kind+"\x00"+address]
		if !ok || len(p.Data) == 0 || was == digest.Of(string(p.Data)) {
			continue
		}
		s := seen{kind: Picture, message: fmt.Sprintf("%s is another %s than in the design", address, map[bool]string{true: "font", false: "picture"}[p.Kind == "font"])}
		s.spot = Spot{Screen: c.pair.Screen, View: c.view.View, Site: Ref{Source: p.Place.File, Element: p.By, Line: p.Place.Line, Column: p.Place.Column}, Prop: "file", Was: was, Is: digest.Of(string(p.Data))}
		if p.Node != nil {
			s.spot.Site = c.ref(1, p.Node)
		}
		s.cause.Place = p.Place
		c.out = append(c.out, s)
	}
}
