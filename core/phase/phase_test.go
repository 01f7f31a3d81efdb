package phase_test

import (
	"strings"
	"testing"

	"archetyp/core/match"
	"archetyp/core/phase"
)

const book = `# kept
booking-pay:
  phase: agreed # by the harbour office
  why: as drawn
  by: Aino Saari
  since: 2026-05-02
  tags: [checkout]
  due: 3
  at: {source: design/booking.svg, screen: Booking, select: "#pay", kind: group, id: pay, box: [24, 700, 342, 52]}
`

func TestABookReadsBack(t *testing.T) {
	b, err := phase.Read([]byte(book))
	if err != nil {
		t.Fatal(err)
	}
	e := b.Entries["booking-pay"]
	if e == nil || e.Phase != "agreed" || e.Due != 3 || e.At.ID != "pay" || e.At.Box[1] != 700 || e.Tags[0] != "checkout" {
		t.Fatalf("%+v", e)
	}
	out, err := b.Bytes()
	if err != nil {
		t.Fatal(err)
	}
	for _, kept := range []string{"# kept", "# by the harbour office", "box: [24.0, 700.0"} {
		if !strings.Contains(string(out), kept) {
			t.Logf("%q is not in\n%s", kept, out)
		}
	}
	again, err := phase.Read(out)
	if err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
	twice, _ := again.Bytes()
	if string(twice) != string(out) {
		t.Errorf("%s\nthen\n%s", out, twice)
	}
	if key := b.KeyFor(&match.Anchor{Screen: "Booking", Kind: "group"}, "Pay"); key != "booking-pay-2" {
		t.Error(key)
	}
	if key := b.KeyFor(&match.Anchor{Screen: "…"}, ""); key != "element" {
		t.Error(key)
	}
}

func TestBooksRefused(t *testing.T) {
	for content, want := range map[string]string{
		"a: [":                             "1:4",
		"a:\n  phase: agreed\n  colour: x": "3:3",
		"a:\n  why: x":                     "no phase",
		"a:":                               "is empty",
		"a: {phase: held}":                 "where it is",
		"- a":                              "1:1",
		"a: &x {phase: b, at: {source: s, screen: t}}\nb: [" + strings.Repeat("*x,", 100) + "]": "more aliases",
	} {
		if _, err := phase.Read([]byte(content)); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%q: %v", content, err)
		}
	}
	if b, err := phase.Read(nil); err != nil || len(b.Entries) != 0 {
		t.Error(err)
	}
}

func TestMerge(t *testing.T) {
	entry := func(key, said, rest string) string {
		return key + ":\n  phase: " + said + "\n" + rest + "  at: {source: a.svg, screen: A, select: \"#" + key + "\"}\n"
	}
	base := entry("one", "agreed", "  tags: [x, y]\n") + entry("two", "held", "")
	for name, c := range map[string]struct {
		ours, theirs string
		want         []string
		clashes      int
	}{
		"each another":     {strings.Replace(base, "agreed", "built", 1), strings.Replace(base, "held", "agreed", 1), []string{"phase: built", "phase: agreed"}, 0},
		"both the same":    {strings.Replace(base, "agreed", "built", 1), strings.Replace(base, "agreed", "built", 1), []string{"phase: built", "phase: held"}, 0},
		"a clash":          {strings.Replace(base, "agreed", "built", 1), strings.Replace(base, "agreed", "held", 1), []string{"phase: built", "or:\n  - phase: held"}, 1},
		"tags":             {strings.Replace(base, "[x, y]", "[x, z]", 1), strings.Replace(base, "[x, y]", "[a, x, y]", 1), []string{"tags: [a, x, z]"}, 0},
		"removed, changed": {entry("two", "held", ""), strings.Replace(base, "agreed", "built", 1), []string{"one:", "phase: built"}, 0},
		"added twice":      {base + entry("new", "held", ""), base + strings.Replace(entry("new", "agreed", ""), "#new", "#other", 1), []string{"new:", "new-2:", "#other"}, 0},
	} {
		out, clashes, err := phase.Merge([]byte(base), []byte(c.ours), []byte(c.theirs))
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		if len(clashes) != c.clashes {
			t.Errorf("%s: %d conflicts", name, len(clashes))
		}
		for _, w := range c.want {
			if !strings.Contains(string(out), w) {
				t.Errorf("%s: %q is not in\n%s", name, w, out)
			}
		}
		if _, err := phase.Read(out); err != nil {
			t.Errorf("%s: %v", name, err)
		}
	}
	if out, _, err := phase.Merge([]byte(base), []byte(entry("two", "held", "")), []byte(base)); err != nil || strings.Contains(string(out), "one:") {
		t.Errorf("what one side removed came back: %v\n%s", err, out)
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(book))
	f.Add([]byte("a: {phase: held, or: [{phase: x}], at: {source: s, screen: t, box: [1, 2, 3, 4]}}"))
	f.Fuzz(func(t *testing.T, data []byte) {
		b, err := phase.Read(data)
		if err != nil {
			return
		}
		out, err := b.Bytes()
		if err != nil {
			return
		}
		if again, err := phase.Read(out); err != nil || len(again.Entries) != len(b.Entries) {
			t.Fatalf("%v\n%q\n%q", err, data, out)
		}
	})
}
