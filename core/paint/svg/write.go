// Package svg writes a paint tree as a small SVG file that browsers paint to the same pixels. Start with Write; path.go
// writes outlines, judge.go holds that they come out the same.
// https://www.w3.org/TR/SVG2/
package svg

import (
	"bytes"
	"encoding/base64"
	"image"
	"math"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
	pixels "archetyp/core/paint/picture"
)

// Options are about the form of a picture that is written.
type Options struct {
	Scale   float64      // of width and height: px for each of the design; 0 means 1
	Current *color.Color // written as currentColor where it is painted
	Prefix  string       // of the ids of definitions, so that pictures put into one page do not clash
	Rough   bool         // lengths in hundredths of a px: to tell whether two drawings are one

	// Mark is what the shapes of an element say in data-e; "" for nothing. With it, the file is written quickly rather
	// than small. nil for none.
	Mark func(*design.Element) string
}

// Write makes a self-contained SVG of a paint tree: the part of the plane in view, at its own size, from 0, 0 on.
// Styles are resolved, text becomes outlines, transforms are worked into the shapes, only the definitions in use are
// there, and nothing is said twice.
func Write(root *design.PaintNode, view geom.Rect, o Options) []byte {
	scale := o.Scale
	if scale == 0 {
		scale = 1
	}
	w := &writer{o: o, ids: map[string]string{}, digits: 3, scale: scale, view: geom.Rect{W: view.W, H: view.H},
		above: geom.Identity}
	if size := math.Max(view.W, view.H); size < 8 {
		w.digits = 4
	}
	if o.Rough {
		w.digits = 2
	}
	root = design.Simplify(root, view)
	top := &tag{name: "svg"}
	w.node(top, root, geom.Translate(-view.X, -view.Y))
	tidy(top)
	if !w.inherits() {
		hoist(top)
	}
	head := []attr{{"xmlns", markup.SVG}, {"width", w.num(view.W * scale)}, {"height", w.num(view.H * scale)},
		{"viewBox", "0 0 " + w.num(view.W) + " " + w.num(view.H)}}
	top.attrs = append(head, top.attrs...)
	if len(w.defs) > 0 {
		top.kids = append([]*tag{{name: "defs", kids: w.defs}}, top.kids...)
	}
	var b strings.Builder
	top.print(&b)
	b.WriteByte('\n')
	return []byte(b.String())
}

type writer struct {
	o      Options
	defs   []*tag
	ids    map[string]string // definition → id
	digits int               // decimals of lengths
	scale  float64           // px for each unit
	view   geom.Rect         // what is seen
	judged int               // commands, and points of basic shapes
	kept   bool              // the transform of the shape that is written stays
	above  geom.Matrix       // of the groups that are being written

	outlines map[*geom.Path]string // ids of the glyphs that are defined
}

// mostJudged commands are tried in different numbers of decimals: what has more is no icon, and slow to try.
const mostJudged = 20_000

// inherits reports whether a definition paints shapes, which would take over what the root element says.
func (w *writer) inherits() bool {
	for _, d := range w.defs {
		if d.name == "mask" || d.name == "pattern" {
			return true
		}
	}
	return false
}

// tag is an element that is being written.
type tag struct {
	name  string
	layer bool // a group that is painted for itself before it is seen through: its child says nothing of it
	attrs []attr
	kids  []*tag
}

type attr struct{ name, value string }

func (t *tag) set(name, value string) { t.attrs = append(t.attrs, attr{name, value}) }

func (t *tag) get(name string) (string, bool) {
	for _, a := range t.attrs {
		if a.name == name {
			return a.value, true
		}
	}
	return "", false
}

func (t *tag) add(kid *tag) *tag {
	t.kids = append(t.kids, kid)
	return kid
}

func (t *tag) print(b *strings.Builder) {
	b.WriteString("<" + t.name)
	for _, a := range t.attrs {
		b.WriteString(" " + a.name + `="` + markup.EscapeAttr(a.value) + `"`)
	}
	if len(t.kids) == 0 {
		b.WriteString("/>")
		return
	}
	b.WriteByte('>')
	for _, k := range t.kids {
		k.print(b)
	}
	b.WriteString("</" + t.name + ">")
}

func (w *writer) num(v float64) string { return css.Terse(css.Num(v, w.digits)) }

// ratio prints a value between 0 and 1.
func ratio(v float64) string { return css.Terse(css.Num(v, 4)) }

// define adds a definition once and returns its id.
func (w *writer) define(t *tag) string {
	tidy(t)
	var b strings.Builder
	t.print(&b)
	key := b.String()
	if id, ok := w.ids[key]; ok {
		return id
	}
	n := len(w.ids)
	id := w.o.Prefix + string(rune('a'+n%26))
	if n >= 26 {
		id += strconv.Itoa(n / 26)
	}
	w.ids[key] = id
	t.attrs = append([]attr{{"id", id}}, t.attrs...)
	w.defs = append(w.defs, t)
	return id
}

// join puts numbers one after the other with as little between them as will do.
func join(v ...string) string {
	var b strings.Builder
	for i, s := range v {
		if i > 0 && s[0] != '-' && !(s[0] == '.' && strings.Contains(v[i-1], ".")) {
			b.WriteByte(' ')
		}
		b.WriteString(s)
	}
	return b.String()
}

// node writes a node into a parent. m leads from the node's parent to the space the written parent paints in: the
// transforms on the way are worked into the shapes.
func (w *writer) node(to *tag, n *design.PaintNode, m geom.Matrix) {
	if n.Opacity <= 0 {
		return
	}
	m = m.Mul(n.Matrix)
	g := &tag{name: "g"}
	if n.Filter != nil || n.Clip != nil || n.Mask != nil || // their lengths are in the node's own space
		n.Opacity < 1 && len(n.Children) > 1 && !byWholePixels(m) { // it is painted apart, from the corner of its own box on
		g.matrix("transform", m)
		defer func(above geom.Matrix) { w.above = above }(w.above)
		w.above, m = w.above.Mul(m), geom.Identity
	}
	if n.Opacity < 1 {
		g.set("opacity", ratio(n.Opacity))
	}
	if n.Filter != nil {
		g.set("filter", "url(#"+w.filter(n.Filter)+")")
	}
	if n.Clip != nil {
		g.set("clip-path", "url(#"+w.clip(n.Clip)+")")
	}
	if n.Mask != nil {
		g.set("mask", "url(#"+w.mask(n.Mask)+")")
	}
	if style := blendStyle(n); style != "" {
		g.set("style", style)
	}
	if len(g.attrs) == 0 {
		w.content(to, n, m)
		return
	}
	if layered(n) {
		g.matrix("transform", m)
		defer func(above geom.Matrix) { w.above, w.kept = above, false }(w.above)
		w.above, m = w.above.Mul(m), geom.Identity
		g.layer, w.kept = true, true
	}
	w.content(g, n, m)
	if len(g.kids) > 0 || n.Filter != nil {
		to.add(g)
	}
}

func blendStyle(n *design.PaintNode) string {
	s := ""
	if n.Blend != "" {
		s = "mix-blend-mode:" + n.Blend
	}
	if n.Isolate {
		s = strings.TrimPrefix(s+";isolation:isolate", ";")
	}
	return s
}

func (w *writer) content(to *tag, n *design.PaintNode, m geom.Matrix) {
	before := len(to.kids)
	switch {
	case len(n.Glyphs) > 0 && w.o.Mark != nil && n.Stroke == nil && n.Fill != nil && n.Fill.Kind == design.Solid:
		w.glyphs(to, n, m)
	case len(n.Glyphs) > 0:
		w.shape(to, n, n.Outlines(), nil, m)
	case n.Path != nil:
		w.shape(to, n, n.Path, n.Native, m)
	}
	if n.Bitmap != nil {
		w.bitmap(to, n, m)
	}
	w.mark(to.kids[before:], n.Element)
	for _, c := range n.Children {
		w.node(to, c, m)
	}
}

// bitmap writes a picture, with the bytes it came with.
func (w *writer) bitmap(to *tag, n *design.PaintNode, m geom.Matrix) {
	data := n.File
	if data == nil {
		data = pixels.PNG(pixels.RGBA(n.Bitmap))
	}
	t := to.add(&tag{name: "image"})
	box := n.BitmapBox
	if m.B == 0 && m.C == 0 && m.A > 0 && m.D > 0 {
		box, m = m.Rect(box), geom.Identity
	}
	if box.X != 0 {
		t.set("x", w.num(box.X))
	}
	if box.Y != 0 {
		t.set("y", w.num(box.Y))
	}
	t.set("width", w.num(box.W))
	t.set("height", w.num(box.H))
	t.set("preserveAspectRatio", "none")
	t.matrix("transform", m)
	if n.Pixelated {
		t.set("style", "image-rendering:pixelated")
	}
	t.set("href", "data:"+mediaType(data)+";base64,"+base64.StdEncoding.EncodeToString(data))
}

// mediaType is the media type of a bitmap file of the formats that are read.
func mediaType(data []byte) string {
	_, kind, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return "application/octet-stream"
	}
	return "image/" + kind
}
