package svg

import (
	"fmt"
	"math"
	"strings"

	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

type textRun struct {
	style    *style
	node     *markup.Node
	words    string
	at       geom.Point   // start of the baseline in user space
	track    *track       // the path the glyphs stand on; nil for a straight line
	squeezed *geom.Matrix // what makes the letters narrower or wider; nil for nothing
	glyphs   []font.Glyph
	width    float64
	face     *font.Face
	found    bool
	missing  bool    // the face stands in for the family asked for
	baseline float64 // dominant-baseline shift, added to y
	line     int     // which line it stands on
}

func (t *textLayout) fontStyle(st *style) font.Style {
	f := font.Style{Size: st.fontSize, Weight: st.weight, Italic: strings.HasPrefix(st.str("font-style", "normal"),
		"italic") ||
		strings.HasPrefix(st.str("font-style", "normal"), "oblique"), NoKern: st.str("font-kerning", "auto") == "none"}
	if v, _, ok := st.Get("font-family"); ok {
		f.Families = font.Families(v)
	}
	if len(f.Families) > 0 {
		f.Families[0], f.Weight, f.Italic = t.b.shaper.Set.Named(f.Families[0], f.Weight, f.Italic)
	}
	f.RTL = st.rtl()
	f.Spacing, f.Word = st.px("letter-spacing", 0, st.fontSize), st.px("word-spacing", 0, st.fontSize)
	return f
}

// rtl reports whether the words run from right to left.
func (s *style) rtl() bool { return s.str("direction", "ltr") == "rtl" }

func (t *textLayout) shape(chars []char) *textRun {
	var words strings.Builder
	for _, ch := range chars {
		words.WriteRune(ch.r)
	}
	st := chars[0].style
	r := &textRun{style: st, node: chars[0].node, words: words.String()}
	fs := t.fontStyle(st)
	r.glyphs, r.width, r.face, r.found = t.b.shaper.Shape(r.words, fs)
	r.width = math.Ceil(r.width*64-1e-6) / 64 // browsers count widths in 64ths of a pixel
	r.missing = !r.found || len(fs.Families) > 0 && !font.Generic(fs.Families[0]) && !font.Same(r.face.Family,
		fs.Families[0])
	t.b.noteFont(r, fs)
	em := st.fontSize
	switch st.str("dominant-baseline", "auto") {
	case "middle":
		r.baseline = r.face.XHeight * em / 2
	case "central":
		r.baseline = (r.face.Ascent - r.face.Descent) * em / 2
	case "hanging":
		r.baseline = r.face.Ascent * em * 0.8
	case "text-before-edge", "text-top":
		r.baseline = r.face.Ascent * em
	case "text-after-edge", "text-bottom", "ideographic":
		r.baseline = -r.face.Descent * em
	}
	return r
}

func (b *builder) noteFont(r *textRun, fs font.Style) {
	family := ""
	if len(fs.Families) > 0 {
		family = fs.Families[0]
	}
	found := r.found || font.Generic(family)
	use := design.FontUse{Family: family, Weight: fs.Weight, Italic: fs.Italic, File: r.face.File, Found: found}
	if family == "" || !b.useFont(use) {
		return
	}
	if !found {
		b.warn(r.node, fmt.Sprintf("the font family %q is missing; its text is measured with %s instead (font files go "+
			"into a folder listed under \"fonts\" in archetyp.yaml)", family, r.face.Family))
	} else if r.found && !font.Generic(family) && !font.Same(r.face.Family, family) {
		b.warn(r.node, fmt.Sprintf("the font family %q is missing; %s stands in", family, r.face.Family))
	}
}

// useFont notes a font the document asks for; false where it is known already.
func (b *builder) useFont(f design.FontUse) bool {
	known := b.fonts[f]
	if !known {
		b.fonts[f] = true
		b.doc.Fonts = append(b.doc.Fonts, f)
	}
	return !known
}

// paintRun turns a run into glyphs and decoration lines of the element's paint.
func (b *builder) paintRun(e *design.Element, r *textRun, c context, box geom.Rect) {
	if r.style.invisible() {
		return
	}
	c.style = r.style
	p := &design.PaintNode{Matrix: geom.Identity, Opacity: 1, StrokeFirst: strokeFirst(r.style), Element: e}
	if r.squeezed != nil {
		p.Matrix = *r.squeezed
	}
	if fill, ok := b.paint(r.node, c, "fill", box); ok {
		p.Fill = &fill
	}
	if s, ok := b.stroke(r.node, c, box); ok {
		p.Stroke = &s
	}
	if r.track != nil {
		b.paintBent(e, p, r)
		return
	}
	letters := font.Letters(r.words, r.glyphs)
	for i, g := range r.glyphs {
		o, ink := b.shaper.Outline(g, r.style.weight)
		if !o.Empty() {
			p.Glyphs = append(p.Glyphs, design.Glyph{Outline: o, Ink: ink, Size: r.style.fontSize, Letters: letters[i],
				Advance: g.Advance,
				Origin:  g.Origin.Add(r.at).Add(geom.Point{Y: r.baseline})})
		}
	}
	if len(p.Glyphs) > 0 {
		e.Paint.Children = append(e.Paint.Children, p)
	}
	if line := r.decoration(); line != nil {
		e.Paint.Children = append(e.Paint.Children, &design.PaintNode{Matrix: p.Matrix, Opacity: 1, Path: line, Fill: p.Fill,
			Element: e})
	}
}

// decoration is the outline of underline and line-through.
func (r *textRun) decoration() *geom.Path {
	v := r.style.decorations()
	if v == "" || r.width == 0 {
		return nil
	}
	p := &geom.Path{}
	em := r.style.fontSize
	bar := func(y float64) {
		p.Append(geom.Rect{X: r.at.X, Y: r.at.Y + r.baseline + y, W: r.width, H: math.Max(1, em*0.05)}.Path())
	}
	if strings.Contains(v, "underline") {
		bar(em * 0.1)
	}
	if strings.Contains(v, "line-through") {
		bar(-em * 0.3)
	}
	if strings.Contains(v, "overline") {
		bar(-r.face.Ascent * em)
	}
	return p
}

// decorations looks up the tree: text-decoration is not inherited but passes over all that is inside.
func (s *style) decorations() string {
	for ; s != nil; s = s.parent {
		for _, prop := range []string{"text-decoration", "text-decoration-line"} {
			if v, ok := s.Raw(prop); ok && v != "none" {
				return s.str(prop, "")
			}
		}
	}
	return ""
}
