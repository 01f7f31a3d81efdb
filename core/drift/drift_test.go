package drift

import (
	"strings"
	"testing"

	"archetyp/core/design"
)

func TestApart(t *testing.T) {
	for _, c := range []struct {
		property, a, b string
		t              Tolerances
		same           bool
		unit           string
	}{
		{"color", "rgb(12, 111, 145)", "rgb(11, 110, 143)", Tolerances{}, false, "OKLab"},
		{"color", "rgb(12, 111, 145)", "rgb(11, 110, 143)", Tolerances{Colour: 0.02}, true, "OKLab"},
		{"color", "rgb(0, 0, 0)", "color(srgb 0 0 0)", Tolerances{}, true, "OKLab"},
		{"padding-top", "18px", "18.4px", Tolerances{}, false, "px"},
		{"padding-top", "18px", "18.4px", Tolerances{Length: 0.5}, true, ""},
		{"letter-spacing", "normal", "0px", Tolerances{}, true, ""},
		{"width", "50%", "50px", Tolerances{}, false, ""},
		{"opacity", "0.6", "0.5", Tolerances{}, false, ""},
		{"opacity", "0.6", "0.5", Tolerances{Share: 0.2}, true, ""},
		{"background-image", "linear-gradient(rgb(1, 2, 3), rgb(4, 5, 6))", "linear-gradient(rgb(1, 2, 3) 0%, rgb(4, 5, 6) 100%)", Tolerances{}, true, ""},
		{"background-image", "linear-gradient(90deg, rgb(1, 2, 3) 0%, rgb(4, 5, 6))", "linear-gradient(90deg, rgb(1, 2, 3), rgb(4, 5, 6) 100%)", Tolerances{}, true, ""},
		{"background-image", "linear-gradient(90deg, rgb(1, 2, 3) 10%, rgb(4, 5, 6))", "linear-gradient(90deg, rgb(1, 2, 3), rgb(4, 5, 6))", Tolerances{}, false, ""},
		{"box-shadow", "rgba(16, 36, 58, 0.1) 0px 4px 16px 0px", "rgba(16, 36, 58, 0.16) 0px 4px 16px 0px", Tolerances{}, false, "OKLab"},
		{"display", "flex", "grid", Tolerances{}, false, ""},
	} {
		if _, unit, same := c.t.apart(c.property, c.a, c.b); same != c.same || c.unit != "" && unit != c.unit {
			t.Errorf("%s: %s and %s: %v, in %q", c.property, c.a, c.b, same, unit)
		}
	}
}

func TestCanonical(t *testing.T) {
	for _, c := range [][2]string{{"rgba(16, 36, 58, 0.1) 0px 4px 16px 0px", "0 4px 16px rgb(16 36 58 / 0.1)"}, {"#0B6E8F", "rgb(11, 110, 143)"}, {"16.0px", "16px"}} {
		if a, b := Canonical(c[0]), Canonical(c[1]); a != b {
			t.Errorf("%q and %q", a, b)
		}
	}
	if Canonical("16px") == Canonical("16em") {
		t.Error("units count")
	}
}

func TestViews(t *testing.T) {
	sheet := func(text string) []design.StyleSheet { return []design.StyleSheet{{Text: text}} }
	base := View{Width: 1280, Height: 800}
	if v := Views(base, sheet("p{color:red}")); len(v) != 1 {
		t.Errorf("%v", v)
	}
	v := Views(base, sheet("@media (min-width:48rem){p{}} @media (max-width: 400px){} @media (prefers-color-scheme:dark){} a:hover{} a:focus-visible{} b:hovered{}"))
	var text []string
	for _, x := range v {
		switch {
		case x.Dark:
			text = append(text, "dark")
		case x.State != "":
			text = append(text, x.State)
		case x.Width < 400:
			text = append(text, "narrow")
		case x.Width < 768:
			text = append(text, "middle")
		default:
			text = append(text, "wide")
		}
	}
	if s := strings.Join(text, " "); s != "wide narrow middle dark hover focus-visible" {
		t.Error(s)
	}
	if v := Views(base, sheet(strings.Repeat("@media (min-width:1px){} @media (width >= 2px){}", 3)+many())); len(v) > mostWidths+1 {
		t.Errorf("%d views", len(v))
	}
}

func many() string {
	var b strings.Builder
	for i := range 40 {
		b.WriteString("@media (min-width:" + strings.Repeat("1", 1+i%4) + string(rune('0'+i%10)) + "px){}")
	}
	return b.String()
}

func TestOutOfOrder(t *testing.T) {
	for _, c := range []struct {
		list []int
		want int
	}{{nil, 0}, {[]int{1, 2, 3}, 0}, {[]int{2, 1}, 1}, {[]int{3, 1, 2}, 1}, {[]int{2, 3, 4, 1}, 1}, {[]int{4, 3, 2, 1}, 3}} {
		if got := len(outOfOrder(c.list)); got != c.want {
			t.Errorf("%v: %d", c.list, got)
		}
	}
}

func TestApply(t *testing.T) {
	css := ".a {\n  color: red;\n  margin: 0 !important;\n}\n.b { color: blue }\n.c {}\n"
	for name, c := range map[string]struct {
		edit Edit
		want string
		left int
	}{
		"another value":      {Edit{Line: 2, Column: 3, Property: "color", Was: "red", Is: "var(--x)"}, strings.Replace(css, "red", "var(--x)", 1), 0},
		"important stays":    {Edit{Line: 3, Column: 3, Property: "margin", Was: "0", Is: "4px"}, strings.Replace(css, "margin: 0 ", "margin: 4px ", 1), 0},
		"a line goes":        {Edit{Line: 2, Column: 3, Property: "color", Was: "red"}, strings.Replace(css, "  color: red;\n", "", 1), 0},
		"one comes":          {Edit{Line: 1, Column: 1, Property: "top", Is: "0"}, strings.Replace(css, "!important;\n", "!important;\n  top: 0;\n", 1), 0},
		"one comes beside":   {Edit{Line: 5, Column: 1, Property: "top", Is: "0"}, strings.Replace(css, "blue ", "blue; top: 0; ", 1), 0},
		"into an empty rule": {Edit{Line: 6, Column: 1, Property: "top", Is: "0"}, strings.Replace(css, ".c {}", ".c { top: 0;}", 1), 0},
		"not there any more": {Edit{Line: 2, Column: 3, Property: "color", Was: "green", Is: "x"}, css, 1},
		"at another place":   {Edit{Line: 9, Column: 3, Property: "color", Was: "red", Is: "x"}, css, 1},
	} {
		got, _, left := Apply(css, []Edit{c.edit})
		if got != c.want || len(left) != c.left {
			t.Errorf("%s: %q, %v", name, got, left)
		}
	}
	got, made, _ := Apply("<style>p { color: red; }</style>", []Edit{{Line: 1, Column: 12, Property: "color", Was: "red", Is: "blue"}})
	if made != 1 || got != "<style>p { color: blue; }</style>" {
		t.Errorf("in a page: %q", got)
	}
}

func TestPatch(t *testing.T) {
	was := "1\n2\n3\n4\n5\n6\n7\n8\n9\n10\n11\n12\n13\n14\n15\n16"
	is := strings.Replace(strings.Replace(was, "2\n", "two\n", 1), "\n15\n", "\n", 1)
	want := "--- a/f\n+++ b/f\n@@ -1,5 +1,5 @@\n 1\n-2\n+two\n 3\n 4\n 5\n@@ -12,5 +12,4 @@\n 12\n 13\n 14\n-15\n 16\n\\ No newline at end of file\n"
	if got := Patch("f", was, is); got != want {
		t.Errorf("%s", got)
	}
	if Patch("f", was, was) != "" {
		t.Error("nothing changed")
	}
}

// FuzzValues takes any two texts for values.
func FuzzValues(f *testing.F) {
	for _, s := range []string{"1px", "rgba(1, 2, 3, 0.5) 0px 4px 16px", "linear-gradient(45deg, red 0%, blue 100%)", "calc(1em + 2%)", "url(a b)", "1e", "gradient(((,", "#fff 1e400px"} {
		f.Add(s, s+" 2px")
	}
	f.Fuzz(func(t *testing.T, a, b string) {
		if _, _, same := (Tolerances{}).apart("padding", a, a); !same {
			t.Errorf("%q is not itself", a)
		}
		(Tolerances{}).apart("background-image", a, b)
		Canonical(a)
	})
}

// FuzzApply edits any text.
func FuzzApply(f *testing.F) {
	f.Add("a{b:c}", 1, 3, "b", "c", "d")
	f.Add("<style>a{b:c}", 1, 10, "b", "c", "")
	f.Add("a{", 1, 1, "b", "", "d")
	f.Fuzz(func(t *testing.T, text string, line, column int, property, was, is string) {
		out, made, _ := Apply(text, []Edit{{Line: line, Column: column, Property: property, Was: was, Is: is}})
		if made == 0 && out != text {
			t.Error("nothing was made, and the text is another")
		}
		Patch("f", text, out)
	})
}
