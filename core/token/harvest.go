package token

import (
	"fmt"
	"math"
	"sort"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
)

// Use is one place where a value is used.
type Use struct {
	Source   string  `json:"source"`
	Screen   string  `json:"screen"`
	Element  string  `json:"element"` // name path
	Selector string  `json:"selector"`
	Property string  `json:"property"`
	Line     int     `json:"line"`
	Words    string  `json:"words,omitempty"` // of a text
	Held     string  `json:"held,omitempty"`  // path of the token the element goes on having, which has another value now
	weight   float64 // how much it counts: area for surfaces, characters for text

	At *design.Element `json:"-"`
}

// Found is a value collected from drawings, with its uses, the token that holds it already, and what to make of it.
type Found struct {
	Kind     string // color, type, radius, shadow, gradient, space
	Type     Type
	Value    Value
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
func (f *Found) own() Own {
	if f.face != nil && f.face.line == 0 && f.face.missing {
		return Own{Written: map[string]string{"lineHeight": "normal"}}
	}
	if f.Ending != "" {
		return Own{Kind: "radial", Shape: f.Ending}
	}
	return Own{Angle: f.Angle}
}

// Flagged says that the value looks like a mistake.
func (f *Found) Flagged() bool { return f.Near != "" || f.Off != "" }

// Notable says that a flag deserves a person's look: an odd distance that stands once or twice may be no distance at
// all.
func (f *Found) Notable() bool { return f.Flagged() && (f.Kind != "space" || len(f.Uses) > 2) }

// Scales are the steps numbers should take, in px; empty for none.
type Scales struct {
	Space float64
	Type  []float64
}

// Harvest is what was collected, and the tokens proposed for it.
type Harvest struct {
	Found   []*Found
	Aliases []*Token // semantic names for colours, as aliases of the proposed ones
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

// nearColor is the OKLab difference below which two colours are hard to tell apart.
const nearColor = 0.01

// nearAlpha is the difference of opacity that writing it in 8 bits, or with two digits, makes.
const nearAlpha = 0.006

// Held tells which token an element goes on having while the drawing shows another value; "" for none.
type Held func(f *Found, u *Use) (path string)

// Collect gathers the values of documents. have and held may be nil.
func Collect(docs []*design.Document, have *Set, scales Scales, held Held) *Harvest {
	c := &collector{byKey: map[string]*Found{}}
	for _, d := range docs {
		for _, s := range d.Screens {
			for _, e := range s.Elements {
				if !e.Hidden && e.Ancestor(func(x *design.Element) bool { return x.Casts }) == nil {
					c.element(d, s, e)
				}
			}
			c.spacing(d, s)
		}
	}
	h := &Harvest{}
	for _, k := range c.order {
		h.Found = append(h.Found, c.byKey[k])
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
	h.pair(docs)
	h.propose(have, docs)
	return h
}

var kindOrder = map[string]int{"color": 0, "type": 1, "space": 2, "radius": 3, "shadow": 4, "gradient": 5}

type collector struct {
	byKey map[string]*Found
	order []string
}

func (c *collector) add(f *Found, key string, u Use) {
	key = f.Kind + "\x00" + key
	old := c.byKey[key]
	if old == nil {
		c.byKey[key] = f
		c.order = append(c.order, key)
		old = f
	}
	old.Uses = append(old.Uses, u)
}

func use(d *design.Document, s *design.Screen, e *design.Element, prop string, weight float64) Use {
	return Use{Source: d.Name, Screen: s.Name, Element: e.Path, Selector: e.Selector(), Property: prop, Line: e.Position.Line, weight: weight, At: e}
}

func (c *collector) element(d *design.Document, s *design.Screen, e *design.Element) {
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
		} else if e.Kind == design.Path || inPicture(e) {
			prop = "icon"
		}
		c.paint(d, s, e, f.Value, prop, weight)
	}
	for _, st := range e.Strokes {
		prop := "border"
		if e.Kind == design.Path || inPicture(e) {
			prop = "icon"
		}
		c.paint(d, s, e, st.Value.Paint, prop, 1)
	}
	if e.Words != nil {
		c.text(d, s, e)
		for _, r := range e.Words.Runs[min(1, len(e.Words.Runs)):] {
			if r.Fill.Kind == design.Solid && len(e.Fills) > 0 && !r.Fill.Color.Same(e.Fills[0].Value.Color) {
				c.paint(d, s, e, r.Fill, "text", float64(len(r.Words)))
			}
		}
	}
	if e.Radii.Set && e.Radii.Error == 0 && e.Radii.Value.Uniform() && !e.Oval() && !inPicture(e) {
		c.radius(d, s, e)
	}
	if len(e.Shadows) > 0 && e.Shadows[0].Error == 0 {
		c.shadows(d, s, e)
	}
}

// inPicture says whether an element is part of a drawing that is used or exported as a whole.
func inPicture(e *design.Element) bool { return e.Ancestor(picture) != nil }

// mostPicture is how large, in px, what is used by reference may be and still be a picture; larger things are parts of
// the layout.
const mostPicture = 128

// picture says whether an element is a drawing as a whole: one that is exported, or forms used by reference, without
// words, and small. A single box used so is a box.
func picture(e *design.Element) bool {
	if e.Marks.Asset != "" {
		return true
	}
	b := e.Geometry.Value
	if e.Shape != "use" || b.W > mostPicture || b.H > mostPicture {
		return false
	}
	forms, words := 0, false
	e.Walk(func(x *design.Element) {
		words = words || x.Words != nil
		if x.Kind != design.Group {
			forms++
			if x.Kind == design.Path {
				forms++
			}
		}
	})
	return !words && forms > 1
}

func (c *collector) paint(d *design.Document, s *design.Screen, e *design.Element, p design.Paint, prop string, weight float64) {
	switch p.Kind {
	case design.Solid:
		if p.Color.Alpha == 0 {
			return
		}
		col := p.Color
		c.add(&Found{Kind: "color", Type: Color, Value: Value{Color: &col}, Text: col.CSS()}, col.CSS(), use(d, s, e, prop, weight))
	case design.Linear, design.Radial:
		text, ok := e.PaintCSS(p)
		if !ok || strings.HasPrefix(text, "repeating") { // which the format has no place for
			return
		}
		f := &Found{Kind: "gradient", Type: Gradient, Text: text}
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
			f.Value.List = append(f.Value.List, Value{Parts: map[string]Value{"color": {Color: &col}, "position": {Number: &pos}}})
		}
		c.add(f, text, use(d, s, e, prop, weight))
	}
}

func px(v float64) Value { return Value{Length: &Length{math.Round(v*1e4) / 1e4, "px"}} }

// fullRadius is the least radius, in px, that stands for corners as round as they can be.
const fullRadius = 999

func (c *collector) radius(d *design.Document, s *design.Screen, e *design.Element) {
	if e.Pill() {
		c.add(&Found{Kind: "radius", Type: Dimension, Value: px(9999), Text: "9999px", size: 9999}, "full", use(d, s, e, "border-radius", 1))
		return
	}
	box := e.Geometry.Value
	if e.Radii.Value.X[0] >= min(box.W, box.H)/2-0.01 {
		return // a dot, or the round end of a line
	}
	r := e.Corners().Value.X[0]
	c.add(&Found{Kind: "radius", Type: Dimension, Value: px(r), Text: css.Px(r), size: r}, css.Px(r), use(d, s, e, "border-radius", 1))
}

func (c *collector) shadows(d *design.Document, s *design.Screen, e *design.Element) {
	f := &Found{Kind: "shadow", Type: Shadow}
	var texts []string
	for _, sh := range e.Shadows {
		v := sh.Value
		col := v.Color
		one := Value{Parts: map[string]Value{"color": {Color: &col}, "offsetX": px(v.X), "offsetY": px(v.Y), "blur": px(v.Blur), "spread": px(v.Spread)}}
		if v.Inset {
			yes := true
			one.Parts["inset"] = Value{Boolean: &yes}
		}
		f.Value.List = append(f.Value.List, one)
		texts = append(texts, v.CSS())
		f.size += v.Blur
	}
	f.Text = strings.Join(texts, ", ")
	c.add(f, f.Text, use(d, s, e, "box-shadow", 1))
}

// typeFace is what makes a type style.
type typeFace struct {
	family  string
	size    float64
	weight  int
	spacing float64
	line    float64 // px; 0 for normal
	normal  float64 // the font's own line height, of one em
	missing bool    // that font only stands in for the family
}

// normalLine is what is written for the line height where nothing is known but that it is the font's own, of one em:
// about what fonts have. CSS writes "normal" for it.
const normalLine = 1.2

func (c *collector) text(d *design.Document, s *design.Screen, e *design.Element) {
	w := e.Words
	if w.Words == "" {
		return
	}
	t := &typeFace{family: w.Family.Value, size: w.Size.Value, weight: w.Weight.Value, spacing: w.Spacing.Value, line: w.LineHeight.Value, normal: w.Normal, missing: w.Missing || w.Used == ""}
	text := fmt.Sprintf("%d %s %s", t.weight, css.Px(t.size), firstFamily(t.family))
	if t.spacing != 0 {
		text += " " + css.Px(t.spacing) + " apart"
	}
	key := text
	f := c.byKey["type\x00"+key]
	if f == nil {
		f = &Found{Kind: "type", Type: Typography, Text: text, face: t, size: t.size*10 + float64(t.weight)/1000}
	} else if f.face.line == 0 {
		f.face.line = t.line // some uses are single lines, which have none
	}
	if f.face.missing && !t.missing {
		f.face.missing, f.face.normal = false, t.normal
	}
	u := use(d, s, e, "font", float64(len([]rune(w.Words))))
	u.Words = w.Lines[0].Words
	c.add(f, key, u)
}

func (t *typeFace) first() string { return firstFamily(t.family) }

func firstFamily(list string) string {
	first, _, _ := strings.Cut(list, ",")
	return strings.TrimSpace(first)
}

// compare points out near-duplicates and numbers off their scale.
func (h *Harvest) compare(scales Scales) {
	for _, f := range h.Found {
		switch f.Kind {
		case "color":
			h.nearest(f, func(o *Found) (float64, bool) {
				d := color.Difference(*f.Value.Color, *o.Value.Color)
				return d, d < nearColor && math.Abs(f.Value.Color.Alpha-o.Value.Color.Alpha) < nearAlpha
			})
		case "type":
			if len(scales.Type) > 0 {
				if step := nearestOf(scales.Type, f.face.size); math.Abs(step-f.face.size) > 1e-6 {
					f.Off = css.Px(step)
				}
				continue
			}
			h.nearest(f, func(o *Found) (float64, bool) {
				d := math.Abs(f.face.size - o.face.size)
				return d, d > 0 && d <= 1 && f.face.weight == o.face.weight && f.face.first() == o.face.first()
			})
		case "space":
			if scales.Space > 0 {
				if step := math.Round(f.size/scales.Space) * scales.Space; math.Abs(step-f.size) > 1e-6 {
					f.Off = css.Px(step)
				}
			}
		case "radius":
			h.nearest(f, func(o *Found) (float64, bool) {
				d := math.Abs(f.size - o.size)
				return d, d > 0 && d <= 1
			})
		}
	}
}

// nearest flags a value that is almost another one that is used more.
func (h *Harvest) nearest(f *Found, alike func(*Found) (float64, bool)) {
	best := math.Inf(1)
	for _, o := range h.Found {
		if o == f || o.Kind != f.Kind || !o.before(f) {
			continue
		}
		if d, ok := alike(o); ok && d < best {
			best, f.Near, f.NearBy = d, o.Text, d
		}
	}
}

// before says which of two values that are almost the same is the one meant: a whole number before a broken one, then the
// one used more.
func (f *Found) before(o *Found) bool {
	if whole := f.size == math.Trunc(f.size); f.Kind == "radius" && whole != (o.size == math.Trunc(o.size)) {
		return whole
	}
	if len(f.Uses) != len(o.Uses) {
		return len(f.Uses) > len(o.Uses)
	}
	return f.Text < o.Text
}

func nearestOf(list []float64, v float64) float64 {
	best := list[0]
	for _, l := range list {
		if math.Abs(l-v) < math.Abs(best-v) {
			best = l
		}
	}
	return best
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

// match finds the tokens that have the values already.
func (h *Harvest) match(have *Set) {
	if have == nil {
		return
	}
	byValue := map[string]string{}
	for _, t := range have.Tokens {
		if t.Value.Alias != "" {
			continue
		}
		if k := have.Key(t); k != "" {
			if _, ok := byValue[k]; !ok {
				byValue[k] = t.Path
			}
		}
	}
	for _, f := range h.Found {
		t := &Token{Type: f.Type, Value: f.Value, Own: f.own()}
		kind := f.Kind
		if f.face != nil {
			t.Value = f.face.value("", "")
		}
		f.Token = byValue[valueKey(have, t, kind)]
		if f.Kind == "radius" && f.size >= fullRadius {
			f.Token = have.full()
		}
		if f.Token == "" && (kind == "space" || kind == "radius") {
			f.Token = byValue[valueKey(have, t, "")]
		}
	}
}

// full is the radius that stands for ends as round as they can be; "" for none.
func (s *Set) full() string {
	for _, t := range s.Tokens {
		if t.Full(s) {
			return t.Path
		}
	}
	return ""
}

// Full says whether a token is the radius that stands for ends as round as they can be.
func (t *Token) Full(s *Set) bool {
	l := s.Resolve(t).Value.Length
	return t.Type == Dimension && strings.HasPrefix(t.Path, "radius.") && l != nil && l.Px(s.RootPx()) >= fullRadius
}

// Key is what makes two tokens the same value: type and value as CSS, aliases followed. Dimensions count apart by
// the group they stand in, since a space and a radius of 8 px are two things.
func (s *Set) Key(t *Token) string {
	group, _, _ := strings.Cut(t.Path, ".")
	kind := ""
	if t.Type == Dimension && (group == "space" || group == "radius") {
		kind = group
	}
	return valueKey(s, t, kind)
}

func valueKey(s *Set, t *Token, kind string) string {
	if t.Type != Dimension {
		kind = ""
	}
	key := string(t.Type) + "\x00" + kind + "\x00" + s.flat(t.Value)
	if t.Own.Angle != nil {
		key += fmt.Sprintf("\x00%g", *t.Own.Angle)
	}
	return key + "\x00" + t.Own.Kind + "\x00" + t.Own.Shape
}

// flat is a value's JSON with all aliases followed.
func (s *Set) flat(v Value) string {
	v = s.ResolvePart(v)
	switch {
	case v.Parts != nil:
		out := ""
		for _, k := range sortedParts(v.Parts) {
			part := s.ResolvePart(v.Parts[k])
			switch {
			case k == "lineHeight": // where lines are single, their height is only the font's
				continue
			case k == "fontFamily" && len(part.Words) > 0: // what stands in for a family is not the style's business
				part.Words = part.Words[:1]
			}
			out += k + ":" + s.flat(part) + ";"
		}
		return out
	case v.List != nil:
		out := ""
		for _, p := range v.List {
			out += s.flat(p) + "|"
		}
		return out
	case v.Color != nil:
		return v.Color.CSS()
	case v.Length != nil && v.Length.Unit == "rem":
		return px(v.Length.Px(s.RootPx())).JSON()
	}
	return v.JSON()
}

// value is the typography value, with aliases for family and size where there are tokens for them.
func (t *typeFace) value(family, size string) Value {
	fam := Value{Words: splitFamilies(t.family)}
	if family != "" {
		fam = Value{Alias: family}
	}
	fs := px(t.size)
	if size != "" {
		fs = Value{Alias: size}
	}
	w, line := float64(t.weight), t.normal
	switch {
	case t.line > 0:
		line = t.line / t.size
	case t.missing: // a stand-in's says nothing
		line = normalLine
	}
	line = math.Round(line*1e4) / 1e4
	return Value{Parts: map[string]Value{"fontFamily": fam, "fontSize": fs, "fontWeight": {Number: &w}, "letterSpacing": px(t.spacing), "lineHeight": {Number: &line}}}
}

func splitFamilies(list string) []string {
	var out []string
	for _, f := range strings.Split(list, ",") {
		if f = strings.TrimSpace(f); f != "" {
			out = append(out, f)
		}
	}
	if len(out) == 0 {
		out = []string{"sans-serif"}
	}
	return out
}

// NearestColor is the path of the colour token nearest to a colour, and their difference in OKLab; "" where there is
// no colour token. Of several alike, the one whose name suits the use best ("surface", "text", "border", "icon") goes
// first.
func (s *Set) NearestColor(c color.Color, use string) (path string, difference float64) {
	best, most := math.Inf(1), -1
	for _, t := range s.Tokens {
		if t.Type != Color {
			continue
		}
		end := s.Resolve(t)
		if end.Value.Color == nil {
			continue
		}
		d := color.Difference(c, *end.Value.Color) + math.Abs(c.Alpha-end.Value.Color.Alpha)
		fit := t.fit(use)
		if d < best-1e-9 || d < best+1e-9 && fit > most {
			path, best, most = t.Path, d, fit
		}
	}
	if path == "" {
		return "", 0
	}
	return path, best
}
