package drift

import (
	"math"
	"strconv"
	"strings"

	"archetyp/core/css"
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

func compareDrawing(in *In, p *DrawingPair) (*drawn, []seen, Pair) {
	d := &drawn{in: in, view: p.View, screen: p.Screen.Name, page: p.Page}
	d.match(p.Screen.Root, p.Page.Screens[0].Root, match.AcrossOptions{Hand: p.Hand, Whole: true})
	d.missing(p.Screen.Root)
	d.compare()
	d.reportMissing()
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
