package emit

import (
	"fmt"
	"strings"

	"archetyp/core/css"
	"archetyp/core/escape"
	"archetyp/core/token"
)

var swiftWords = set(`associatedtype class deinit enum extension fileprivate func import init inout internal let open operator private
	precedencegroup protocol public rethrows static struct subscript typealias var break case catch continue default defer do else
	fallthrough for guard if in repeat return throw switch where while Any as await false is nil self Self super throws true try`)

// Swift writes constants for SwiftUI. Lengths are points.
func Swift(lib *token.Library, o Options) (string, []Warning, error) {
	name, err := o.namer(lib.Base, "Swift", func(path string) string {
		return identifier(camel(path, o.Prefix),
			swiftWords)
	})
	if err != nil {
		return "", nil, err
	}
	p := &native{o: o, out: "Swift", syntax: swift{}}
	var b strings.Builder
	b.Grow(160 * len(lib.Base.Tokens))
	b.WriteString("// " + escape.In("swift", escape.LineComment, o.head()) + "\n\nimport SwiftUI\n" + swiftTypes +
		"\npublic enum Tokens {\n")
	put := func(in string) func(t *token.Token, value, dark string) {
		return func(t *token.Token, value, dark string) {
			if t.Description != "" && in == "    " {
				b.WriteString(in + "/// " + escape.In("swift", escape.LineComment, t.Description) + "\n")
			}
			if t.Deprecated != "" {
				b.WriteString(in + "@available(*, deprecated, message: " + swiftString(t.Deprecated) + ")\n")
			}
			switch {
			case dark == "":
				b.WriteString(in + "public static let " + name(t.Path) + " = " + value + "\n")
			case t.Type == token.Color:
				b.WriteString(in + "public static let " + name(t.Path) + " = Color.scheme(light: " + value + ", dark: " + dark +
					")\n")
			default:
				b.WriteString(in + "public static let " + name(t.Path) + " = " + value + "\n")
				b.WriteString(in + "public static let " + name(t.Path) + "Dark = " + dark + "\n")
			}
		}
	}
	p.constants(lib, put("    "))
	p.others(lib, func(n string) { b.WriteString("\n    public enum " + identifier(n, swiftWords) + " {\n") },
		func(t *token.Token, value string) { put("        ")(t, value, "") }, func() { b.WriteString("    }\n") })
	b.WriteString("}\n")
	return b.String(), sortWarnings(p.warnings), nil
}

const swiftTypes = `
public struct TypeStyle {
    public let family: String
    public let size: CGFloat
    public let weight: CGFloat
    public let tracking: CGFloat
    public let lineHeight: CGFloat

    public var font: Font { Font.custom(family, size: size) }
}

public struct ShadowLayer {
    public let color: Color
    public let x: CGFloat
    public let y: CGFloat
    public let blur: CGFloat
    public let spread: CGFloat
    public let inset: Bool
}

public struct GradientStyle {
    public let kind: String
    public let degrees: Double
    public let stops: [Gradient.Stop]
}

public struct BorderStyle {
    public let color: Color
    public let width: CGFloat
    public let style: String
}

public struct Curve {
    public let x1: Double
    public let y1: Double
    public let x2: Double
    public let y2: Double
}

public struct TransitionStyle {
    public let seconds: Double
    public let delay: Double
    public let curve: Curve
}

extension Color {
    static func scheme(light: Color, dark: Color) -> Color {
        #if canImport(UIKit)
        return Color(UIColor { $0.userInterfaceStyle == .dark ? UIColor(dark) : UIColor(light) })
        #else
        return light
        #endif
    }
}
`

type swift struct{}

func (swift) color(space string, c [3]float64, alpha float64) string {
	name := map[string]string{"srgb": ".sRGB", "p3": ".displayP3"}[space]
	return rgba("Color("+name+", red: %s, green: %s, blue: %s, opacity: %s)", c, alpha)
}

func (swift) length(px float64, _ bool) string { return "CGFloat(" + decimals(px) + ")" }

func (swift) number(v float64) string { return "Double(" + css.Num(v, 6) + ")" }
func (swift) weight(v float64) string { return "CGFloat(" + decimals(v) + ")" }

func (swift) typeStyle(family string, size, weight, spacing, line float64) string {
	first, _, _ := strings.Cut(family, ", ")
	return fmt.Sprintf("TypeStyle(family: %s, size: %s, weight: %s, tracking: %s, lineHeight: %s)", swiftString(first),
		decimals(size), decimals(weight), decimals(spacing), decimals(line))
}

func (swift) shadow(layers []shadowLayer) string {
	var out []string
	for _, l := range layers {
		out = append(out, fmt.Sprintf("ShadowLayer(color: %s, x: %s, y: %s, blur: %s, spread: %s, inset: %t)", l.color, l.x,
			l.y, l.blur, l.spread, l.inset))
	}
	return "[" + strings.Join(out, ", ") + "]"
}

func (swift) gradient(stops []string, kind string, angle float64) string {
	var out []string
	for _, s := range stops {
		c, at := splitStop(s)
		out = append(out, "Gradient.Stop(color: "+c+", location: "+at+")")
	}
	return fmt.Sprintf("GradientStyle(kind: %s, degrees: %s, stops: [%s])", swiftString(kind), decimals(angle),
		strings.Join(out, ", "))
}

func (swift) border(color, width, style string) string {
	return "BorderStyle(color: " + color + ", width: " + width + ", style: " + swiftText(style) + ")"
}

// swiftText makes the style of a border a text, also where it is a pattern of dashes.
func swiftText(style string) string {
	if strings.HasPrefix(style, `"`) {
		return style
	}
	return `"dashed"`
}

func (s swift) transition(ms, delay float64, curve [4]float64) string {
	return fmt.Sprintf("TransitionStyle(seconds: %s, delay: %s, curve: %s)", decimals(ms/1000), decimals(delay/1000),
		s.curve(curve))
}

func (swift) curve(c [4]float64) string { return rgbaCurve("Curve(x1: %s, y1: %s, x2: %s, y2: %s)", c) }

func rgbaCurve(f string, c [4]float64) string {
	return fmt.Sprintf(f, decimals(c[0]), decimals(c[1]), decimals(c[2]), decimals(c[3]))
}

func (swift) duration(ms float64) string { return "Double(" + decimals(ms/1000) + ")" }

func (swift) family(names []string) string {
	var out []string
	for _, n := range names {
		out = append(out, swiftString(n))
	}
	return "[" + strings.Join(out, ", ") + "]"
}

func (swift) text(s string) string { return swiftString(s) }

func (swift) dashes(lengths []string, cap string) string {
	return "StrokeStyle(lineCap: ." + cap + ", dash: [" + strings.Join(lengths, ", ") + "])"
}

func swiftString(s string) string { return escape.In("swift", escape.String, s) }
