package computed

import (
	"math"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/css/grammar"
	"archetyp/core/markup"
)

// printing is how values are printed that are not printed as they are kept.
var printing = map[string]func(*Style, *Value) string{
	"line-height": func(s *Style, v *Value) string {
		if p := v.Parts[0]; p.Kind == grammar.Number {
			return num(p.Num*s.size) + "px"
		}
		return Text(v.Parts)
	},
	"caret-color": func(s *Style, v *Value) string {
		if v.Parts[0].Is("auto") {
			return Text([]grammar.Part{s.colour})
		}
		return Text(s.painted(v.Parts))
	},
	"font-family": func(_ *Style, v *Value) string {
		var b strings.Builder
		for i, p := range v.Parts {
			switch {
			case isComma(p):
				b.WriteString(", ")
				continue
			case p.Kind == grammar.String && plainName(p.Text):
				b.WriteString(p.Text)
			case i >= 0:
				writePart(&b, &p)
			}
		}
		return b.String()
	},
	"letter-spacing": func(_ *Style, v *Value) string {
		if p := v.Parts[0]; p.Kind == grammar.Dimension && p.Num == 0 {
			return "normal"
		}
		return Text(v.Parts)
	},
	"transform":         func(s *Style, v *Value) string { return transformText(s.painted(v.Parts)) },
	"font-stretch":      func(_ *Style, v *Value) string { return Text(stretch(nil, v).Parts) },
	"border-spacing":    func(_ *Style, v *Value) string { return Text(oneIfSame(v.Parts)) },
	"word-spacing":      func(_ *Style, v *Value) string { return Text(spacing(nil, v).Parts) },
	"font-weight":       func(s *Style, v *Value) string { return Text(s.fontWeight(v).Parts) },
	"outline-color":     func(s *Style, v *Value) string { return Text(s.painted(v.Parts)) },
	"vertical-align":    func(_ *Style, v *Value) string { return Text(v.Parts) },
	"-webkit-box-align": func(_ *Style, v *Value) string { return Text(v.Parts) },
}

// plainName reports whether the name of a family can stand without quotes: it is one identifier, and no generic family.
func plainName(s string) bool {
	if s == "" || s[0] >= '0' && s[0] <= '9' {
		return false
	}
	for i := 0; i < len(s); i++ {
		c := s[i]
		if !(c == '-' || c == '_' || c >= '0' && c <= '9' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= 0x80) {
			return false
		}
	}
	switch strings.ToLower(s) {
	case "serif", "sans-serif", "monospace", "cursive", "fantasy", "system-ui", "math", "inherit", "initial", "unset", "default":
		return false
	}
	return true
}

// Text prints the parts of a value as browsers serialize computed ones.
// https://www.w3.org/TR/cssom-1/#serializing-css-values
func Text(parts []grammar.Part) string {
	var b strings.Builder
	writeParts(&b, parts)
	return b.String()
}

func writeParts(b *strings.Builder, parts []grammar.Part) {
	for i := range parts {
		p := &parts[i]
		if i > 0 && !isComma(*p) {
			b.WriteByte(' ')
		}
		writePart(b, p)
	}
}

func writePart(b *strings.Builder, p *grammar.Part) {
	switch p.Kind {
	case grammar.Word:
		b.WriteString(css.Ident(p.Text))
	case grammar.Number:
		b.WriteString(numberText(p))
	case grammar.Percentage:
		b.WriteString(num(p.Num))
		b.WriteByte('%')
	case grammar.Dimension:
		b.WriteString(num(p.Num))
		b.WriteString(p.Text)
	case grammar.String:
		b.WriteString(css.String(p.Text))
	case grammar.URL:
		b.WriteString("url(" + css.String(p.Text) + ")")
	case grammar.Hash:
		b.WriteString("#" + p.Text)
	case grammar.Call:
		b.WriteString(p.Text + "(")
		writeParts(b, p.Args)
		b.WriteByte(')')
	case grammar.Block:
		closing := ")"
		if p.Text == "[" {
			closing = "]"
		}
		b.WriteString(p.Text)
		writeParts(b, p.Args)
		b.WriteString(closing)
	case grammar.Colour:
		b.WriteString(ColorText(p.Color, p.Text == grammar.Legacy))
	case grammar.Calc:
		writeMath(b, p.Math, true)
	default:
		b.WriteString(p.Text)
	}
}

func numberText(p *grammar.Part) string {
	if p.Int && math.Abs(p.Num) < 1e15 {
		return strconv.FormatFloat(p.Num, 'f', 0, 64)
	}
	return num(p.Num)
}

// num prints a number with six significant digits, as browsers do.
func num(v float64) string {
	if math.Abs(v) < 1e-12 || math.IsNaN(v) { // what rounding leaves of nothing is nothing
		return "0"
	}
	s := strconv.FormatFloat(float64(float32(v)), 'g', 6, 64)
	if strings.Contains(s, "e") && math.Abs(v) < 1e6 {
		s = strconv.FormatFloat(float64(float32(v)), 'f', -1, 64)
	}
	return s
}

// writeMath prints what is left of a function: `calc(100% - 16px)`, `min(100%, 640px)`.
func writeMath(b *strings.Builder, m *grammar.Math, outer bool) {
	if m == nil {
		b.WriteString("none")
		return
	}
	calc := func(write func()) {
		switch {
		case outer:
			b.WriteString("calc(")
			write()
			b.WriteByte(')')
		default:
			b.WriteByte('(')
			write()
			b.WriteByte(')')
		}
	}
	switch m.Op {
	case "":
		b.WriteString(num(m.Num) + m.Unit)
	case "+":
		calc(func() {
			for i, a := range m.Args {
				if a.Op == "" && a.Num < 0 && i > 0 {
					b.WriteString(" - " + num(-a.Num) + a.Unit)
					continue
				}
				if i > 0 {
					b.WriteString(" + ")
				}
				writeMath(b, a, false)
			}
		})
	case "*", "/":
		calc(func() {
			writeMath(b, m.Args[0], false)
			b.WriteString(" " + m.Op + " ")
			writeMath(b, m.Args[1], false)
		})
	default:
		b.WriteString(m.Op + "(")
		if m.Mode != "" {
			b.WriteString(m.Mode + ", ")
		}
		for i, a := range m.Args {
			if i > 0 {
				b.WriteString(", ")
			}
			if a != nil && a.Op == "+" { // no brackets within a function
				var in strings.Builder
				writeMath(&in, a, false)
				b.WriteString(strings.TrimSuffix(strings.TrimPrefix(in.String(), "("), ")"))
				continue
			}
			writeMath(b, a, false)
		}
		b.WriteByte(')')
	}
}

// ColorText prints a colour; legacy ones as rgb() with commas.
// https://www.w3.org/TR/css-color-4/#serializing-color-values
func ColorText(c color.Color, legacy bool) string {
	if legacy {
		r, g, b, _ := c.RGBA8()
		list := strconv.Itoa(int(r)) + ", " + strconv.Itoa(int(g)) + ", " + strconv.Itoa(int(b))
		if c.Alpha >= 1 {
			return "rgb(" + list + ")"
		}
		return "rgba(" + list + ", " + alphaText(c.Alpha) + ")"
	}
	name := string(c.Space)
	switch c.Space {
	case color.Lab, color.LCH, color.OKLab, color.OKLCH:
		name += "("
	default:
		name = "color(" + name + " "
	}
	var b strings.Builder
	b.WriteString(name)
	for i, v := range c.C {
		if i > 0 {
			b.WriteByte(' ')
		}
		if c.None&(1<<i) != 0 {
			b.WriteString("none")
		} else {
			b.WriteString(num(v))
		}
	}
	switch {
	case c.None&8 != 0:
		b.WriteString(" / none")
	case c.Alpha < 1:
		b.WriteString(" / " + num(c.Alpha))
	}
	b.WriteByte(')')
	return b.String()
}

// alphaText prints the alpha of a legacy colour: two digits where they say which 255th it is, else three.
func alphaText(a float64) string {
	a = math.Round(a*255) / 255
	if two := math.Round(a*100) / 100; math.Round(two*255) == math.Round(a*255) {
		return num(two)
	}
	return num(math.Round(a*1000) / 1000)
}

// Get is the computed value of a property as browsers print it; ok is false for a property that is not known.
func (s *Style) Get(name string) (text string, ok bool) {
	if strings.HasPrefix(name, "--") {
		return s.custom(name)
	}
	if a, is := aliases[name]; is {
		name = a
	}
	if l, is := logicals[name]; is {
		name = l.physical(s.word("writing-mode"), s.word("direction"))
	}
	if i, is := table().byName[name]; is {
		return s.text(i), true
	}
	if short, is := shorthands[name]; is && name != "all" {
		return s.shortText(name, short), true
	}
	return "", false
}

func (s *Style) text(i ID) string {
	v := s.value(i)
	if first, ok := layeredAs[table().all[i].name]; ok {
		return Text(s.painted(s.repeated(v.Parts, len(commas(s.value(id(first)).Parts)))))
	}
	if f := printing[table().all[i].name]; f != nil {
		return f(s, v)
	}
	return Text(s.painted(v.Parts))
}

// layeredAs are the lists that have as many items as there are images of a background or mask.
var layeredAs = map[string]string{"background-position-x": "background-image", "background-position-y": "background-image", "background-size": "background-image",
	"background-repeat": "background-image", "background-attachment": "background-image", "background-origin": "background-image", "background-clip": "background-image",
	"background-blend-mode": "background-image"}

// repeated is a list of so many items: its own again and again, or only the first of them.
func (s *Style) repeated(parts []grammar.Part, n int) []grammar.Part {
	list := commas(parts)
	if len(list) == n {
		return parts
	}
	out := make([][]grammar.Part, n)
	for i := range out {
		out[i] = list[i%len(list)]
	}
	return joined(out).Parts
}

// Differs reports whether the value of a property is other than the one it has by itself: the parent's where it is
// inherited, else the initial one.
func (s *Style) Differs(name string) bool {
	i, ok := table().byName[name]
	if !ok {
		return false
	}
	if s.value(i) == start(i) {
		return false
	}
	if table().all[i].inherited && s.parent != nil {
		slot := inheritedSlots()[i]
		return s.passed[slot] != s.parent.passed[slot] && s.text(i) != s.parent.text(i)
	}
	return s.text(i) != s.page.plainText(i)
}

// Initial reports whether the value of a property is the initial one, inherited or not.
func (s *Style) Initial(name string) bool {
	i, ok := table().byName[name]
	return ok && (s.value(i) == start(i) || s.text(i) == s.page.plainText(i))
}

// plainText is the value of a property that nothing is declared for, of an element with nothing around it.
func (p *Page) plainText(i ID) string {
	if p.plain == nil {
		p.plain = (&Page{Medium: p.Medium, wins: make([]win, len(table().all)), registered: map[string]*registered{}}).compute(&markup.Node{}, nil, nil, "bare")
	}
	return p.plain.text(i)
}

// inLayers puts two lists together, layer by layer: "0px, 1px" and "2px, 3px" are "0px 2px, 1px 3px".
func inLayers(a, b string) string {
	x, y := css.SplitTop(a, ','), css.SplitTop(b, ',')
	var out []string
	for i := range min(len(x), len(y)) {
		out = append(out, strings.TrimSpace(x[i])+" "+strings.TrimSpace(y[i]))
	}
	return strings.Join(out, ", ")
}

// shortText prints a shorthand, where one value can say what its longhands say.
func (s *Style) shortText(name string, short shorthand) string {
	texts := make([]string, len(short.names))
	for i, n := range short.names {
		texts[i], _ = s.Get(n)
	}
	same := true
	for _, t := range texts {
		same = same && t == texts[0]
	}
	switch {
	case name == "background-position":
		return inLayers(texts[0], texts[1])
	case same && len(texts) > 1:
		return texts[0]
	case len(texts) == 2:
		return texts[0] + " " + texts[1]
	case len(texts) == 4 && (strings.HasPrefix(name, "margin") || strings.HasPrefix(name, "padding") || name == "inset" || strings.HasPrefix(name, "border-") && name != "border-radius" || strings.HasPrefix(name, "scroll-")):
		n := 4
		if texts[3] == texts[1] {
			if n = 3; texts[2] == texts[0] {
				n = 2
			}
		}
		return strings.Join(texts[:n], " ")
	}
	return strings.Join(texts, " ")
}
