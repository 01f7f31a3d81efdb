package job

import (
	"context"
	"flag"
	"fmt"
	"maps"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/drift"
	"archetyp/demo"
	"archetyp/demo/edits"
	"archetyp/workspace"
)

var long = flag.Bool("long", false, "take all the cases there are")

// cases is how many cases are taken: all of them with -long, fewer else, and only some with -short.
func cases(all, usual int) int {
	switch {
	case *long:
		return all
	case testing.Short():
		return usual / 4
	}
	return usual
}

// inFolder writes files into a new folder.
func inFolder(t testing.TB, files map[string]string) string {
	t.Helper()
	dir := t.TempDir()
	for name, text := range files {
		put(t, dir, name, text)
	}
	return dir
}

// demoSite are the files of the demo's site.
func demoSite(t testing.TB) map[string]string {
	t.Helper()
	files, err := demo.Files()
	if err != nil {
		t.Fatal(err)
	}
	return edits.Site(files)
}

// earlier holds a site against an earlier state of it.
func earlier(t testing.TB, was, is string) *Drifted {
	t.Helper()
	r, err := Drift(&SiteReader{Context: context.Background(), Dir: is}, DriftOptions{Site: filepath.Join(is, "site"), Design: filepath.Join(was, "site"),
		Base: drift.View{Width: 1280, Height: 800}})
	if err != nil {
		t.Fatal(err)
	}
	return r
}

// list are differences in lines.
func list(r *Drifted) string {
	var b strings.Builder
	for _, d := range r.Differences {
		fmt.Fprintf(&b, "\n    %s %s %s:%d ×%d", d.Kind, d.Message, filepath.Base(d.Cause.Place.File), d.Cause.Place.Line, len(d.Spots))
	}
	return b.String()
}

// attributed reports whether a difference is the change: its kind, property and line.
func attributed(d *drift.Difference, c edits.SiteChange) bool {
	if !strings.HasSuffix(d.Cause.Place.File, c.File) {
		return false
	}
	switch c.What {
	case "order": // either of the two that were swapped
		return d.Kind == drift.Order && (d.Cause.Place.Line == c.Line || d.Cause.Place.Line == c.Line+1)
	case "words":
		return d.Kind == drift.Words && d.Cause.Place.Line == c.Line
	}
	return d.Property == c.Property && d.Cause.Place.Line == c.Line
}

// TestChangesOfASite holds that a change to one thing of a site is found, as what it is and where it is, and nothing else
// is; that what mends it gives the style sheet back byte for byte; and that then nothing differs.
func TestChangesOfASite(t *testing.T) {
	many := cases(300, 40)
	site := demoSite(t)
	was := inFolder(t, site)
	good, all, silent, mended, sheets := 0, 0, 0, 0, 0
	for seed := uint64(1); all < many; seed++ {
		now := maps.Clone(site)
		c, ok := edits.ChangeSite(rand.New(rand.NewPCG(seed, 9)), now)
		if !ok {
			continue
		}
		if edits.ShowsNothing(c) {
			silent++
			continue
		}
		all++
		is := inFolder(t, now)
		r := earlier(t, was, is)
		if len(r.Differences) != 1 || !attributed(&r.Differences[0], c) {
			t.Logf("seed %d: %s: %d differences%s", seed, c, len(r.Differences), list(r))
			continue
		}
		good++
		if !strings.HasSuffix(c.File, ".css") {
			continue
		}
		sheets++
		for file, e := range r.Edits() {
			data, err := os.ReadFile(file)
			if err != nil {
				t.Fatal(err)
			}
			text, _, left := drift.Apply(string(data), e)
			if len(left) > 0 {
				t.Errorf("seed %d: %s: %v", seed, c, left)
			}
			if err := os.WriteFile(file, []byte(text), 0o666); err != nil {
				t.Fatal(err)
			}
		}
		after := earlier(t, was, is)
		data, err := os.ReadFile(filepath.Join(is, c.File))
		if err != nil {
			t.Fatal(err)
		}
		same := string(data) == site[c.File] || c.What == "removed" && sameBut(string(data), site[c.File], c.Property)
		if len(after.Differences) > 0 || !same {
			t.Logf("seed %d: %s: not mended%s\n%s", seed, c, list(after), drift.Patch("x", site[c.File], string(data)))
			continue
		}
		mended++
	}
	t.Logf("%d of %d changes found where they are and as what they are; %d more show nothing; %d of %d mended", good, all, silent, mended, sheets)
	if good*100 < all*99 || mended*100 < sheets*99 {
		t.Errorf("less than 99 %%")
	}
}

// sameBut reports whether two sheets have the same bytes where one declaration may stand elsewhere in its rule.
func sameBut(a, b, property string) bool {
	strip := func(s string) string {
		var out []string
		for _, l := range strings.FieldsFunc(s, func(r rune) bool { return r == '\n' || r == ';' || r == '{' }) {
			if !strings.HasPrefix(strings.TrimSpace(l), property+":") {
				out = append(out, strings.TrimSpace(l))
			}
		}
		return strings.Join(out, "")
	}
	return strip(a) == strip(b)
}

// TestChangesThatShowNothing holds that a site that is written otherwise and looks the same has no differences.
func TestChangesThatShowNothing(t *testing.T) {
	many := cases(150, 25)
	site := demoSite(t)
	was := inFolder(t, site)
	for seed, all := uint64(1), 0; all < many; seed++ {
		now := maps.Clone(site)
		what, ok := edits.SameSite(rand.New(rand.NewPCG(seed, 9)), now)
		if !ok {
			continue
		}
		all++
		if r := earlier(t, was, inFolder(t, now)); len(r.Differences) > 0 {
			t.Errorf("seed %d: %s: %d differences%s", seed, what, len(r.Differences), list(r))
		}
	}
}

// demoDrawings is the demo in a folder, with its drawings.
func demoDrawings(t testing.TB) (*workspace.Workspace, []*design.Document) {
	t.Helper()
	files, err := demo.Files()
	if err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	for name, data := range files {
		put(t, dir, name, string(data))
	}
	ws, _, err := workspace.Find(dir)
	if err != nil {
		t.Fatal(err)
	}
	snap, err := Read(context.Background(), ws)
	if err != nil {
		t.Fatal(err)
	}
	docs, err := snap.Docs()
	if err != nil {
		t.Fatal(err)
	}
	return ws, docs
}

// TestChangesAgainstDrawings holds how many changes of a site are found that a drawing knows of: colours, type, corners
// and shadows of what is drawn, and its words.
func TestChangesAgainstDrawings(t *testing.T) {
	many := cases(200, 30)
	ws, docs := demoDrawings(t)
	site := demoSite(t)
	held := func(now map[string]string) map[string]drift.Difference {
		dir := inFolder(t, now)
		r, err := Drift(&SiteReader{Context: context.Background(), Dir: dir, WS: ws}, DriftOptions{Site: "site", Drawings: docs, Base: drift.View{Width: 1280, Height: 800}})
		if err != nil {
			t.Fatal(err)
		}
		out := map[string]drift.Difference{}
		for _, d := range r.Differences {
			out[d.ID+d.Message] = d
		}
		return out
	}
	before := held(site)
	found, all := 0, 0
	for seed := uint64(1); all < many; seed++ {
		now := maps.Clone(site)
		c, ok := edits.ChangeSite(rand.New(rand.NewPCG(seed, 9)), now)
		if !ok || !edits.Drawn(c) {
			continue
		}
		all++
		good, others := false, ""
		for id, d := range held(now) {
			if _, was := before[id]; !was {
				good = good || d.Cause.Place.Line == c.Line && strings.HasSuffix(d.Cause.Place.File, c.File)
				others += fmt.Sprintf("\n    %s %s:%d", d.Message, filepath.Base(d.Cause.Place.File), d.Cause.Place.Line)
			}
		}
		if good {
			found++
		} else {
			t.Logf("seed %d: %s%s", seed, c, others)
		}
	}
	t.Logf("%d of %d changes that drawings know of", found, all)
	if found*100 < all*95 {
		t.Error("less than 95 %")
	}
}

func BenchmarkDrift(b *testing.B) {
	svg, page, css := &strings.Builder{}, &strings.Builder{}, &strings.Builder{}
	svg.WriteString(`<svg xmlns="http://www.w3.org/2000/svg" width="1280" height="40000" data-screen="Big"><style>text{font-family:Fraunces;font-size:16px}</style>`)
	page.WriteString(`<!doctype html><title>Big</title><link rel=stylesheet href=s.css><body data-screen="Big">`)
	for i := range 400 { // 2,000 elements drawn, 5,000 built
		y := 100 * i
		fmt.Fprintf(svg, `<g><rect x="20" y="%d" width="600" height="80" rx="8" fill="#eeeeff"/><text x="40" y="%d">Title %d</text><text x="40" y="%d" fill="#555">Words of %d and more</text><text x="500" y="%d">€ %d.50</text></g>`,
			y, y+30, i, y+50, i, y+30, i)
		fmt.Fprintf(page, `<section class="card k%d"><div><h2 class=t>Title %d</h2><p class=w>Words of %d and more</p><span class=p>€ %d.50</span></div>%s</section>`, i%20, i, i, i, strings.Repeat("<i class=d></i>", 7))
	}
	svg.WriteString("</svg>")
	css.WriteString(".card{background:#eef;border-radius:8px;padding:12px 20px}.t{font:400 16px Fraunces}.w{font:400 16px Fraunces;color:#555}.p{font:400 16px Fraunces}")
	for i := range 300 {
		fmt.Fprintf(css, ".k%d .x%d{padding:%dpx}", i%20, i%7, i%9)
	}
	dir := inFolder(b, map[string]string{"archetyp.yaml": "name: Big\nsources: [big.svg]\n", "big.svg": svg.String(), "site/index.html": page.String(), "site/s.css": css.String()})
	ws, _, err := workspace.Find(dir)
	if err != nil {
		b.Fatal(err)
	}
	read := func() []*design.Document {
		s, err := Read(context.Background(), ws)
		if err != nil {
			b.Fatal(err)
		}
		docs, err := s.Docs()
		if err != nil {
			b.Fatal(err)
		}
		return docs
	}
	reader := &SiteReader{Context: context.Background(), Dir: dir, WS: ws}
	v := drift.View{Width: 1280, Height: 800}
	b.Run("reading both", func(b *testing.B) {
		for b.Loop() {
			read()
			p, err := reader.Pages("site")
			if err == nil {
				_, err = p[0].read(v)
			}
			if err != nil {
				b.Fatal(err)
			}
		}
	})
	b.Run("reading and comparing", func(b *testing.B) {
		for b.Loop() {
			if _, err := Drift(reader, DriftOptions{Site: "site", Drawings: read(), Base: v}); err != nil {
				b.Fatal(err)
			}
		}
	})
}
