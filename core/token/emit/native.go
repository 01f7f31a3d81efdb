package emit

import (
	"fmt"
	"math"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/token"
)

// native is what Swift and Kotlin have in common: every alias followed, a value an expression, colours of light and
// dark in one, and what other contexts change in a name space of its own.
type native struct {
	o        Options
	set      *token.Set
	out      string // what the language is called in warnings
	warnings []Warning
	syntax   syntax
	colors   map[*color.Color]string // written already: many names stand for one colour
}

// syntax is how a language writes values.
type syntax interface {
	color(space string, c [3]float64, alpha float64) string
	length(px float64, size bool) string
	number(v float64) string
	weight(v float64) string
	typeStyle(family string, size, weight, spacing, line float64) string
	shadow(layers []shadowLayer) string
	gradient(stops []string, kind string, angle float64) string
	border(color, width, style string) string
	transition(ms, delay float64, curve [4]float64) string
	curve(c [4]float64) string
	duration(ms float64) string
	family(names []string) string
	text(s string) string
	dashes(lengths []string, cap string) string
}

type shadowLayer struct {
	color, x, y, blur, spread string
	inset                     bool
}

func (p *native) warn(t *token.Token, msg string) {
	p.warnings = append(p.warnings, Warning{t.Path, msg})
}

func (p *native) part(v token.Value, name string) token.Value {
	return p.set.ResolvePart(v.Parts[name])
}

func (p *native) px(v token.Value) float64 {
	if v.Length == nil {
		return 0
	}
	return v.Length.Px(p.o.root())
}

func (p *native) len(v token.Value) string { return p.syntax.length(p.px(v), false) }

// color writes colours of sRGB and Display P3 as they are, and others as Display P3 where that can show them.
func (p *native) color(t *token.Token, v token.Value) string {
	if s, ok := p.colors[v.Color]; ok {
		return s
	}
	s := p.newColor(t, v)
	if p.colors == nil {
		p.colors = map[*color.Color]string{}
	}
	p.colors[v.Color] = s
	return s
}

func (p *native) newColor(t *token.Token, v token.Value) string {
	c := *v.Color
	space := "srgb"
	if !c.InSRGB() {
		space = "p3"
		c = c.To(color.DisplayP3)
		for i, x := range c.C {
			if x < -1e-4 || x > 1+1e-4 {
				p.warn(t, "outside Display P3, which is the widest "+p.out+" can say: clipped to it")
			}
			c.C[i] = min(1, max(0, x))
		}
		return p.syntax.color(space, c.C, v.Color.Alpha)
	}
	return p.syntax.color(space, c.SRGB(), c.Alpha)
}

// families are the names of a font family token.
func (p *native) families(v token.Value) []string {
	if v.List == nil {
		return v.Words
	}
	var out []string
	for _, f := range v.List {
		out = append(out, p.families(p.set.ResolvePart(f))...)
	}
	return out
}

// value is a token's value as an expression; ok is false where there is none.
func (p *native) value(t *token.Token, sizes map[string]bool) (string, bool) {
	end := p.set.Resolve(t)
	v := end.Value
	switch t.Type {
	case token.Color:
		return p.color(t, v), true
	case token.Dimension:
		return p.syntax.length(p.px(v), sizes[t.Path]), true
	case token.FontFamily:
		return p.syntax.family(p.families(v)), true
	case token.FontWeight:
		if *v.Number != math.Round(*v.Number) {
			p.warn(t, "left out: "+p.out+" takes whole numbers for weights")
			return "", false
		}
		return p.syntax.weight(*v.Number), true
	case token.Number:
		if end.Own.Written[""] != "" {
			return "", false
		}
		return p.syntax.number(*v.Number), true
	case token.Duration:
		return p.syntax.duration(v.Length.Px(1)), true
	case token.CubicBezier:
		return p.syntax.curve(*v.Bezier), true
	case token.StrokeStyle:
		return p.strokeStyle(v), true
	case token.Border:
		return p.syntax.border(p.color(t, p.part(v, "color")), p.len(p.part(v, "width")),
			p.strokeStyle(p.part(v, "style"))), true
	case token.Transition:
		return p.syntax.transition(p.part(v, "duration").Length.Px(1), p.part(v, "delay").Length.Px(1),
			*p.part(v, "timingFunction").Bezier), true
	case token.Shadow:
		return p.syntax.shadow(p.layers(t, v)), true
	case token.Gradient:
		w := cssWriter{set: p.set}
		var stops []string
		for _, s := range w.stops(v) {
			stops = append(stops, p.color(t, p.part(s, "color"))+"\x00"+css.Num(Position(p.set, s), 6))
		}
		angle := 180.0
		if end.Own.Angle != nil {
			angle = *end.Own.Angle
		}
		kind := end.Own.Kind
		if kind == "" {
			kind = "linear"
		}
		return p.syntax.gradient(stops, kind, angle), true
	case token.Typography:
		return p.syntax.typeStyle(strings.Join(p.families(p.part(v, "fontFamily")), ", "), p.px(p.part(v, "fontSize")),
			*p.part(v, "fontWeight").Number, p.px(p.part(v, "letterSpacing")), *p.part(v, "lineHeight").Number), true
	}
	return "", false
}

func (p *native) strokeStyle(v token.Value) string {
	if v.Parts == nil {
		return p.syntax.text(strings.Join(v.Words, ""))
	}
	var lengths []string
	for _, d := range v.Parts["dashArray"].List {
		lengths = append(lengths, p.len(p.set.ResolvePart(d)))
	}
	return p.syntax.dashes(lengths, strings.Join(v.Parts["lineCap"].Words, ""))
}

func (p *native) layers(t *token.Token, v token.Value) []shadowLayer {
	var out []shadowLayer
	for _, l := range v.List {
		if l.Alias != "" {
			out = append(out, p.layers(t, p.set.ResolvePart(l))...)
			continue
		}
		inset := l.Parts["inset"].Boolean
		out = append(out, shadowLayer{p.color(t, p.part(l, "color")), p.len(p.part(l, "offsetX")),
			p.len(p.part(l, "offsetY")),
			p.len(p.part(l, "blur")), p.len(p.part(l, "spread")), inset != nil && *inset})
	}
	return out
}

// darkOf finds the context that stands for a dark scheme, beside one called light.
func darkOf(lib *token.Library) (dark scope, ok bool) {
	for _, s := range scopes(lib, func(string) bool { return true }) {
		if s.context.Name == "dark" {
			return s, true
		}
	}
	return scope{}, false
}

// constants calls put for every token wanted, with its value, and its value in the dark where that is another.
func (p *native) constants(lib *token.Library, put func(t *token.Token, value, dark string)) {
	sizes := fontSizes(lib.Base)
	dark, hasDark := darkOf(lib)
	changed := map[string]*token.Token{}
	for _, t := range dark.tokens {
		changed[t.Path] = t
	}
	for _, t := range lib.Base.Tokens {
		if !p.o.Includes(t.Path) {
			continue
		}
		p.set = lib.Base
		value, ok := p.value(t, sizes)
		if !ok {
			p.warn(t, "left out: "+p.out+" has no place for it")
			continue
		}
		other := ""
		if d := changed[t.Path]; hasDark && d != nil {
			p.set = dark.set
			if other, _ = p.value(d, sizes); other == value {
				other = ""
			}
		}
		put(t, value, other)
	}
}

// others calls open, put and close for each context that is not the dark scheme.
func (p *native) others(lib *token.Library, open func(name string), put func(t *token.Token, value string),
	close func()) {
	for _, s := range scopes(lib, p.o.Includes) {
		if s.context.Name == "dark" {
			continue
		}
		sizes := fontSizes(s.set)
		open(pascal(s.context.Key(), ""))
		p.set = s.set
		for _, t := range s.tokens {
			if value, ok := p.value(t, sizes); ok {
				put(t, value)
			}
		}
		close()
	}
	p.warnings = append(p.warnings, clashes(lib)...)
}

func splitStop(s string) (color, at string) {
	color, at, _ = strings.Cut(s, "\x00")
	return color, at
}

func decimals(v float64) string { return css.Num(v, 5) }

func rgba(f string, c [3]float64, alpha float64) string {
	return fmt.Sprintf(f, decimals(c[0]), decimals(c[1]), decimals(c[2]), decimals(alpha))
}
