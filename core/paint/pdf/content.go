package pdf

import (
	"bytes"
	"fmt"
	"sort"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// content is a stream of painting operators, of the page or of a form, and the resources it names.
type content struct {
	w     *writer
	b     bytes.Buffer
	base  geom.Matrix               // from the space of the stream's first operator to that of the stream itself
	res   map[string]map[string]int // kind of resource → name → object
	names map[string]string
}

func (w *writer) newContent(base geom.Matrix) *content {
	return &content{w: w, base: base, res: map[string]map[string]int{}, names: map[string]string{}}
}

func (c *content) op(args, name string) {
	if args != "" {
		c.b.WriteString(args)
		c.b.WriteByte(' ')
	}
	c.b.WriteString(name)
	c.b.WriteByte('\n')
}

// use gives an object a name among the resources of a kind: GS1, X1, P1 …
func (c *content) use(kind, prefix string, object int) string {
	key := fmt.Sprint(kind, object)
	if n, ok := c.names[key]; ok {
		return n
	}
	if c.res[kind] == nil {
		c.res[kind] = map[string]int{}
	}
	n := fmt.Sprintf("%s%d", prefix, len(c.res[kind])+1)
	c.names[key] = n
	c.res[kind][n] = object
	return n
}

func (c *content) resources() string {
	var kinds []string
	for k := range c.res {
		kinds = append(kinds, k)
	}
	sort.Strings(kinds)
	var b strings.Builder
	b.WriteString("<<")
	for _, k := range kinds {
		b.WriteString("/" + k + "<<")
		var names []string
		for n := range c.res[k] {
			names = append(names, n)
		}
		sort.Strings(names)
		for _, n := range names {
			fmt.Fprintf(&b, "/%s %d 0 R", n, c.res[k][n])
		}
		b.WriteString(">>")
	}
	b.WriteString(">>")
	return b.String()
}

// state sets entries of the graphics state, such as /ca .5
func (c *content) state(entries string) {
	c.op("/"+c.use("ExtGState", "G", c.w.object("<<"+entries+">>")), "gs")
}

func (c *content) alpha(v float64) {
	if v < 1 {
		c.state("/ca " + num(v) + "/CA " + num(v))
	}
}

// node paints a node. m leads from the node's parent to the space of the stream's first operator.
func (c *content) node(n *design.PaintNode, m geom.Matrix) {
	if n.Opacity <= 0 || c.w.failed != nil {
		return
	}
	if n.Filter != nil {
		if onlyShadows(n) { // what throws them stays as drawn
			c.pixels(shadowsOf(n), m)
			plain := *n
			plain.Filter = nil
			c.node(&plain, m)
			return
		}
		c.pixels(n, m)
		return
	}
	c.op("", "q")
	defer c.op("", "Q")
	if n.Matrix != geom.Identity {
		x := n.Matrix
		c.op(numbers(x.A, x.B, x.C, x.D, x.E, x.F), "cm")
	}
	m = m.Mul(n.Matrix)
	for k := n.Clip; k != nil; k = k.Clip {
		c.clip(k)
	}
	if !apart(n) {
		c.paint(n, m, n.Opacity)
		return
	}
	if n.Mask != nil {
		c.mask(n.Mask, m)
	}
	c.alpha(n.Opacity)
	if mode, ok := blendModes[n.Blend]; ok {
		c.state("/BM/" + mode)
	}
	f := c.w.newContent(geom.Identity)
	f.paint(n, geom.Identity, 1)
	c.form(f, true)
}

// apart reports whether a node must be painted as a group of its own.
func apart(n *design.PaintNode) bool {
	if n.Mask != nil || n.Blend != "" || n.Isolate {
		return true
	}
	parts := len(n.Children)
	for _, has := range []bool{n.Bitmap != nil, n.Fill != nil, n.Stroke != nil} {
		if has {
			parts++
		}
	}
	return n.Opacity < 1 && (parts > 1 || len(n.Children) == 1 || len(n.Glyphs) > 1)
}

var blendModes = map[string]string{"multiply": "Multiply", "screen": "Screen", "overlay": "Overlay", "darken": "Darken",
	"lighten":     "Lighten",
	"color-dodge": "ColorDodge", "color-burn": "ColorBurn", "hard-light": "HardLight", "soft-light": "SoftLight", "difference": "Difference",
	"exclusion": "Exclusion", "hue": "Hue", "saturation": "Saturation", "color": "Color", "luminosity": "Luminosity"}

// endless is the box of a form that may paint anywhere.
const endless = "/BBox[-100000 -100000 200000 200000]"

// form paints a stream as a form of its own.
func (c *content) form(f *content, group bool) {
	entries := "/Type/XObject/Subtype/Form" + endless
	if group {
		entries += "/Group<</S/Transparency/I true/CS/DeviceRGB>>"
	}
	c.op("/"+c.use("XObject", "X", c.w.stream(entries+"/Resources"+f.resources(), f.b.Bytes())), "Do")
}

// clip keeps what lies inside the union of shapes.
func (c *content) clip(k *design.Clip) {
	all := &geom.Path{}
	evenOdd := false
	for _, s := range k.Shapes {
		p := s.Path
		if len(s.Glyphs) > 0 {
			p = s.Outlines()
		}
		all.Append(p.Transform(s.Matrix))
		evenOdd = evenOdd || s.EvenOdd
	}
	if len(k.Shapes) > 1 { // outlines that run against each other would cut each other out
		f := c.w.newContent(geom.Identity)
		for _, s := range k.Shapes {
			f.node(&design.PaintNode{Matrix: s.Matrix, Opacity: 1, Path: s.Path, Glyphs: s.Glyphs, EvenOdd: s.EvenOdd,
				Fill: &design.Paint{Kind: design.Solid, Opacity: 1, Color: opaqueBlack}}, geom.Identity)
		}
		c.softMask(f, "Alpha")
		return
	}
	if all.Empty() {
		all = geom.Rect{}.Path()
	}
	c.path(all)
	if evenOdd {
		c.op("", "W* n")
	} else {
		c.op("", "W n")
	}
}

// mask multiplies what follows by the luminance or alpha of a mask's content.
func (c *content) mask(k *design.Mask, m geom.Matrix) {
	f := c.w.newContent(geom.Identity)
	if k.Mask != nil {
		f.mask(k.Mask, m)
	}
	f.path(k.Region.Path())
	f.op("", "W n")
	f.node(k.Content, geom.Identity)
	kind := "Luminosity"
	if k.Alpha {
		kind = "Alpha"
	}
	c.softMask(f, kind)
}

func (c *content) softMask(f *content, kind string) {
	g := c.w.stream("/Type/XObject/Subtype/Form"+endless+"/Group<</S/Transparency/CS/DeviceRGB/I true>>/Resources"+f.resources(), f.b.Bytes())
	c.state(fmt.Sprintf("/SMask<</S/%s/G %d 0 R>>", kind, g))
}

// path writes an outline; curves of ellipses become cubic ones that stray by less than a thousandth.
func (c *content) path(p *geom.Path) {
	p.Each(func(s geom.Segment, first bool) {
		if first {
			c.op(numbers(s.P[0].X, s.P[0].Y), "m")
		}
		switch s.Verb {
		case geom.Line:
			c.op(numbers(s.P[1].X, s.P[1].Y), "l")
		case geom.Close:
			c.op("", "h")
		default:
			k := s.Cubic()
			c.op(numbers(k[1].X, k[1].Y, k[2].X, k[2].Y, k[3].X, k[3].Y), "c")
		}
	})
}
