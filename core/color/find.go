package color

import (
	"strings"

	"archetyp/core/css"

	lexer "github.com/tdewolff/parse/v2/css"
)

// At is a colour in a value of CSS, and the bytes it takes there.
type At struct {
	From, To int
	Color    Color
}

// In finds the colours that a value of CSS states: as hexadecimal, by name, as a function. What stands in url() or var()
// is none, nor is a function with a var() in it, nor transparent.
func In(value string) (out []At) {
	toks := css.Tokenize(value)
	for i := 0; i < len(toks); i++ {
		t := &toks[i]
		at := At{From: t.Offset, To: t.Offset + len(t.Data)}
		switch t.Type {
		case lexer.HashToken:
		case lexer.IdentToken:
			if _, ok := Named(strings.ToLower(t.Data)); !ok || strings.EqualFold(t.Data, "transparent") {
				continue
			}
		case lexer.FunctionToken:
			end := css.Closing(toks, i)
			switch strings.ToLower(strings.TrimSuffix(t.Data, "(")) {
			case "rgb", "rgba", "hsl", "hsla", "hwb", "lab", "lch", "oklab", "oklch", "color":
				if at.To = len(value); end < len(toks) {
					at.To = toks[end].Offset + 1
				}
				i = end
			case "url", "var":
				i = end
				continue
			default: // its arguments may be colours: a gradient, color-mix()
				continue
			}
		default:
			continue
		}
		if c, err := Parse(value[at.From:at.To]); err == nil {
			at.Color = c
			out = append(out, at)
		}
	}
	return out
}
