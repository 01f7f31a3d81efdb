package pdf

import (
	"fmt"
	"math"
	"strings"
	"unicode/utf16"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// fontface is a font made of the outlines a drawing uses (Type 3), up to 256 of them, and the letters each stands for.
type fontface struct {
	object  int
	codes   map[glyphKey]int
	procs   []int // streams that paint the glyphs
	widths  []float64
	letters []string
}

// glyphKey tells glyphs apart: the same outline may stand for other letters elsewhere.
type glyphKey struct {
	outline *geom.Path
	letters string
}

const glyphUnits = 1000 // of one em

// words paints a run of glyphs with a fill. Words in one colour stay words; others are painted as outlines.
func (c *content) words(n *design.PaintNode, m geom.Matrix, opacity float64) {
	if n.Fill == nil {
		return
	}
	if n.Fill.Kind != design.Solid {
		c.fill(n.Outlines(), false, n.Fill, m, opacity)
		return
	}
	c.op("", "q")
	c.alpha(n.Fill.Color.Alpha * opacity)
	c.op(rgb(n.Fill.Color), "rg")
	c.op("", "BT")
	font, size := "", 0.0
	for i := range n.Glyphs {
		g := &n.Glyphs[i]
		f, code := c.w.glyph(g)
		if name := c.use("Font", "F", f.object); name != font || g.Size != size {
			font, size = name, g.Size
			c.op("/"+name+" "+num(size), "Tf")
		}
		c.op(numbers(1, 0, 0, -1, g.Origin.X, g.Origin.Y), "Tm") // letters stand upright, where y grows downwards
		c.op(fmt.Sprintf("<%02X>", code), "Tj")
	}
	c.op("", "ET")
	c.op("", "Q")
}

// glyph finds a glyph in the fonts, or adds it.
func (w *writer) glyph(g *design.Glyph) (*fontface, int) {
	k := glyphKey{g.Outline, g.Letters}
	for _, f := range w.fonts {
		if code, ok := f.codes[k]; ok {
			return f, code
		}
	}
	var f *fontface
	if n := len(w.fonts); n > 0 && len(w.fonts[n-1].procs) < 256 {
		f = w.fonts[n-1]
	} else {
		f = &fontface{codes: map[glyphKey]int{}}
		w.objects = append(w.objects, "") // written at the end
		f.object = len(w.objects)
		w.fonts = append(w.fonts, f)
	}
	advance := g.Ink.Right() * glyphUnits
	if g.Advance > 0 && g.Size > 0 {
		advance = math.Round(g.Advance / g.Size * glyphUnits)
	}
	p := w.newContent(geom.Identity)
	p.op(numbers(advance, 0), "d0") // a glyph that says its box may be kept as pixels, and then stands on whole ones
	p.path(g.Outline.Transform(geom.Scale(glyphUnits, -glyphUnits)))
	p.op("", "f")
	f.codes[k] = len(f.procs)
	f.procs, f.widths, f.letters = append(f.procs, w.stream("", p.b.Bytes())), append(f.widths, advance), append(f.letters,
		g.Letters)
	return f, len(f.procs) - 1
}

// finishFonts writes the fonts, once all their glyphs are known.
func (w *writer) finishFonts() {
	for _, f := range w.fonts {
		var procs, names, letters strings.Builder
		said := 0
		for i, p := range f.procs {
			fmt.Fprintf(&procs, "/g%d %d 0 R", i, p)
			fmt.Fprintf(&names, "/g%d", i)
			if f.letters[i] != "" {
				fmt.Fprintf(&letters, "<%02X> <%s>\n", i, utf16Hex(f.letters[i]))
				said++
			}
		}
		unicode := w.stream("", []byte(fmt.Sprintf(`/CIDInit /ProcSet findresource begin
12 dict begin
begincmap
/CMapName /Letters def
/CMapType 2 def
1 begincodespacerange
<00> <FF>
endcodespacerange
%s
endcmap
end
end`, charBlocks(letters.String()))))
		w.objects[f.object-1] = fmt.Sprintf("<</Type/Font/Subtype/Type3/FontBBox[0 0 0 0]/FontMatrix[.001 0 0 .001 0 "+
			"0]/CharProcs<<%s>>/Encoding<</Type/Encoding/Differences[0%s]>>/FirstChar 0/LastChar %d/Widths[%s]/ToUnicode %d "+
			"0 R/Resources<<>>>>",
			procs.String(), names.String(), len(f.procs)-1, numbers(f.widths...), unicode)
	}
}

// charBlocks puts lines into the blocks of at most 100 that the format allows.
func charBlocks(lines string) string {
	list := strings.SplitAfter(strings.TrimSuffix(lines, "\n"), "\n")
	var b strings.Builder
	for len(list) > 0 && list[0] != "" {
		n := min(100, len(list))
		fmt.Fprintf(&b, "%d beginbfchar\n%s\nendbfchar\n", n, strings.TrimSuffix(strings.Join(list[:n], ""), "\n"))
		list = list[n:]
	}
	return b.String()
}

func utf16Hex(s string) string {
	var b strings.Builder
	for _, u := range utf16.Encode([]rune(s)) {
		fmt.Fprintf(&b, "%04X", u)
	}
	return b.String()
}
