package drift

import (
	"math"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"

	lexer "github.com/tdewolff/parse/v2/css"
)

// value is a computed value taken apart: what it says, with its colours and numbers apart.
type value struct {
	shape   string // the value with its colours as § and its numbers as #
	colours []color.Color
	numbers []float64
	units   []string
}

// parted takes a computed value apart.
func parted(text string) value {
	var v value
	var b strings.Builder
	at := 0
	for _, c := range color.In(text) {
		v.numbered(&b, text[at:c.From])
		b.WriteRune('§')
		v.colours = append(v.colours, c.Color)
		at = c.To
	}
	v.numbered(&b, text[at:])
	v.shape = b.String()
	return v
}

func (v *value) numbered(b *strings.Builder, text string) {
	for _, t := range css.Tokenize(text) {
		switch t.Type {
		case lexer.NumberToken, lexer.DimensionToken, lexer.PercentageToken:
			end := strings.IndexFunc(t.Data, func(r rune) bool { return (r < '0' || r > '9') && !strings.ContainsRune("+-.eE", r) })
			if end < 0 {
				end = len(t.Data)
			}
			if strings.HasSuffix(t.Data[:end], "e") { // of em
				end--
			}
			if n, err := strconv.ParseFloat(t.Data[:end], 64); err == nil {
				b.WriteRune('#')
				v.numbers = append(v.numbers, n)
				v.units = append(v.units, t.Data[end:])
				continue
			}
			b.WriteString(t.Data)
		case lexer.WhitespaceToken:
			b.WriteByte(' ')
		default:
			b.WriteString(t.Data)
		}
	}
}

// apart says how far two computed values of a property are from each other. same holds within the tolerances.
func (t Tolerances) apart(property, a, b string) (far float64, unit string, same bool) {
	if a == b {
		return 0, "", true
	}
	if property == "letter-spacing" || property == "word-spacing" {
		a, b = strings.Replace(a, "normal", "0px", 1), strings.Replace(b, "normal", "0px", 1)
	}
	if a == b {
		return 0, "", true
	}
	if strings.Contains(a, "gradient(") && strings.Contains(b, "gradient(") {
		if a, b = evenEnds(a), evenEnds(b); a == b {
			return 0, "", true
		}
	}
	x, y := parted(a), parted(b)
	if len(x.colours) == 1 && len(y.colours) == 1 && x.shape == "§" && y.shape == "§" {
		d := distance(x.colours[0], y.colours[0])
		return d, "OKLab", d <= max(t.Colour, 0.0005)
	}
	if x.shape != y.shape || len(x.colours) != len(y.colours) || len(x.numbers) != len(y.numbers) {
		return 0, "", false
	}
	same = true
	for i := range x.colours {
		d := distance(x.colours[i], y.colours[i])
		if d > max(t.Colour, 0.0005) {
			same = false
		}
		if d > far {
			far, unit = d, "OKLab"
		}
	}
	for i := range x.numbers {
		d := math.Abs(x.numbers[i] - y.numbers[i])
		allowed := t.Share
		if x.units[i] != y.units[i] {
			return far, unit, false
		}
		if x.units[i] == "px" {
			allowed = t.Length
		}
		if d > max(allowed, 0.005) {
			same = false
			if unit != "OKLab" && d > far || unit == "OKLab" {
				far, unit = d, x.units[i]
			}
		}
	}
	return far, unit, same
}

// evenEnds is a gradient without the places of its first and last stop where these are the ends.
func evenEnds(v string) string {
	v = strings.ReplaceAll(v, " 100%)", ")")
	out := ""
	for {
		open := strings.Index(v, "gradient(")
		if open < 0 {
			return out + v
		}
		open += len("gradient(")
		out, v = out+v[:open], v[open:]
		depth, from := 0, 0
	stops:
		for i := 0; i < len(v); i++ { // the first colour, before the first comma behind it
			switch v[i] {
			case '(':
				depth++
			case ')':
				if depth--; depth < 0 {
					break stops
				}
			case ',':
				if depth > 0 {
					continue
				}
				if part := v[from:i]; len(color.In(part)) > 0 {
					out, v = out+strings.TrimSuffix(v[:i], " 0%"), v[i:]
					break stops
				}
				from = i + 1
			}
		}
	}
}

// sameLiteral reports whether two values of custom properties say the same, whatever they are written as.
func (in *In) sameLiteral(a, b string) bool {
	norm := func(v string) string { return strings.Join(strings.Fields(strings.ToLower(v)), " ") }
	if norm(a) == norm(b) {
		return true
	}
	if x, err := css.ParseLength(a); err == nil {
		if y, err := css.ParseLength(b); err == nil {
			u := css.Units{Rem: 16, Em: 16}
			return math.Abs(x.Px(u)-y.Px(u)) <= max(in.Tolerances.Length, 0.005)
		}
	}
	_, _, same := in.Tolerances.apart("", a, b)
	return same
}

// distance is how far two colours are from each other in OKLab, with their opacity.
func distance(a, b color.Color) float64 {
	return math.Hypot(color.Difference(a.WithAlpha(1), b.WithAlpha(1))*min(1, a.Alpha+b.Alpha), a.Alpha-b.Alpha)
}

// kindOf is the kind of difference that another value of a property is.
func kindOf(property string) Kind {
	has := strings.Contains
	switch {
	case strings.HasPrefix(property, "--"):
		return Other
	case strings.HasPrefix(property, "transition"), strings.HasPrefix(property, "animation"):
		return Motion
	case property == "box-shadow", property == "text-shadow", property == "filter", property == "backdrop-filter":
		return Shadow
	case has(property, "radius"):
		return Radius
	case property == "opacity", property == "visibility":
		return Opacity
	case strings.HasPrefix(property, "border"), strings.HasPrefix(property, "outline"):
		return Border
	case has(property, "color"), property == "fill", property == "stroke", property == "background":
		return Colour
	case has(property, "image"), property == "content", strings.HasPrefix(property, "background"), strings.HasPrefix(property, "mask"), property == "d":
		if property == "background-image" {
			return Colour // mostly gradients; what has an address counts as a picture where it is compared
		}
		return Picture
	case strings.HasPrefix(property, "font"), property == "line-height", strings.HasPrefix(property, "letter-spacing"), property == "word-spacing",
		strings.HasPrefix(property, "text-transform"), strings.HasPrefix(property, "text-decoration"), property == "font":
		return Type
	case strings.HasPrefix(property, "margin"), strings.HasPrefix(property, "padding"), has(property, "gap"), strings.HasPrefix(property, "inset"),
		property == "top", property == "right", property == "bottom", property == "left", property == "text-indent":
		return Space
	case has(property, "width"), has(property, "height"), property == "aspect-ratio", property == "block-size", property == "inline-size":
		return Size
	case strings.HasPrefix(property, "display"), has(property, "align"), has(property, "justify"), strings.HasPrefix(property, "place"), strings.HasPrefix(property, "flex"),
		strings.HasPrefix(property, "grid"), property == "order", property == "position", strings.HasPrefix(property, "overflow"), property == "float", property == "clear",
		property == "z-index", strings.HasPrefix(property, "column"), property == "white-space", strings.HasPrefix(property, "transform"), property == "translate",
		property == "rotate", property == "scale", property == "box-sizing", property == "writing-mode", property == "direction":
		return Layout
	}
	return Other
}

// Canonical is a value of a token or a property in a form in which alike values are the same text: colours as CSS, then
// what else it says.
func Canonical(text string) string {
	v := parted(text)
	var b strings.Builder
	for _, c := range v.colours {
		b.WriteString(c.CSS() + " ")
	}
	n := len(v.numbers)
	if strings.Contains(v.shape, "§") && !strings.Contains(v.shape, "(") && n > 0 { // a shadow: its spread may be left out
		for n > 2 && v.numbers[n-1] == 0 {
			n--
		}
		for i, x := range v.numbers[:n] {
			unit := v.units[i]
			if x == 0 || unit == "" {
				unit = "px"
			}
			b.WriteString(css.Num(x, 4) + unit + " ")
		}
		return b.String()
	}
	b.WriteString(v.shape)
	for i, x := range v.numbers {
		b.WriteString(" " + css.Num(x, 4) + v.units[i])
	}
	return b.String()
}
