package e2e

import (
	"archetyp/core/diff"
	"bytes"
	"fmt"
	"image"
	"image/draw"
	"math/rand"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"sort"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
)

// themeIcons picks icons of whole px in size from two themes, by a fixed seed.
func themeIcons(t testing.TB, n int) []string {
	t.Helper()
	var out []string
	for _, theme := range []string{"Papirus", "elementary-xfce"} {
		seen := map[string]bool{}
		var all []string
		_ = filepath.WalkDir("/usr/share/icons/"+theme, func(p string, d os.DirEntry, err error) error {
			if err == nil && strings.HasSuffix(p, ".svg") {
				if real, err := filepath.EvalSymlinks(p); err == nil && !seen[real] {
					seen[real] = true
					all = append(all, real)
				}
			}
			return nil
		})
		sort.Strings(all)
		rand.New(rand.NewSource(int64(counted(t, "ARCHETYP_SEED", 128)))).Shuffle(len(all),
			func(i, j int) { all[i], all[j] = all[j], all[i] })
		have := len(out)
		for _, f := range all {
			if len(out) < have+n/2 && wholeSize(read(t, f)) {
				out = append(out, f)
			}
		}
		if len(out) < have+n/2 {
			skip(t, fmt.Sprintf("only %d icons of %s are installed", len(all), theme))
		}
	}
	return out
}

// wholeSize reports whether an icon measures whole px: others are pulled to some by everybody in another way.
func wholeSize(svg string) bool {
	root, _, _ := strings.Cut(svg[max(0, strings.Index(svg, "<svg")):], ">")
	for _, m := range regexp.MustCompile(`\s(?:width|height)=["']([0-9.]+)["']`).FindAllStringSubmatch(root, -1) {
		if strings.Contains(strings.TrimRight(strings.TrimRight(m[1], "0"), "."), ".") && strings.Contains(m[1], ".") {
			return false
		}
	}
	return true
}

// skip skips a test, unless that is forbidden.
func skip(t testing.TB, why string) {
	t.Helper()
	if os.Getenv("ARCHETYP_NO_SKIP") != "" {
		t.Fatal(why + ", and skipping is forbidden here")
	}
	t.Skip(why)
}

// tool is a program of this machine.
func tool(t testing.TB, name string) string {
	t.Helper()
	p, err := exec.LookPath(name)
	if err != nil {
		skip(t, name+" is not installed")
	}
	return p
}

// iconFolder is a workspace that exports copies of icons in a set.
func iconFolder(t testing.TB, icons []string, set string) string {
	t.Helper()
	dir := t.TempDir()
	for i, f := range icons {
		write(t, dir, fmt.Sprintf("icons/%04d.svg", i), read(t, f))
	}
	write(t, dir, "archetyp.yaml",
		"name: Quay\nsources: [icons/*.svg]\nassets: {to: out, sets: ["+set+"]}\nmarks:\n  - {select: \":root\", asset: "+
			"\"i{file}\"}\n")
	return dir
}

// pdfPage is a page of a PDF as pdftoppm paints it, in a density, on white.
func pdfPage(t testing.TB, file string, density float64) image.Image {
	t.Helper()
	base := strings.TrimSuffix(file, ".pdf") + "-page"
	if out, err := exec.Command(tool(t, "pdftoppm"), "-png", "-singlefile", "-r", fmt.Sprint(96*density), file,
		base).CombinedOutput(); err != nil {
		t.Fatalf("pdftoppm %s: %v: %s", file, err, out)
	}
	return decode(t, []byte(read(t, base+".png")))
}

// TestPDFsLookAlike writes the feature drawings, and the screens of the demo, as PDF, and holds what a foreign painter
// makes of them against our own pictures.
func TestPDFsLookAlike(t *testing.T) {
	t.Parallel()
	tool(t, "pdftoppm")
	dir := t.TempDir()
	sum, n := 0.0, 0
	check := func(name, file, selector string) {
		pdf, png := filepath.Join(dir, fmt.Sprintf("%d.pdf", n)), filepath.Join(dir, fmt.Sprintf("%d.png", n))
		must(t, dir, "assets", "export", file, selector, "-o", pdf, "--quiet")
		must(t, dir, "assets", "export", file, selector, "-o", png, "--at", "2", "--quiet")
		made, _ := filepath.Glob(strings.TrimSuffix(png, ".png") + "@2x.png")
		if len(made) != 1 {
			t.Fatalf("%s: %v", name, made)
		}
		ours, theirs := onWhite(decode(t, []byte(read(t, made[0])))), onWhite(pdfPage(t, pdf, 2))
		if d := ours.Rect.Size().Sub(theirs.Rect.Size()); d.X > 1 || d.X < -1 || d.Y > 1 || d.Y < -1 {
			t.Errorf("%s: a page of %v for a picture of %v", name, theirs.Rect.Size(), ours.Rect.Size())
			return
		}
		both := image.NewRGBA(ours.Rect)
		draw.Draw(both, both.Rect, image.White, image.Point{}, draw.Src)
		draw.Draw(both, both.Rect, theirs, image.Point{}, draw.Src)
		l, ok := diff.Likeness(ours, both, ours.Rect, white, 32)
		if !ok {
			l = 1
		}
		if l < 0.97 {
			t.Logf("%5.1f %%  %s", l*100, name)
		}
		sum += l
		n++
	}
	w := demo(t)
	for _, s := range []string{"timetable", "booking", "components"} {
		check(s, filepath.Join(w, "design", s+".svg"), ":root")
	}
	for i, d := range featureDrawings(t) {
		if i%3 == 0 || i < len(things(t)) {
			check(d.name, write(t, dir, "f.svg", d.svg), ":root")
		}
	}
	t.Logf("%d pages are alike in %.2f %% of their pixels within 32/255", n, sum/float64(n)*100)
	if sum/float64(n) < 0.97 {
		t.Errorf("only %.2f %%", sum/float64(n)*100)
	}
}

// cells paints pictures in rows of square cells, on white.
func cells(pictures []image.Image, side, columns int) *image.RGBA {
	out := image.NewRGBA(image.Rect(0, 0, side*columns, side*((len(pictures)+columns-1)/columns)))
	draw.Draw(out, out.Rect, image.White, image.Point{}, draw.Src)
	for i, p := range pictures {
		at := image.Pt(i%columns*side, i/columns*side)
		draw.Draw(out, image.Rectangle{Min: at, Max: at.Add(image.Pt(side, side))}, p, p.Bounds().Min, draw.Over)
	}
	return out
}

// cellPage is a page that shows files in such cells.
func cellPage(files []string, side, columns int, style func(i int) string) string {
	var b strings.Builder
	b.WriteString(`<!doctype html><body style="margin:0;background:#fff">`)
	for i, f := range files {
		fmt.Fprintf(&b, `<div style="position:absolute;overflow:hidden;left:%dpx;top:%dpx;width:%dpx;height:%dpx"><img style="%s" src="file://%s"></div>`,
			i%columns*side, i/columns*side, side, side, style(i), f)
	}
	return b.String()
}

// differ counts the pixels of a cell in which two pictures differ by more than tol of 255, and sums up by how much.
func differ(a, b *image.RGBA, box image.Rectangle, tol int) (pixels, sum, most int) {
	for y := box.Min.Y; y < box.Max.Y; y++ {
		p, q := a.Pix[a.PixOffset(box.Min.X, y):a.PixOffset(box.Max.X, y)], b.Pix[b.PixOffset(box.Min.X,
			y):b.PixOffset(box.Max.X, y)]
		if string(p) == string(q) {
			continue
		}
		for i := 0; i < len(p); i += 4 {
			worst := 0
			for k := range 3 {
				d := int(p[i+k]) - int(q[i+k])
				d = max(d, -d)
				sum += d
				worst = max(worst, d)
			}
			most = max(most, worst)
			if worst > tol {
				pixels++
			}
		}
	}
	return pixels, sum, most
}

// iconCount is how many icons the tests of icons look at.
func iconCount(t testing.TB, usual int) int { return counted(t, "ARCHETYP_ICONS", usual) }

// counted is a number that the environment may say.
func counted(t testing.TB, name string, usual int) int {
	n := usual
	if s := os.Getenv(name); s != "" {
		if _, err := fmt.Sscan(s, &n); err != nil {
			t.Fatalf("%s: %v", name, err)
		}
	}
	return n
}

// TestIconsLookLikeChromiums exports 1,000 icons of two themes at 128 px and holds each against Chromium's picture.
func TestIconsLookLikeChromiums(t *testing.T) {
	icons := themeIcons(t, iconCount(t, 150))
	ctx := chromium(t)
	dir := t.TempDir()
	const side, columns, chunk = 128, 12, 240
	off := 0
	for from := 0; from < len(icons); from += chunk {
		part := icons[from:min(from+chunk, len(icons))]
		var pictures []image.Image
		var zooms []float64
		for _, f := range part {
			out := filepath.Join(dir, "o")
			must(t, dir, "assets", "export", f, ":root", "--set", "web", "--format", "png", "--at", "1", "-o", out, "--json")
			made, _ := filepath.Glob(out + "/*.png")
			if len(made) != 1 {
				t.Fatalf("%s: %v", f, made)
			}
			natural := decode(t, []byte(read(t, made[0]))).Bounds()
			os.Remove(made[0])
			at := float64(side) / float64(max(natural.Dx(), natural.Dy()))
			zooms = append(zooms, at)
			must(t, dir, "assets", "export", f, ":root", "-o", filepath.Join(dir, "icon.png"), "--at", fmt.Sprint(at), "--quiet")
			made, _ = filepath.Glob(filepath.Join(dir, "icon*.png"))
			pictures = append(pictures, decode(t, []byte(read(t, made[0]))))
			os.Remove(made[0])
		}
		ours := cells(pictures, side, columns)
		open(t, ctx, write(t, dir, "page.html", cellPage(part, side, columns,
			func(i int) string {
				return fmt.Sprintf("transform-origin:0 0;transform:scale(%g)",
					zooms[i])
			})), side*columns, int64(ours.Rect.Dy()), 1)
		theirs := onWhite(shoot(t, ctx))
		for i, f := range part {
			box := image.Rect(0, 0, side, side).Add(image.Pt(i%columns*side, i/columns*side))
			n, sum, _ := differ(ours, theirs, box, 32)
			if mean := float64(sum) / (3 * side * side); n > side*side/100 || mean > 2 {
				off++
				t.Logf("%s: %.2f %% of the pixels, mean %.2f", f, float64(n)/side/side*100, mean)
			}
		}
	}
	t.Logf("%d of %d icons look like Chromium's: at most 1 %% of pixels beyond 32/255, a mean difference of at most 2/255",
		len(icons)-off, len(icons))
	if off*200 > len(icons) {
		t.Errorf("%d of %d do not", off, len(icons))
	}
}

// TestSVGLooksTheSame exports icons as SVG and holds Chromium's pictures of them, at 1x to 4x, against those of the
// originals; and their size against that of the originals and of what a minifier makes of them.
func TestSVGLooksTheSame(t *testing.T) {
	t.Parallel()
	icons := themeIcons(t, iconCount(t, 160))
	ctx := chromium(t)
	dir := iconFolder(t, icons, "{name: plain, formats: [svg]}")
	must(t, dir, "assets", "export", "--quiet")
	const side = 128
	differs, worst, before, after := map[int]bool{}, 0, 0, 0
	var originals, written []string
	for i := range icons {
		originals = append(originals, filepath.Join(dir, fmt.Sprintf("icons/%04d.svg", i)))
		written = append(written, filepath.Join(dir, fmt.Sprintf("out/plain/i%04d.svg", i)))
		before, after = before+len(read(t, originals[i])), after+len(read(t, written[i]))
	}
	// Sheets of pictures, each a layer of its own, which the browser paints as if it stood alone.
	const columns, rows = 8, 5
	cells := ""
	for i := range columns * rows {
		cells += fmt.Sprintf(`<div style="left:%dpx;top:%dpx"><img></div>`, i%columns*side, i/columns*side)
	}
	page := write(t, dir, "page.html",
		fmt.Sprintf(`<!doctype html><style>div{position:absolute;overflow:hidden;width:%dpx;height:%[1]dpx;background:#fff;will-change:transform}img{display:block}</style><body>%s`, side, cells))
	for density := 1; density <= 4; density++ {
		open(t, ctx, page, columns*side, rows*side, float64(density))
		for from := 0; from < len(icons); from += columns * rows {
			to := min(from+columns*rows, len(icons))
			var shots [2][]byte
			for k, files := range [][]string{originals[from:to], written[from:to]} {
				show := fmt.Sprintf(`Promise.all(%s.map((f, i) => { const e = document.images[i]; e.src = "file://" + f; return e.decode(); })).then(() => true)`, jsonText(t, files))
				if _, err := chromedp.Run(ctx, chromedp.Evaluate[bool](show, chromedp.EvalAwaitPromise)); err != nil {
					t.Fatal(err)
				}
				shots[k] = shootPNG(t, ctx)
			}
			if bytes.Equal(shots[0], shots[1]) {
				continue
			}
			was, is := onWhite(decode(t, shots[0])), onWhite(decode(t, shots[1]))
			for i := from; i < to; i++ {
				cell := image.Rect(0, 0, side*density, side*density).Add(image.Pt((i-from)%columns,
					(i-from)/columns).Mul(side * density))
				n, _, most := differ(was, is, cell, 2)
				worst = max(worst, most)
				if n > 0 {
					differs[i] = true
				}
			}
		}
	}
	if keep := os.Getenv("ARCHETYP_KEEP"); keep != "" {
		for i := range differs {
			write(t, keep, fmt.Sprintf("%04d-before.svg", i), read(t, originals[i]))
			write(t, keep, fmt.Sprintf("%04d-after.svg", i), read(t, written[i]))
		}
	}
	t.Logf("%d of %d are painted alike at 1x to 4x, no channel of a pixel more than 2/255 apart; the largest "+
		"difference is %d/255", len(icons)-len(differs), len(icons), worst)
	t.Logf("%d bytes became %d: %.1f %%", before, after, float64(after)/float64(before)*100)
	if len(differs)*100 > len(icons) || worst > 64 {
		t.Errorf("%d of %d are not painted alike", len(differs), len(icons))
	}
	if after*10 > before*6 {
		t.Errorf("%d bytes became %d", before, after)
	}
	node := os.Getenv("ARCHETYP_NODE")
	if node == "" {
		t.Log("not compared with a minifier: ARCHETYP_NODE is not set")
		return
	}
	if out, err := exec.Command(filepath.Join(node, "node_modules/.bin/svgo"), "-q", "-f", filepath.Join(dir, "icons"),
		"-o", filepath.Join(dir, "small")).CombinedOutput(); err != nil {
		t.Fatalf("svgo: %v: %s", err, out)
	}
	small := 0
	for i := range icons {
		small += len(read(t, filepath.Join(dir, fmt.Sprintf("small/%04d.svg", i))))
	}
	t.Logf("a minifier makes %d of them: ours are %.2f times as large", small, float64(after)/float64(small))
	if after*10 > small*11 {
		t.Errorf("%d bytes for a minifier's %d", after, small)
	}
}

// TestVectorDrawables exports icons as vector drawables, links them as Android does, and holds Chromium's picture of
// what a foreign converter makes of them against that of the originals.
func TestVectorDrawables(t *testing.T) {
	icons := themeIcons(t, 100)
	dir := iconFolder(t, icons, "{name: android, to: res, formats: [vector]}")
	var notes struct {
		Summary struct{ Warnings []string }
	}
	mustJSON(t, dir, &notes, "assets", "export")
	refused := 0
	for _, w := range notes.Summary.Warnings {
		if strings.Contains(w, "is no vector drawable") {
			refused++
		}
	}
	link(t, filepath.Join(dir, "out/res"))
	files, _ := filepath.Glob(filepath.Join(dir, "out/res/drawable-anydpi-v24/*.xml"))
	t.Logf("%d of %d icons are vector drawables; for the others the program says why not", len(files), len(icons))
	if len(files)+refused != len(icons) || len(files) < len(icons)*9/10 {
		t.Errorf("%d files, %d refused", len(files), refused)
	}
	node := os.Getenv("ARCHETYP_NODE")
	if node == "" {
		t.Log("not converted: ARCHETYP_NODE is not set")
		return
	}
	ctx := chromium(t)
	script := write(t, dir, "convert.cjs", `const {vdConvert}=((m)=>({vdConvert:m.transform||m.default||m}))(require(process.argv[2]));const fs=require("fs");
for (const f of process.argv.slice(3)) fs.writeFileSync(f.replace(/xml$/,"svg"), vdConvert(fs.readFileSync(f,"utf8")))`)
	if out, err := exec.Command("node", append([]string{script, filepath.Join(node, "node_modules/vector-drawable-svg")},
		files...)...).CombinedOutput(); err != nil {
		t.Fatalf("the converter: %v: %s", err, out)
	}
	var originals, converted []string
	for _, f := range files {
		name := strings.TrimSuffix(filepath.Base(f), ".xml")
		originals = append(originals, filepath.Join(dir, "icons", name[1:]+".svg"))
		converted = append(converted, strings.TrimSuffix(f, ".xml")+".svg")
	}
	const side, columns = 64, 20
	rows := (len(files) + columns - 1) / columns
	var shots [2]*image.RGBA
	for k, list := range [][]string{originals, converted} {
		open(t, ctx, write(t, dir, fmt.Sprintf("page%d.html", k), cellPage(list, side, columns,
			func(int) string { return "width:64px;height:64px" })), side*columns, int64(side*rows), 2)
		shots[k] = onWhite(shoot(t, ctx))
	}
	sum, below := 0.0, 0
	for i := range files {
		l, ok := diff.Likeness(shots[0], shots[1], image.Rect(0, 0, 2*side, 2*side).Add(image.Pt(i%columns*2*side,
			i/columns*2*side)), white, 32)
		if !ok {
			l = 1
		}
		if l < 0.97 {
			below++
			t.Logf("%5.1f %%  %s", l*100, icons[i])
		}
		sum += l
	}
	t.Logf("converted back, they are alike in %.2f %% of their pixels; %d below 97 %%", sum/float64(len(files))*100, below)
	if sum/float64(len(files)) < 0.97 {
		t.Error("that is too little")
	}
}

// link has aapt2 compile and link resources against the platform's.
func link(t testing.TB, res string) {
	t.Helper()
	aapt := tool(t, "aapt2")
	dir := t.TempDir()
	manifest := write(t, dir, "AndroidManifest.xml",
		`<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="ferry.tern"><application/></manifest>`)
	zip := filepath.Join(dir, "r.zip")
	if out, err := exec.Command(aapt, "compile", "--dir", res, "-o", zip).CombinedOutput(); err != nil {
		t.Fatalf("aapt2 compile: %v: %s", err, out)
	}
	if out, err := exec.Command(aapt, "link", "-I", "/usr/share/android-framework-res/framework-res.apk", "--manifest",
		manifest, "-o", filepath.Join(dir, "r.apk"), zip).CombinedOutput(); err != nil {
		t.Fatalf("aapt2 link: %v: %s", err, out)
	}
}
