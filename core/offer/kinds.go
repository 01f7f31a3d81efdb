package offer

import (
	"math"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/token"
)

// Kind is what a token's value is used for in CSS.
type Kind string

// The kinds. Lengths are distinguished by their names.
const (
	Color      Kind = "color"
	Gradient   Kind = "gradient"
	Space      Kind = "space"
	Radius     Kind = "radius"
	Size       Kind = "size"  // of type
	Width      Kind = "width" // of a line
	Length     Kind = "length"
	Type       Kind = "type"
	Family     Kind = "family"
	Weight     Kind = "weight"
	Number     Kind = "number"
	Shadow     Kind = "shadow"
	Border     Kind = "border"
	Line       Kind = "line" // its style
	Transition Kind = "transition"
	Time       Kind = "time"
	Easing     Kind = "easing"
)

var byType = map[token.Type]Kind{token.Color: Color, token.Gradient: Gradient, token.Typography: Type, token.FontFamily: Family, token.FontWeight: Weight,
	token.Number: Number, token.Shadow: Shadow, token.Border: Border, token.StrokeStyle: Line, token.Transition: Transition,
	token.Duration: Time, token.CubicBezier: Easing}

// KindOf is the kind of a token.
func KindOf(t *token.Token) Kind {
	if t.Type != token.Dimension {
		return byType[t.Type]
	}
	switch token.LengthUse(t.Path) {
	case "space":
		return Space
	case "radius":
		return Radius
	case "size":
		return Size
	case "width":
		return Width
	}
	return Length
}

// propertyKinds are the kinds for a property, the best first. A name that ends in * stands for all that begin so.
var propertyKinds = []struct {
	names string
	kinds []Kind
}{
	{"background background-image border-image mask mask-image border-image-source", []Kind{Color, Gradient}},
	{"border-radius border-*-radius", []Kind{Radius, Length}},
	{"border-width border-*-width outline-width outline-offset column-rule-width text-decoration-thickness stroke-width", []Kind{Width, Length}},
	{"border-style border-*-style outline-style", []Kind{Line}},
	{"border border-top border-right border-bottom border-left border-block* border-inline* outline column-rule", []Kind{Border, Color, Width}},
	{"color *-color fill stroke", []Kind{Color}},
	{"padding* margin* gap row-gap column-gap inset* top right bottom left scroll-padding* scroll-margin*", []Kind{Space, Length}},
	{"width height min-* max-* inline-size block-size flex-basis", []Kind{Length, Space}},
	{"font", []Kind{Type}},
	{"font-size", []Kind{Size, Length}},
	{"font-family", []Kind{Family}},
	{"font-weight", []Kind{Weight}},
	{"line-height", []Kind{Number, Size, Length}},
	{"letter-spacing word-spacing text-indent", []Kind{Length, Space}},
	{"box-shadow text-shadow filter", []Kind{Shadow}},
	{"transition animation", []Kind{Transition, Time, Easing}},
	{"*-duration *-delay", []Kind{Time}},
	{"*-timing-function", []Kind{Easing}},
	{"opacity z-index order flex-grow flex-shrink", []Kind{Number}},
}

// kindPattern is a name with a star in it.
type kindPattern struct {
	head, tail string
	kinds      []Kind
}

// exactKinds and kindPatterns are propertyKinds, taken apart; of patterns the first that fits counts.
var exactKinds, kindPatterns = func() (map[string][]Kind, []kindPattern) {
	exact, patterns := map[string][]Kind{}, []kindPattern{}
	for _, p := range propertyKinds {
		for _, name := range strings.Fields(p.names) {
			if head, tail, star := strings.Cut(name, "*"); star {
				patterns = append(patterns, kindPattern{head, tail, p.kinds})
			} else {
				exact[name] = p.kinds
			}
		}
	}
	return exact, patterns
}()

// KindsFor are the kinds that suit a property, the best first; none where any may.
func KindsFor(property string) []Kind {
	if kinds, ok := exactKinds[property]; ok {
		return kinds
	}
	for _, p := range kindPatterns {
		if len(property) >= len(p.head)+len(p.tail) && strings.HasPrefix(property, p.head) && strings.HasSuffix(property, p.tail) {
			return p.kinds
		}
	}
	return nil
}

// useOf is the use of a colour that a property gives it, as names of tokens say it; "" for none.
func useOf(property string) string {
	switch {
	case property == "color" || strings.HasPrefix(property, "text-decoration"):
		return "text"
	case strings.HasPrefix(property, "background"):
		return "surface"
	case strings.HasPrefix(property, "border") || strings.HasPrefix(property, "outline"):
		return "border"
	case property == "fill" || property == "stroke":
		return "icon"
	}
	return ""
}

// nearness says how far a token's value is from what is typed, else from what the element has.
func nearness(q Query, like []string, root float64) func(*Entry) float64 {
	for _, text := range append([]string{q.Word}, like...) {
		if c, err := color.Parse(text); err == nil && text != "" {
			lab := c.To(color.OKLab).C
			return func(e *Entry) float64 {
				if e.Color == nil {
					return math.Inf(1)
				}
				return math.Round(1e6 * (distance(lab, e.lab) + math.Abs(c.Alpha-e.Color.Alpha)))
			}
		}
		n := css.NumberPrefix(text)
		if n == 0 {
			continue
		}
		if px, ok := px(text, root); ok {
			return func(e *Entry) float64 { return math.Abs(px - e.Px) }
		}
	}
	return func(*Entry) float64 { return 0 }
}

// px is the number of a length in px, of a time in ms, or of a plain number that is being typed.
func px(text string, root float64) (v float64, ok bool) {
	text, _, _ = strings.Cut(text, " ")
	l, err := css.ParseLength(text)
	if err != nil {
		return 0, false
	}
	switch l.Unit {
	case "", "px", "ms":
		return l.Value, true
	case "s":
		return l.Value * 1000, true
	case "rem", "em":
		return l.Value * max(root, 1), true
	}
	return 0, false
}
