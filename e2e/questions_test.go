package e2e

import (
	"image"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// workspaceDemo is the demo's own files in a folder of their own.
func workspaceDemo(t testing.TB) string {
	t.Helper()
	dir := t.TempDir()
	if err := os.CopyFS(dir, os.DirFS(demoFiles(t))); err != nil {
		t.Fatal(err)
	}
	return dir
}

// says runs a command that answers, and wants words in what it prints, in this order.
func says(t *testing.T, dir, command string, want ...string) string {
	t.Helper()
	r := must(t, dir, strings.Fields(command)...)
	rest := strings.Join(strings.Fields(r.out), " ")
	for _, w := range want {
		_, after, ok := strings.Cut(rest, w)
		if !ok {
			t.Errorf("archetyp %s: %q is missing, or not in its place:\n%s", command, w, r.out)
			return r.out
		}
		rest = after
	}
	return r.out
}

func TestMeasureAnswers(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	says(t, dir, "measure design/booking.svg #adults #children", "adults → children", "gap down 8 px 0.95 %",
		"top to top 72 px", "aligned: left, centre across, right")
	says(t, dir, "measure booking #pay --unit rem --to screen", "in screen Booking, 390 × 844 px",
		"width 358 px 22.375rem 91.79 %", "inset bottom 40 px 2.5rem", "gap top 25 px 1.5625rem 2.96 % to total")
	says(t, dir, "measure booking #adults-count", "in adults, 358 × 64 px", "inset top 22 px 34.38 %")
	says(t, dir, "measure components [data-component=badge]", "4 elements in a row stand evenly, 16px apart")
	says(t, dir, "measure timetable --area 0,0,390,120", "sun-disc", "page")
	says(t, dir, "measure timetable --area 5000,0,10,10", "nothing lies there")
	var two struct {
		Gaps, Offsets map[string]struct{ Px, Percent float64 }
		Aligned       []string
	}
	mustJSON(t, dir, &two, "measure", "booking", "#adults", "#children", "--box", "layout")
	if two.Gaps["down"].Px != 8 || two.Offsets["left"].Px != 0 || len(two.Aligned) != 3 {
		t.Errorf("%+v", two)
	}
}

func TestSampleAnswers(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	says(t, dir, "sample booking 17,400", "booking/passengers/adults/box 1",
		"painted #ffffff rgb(255 255 255) oklch(1 0 0)", "own fill #ffffff", "token color.surface.raised")
	says(t, dir, "sample booking 60,90 330,20", "own fill gradient",
		"gradient linear-gradient(105.48deg, #0b4a63 0%, #0b6e8f 100%)", "330, 20", "gradient linear-gradient(")
	if out := says(t, dir, "sample booking 60,90", "own fill gradient"); strings.Contains(out, "linear-gradient(") {
		t.Error("one point does not make a gradient")
	}
	says(t, dir, "sample poster 40,20 40,300", "Sky", "own pixel #177697", "gradient linear-gradient(180deg, #0c6f91 0%")
	var s struct {
		Samples []struct {
			Painted    struct{ Hex, RGB, OKLCH string }
			By, Token  string
			Difference float64
		}
	}
	mustJSON(t, dir, &s, "sample", "poster", "210,500", "336,132", "--size", "5")
	if p := s.Samples[0]; p.Painted.Hex != "#ffffff" || p.By != "pixel" || p.Token != "color.surface.raised" {
		t.Errorf("%+v", p)
	}
	if p := s.Samples[1]; p.Token != "" || p.Difference != 0 { // the glow of the sun: no token is near
		t.Errorf("%+v", p)
	}
}

func TestOutlineFindsAndCompares(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	says(t, dir, "outline booking --find trip", "title", "trip-card")
	says(t, dir, "outline booking --unnamed", "booking/top-bar/box 1")
	says(t, dir, "outline booking --find nothing-of-the-kind", "nothing found")
	says(t, dir, "outline booking --alike", "counter 2 alike, 1 the same", "#adults same",
		"box 1: border-radius 13px others 12px")
	says(t, dir, "outline poster --alike", "no two groups are alike")
	says(t, dir, "outline poster", "Poster 420 × 594 px, 11 elements", "Badge box 92 × 36", "badge tone=sale",
		"Guide lines image", "hidden")
}

func TestSpecComparesAndSumsUp(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	says(t, dir, "spec components [data-component=button] --unit rem", "10 elements", "All share", "transition",
		"They differ in", "10rem × 3rem", "fill #0b6e8f")
	says(t, dir, "spec booking", "#10243a color.ink.900 text", "Hanken Grotesk 16px 600", "found Fraunces-SemiBold.ttf",
		"icons/back", "2× counter", "@font-face { font-family: \"Fraunces\"")
	says(t, dir, "spec booking #adults --unit pt", "267.75pt × 47.25pt", "border-radius 9pt", "flex-direction row",
		"padding 9.75pt 8.25pt 9.75pt 11.25pt")
	says(t, dir, "spec booking #adults --unit %", "geometry box 4.23%, 41.77% 91.54% × 7.46%")
	says(t, dir, "spec poster layer[name=Card]", "border-radius 16px estimated ± 0.5 px token radius.xl",
		"fill #ffffff estimated ± 0/255", "shadow 0 6px", "estimated ± 0.5 px")
	says(t, dir, "code poster layer[name=Card]", "border-radius: var(--radius-xl)", "box-shadow: 0 6px")
}

func TestRenderHidesAndSinglesOut(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	picture := func(args ...string) image.Image {
		must(t, dir, append([]string{"render", "booking", "-o", "x.png", "--quiet"}, args...)...)
		return decode(t, []byte(read(t, dir, "x.png")))
	}
	whole, wordless, only := picture(), picture("--hide", "text", "--hide", "#pay"), picture("--only", "#adults")
	at := func(img image.Image, x, y int) [4]uint32 {
		r, g, b, a := img.At(x, y).RGBA()
		return [4]uint32{r >> 8, g >> 8, b >> 8, a >> 8}
	}
	if at(whole, 195, 790) != [4]uint32{11, 110, 143, 255} || at(wordless, 195, 790) != [4]uint32{245, 248, 250, 255} {
		t.Errorf("the button: %v, hidden %v", at(whole, 195, 790), at(wordless, 195, 790))
	}
	if at(only, 195, 790)[3] != 0 || at(only, 150, 400) != [4]uint32{255, 255, 255, 255} {
		t.Errorf("only one element: %v elsewhere, %v in it", at(only, 195, 790), at(only, 150, 400))
	}
	must(t, dir, "render", "poster", "-o", "p.png", "--quiet")
	must(t, dir, "render", "poster", "-o", "q.png", "--quiet", "--hide", "layer[name=Card]")
	must(t, dir, "render", "poster", "layer[name=Badge]", "-o", "b.png", "--at", "2", "--quiet")
	if b := decode(t, []byte(read(t, dir, "b.png"))).Bounds(); b.Dx() != 184 || b.Dy() != 72 {
		t.Errorf("a layer alone: %v", b)
	}
	with, without := decode(t, []byte(read(t, dir, "p.png"))), decode(t, []byte(read(t, dir, "q.png")))
	if at(with, 60, 525) == at(without, 60, 525) {
		t.Error("the card is still there")
	}
}

// TestOurCompositionOfLayersIsTheFilesOwn holds our painting of the layers against the picture the file brings along,
// which another program composed.
func TestOurCompositionOfLayersIsTheFilesOwn(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	must(t, dir, "render", "poster", "-o", "theirs.png", "--quiet")
	must(t, dir, "render", "poster", "-o", "ours.png", "--quiet", "--hide", "layer[name='Guide lines']")
	a, b := onWhite(decode(t, []byte(read(t, dir, "ours.png")))), onWhite(decode(t, []byte(read(t, dir, "theirs.png"))))
	worst := 0.0
	for i := range a.Pix {
		worst = max(worst, math.Abs(float64(a.Pix[i])-float64(b.Pix[i])))
	}
	if worst > 3 {
		t.Errorf("a pixel differs by %g/255", worst)
	}
}

func TestQuestionsThatMakeNoSense(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	write(t, dir, "cut.ora", read(t, dir, "design/poster.ora")[:5000])
	write(t, dir, "other.ora", "PK\x03\x04")
	for _, c := range []struct{ command, want string }{
		{"measure booking", "--area"}, {"measure booking #adults --area 1,1,1,1", "--area"}, {"measure booking --area 1,2,3",
			"X,Y,W,H"},
		{"measure booking --area 1,2,3,-4", "X,Y,W,H"}, {"measure booking #adults --to nowhere", "container or screen"},
		{"measure booking #adults --unit ell", "no unit here"}, {"measure booking #adults --root -3",
			"--root"}, {"measure booking #adults --box lunch", "layout, geometry or painted"},
		{"measure booking #Adlts", "Did you mean #adults?"}, {"sample booking", "points"}, {"sample booking 1",
			"no point"}, {"sample booking 1,x", "no point"},
		{"sample booking 9999,1", "lies off the screen"}, {"sample booking 1,1 --size 0",
			"--size"}, {"sample booking 1,1 --screen Harbour", "Screens here: Booking"},
		{"spec booking #adults --unit px3", "no unit"}, {"outline booking --alike --find x",
			"alike"}, {"render booking -o x.png --hide #gone", "nothing matches"},
		{"spec cut.ora", "cut.ora: this is no whole OpenRaster file"}, {"outline other.ora", "zip archive"},
	} {
		r := run(t, dir, strings.Fields(c.command)...)
		if r.status != 2 || r.out != "" || !strings.Contains(r.err, c.want) {
			t.Errorf("archetyp %s: status %d, wanted 2 and %q\n%s%s", c.command, r.status, c.want, r.out, r.err)
		}
	}
	if _, err := os.Stat(filepath.Join(dir, "x.png")); err == nil {
		t.Error("a picture was written all the same")
	}
}

func TestSeveralScreensInOneFile(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write(t, dir, "two.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="100">
		<g data-screen="Quay"><rect id="a" width="100" height="100" fill="#0b6e8f"/></g>
		<g data-screen="Island" transform="translate(200 0)"><rect width="100" height="100" fill="#ffc857"/><rect id="b" x="10" y="20" width="30" height="30" data-leads-to="Quay; on=click"/></g></svg>`)
	says(t, dir, "outline two.svg", "Quay 100 × 100 px", "Island 100 × 100 px", "→ Quay; on=click")
	says(t, dir, "spec two.svg", "Quay", "#0b6e8f", "Island", "#ffc857")
	says(t, dir, "measure two.svg #b", "in screen Island", "inset top 20 px 20 %")
	says(t, dir, "measure two.svg --area 0,0,50,50 --screen island", "#b")
	says(t, dir, "sample two.svg 5,5 --screen Island", "own fill #ffc857")
	must(t, dir, "render", "two.svg", "--screen", "Island", "-o", "i.png", "--quiet")
	if r, g, b, _ := decode(t, []byte(read(t, dir, "i.png"))).At(5, 5).RGBA(); r>>8 != 255 || g>>8 != 200 || b>>8 != 87 {
		t.Error("another screen was painted")
	}
	if r := run(t, dir, "measure", "two.svg", "#a", "#b"); r.status != 2 || !strings.Contains(r.err,
		"on different screens: Quay, Island") {
		t.Errorf("%d %s", r.status, r.err)
	}
}
