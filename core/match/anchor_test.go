package match_test

import (
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"testing"

	"archetyp/core/design"
	"archetyp/core/match"
	"archetyp/demo/edits"
)

// Elements of drawings are edited at random, one edit each; what an anchor leads to is compared with what the edit did.
func TestAnchorsLeadToTheirElementOrNowhere(t *testing.T) {
	files := edits.Drawings(t)
	names := slices.Sorted(maps.Keys(files))
	r := rand.New(rand.NewPCG(3, 5))
	count := 400
	if testing.Short() {
		count = 60
	}
	found, gone, lost := 0, 0, map[string]int{}
	for found+gone < count {
		svg := files[names[r.IntN(len(names))]]
		before := edits.Parsed(t, svg)
		list := slices.DeleteFunc(before.All(), func(e *design.Element) bool { return e.Node == nil || e.Hidden || e.Node.Local == "svg" })
		was := list[r.IntN(len(list))]
		edited := was
		if r.IntN(3) == 0 { // something else changes
			edited = list[r.IntN(len(list))]
		}
		x := edits.All[r.IntN(len(edits.All))]
		text, ok := x.Make(r, svg, edited.Node)
		if !ok || text == svg {
			continue
		}
		a := match.NewField([]*design.Document{before}).Anchor(before, was)
		now := edits.Parsed(t, text)
		got := match.NewField([]*design.Document{now}).Find(&a)
		want := edits.Same(before, now, was, edited, x.Kind)
		what := fmt.Sprintf("%s of %s, anchor at %s %s", x.Kind, edited.Selector(), was.Selector(), was.Title())
		switch {
		case want == nil:
			gone++
			if got.Element != nil {
				t.Errorf("%s: it is gone, and found as %s (%s)", what, got.Element.Selector(), got.Why)
			}
		case got.Element == nil:
			found++
			lost[x.Kind]++
			if testing.Verbose() {
				t.Logf("%s: lost, %s", what, got.Why)
			}
		case got.Element != want:
			t.Errorf("%s: found as %s (%s), not %s", what, got.Element.Selector(), got.Why, want.Selector())
		default:
			found++
		}
	}
	n := 0
	for _, k := range lost {
		n += k
	}
	t.Logf("%d elements that are still there: %d lost %v; %d gone", found, n, lost, gone)
	if float64(n) > 0.03*float64(found) {
		t.Errorf("%d of %d were lost: %v", n, found, lost)
	}
}

func TestAnchorsOfTexts(t *testing.T) {
	before, cases := edits.Texts()
	was := edits.Parsed(t, edits.Named{Drawing: before}.Whole())
	field := match.NewField([]*design.Document{was})
	for _, c := range cases {
		now := match.NewField([]*design.Document{edits.Parsed(t, c.Whole())})
		for _, e := range was.All() {
			if e.Words == nil {
				continue
			}
			a := field.Anchor(was, e)
			got := now.Find(&a)
			switch {
			case got.Element == nil:
				t.Logf("%s: %q is lost, %s", c.Name, e.Words.Words, got.Why)
			case got.Element.Words == nil || match.Words(got.Element.Words.Words, e.Words.Words) < 0.4 && got.Element.ID != e.ID:
				t.Errorf("%s: %q is found as %s (%s)", c.Name, e.Words.Words, got.Element.Selector(), got.Why)
			}
		}
	}
}
