package digest

import "testing"

func TestWhatDiffersSumsUpOtherwise(t *testing.T) {
	seen := map[string]string{}
	for name, add := range map[string]func(d *Digest){
		"nothing":      func(*Digest) {},
		"a b":          func(d *Digest) { d.Text("a", "b") },
		"b a":          func(d *Digest) { d.Text("b", "a") },
		"ab":           func(d *Digest) { d.Text("ab") },
		"ab and none":  func(d *Digest) { d.Text("ab", "") },
		"zero":         func(d *Digest) { d.Num(0) },
		"one":          func(d *Digest) { d.Num(1) },
		"true":         func(d *Digest) { d.Flag(true) },
		"true, false":  func(d *Digest) { d.Flag(true, false) },
		"two of one":   func(d *Digest) { d.Num(1, 1) },
		"a little off": func(d *Digest) { d.Num(1.0000000000000002) },
	} {
		d := New()
		add(d)
		if other, ok := seen[d.String()]; ok {
			t.Errorf("%s and %s have one sum", name, other)
		}
		seen[d.String()] = name
	}
	again := New()
	again.Text("a", "b")
	if again.String() != Of("a", "b") {
		t.Error("one thing has two sums")
	}
}
