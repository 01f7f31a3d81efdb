package harvest

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/token"
)

// roles are names by use, as aliases of colours. One is given only where several elements agree on what they are, what
// they lie on, or what lies on them: a wrong name is worse than none.
func (n *namer) roles(found []*Found, docs []*design.Document) []*token.Token {
	e := newEvidence(docs)
	byColor := map[string]*Found{}
	for _, f := range found {
		byColor[f.Text] = f
	}
	var out []*token.Token
	give := func(css, name, about string) {
		if f := byColor[css]; f != nil {
			out = append(out, &token.Token{Path: n.claim(name), Type: token.Color,
				Value:       token.Value{Alias: cmp.Or(f.Proposed, f.Token)},
				Description: about})
		}
	}
	most := e.reading()
	give(most, "color.text.default", "Most text")
	if most != "" {
		give(e.muted(most), "color.text.muted", "Text that steps back")
	}
	give(e.inverse.first(2, 0.5), "color.text.inverse", "Text on grounds unlike the page's")
	give(e.pageColor, "color.surface.page", "The ground of screens")
	give(e.raised.first(2, 0.5), "color.surface.raised", "What lies on it: cards, fields")
	give(e.border.first(3, 0.5), "color.border.default", "Most borders")
	give(e.action.first(2, 0.6), "color.action.default", "What can be acted on")
	return out
}

// tally counts by colour the elements that speak for a role, and how much each weighs.
type tally struct {
	count  map[string]int
	weight map[string]float64
	total  float64
}

func (t *tally) add(css string, weight float64) {
	if t.count == nil {
		t.count, t.weight = map[string]int{}, map[string]float64{}
	}
	t.count[css]++
	t.weight[css] += weight
	t.total += weight
}

// order lists the colours, the weightiest first.
func (t *tally) order() []string {
	var out []string
	for css := range t.weight {
		out = append(out, css)
	}
	slices.SortFunc(out, func(a, b string) int { return cmp.Or(cmp.Compare(t.weight[b], t.weight[a]), cmp.Compare(a, b)) })
	return out
}

// first is the weightiest colour, where enough elements have it, and enough of all the weight; "" for none.
func (t *tally) first(least int, share float64) string {
	order := t.order()
	if len(order) == 0 || t.count[order[0]] < least || t.weight[order[0]] < share*t.total {
		return ""
	}
	return order[0]
}

// evidence is what elements say of the roles of colours.
type evidence struct {
	page, text, inverse, raised, border, action tally
	pageColor                                   string
	pageLight                                   float64 // OKLab lightness of the page
	colors                                      map[string]color.Color
}

func newEvidence(docs []*design.Document) *evidence {
	e := &evidence{colors: map[string]color.Color{}}
	var screens []*design.Screen
	for _, d := range docs {
		screens = append(screens, d.Screens...)
	}
	for _, s := range screens {
		e.pages(s)
	}
	e.pageColor, e.pageLight = e.page.first(1, 0.5), 1
	if c, ok := e.colors[e.pageColor]; ok {
		e.pageLight = brightness(c)
	}
	for _, s := range screens {
		e.screen(s)
	}
	return e
}

func brightness(c color.Color) float64 { return c.To(color.OKLCH).C[0] }

func chroma(c color.Color) float64 { return c.To(color.OKLCH).C[1] }

// neutral is the chroma below which a colour is a grey, tinted or not.
const neutral = 0.05

// solid is the one opaque colour a box is filled with.
func (e *evidence) solid(x *design.Element) (css string, c color.Color, ok bool) {
	if len(x.Fills) != 1 || x.Fills[0].Error > 0 || x.Fills[0].Value.Kind != design.Solid ||
		x.Fills[0].Value.Color.Alpha != 1 {
		return "", c, false
	}
	c = x.Fills[0].Value.Color
	css = c.CSS()
	e.colors[css] = c
	return css, c, true
}

// pages finds the ground of a screen: the first box that covers it, with something on it.
func (e *evidence) pages(s *design.Screen) {
	if len(s.Elements) < 4 || icon(s) {
		return
	}
	for _, x := range s.Elements {
		if x.Hidden || x.Kind == design.Group {
			continue
		}
		b := x.Geometry.Value.Intersect(geom.Rect{W: s.Box.W, H: s.Box.H})
		if css, _, ok := e.solid(x); ok && x.Kind == design.Box && b.W*b.H >= 0.95*s.Box.W*s.Box.H {
			e.page.add(css, 1)
		}
		return
	}
}

// mostBoxes is how many boxes of a screen are looked at for what lies on them.
const mostBoxes = 3000

type ground struct {
	box   *design.Element
	texts []*design.Element
	holds int // boxes
}

func (e *evidence) screen(s *design.Screen) {
	if icon(s) {
		return
	}
	var grounds []*ground
	under := func(r geom.Rect) *ground {
		for i := len(grounds) - 1; i >= 0; i-- {
			if grounds[i].box.BorderBox().Contains(r, 0.5) {
				return grounds[i]
			}
		}
		return nil
	}
	for _, x := range s.Elements {
		switch {
		case x.Hidden || x.Casts || x.Kind == design.Group || inPicture(x):
		case x.Words != nil:
			g := under(x.Geometry.Value)
			if g != nil {
				g.texts = append(g.texts, x)
			}
			e.words(x, g)
		case x.Kind == design.Box:
			if len(x.Strokes) > 0 {
				e.stroke(x)
			}
			if g := under(x.BorderBox()); g != nil {
				g.holds++
			}
			if _, _, ok := e.solid(x); ok && len(grounds) < mostBoxes {
				grounds = append(grounds, &ground{box: x})
			}
		}
	}
	for _, g := range grounds {
		e.ground(s, g)
	}
}

func (e *evidence) words(x *design.Element, g *ground) {
	if len(x.Fills) == 0 || x.Fills[0].Value.Kind != design.Solid {
		return
	}
	c := x.Fills[0].Value.Color
	css := c.CSS()
	e.colors[css] = c
	letters := float64(len([]rune(x.Words.Words)))
	on := e.pageLight
	if g != nil {
		_, under, _ := e.solid(g.box)
		on = brightness(under)
	}
	if math.Abs(on-e.pageLight) < 0.3 {
		e.text.add(css, letters)
	} else if math.Abs(brightness(c)-on) > 0.3 {
		e.inverse.add(css, 1)
	}
}

// quiet reports whether a colour does not stand out: a grey, or near the page's own colour.
func (e *evidence) quiet(c color.Color) bool {
	page, ok := e.colors[e.pageColor]
	return chroma(c) < neutral || ok && color.Difference(c, page) < 0.25 && chroma(c) < 2*neutral
}

func (e *evidence) stroke(x *design.Element) {
	p := x.Strokes[0].Value.Paint
	if p.Kind == design.Solid && p.Color.Alpha == 1 && e.quiet(p.Color) && x.Geometry.Value.W > 16 {
		e.border.add(p.Color.CSS(), 1)
	}
}

// ground judges a box by what lies on it: one short label makes a button, more a card or a field.
func (e *evidence) ground(s *design.Screen, g *ground) {
	css, c, _ := e.solid(g.box)
	box := g.box.BorderBox()
	if box.W*box.H >= 0.95*s.Box.W*s.Box.H {
		return
	}
	switch {
	case len(g.texts) == 1 && g.holds == 0 && button(g.texts[0], box):
		if chroma(c) >= neutral {
			e.action.add(css, 1)
		}
	case len(g.texts)+g.holds > 0 && e.quiet(c) && css != e.pageColor && box.H >= 32 &&
		math.Abs(brightness(c)-e.pageLight) < 0.3:
		e.raised.add(css, 1)
	}
}

// button reports whether a text is the label of a button: few words in the middle of a box as high as a finger is wide.
func button(t *design.Element, box geom.Rect) bool {
	in := design.Insets(t.Geometry.Value, box)
	return len(strings.Fields(t.Words.Words)) <= 4 && len(t.Words.Lines) == 1 && box.H >= 28 && box.H <= 72 &&
		box.W >= 48 &&
		t.Words.Size.Value >= 11 && math.Abs(in[1]-in[3]) <= 2+0.1*t.Geometry.Value.W && math.Abs(in[0]-in[2]) <= 6
}

// reading is the colour of text that is read: of those that several texts and much of the words have, the one that
// stands out most from the page.
func (e *evidence) reading() string {
	best, most := "", 0.0
	for _, css := range e.text.order() {
		if away := math.Abs(brightness(e.colors[css]) - e.pageLight); e.text.count[css] >= 3 &&
			e.text.weight[css] >= 0.25*e.text.total && away > most {
			best, most = css, away
		}
	}
	return best
}

// muted is the colour of text that steps back from another: greyer towards the page, and several times there.
func (e *evidence) muted(most string) string {
	d := e.colors[most]
	for _, css := range e.text.order() {
		c := e.colors[css]
		towards := math.Abs(brightness(c)-e.pageLight) < math.Abs(brightness(d)-e.pageLight)-0.08
		if css != most && e.text.count[css] >= 3 && towards && chroma(c) < 0.07 {
			return css
		}
	}
	return ""
}
