package svg

import (
	"math"
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// char is one character of a text element after white space is collapsed, with the position its ancestors give it.
type char struct {
	r      rune
	style  *style
	node   *markup.Node
	x, y   float64 // NaN where not given
	dx, dy float64
	track  *track // the path it stands on; nil for a straight line
}

// text reads a text element: its characters, cut into chunks at absolute positions and runs of one style, shaped
// and placed. https://www.w3.org/TR/SVG2/text.html
func (b *builder) text(e *design.Element, n *markup.Node, c context) {
	e.Kind = design.Text
	c = b.effects(e, n, c)
	t := &textLayout{b: b, e: e, c: c}
	t.collect(n, c.style, c, nil)
	t.trim()
	t.place()
	t.facts(n)
	inv, ok := c.ctm.Inverse()
	if ok && t.box.W > 0 {
		c = b.boxEffects(e, n, c, inv.Rect(e.Geometry.Value))
	}
	for _, r := range t.runs {
		if !b.opts.Facts {
			b.paintRun(e, r, c, t.box)
		}
	}
	e.Hidden = c.hidden || c.style.invisible() || e.Paint.Opacity == 0
	painted := e.Geometry.Value
	if ink, ok := t.ink(); ok {
		painted = c.ctm.Rect(ink)
	}
	e.Painted = design.Derive(b.paintedBox(e, painted, c), "ink of the glyphs and effects")
	b.recogniseFilter(e, c)
}

type textLayout struct {
	b     *builder
	e     *design.Element
	c     context
	chars []char
	runs  []*textRun
	lines []design.Line
	words [][]string // of the lines, chunk by chunk
	box   geom.Rect  // of the glyph cells, in user space
	track *track     // while the words of a textPath are collected
}

// collect walks the text content; attrs are the position lists in force, outermost first.
func (t *textLayout) collect(n *markup.Node, st *style, c context, lists []*posList) {
	own := &posList{}
	c.style = st
	own.x, own.y = t.lengths(n, c, "x", 'x'), t.lengths(n, c, "y", 'y')
	own.dx, own.dy = t.lengths(n, c, "dx", 'x'), t.lengths(n, c, "dy", 'y')
	lists = append(lists[:len(lists):len(lists)], own)
	preserve := preserves(n, st)
	for _, k := range n.Children {
		if k.Kind == markup.Text {
			for _, r := range k.Data {
				t.add(r, preserve, st, n, lists)
			}
			continue
		}
		switch {
		case k.Is("tspan"), k.Is("a"), k.Is("textPath"), k.Is("tref"):
			ks := t.b.style(k, st)
			if ks.str("display", "inline") == "none" {
				continue
			}
			if !k.Is("textPath") {
				t.collect(k, ks, c, lists)
				continue
			}
			if tr := t.textTrack(k, ks); tr != nil {
				from := len(t.chars)
				t.track = tr
				t.collect(k, ks, c, lists)
				t.track = nil
				if from < len(t.chars) { // it begins where the path does
					t.chars[from].x, t.chars[from].y = 0, 0
				}
			}
		}
	}
}

type posList struct {
	x, y, dx, dy []float64
	used         int
}

func (t *textLayout) lengths(n *markup.Node, c context, name string, axis byte) []float64 {
	v, ok := n.Attr(name)
	if !ok {
		return nil
	}
	var out []float64
	for _, w := range strings.FieldsFunc(v, func(r rune) bool { return r == ',' || r <= ' ' }) {
		l, err := css.ParseLength(w)
		if err != nil {
			t.b.warn(n, name+": "+err.Error())
			return out
		}
		out = append(out, l.Px(c.style.units(c.percent(axis))))
	}
	return out
}

func preserves(n *markup.Node, st *style) bool {
	if v := st.str("white-space", ""); v != "" {
		return strings.HasPrefix(v, "pre")
	}
	for ; n != nil; n = n.Parent {
		if v, ok := n.AttrNS(markup.XML, "space"); ok {
			return v == "preserve"
		}
	}
	return false
}

func (t *textLayout) add(r rune, preserve bool, st *style, n *markup.Node, lists []*posList) {
	if r == '\n' || r == '\t' || r == '\r' {
		if !preserve && r == '\r' {
			return
		}
		r = ' '
	}
	if r == ' ' && !preserve {
		if len(t.chars) == 0 || t.chars[len(t.chars)-1].r == ' ' {
			return
		}
	}
	ch := char{r: r, style: st, node: n, x: math.NaN(), y: math.NaN(), track: t.track}
	pick := func(v []float64, i int, to *float64) {
		if i < len(v) {
			*to = v[i]
		}
	}
	for _, l := range lists { // the innermost wins
		pick(l.x, l.used, &ch.x)
		pick(l.y, l.used, &ch.y)
		pick(l.dx, l.used, &ch.dx)
		pick(l.dy, l.used, &ch.dy)
		l.used++
	}
	t.chars = append(t.chars, ch)
}

// trim drops the space at the end, and changes case.
func (t *textLayout) trim() {
	for len(t.chars) > 0 {
		last := t.chars[len(t.chars)-1]
		if last.r != ' ' || preserves(last.node, last.style) {
			break
		}
		t.chars = t.chars[:len(t.chars)-1]
	}
	t.changeCase()
}

// chunk is a stretch of text that begins at an absolute place, and is anchored as a whole.
type chunk struct {
	runs   []*textRun
	start  float64 // of its first letter, along x
	end    float64
	style  *style // of its first letter
	placed bool   // at an x of its own
}

// place shapes chunk by chunk: an absolute x or y begins a chunk. Then textLength is made up for, and text-anchor moves
// each chunk. https://www.w3.org/TR/SVG2/text.html#TextLayoutAlgorithm
func (t *textLayout) place() {
	pen := geom.Point{}
	var chunks []*chunk
	for i := 0; i < len(t.chars); {
		j := i + 1
		for j < len(t.chars) && math.IsNaN(t.chars[j].x) && math.IsNaN(t.chars[j].y) {
			j++
		}
		if first := t.chars[i]; !math.IsNaN(first.x) || !math.IsNaN(first.y) {
			if !math.IsNaN(first.x) {
				pen.X = first.x
			}
			if !math.IsNaN(first.y) {
				pen.Y = first.y
			}
		}
		var c *chunk
		c, pen = t.chunk(t.chars[i:j], pen)
		chunks = append(chunks, c)
		i = j
	}
	k := t.stretch(chunks)
	for _, c := range chunks {
		t.anchor(c, k)
	}
	if k != 1 {
		t.squeeze(k)
	}
}

// chunk shapes the runs of a chunk, and says where the pen is afterwards.
func (t *textLayout) chunk(chars []char, pen geom.Point) (*chunk, geom.Point) {
	from := len(t.runs)
	c := &chunk{style: chars[0].style, placed: !math.IsNaN(chars[0].x), start: pen.X + chars[0].dx}
	for i := 0; i < len(chars); {
		j := i + 1
		for j < len(chars) && chars[j].style == chars[i].style && chars[j].track == chars[i].track && chars[j].dx == 0 &&
			chars[j].dy == 0 {
			j++
		}
		pen = pen.Add(geom.Point{X: chars[i].dx, Y: chars[i].dy})
		r := t.shape(chars[i:j])
		r.at, r.track = pen, chars[i].track
		pen.X += r.width
		t.runs = append(t.runs, r)
		i = j
	}
	c.runs, c.end = t.runs[from:len(t.runs):len(t.runs)], pen.X
	return c, pen
}

// anchor moves a chunk to where text-anchor has it, and notes its line; its width counts times k.
func (t *textLayout) anchor(c *chunk, k float64) {
	width := (c.end - c.start) * k
	shift, rtl := 0.0, c.style.rtl()
	switch anchor := c.style.str("text-anchor", "start"); {
	case anchor == "middle":
		shift = -width / 2
	case (anchor == "end") != rtl:
		shift = -width
	}
	if rtl { // the first run stands at the right
		at := c.end
		for _, r := range c.runs {
			at -= r.width
			r.at.X = at
		}
	}
	var words strings.Builder
	for _, r := range c.runs {
		r.at.X += shift
		words.WriteString(r.words)
	}
	line := design.Line{Width: width * t.c.ctm.MeanScale(), Words: words.String(),
		Baseline: t.c.ctm.Apply(c.runs[0].begin())}
	if rtl && c.runs[0].track == nil {
		line.Baseline = t.c.ctm.Apply(c.runs[len(c.runs)-1].at)
	}
	t.addLine(line)
	for _, r := range c.runs {
		r.line = len(t.lines) - 1
	}
}

// addLine joins chunks on one baseline that follow each other closely.
func (t *textLayout) addLine(l design.Line) {
	if k := len(t.lines) - 1; k >= 0 && math.Abs(t.lines[k].Baseline.Y-l.Baseline.Y) < 0.01 {
		prev := &t.lines[k]
		so := &t.words[k]
		if gap := l.Baseline.X - prev.Baseline.X - prev.Width; gap > 0.2*t.c.style.fontSize &&
			!strings.HasSuffix((*so)[len(*so)-1], " ") {
			*so = append(*so, " ")
		}
		*so = append(*so, l.Words)
		prev.Width = math.Max(prev.Width, l.Baseline.X+l.Width-prev.Baseline.X)
		return
	}
	t.lines, t.words = append(t.lines, l), append(t.words, []string{l.Words})
}

// wholeLines puts together the words of lines that came in chunks.
func (t *textLayout) wholeLines() []design.Line {
	for i := range t.lines {
		t.lines[i].Words = strings.Join(t.words[i], "")
	}
	return t.lines
}

// stretch spreads the text to textLength by spacing, or tells how many times as wide its letters are to be.
func (t *textLayout) stretch(chunks []*chunk) (k float64) {
	v, ok := t.e.Node.Attr("textLength")
	if !ok || len(t.runs) == 0 {
		return 1
	}
	l, err := css.ParseLength(v)
	if err != nil {
		return 1
	}
	want, have, count := l.Px(t.c.style.units(t.c.port.X)), 0.0, 0
	for _, r := range t.runs {
		have += r.width
		count += len(r.glyphs)
	}
	if t.e.Node.AttrOr("lengthAdjust", "spacing") != "spacing" {
		return want / math.Max(have, 1e-9)
	}
	if count < 2 {
		return 1
	}
	extra, moved := (want-have)/float64(count-1), 0.0
	last := t.runs[len(t.runs)-1]
	for _, c := range chunks {
		if c.placed {
			moved = 0
		}
		c.start += moved
		for _, r := range c.runs {
			r.at.X += moved
			r.glyphs = slices.Clone(r.glyphs)
			for i := range r.glyphs {
				r.glyphs[i].Origin.X += extra * float64(i)
			}
			wider := extra * float64(len(r.glyphs))
			moved += wider
			if r == last {
				wider -= extra // nothing follows the last letter
			}
			r.width += wider
		}
		end := c.runs[len(c.runs)-1]
		c.end = end.at.X + end.width
	}
	return 1
}

// squeeze makes the letters themselves narrower or wider.
func (t *textLayout) squeeze(k float64) {
	from := t.runs[0].at.X
	wide := geom.Translate(from, 0).Mul(geom.Scale(k, 1)).Mul(geom.Translate(-from, 0))
	for _, r := range t.runs {
		r.squeezed = &wide
	}
}

// ink is the tight box of the glyph outlines in user space.
func (t *textLayout) ink() (geom.Rect, bool) {
	var out geom.Rect
	any := false
	for _, p := range t.e.Paint.Children {
		grow := 0.0
		if p.Stroke != nil {
			grow = p.Stroke.Width / 2
		}
		for _, g := range p.Glyphs {
			out, any = out.Union(p.Matrix.Rect(g.Box().Grow(grow))), true
		}
		if p.Path != nil {
			r, _ := p.Path.Transform(p.Matrix).Bounds()
			out, any = out.Union(r), true
		}
	}
	return out, any
}
