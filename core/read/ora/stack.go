package ora

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/png"
	"path"
	"runtime"
	"strconv"
	"strings"
	"sync"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/guard"
	"archetyp/core/limit"
	"archetyp/core/markup"
)

type builder struct {
	archive *archive
	opts    Options
	doc     *design.Document
	jobs    []*layer
}

// layer is a layer whose pixels are still to be read.
type layer struct {
	e     *design.Element
	src   string
	at    image.Point
	error error
}

func (b *builder) failAt(n *markup.Node, format string, args ...any) error {
	return &markup.Error{Position: b.doc.Markup.Position(n.Offset), Msg: "in stack.xml: " + fmt.Sprintf(format, args...)}
}

func (b *builder) warn(n *markup.Node, msg string) {
	b.doc.Warnings = append(b.doc.Warnings, design.Warning{Position: b.doc.Markup.Position(n.Offset),
		Msg: "in stack.xml: " + msg})
}

// whole reads the canvas and everything on it as one screen.
func (b *builder) whole() error {
	root := b.doc.Markup.Root
	w, err := b.integer(root, "w", 0, 1, maxSide)
	if err != nil {
		return err
	}
	h, err := b.integer(root, "h", 0, 1, maxSide)
	if err != nil {
		return err
	}
	canvas := geom.Rect{W: float64(w), H: float64(h)}
	s := &design.Screen{Box: canvas, Document: b.doc}
	b.doc.Screens = []*design.Screen{s}
	s.Root = b.element(root, nil, s, design.Group)
	s.Root.Geometry = design.State(canvas, "w, h")
	s.Paint = s.Root.Paint
	s.Paint.Element = s.Root
	for _, k := range root.Elements() {
		if k.Local == "stack" {
			if err := b.stack(k, s.Root, image.Point{}, false, 1); err != nil {
				return err
			}
		}
	}
	if len(b.jobs) > maxLayers {
		return fail("%d layers; more than %d are not read", len(b.jobs), maxLayers)
	}
	if err := b.readLayers(); err != nil {
		return err
	}
	boxes(s.Root, canvas)
	s.Root.Layout, s.Root.Painted = s.Root.Geometry, s.Root.Geometry
	if err := b.merged(s); err != nil {
		return err
	}
	s.Name = s.Root.Marks.Screen
	if s.Name == "" {
		s.Name = strings.TrimSuffix(path.Base(b.doc.Name), ".ora")
	}
	s.SetPaths()
	for _, c := range s.Root.Children {
		c.Walk(func(x *design.Element) { s.Elements = append(s.Elements, x) })
	}
	return nil
}

func (b *builder) element(n *markup.Node, parent *design.Element, s *design.Screen, kind design.Kind) *design.Element {
	e := &design.Element{Kind: kind, Shape: n.Local, Node: n, ID: n.ID(), Parent: parent, Screen: s,
		Position: b.doc.Markup.Position(n.Offset), Matrix: geom.Identity}
	e.Marks = design.ReadMarks(n, b.opts.Marks, css.NewMatcher(nil, nil))
	e.Name = design.ElementName(n, e.Marks.Label)
	e.Paint = &design.PaintNode{Matrix: geom.Identity, Opacity: 1, Element: e}
	return e
}

// stack reads the children of a stack, topmost first in the file, lowest first in the document.
func (b *builder) stack(n *markup.Node, parent *design.Element, at image.Point, hidden bool, depth int) error {
	kids := n.Elements()
	for i := len(kids) - 1; i >= 0; i-- {
		k := kids[i]
		kind := design.Group
		switch k.Local {
		case "stack":
		case "layer":
			kind = design.Image
		default:
			continue // a text, or something of a later version
		}
		x, err := b.integer(k, "x", 0, -maxOffset, maxOffset)
		if err != nil {
			return err
		}
		y, err := b.integer(k, "y", 0, -maxOffset, maxOffset)
		if err != nil {
			return err
		}
		e := b.element(k, parent, parent.Screen, kind)
		parent.Children = append(parent.Children, e)
		e.Hidden = hidden || k.AttrOr("visibility", "visible") == "hidden"
		if !e.Hidden {
			parent.Paint.Children = append(parent.Paint.Children, e.Paint)
		}
		if err := b.effects(k, e); err != nil {
			return err
		}
		pos := at.Add(image.Pt(x, y))
		if kind == design.Group {
			if depth > 64 {
				return b.failAt(k, "more than 64 stacks inside one another")
			}
			if err := b.stack(k, e, pos, e.Hidden, depth+1); err != nil {
				return err
			}
			continue
		}
		src, ok := k.Attr("src")
		if !ok || src == "" {
			return b.failAt(k, "a layer without src")
		}
		if !inside(src) {
			return b.failAt(k, "the layer's src %q leads out of the archive", markup.Clip(src))
		}
		b.jobs = append(b.jobs, &layer{e: e, src: src, at: pos})
	}
	return nil
}

// blends are the composite operators that CSS has as blend modes.
var blends = func() map[string]string {
	m := map[string]string{"": "", "svg:src-over": "", "svg:plus": "plus-lighter"}
	for _, v := range strings.Fields("multiply screen overlay darken lighten color-dodge color-burn hard-light " +
		"soft-light difference exclusion color luminosity hue saturation") {
		m["svg:"+v] = v
	}
	return m
}()

func (b *builder) effects(n *markup.Node, e *design.Element) error {
	if v, ok := n.Attr("opacity"); ok {
		o, err := strconv.ParseFloat(strings.TrimSpace(v), 64)
		if err != nil || !(o >= 0 && o <= 1) {
			return b.failAt(n, "opacity %q is no share from 0 to 1", markup.Clip(v))
		}
		if o < 1 {
			e.Opacity = design.State(o, "opacity attribute")
			e.Paint.Opacity = o
		}
		e.Hidden = e.Hidden || o == 0
	}
	op := n.AttrOr("composite-op", "")
	mode, known := blends[op]
	if !known {
		b.warn(n, fmt.Sprintf("composite-op %q is painted as svg:src-over", markup.Clip(op)))
	}
	if mode != "" {
		e.Blend = design.State(mode, "composite-op attribute")
		e.Paint.Blend = mode
	}
	e.Paint.Isolate = n.AttrOr("isolation", "auto") == "isolate"
	return nil
}

// integer is a whole number attribute within limits; or for one that is not there and may be missing.
func (b *builder) integer(n *markup.Node, name string, or, least, most int) (int, error) {
	v, ok := n.Attr(name)
	if !ok {
		if or < least {
			return 0, b.failAt(n, "<%s> lacks %s", n.Name, name)
		}
		return or, nil
	}
	i, err := strconv.Atoi(strings.TrimSpace(v))
	if err != nil {
		return 0, b.failAt(n, "%s=%q of <%s> is no whole number", name, markup.Clip(v), n.Name)
	}
	if i < least || i > most {
		return 0, b.failAt(n, "%s=%q of <%s> is out of bounds: %d to %d", name, markup.Clip(v), n.Name, least, most)
	}
	return i, nil
}

// eager is how many pixels of the merged picture are unpacked at once, to see whether they are whole; a larger one
// waits until it is painted.
const eager = 4 << 20

// readLayers unpacks and looks at the layers' pixels, several at once.
func (b *builder) readLayers() error {
	var wg sync.WaitGroup
	var faults guard.Carrier
	free := make(chan struct{}, runtime.GOMAXPROCS(0))
	pictures := make([][]byte, len(b.jobs))
	for i, l := range b.jobs {
		data, size, err := b.picture(l.e.Node, l.src)
		if err != nil {
			return err
		}
		if err := b.opts.Budget.Spend(limit.Pixels, int64(size.X)*int64(size.Y)); err != nil {
			return b.over(l.e.Node, err)
		}
		pictures[i] = data
	}
	for i, l := range b.jobs {
		wg.Add(1)
		free <- struct{}{}
		go func() {
			defer func() { <-free; wg.Done() }()
			defer faults.Guard()
			img, err := png.Decode(bytes.NewReader(pictures[i]))
			if err != nil {
				l.error = b.failAt(l.e.Node, "the picture %s is damaged: %v", markup.Clip(l.src), err)
				return
			}
			l.look(img)
		}()
	}
	wg.Wait()
	faults.Raise()
	for _, l := range b.jobs {
		if l.error != nil {
			return l.error
		}
	}
	return nil
}

// picture is a PNG of the archive and its size, checked before it is unpacked.
func (b *builder) picture(n *markup.Node, src string) ([]byte, image.Point, error) {
	data, err := b.archive.file(src, maxFile)
	if err != nil {
		return nil, image.Point{}, b.failAt(n, "%v", err.(*markup.Error).Msg)
	}
	conf, err := png.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return nil, image.Point{}, b.failAt(n, "%s is no PNG picture", markup.Clip(src))
	}
	if conf.Width > maxSide || conf.Height > maxSide {
		return nil, image.Point{}, b.failAt(n, "%s says it has %d × %d pixels; more than %d on a side are not read",
			markup.Clip(src), conf.Width, conf.Height, maxSide)
	}
	if err := limit.New(limit.Limits{limit.Pixels: b.opts.Budget.Limit(limit.Pixels)}).Spend(limit.Pixels,
		int64(conf.Width)*int64(conf.Height)); err != nil {
		return nil, image.Point{}, b.over(n, err)
	}
	return data, image.Pt(conf.Width, conf.Height), nil
}

// over is the error for a limit that was reached at a node.
func (b *builder) over(n *markup.Node, err error) error {
	fault := b.failAt(n, "%v", err)
	var le *limit.Error
	var me *markup.Error
	if errors.As(err, &le) && errors.As(fault, &me) {
		me.Hint = le.Hint()
	}
	return fault
}

// merged takes the picture of the whole that the file brings along.
func (b *builder) merged(s *design.Screen) error {
	const name = "mergedimage.png"
	if b.archive.files[name] == nil {
		return nil
	}
	data, size, err := b.picture(s.Root.Node, name)
	if err != nil {
		return err
	}
	if float64(size.X) != s.Box.W || float64(size.Y) != s.Box.H {
		b.warn(s.Root.Node, fmt.Sprintf("%s has %d × %d pixels and the canvas %g × %g; the layers are painted instead", name,
			size.X, size.Y, s.Box.W, s.Box.H))
		return nil
	}
	img, err := design.OpenBitmap(data, limit.New(limit.Limits{limit.Pixels: b.opts.Budget.Limit(limit.Pixels)}))
	if err == nil && size.X*size.Y <= eager {
		_, err = design.Pixels(img)
	}
	if err != nil {
		return b.failAt(s.Root.Node, "the picture %s is damaged: %v", name, err)
	}
	s.Merged = &design.PaintNode{Matrix: geom.Identity, Opacity: 1, Bitmap: img, BitmapBox: s.Box}
	return nil
}

// boxes gives groups the boxes of what they hold; the paint of all is cut at the canvas.
func boxes(e *design.Element, canvas geom.Rect) {
	if e.Kind != design.Group {
		e.Painted.Value = e.Painted.Value.Intersect(canvas)
		return
	}
	var g, p geom.Rect
	for _, c := range e.Children {
		boxes(c, canvas)
		if !c.Hidden || e.Hidden {
			g, p = g.Union(c.Geometry.Value), p.Union(c.Painted.Value)
		}
	}
	if e.Parent == nil {
		return
	}
	e.Geometry = design.Derive(g, "union of its layers")
	e.Painted = design.Derive(p, "union of what its layers paint")
	e.Layout = e.Geometry
	if bg := e.Background(); bg != nil {
		e.Layout = design.Derive(bg.Layout.Value, "its background")
	}
}
