package diff

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/demo/edits"
)

// TestChangesAreReportedAsWhatTheyWere edits drawings at random, one edit each.
func TestChangesAreReportedAsWhatTheyWere(t *testing.T) {
	files := edits.Drawings(t)
	var names []string
	for name := range files {
		names = append(names, name)
	}
	slices.Sort(names)
	r := rand.New(rand.NewPCG(11, 7))
	right, all, count := 0, 0, 200
	if testing.Short() {
		count = 30
	}
	var wrong []string
	for all < count {
		name := names[r.IntN(len(names))]
		svg := files[name]
		before := edits.Parsed(t, svg)
		list := slices.DeleteFunc(before.All(), func(e *design.Element) bool { return e.Node == nil || e.Hidden || e.Node.Local == "svg" })
		e := list[r.IntN(len(list))]
		x := edits.All[r.IntN(len(edits.All))]
		kind := Kind(x.Kind)
		text, ok := x.Make(r, svg, e.Node)
		if !ok || text == svg {
			continue
		}
		all++
		changes := Documents(before, edits.Parsed(t, text))
		reported := len(changes) == 1 && changes[0].Kind == kind
		if reported && kind != Added && kind != Regrouped {
			reported = changes[0].Old == e
		}
		if kind == Regrouped && len(changes) == 0 { // nothing of it shows
			reported = true
		}
		if reported {
			right++
			continue
		}
		var got []string
		for i := range changes[:min(len(changes), 6)] {
			got = append(got, string(changes[i].Kind)+": "+changes[i].String())
		}
		wrong = append(wrong, fmt.Sprintf("%s %s of %s %s: %d changes\n\t%s", name, kind, e.Title(), e.Selector(), len(changes), strings.Join(got, "\n\t")))
	}
	t.Logf("%d of %d", right, all)
	if float64(right) < 0.98*float64(all) {
		t.Errorf("only %d of %d:\n%s", right, all, strings.Join(wrong, "\n"))
	}
}

func TestNothingChangedIsNoChange(t *testing.T) {
	for name, svg := range edits.Drawings(t) {
		other := strings.NewReplacer("\n", "\n\n", "/>", " />").Replace(svg)
		if c := Documents(edits.Parsed(t, svg), edits.Parsed(t, other)); len(c) > 0 {
			t.Errorf("%s: %s", name, c[0].String())
		}
	}
}

func TestAGroupThatMovedIsOneChange(t *testing.T) {
	var b strings.Builder
	for i := range 40 {
		fmt.Fprintf(&b, `<rect x="%d" y="%d" width="9" height="9" fill="#123456"/>`, i%8*10, i/8*10)
	}
	svg := `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="200"><g id="tiles"%s>` + b.String() + `</g><rect id="still" width="3" height="3"/></svg>`
	c := Documents(edits.Parsed(t, fmt.Sprintf(svg, "")), edits.Parsed(t, fmt.Sprintf(svg, ` transform="translate(8 -4)"`)))
	if len(c) != 1 || c[0].String() != "tiles moved 8 px right, 4 px up with the 40 in it" {
		t.Errorf("%d changes, %s", len(c), c[0].String())
	}
}
