package emit

import (
	"fmt"
	"math"
	"strings"

	"archetyp/core/css"
	"archetyp/core/escape"
	"archetyp/core/token"
)

var kotlinWords = set(`as break class continue do else false for fun if in interface is null object package return super this throw
	true try typealias typeof val var when while`)

// Kotlin writes an object of values for Compose. What is another in the dark follows the system's scheme.
func Kotlin(lib *token.Library, o Options) (string, []Warning, error) {
	name, err := o.namer(lib.Base, "Kotlin", func(path string) string {
		return identifier(camel(path, o.Prefix),
			kotlinWords)
	})
	if err != nil {
		return "", nil, err
	}
	pkg := o.Package
	if pkg == "" {
		pkg = "tokens"
	}
	if !KotlinPackage(pkg) {
		return "", nil, fmt.Errorf("%q is no package of Kotlin; write words joined with dots, such as com.example.tokens",
			pkg)
	}
	p := &native{o: o, out: "Kotlin", syntax: kotlin{}}
	var b strings.Builder
	b.Grow(128 * len(lib.Base.Tokens))
	b.WriteString("// " + escape.In("kotlin", escape.LineComment, o.head()) + "\n\npackage " + pkg + "\n" + kotlinTypes +
		"\nobject Tokens {\n")
	put := func(in string) func(t *token.Token, value, dark string) {
		return func(t *token.Token, value, dark string) {
			if t.Description != "" && in == "    " {
				b.WriteString(in + "/** " + escape.In("kotlin", escape.BlockComment, t.Description) + " */\n")
			}
			if t.Deprecated != "" {
				b.WriteString(in + "@Deprecated(" + kotlinString(t.Deprecated) + ")\n")
			}
			typ := kotlinType[t.Type]
			if strings.HasSuffix(value, ".sp") {
				typ = "TextUnit"
			}
			b.WriteString(in + "val " + name(t.Path) + ": " + typ + "\n")
			if dark == "" {
				b.WriteString(in + "    get() = " + value + "\n")
				return
			}
			b.WriteString(in + "    @Composable @ReadOnlyComposable\n" + in + "    get() = if (isSystemInDarkTheme()) " + dark +
				" else " + value + "\n")
		}
	}
	p.constants(lib, put("    "))
	p.others(lib, func(n string) { b.WriteString("\n    object " + identifier(n, kotlinWords) + " {\n") },
		func(t *token.Token, value string) { put("        ")(t, value, "") }, func() { b.WriteString("    }\n") })
	b.WriteString("}\n")
	return b.String(), sortWarnings(p.warnings), nil
}

var kotlinType = map[token.Type]string{token.Color: "Color", token.Dimension: "Dp", token.FontFamily: "List<String>",
	token.FontWeight: "Int",
	token.Number:     "Double", token.Duration: "Long", token.CubicBezier: "CubicBezierEasing", token.StrokeStyle: "Dashes", token.Border: "BorderStyle",
	token.Transition: "Transition", token.Shadow: "List<ShadowLayer>", token.Gradient: "GradientStyle", token.Typography: "TypeStyle"}

const kotlinTypes = `
import androidx.compose.animation.core.CubicBezierEasing
import androidx.compose.foundation.isSystemInDarkTheme
import androidx.compose.runtime.Composable
import androidx.compose.runtime.ReadOnlyComposable
import androidx.compose.ui.graphics.Color
import androidx.compose.ui.graphics.colorspace.ColorSpaces
import androidx.compose.ui.unit.Dp
import androidx.compose.ui.unit.TextUnit
import androidx.compose.ui.unit.dp
import androidx.compose.ui.unit.sp

data class TypeStyle(val family: String, val size: TextUnit, val weight: Int, val letterSpacing: TextUnit, val lineHeight: TextUnit)

data class ShadowLayer(val color: Color, val x: Dp, val y: Dp, val blur: Dp, val spread: Dp, val inset: Boolean)

data class GradientStyle(val kind: String, val degrees: Double, val stops: List<Pair<Float, Color>>)

data class Dashes(val style: String, val lengths: List<Dp>, val cap: String)

data class BorderStyle(val color: Color, val width: Dp, val style: Dashes)

data class Transition(val millis: Long, val delay: Long, val easing: CubicBezierEasing)
`

type kotlin struct{}

func (kotlin) color(space string, c [3]float64, alpha float64) string {
	if space == "p3" {
		return rgba("Color(red = %sf, green = %sf, blue = %sf, alpha = %sf, colorSpace = ColorSpaces.DisplayP3)", c, alpha)
	}
	to8 := func(v float64) int { return int(math.Round(min(1, max(0, v)) * 255)) }
	return fmt.Sprintf("Color(0x%02X%02X%02X%02X)", to8(alpha), to8(c[0]), to8(c[1]), to8(c[2]))
}

func (kotlin) length(px float64, size bool) string {
	if size {
		return sp(px)
	}
	return dp(px)
}

func (kotlin) number(v float64) string {
	s := css.Num(v, 6)
	if !strings.Contains(s, ".") {
		s += ".0" // else it would be an Int
	}
	return s
}

func (kotlin) weight(v float64) string { return css.Num(v, 0) }

func dp(px float64) string { return Unit(px, "dp") }
func sp(px float64) string { return Unit(px, "sp") }

// Unit is a Kotlin literal of a number of dp or sp.
func Unit(v float64, unit string) string {
	if v < 0 { // the sign would be taken for an operator
		return "(" + decimals(v) + ")." + unit
	}
	return decimals(v) + "." + unit
}

func (kotlin) typeStyle(family string, size, weight, spacing, line float64) string {
	first, _, _ := strings.Cut(family, ", ")
	return fmt.Sprintf("TypeStyle(%s, %s, %d, %s, %s)", kotlinString(first), sp(size), int(math.Round(weight)),
		sp(spacing), sp(size*line))
}

func (kotlin) shadow(layers []shadowLayer) string {
	var out []string
	for _, l := range layers {
		out = append(out, fmt.Sprintf("ShadowLayer(%s, %s, %s, %s, %s, %t)", l.color, l.x, l.y, l.blur, l.spread, l.inset))
	}
	return "listOf(" + strings.Join(out, ", ") + ")"
}

func (kotlin) gradient(stops []string, kind string, angle float64) string {
	var out []string
	for _, s := range stops {
		c, at := splitStop(s)
		out = append(out, at+"f to "+c)
	}
	return fmt.Sprintf("GradientStyle(%s, %s.toDouble(), listOf(%s))", kotlinString(kind), decimals(angle),
		strings.Join(out, ", "))
}

func (kotlin) border(color, width, style string) string {
	return "BorderStyle(" + color + ", " + width + ", " + style + ")"
}

func (k kotlin) transition(ms, delay float64, curve [4]float64) string {
	return fmt.Sprintf("Transition(%s, %s, %s)", k.duration(ms), k.duration(delay), k.curve(curve))
}

func (kotlin) curve(c [4]float64) string {
	return rgbaCurve("CubicBezierEasing(%sf, %sf, %sf, %sf)", c)
}

func (kotlin) duration(ms float64) string { return fmt.Sprintf("%dL", int64(math.Round(ms))) }

func (kotlin) family(names []string) string {
	var out []string
	for _, n := range names {
		out = append(out, kotlinString(n))
	}
	return "listOf(" + strings.Join(out, ", ") + ")"
}

func (kotlin) text(s string) string { return `Dashes(` + kotlinString(s) + `, emptyList(), "butt")` }

func (kotlin) dashes(lengths []string, cap string) string {
	return `Dashes("dashed", listOf(` + strings.Join(lengths, ", ") + `), ` + kotlinString(cap) + ")"
}

func kotlinString(s string) string { return escape.In("kotlin", escape.String, s) }
