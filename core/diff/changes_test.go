package diff

import (
	"fmt"
	"math/rand/v2"
	"regexp"
	"slices"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/markup"
	"archetyp/core/read"
	"archetyp/demo"
)

// drawings are those of the demo.
func drawings(t testing.TB) map[string]string {
	t.Helper()
	files, err := demo.Files()
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]string{}
	for name, data := range files {
		if strings.HasPrefix(name, "design/") && strings.HasSuffix(name, ".svg") {
			out[name] = string(data)
		}
	}
	return out
}

func parsed(t testing.TB, svg string) *design.Document {
	t.Helper()
	d, err := read.Document("x.svg", []byte(svg), read.Options{Fonts: font.NewSet(nil), Root: 16})
	if err != nil {
		t.Fatalf("%v\n%s", err, svg)
	}
	return d
}

// edit is a change to a drawing's text, and the kind of change that should be reported.
type edit struct {
	kind Kind
	make func(r *rand.Rand, svg string, n *markup.Node) (string, bool)
}

// tagged puts text behind the name of an element's tag.
func tagged(svg string, n *markup.Node, text string) string {
	at := n.Offset + 1 + len(n.Name)
	return svg[:at] + text + svg[at:]
}

var (
	fill  = regexp.MustCompile(`\bfill="#[0-9a-f]{6}"`)
	idOf  = regexp.MustCompile(`\bid="([^"]*)"`)
	wordy = regexp.MustCompile(`^<text[^>]*>([^<]{3,})</text>$`)
)

func head(svg string, n *markup.Node) (from, to int) {
	return n.Offset, n.Offset + strings.IndexByte(svg[n.Offset:], '>') + 1
}

var edits = []edit{
	{Moved, func(r *rand.Rand, svg string, n *markup.Node) (string, bool) {
		from, to := head(svg, n)
		by := fmt.Sprintf("translate(%d %d)", 3+r.IntN(20), 2+r.IntN(9))
		if i := strings.Index(svg[from:to], ` transform="`); i >= 0 {
			at := from + i + len(` transform="`)
			return svg[:at] + by + " " + svg[at:], true
		}
		return tagged(svg, n, ` transform="`+by+`"`), true
	}},
	{Restyled, func(r *rand.Rand, svg string, n *markup.Node) (string, bool) {
		from, to := head(svg, n)
		loc := fill.FindStringIndex(svg[from:to])
		if loc == nil || n.Local == "g" {
			return "", false
		}
		return svg[:from+loc[0]] + fmt.Sprintf(`fill="#%06x"`, r.IntN(1<<24)) + svg[from+loc[1]:], true
	}},
	{Reworded, func(_ *rand.Rand, svg string, n *markup.Node) (string, bool) {
		m := wordy.FindStringSubmatchIndex(svg[n.Offset:n.End])
		if m == nil {
			return "", false
		}
		return svg[:n.Offset+m[2]] + "Other words here" + svg[n.Offset+m[3]:], true
	}},
	{Renamed, func(r *rand.Rand, svg string, n *markup.Node) (string, bool) {
		from, to := head(svg, n)
		m := idOf.FindStringSubmatchIndex(svg[from:to])
		if m == nil || strings.Contains(svg[from:to], "data-label") || strings.Count(svg, "#"+svg[from+m[2]:from+m[3]]) > 0 {
			return "", false
		}
		return svg[:from+m[2]] + fmt.Sprintf("other-%d", r.IntN(1000)) + svg[from+m[3]:], true
	}},
	{Regrouped, func(_ *rand.Rand, svg string, n *markup.Node) (string, bool) {
		return svg[:n.Offset] + "<g>" + svg[n.Offset:n.End] + "</g>" + svg[n.End:], true
	}},
	{Removed, func(_ *rand.Rand, svg string, n *markup.Node) (string, bool) {
		return svg[:n.Offset] + svg[n.End:], true
	}},
	{Added, func(_ *rand.Rand, svg string, n *markup.Node) (string, bool) {
		copied := idOf.ReplaceAllString(svg[n.Offset:n.End], "")
		return svg[:n.End] + `<g transform="translate(13 17)">` + copied + "</g>" + svg[n.End:], true
	}},
}

// TestChangesAreReportedAsWhatTheyWere edits drawings at random, one edit each.
func TestChangesAreReportedAsWhatTheyWere(t *testing.T) {
	files := drawings(t)
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
		before := parsed(t, svg)
		list := slices.DeleteFunc(before.All(), func(e *design.Element) bool { return e.Node == nil || e.Hidden || e.Node.Local == "svg" })
		e := list[r.IntN(len(list))]
		x := edits[r.IntN(len(edits))]
		text, ok := x.make(r, svg, e.Node)
		if !ok || text == svg {
			continue
		}
		all++
		changes := Documents(before, parsed(t, text))
		reported := len(changes) == 1 && changes[0].Kind == x.kind
		if reported && x.kind != Added && x.kind != Regrouped {
			reported = changes[0].Old == e
		}
		if x.kind == Regrouped && len(changes) == 0 { // nothing of it shows
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
		wrong = append(wrong, fmt.Sprintf("%s %s of %s %s: %d changes\n\t%s", name, x.kind, e.Title(), e.Selector(), len(changes), strings.Join(got, "\n\t")))
	}
	t.Logf("%d of %d", right, all)
	if float64(right) < 0.98*float64(all) {
		t.Errorf("only %d of %d:\n%s", right, all, strings.Join(wrong, "\n"))
	}
}

func TestNothingChangedIsNoChange(t *testing.T) {
	for name, svg := range drawings(t) {
		other := strings.NewReplacer("\n", "\n\n", "/>", " />").Replace(svg)
		if c := Documents(parsed(t, svg), parsed(t, other)); len(c) > 0 {
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
	c := Documents(parsed(t, fmt.Sprintf(svg, "")), parsed(t, fmt.Sprintf(svg, ` transform="translate(8 -4)"`)))
	if len(c) != 1 || c[0].String() != "tiles moved 8 px right, 4 px up with the 40 in it" {
		t.Errorf("%d changes, %s", len(c), c[0].String())
	}
}
