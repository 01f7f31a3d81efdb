package emit

import (
	"fmt"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/token"
)

// CSS writes custom properties on :root, aliases as var(). Two paths that give one name are an error.
func CSS(s *token.Set, o Options) (string, []Warning, error) {
	p := &cssPrinter{set: s, o: o}
	if err := p.nameAll(); err != nil {
		return "", nil, err
	}
	var b strings.Builder
	b.WriteString("/* Design tokens of " + strings.ReplaceAll(o.Name, "*/", "* /") + ". Written by archetyp from the token files: edit those. */\n:root {\n")
	group := ""
	for _, t := range s.Tokens {
		g, _, _ := strings.Cut(t.Path, ".")
		if group != "" && g != group {
			b.WriteString("\n")
		}
		group = g
		for _, d := range p.declarations(t) {
			b.WriteString("  " + d[0] + ": " + d[1] + ";\n")
		}
	}
	b.WriteString("}\n")
	return b.String(), p.warnings, nil
}

// Property is the custom property a token becomes: --prefix-color-sea-600.
func Property(path, prefix string) string {
	name := strings.ReplaceAll(path, ".$root", "")
	name = strings.ReplaceAll(name, ".", "-")
	if prefix != "" {
		name = prefix + "-" + name
	}
	return "--" + css.Ident("x" + strings.ReplaceAll(name, " ", "-"))[1:]
}

type cssPrinter struct {
	set      *token.Set
	o        Options
	warnings []Warning
	literal  bool // follow aliases
}

func (p *cssPrinter) nameAll() error {
	seen := map[string]string{}
	for _, t := range p.set.Tokens {
		n := Property(t.Path, p.o.Prefix)
		if other, ok := seen[n]; ok {
			return &token.Error{File: t.File, Position: t.Position, Path: t.Path, Msg: fmt.Sprintf("becomes %s in CSS, as %s does; rename one", n, other)}
		}
		seen[n] = t.Path
	}
	return nil
}

func (p *cssPrinter) warn(t *token.Token, msg string) {
	p.warnings = append(p.warnings, Warning{t.Path, "left out of the CSS: " + msg})
}

// declarations are the properties of one token: one for most, two for typography.
func (p *cssPrinter) declarations(t *token.Token) [][2]string {
	name := Property(t.Path, p.o.Prefix)
	if t.Type == token.Typography && t.Value.Alias == "" {
		f := t.Value.Parts
		font := fmt.Sprintf("%s %s/%s %s", p.value(f["fontWeight"]), p.value(f["fontSize"]), p.value(f["lineHeight"]), p.value(f["fontFamily"]))
		return [][2]string{{name, font}, {name + "-letter-spacing", p.value(f["letterSpacing"])}}
	}
	if t.Type == token.Typography {
		target := Property(t.Value.Alias, p.o.Prefix)
		return [][2]string{{name, "var(" + target + ")"}, {name + "-letter-spacing", "var(" + target + "-letter-spacing)"}}
	}
	text, ok := p.token(t)
	if !ok {
		return nil
	}
	return [][2]string{{name, text}}
}

func (p *cssPrinter) token(t *token.Token) (string, bool) {
	v := t.Value
	if v.Alias != "" {
		return "var(" + Property(v.Alias, p.o.Prefix) + ")", true
	}
	switch t.Type {
	case token.Shadow:
		var out []string
		for _, l := range v.List {
			out = append(out, p.shadow(l))
		}
		return strings.Join(out, ", "), true
	case token.Gradient:
		return p.gradient(t), true
	case token.Border:
		return p.value(v.Parts["width"]) + " " + p.value(v.Parts["style"]) + " " + p.value(v.Parts["color"]), true
	case token.Transition:
		s := p.value(v.Parts["duration"]) + " " + p.value(v.Parts["timingFunction"])
		if d, ok := v.Parts["delay"]; ok {
			s += " " + p.value(d)
		}
		return s, true
	case token.StrokeStyle:
		if v.Parts != nil {
			p.warn(t, "CSS has no dash pattern for borders")
			return "", false
		}
	}
	return p.value(v), true
}

func (p *cssPrinter) shadow(v token.Value) string {
	if v.Alias != "" {
		return "var(" + Property(v.Alias, p.o.Prefix) + ")"
	}
	f := v.Parts
	s := p.value(f["offsetX"]) + " " + p.value(f["offsetY"]) + " " + p.value(f["blur"])
	if sp := p.value(f["spread"]); sp != "0" {
		s += " " + sp
	}
	s += " " + p.value(f["color"])
	if b := f["inset"].Boolean; b != nil && *b {
		s = "inset " + s
	}
	return s
}

func (p *cssPrinter) gradient(t *token.Token) string {
	var stops []string
	for _, st := range t.Value.List {
		if st.Alias != "" {
			st = p.set.ResolvePart(st)
		}
		pos := p.set.ResolvePart(st.Parts["position"])
		at := 0.0
		if pos.Number != nil {
			at = min(1, max(0, *pos.Number))
		}
		stops = append(stops, p.value(st.Parts["color"])+" "+css.Num(at*100, 4)+"%")
	}
	if t.Radial {
		return "radial-gradient(" + strings.Join(stops, ", ") + ")"
	}
	if t.Angle != nil {
		return "linear-gradient(" + css.Num(*t.Angle, 4) + "deg, " + strings.Join(stops, ", ") + ")"
	}
	return "linear-gradient(" + strings.Join(stops, ", ") + ")"
}

// value writes a single value, or an alias as var().
func (p *cssPrinter) value(v token.Value) string {
	if p.literal {
		v = p.set.ResolvePart(v)
	}
	switch {
	case v.Alias != "":
		return "var(" + Property(v.Alias, p.o.Prefix) + ")"
	case v.Color != nil:
		return v.Color.CSS()
	case v.Length != nil:
		return p.length(*v.Length)
	case v.Number != nil:
		return css.Num(*v.Number, 6)
	case v.Bezier != nil:
		b := v.Bezier
		return fmt.Sprintf("cubic-bezier(%s, %s, %s, %s)", css.Num(b[0], 6), css.Num(b[1], 6), css.Num(b[2], 6), css.Num(b[3], 6))
	case v.Words != nil:
		var out []string
		for _, w := range v.Words {
			out = append(out, family(w))
		}
		return strings.Join(out, ", ")
	}
	return ""
}

// family writes a font family, or a keyword such as solid.
func family(s string) string {
	plain := s != ""
	for i, r := range s {
		if !(r == '-' || r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || i > 0 && r >= '0' && r <= '9') {
			plain = false
		}
	}
	if plain {
		return s
	}
	return css.String(s)
}

func (p *cssPrinter) length(l token.Length) string {
	root := p.o.Root
	if root == 0 {
		root = 16
	}
	switch {
	case l.Value == 0:
		return "0" + map[bool]string{true: l.Unit}[l.Unit == "ms" || l.Unit == "s"]
	case l.Unit == "px" && p.o.Unit == "rem":
		return trim(l.Value/root) + "rem"
	case l.Unit == "rem" && p.o.Unit == "px":
		return trim(l.Value*root) + "px"
	}
	return trim(l.Value) + l.Unit
}

func trim(v float64) string {
	if s := css.Num(v, 6); s != "0" {
		return s
	}
	return strconv.FormatFloat(v, 'f', -1, 64)
}

// Literal is the CSS of a token with every alias followed: what a browser would compute from the variables. For
// typography it is the font shorthand.
func Literal(s *token.Set, t *token.Token) string {
	p := &cssPrinter{set: s, literal: true}
	if d := p.declarations(t); len(d) > 0 {
		return d[0][1]
	}
	return ""
}
