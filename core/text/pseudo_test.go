package text_test

import (
	"strings"
	"testing"

	"archetyp/core/text"
)

func TestMade(t *testing.T) {
	for _, c := range []struct{ in, want string }{
		{"Pay", "[Þ"}, {"Hi {name}", "{name}"}, {"<b>Go</b>", "<b>Ĝö</b>"}, {"{n, plural, one {# day} other {# days}}",
			"one {# đåý}"},
	} {
		got := text.Made(c.in, text.PseudoLong)
		if c.in != "Pay" && !strings.Contains(got, c.want) || !strings.HasPrefix(got, "[") || !strings.HasSuffix(got, "]") ||
			len(got) < len(c.in)*3/2 {
			t.Errorf("%q becomes %q", c.in, got)
		}
		if why := text.Lost(c.in, got, "en"); why != "" {
			t.Errorf("%q becomes %q, which %s", c.in, got, why)
		}
		if rtl := text.Made(c.in, text.PseudoRTL); text.Lost(c.in, rtl, "ar") != "" || !strings.Contains(rtl, "\u202e") {
			t.Errorf("%q becomes %q", c.in, rtl)
		}
	}
}

func FuzzMade(f *testing.F) {
	f.Add("{n, plural, one {# boat} other {# boats}} <b>x</b> '{'")
	f.Fuzz(func(t *testing.T, s string) { text.Made(s, text.PseudoLong) })
}
