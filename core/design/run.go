package design

import (
	"strconv"
	"strings"

	"archetyp/core/css"
)

// Looks are the runs of a text, those that follow each other and are set alike joined; the line ends between them count
// as spaces.
func (w *TextFacts) Looks() []Run {
	var out []Run
	for _, r := range w.Runs {
		k := len(out) - 1
		switch {
		case strings.TrimSpace(r.Words) == "":
			if k >= 0 {
				out[k].Words += r.Words
			}
		case k >= 0 && out[k].setAlike(r):
			if out[k].Line != r.Line {
				out[k].Words += " "
				out[k].Line = r.Line
			}
			out[k].Words += r.Words
		default:
			out = append(out, r)
		}
	}
	return out
}

// setAlike reports whether two runs have the same face, size and colour.
func (r Run) setAlike(o Run) bool {
	return r.Family == o.Family && r.Size == o.Size && r.Weight == o.Weight && r.Italic == o.Italic && r.fill() == o.fill()
}

func (r Run) fill() string {
	switch {
	case r.Fill.Kind == Solid:
		return r.Fill.Color.CSS()
	case r.Fill.Gradient != nil:
		return string(r.Fill.Kind) + " #" + r.Fill.Gradient.ID
	}
	return string(r.Fill.Kind)
}

// describe is a run's words and how they are set, as CSS.
func (r Run) describe() string {
	font := strconv.Itoa(r.Weight) + " " + css.Px(r.Size)
	if r.Italic {
		font = "italic " + font
	}
	if r.Family != "" {
		font += " " + FamilyCSS(r.Family)
	}
	return strconv.Quote(strings.Join(strings.Fields(r.Words), " ")) + " " + font + " " + r.fill()
}
