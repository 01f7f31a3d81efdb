package css

import (
	"math"
	"strings"
	"testing"

	"archetyp/core/markup"
)

func describe(s *Sheet) string {
	var out []string
	for _, r := range s.Rules {
		var ds []string
		for _, d := range r.Decls {
			v := d.Prop + ":" + d.Value
			if d.Important {
				v += "!"
			}
			ds = append(ds, v)
		}
		out = append(out, r.Selector.Text+"{"+strings.Join(ds, ";")+"}")
	}
	return strings.Join(out, " ")
}

func TestParseSheet(t *testing.T) {
	phone := Medium{Width: 390, Height: 844}
	for _, c := range []struct{ in, want string }{
		{"a{fill:red}", "a{fill:red}"},
		{"a { fill : red ; stroke: blue }", "a{fill:red;stroke:blue}"},
		{"a{fill:red !important}", "a{fill:red!}"},
		{"a{fill:red! important;}", "a{fill:red!}"},
		{"/* x */ a /* y */ { fill/**/:red }", "a{fill:red}"},
		{"a{--Sea:#0b6e8f;FILL:var(--Sea)}", "a{--Sea:#0b6e8f;fill:var(--Sea)}"},
		{"a{fill:url(#x)} b{}", "a{fill:url(#x)}"},
		{"a{fill:red;;;stroke:blue}", "a{fill:red;stroke:blue}"},
		{"a{fill red; stroke:blue}", "a{stroke:blue}"},
		{"a{fill:red", "a{fill:red}"},
		{"@media print{a{fill:red}} b{fill:blue}", "b{fill:blue}"},
		{"@media screen{a{fill:red}}", "a{fill:red}"},
		{"@media (min-width: 600px){a{fill:red}}", ""},
		{"@media (max-width: 30rem){a{fill:red}}", "a{fill:red}"},
		{"@media (prefers-color-scheme: dark){a{fill:red}}", ""},
		{"@supports (display:grid){a{fill:red}}", "a{fill:red}"},
		{"@layer base{@media all{a{fill:red}}}", "a{fill:red}"},
		{"@supports not (display:grid){a{fill:red}}", ""},
		{"@namespace svg url(http://www.w3.org/2000/svg); svg|a{fill:red} html|a{fill:blue}", "svg|a{fill:red}"},
		{"g{fill:red;.a &{fill:blue}& > b,c{fill:lime}fill:teal}",
			"g{fill:red} .a :is(g){fill:blue} :is(g) > b,:is(g) c{fill:lime} g{fill:teal}"},
		{"g{@media print{fill:red} @media all{fill:blue;&:hover{fill:red}}}", "g{fill:blue} :is(g):hover{fill:red}"},
		{"g{--a:{b};c:hover{fill:red}}", "g{--a:{b}} :is(g) c:hover{fill:red}"},
		{"@keyframes x{from{fill:red}to{fill:blue}} a{fill:red}", "a{fill:red}"},
		{"@charset 'utf-8'; a{fill:red}", "a{fill:red}"},
		{"a:unknown{fill:red} b{fill:blue}", "b{fill:blue}"},
		{"<!-- a{fill:red} -->", "a{fill:red}"},
		{"}} a{fill:red}", ""},
		{"", ""},
	} {
		if got := describe(ParseSheet(c.in, phone)); got != c.want {
			t.Errorf("%s\n  is %s\nwant %s", c.in, got, c.want)
		}
	}
}

func TestSkippedRulesAreTold(t *testing.T) {
	s := ParseSheet("a{fill:red}\nb:nope{fill:blue}\nc", Medium{})
	if len(s.Skipped) != 2 {
		t.Fatalf("told of %v", s.Skipped)
	}
	if s.Skipped[0].Offset != 14 {
		t.Errorf("the fault is at %d, want 14", s.Skipped[0].Offset)
	}
}

func TestFontFace(t *testing.T) {
	s := ParseSheet(`@font-face { font-family: "Hanken Grotesk"; font-weight: 600; font-style: italic; src: local("x"), url("a/b.ttf") format("truetype"), url(c.woff) }
		@import url("other.css"); @import 'more.css' screen;`, Medium{})
	if len(s.FontFaces) != 1 || s.FontFaces[0] != (FontFace{"Hanken Grotesk", "a/b.ttf", "600", "italic"}) {
		t.Errorf("font faces: %+v", s.FontFaces)
	}
	if len(s.Imports) != 2 || s.Imports[0].URL+" "+s.Imports[1].URL != "other.css more.css" {
		t.Errorf("imports: %v", s.Imports)
	}
}

func TestMatchMedia(t *testing.T) {
	wide := Medium{Width: 1280, Height: 800}
	dark := Medium{Width: 390, Height: 844, Dark: true}
	for _, c := range []struct {
		query string
		m     Medium
		want  bool
	}{
		{"", wide, true}, {"all", wide, true}, {"screen", wide, true}, {"print", wide, false}, {"not print", wide, true},
		{"only screen and (min-width: 48rem)", wide, true}, {"(min-width: 48rem)", dark, false}, {"(max-width: 400px)", dark,
			true},
		{"(prefers-color-scheme: dark)", dark, true}, {"(prefers-color-scheme: light)", dark, false},
		{"(orientation: portrait)", dark, true}, {"(orientation: landscape)", dark, false},
		{"print, (min-width: 1px)", wide, true}, {"(prefers-reduced-motion: reduce)", wide, false}, {"(hover: hover)", wide,
			true},
		{"(min-height: 900px)", wide, false}, {"(max-height: 900px)", wide, true}, {"(nonsense: 1)", wide, false}, {"(color)",
			wide, true},
		{"(min-resolution: 2dppx)", wide, false},
	} {
		if got := MatchMedia(c.query, c.m); got != c.want {
			t.Errorf("%q on %v: %v", c.query, c.m, got)
		}
	}
}

func noHints(*markup.Node) []Decl { return nil }

func attrHints(n *markup.Node) []Decl {
	if v, ok := n.Attr("fill"); ok {
		return []Decl{{Prop: "fill", Value: v}}
	}
	return nil
}

// styleOf cascades from the root down to the element with an id.
func styleOf(d *markup.Document, c *Cascade, id string) *Style {
	var find func(n *markup.Node, parent *Style) *Style
	find = func(n *markup.Node, parent *Style) *Style {
		s := c.Style(n, parent)
		if n.ID() == id {
			return s
		}
		for _, k := range n.Elements() {
			if got := find(k, s); got != nil {
				return got
			}
		}
		return nil
	}
	return find(d.Root, nil)
}

func TestCascade(t *testing.T) {
	for _, c := range []struct{ name, doc, css, prop, want string }{
		{"attribute", `<svg><g id="x" fill="red"/></svg>`, "", "fill", "red"},
		{"rule beats attribute", `<svg><g id="x" fill="red"/></svg>`, "g{fill:blue}", "fill", "blue"},
		{"universal beats attribute", `<svg><g id="x" fill="red"/></svg>`, "*{fill:blue}", "fill", "blue"},
		{"style beats rule", `<svg><g id="x" style="fill:green"/></svg>`, "#x{fill:blue}", "fill", "green"},
		{"important beats style", `<svg><g id="x" style="fill:green"/></svg>`, "g{fill:blue!important}", "fill", "blue"},
		{"important style beats important rule", `<svg><g id="x" style="fill:green!important"/></svg>`,
			"g{fill:blue!important}", "fill", "green"},
		{"class beats type", `<svg><g id="x" class="c"/></svg>`, ".c{fill:blue}g{fill:red}", "fill", "blue"},
		{"later wins", `<svg><g id="x"/></svg>`, "g{fill:blue}g{fill:red}", "fill", "red"},
		{"inherited", `<svg fill="red"><g id="x"/></svg>`, "", "fill", "red"},
		{"not inherited", `<svg style="opacity:.5"><g id="x"/></svg>`, "", "opacity", ""},
		{"inherit keyword", `<svg style="opacity:.5"><g id="x" style="opacity:inherit"/></svg>`, "", "opacity", ".5"},
		{"initial keyword", `<svg fill="red"><g id="x" style="fill:initial"/></svg>`, "", "fill", ""},
		{"unset keyword", `<svg fill="red"><g id="x" style="fill:unset"/></svg>`, "", "fill", "red"},
		{"variable", `<svg style="--c:red"><g id="x" style="fill:var(--c)"/></svg>`, "", "fill", "red"},
		{"variable of a variable", `<svg style="--a:red;--b:var(--a)"><g id="x" style="fill:var(--b)"/></svg>`, "", "fill",
			"red"},
		{"fallback", `<svg><g id="x" style="fill:var(--none, blue)"/></svg>`, "", "fill", "blue"},
		{"fallback of a fallback", `<svg><g id="x" style="fill:var(--n, var(--m, blue))"/></svg>`, "", "fill", "blue"},
		{"missing variable", `<svg fill="red"><g id="x" style="fill:var(--none)"/></svg>`, "", "fill", "red"},
		{"cyclic variable", `<svg fill="red"><g id="x" style="--a:var(--b);--b:var(--a);fill:var(--a)"/></svg>`, "", "fill",
			"red"},
		{"variable inside a value", `<svg style="--w:2px"><g id="x" style="stroke:1px var(--w) 3px"/></svg>`, "", "stroke",
			"1px 2px 3px"},
		{"variable resolved where it is used",
			`<svg style="--c:red"><g style="--c:blue"><g id="x" style="fill:var(--c)"/></g></svg>`, "", "fill", "blue"},
		{"font shorthand size", `<svg><g id="x" style="font:italic 600 16px/24px 'A B', serif"/></svg>`, "", "font-size",
			"16px"},
		{"font shorthand weight", `<svg><g id="x" style="font:italic 600 16px/24px 'A B', serif"/></svg>`, "", "font-weight",
			"600"},
		{"font shorthand line", `<svg><g id="x" style="font:italic 600 16px/24px 'A B', serif"/></svg>`, "", "line-height",
			"24px"},
		{"font shorthand family", `<svg><g id="x" style="font:italic 600 16px/24px 'A B', serif"/></svg>`, "", "font-family",
			"'A B', serif"},
		{"marker shorthand", `<svg><g id="x" style="marker:url(#m)"/></svg>`, "", "marker-end", "url(#m)"},
	} {
		d, err := markup.ParseXML([]byte(c.doc))
		if err != nil {
			t.Fatal(err)
		}
		cs := NewCascade(d.Root, []*Sheet{ParseSheet(c.css, Medium{})}, attrHints, nil)
		got, _, _ := styleOf(d, cs, "x").Get(c.prop)
		if got != c.want {
			t.Errorf("%s: %s is %q, want %q", c.name, c.prop, got, c.want)
		}
	}
}

func TestCascadeTellsWhereAValueStands(t *testing.T) {
	d, err := markup.ParseXML([]byte(`<svg fill="red"><g id="x" class="c" style="opacity:.5"/></svg>`))
	if err != nil {
		t.Fatal(err)
	}
	c := NewCascade(d.Root, []*Sheet{ParseSheet(".c{stroke:blue}", Medium{})}, attrHints, nil)
	s := styleOf(d, c, "x")
	for prop, want := range map[string]SourceKind{"fill": FromAttribute, "opacity": FromInline, "stroke": FromRule,
		"color": FromNowhere} {
		if _, src, _ := s.Get(prop); src.Kind != want {
			t.Errorf("%s comes from %v, want %v", prop, src.Kind, want)
		}
	}
	if _, src, _ := s.Get("fill"); src.Node != d.Root {
		t.Error("an inherited value names the element it was declared on")
	}
}

func TestDoublingVariablesAreBounded(t *testing.T) {
	var b strings.Builder
	b.WriteString(`<svg style="--a0:xxxxxxxxxx;`)
	for i := 1; i < 60; i++ {
		n, m := string(rune('a'+i%26))+strings.Repeat("i", i/26), i
		_ = n
		b.WriteString("--a" + itoa(m) + ":var(--a" + itoa(m-1) + ") var(--a" + itoa(m-1) + ");")
	}
	b.WriteString(`"><g id="x" style="fill:var(--a59)"/></svg>`)
	d, err := markup.ParseXML([]byte(b.String()))
	if err != nil {
		t.Fatal(err)
	}
	if v, _, _ := styleOf(d, NewCascade(d.Root, nil, noHints, nil), "x").Get("fill"); len(v) > maxVarLength {
		t.Errorf("a value of %d bytes", len(v))
	}
}

func itoa(i int) string {
	if i < 10 {
		return string(rune('0' + i))
	}
	return itoa(i/10) + itoa(i%10)
}

func TestParseLength(t *testing.T) {
	u := Units{Em: 20, Rem: 16, Percent: 200, VW: 1000, VH: 500}
	for in, want := range map[string]float64{"12": 12, "12px": 12, "-1.5px": -1.5, "+3": 3, ".5": 0.5, "1e2": 100,
		"1e-2px": 0.01, "2em": 40,
		"2rem": 32, "50%": 100, "72pt": 96, "1in": 96, "6pc": 96, "25.4mm": 96, "2.54cm": 96, "101.6q": 96, "2ex": 20, "1ch": 10, "10vw": 100,
		"10vh": 50, "10vmin": 50, "10vmax": 100, " 7px ": 7, "1.px": math.NaN(), "1E3": 1000} {
		l, err := ParseLength(in)
		if math.IsNaN(want) {
			continue
		}
		if err != nil || math.Abs(l.Px(u)-want) > 1e-9 {
			t.Errorf("%q is %g px (%v), want %g", in, l.Px(u), err, want)
		}
	}
	for _, in := range []string{"", "px", "1 px", "1furlong", "--1", "1e", "auto", "1e999", ".", "+"} {
		if l, err := ParseLength(in); err == nil && in != "1e" {
			t.Errorf("%q is read as %v", in, l)
		}
	}
}

func TestSplitTop(t *testing.T) {
	for _, c := range []struct {
		in   string
		sep  byte
		want string
	}{
		{"a, b ,c", ',', "a|b|c"}, {"rgb(1, 2, 3), b", ',', "rgb(1, 2, 3)|b"}, {`"a, b", c`, ',', `"a, b"|c`}, {"a  b\tc",
			' ', "a|b|c"},
		{"f(a b) c", ' ', "f(a b)|c"}, {"", ',', ""}, {"a", ',', "a"}, {"a,", ',', "a|"}, {`'it\'s', b`, ',', `'it\'s'|b`},
	} {
		if got := strings.Join(SplitTop(c.in, c.sep), "|"); got != c.want {
			t.Errorf("%q at %q: %q, want %q", c.in, c.sep, got, c.want)
		}
	}
}

func TestParseFunctions(t *testing.T) {
	got, err := ParseFunctions(" translate(1px, 2px) rotate(3deg),scale(calc(1)) ")
	if err != nil || len(got) != 3 || got[0] != (Function{"translate", "1px, 2px"}) ||
		got[2] != (Function{"scale", "calc(1)"}) {
		t.Errorf("%v, %v", got, err)
	}
	for _, bad := range []string{"translate", "(1)", "a(1", "a(1) b"} {
		if got, err := ParseFunctions(bad); err == nil {
			t.Errorf("%q is read as %v", bad, got)
		}
	}
}

func TestURLFragment(t *testing.T) {
	for in, want := range map[string]string{"url(#a)": "a|", "url('#a b')": "a b|", `url("x.svg#c") red`: "c|red",
		"URL(#d)none": "d|none", "url()": "|"} {
		id, rest, ok := URLFragment(in)
		if !ok || id+"|"+rest != want {
			t.Errorf("%s: %q %q %v", in, id, rest, ok)
		}
	}
	if _, _, ok := URLFragment("red"); ok {
		t.Error("a colour is no url()")
	}
}

func TestIdentAndString(t *testing.T) {
	for in, want := range map[string]string{"a": "a", "1a": `\31 a`, "-1": `-\31 `, "a b": `a\ b`, "a.b": `a\.b`,
		"-": `\-`, "ü": "ü", "a\nb": `a\a b`, "_x20_": "_x20_"} {
		if got := Ident(in); got != want {
			t.Errorf("Ident(%q) = %q, want %q", in, got, want)
		}
		sel, err := ParseSelector("#" + Ident(in))
		if err != nil || len(sel.Complex[0].Parts[0].ID) != 1 || sel.Complex[0].Parts[0].ID[0] != in {
			t.Errorf("#%s does not mean the id %q (%v)", Ident(in), in, err)
		}
	}
	for in, want := range map[string]string{`a"b`: `"a\"b"`, `a\b`: `"a\\b"`, "a\nb": `"a\a b"`} {
		if got := String(in); got != want {
			t.Errorf("String(%q) = %s, want %s", in, got, want)
		}
	}
}

func TestNum(t *testing.T) {
	for _, c := range []struct {
		v    float64
		n    int
		want string
	}{{1, 3, "1"}, {1.5, 3, "1.5"}, {1.23456, 3, "1.235"}, {-0.0001, 3, "0"}, {0.1 + 0.2, 3, "0.3"}, {100, 0,
		"100"}, {-2.50, 2, "-2.5"}} {
		if got := Num(c.v, c.n); got != c.want {
			t.Errorf("Num(%g, %d) = %s, want %s", c.v, c.n, got, c.want)
		}
	}
	if Px(0) != "0" || Px(1.5) != "1.5px" {
		t.Error("lengths in px are wrong")
	}
}

func FuzzSheet(f *testing.F) {
	for _, s := range []string{"a{fill:red}", "@media (min-width:1px){a{b:c}}", "a{--x:{};y:z}", "@font-face{src:url(",
		"}{", "a{b:var(--c,d)}", "@a;@b{}", "{", "a{{b:c}}", "a{&:is(&,&){b:c}@layer x.y{b:d}}",
		"@supports not (a:b){}", "@media (1px<width<=2em) or (not (x)){}", "@namespace a 'b';a|b{c:d}"} {
		f.Add(s)
	}
	d, err := markup.ParseXML([]byte(`<svg><g id="x" class="a b"/></svg>`))
	if err != nil {
		f.Fatal(err)
	}
	f.Fuzz(func(t *testing.T, s string) {
		sheet := ParseSheet(s, Medium{Width: 100})
		st := styleOf(d, NewCascade(d.Root, []*Sheet{sheet}, noHints, nil), "x")
		for _, p := range st.Own() {
			st.Get(p)
		}
		ParseDecls(s)
		_, _ = ParseLength(s)
		_, _ = ParseFunctions(s)
		SplitTop(s, ',')
	})
}
