package design

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/geom"

	lexer "github.com/tdewolff/parse/v2/css"
)

// Unit says how lengths are printed: px, rem, em, pt, dp or %.
type Unit struct {
	Name string
	Root float64   // px of 1rem
	Em   float64   // px of 1em
	Of   geom.Rect // the box that per cent are of
}

// Units are the names there are.
var Units = []string{"px", "rem", "em", "pt", "dp", "%"}

// ParseUnit reads a unit's name; root is the px of 1rem.
func ParseUnit(name string, root float64) (Unit, error) {
	for _, u := range Units {
		if u == name {
			return Unit{Name: name, Root: root, Em: root}, nil
		}
	}
	return Unit{}, fmt.Errorf("%q is no unit here; there are %s", name, strings.Join(Units, ", "))
}

// For is the unit as it counts for an element: em by its font size, per cent by the box it lies in.
func (u Unit) For(e *Element) Unit {
	u.Of = e.Container()
	if e.Words != nil && e.Words.Size.Value > 0 {
		u.Em = e.Words.Size.Value
	}
	return u
}

// Text is a length of px in the unit. Per cent are of the width of the box, or of its height where down is set.
func (u Unit) Text(px float64, down bool) string {
	switch u.Name {
	case "rem":
		return css.Num(px/u.Root, 4) + "rem"
	case "em":
		return css.Num(px/u.Em, 4) + "em"
	case "pt":
		return css.Num(px*0.75, 4) + "pt"
	case "dp": // 1 dp is 1 px of a design at density 1
		return css.Num(px, 4) + "dp"
	case "%":
		full := u.Of.W
		if down {
			full = u.Of.H
		}
		if full <= 0 {
			return css.Px(px)
		}
		return css.Num(px/full*100, 2) + "%"
	}
	return css.Px(math.Round(px*1e4) / 1e4)
}

var (
	pxLength = regexp.MustCompile(`-?(?:\d+\.?\d*|\.\d+)px\b`)
	boxText  = regexp.MustCompile(`^(\S+), (\S+)  (\S+) × (\S+) px$`)
)

// Facts are fact lines with their lengths in the unit. What CSS wants in px whatever the unit (angles, shares, pixels
// of pictures) stays; so do, with per cent, the lengths of effects, strokes and type, which have no such form.
func (u Unit) Facts(lines []FactLine) []FactLine {
	if u.Name == "" || u.Name == "px" {
		return lines
	}
	out := make([]FactLine, len(lines))
	for i, l := range lines {
		if quoted[l.Name] {
			out[i] = l
			continue
		}
		if m := boxText.FindStringSubmatch(l.Value); m != nil {
			l.Value = u.Text(number(m[1]), false) + ", " + u.Text(number(m[2]), true) + "  " + u.Text(number(m[3]), false) +
				" × " + u.Text(number(m[4]), true)
		} else if u.Name != "%" || l.Section == "box" && l.Name == "insets" || l.Section == "layout" {
			k := -1
			l.Value = pxLength.ReplaceAllStringFunc(l.Value, func(s string) string {
				k++
				return u.Text(number(strings.TrimSuffix(s, "px")), l.Name == "insets" && k%2 == 0)
			})
		}
		out[i] = l
	}
	return out
}

// Lengths is a CSS value with its lengths of px in the unit; the zero Unit leaves it.
func (u Unit) Lengths(value string) string {
	if u.Name == "" || u.Name == "px" || !strings.Contains(value, "px") {
		return value
	}
	var s strings.Builder
	for _, t := range css.Tokenize(value) {
		if px, ok := strings.CutSuffix(t.Data, "px"); ok && t.Type == lexer.DimensionToken {
			s.WriteString(u.Text(number(px), false))
			continue
		}
		s.WriteString(t.Data)
	}
	return s.String()
}

// quoted are facts whose value is somebody's words, or pixels of a picture.
var quoted = map[string]bool{"words": true, "paragraph": true, "picture": true}

func number(s string) float64 {
	v, _ := strconv.ParseFloat(s, 64)
	return v
}
