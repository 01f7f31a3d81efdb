package match

import (
	"fmt"
	"strings"
	"testing"

	"archetyp/core/design"
)

func TestMatch(t *testing.T) {
	id := func(mark, id, path string) Identity { return Identity{Screen: "S", Mark: mark, ID: id, Path: path} }
	for _, c := range []struct {
		name     string
		old, new []Identity
		want     string
	}{
		{"nothing", nil, nil, ""},
		{"same mark", []Identity{id("asset a", "x", "p")}, []Identity{id("asset a", "y", "q")}, "0=0 same mark"},
		{"same id", []Identity{id("", "x", "p")}, []Identity{id("", "x", "q")}, "0=0 same id"},
		{"same path", []Identity{id("", "", "p")}, []Identity{id("", "", "p")}, "0=0 same name path"},
		{"mark before id", []Identity{id("m", "x", "p"), id("", "y", "q")}, []Identity{id("m", "y", "r"), id("", "x", "s")},
			"0=0 same mark"},
		{"id before path", []Identity{id("", "x", "p"), id("", "", "q")}, []Identity{id("", "x", "q"), id("", "", "p")},
			"0=0 same id"},
		{"new", nil, []Identity{id("", "x", "p")}, ""},
		{"gone", []Identity{id("", "x", "p")}, nil, ""},
		{"a mark twice says nothing", []Identity{id("m", "", "p"), id("m", "", "q")}, []Identity{id("m", "", "q"),
			id("m", "", "p")}, "1=0 same name path, 0=1 same name path"},
		{"an id twice says nothing", []Identity{id("", "x", "p")}, []Identity{id("", "x", "p"), id("", "x", "q")},
			"0=0 same name path"},
		{"moved to another screen by id", []Identity{{Screen: "A", ID: "x", Path: "p"}},
			[]Identity{{Screen: "B", ID: "x", Path: "q"}}, "0=0 same id"},
		{"the same path on another screen is another", []Identity{{Screen: "A", Path: "p"}},
			[]Identity{{Screen: "B", Path: "p"}}, ""},
		{"a renamed screen", []Identity{{Screen: "A", Path: "p"}, {Screen: "A", Path: "q"}, {Screen: "C", Path: "p"}},
			[]Identity{{Screen: "B", Path: "p"}, {Screen: "B", Path: "q"},
				{Screen: "C", Path: "p"}}, "0=0 same name path, 1=1 same name path, 2=2 same name path"},
		{"a screen that is still there was not renamed", []Identity{{Screen: "A", Path: "p"}, {Screen: "A", Path: "q"}},
			[]Identity{{Screen: "A", Path: "x"}, {Screen: "B", Path: "p"}, {Screen: "B", Path: "q"}}, ""},
		{"renamed and inserted", []Identity{id("", "a", "1"), id("", "b", "2"), id("", "", "3")}, []Identity{id("", "n", "0"),
			id("", "a", "1x"), id("", "b", "2"), id("", "", "3")}, "0=1 same id, 1=2 same id, 2=3 same name path"},
	} {
		var got []string
		for _, p := range Match(c.old, c.new) {
			got = append(got, fmt.Sprintf("%d=%d %s", p.Old, p.New, p.Why))
		}
		if strings.Join(got, ", ") != c.want {
			t.Errorf("%s: %s, want %s", c.name, strings.Join(got, ", "), c.want)
		}
	}
}

func TestMatchPairsEachOnce(t *testing.T) {
	var list []Identity
	for i := 0; i < 2000; i++ {
		list = append(list, Identity{Screen: "S", ID: fmt.Sprint("i", i%1500), Path: fmt.Sprint("p", i)})
	}
	pairs := Match(list, list)
	if len(pairs) != len(list) {
		t.Fatalf("%d of %d are paired with themselves", len(pairs), len(list))
	}
	for i, p := range pairs {
		if p.Old != i || p.New != i {
			t.Fatalf("%d is taken for %d", p.New, p.Old)
		}
	}
}

func BenchmarkMatch(b *testing.B) {
	var list []Identity
	for i := 0; i < 5000; i++ {
		list = append(list, Identity{Screen: "S", ID: fmt.Sprint("i", i), Path: fmt.Sprint("p", i)})
	}
	b.ReportAllocs()
	for b.Loop() {
		Match(list, list)
	}
}

// TestIdentity holds that what an element is remembered by is its strongest mark, its id and its path.
func TestIdentity(t *testing.T) {
	for _, c := range []struct {
		marks design.Marks
		want  string
	}{
		{design.Marks{}, ""},
		{design.Marks{Asset: "ferry"}, "asset ferry"},
		{design.Marks{Text: "booking.title"}, "text booking.title"},
		{design.Marks{Text: "none"}, ""},
		{design.Marks{Component: "button", Variant: "primary", State: "hover"}, "component button primary hover"},
		{design.Marks{Asset: "ferry", Component: "button"}, "asset ferry"},
	} {
		e := &design.Element{ID: "x", Path: "Booking/box", Screen: &design.Screen{Name: "Booking"}, Marks: c.marks}
		if got, want := Of(e), (Identity{Screen: "Booking", Mark: c.want, ID: "x", Path: "Booking/box"}); got != want {
			t.Errorf("%+v gives %+v, want %+v", c.marks, got, want)
		}
	}
}
