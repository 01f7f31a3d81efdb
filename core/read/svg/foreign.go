package svg

import (
	"math"
	"strings"

	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// foreign reads a foreignObject as the text of its HTML: words in lines that are broken at its width, each in its own
// style. Boxes, pictures and columns of the page inside are not laid out.
func (b *builder) foreign(e *design.Element, n *markup.Node, c context) {
	e.Kind = design.Text
	box := b.xywh(n, c)
	e.Geometry = design.State(c.ctm.Rect(box), "x, y, width, height")
	e.Layout = e.Geometry
	c = b.boxEffects(e, n, b.effects(e, n, c), box)
	f := &foreignText{b: b, c: c, box: box, words: &design.TextFacts{}}
	f.collect(n, c.style)
	e.Words = f.words
	f.place(e)
	e.Hidden = c.hidden || c.style.invisible() || e.Paint.Opacity == 0
	if e.Hidden {
		e.Paint.Children = nil
	}
	e.Painted = design.Derive(b.paintedBox(e, e.Geometry.Value, c), "its box")
	b.recogniseFilter(e, c)
}

// foreignText is the words of a page inside a drawing, laid out in lines.
type foreignText struct {
	b     *builder
	c     context
	box   geom.Rect
	words *design.TextFacts
	all   []foreignWord
}

type foreignWord struct {
	text     string
	style    *style
	node     *markup.Node
	newLine  bool // a block or a line break comes before it
	space    bool // white space comes before it
	width    float64
	face     *font.Face
	found    bool
	glyphs   []font.Glyph
	fontSize float64
}

// blocks are the HTML elements that begin a line of their own.
var blocks = func() map[string]bool {
	m := map[string]bool{}
	for _, n := range strings.Fields("div p h1 h2 h3 h4 h5 h6 ul ol li dl dt dd table tr section article header footer " +
		"main nav aside blockquote pre form figure body") {
		m[n] = true
	}
	return m
}()

func (f *foreignText) collect(n *markup.Node, st *style) {
	for _, k := range n.Children {
		if k.Kind == markup.Text {
			f.text(k, n, st)
			continue
		}
		switch k.Local {
		case "script", "style", "template", "head":
			continue
		case "br":
			f.all = append(f.all, foreignWord{style: st, node: k, newLine: true})
			continue
		}
		ks := f.b.style(k, st)
		if ks.str("display", "inline") == "none" || ks.invisible() {
			continue
		}
		switch k.Local { // what a page's own style sheet says
		case "b", "strong", "th", "h1", "h2", "h3", "h4":
			if !ks.has("font-weight") {
				ks.weight = 700
			}
		}
		from := len(f.all)
		f.collect(k, ks)
		block := blocks[k.Local] || ks.str("display", "inline") == "block" || ks.str("display", "inline") == "flex"
		if block && from < len(f.all) {
			f.all[from].newLine = true
			f.all = append(f.all, foreignWord{style: st, node: k, newLine: true})
		}
	}
}

func (f *foreignText) text(k, parent *markup.Node, st *style) {
	data := k.Data
	words := strings.Fields(data)
	for i, w := range words {
		space := i > 0 || strings.TrimLeft(data, " \t\r\n") != data
		f.all = append(f.all, foreignWord{text: w, style: st, node: parent, space: space})
	}
	if len(words) > 0 && strings.TrimRight(data, " \t\r\n") != data {
		f.all = append(f.all, foreignWord{style: st, node: parent, space: true})
	}
}

// place breaks the words into lines and paints them.
func (f *foreignText) place(e *design.Element) {
	t := &textLayout{b: f.b, e: e, c: f.c}
	var lines [][]foreignWord
	var text []string
	var line []foreignWord
	var words strings.Builder
	x, pending, broken := 0.0, false, true
	flush := func(hard bool) {
		if len(line) > 0 {
			lines = append(lines, line)
		}
		line, x, pending = nil, 0, false
		if hard && words.Len() > 0 {
			text = append(text, words.String())
			words.Reset()
		}
		broken = true
	}
	for _, w := range f.all {
		if w.newLine {
			flush(true)
		}
		pending = pending || w.space
		if w.text == "" {
			continue
		}
		fs := t.fontStyle(w.style)
		w.glyphs, w.width, w.face, w.found = f.b.shaper.Shape(w.text, fs)
		w.fontSize = w.style.fontSize
		_, gap, _, _ := f.b.shaper.Shape(" ", fs)
		f.b.noteFont(&textRun{style: w.style, node: w.node, face: w.face, found: w.found}, fs)
		w.space = pending && !broken
		if w.space && x+gap+w.width > f.box.W+0.01 && f.c.style.str("white-space", "normal") != "nowrap" {
			flush(false)
			w.space = false
			words.WriteByte(' ')
		} else if w.space {
			x += gap
			words.WriteByte(' ')
		}
		x += w.width
		words.WriteString(w.text)
		line, pending, broken = append(line, w), false, false
	}
	flush(true)
	f.words.Words = strings.Join(text, "\n")
	f.paint(e, t, lines)
}

// paint lays the lines under each other and states how they are set.
func (f *foreignText) paint(e *design.Element, t *textLayout, lines [][]foreignWord) {
	scale := f.c.ctm.MeanScale()
	y := f.box.Y
	for i, line := range lines {
		first := line[0]
		normal := first.face.Ascent + first.face.Descent + first.face.LineGap
		height := normal * first.fontSize
		if px, ok := first.style.lineHeight(); ok {
			height = px
		}
		if i == 0 {
			f.words.Used, f.words.Normal = first.face.Family, normal
			t.setting(f.words, first.style, first.node, scale)
			f.words.LineHeight = design.Derive(round6(height*scale), "CSS of the page inside")
		}
		width := 0.0
		var words strings.Builder
		for k := range line {
			if line[k].space && k > 0 {
				_, gap, _, _ := f.b.shaper.Shape(" ", t.fontStyle(line[k].style))
				width += gap
				words.WriteByte(' ')
			}
			width += line[k].width
			words.WriteString(line[k].text)
		}
		x := f.box.X
		align := first.style.str("text-align", "left")
		switch align {
		case "center":
			x += (f.box.W - width) / 2
		case "right", "end":
			x += f.box.W - width
			align = "right"
		default:
			align = "left"
		}
		if i == 0 {
			f.words.Align = fact(first.style, first.node, "text-align", align)
		}
		base := y + (height-(first.face.Ascent+first.face.Descent)*first.fontSize)/2 + first.face.Ascent*first.fontSize
		f.words.Lines = append(f.words.Lines, design.Line{Words: words.String(),
			Baseline: f.c.ctm.Apply(geom.Point{X: x, Y: base}), Width: width * scale})
		f.paintLine(e, t, line, geom.Point{X: x, Y: base}, scale)
		y += math.Max(height, 0)
	}
}

func (f *foreignText) paintLine(e *design.Element, t *textLayout, line []foreignWord, pen geom.Point, scale float64) {
	for k, w := range line {
		if w.space && k > 0 {
			_, gap, _, _ := f.b.shaper.Shape(" ", t.fontStyle(w.style))
			pen.X += gap
		}
		col, err := w.style.color("currentcolor")
		if err != nil {
			continue
		}
		fill := design.Paint{Kind: design.Solid, Color: col, Opacity: 1}
		if len(e.Fills) == 0 {
			e.Fills = append(e.Fills, fact(w.style, w.node, "color", fill))
		}
		run := design.Run{Words: w.text, Size: w.fontSize * scale, Weight: w.style.weight, Fill: fill, Node: w.node}
		run.Family, _, _ = w.style.Get("font-family")
		f.words.Runs = append(f.words.Runs, run)
		p := &design.PaintNode{Matrix: geom.Identity, Opacity: 1, Fill: &fill, Element: e}
		letters := font.Letters(w.text, w.glyphs)
		for i, g := range w.glyphs {
			o, ink := f.b.shaper.Outline(g, w.style.weight)
			if !o.Empty() {
				p.Glyphs = append(p.Glyphs, design.Glyph{Outline: o, Ink: ink, Size: w.fontSize, Origin: g.Origin.Add(pen),
					Letters: letters[i], Advance: g.Advance})
			}
		}
		if len(p.Glyphs) > 0 {
			e.Paint.Children = append(e.Paint.Children, p)
		}
		pen.X += w.width
	}
}
