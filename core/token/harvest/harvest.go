// Package harvest collects values from drawings (colours, type styles, spacing, radii, shadows, gradients) with their
// uses, finds the tokens that have them already, and proposes names for the rest. Documents and tokens go in, a Harvest
// comes out.
package harvest

import (
	"math"
	"sort"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/token"
)

// Use is one place where a value is used.
type Use struct {
	*Site
	Property string  `json:"property"`
	Held     string  `json:"held,omitempty"` // path of the token the element goes on having, which has another value now
	weight   float64 // how much it counts: area for surfaces, characters for text
}

// Site is an element that uses values.
type Site struct {
	Source   string `json:"source"`
	Screen   string `json:"screen"`
	Element  string `json:"element"` // name path
	Selector string `json:"selector"`
	Line     int    `json:"line"`
	Words    string `json:"words,omitempty"` // of a text

	Index int             `json:"-"` // of the element among all of its document
	At    *design.Element `json:"-"` // nil where the values were read back from a record
}

// Found is a value collected from drawings, with its uses, the token that holds it already, and what to make of it.
type Found struct {
	Kind     string // color, type, radius, shadow, gradient, space
	Type     token.Type
	Value    token.Value
	Text     string // as CSS
	Uses     []Use
	Token    string // path of the token that has this value; "" for none
	Proposed string // path of the token to make; "" where none should be made
	Near     string // another value it is almost the same as, and is used less than
	NearBy   float64
	Off      string // the nearest step of the scale it is off
	Angle    *float64
	Ending   string // of a radial gradient: shape, size and centre as CSS
	Changes  string // path of the token whose new value this is
	Behind   string // path of the token that every use of the value holds, which has another value now
	WideOf   *Found // the type style it is on wide screens
	size     float64
	face     *typeFace
	moved    int // places of the token that changed which have the value now
	of       int // … of how many
}

// own is what the format has no place for.
func (f *Found) own() token.Own {
	if f.face != nil && f.face.line == 0 && f.face.missing {
		return token.Own{Written: map[string]string{"lineHeight": "normal"}}
	}
	if f.Ending != "" {
		return token.Own{Kind: "radial", Shape: f.Ending}
	}
	return token.Own{Angle: f.Angle}
}

// Flagged reports whether the value looks like a mistake.
func (f *Found) Flagged() bool { return f.Near != "" || f.Off != "" }

// Notable reports whether a flag deserves a person's look: an odd distance that stands once or twice may be no distance
// at all.
func (f *Found) Notable() bool { return f.Flagged() && (f.Kind != "space" || len(f.Uses) > 2) }

// Harvest is what was collected, and the tokens proposed for it.
type Harvest struct {
	Found   []*Found
	Aliases []*token.Token // semantic names for colours, as aliases of the proposed ones
}

// Changed counts the tokens that have another value in the drawings now.
func (h *Harvest) Changed() int {
	n := 0
	for _, f := range h.Found {
		if f.Changes != "" {
			n++
		}
	}
	return n
}

// Proposals counts the values that could be tokens.
func (h *Harvest) Proposals() int {
	n := 0
	for _, f := range h.Found {
		if f.Proposed != "" || f.Wide() != "" {
			n++
		}
	}
	return n
}

// Held reports which token an element goes on having while the drawing shows another value; "" for none.
type Held func(f *Found, u *Use) (path string)

// Collect gathers the values of documents. have and held may be nil.
func Collect(docs []*design.Document, have *token.Set, scales token.Scales, held Held) *Harvest {
	values := make([]*Values, len(docs))
	for i, d := range docs {
		values[i] = Find(d)
	}
	return Gather(values, have, scales, held, func() []*design.Document { return docs })
}

// Gather is Collect for values that were found already. docs gives the documents where names by use are to be proposed,
// which only a workspace without tokens asks for. The values stay as they are.
func Gather(values []*Values, have *token.Set, scales token.Scales, held Held,
	docs func() []*design.Document) *Harvest {
	h := &Harvest{}
	byKey := map[string]*Found{}
	for _, v := range values {
		for i, f := range v.found {
			have := byKey[v.keys[i]]
			if have == nil {
				have = f.alone()
				byKey[v.keys[i]] = have
				h.Found = append(h.Found, have)
			} else if f.face != nil {
				have.face.learn(f.face)
			}
			have.Uses = append(have.Uses, f.Uses...)
		}
	}
	sort.SliceStable(h.Found, func(i, j int) bool {
		a, b := h.Found[i], h.Found[j]
		if a.Kind != b.Kind {
			return kindOrder[a.Kind] < kindOrder[b.Kind]
		}
		if a.Kind == "color" || a.Kind == "gradient" || a.Kind == "shadow" {
			return len(a.Uses) > len(b.Uses)
		}
		return a.size < b.size
	})
	h.compare(scales)
	h.match(have)
	h.hold(held)
	h.pair(values)
	h.propose(have, docs)
	return h
}

var kindOrder = map[string]int{"color": 0, "type": 1, "space": 2, "radius": 3, "shadow": 4, "gradient": 5}

func (c *collector) element(e *design.Element) {
	area := e.Geometry.Value.W * e.Geometry.Value.H
	for _, f := range e.Fills {
		if e.Line() {
			break // what cannot show is not used
		}
		if f.Error > 0 { // an estimate that may be off is no value to make a token of
			continue
		}
		prop := "fill"
		weight := area
		if e.Words != nil {
			prop, weight = "text", 1
		} else if e.Kind == design.Path || c.inPicture(e) {
			prop = "icon"
		}
		c.paint(e, f.Value, prop, weight)
	}
	for _, st := range e.Strokes {
		prop := "border"
		if e.Kind == design.Path || c.inPicture(e) {
			prop = "icon"
		}
		c.paint(e, st.Value.Paint, prop, 1)
	}
	if e.Words != nil {
		c.text(e)
		for _, r := range e.Words.Runs[min(1, len(e.Words.Runs)):] {
			if r.Fill.Kind == design.Solid && len(e.Fills) > 0 && !r.Fill.Color.Same(e.Fills[0].Value.Color) {
				c.paint(e, r.Fill, "text", float64(len(r.Words)))
			}
		}
	}
	if e.Radii.Set && e.Radii.Error == 0 && e.Radii.Value.Uniform() && !e.Oval() && !c.inPicture(e) {
		c.radius(e)
	}
	if len(e.Shadows) > 0 && e.Shadows[0].Error == 0 {
		c.shadows(e)
	}
}

func (c *collector) paint(e *design.Element, p design.Paint, prop string, weight float64) {
	switch p.Kind {
	case design.Solid:
		if p.Color.Alpha == 0 {
			return
		}
		col := p.Color
		c.add(&Found{Kind: "color", Type: token.Color, Value: token.Value{Color: &col}, Text: col.CSS()}, col.CSS(),
			c.use(e, prop, weight))
	case design.Linear, design.Radial:
		text, ok := e.PaintCSS(p)
		if !ok || strings.HasPrefix(text, "repeating") { // which the format has no place for
			return
		}
		f := &Found{Kind: "gradient", Type: token.Gradient, Text: text}
		stops := p.Gradient.Stops
		box, m, _ := e.Unturned()
		if p.Kind == design.Radial {
			f.Ending, _ = p.Gradient.Ending(box, m)
		} else {
			angle, line := p.Gradient.Line(box, m)
			f.Angle, stops = &angle, line
		}
		for _, st := range stops {
			col, pos := st.Color, math.Round(st.Offset*1e6)/1e6
			if pos < -1e-9 || pos > 1+1e-9 { // the format holds stops on the box only
				return
			}
			f.Value.List = append(f.Value.List,
				token.Value{Parts: map[string]token.Value{"color": {Color: &col}, "position": {Number: &pos}}})
		}
		c.add(f, text, c.use(e, prop, weight))
	}
}

func (c *collector) radius(e *design.Element) {
	if e.Pill() {
		c.add(&Found{Kind: "radius", Type: token.Dimension, Value: token.PxValue(9999), Text: "9999px", size: 9999}, "full",
			c.use(e, "border-radius", 1))
		return
	}
	box := e.Geometry.Value
	if e.Radii.Value.X[0] >= min(box.W, box.H)/2-0.01 {
		return // a dot, or the round end of a line
	}
	r := e.Corners().Value.X[0]
	c.add(&Found{Kind: "radius", Type: token.Dimension, Value: token.PxValue(r), Text: css.Px(r), size: r}, css.Px(r),
		c.use(e, "border-radius", 1))
}

func (c *collector) shadows(e *design.Element) {
	f := &Found{Kind: "shadow", Type: token.Shadow}
	var texts []string
	for _, sh := range e.Shadows {
		v := sh.Value
		col := v.Color
		one := token.Value{Parts: map[string]token.Value{"color": {Color: &col}, "offsetX": token.PxValue(v.X),
			"offsetY": token.PxValue(v.Y),
			"blur":    token.PxValue(v.Blur), "spread": token.PxValue(v.Spread)}}
		if v.Inset {
			yes := true
			one.Parts["inset"] = token.Value{Boolean: &yes}
		}
		f.Value.List = append(f.Value.List, one)
		texts = append(texts, v.CSS())
		f.size += v.Blur
	}
	f.Text = strings.Join(texts, ", ")
	c.add(f, f.Text, c.use(e, "box-shadow", 1))
}

// hold finds the uses that go on having a token although its value is another now. A value with no other use is not
// new, and nothing to make a token of.
func (h *Harvest) hold(held Held) {
	if held == nil {
		return
	}
	for _, f := range h.Found {
		all := true
		for i := range f.Uses {
			u := &f.Uses[i]
			u.Held = held(f, u)
			all = all && u.Held != ""
		}
		if all && f.Token == "" {
			f.Behind, f.Near, f.Off = f.Uses[0].Held, "", ""
		}
	}
}

// Drawn is the value as the facts of a drawing print it; of type, the parts that make a style.
func (f *Found) Drawn() (text string, family string, size float64, weight int, spacing float64) {
	if f.face == nil {
		return f.Text, "", 0, 0, 0
	}
	return f.Text, f.face.first(), f.face.size, f.face.weight, f.face.spacing
}
