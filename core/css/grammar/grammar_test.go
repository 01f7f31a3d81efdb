package grammar_test

import (
	"math"
	"strings"
	"testing"

	"archetyp/core/css/grammar"
)

// TestMatch holds which values a definition takes.
// https://www.w3.org/TR/css-values-4/#value-defs
func TestMatch(t *testing.T) {
	for _, c := range []struct{ definition, takes, refuses string }{
		{"auto | none", "auto; NONE; none", "; auto none; 'auto'; 3px"},
		{"auto && none", "auto none; none auto", "auto; auto auto"},
		{"a || b || c", "a; c a; b c a; c", "; a a; d"},
		{"a b?", "a; a b", "b; a b b"},
		{"a*", "a; a a a", "b; a b"},
		{"a+", "a; a a", ""},
		{"a#", "a; a, a; a , a", "a a; a,; ,a; a,,a"},
		{"a{2}", "a a", "a; a a a"},
		{"a{2,3}", "a a; a a a", "a; a a a a"},
		{"a{2,}", "a a; a a a a", "a"},
		{"a#{2}", "a, a", "a; a a; a, a, a"},
		{"[ a | b ] c", "a c; b c", "a b c; c"},
		{"[ a? b? ]!", "a; b; a b", ""},
		{"a / b", "a / b; a/b", "a b; a /"},
		{"a , b", "a, b", "a b"},
		{"f( <number> [ , <length> ]? )", "f(1, 2px); F(1)", "f(); f(2px); g(1, 2px)"},
		{"<length>", "0; 1px; 2.5EM; -3rem; calc(1px + 2em); min(1px, 2vw)", "1; 5%; 1s; red; 1 px; calc(1px + 2)"},
		{"<length [0,∞]>", "0; 1px; calc(1px - 2px)", "-1px"},
		{"<length-percentage>", "0; 1px; 5%; calc(100% - 16px)", "1; 2s; calc(1s)"},
		{"<percentage>", "5%; -5%; calc(5% * 2)", "5; 0; 5px"},
		{"<number>", "0; 1.5; -2; 1e3; calc(2 / 3)", "1px; 5%"},
		{"<number [0,1]>", "0; 1; 0.5", "1.1; -0.1"},
		{"<integer>", "0; -3; +4; calc(7 / 2)", "1.5; 1.0; 3px"},
		{"<integer [1,∞]>", "1; 20", "0; -1"},
		{"<angle>", "45deg; 0.5turn; 1rad; 100grad; calc(10deg + 1turn)", "0; 45; 1px"},
		{"<time>", "1s; 150ms; calc(1s / 3)", "0; 1; 1px"},
		{"<resolution>", "2dppx; 96dpi; 1.5x", "2; 2px"},
		{"<string>", `"a"; 'b'`, "a; url(a)"},
		{"<url>", `url(a.png); url("a b.png")`, `"a.png"; src`},
		{"<custom-ident>", "a; -a; --a; _b", "inherit; initial; 3a; 'a'"},
		{"<dashed-ident>", "--a; --A-b", "a; -a"},
		{"<color>", "red; #fff; #ffff; #aabbcc; rgb(1 2 3); rgb(1, 2, 3, .5); hsl(120deg 100% 50%); color-mix(in srgb, red, blue); transparent; currentColor; canvastext; light-dark(red, blue); oklch(50% .1 20 / 30%)",
			"#ff; redd; rgb(1 2); rgb(1, 2 3); light-dark(red); hsl(); oklch(a b c)"},
	} {
		g, err := grammar.Compile(c.definition)
		if err != nil {
			t.Errorf("%s: %v", c.definition, err)
			continue
		}
		for _, v := range strings.Split(c.takes, "; ") {
			if _, ok := g.Text(v); !ok {
				t.Errorf("%s does not take %s", c.definition, v)
			}
		}
		for _, v := range strings.Split(c.refuses, "; ") {
			if _, ok := g.Text(v); ok && v != "" {
				t.Errorf("%s takes %s", c.definition, v)
			}
		}
	}
}

// TestOrder holds that a value comes out in the order of its definition, however it was written.
func TestOrder(t *testing.T) {
	g := grammar.Must("<color> || <length>{2,3} || inset")
	parts, ok := g.Text("2px 3px inset red")
	if !ok || len(parts) != 4 || parts[0].Kind != grammar.Colour || parts[3].Keyword() != "inset" {
		t.Errorf("%v %v", parts, ok)
	}
	value, err := grammar.Parts("1px 2px solid")
	if err != nil {
		t.Fatal(err)
	}
	if _, n := grammar.Must("<length>+").Prefix(value); n != 2 {
		t.Errorf("%d parts", n)
	}
}

// TestWrongDefinitions holds that a definition that cannot be read is an error, and no panic.
func TestWrongDefinitions(t *testing.T) {
	for _, s := range []string{"", "a |", "[ a", "a ]", "<no-such-type>", "a{", "a{3,1}", "f( a", "a &&", "<length [0>", "'", "a#{"} {
		if g, err := grammar.Compile(s); err == nil && g != nil && s != "" {
			t.Errorf("%q is read", s)
		}
	}
}

// TestMath holds what math functions give where everything in them is known.
// https://www.w3.org/TR/css-values-4/#math
func TestMath(t *testing.T) {
	number, length := grammar.Must("<number>"), grammar.Must("<length>")
	for _, c := range []struct {
		text string
		want float64
	}{
		{"calc(1 + 2 * 3)", 7}, {"calc((1 + 2) * 3)", 9}, {"calc(10 - 2 - 3)", 5}, {"calc(12 / 2 / 3)", 2}, {"calc(-1 * -2)", 2},
		{"min(3, 1, 2)", 1}, {"max(3, 1, 2)", 3}, {"clamp(1, 5, 3)", 3}, {"clamp(none, 5, 3)", 3}, {"clamp(4, 1, none)", 4},
		{"round(7, 5)", 5}, {"round(up, 7, 5)", 10}, {"round(down, -7, 5)", -10}, {"round(to-zero, -7, 5)", -5}, {"round(2.5)", 3},
		{"mod(18, 5)", 3}, {"mod(-18, 5)", 2}, {"rem(-18, 5)", -3}, {"abs(-4)", 4}, {"sign(-4)", -1}, {"sign(0)", 0},
		{"sqrt(9)", 3}, {"pow(2, 10)", 1024}, {"hypot(3, 4)", 5}, {"hypot(3, 4, 12)", 13}, {"exp(0)", 1}, {"log(e)", 1}, {"log(8, 2)", 3},
		{"sin(90deg)", 1}, {"cos(0)", 1}, {"tan(45deg)", 1}, {"sin(pi / 2)", 1}, {"calc(pi)", math.Pi}, {"calc(e)", math.E},
		{"calc(1px / 1px)", 1}, {"calc(10px / 2px + 1)", 6}, {"calc(min(1, 2) + max(3, 4))", 5}, {"calc(infinity)", math.Inf(1)}, {"calc(-infinity)", math.Inf(-1)},
	} {
		parts, ok := number.Text(c.text)
		if !ok || parts[0].Kind != grammar.Number || math.Abs(parts[0].Num-c.want) > 1e-9 && parts[0].Num != c.want {
			t.Errorf("%s: %v %v, not %v", c.text, parts, ok, c.want)
		}
	}
	for text, px := range map[string]float64{"calc(1in + 4px)": 100, "calc(2.54cm)": 96, "calc(3pt * 4)": 16, "calc(1pc)": 16, "calc(25.4mm)": 96, "calc(101.6q)": 96, "max(1px, 2px)": 2, "hypot(3px, 4px)": 5} {
		if parts, ok := length.Text(text); !ok || math.Abs(parts[0].Num-px) > 1e-9 || parts[0].Text != "px" {
			t.Errorf("%s: %v %v", text, parts, ok)
		}
	}
	for _, text := range []string{"calc(1 +2)", "calc(1px * 2px)", "calc(1 / 1px)", "calc()", "calc(1 2)", "min()", "clamp(1, 2)", "calc(1px + 1s)", "sin(1px)", "pow(1px, 2)", "round(sideways, 1, 2)"} {
		if _, ok := number.Text(text); ok {
			t.Errorf("%s is read as a number", text)
		}
	}
}

// TestHeld holds that a value that was read once can be read again: what is left of calc() stays what it was.
func TestHeld(t *testing.T) {
	g := grammar.Must("<length-percentage>")
	once, ok := g.Text("calc(100% - 2em)")
	if !ok {
		t.Fatal("not read")
	}
	if twice, ok := g.Match(once); !ok || twice[0].Math == nil {
		t.Errorf("%v %v", twice, ok)
	}
	if _, ok := grammar.Must("<angle>").Match(once); ok {
		t.Error("a length is taken for an angle")
	}
}

// FuzzParts reads values against a definition with everything in it.
func FuzzParts(f *testing.F) {
	for _, s := range []string{"1px solid red", "calc(1px + (2em * 3))", "rgb(from red r g b / calc(alpha * .5))", "color-mix(in oklch longer hue, red 20%, blue)", "url(a b", "f(((((", `"a\`, "#fff", "min(1,,2)",
		"calc(((((((((1)))))))))", "light-dark(red, rgb(0 0 0))", "oklch(none none none / none)", "1e999px", "--a -b c"} {
		f.Add(s)
	}
	g := grammar.Must("[ <color> | <length-percentage> | <number> | <angle> | <time> | <string> | <url> | <custom-ident> | <any-function> | <block> | , | / ]*")
	f.Fuzz(func(t *testing.T, s string) {
		parts, err := grammar.Parts(s)
		if err != nil {
			return
		}
		if out, ok := g.Match(parts); ok {
			g.Match(out)
		}
	})
}
