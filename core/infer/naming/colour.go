package naming

import (
	"archetyp/core/color"
	"archetyp/core/design"
)

// colourOf is the word for the colour that most of an element is filled with; "" where nothing has one.
func colourOf(e *design.Element) string {
	most, word := 0.0, ""
	e.Walk(func(x *design.Element) {
		b := x.BorderBox()
		for _, f := range x.Fills {
			if f.Value.Kind == design.Solid && b.W*b.H > most && f.Value.Color.Alpha > 0.2 {
				most, word = b.W*b.H, colourWord(f.Value.Color)
			}
		}
		for _, s := range x.Strokes {
			if area := s.Value.Width * (b.W + b.H); s.Value.Paint.Kind == design.Solid && area > most {
				most, word = area, colourWord(s.Value.Paint.Color)
			}
		}
	})
	return word
}

// hues are words for hues of OKLCH, in degrees, by where they end.
var hues = []struct {
	to   float64
	word string
}{{20, "pink"}, {45, "red"}, {75, "orange"}, {115, "yellow"}, {165, "green"}, {205, "teal"}, {275, "blue"}, {325, "purple"}, {361, "pink"}}

// colourWord is a word for a colour.
func colourWord(c color.Color) string {
	lch := c.To(color.OKLCH).C
	switch light, chroma := lch[0], lch[1]; {
	case light < 0.22:
		return "black"
	case chroma < 0.03 && light > 0.93:
		return "white"
	case chroma < 0.03:
		return "grey"
	}
	for _, h := range hues {
		if lch[2] < h.to {
			return h.word
		}
	}
	return ""
}
