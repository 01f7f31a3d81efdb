package e2e

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"math/rand"
	"os"
	"path/filepath"
	"slices"
	"sort"
	"strings"
	"testing"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/markup"
	"archetyp/core/read/svg"
	"archetyp/core/revise"
	"archetyp/core/text"
	"archetyp/core/text/fit"
	"archetyp/core/token"
	"archetyp/core/token/harvest"
)

// drawingsOf are the bytes of all drawings of a workspace.
func drawingsOf(t *testing.T, dir string) map[string]string {
	t.Helper()
	out := map[string]string{}
	files, err := filepath.Glob(filepath.Join(dir, "design", "*"))
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range files {
		data, err := os.ReadFile(f)
		if err != nil {
			t.Fatal(err)
		}
		out[filepath.Base(f)] = string(data)
	}
	return out
}

func same(t *testing.T, was, now map[string]string) {
	t.Helper()
	for name := range was {
		if was[name] != now[name] {
			t.Errorf("%s is not as it was", name)
		}
	}
}

// TestApply writes tokens, words and marks into the demo's drawings, and takes them back byte for byte.
func TestApply(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	was := drawingsOf(t, dir)
	if r := must(t, dir, "apply"); !strings.Contains(r.out+r.err, "every drawing is up to date; nothing was written") {
		t.Error(r.out, r.err)
	}
	must(t, dir, "tokens", "set", "color.sea.600", "#0a6a8a")
	must(t, dir, "tokens", "set", "radius.xl", "18px")
	says(t, dir, "apply --dry-run", "design/booking.svg", "color.action.default", "#0b6e8f", "#0a6a8a", "7 elements", "- ", "rx=\"16\"", "+ ", "rx=\"18\"")
	same(t, was, drawingsOf(t, dir))
	if r := must(t, dir, "apply"); !strings.Contains(r.err, "poster.ora: color.action.default stays #0b6e8f") || !strings.Contains(r.err, "its layers are pixels") {
		t.Error(r.err)
	}
	now := drawingsOf(t, dir)
	if s := now["booking.svg"]; strings.Count(s, "0A6A8A") != 8 || !strings.Contains(s, `height="164" rx="18"`) {
		t.Error(s)
	}
	if s := now["components.svg"]; !strings.Contains(s, "--sea: #0a6a8a") || strings.Count(s, `rx="16.5"`) != 2 {
		t.Error("the custom property, and the rings around what is focused")
	}
	must(t, dir, "sync")
	if r := must(t, dir, "status"); strings.Contains(strings.ReplaceAll(r.out, "poster.ora is behind", ""), "is behind") {
		t.Error(r.out)
	}
	if r := must(t, dir, "apply", "--undo"); !strings.Contains(r.err+r.out, "booking.svg, design/components.svg") {
		t.Error(r.out, r.err)
	}
	same(t, was, drawingsOf(t, dir))
	if r := run(t, dir, "apply", "--undo"); r.status != 2 || !strings.Contains(r.err, "nothing was written") {
		t.Errorf("%d %s", r.status, r.err)
	}

	says(t, dir, "text set booking.bicycle Bike --apply", "booking.bicycle", "Bike", "1 element")
	if s := drawingsOf(t, dir)["booking.svg"]; strings.Replace(s, ">Bike<", ">Bicycle<", 1) != was["booking.svg"] {
		t.Error("more than a word changed")
	}
	must(t, dir, "apply", "--undo")
	must(t, dir, "apply", "booking", "--words", "fi")
	now = drawingsOf(t, dir)
	if !strings.Contains(now["booking.svg"], "Polkupyörä") || now["timetable.svg"] != was["timetable.svg"] {
		t.Error("the words of one drawing")
	}
	must(t, dir, "apply", "--undo")
	must(t, dir, "apply", "--marks")
	if s := drawingsOf(t, dir)["booking.svg"]; !strings.Contains(s, `data-asset="icons/back"`) || !strings.Contains(s, `data-message="Pay {price}"`) {
		t.Error(s)
	}
	change(t, dir, "design/booking.svg", "Your trip", "Your voyage")
	if r := run(t, dir, "apply", "--undo"); r.status != 2 || !strings.Contains(r.err, "was changed since") {
		t.Errorf("%d %s", r.status, r.err)
	}
	must(t, dir, "tokens", "set", "color.coral.500", "#e0512a", "--apply")
	if s := drawingsOf(t, dir)["timetable.svg"]; !strings.Contains(s, "#e0512a") {
		t.Error("the token and the drawing at once")
	}
	for args, want := range map[string]string{"apply nothing": "no such file", "apply --words xx": "no locale xx", "apply --words en": "source language", "apply --undo --marks": "stands alone",
		"text set booking.bicycle Rad --locale de --apply": "source language", "text set no.such-key Rad --apply": "no"} {
		if r := run(t, dir, strings.Fields(args)...); r.status != 2 || !strings.Contains(r.err, want) {
			t.Errorf("%s: %d %s", args, r.status, r.err)
		}
	}
	var out struct {
		Drawings []struct{ Source string }
		Refused  []struct{ Reason string }
		Written  bool
	}
	mustJSON(t, dir, &out, "apply", "--dry-run")
	if out.Written {
		t.Error("--dry-run wrote")
	}
}

// TestApplyAssets exports pictures, draws them otherwise, and puts them back: what was not drawn otherwise looks the same.
func TestApplyAssets(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	was := drawingsOf(t, dir)
	must(t, dir, "render", "timetable", "-o", "before.png")
	must(t, dir, "assets", "export", "timetable", "-o", "new/", "--format", "svg")
	if r := must(t, dir, "apply", "timetable", "--assets", "new"); strings.Contains(r.err, "stays") {
		t.Error(r.err)
	}
	must(t, dir, "render", "timetable", "-o", "after.png")
	a, b := onWhite(decode(t, []byte(read(t, dir, "before.png")))), onWhite(decode(t, []byte(read(t, dir, "after.png"))))
	far := 0
	for i := range a.Pix {
		if d := int(a.Pix[i]) - int(b.Pix[i]); d > 40 || d < -40 {
			far++
		}
	}
	if far > 40 {
		t.Errorf("%d bytes of pixels are far from what they were", far)
	}
	now := drawingsOf(t, dir)
	if strings.Count(now["timetable.svg"], "<svg x=") != 4 || now["booking.svg"] != was["booking.svg"] {
		t.Error(now["timetable.svg"])
	}
	if r := must(t, dir, "apply", "timetable", "--assets", "new"); !strings.Contains(r.out+r.err, "nothing was written") {
		t.Error(r.out, r.err)
	}
	must(t, dir, "apply", "--undo")
	same(t, was, drawingsOf(t, dir))
	write(t, dir, "new/icons/times.svg", `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><style>a{b:c}</style></svg>`)
	if r := must(t, dir, "apply", "--assets", "new", "--dry-run"); !strings.Contains(r.err, "style sheet") {
		t.Error(r.err)
	}
	for args, want := range map[string]string{"apply --assets none": "no such folder", "apply --assets design/../tokens": "no SVG file"} {
		if r := run(t, dir, strings.Fields(args)...); r.status != 2 || !strings.Contains(r.err, want) {
			t.Errorf("%s: %d %s", args, r.status, r.err)
		}
	}
}

// strangers are drawings that nobody here drew, so many by a fixed seed.
func strangers(t *testing.T, n int) (out []string) {
	t.Helper()
	for i, pattern := range []string{"/usr/share/openclipart/svg/*/*.svg", "/usr/share/openclipart/svg/*/*/*.svg", "/usr/share/icons/elementary-xfce/*/48/*.svg", "/usr/share/icons/Adwaita/scalable/*/*.svg"} {
		files, err := filepath.Glob(pattern)
		if err != nil {
			t.Fatal(err)
		}
		sort.Strings(files)
		if i == 0 { // those with words
			files = slices.DeleteFunc(files, func(f string) bool {
				data, err := os.ReadFile(f)
				return err != nil || !bytes.Contains(data, []byte("<text"))
			})
		}
		r := rand.New(rand.NewSource(7))
		r.Shuffle(len(files), func(i, j int) { files[i], files[j] = files[j], files[i] })
		out = append(out, files[:min(len(files), n/4)]...)
	}
	if len(out) < n/2 {
		lacking(t, "drawings of other people: openclipart-svg, elementary-xfce-icon-theme and adwaita-icon-theme")
	}
	return out
}

// TestForeignDrawingsAreRevised changes a colour, a text and a name in drawings nobody here drew: the change is there,
// read back and in Chromium; every other byte and every pixel elsewhere is as it was; and it can be taken back.
func TestForeignDrawingsAreRevised(t *testing.T) {
	t.Parallel()
	n := 40
	if *long {
		n = 200
	}
	ctx := chromium(t)
	dir := t.TempDir()
	r := rand.New(rand.NewSource(18))
	colours, refused, named, worded := 0, 0, 0, 0
	for _, file := range strangers(t, n) {
		data, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		read := func(data []byte) (*design.Document, error) {
			return svg.Read("a.svg", data, svg.Options{Fonts: &font.Set{}, Root: 16})
		}
		doc, err := read(data)
		if err != nil || len(doc.All()) == 0 || len(doc.All()) > 3000 {
			continue
		}
		d := &revise.Drawing{Name: file, Data: data, Doc: doc, Read: read}
		if d.Writable() != nil {
			continue
		}
		// a name
		e := doc.All()[r.Intn(len(doc.All()))]
		if edit, ok := markup.SetAttrEdit(data, e.Node.Offset, "data-label", "Tide & “low”"); !ok {
			t.Errorf("%s: no tag at %d", file, e.Node.Offset)
		} else if again := rewritten(t, data, edit); again != nil {
			after, err := read(again)
			if err != nil {
				t.Errorf("%s: %v", file, err)
			} else if got := find(after, e.Node.Offset); got == nil || got.Name != "Tide & “low”" {
				t.Errorf("%s: the name is not there", file)
			}
			named++
		}
		// a colour
		var found []*harvest.Found
		for _, f := range harvest.Collect([]*design.Document{doc}, nil, token.Scales{}, nil).Found {
			if f.Kind == "color" && len(f.Text) == 7 {
				found = append(found, f)
			}
		}
		if len(found) > 0 {
			f := found[r.Intn(len(found))]
			v := revise.Value{Kind: revise.Colour, Old: f.Text, New: color.RGB8(uint8(r.Intn(256)), uint8(r.Intn(256)), uint8(r.Intn(256))).Hex(), Elements: map[int]bool{}}
			for _, u := range f.Uses {
				v.Elements[u.Index] = true
			}
			done, err := d.SetValue(v)
			if err != nil {
				refused++
				t.Logf("%s: %s: %v", file, f.Text, err)
			} else {
				colours++
				again := rewritten(t, data, done.Edits...)
				after, err := read(again)
				if err != nil {
					t.Fatal(err)
				}
				strange := false              // words in a face that the browser has and we do not reach elsewhere
				for i, e := range doc.All() { // gradients and shadows follow
					strange = strange || v.Elements[i] && e.Words != nil
					v.Elements[i] = v.Elements[i] || fmt.Sprint(e.Facts()) != fmt.Sprint(after.All()[i].Facts())
				}
				if !strange {
					onlyThere(t, ctx, dir, file, doc, v.Elements, data, again)
				}
			}
		}
		// words
		c, err := text.Collect([]*design.Document{doc}, nil, text.Options{Locale: "en", Pattern: "{screen}.{words}"})
		if err != nil || len(c.Catalogue.Used()) == 0 {
			continue
		}
		entry := c.Catalogue.Used()[r.Intn(len(c.Catalogue.Used()))]
		entry.Words = "Low tide & calm"
		placed, err := fit.PlaceKeys(data, doc, c.Catalogue, "en", &fit.Measurer{Fonts: &font.Set{}}, map[string]bool{entry.Key: true})
		if err != nil {
			t.Errorf("%s: %v", file, err)
			continue
		}
		if placed.Count == 0 {
			t.Log(file, placed.Skipped)
			continue
		}
		after, err := read(placed.SVG)
		if err != nil {
			t.Errorf("%s: %v", file, err)
			continue
		}
		there := false
		for _, e := range after.All() {
			there = there || e.Words != nil && strings.Join(strings.Fields(e.Words.Words), " ") == "Low tide & calm"
		}
		if !there {
			t.Errorf("%s: the words are not there", file)
		}
		worded++
	}
	t.Logf("%d names, %d colours and %d refused, %d texts", named, colours, refused, worded)
	if colours < n/2 || refused > colours/5 {
		t.Errorf("%d colours were written, %d refused", colours, refused)
	}
}

// rewritten makes edits, and holds all other bytes and the way back.
func rewritten(t *testing.T, data []byte, edits ...markup.Edit) []byte {
	t.Helper()
	out, err := markup.Rewrite(data, edits)
	if err != nil {
		t.Error(err)
		return nil
	}
	edits = append([]markup.Edit(nil), edits...)
	sort.SliceStable(edits, func(i, j int) bool { return edits[i].From < edits[j].From })
	var back []markup.Edit
	shift := 0
	for _, e := range edits {
		back = append(back, markup.Edit{From: e.From + shift, To: e.From + shift + len(e.With), With: string(data[e.From:e.To])})
		shift += len(e.With) - (e.To - e.From)
	}
	if again, err := markup.Rewrite(out, back); err != nil || !bytes.Equal(again, data) {
		t.Error("the way back leads elsewhere")
	}
	return out
}

func find(d *design.Document, offset int) *design.Element {
	for _, e := range d.All() {
		if e.Node.Offset == offset {
			return e
		}
	}
	return nil
}

// onlyThere holds Chromium's pictures of a drawing before and after: they differ only where changed elements paint.
func onlyThere(t *testing.T, ctx context.Context, dir, file string, doc *design.Document, changed map[int]bool, before, after []byte) {
	t.Helper()
	s := doc.Screens[0]
	if len(doc.Screens) > 1 || s.Box.W > 1200 || s.Box.H > 1200 {
		return
	}
	picture := func(data []byte) *image.RGBA {
		write(t, dir, "x.svg", string(data))
		open(t, ctx, filepath.Join(dir, "x.svg"), int64(s.Box.W)+1, int64(s.Box.H)+1, 1)
		return onWhite(shoot(t, ctx))
	}
	a, b := picture(before), picture(after)
	var boxes []image.Rectangle
	for i, e := range doc.All() {
		if changed[i] {
			r := e.Painted.Value.Grow(3)
			boxes = append(boxes, image.Rect(int(r.X)-1, int(r.Y)-1, int(r.Right())+2, int(r.Bottom())+2))
		}
	}
	outside := 0
	for y := range a.Bounds().Dy() {
		for x := range a.Bounds().Dx() {
			i := a.PixOffset(x, y)
			if bytes.Equal(a.Pix[i:i+4], b.Pix[i:i+4]) {
				continue
			}
			in := false
			for _, r := range boxes {
				in = in || image.Pt(x, y).In(r)
			}
			if !in {
				outside++
			}
		}
	}
	if outside > 0 {
		t.Errorf("%s: %d pixels changed outside of what was to change", file, outside)
	}
}

// TestMark states marks in the configuration and in drawings, and takes them away.
func TestMark(t *testing.T) {
	t.Parallel()
	dir := demo(t)
	config, was := read(t, dir, "archetyp.yaml"), drawingsOf(t, dir)
	says(t, dir, "mark booking #check asset=icons/{name} label=Check", "#check", "asset icons/{name}, label Check", "1 element")
	if got := read(t, dir, "archetyp.yaml"); got != config+"  - {select: \"#check\", asset: \"icons/{name}\", label: \"Check\"}\n" {
		t.Error(got)
	}
	says(t, dir, "assets list booking", "icons/check")
	must(t, dir, "mark", "booking", "#check", "label", "--remove")
	must(t, dir, "mark", "booking", "#check", "--remove")
	if read(t, dir, "archetyp.yaml") != config {
		t.Error("the configuration is another")
	}
	must(t, dir, "mark", "booking", "#bike", "#breakfast", "component=extra", "role=checkbox", "--drawing")
	now := drawingsOf(t, dir)
	if s := now["booking.svg"]; strings.Count(s, ` data-component="extra" data-role="checkbox"`) != 2 || strings.ReplaceAll(s, ` data-component="extra" data-role="checkbox"`, "") != was["booking.svg"] {
		t.Error(s)
	}
	must(t, dir, "mark", "booking", "#bike", "#breakfast", "component", "role", "--remove", "--drawing")
	same(t, was, drawingsOf(t, dir))
	must(t, dir, "apply", "--undo")
	must(t, dir, "apply", "--undo")
	same(t, was, drawingsOf(t, dir))
	says(t, dir, "mark booking --advised --dry-run", "asset pictures/route", "asset icons/check")
	must(t, dir, "mark", "booking", "--advised")
	if out := must(t, dir, "audit", "booking", "--only", "asset-unmarked", "--level", "note").out; !strings.Contains(out, "nothing found") {
		t.Error(out)
	}
	says(t, dir, "audit timetable --fix names", "#sailing-1 > g:nth-child(6)", "label on time badge", "the component badge")
	must(t, dir, "audit", "timetable", "--fix", "names", "--write", "on time*", "--drawing")
	if s := drawingsOf(t, dir)["timetable.svg"]; strings.Count(s, `data-label="on time badge"`) != 1 || strings.Contains(s, `"delayed badge"`) {
		t.Error("one of the proposals")
	}
	must(t, dir, "audit", "timetable", "--fix", "names", "--write", "*")
	if got := read(t, dir, "archetyp.yaml"); !strings.Contains(got, `label: "cancelled badge"`) {
		t.Error(got)
	}
	write(t, dir, "design/days.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="390" height="300"><rect width="390" height="300" fill="#fff"/><g id="days"><g><rect x="10" y="10" width="300" height="40" fill="#eee"/><text x="20" y="35" font-size="14">Monday</text><text x="120" y="35" font-size="14">Pier</text></g><g><rect x="10" y="60" width="300" height="40" fill="#e01b24"/><text x="20" y="85" font-size="14">Friday</text><text x="120" y="85" font-size="14">Quay</text></g><g><rect x="10" y="110" width="300" height="40" fill="#eee"/><text x="20" y="135" font-size="14">Sunday</text><text x="120" y="135" font-size="14">Tide</text></g></g></svg>`)
	says(t, dir, "audit days --fix components", "component days-row", "variant tone=red", "component days-row")
	must(t, dir, "audit", "days", "--fix", "components", "--write", "*", "--drawing")
	if out := must(t, dir, "audit", "days", "--only", "look-alike").out; !strings.Contains(out, "nothing found") {
		t.Error(out)
	}
	for args, want := range map[string]string{"mark": "needs a SOURCE", "mark booking": "needs selectors", "mark booking #check aset=a": "Did you mean asset?", "mark booking #check asset=": "says nothing",
		"mark booking #nothing-here asset=a": "nothing matches", "mark booking #title asset --remove": "no such marks", "mark poster layer asset=a --drawing": "pixels",
		"audit --fix names": "needs a SOURCE", "audit booking --fix all": "not known"} {
		if r := run(t, dir, strings.Fields(args)...); r.status != 2 || !strings.Contains(r.err, want) {
			t.Errorf("%s: %d %s", args, r.status, r.err)
		}
	}
}
