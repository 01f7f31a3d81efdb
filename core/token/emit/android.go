package emit

import (
	"fmt"
	"math"
	"regexp"
	"sort"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/escape"
	"archetyp/core/token"
)

// Android writes resources: values/tokens.xml, and for contexts that Android knows folders with their qualifiers
// (values-night, values-w768dp). Curves become interpolators. Lengths are dp, sizes of type sp.
func Android(lib *token.Library, o Options) ([]File, []Warning, error) {
	name, err := o.namer(lib.Base, "Android", func(path string) string { return snake(path, o.Prefix) })
	if err != nil {
		return nil, nil, err
	}
	p := &androidFile{o: o, name: name, sizes: fontSizes(lib.Base)}
	files := []File{{"values/tokens.xml", p.resources(lib.Base, lib.Base.Tokens)}}
	files = append(files, p.curves(lib.Base)...)
	qualifiers, declared := map[string]string{}, map[string]map[string]bool{}
	for _, s := range scopes(lib, o.Includes) {
		q := qualifier(s.context, Conditions(lib, s.context, o.Contexts), o.root())
		if q == "" {
			p.warnings = append(p.warnings, Warning{s.context.Key(), "left out: Android has no qualifier for this context"})
			continue
		}
		qualifiers[s.context.Key()], declared[s.context.Key()] = q, s.declared()
		files = append(files, File{"values-" + q + "/tokens.xml", p.resources(s.set, s.tokens)})
	}
	list, _ := meetings(lib, declared)
	for _, m := range list {
		set := lib.Set(m.input)
		var tokens []*token.Token
		for _, t := range set.Tokens {
			if m.tokens[t.Path] && o.Includes(t.Path) {
				tokens = append(tokens, t)
			}
		}
		var q []string
		for _, k := range m.keys {
			q = append(q, qualifiers[k])
		}
		sort.Slice(q, func(i, j int) bool { return q[j] == "night" }) // widths stand before the night
		files = append(files, File{"values-" + strings.Join(q, "-") + "/tokens.xml", p.resources(set, tokens)})
	}
	return files, sortWarnings(p.warnings), nil
}

var minWidth = regexp.MustCompile(`min-width:\s*([0-9.]+(?:px|rem|em))`)

// qualifier is what Android calls a context; "" for nothing.
func qualifier(c token.Context, conditions []string, root float64) string {
	if c.Name == "dark" {
		return "night"
	}
	for _, cond := range conditions {
		if m := minWidth.FindStringSubmatch(cond); m != nil {
			if l, err := css.ParseLength(m[1]); err == nil {
				return fmt.Sprintf("w%ddp", int(math.Round(l.Px(css.Units{Em: root, Rem: root}))))
			}
		}
	}
	return ""
}

// fontSizes are the dimensions that are sizes of type: typography refers to them, or their names say so.
func fontSizes(s *token.Set) map[string]bool {
	out := map[string]bool{}
	for _, t := range s.Tokens {
		if t.Type == token.Typography {
			if a := t.Value.Parts["fontSize"].Alias; a != "" {
				for _, c := range s.Chain(s.Get(a)) {
					out[c.Path] = true
				}
			}
		}
		if t.Type != token.Dimension {
			continue
		}
		if w := " " + strings.Join(words(t.Path), " ") + " "; strings.Contains(w, " font size ") ||
			strings.Contains(w, " type size ") {
			out[t.Path] = true
		}
	}
	return out
}

type androidFile struct {
	o        Options
	name     func(string) string
	sizes    map[string]bool
	set      *token.Set
	warnings []Warning
}

func (p *androidFile) warn(t *token.Token, msg string) {
	w := Warning{t.Path, msg}
	for _, said := range p.warnings {
		if said == w { // in another context
			return
		}
	}
	p.warnings = append(p.warnings, w)
}

func escapeXML(s string) string { return escape.In("xml", escape.Text, s) }

// text escapes what Android reads in strings as well.
func androidText(s string) string {
	s = strings.NewReplacer(`\`, `\\`, `'`, `\'`, `"`, `\"`).Replace(s)
	if strings.HasPrefix(s, "@") || strings.HasPrefix(s, "?") {
		s = `\` + s
	}
	return escapeXML(s)
}

func (p *androidFile) resources(set *token.Set, tokens []*token.Token) string {
	p.set = set
	var b strings.Builder
	b.Grow(80 * len(tokens))
	b.WriteString("<?xml version=\"1.0\" encoding=\"utf-8\"?>\n<!-- " + escapeXML(escape.In("xml", escape.BlockComment,
		p.o.head())) + " -->\n<resources>\n")
	for _, t := range tokens {
		if p.o.Includes(t.Path) {
			b.WriteString(p.resource(t))
		}
	}
	b.WriteString("</resources>\n")
	return b.String()
}

// item is a resource of a kind, or a reference to the one an alias means.
func (p *androidFile) item(t *token.Token, kind, value string) string {
	if a := t.Value.Alias; a != "" && p.o.Includes(a) {
		value = "@" + kind + "/" + p.name(a)
	}
	return "    <" + kind + " name=\"" + p.name(t.Path) + "\">" + value + "</" + kind + ">\n"
}

func (p *androidFile) resource(t *token.Token) string {
	end := p.set.Resolve(t)
	v := end.Value
	switch t.Type {
	case token.Color:
		text, ok := argb(v)
		if !ok {
			p.warn(t, "left out: outside sRGB, which is all that Android resources can say; state a hex for it")
			return ""
		}
		if !v.Color.InSRGB() {
			p.warn(t, "outside sRGB: its hex is written")
		}
		return p.item(t, "color", text)
	case token.Dimension:
		return p.item(t, "dimen", p.length(*v.Length, p.sizes[t.Path]))
	case token.Number:
		if end.Own.Written[""] != "" {
			p.warn(t, "left out: "+end.Own.Written[""]+" exists in CSS only")
			return ""
		}
		text := css.Num(*v.Number, 6)
		if a := t.Value.Alias; a != "" && p.o.Includes(a) {
			text = "@dimen/" + p.name(a)
		}
		return fmt.Sprintf("    <item name=\"%s\" type=\"dimen\" format=\"float\">%s</item>\n", p.name(t.Path), text)
	case token.FontWeight:
		return p.whole(t, *v.Number)
	case token.Duration:
		return p.whole(t, v.Length.Px(1))
	case token.FontFamily:
		return p.item(t, "string", androidText(p.family(v)))
	case token.Typography:
		return p.style(t, end)
	case token.CubicBezier:
		return ""
	}
	p.warn(t, "left out: Android resources have no "+string(t.Type))
	return ""
}

func (p *androidFile) whole(t *token.Token, v float64) string {
	if v != math.Round(v) {
		p.warn(t, "left out: Android takes whole numbers here")
		return ""
	}
	return p.item(t, "integer", css.Num(v, 0))
}

func (p *androidFile) length(l token.Length, size bool) string {
	unit := "dp"
	if size {
		unit = "sp"
	}
	return css.Num(l.Px(p.o.root()), 4) + unit
}

// family is the first of a list of families; Android falls back by itself.
func (p *androidFile) family(v token.Value) string {
	for len(v.List) > 0 {
		v = p.set.ResolvePart(v.List[0])
	}
	if len(v.Words) == 0 {
		return ""
	}
	return v.Words[0]
}

func (p *androidFile) style(t, end *token.Token) string {
	var b strings.Builder
	f := func(part string) token.Value { return p.set.ResolvePart(end.Value.Parts[part]) }
	size := f("fontSize").Length.Px(p.o.root())
	fmt.Fprintf(&b, "    <style name=\"%s\" parent=\"\">\n", pascal(t.Path, p.o.Prefix))
	item := func(name, value string) {
		fmt.Fprintf(&b, "        <item name=\"android:%s\">%s</item>\n", name, value)
	}
	refer := func(part, kind, value string) string {
		if a := end.Value.Parts[part].Alias; a != "" && p.o.Includes(a) {
			return "@" + kind + "/" + p.name(a)
		}
		return value
	}
	item("fontFamily", refer("fontFamily", "string", androidText(p.family(f("fontFamily")))))
	item("textSize", refer("fontSize", "dimen", p.length(*f("fontSize").Length, true)))
	if w := *f("fontWeight").Number; w == math.Round(w) {
		item("textFontWeight", refer("fontWeight", "integer", css.Num(w, 0)))
	} else {
		p.warn(t, "its weight is left out: Android takes whole numbers here")
	}
	if size != 0 {
		item("letterSpacing", css.Num(f("letterSpacing").Length.Px(p.o.root())/size, 5))
	}
	item("lineHeight", css.Num(*f("lineHeight").Number*size, 4)+"sp")
	return b.String() + "    </style>\n"
}

// curves are the interpolators.
func (p *androidFile) curves(set *token.Set) []File {
	var out []File
	for _, t := range set.Tokens {
		c := set.Resolve(t).Value.Bezier
		if t.Type != token.CubicBezier || c == nil || !p.o.Includes(t.Path) {
			continue
		}
		out = append(out, File{"interpolator/" + p.name(t.Path) + ".xml", "<?xml version=\"1.0\" encoding=\"utf-8\"?>\n" +
			fmt.Sprintf("<pathInterpolator xmlns:android=\"http://schemas.android.com/apk/res/android\"\n    "+
				"android:controlX1=\"%s\" android:controlY1=\"%s\" android:controlX2=\"%s\" android:controlY2=\"%s\" />\n",
				css.Num(c[0], 6), css.Num(c[1], 6), css.Num(c[2], 6), css.Num(c[3], 6))})
	}
	return out
}

// argb is a colour as #AARRGGBB; of one outside sRGB the hex it states, if it does.
func argb(v token.Value) (string, bool) {
	c := *v.Color
	if !c.InSRGB() {
		stated, err := color.Parse(v.Hex)
		if err != nil {
			return "", false
		}
		stated.Alpha = c.Alpha
		c = stated
	}
	hex := strings.ToUpper(c.Hex())
	if len(hex) == 9 { // alpha goes first
		return "#" + hex[7:] + hex[1:7], true
	}
	return "#FF" + hex[1:], true
}
