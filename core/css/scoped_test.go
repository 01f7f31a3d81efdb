package css

import (
	"fmt"
	"strings"
	"testing"
)

func TestParseScoped(t *testing.T) {
	for _, c := range []struct{ name, css, want string }{
		{"a rule", ":root { --a: 1px; --b: red }", ":root --a=1px; :root --b=red"},
		{"white space", ":root\n{\n\t--a :  1px  ;\n}", ":root --a=1px"},
		{"comments", "/* x */ .a /* y */ > b { --a: 1px /* z */ }", ".a > b --a=1px"},
		{"media", "@media (min-width: 48rem) { :root { --a: 1px } }", "@media (min-width: 48rem) | :root --a=1px"},
		{"media in media", "@media print { @supports (color: red) { a { --a: 1px } } b { --a: 2px } }",
			"@media print | @supports (color: red) | a --a=1px; @media print | b --a=2px"},
		{"a layer", "@layer base { a { --a: 1px } }", "@layer base | a --a=1px"},
		{"other rules", "@import 'x.css'; @font-face { src: url(x) } @keyframes k { from { --a: 1px } } a { --b: 2px }",
			"a --b=2px"},
		{"braces in strings", `a { --a: "}"; --b: url(x}y) }`, `a --a="}"; a --b=url(x}y)`},
		{"semicolons in brackets", "a { --a: f(1; 2); --b: 3 }", "a --a=f(1; 2); a --b=3"},
		{"left open", "a { --a: 1px", "a --a=1px"},
		{"a selector without a block", "a, b", ""},
		{"a closing brace too many", "} a { --a: 1px }", "a --a=1px"},
		{"important", "a { --a: 1px !important }", "a --a=1px"},
		{"empty", "", ""},
	} {
		list, _ := ParseScoped(c.css)
		var got []string
		for _, s := range list {
			at := strings.Join(append(append([]string(nil), s.Around...), s.Selector), " | ")
			got = append(got, fmt.Sprintf("%s %s=%s", at, s.Prop, s.Value))
			if !strings.HasPrefix(c.css[s.Offset:], s.Prop) {
				t.Errorf("%s: %s does not stand at %d", c.name, s.Prop, s.Offset)
			}
		}
		if strings.Join(got, "; ") != c.want {
			t.Errorf("%s: %s\nwant %s", c.name, strings.Join(got, "; "), c.want)
		}
	}
	deep := strings.Repeat("@media a {", 500) + "a { --a: 1px }" + strings.Repeat("}", 500)
	if list, _ := ParseScoped(deep); len(list) != 0 {
		t.Error("endless nesting is read")
	}
}
