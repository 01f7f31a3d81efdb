package css_test

import (
	"testing"

	"archetyp/core/css"
)

// TestIsCustomProperty holds what can stand as a declaration of its own.
func TestIsCustomProperty(t *testing.T) {
	for _, v := range []string{"", " ", "1px", "var(--a, 2px)", "{a: b; c: d}", "(a;b)", "'a;b'", `"}"`, "url(a;b)", "/* a; */ 1px", "#fff !default", "a /* b */", "[a] (b) {c}", "1px/**/2px"} {
		if !css.IsCustomProperty("--a", v) {
			t.Errorf("%q is refused", v)
		}
	}
	for _, v := range []string{"1px; color: red", "}", "a) b", "(a", "[a)", "'a", "'a\nb'", "url(a b", "/* a", "a /* b", "<!-- a", "</style>", "a\x00b", "f(a; b"} {
		if css.IsCustomProperty("--a", v) {
			t.Errorf("%q is taken", v)
		}
	}
	for _, n := range []string{"", "--", "a", "-a", "--a b", "--a: x", "--a;", "--a/**/"} {
		if css.IsCustomProperty(n, "1px") {
			t.Errorf("the name %q is taken", n)
		}
	}
}
