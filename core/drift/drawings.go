package drift

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/css/computed"
	"archetyp/core/design"
	"archetyp/core/markup"
	"archetyp/core/match"
)

// DrawingPair is a screen of a drawing and the page that was built from it, looked at as wide as the screen is drawn.
type DrawingPair struct {
	View   View
	Screen *design.Screen
	Page   *design.Document
	Why    match.Reason
	Hand   map[*design.Element]*design.Element // elements that the configuration pairs
}

// drawn holds a page against a drawing.
type drawn struct {
	in     *In
	view   View
	screen string
	page   *design.Document
	pairs  []match.Across
	of     map[*design.Element]*match.Across // by element of the drawing
	texts  map[*design.Element]bool          // elements of the page that are texts of the drawing
	boxes  map[*markup.Node]bool             // elements of the page that are boxes of the drawing
	onPage map[*markup.Node]*design.Element
	out    []seen
	uses   map[string]*use // of custom properties

	part    bool // an instance of a component is compared, not a screen
	lacking []*design.Element
	tried   []tried
}

// use counts how values that come from a custom property agree with the drawing, and the declarations that use it where
// they do not.
type use struct {
	right int
	wrong map[string]bool
}

func compareDrawing(in *In, p *DrawingPair) (*drawn, []seen, Pair) {
	d := &drawn{in: in, view: p.View, screen: p.Screen.Name, page: p.Page}
	d.match(p.Screen.Root, p.Page.Screens[0].Root, match.AcrossOptions{Hand: p.Hand, Whole: true})
	d.missing(p.Screen.Root)
	d.compare()
	d.tellMissing()
	d.extra(p.Page.Screens[0].Root)
	elements := 0
	p.Screen.Root.Walk(func(*design.Element) { elements++ })
	pair := Pair{Screen: p.Screen.Name, Design: p.Screen.Document.Name, Site: p.Page.Name, Views: []View{p.View}, Why: p.Why, Elements: elements, Paired: len(d.pairs)}
	if in.Reasons {
		pair.Matched = d.matched()
	}
	return d, d.out, pair
}

func (d *drawn) matched() (out []Matched) {
	for i := range d.pairs {
		x := &d.pairs[i]
		n := d.node(x)
		out = append(out, Matched{drawnRef(x.Drawn), d.ref(n), x.Drawn.Node, n, x.Why})
	}
	return out
}

func (d *drawn) match(root, page *design.Element, o match.AcrossOptions) {
	d.of, d.texts, d.boxes = map[*design.Element]*match.Across{}, map[*design.Element]bool{}, map[*markup.Node]bool{}
	d.pairs = match.AcrossTrees(root, page, o)
	for i := range d.pairs {
		x := &d.pairs[i]
		d.of[x.Drawn] = x
		if x.Part != "" {
			continue
		}
		if x.Drawn.Words != nil {
			d.texts[x.Page] = true
		} else if x.Drawn.Kind == design.Box || x.Drawn.Background() != nil {
			d.boxes[d.node(x)] = true
		}
	}
	if d.uses == nil {
		d.uses = map[string]*use{}
	}
}

// node is what shows an element on the page.
func (d *drawn) node(x *match.Across) *markup.Node {
	if x.Part != "" {
		for _, n := range d.page.Styles.Parts(x.Page.Node) {
			if n.Local == "::"+x.Part {
				return n
			}
		}
	}
	n := x.Page.Node
	if n.Kind == markup.Text {
		n = n.Parent
	}
	if n.Local == "option" { // what is chosen is set as the control is
		for up := n.Parent; up != nil; up = up.Parent {
			if up.Local == "select" {
				return up
			}
		}
	}
	return n
}

// compare holds what the drawing says against the computed values of the page.
func (d *drawn) compare() {
	list := make([]asked, 0, len(d.pairs))
	for i := range d.pairs {
		x := &d.pairs[i]
		a := asked{element: x.Drawn, text: x.Drawn.Words != nil, ground: x.Why == match.ByGround}
		a.box = !a.text && !a.ground && (x.Drawn.Kind == design.Box || x.Drawn.Kind == design.Group && x.Drawn.Background() != nil)
		a.bare = a.text && x.Part == "" && !d.boxes[d.node(x)] && x.Page.Node.Kind == markup.Element
		list = append(list, a)
	}
	all := claims(list)
	type pairing struct {
		claims *claim
		style  any
	}
	fine := map[pairing]bool{} // claims that an element of a style was found to fulfil
	for i := range d.pairs {
		x := &d.pairs[i]
		key := pairing{style: d.page.Styles.Same(d.node(x))}
		if len(all[i]) > 0 {
			key.claims = &all[i][0]
		}
		if !fine[key] {
			before := len(d.out)
			for _, c := range all[i] {
				if !list[i].text || !mixed(x.Drawn, c.property) {
					d.claim(x, c)
				}
			}
			fine[key] = key.style != nil && key.claims != nil && len(d.out) == before && (!list[i].text || len(x.Drawn.Words.Runs) < 2)
		}
		if list[i].text {
			d.words(x)
			d.runs(x)
		}
		if list[i].box {
			d.sizes(x)
			d.borders(x)
			d.insets(x)
		}
	}
	d.gaps()
	d.pictures()
	d.seenSizes()
	d.shared()
}

// claim holds one claim against the page.
func (d *drawn) claim(x *match.Across, c claim) {
	n := d.node(x)
	ask := asking{d.page.Styles, n}
	is := ask.get(c.property)
	if c.property == "font-family" {
		if first(is) == first(c.value) {
			d.counted(n, c.property, true)
			return
		}
	}
	far, unit, same := d.in.Tolerances.apart(c.property, c.value, is)
	if !same && strings.HasSuffix(c.property, "-radius") {
		same = d.round(x, c.value, is)
	}
	if !same && c.property == "background-image" && ask.get("background-color") != "" { // one colour as a gradient of one colour
		same = strings.Contains(is, "url(") && c.value == "none" && false
	}
	if same || !ask.takes(c.property) && !d.claims(c) {
		if same {
			d.counted(n, c.property, true)
		}
		return
	}
	if strings.HasPrefix(c.property, "border-") && strings.HasSuffix(c.property, "-style") && c.silent && ask.get(strings.TrimSuffix(c.property, "style")+"width") == "0px" {
		return
	}
	if c.property == "opacity" && x.Drawn.Words != nil && c.silent && d.above(x, is) {
		return
	}
	d.counted(n, c.property, false)
	d.differs(x, n, c, is, far, unit)
}

// claims reports whether a claim is of something that shows, whatever the site's other values are.
func (d *drawn) claims(c claim) bool {
	return !c.silent && !strings.HasSuffix(c.property, "-color") && !strings.HasSuffix(c.property, "-style")
}

// above reports whether a container of a text has the opacity that the page gives the text itself.
func (d *drawn) above(x *match.Across, is string) bool {
	for up := x.Drawn.Parent; up != nil; up = up.Parent {
		if up.Opacity.Set && css.Num(up.Opacity.Value, 3) == is {
			return true
		}
	}
	return false
}

// round reports whether two radii make the same ends: as round as they can be, on a box as high as it is drawn.
func (d *drawn) round(x *match.Across, was, is string) bool {
	face := x.Drawn.Face()
	b := face.BorderBox()
	half := math.Min(b.W, b.H) / 2
	full := func(v string) bool {
		if p, ok := strings.CutSuffix(v, "%"); ok {
			n, _ := strconv.ParseFloat(p, 64)
			return n >= 50 && math.Abs(b.W-b.H) < 0.5
		}
		n, ok := pixels(v)
		return ok && n >= half-0.5
	}
	return (face.Pill() || face.Oval()) && full(was) && full(is)
}

// pixels is a length in px.
func pixels(v string) (float64, bool) {
	n, err := strconv.ParseFloat(strings.TrimSuffix(v, "px"), 64)
	return n, err == nil && (strings.HasSuffix(v, "px") || v == "0")
}

// first is the first family of a list.
func first(list string) string {
	if l := css.SplitTop(list, ','); len(l) > 0 {
		return strings.ToLower(css.Unquote(strings.TrimSpace(l[0])))
	}
	return list
}

// variables are the custom properties that the value of a property comes from, outermost first: those that are all of
// it, and those that a shorthand takes it from.
func (d *drawn) variables(n *markup.Node, property string) (out []design.StyleDeclaration) {
	w := winner(d.page.Styles.Why(n, property))
	if w == nil || len(w.Vars) == 0 {
		return nil
	}
	is := Canonical(asking{d.page.Styles, n}.get(property))
	var visit func(list, above []design.StyleDeclaration) bool
	visit = func(list, above []design.StyleDeclaration) bool {
		for i := range list {
			chain := append(slices.Clone(above), list[i])
			if len(chain) > 32 {
				return false
			}
			if visit(list[i].Vars, chain) || len(list[i].Vars) == 0 && (onlyVar(w.Value) != "" || Canonical(list[i].Value) == is) {
				if out == nil {
					out = chain
				}
				return true
			}
		}
		return false
	}
	visit(w.Vars, nil)
	return out
}

func placeKey(p design.StylePlace) string { return fmt.Sprintf("%s:%d:%d", p.File, p.Line, p.Column) }

// counted notes whether a value of the page agrees with the drawing. What does is only looked at where a custom property
// may be at fault.
func (d *drawn) counted(n *markup.Node, property string, right bool) {
	d.tried = append(d.tried, tried{n, property, right})
}

// tried is a value of the page that was compared.
type tried struct {
	node     *markup.Node
	property string
	right    bool
}

func (d *drawn) count(n *markup.Node, property string, right bool) {
	for _, v := range d.variables(n, property) {
		k := placeKey(v.Place)
		if d.uses[k] == nil {
			d.uses[k] = &use{wrong: map[string]bool{}}
		}
		if right {
			d.uses[k].right++
		} else if w := winner(d.page.Styles.Why(n, property)); w != nil {
			d.uses[k].wrong[placeKey(w.Place)+w.Prop] = true
		}
	}
}

// differs notes that a value of the page is another than the drawing's.
func (d *drawn) differs(x *match.Across, n *markup.Node, c claim, is string, far float64, unit string) {
	s := seen{kind: kindOf(c.property), far: far, unit: unit, claimed: c.written, spot: d.spot(x, c.property, c.value, is)}
	s.property, _, _ = strings.Cut(c.written, ":")
	if c.property == "background-image" && strings.Contains(is+c.value, "url(") {
		s.kind = Picture
	}
	s.cause = d.cause(n, c.property, c.value)
	if s.cause.Variable == "" {
		s.vars = d.variables(n, c.property)
	}
	d.out = append(d.out, s)
}

// shared finds custom properties that are at fault: no value that comes from one agrees with the drawing, and several
// declarations use it, or it has a value that no token has.
func (d *drawn) shared() {
	if !slices.ContainsFunc(d.out, func(s seen) bool { return len(s.vars) > 0 }) {
		return
	}
	for _, t := range d.tried {
		d.count(t.node, t.property, t.right)
	}
	for i := range d.out {
		s := &d.out[i]
		for _, v := range slices.Backward(s.vars) {
			u := d.uses[placeKey(v.Place)]
			known := d.in.Tokens != nil && d.in.Tokens.Of(s.spot.Prop, v.Value) != "" // then another variable was meant
			if u != nil && u.right == 0 && (len(u.wrong) > 1 || !known) && onlyVar(v.Value) == "" {
				s.cause = declares(&v, v.Prop)
				break
			}
		}
	}
}

// cause is the declaration behind a value of the page: the custom property where that is at fault.
func (d *drawn) cause(n *markup.Node, property, was string) Cause {
	w := winner(d.page.Styles.Why(n, property))
	if w == nil {
		return d.nothing(n, property)
	}
	if d.in.Tokens == nil {
		return declares(w, "")
	}
	for _, v := range slices.Backward(d.variables(n, property)) {
		if onlyVar(v.Value) != "" {
			continue
		}
		named := d.in.Tokens.Value(d.in.Tokens.Named(v.Prop))
		switch {
		case named != "" && !d.in.sameLiteral(named, v.Value): // it is not what the token of its name is
			return declares(&v, v.Prop)
		case named == "" && d.in.Tokens.Of(property, v.Value) == "" && d.in.Tokens.Of(property, was) != "": // it is no token, and should be one
			return declares(&v, v.Prop)
		}
	}
	return declares(w, "")
}

// nothing is the cause of a value that no rule of the page gives: the rule of the element that would; of what is
// inherited, the page as a whole.
func (d *drawn) nothing(n *markup.Node, property string) Cause {
	on := n
	if computed.Inherited(property) {
		for on.Local != "body" && parent(on) != nil && parent(on).Kind == markup.Element {
			on = parent(on)
		}
	}
	c := Cause{Lacking: true, Property: property, Place: d.place(element(on))}
	for _, r := range d.page.Styles.Rules(on) {
		if r.Place.Line > 0 && r.Selector != "style attribute" && !strings.HasPrefix(r.Selector, "*") {
			c.Selector, c.Within, c.Place = r.Selector, r.Within, r.Place
			break
		}
	}
	if on != n && c.Selector == "" {
		c.Selector = on.Local
	}
	return c
}

func (d *drawn) place(n *markup.Node) design.StylePlace {
	pos := d.page.Markup.Position(n.Offset)
	return design.StylePlace{File: d.page.Name, Line: pos.Line, Column: pos.Column}
}

func (d *drawn) spot(x *match.Across, property, was, is string) Spot {
	s := Spot{Screen: d.screen, View: d.view, Prop: property, Was: was, Is: is}
	if x != nil {
		s.Why = x.Why
		s.Design = drawnRef(x.Drawn)
		n := d.node(x)
		s.Site = d.ref(n)
	}
	return s
}

func drawnRef(e *design.Element) Ref {
	r := Ref{Selector: e.Selector(), Element: e.Title(), Component: e.Component(), Line: e.Position.Line, Column: e.Position.Column}
	if e.Screen != nil && e.Screen.Document != nil {
		r.Source = e.Screen.Document.Name
	}
	return r
}

func (d *drawn) ref(n *markup.Node) Ref {
	if d.onPage == nil {
		d.onPage = map[*markup.Node]*design.Element{}
		for _, e := range d.page.All() {
			if e.Node != nil && e.Node.Kind == markup.Element {
				d.onPage[e.Node] = e
			}
		}
	}
	return refOf(d.page, n, d.onPage[n])
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
	s.message = fmt.Sprintf("%s reads %s, in the design %s", called(d.node(x)), said(from(is, was)), said(from(was, is)))
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

// missing finds what the drawing has and the page lacks: the outermost elements.
func (d *drawn) missing(e *design.Element) {
	if e.Hidden || e.Casts || e.Grounds() != nil && d.of[e.Grounds()] != nil {
		return
	}
	x := d.of[e]
	if x != nil && (e.Words != nil || match.Drawing(e) || e.Kind == design.Image) {
		return
	}
	if x == nil {
		if d.frames(e) || d.edge(e) != nil {
			return
		}
		holds := false
		e.Walk(func(k *design.Element) { holds = holds || d.of[k] != nil })
		if !holds {
			d.lacks(e)
			return
		}
	}
	for _, k := range e.Children {
		d.missing(k)
	}
}

// frames reports whether an element is a border or focus ring of its group, which code has as properties.
func (d *drawn) frames(e *design.Element) bool {
	g := e.Parent
	if g == nil || g.Background() == nil {
		return false
	}
	if f, _ := g.Border(); f == e {
		return true
	}
	return g.FocusRing() == e
}

func (d *drawn) lacks(e *design.Element) {
	if b := e.Painted.Value; b.W > 0 || b.H > 0 {
		d.lacking = append(d.lacking, e)
	}
}

// part is what to call a part of the drawing that the page lacks.
func part(e *design.Element) string {
	switch {
	case e.Words != nil:
		return said(e.Words.Words)
	case e.Name != "":
		return e.Name
	}
	return "a " + string(e.Kind)
}

// plural is the name of a kind of element for several.
func plural(kind string) string {
	if kind == "box" {
		return "boxes"
	}
	return kind + "s"
}

// tellMissing notes what is missing: what one container lacks is one difference, and so is what several of one kind lack.
func (d *drawn) tellMissing() {
	byParent := map[*design.Element][]*design.Element{}
	var order []*design.Element
	for _, e := range d.lacking {
		if byParent[e.Parent] == nil {
			order = append(order, e.Parent)
		}
		byParent[e.Parent] = append(byParent[e.Parent], e)
	}
	for _, in := range order {
		list := byParent[in]
		var parts []string
		count := map[string]int{}
		for _, e := range list {
			p := part(e)
			if count[p]++; count[p] == 1 {
				parts = append(parts, p)
			}
		}
		for i, p := range parts {
			if kind, ok := strings.CutPrefix(p, "a "); ok && count[p] > 1 {
				parts[i] = fmt.Sprintf("%d %s", count[p], plural(kind))
			}
		}
		const most = 4
		what := strings.Join(parts[:min(len(parts), most)], ", ")
		if n := len(parts) - most; n > 0 {
			what += fmt.Sprintf(" and %d others", n)
		}
		if of := containerName(in); of != "" {
			what += " in " + of
		}
		at, selector := d.place(d.page.Screens[0].Root.Node), Ref{}
		for up := in; up != nil; up = up.Parent {
			if p := d.of[up]; p != nil {
				selector, at = d.ref(d.node(p)), d.place(d.node(p))
				break
			}
		}
		for _, e := range list {
			s := seen{kind: Missing, spot: d.spot(nil, "", "", ""), message: "the site lacks " + what}
			s.spot.Design, s.spot.Site = drawnRef(e), selector
			s.cause.Lacking, s.cause.Place = true, at
			d.out = append(d.out, s)
		}
	}
}

// containerName is what to call what an element stands in: its component, else its name; "" for a screen.
func containerName(e *design.Element) string {
	for ; e != nil && e.Parent != nil; e = e.Parent {
		if e.Marks.Component != "" {
			return e.Marks.Component
		}
		if e.Name != "" {
			return e.Name
		}
	}
	return ""
}

// extra finds what the page has and the drawing lacks: the outermost elements that show something.
func (d *drawn) extra(e *design.Element) {
	if e.Hidden || e.Node == nil || silent(element(e.Node)) || e.Node.Local == "title" || e.Node.Local == "meta" {
		return
	}
	on := map[*design.Element]bool{}
	for i := range d.pairs {
		on[d.pairs[i].Page] = true
	}
	var visit func(e *design.Element)
	visit = func(e *design.Element) {
		if e.Hidden || e.Node == nil || e.Node.Local == "title" || e.Node.Local == "meta" || e.Node.Kind == markup.Element && silent(element(e.Node)) {
			return
		}
		if !on[e] && e != d.page.Screens[0].Root {
			holds, shows := false, false
			e.Walk(func(k *design.Element) {
				holds = holds || on[k]
				if k.Hidden || k.Node == nil {
					return
				}
				shows = shows || k.Words != nil && k.Words.Words != "" || k.Node.Kind == markup.Element && !strings.HasPrefix(k.Node.Local, "::") && (asking{d.page.Styles, k.Node}).shown(false) && k.Kind != design.Group
			})
			paints := e.Node.Kind == markup.Element && match.PaintsItself(e)
			if !holds && !shows && !paints || d.inText(e, on) {
				return
			}
			if !holds || paints {
				d.adds(e, holds)
			}
			if !holds {
				return
			}
		}
		for _, k := range e.Children {
			visit(k)
		}
	}
	visit(e)
}

// inText reports whether an element stands in a line of words that has a partner.
func (d *drawn) inText(e *design.Element, on map[*design.Element]bool) bool {
	for up := e.Parent; up != nil; up = up.Parent {
		if on[up] && up.Words != nil {
			return true
		}
	}
	return false
}

func (d *drawn) adds(e *design.Element, only bool) {
	n := e.Node
	if n.Kind == markup.Text {
		n = n.Parent
	}
	s := seen{kind: Extra, spot: d.spot(nil, "", "", "")}
	s.spot.Site = d.ref(n)
	s.cause.Place = d.place(n)
	what := called(n)
	if e.Words != nil {
		what = "the words " + said(e.Words.Words)
	} else if w := allWords(n); w != "" && !only {
		what += " " + said(w)
	}
	if only {
		what = "what " + what + " paints"
		if r := d.page.Styles.Rules(n); len(r) > 0 && r[0].Place.Line > 0 {
			s.cause.Selector, s.cause.Place = r[0].Selector, r[0].Place
		}
	}
	s.message = "the design lacks " + what
	d.out = append(d.out, s)
}
