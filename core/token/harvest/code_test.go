package harvest

import (
	"os"
	"strconv"
	"strings"
	"testing"
)

// TestReadCode holds what is collected of a style sheet: custom properties by context, values by kind, widths.
func TestReadCode(t *testing.T) {
	c := ReadCode([]Sheet{{"a.css", `
:root { --sea: #0b6e8f; --gap: 8px; --link: var(--sea) }
@media (prefers-color-scheme: dark) { :root { --sea: #8fd } }
[data-scheme="dark"] { --sea: #8fc; }
.btn { --pad: 4px; padding: var(--gap) 12px; color: var(--link); background: #0B6E8F; box-shadow: 0 1px 2px rgb(0 0 0 / .2); transition: color .2s cubic-bezier(0,0,1,1) }
@media (min-width: 48rem) { .btn { padding: 12px; border-radius: 6px; font: 600 14px/1.5 Go, serif; z-index: 3 } }
`, 10}})
	if s := strings.Join(c.Contexts, "|"); s != `|@media (prefers-color-scheme: dark)|[data-scheme="dark"]|.btn` {
		t.Error(s)
	}
	var got []string
	for _, p := range c.Properties {
		s := p.Name
		for _, in := range p.In {
			s += " " + in.Context + "=" + in.Value
		}
		if !p.Whole {
			s += " (local)"
		}
		got = append(got, s)
	}
	want := `--sea =#0b6e8f @media (prefers-color-scheme: dark)=#8fd [data-scheme="dark"]=#8fc|--gap =8px|--link =var(--sea)|--pad .btn=4px (local)`
	if s := strings.Join(got, "|"); s != want {
		t.Errorf("%s\nnot\n%s", s, want)
	}
	got = nil
	for _, v := range c.Values {
		got = append(got, v.Kind+" "+v.Text+" "+strconv.Itoa(v.Uses)+" "+strings.Join(v.Is, ","))
	}
	want = "color #0b6e8f 1 --sea|color rgb(0 0 0 / 0.2) 1 |size 14px 1 |family Go, serif 1 |weight 600 1 |line 1.5 1 |space 12px 2 |radius 6px 1 |shadow 0 1px 2px rgb(0 0 0 / .2) 1 |time .2s 1 |easing cubic-bezier(0,0,1,1) 1 |layer 3 1 |width 48rem 1 "
	if s := strings.Join(got, "|"); s != want {
		t.Errorf("%s\nnot\n%s", s, want)
	}
	if p := c.Values[0].Places[0]; p.Line != 14 || p.Selector != ".btn" {
		t.Errorf("%+v", p)
	}
	if s := c.CSS(); !strings.Contains(s, "@media (prefers-color-scheme: dark) {\n  :root {\n    --sea: #8fd;\n  }\n}\n") {
		t.Error(s)
	}
}

// BenchmarkReadCode collects from the style sheet that ARCHETYP_BENCH_SHEET names.
func BenchmarkReadCode(b *testing.B) {
	data, err := os.ReadFile(os.Getenv("ARCHETYP_BENCH_SHEET"))
	if err != nil {
		b.Skip("ARCHETYP_BENCH_SHEET names no style sheet")
	}
	b.SetBytes(int64(len(data)))
	for b.Loop() {
		ReadCode([]Sheet{{"x.css", string(data), 1}})
	}
}

// FuzzReadCode collects from whatever text there is: no panic, and what is written again is read again.
func FuzzReadCode(f *testing.F) {
	for _, s := range []string{":root { --a: 1px; --b: var(--a) }", "@media (min-width: 1px) { .a { color: red; --c: { x } } }", "a { font: 1px/2 x; box-shadow: 0 0 1px red, 2px 2px", "@property --x { syntax: '*'; inherits: true }", "}}}{{{"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		c := ReadCode([]Sheet{{"a.css", s, 1}})
		again := ReadCode([]Sheet{{"b.css", c.CSS(), 1}})
		if len(again.Properties) > len(c.Properties) {
			t.Errorf("%d properties became %d", len(c.Properties), len(again.Properties))
		}
	})
}

// TestAlmost holds which values are hard to tell apart.
func TestAlmost(t *testing.T) {
	for _, c := range []struct {
		kind, a, b string
		want       bool
	}{
		{"color", "#0b6e8f", "#0c6f91", true},
		{"color", "#0b6e8f", "#085570", false},
		{"color", "rgb(16 36 58 / 0.1)", "rgb(16 36 58 / 0.16)", false},
		{"color", "red", "nonsense", false},
		{"space", "7px", "8px", true},
		{"space", "4px", "5px", false},
		{"space", "8px", "8px", false},
		{"radius", "13px", "12px", true},
		{"radius", "12px", "1em", false},
		{"shadow", "0 1px red", "0 1px blue", false},
	} {
		if _, ok := Almost(c.kind, c.a, c.b); ok != c.want {
			t.Errorf("%s %s and %s: %v", c.kind, c.a, c.b, ok)
		}
	}
}
