package grammar

import (
	"math"
	"strings"

	"archetyp/core/color"
)

// Legacy is what the Text of a Colour part says where the colour was written in a way that is printed as rgb().
const Legacy = "rgb"

// systemColours are the system colours of CSS Color 4, as they are in a light and in a dark scheme.
var systemColours = map[string][2]string{
	"accentcolor": {"#0075ff", "#0075ff"}, "accentcolortext": {"#ffffff", "#ffffff"}, "activetext": {"#ff0000", "#ff9e9e"}, "buttonborder": {"#000000", "#ffffff"},
	"buttonface": {"#efefef", "#6b6b6b"}, "buttontext": {"#000000", "#ffffff"}, "canvas": {"#ffffff", "#121212"}, "canvastext": {"#000000", "#ffffff"},
	"field": {"#ffffff", "#3b3b3b"}, "fieldtext": {"#000000", "#ffffff"}, "graytext": {"#808080", "#808080"}, "highlight": {"#0078d7", "#0078d7"},
	"highlighttext": {"#ffffff", "#ffffff"}, "linktext": {"#0000ee", "#9e9eff"}, "mark": {"#ffff00", "#ffff00"}, "marktext": {"#000000", "#000000"},
	"selecteditem": {"#0078d7", "#0078d7"}, "selecteditemtext": {"#ffffff", "#ffffff"}, "visitedtext": {"#551a8b", "#d0adf0"},
	"-webkit-link": {"#0000ee", "#9e9eff"}, "-webkit-activelink": {"#ff0000", "#ff9e9e"}, "-webkit-focus-ring-color": {"#101010", "#ffffff"},
	"window": {"#ffffff", "#121212"}, "windowtext": {"#000000", "#ffffff"}, "threedface": {"#efefef", "#6b6b6b"}, "background": {"#ffffff", "#121212"},
	"captiontext": {"#000000", "#ffffff"}, "infobackground": {"#ffffff", "#121212"}, "infotext": {"#000000", "#ffffff"}, "menu": {"#ffffff", "#121212"}, "menutext": {"#000000", "#ffffff"},
	"scrollbar": {"#ffffff", "#121212"}, "threedhighlight": {"#000000", "#ffffff"}, "threedshadow": {"#000000", "#ffffff"}, "threeddarkshadow": {"#000000", "#ffffff"}, "threedlightshadow": {"#000000", "#ffffff"},
	"activeborder": {"#000000", "#ffffff"}, "activecaption": {"#ffffff", "#121212"}, "appworkspace": {"#ffffff", "#121212"}, "buttonhighlight": {"#efefef", "#6b6b6b"}, "buttonshadow": {"#efefef", "#6b6b6b"},
	"inactiveborder": {"#000000", "#ffffff"}, "inactivecaption": {"#ffffff", "#121212"}, "inactivecaptiontext": {"#808080", "#808080"}, "windowframe": {"#000000", "#ffffff"},
}

// Around is what colours depend on.
type Around struct {
	Current color.Color // of currentcolor
	Legacy  bool        // that is printed as rgb()
	Dark    bool        // the scheme in use
	Px      func(unit string) (float64, bool)
}

// colour reads a colour. One that depends on something is checked, and stays as it is written.
func colour(p *Part, _ *node) (Part, bool) {
	if out, ok := Color(p, nil); ok {
		return out, true
	}
	_, ok := Color(p, &Around{Current: color.Black, Legacy: true, Px: func(unit string) (float64, bool) {
		if one, ok := Fixed(unit); ok {
			return one, true
		}
		return 16, unit != "%"
	}})
	late := *p
	late.Late = true
	return late, ok
}

// Color computes a colour: a Colour part. Without what is around it (nil) ok is false for what depends on that.
func Color(p *Part, in *Around) (Part, bool) {
	legacy := func(c color.Color, ok bool) (Part, bool) {
		return Part{Kind: Colour, Color: c, Text: Legacy}, ok
	}
	switch p.Kind {
	case Colour:
		return *p, true
	case Hash:
		c, err := color.Parse("#" + p.Text)
		return legacy(c, err == nil)
	case Word:
		name := p.Keyword()
		if c, ok := color.Named(name); ok {
			return legacy(c, true)
		}
		if in == nil {
			return *p, false
		}
		if name == "currentcolor" {
			out, _ := legacy(in.Current, true)
			if !in.Legacy {
				out.Text = ""
			}
			return out, true
		}
		pair, ok := systemColours[name]
		if !ok {
			return *p, false
		}
		hex := pair[0]
		if in.Dark {
			hex = pair[1]
		}
		c, err := color.Parse(hex)
		return legacy(c, err == nil)
	case Call:
		switch p.Text {
		case "color-mix":
			return mixed(p.Args, in)
		case "light-dark":
			args := split(p.Args, ",")
			if in == nil || len(args) != 2 || len(args[0]) != 1 || len(args[1]) != 1 {
				return *p, false
			}
			light, ok1 := Color(&args[0][0], in)
			dark, ok2 := Color(&args[1][0], in)
			if in.Dark {
				light = dark
			}
			return light, ok1 && ok2
		case "contrast-color":
			if len(p.Args) != 1 || in == nil {
				return *p, false
			}
			c, ok := Color(&p.Args[0], in)
			if color.Contrast(color.White, c.Color) >= color.Contrast(color.Black, c.Color) {
				return legacy(color.White, ok)
			}
			return legacy(color.Black, ok)
		}
		return functional(p, in)
	}
	return *p, false
}

// full gives, for each component of a space, what 100 % is; 0 for a hue.
var full = map[color.Space][3]float64{color.SRGB: {255, 255, 255}, color.HSL: {0, 100, 100}, color.HWB: {0, 100, 100},
	color.Lab: {100, 125, 125}, color.LCH: {100, 150, 0}, color.OKLab: {1, 0.4, 0.4}, color.OKLCH: {1, 0.4, 0}}

// functional computes rgb(), hsl(), lab(), color() and so on, and their relative forms.
func functional(p *Part, in *Around) (Part, bool) {
	var space color.Space
	args := p.Args
	switch p.Text {
	case "rgb", "rgba":
		space = color.SRGB
	case "hsl", "hsla":
		space = color.HSL
	case "hwb", "lab", "lch", "oklab", "oklch", "color":
		space = color.Space(p.Text)
	default:
		return *p, false
	}
	var from *color.Color
	if len(args) > 1 && args[0].Is("from") {
		origin, ok := Color(&args[1], in)
		if !ok {
			return *p, false
		}
		from = &origin.Color
		args = args[2:]
	}
	scale := full[space]
	if p.Text == "color" {
		if len(args) == 0 {
			return *p, false
		}
		var ok bool
		if space, ok = color.SpaceNamed(args[0].Keyword()); !ok || space == color.HSL || space == color.HWB || full[space] != [3]float64{} && space != color.SRGB {
			return *p, false
		}
		args, scale = args[1:], [3]float64{1, 1, 1}
	}
	comps, alpha, commas, ok := components(args)
	if !ok || commas && (from != nil || space != color.SRGB && space != color.HSL) {
		return *p, false
	}
	r := &channels{in: in, scale: scale}
	if from != nil {
		r.from(*from, space, p.Text == "color")
	}
	c := color.Color{Space: space, Alpha: 1}
	if from != nil {
		c.Alpha = from.Alpha
	}
	for i := range comps {
		v, none, ok := r.value(&comps[i], i)
		if !ok || none && commas {
			return *p, false
		}
		c.C[i] = v
		if none {
			c.None |= 1 << i
		}
	}
	if alpha != nil {
		v, none, ok := r.value(alpha, 3)
		if !ok {
			return *p, false
		}
		c.Alpha = math.Min(1, math.Max(0, v))
		if none {
			c.None |= 8
		}
	}
	return settled(c, p.Text, from != nil), true
}

// settled clamps a colour as its function does, and brings it to the form it is printed in.
func settled(c color.Color, function string, relative bool) Part {
	clamp := func(i int, lo, hi float64) { c.C[i] = math.Min(hi, math.Max(lo, c.C[i])) }
	out := Part{Kind: Colour}
	switch c.Space {
	case color.SRGB:
		if function == "color" {
			break
		}
		for i := range c.C {
			c.C[i] /= 255
		}
		if relative {
			break
		}
		for i := range c.C {
			c.C[i] = in255ths(c.C[i])
		}
		c.None, out.Text = 0, Legacy
	case color.HSL, color.HWB:
		if !relative {
			clamp(1, 0, 100)
			clamp(2, 0, 100)
		}
		if none := c.None; relative {
			c = c.To(color.SRGB)
			c.None = none & 8
			break
		}
		c = c.To(color.SRGB)
		for i := range c.C {
			c.C[i] = in255ths(c.C[i])
		}
		c.None, out.Text = 0, Legacy
	case color.Lab, color.LCH:
		clamp(0, 0, 100)
	case color.OKLab, color.OKLCH:
		clamp(0, 0, 1)
	}
	if c.Space == color.LCH || c.Space == color.OKLCH {
		clamp(1, 0, math.Inf(1))
		c.C[2] = math.Mod(math.Mod(c.C[2], 360)+360, 360)
	}
	out.Color = c
	return out
}

// components takes `1 2 3 / 50%` or `1, 2, 3, .5` apart.
func components(args []Part) (comps []Part, alpha *Part, commas, ok bool) {
	var plain []Part
	slash := -1
	for i := range args {
		switch a := &args[i]; {
		case a.mark(","):
			commas = true
			if i%2 == 0 {
				return nil, nil, true, false
			}
		case a.mark("/"):
			if slash >= 0 {
				return nil, nil, false, false
			}
			slash = len(plain)
		default:
			plain = append(plain, *a)
		}
	}
	switch {
	case commas && slash < 0 && (len(plain) == 3 || len(plain) == 4) && len(args) == 2*len(plain)-1:
		if len(plain) == 4 {
			alpha = &plain[3]
		}
	case !commas && slash == 3 && len(plain) == 4:
		alpha = &plain[3]
	case !commas && slash < 0 && len(plain) == 3:
	default:
		return nil, nil, commas, false
	}
	return plain[:3], alpha, commas, true
}

// channels reads the components of a colour function; of a relative one its channels have names.
type channels struct {
	in    *Around
	scale [3]float64
	named map[string]float64
}

var channelNames = map[color.Space]string{color.SRGB: "r g b", color.HSL: "h s l", color.HWB: "h w b", color.Lab: "l a b", color.OKLab: "l a b",
	color.LCH: "l c h", color.OKLCH: "l c h", color.XYZD50: "x y z", color.XYZD65: "x y z"}

func (r *channels) from(c color.Color, space color.Space, byColor bool) {
	missing := c.None
	v := c.To(space)
	if missing != 0 && c.Space == space {
		v.None = missing
	}
	names := channelNames[space]
	if names == "" {
		names = channelNames[color.SRGB]
	}
	r.named = map[string]float64{"alpha": c.Alpha}
	for i, n := range strings.Fields(names) {
		x := v.C[i]
		if space == color.SRGB && !byColor {
			x *= 255
		}
		r.named[n] = x
	}
}

// value is a component in the unit of its space, alpha as 0–1.
func (r *channels) value(p *Part, i int) (v float64, none, ok bool) {
	whole := 1.0
	if i < 3 {
		whole = r.scale[i]
	}
	hue := whole == 0
	switch p.Kind {
	case Number:
		return p.Num, false, true
	case Percentage:
		return p.Num / 100 * whole, false, !hue
	case Dimension:
		return p.Num * units[p.Text].Of, false, hue && units[p.Text].Sort == OfAngle
	case Word:
		if p.Is("none") {
			return 0, true, true
		}
		v, ok = r.named[p.Keyword()]
		return v, false, ok
	case Call:
		m := r.math(p)
		if m == nil {
			return 0, false, false
		}
		s := m.Sort()
		v, ok = m.Value(func(unit string) (float64, bool) {
			if unit == "%" {
				return whole / 100, true
			}
			if one, ok := Fixed(unit); ok {
				return one, true
			}
			if r.in == nil || r.in.Px == nil {
				return 0, false
			}
			return r.in.Px(unit)
		})
		if v != v {
			v = 0
		}
		return v, false, ok && (s == OfNumber || s == OfPercentage && !hue || s == OfAngle && hue)
	}
	return 0, false, false
}

// math is a math function with the names of channels in it as numbers.
func (r *channels) math(p *Part) *Math {
	if len(r.named) == 0 {
		return mathOf(p)
	}
	filled := r.filled(*p)
	return mathOf(&filled)
}

func (r *channels) filled(p Part) Part {
	if v, ok := r.named[p.Keyword()]; ok && p.Kind == Word {
		return Part{Kind: Number, Num: v}
	}
	if len(p.Args) > 0 {
		args := make([]Part, len(p.Args))
		for i := range p.Args {
			args[i] = r.filled(p.Args[i])
		}
		p.Args = args
	}
	return p
}

// mixed computes color-mix(). https://www.w3.org/TR/css-color-5/#color-mix
func mixed(args []Part, in *Around) (Part, bool) {
	list := split(args, ",")
	space, way := color.OKLab, color.Shorter
	if len(list) > 0 && len(list[0]) > 1 && list[0][0].Is("in") {
		var ok bool
		if space, ok = color.SpaceNamed(list[0][1].Keyword()); !ok {
			return Part{}, false
		}
		if len(list[0]) == 4 && list[0][3].Is("hue") {
			way = color.HueWay(list[0][2].Keyword())
		} else if len(list[0]) != 2 {
			return Part{}, false
		}
		list = list[1:]
	}
	if len(list) != 2 {
		return Part{}, false
	}
	var c [2]color.Color
	share := [2]float64{-1, -1}
	for i, l := range list {
		for k := range l {
			if p := &l[k]; p.Kind == Percentage || p.Kind == Call && mathOf(p) != nil {
				q, ok := (&node{}).measure(p, OfPercentage)
				if !ok || q.Kind != Percentage || q.Num < 0 || q.Num > 100 || share[i] >= 0 {
					return Part{}, false
				}
				share[i] = q.Num
				continue
			}
			one, ok := Color(&l[k], in)
			if !ok {
				return Part{}, false
			}
			c[i] = one.Color
		}
		if colours := len(l) - map[bool]int{true: 1}[share[i] >= 0]; colours != 1 {
			return Part{}, false
		}
	}
	switch {
	case share[0] < 0 && share[1] < 0:
		share = [2]float64{50, 50}
	case share[0] < 0:
		share[0] = 100 - share[1]
	case share[1] < 0:
		share[1] = 100 - share[0]
	}
	total := share[0] + share[1]
	if total == 0 {
		return Part{}, false
	}
	out := color.Mix(c[0], c[1], share[1]/total, space, way)
	if total < 100 {
		out.Alpha *= total / 100
	}
	if space == color.HSL || space == color.HWB {
		none := out.None
		out = out.To(color.SRGB)
		out.None = none & 8
	}
	return Part{Kind: Colour, Color: out}, true
}

// SystemColour reports whether a keyword in lower case is a system colour.
func SystemColour(name string) bool {
	_, ok := systemColours[name]
	return ok
}

// in255ths rounds a component as legacy colours have it; what is half a step but for the last bits goes up.
func in255ths(v float64) float64 {
	return math.Round(math.Min(1, math.Max(0, v))*255+1e-9) / 255
}
