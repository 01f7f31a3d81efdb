package e2e

import (
	"fmt"
	"io/fs"
	"math"
	"math/rand"
	"path/filepath"
	"sort"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
)

// foreignDrawings picks drawings nobody of this project drew, from what Debian packages bring: some for each thing
// that drawings are made of, by a fixed seed.
func foreignDrawings(t testing.TB, n int) []string {
	t.Helper()
	var all []string
	for _, dir := range []string{"/usr/share/openclipart", "/usr/share/icons/Papirus",
		"/usr/share/icons/elementary-xfce"} {
		_ = filepath.WalkDir(dir, func(p string, d fs.DirEntry, err error) error {
			if err == nil && d.Type().IsRegular() && strings.HasSuffix(p, ".svg") {
				if i, err := d.Info(); err == nil && i.Size() < 300_000 {
					all = append(all, p)
				}
			}
			return nil
		})
	}
	if !strings.Contains(strings.Join(all, "\n"), "openclipart") {
		lacking(t, "the drawings of openclipart-svg are not installed")
	}
	sort.Strings(all)
	rand.New(rand.NewSource(3)).Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
	want := []struct {
		holds string
		n     int
	}{{"<mask", 8}, {"<filter", 20}, {"clipPath", 14}, {"<pattern", 14}, {"<use", 20}, {"marker-", 14}, {"<image",
		8}, {"<text", 30}, {"radialGradient", 30}, {"linearGradient", 30}, {"<", n}}
	var out []string
	taken := map[string]bool{}
	texts := map[string]string{}
	for _, w := range want {
		count := 0
		for _, p := range all {
			if count == w.n || len(out) == n {
				break
			}
			if taken[p] {
				continue
			}
			if _, ok := texts[p]; !ok {
				texts[p] = read(t, p)
			}
			if strings.Contains(texts[p], w.holds) {
				taken[p] = true
				out = append(out, p)
				count++
			}
		}
	}
	sort.Strings(out)
	return out
}

// agreeJS asks the browser for what it makes of each selector: the box on the screen, by points along the outline
// where the shape is turned, and the computed paint.
const agreeJS = `((selectors, w, h) => {
	const root = document.documentElement;
	const was = root.getBoundingClientRect();
	root.setAttribute('width', w); root.setAttribute('height', h); root.style.width = w + 'px'; root.style.height = h + 'px';
	const origin = root.getBoundingClientRect();
	return {Width: was.width, Height: was.height, Elements: selectors.map(s => {
		let all;
		try { all = document.querySelectorAll(s); } catch (e) { return null; }
		if (all.length !== 1 || !all[0].getBBox || all[0].closest('defs, symbol, clipPath, mask, pattern, marker')) return null;
		const e = all[0], st = getComputedStyle(e), m = e.getScreenCTM();
		if (!m || st.display === 'none') return null;
		const b = e.getBBox();
		let x0 = Infinity, y0 = Infinity, x1 = -Infinity, y1 = -Infinity;
		const add = (x, y) => {
			const px = m.a*x + m.c*y + m.e, py = m.b*x + m.d*y + m.f;
			x0 = Math.min(x0, px); x1 = Math.max(x1, px); y0 = Math.min(y0, py); y1 = Math.max(y1, py);
		};
		const turned = Math.abs(m.b) > 1e-9 || Math.abs(m.c) > 1e-9;
		if (turned && e.getTotalLength && e.tagName !== 'line') {
			// Along the outline, in pieces; then halves of those that may reach further than any point found.
			const length = e.getTotalLength(), most = Math.hypot(m.a, m.b, m.c, m.d), at = t => {
				const p = e.getPointAtLength(t), px = m.a*p.x + m.c*p.y + m.e, py = m.b*p.x + m.d*p.y + m.f;
				return [px, py, -px, -py];
			};
			const n = Math.ceil(Math.min(1000, Math.max(100, length * most / 4))), edge = [-Infinity, -Infinity, -Infinity, -Infinity];
			const reach = p => { p.forEach((v, i) => { edge[i] = Math.max(edge[i], v); }); return p; };
			const points = Array.from({length: n + 1}, (_, i) => reach(at(length * i / n)));
			let pieces = points.slice(1).map((p, i) => [i, points[i], p]);
			for (let piece = length / n; piece * most > 0.5 && pieces.length; piece /= 2) {
				pieces = pieces.filter(([, p, q]) => edge.some((v, i) => Math.max(p[i], q[i]) + piece * most > v))
					.flatMap(([i, p, q]) => { const c = reach(at((i + 0.5) * piece)); return [[2*i, p, c], [2*i + 1, c, q]]; });
			}
			x1 = edge[0]; y1 = edge[1]; x0 = -edge[2]; y0 = -edge[3];
		} else { add(b.x, b.y); add(b.x + b.width, b.y); add(b.x, b.y + b.height); add(b.x + b.width, b.y + b.height); }
		const inner = e.tagName === 'text' ? (e.querySelector('tspan') || e) : e;
		const is = getComputedStyle(inner), scale = Math.sqrt(Math.abs(m.a*m.d - m.b*m.c));
		return {X: x0 - origin.x, Y: y0 - origin.y, Width: x1 - x0, Height: y1 - y0, Turned: turned, Scale: scale,
			Fill: is.fill, FillOpacity: is.fillOpacity, Stroke: is.stroke, StrokeOpacity: is.strokeOpacity, StrokeWidth: is.strokeWidth,
			Cap: is.strokeLinecap, Join: is.strokeLinejoin, Miter: is.strokeMiterlimit, Dashes: is.strokeDasharray, Opacity: st.opacity,
			FontSize: is.fontSize, FontWeight: is.fontWeight, Effect: is.vectorEffect, Tag: e.tagName, Visible: st.visibility};
	})};
})(%s, %g, %g)`

type agreed struct {
	X, Y, Width, Height, Scale                                                                         float64
	Turned                                                                                             bool
	Fill, FillOpacity, Stroke, StrokeOpacity, StrokeWidth, Cap, Join, Miter, Dashes, Opacity, FontSize string
	FontWeight, Effect, Tag, Visible                                                                   string
}

// TestFactsOfForeignDrawingsAgreeWithChromium holds the boxes and the paint of every visible element of 200 drawings
// against what Chromium makes of them.
func TestFactsOfForeignDrawingsAgreeWithChromium(t *testing.T) {
	t.Parallel()
	files := foreignDrawings(t, 200)
	ctx := chromium(t)
	dir := t.TempDir()
	elements, values, badElements, uncompared, fontless := 0, 0, 0, 0, 0
	for _, file := range files {
		var o struct {
			Screens []struct{ Width, Height float64 }
		}
		r := run(t, dir, "outline", file, "--json", "--quiet", "--depth", "1")
		if r.status != 0 { // not well-formed: the browser shows none either
			t.Logf("%s: %s", file, strings.TrimSpace(r.err))
			continue
		}
		unmarshal(t, r.out, &o)
		var spec struct{ Elements []element }
		if r := run(t, dir, "spec", file, ":not(svg)", "--json", "--quiet"); r.status == 0 {
			unmarshal(t, r.out, &spec)
		} else if !strings.Contains(r.err, "nothing matches") {
			t.Errorf("%s: %s", file, r.err)
		}
		all := spec.Elements
		selectors := []string{}
		for _, e := range all {
			selectors = append(selectors, e.Selector)
		}
		open(t, ctx, file, 1280, 800, 1)
		res, err := chromedp.Run(ctx, chromedp.Evaluate[struct {
			Width, Height float64
			Elements      []*agreed
		}](fmt.Sprintf(agreeJS, jsonText(t, selectors), o.Screens[0].Width, o.Screens[0].Height)))
		if err != nil {
			t.Fatalf("%s: %v", file, err)
		}
		for i, e := range all {
			th := res.Elements[i]
			if e.Hidden || e.Kind == "group" || e.Shape == "use" {
				continue
			}
			if th == nil || insideUse(all, &e) {
				uncompared++
				continue
			}
			if e.Kind == "text" && !e.measuredWithItsFont() {
				fontless++
				continue
			}
			if th.Visible != "visible" {
				continue
			}
			elements++
			wrong, n := disagreements(&e, th)
			values += n
			if len(wrong) > 0 {
				badElements++
				t.Logf("%s %s (%s): %s", strings.TrimPrefix(file, "/usr/share/"), e.Selector, e.Shape, strings.Join(wrong, "; "))
			}
		}
	}
	share := 1 - float64(badElements)/float64(max(elements, 1))
	t.Logf("%d drawings, %d visible elements and %d non-initial values compared: %.2f %% of the elements agree in all; "+
		"not compared: %d inside uses, %d texts in fonts that are not here",
		len(files), elements, values, share*100, uncompared, fontless)
	if elements < 4000 || share < 0.99 {
		t.Errorf("%.4f of %d elements agree (wanted 0.99 of 4000)", share, elements)
	}
}

// measuredWithItsFont reports whether a text was set in a font it asks for, not in one that stands in.
func (e *element) measuredWithItsFont() bool {
	for _, f := range e.Facts {
		if used, ok := strings.CutPrefix(f.From, "measured with "); ok {
			for _, f := range strings.Split(e.fact("font-family"), ",") {
				if strings.EqualFold(strings.Trim(f, `" `), used) {
					return true
				}
			}
			return false
		}
	}
	return true
}

// insideUse reports whether an element is a copy that a <use> makes: the browser has none of its own for it.
func insideUse(all []element, e *element) bool {
	for i := range all {
		if u := &all[i]; u.Shape == "use" && strings.HasPrefix(e.Path, u.Path+"/") {
			return true
		}
	}
	return false
}

// disagreements lists what an element's facts have otherwise than the browser; n is how many values were compared.
func disagreements(e *element, th *agreed) (wrong []string, n int) {
	say := func(format string, args ...any) { wrong = append(wrong, fmt.Sprintf(format, args...)) }
	b := e.Boxes.Geometry
	d := max(math.Abs(b.X-th.X), math.Abs(b.Y-th.Y), math.Abs(b.X+b.Width-th.X-th.Width),
		math.Abs(b.Y+b.Height-th.Y-th.Height))
	n++
	if !(d <= 0.5) {
		say("box %.2f,%.2f %.2fx%.2f, theirs %.2f,%.2f %.2fx%.2f", b.X, b.Y, b.Width, b.Height, th.X, th.Y, th.Width,
			th.Height)
	}
	if e.Kind == "image" {
		return wrong, n
	}
	scale := th.Scale
	if th.Effect == "non-scaling-stroke" {
		scale = 1
	}
	colour := func(name, theirs, opacity string) {
		if theirs == "none" && e.fact(name) == "" {
			return
		}
		n++
		if name == "fill" && e.Shape == "line" { // a line has no inside
			return
		}
		if !sameColour(e.fact(name), theirs, opacity) {
			say("%s %q, theirs %s at %s", name, e.fact(name), theirs, opacity)
		}
	}
	colour("fill", th.Fill, th.FillOpacity)
	stroked := th.Stroke != "none" && pxOf(th.StrokeWidth) > 0
	if stroked || e.fact("stroke") != "" {
		colour("stroke", th.Stroke, th.StrokeOpacity)
	}
	number := func(name, theirs, initial string, scale, tol float64) {
		ours := e.fact(name)
		if theirs == initial && ours == "" {
			return
		}
		n++
		if ours == "" {
			ours = initial
		}
		if x, y := pxOf(ours), pxOf(theirs)*scale; !(math.Abs(x-y) <= tol+0.002*y) {
			say("%s %s, theirs %s × %.4g", name, ours, theirs, scale)
		}
	}
	word := func(name, theirs, initial string) {
		ours := e.fact(name)
		if ours == "" {
			ours = initial
		}
		if theirs == initial && ours == initial {
			return
		}
		if n++; ours != theirs {
			say("%s %s, theirs %s", name, ours, theirs)
		}
	}
	if stroked && e.fact("stroke") != "" {
		number("stroke-width", th.StrokeWidth, "1px", scale, 0.01)
		word("stroke-linecap", th.Cap, "butt")
		word("stroke-linejoin", th.Join, "miter")
		if th.Join == "miter" {
			number("stroke-miterlimit", th.Miter, "4", 1, 0.001)
		}
		if ours, theirs := strings.Fields(e.fact("stroke-dasharray")), strings.FieldsFunc(th.Dashes,
			func(r rune) bool { return r == ',' || r == ' ' }); th.Dashes != "none" && len(ours) == len(theirs) {
			for i := range ours {
				if n++; math.Abs(pxOf(ours[i])-pxOf(theirs[i])*scale) > 0.02 {
					say("stroke-dasharray %v, theirs %s", ours, th.Dashes)
					break
				}
			}
		} else if th.Dashes != "none" && sumOf(theirs) > 0 || len(ours) > 0 && th.Dashes == "none" {
			say("stroke-dasharray %v, theirs %s", ours, th.Dashes)
		}
	}
	number("opacity", th.Opacity, "1", 1, 0.002)
	if e.Kind == "text" {
		number("font-size", th.FontSize, "16px", scale, 0.02)
		word("font-weight", th.FontWeight, "400")
	}
	return wrong, n
}
