package match

import (
	"fmt"
	"strings"
	"testing"

	"archetyp/core/geom"
)

func at(words, path string, x, y float64) Identity {
	return Identity{Screen: "S", Path: path, Words: words, Box: geom.Rect{X: x, Y: y, W: 50, H: 20}}
}

func TestAlike(t *testing.T) {
	for _, c := range []struct {
		name     string
		old, new []Identity
		want     string
	}{
		{"the same words elsewhere", []Identity{at("Pay now", "a/x", 10, 20)}, []Identity{at("Pay now", "b/y", 200, 500)},
			"0=0"},
		{"nearly the same words in place", []Identity{at("Pay now", "a/x", 10, 20)},
			[]Identity{at("Pay today", "a/y", 10, 20)}, "0=0"},
		{"nearly the same words elsewhere, in another layer", []Identity{at("Pay now", "a/x", 10, 20)},
			[]Identity{at("Pay later", "b/y", 300, 800)}, ""},
		{"other words in place", []Identity{at("Pay now", "a/x", 10, 20)}, []Identity{at("Cancelled", "b/y", 10, 20)}, ""},
		{"on another screen", []Identity{at("Pay now", "a/x", 10, 20)},
			[]Identity{{Screen: "T", Path: "b", Words: "Pay now"}}, ""},
		{"the better of two", []Identity{at("Adults over six", "a/x", 10, 20), at("Adults over sixty", "a/y", 10, 60)},
			[]Identity{at("Adults over sixty-five", "b/p", 10, 60), at("Adults over six", "b/q", 10, 20)}, "1=0, 0=1"},
		{"one is left", []Identity{at("Adults", "a/x", 10, 20)}, []Identity{at("Adults", "b/p", 10, 20),
			at("Adults", "b/q", 10, 60)}, "0=0"},
		{"without words nothing is alike", []Identity{{Screen: "S", Path: "a"}}, []Identity{{Screen: "S", Path: "b"}}, ""},
		{"a path wins over likeness", []Identity{at("One", "a/x", 10, 20), at("Two", "a/y", 10, 60)},
			[]Identity{at("Two", "a/x", 10, 20), at("One", "a/y", 10, 60)}, "0=0, 1=1"},
	} {
		var got []string
		for _, p := range Match(c.old, c.new) {
			got = append(got, fmt.Sprintf("%d=%d", p.Old, p.New))
		}
		if s := strings.Join(got, ", "); s != c.want {
			t.Errorf("%s: %q, want %q", c.name, s, c.want)
		}
	}
}

func TestWords(t *testing.T) {
	for _, c := range []struct {
		a, b     string
		from, to float64
	}{
		{"", "", 1, 1}, {"Pay", "Pay", 1, 1}, {"Pay", "pay", 1, 1}, {"Pay now", "Pay  now", 1, 1}, {"Pay", "", 0,
			0}, {"Pay now", "Pay today", 0.4, 0.7},
		{"Adults", "Children", 0, 0.2}, {"Free to change", "Free to change.", 0.9, 0.99}, {"אחד", "אחת", 0.5, 0.9},
	} {
		if got := Words(c.a, c.b); got < c.from || got > c.to || got != Words(c.b, c.a) {
			t.Errorf("%q and %q are %.2f alike, want %.2f to %.2f", c.a, c.b, got, c.from, c.to)
		}
	}
}

// Many left on one screen are paired with those nearby only: the work grows with their number, not its square.
func TestManyAlike(t *testing.T) {
	var old, new []Identity
	for i := range 3000 {
		old = append(old, at(fmt.Sprintf("Row %d of the table", i), fmt.Sprintf("a/%d", i), 10, float64(i)*20))
		new = append(new, at(fmt.Sprintf("Row %d of the table", i), fmt.Sprintf("b/%d", i), 10, float64(i)*20))
	}
	pairs := Match(old, new)
	if len(pairs) != len(old) {
		t.Fatalf("%d of %d", len(pairs), len(old))
	}
	for _, p := range pairs {
		if p.Old != p.New || p.Why != ByLikeness {
			t.Fatalf("%+v", p)
		}
	}
}

func BenchmarkAlike(b *testing.B) {
	for _, n := range []int{1000, 10000} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			var old, new []Identity
			for i := range n {
				old = append(old, at(fmt.Sprintf("Row %d of the table", i), fmt.Sprintf("a/%d", i), 10, float64(i)*20))
				new = append(new, at(fmt.Sprintf("Row %d of the tables", i), fmt.Sprintf("b/%d", i), 10, float64(i)*20))
			}
			b.ReportAllocs()
			for b.Loop() {
				Match(old, new)
			}
		})
	}
}
