package job

import (
	"context"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"archetyp/core/drift"
	"archetyp/demo"
	"archetyp/demo/edits"
	"archetyp/workspace"
)

// driftOf writes a site into a folder and holds it against another.
func putAll(t testing.TB, dir string, files map[string]string) {
	t.Helper()
	for name, text := range files {
		p := filepath.Join(dir, name)
		if err := os.MkdirAll(filepath.Dir(p), 0o777); err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(p, []byte(text), 0o666); err != nil {
			t.Fatal(err)
		}
	}
}

func TestMutations(t *testing.T) {
	files, err := demo.Files()
	if err != nil {
		t.Fatal(err)
	}
	site := edits.Site(files)
	was := t.TempDir()
	putAll(t, was, site)
	good, all := 0, 0
	for seed := uint64(1); all < 300; seed++ {
		r := rand.New(rand.NewPCG(seed, 9))
		now := map[string]string{}
		for k, v := range site {
			now[k] = v
		}
		c, ok := edits.ChangeSite(r, now)
		if !ok {
			continue
		}
		all++
		is := t.TempDir()
		putAll(t, is, now)
		rep, err := Drift(&SiteReader{Context: context.Background(), Dir: is}, DriftOptions{Site: filepath.Join(is, "site"), Design: filepath.Join(was, "site"), Base: drift.View{Width: 1280, Height: 800}})
		if err != nil {
			t.Fatal(err)
		}
		if len(rep.Differences) == 1 {
			d := rep.Differences[0]
			rightLine := d.Cause.Place.Line == c.Line && strings.HasSuffix(d.Cause.Place.File, c.File)
			if c.What == "order" {
				rightLine = d.Kind == drift.Order && (d.Cause.Place.Line == c.Line || d.Cause.Place.Line == c.Line+1)
			}
			if rightLine && (c.Property == "" || d.Property == c.Property) {
				good++
				continue
			}
		}
		t.Logf("seed %d %s: %d", seed, c, len(rep.Differences))
		for _, d := range rep.Differences {
			t.Logf("     %s %s %s:%d ×%d", d.Kind, d.Message, filepath.Base(d.Cause.Place.File), d.Cause.Place.Line, len(d.Spots))
		}
	}
	t.Logf("%d of %d", good, all)
}

func TestSame(t *testing.T) {
	files, err := demo.Files()
	if err != nil {
		t.Fatal(err)
	}
	site := edits.Site(files)
	was := t.TempDir()
	putAll(t, was, site)
	all := 0
	for seed := uint64(1); all < 150; seed++ {
		r := rand.New(rand.NewPCG(seed, 9))
		now := map[string]string{}
		for k, v := range site {
			now[k] = v
		}
		c, ok := edits.SameSite(r, now)
		if !ok {
			continue
		}
		all++
		is := t.TempDir()
		putAll(t, is, now)
		rep, err := Drift(&SiteReader{Context: context.Background(), Dir: is}, DriftOptions{Site: filepath.Join(is, "site"), Design: filepath.Join(was, "site"), Base: drift.View{Width: 1280, Height: 800}})
		if err != nil {
			t.Fatal(err)
		}
		if len(rep.Differences) == 0 {
			continue
		}
		t.Errorf("seed %d %s: %d", seed, c, len(rep.Differences))
		for _, d := range rep.Differences {
			t.Logf("     %s %s %s:%d ×%d", d.Kind, d.Message, filepath.Base(d.Cause.Place.File), d.Cause.Place.Line, len(d.Spots))
		}
	}
}

func TestMutatedFromDrawings(t *testing.T) {
	files, err := demo.Files()
	if err != nil {
		t.Fatal(err)
	}
	site := edits.Site(files)
	dir := t.TempDir()
	all := map[string]string{}
	for k, v := range files {
		all[k] = string(v)
	}
	putAll(t, dir, all)
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
	run := func(now map[string]string) map[string]drift.Difference {
		is := t.TempDir()
		putAll(t, is, now)
		rep, err := Drift(&SiteReader{Context: context.Background(), Dir: is, WS: ws}, DriftOptions{Site: filepath.Join(is, "site"), Drawings: docs, Base: drift.View{Width: 1280, Height: 800}})
		if err != nil {
			t.Fatal(err)
		}
		out := map[string]drift.Difference{}
		for _, d := range rep.Differences {
			out[d.ID+d.Message] = d
		}
		return out
	}
	base := run(site)
	found, n := 0, 0
	for seed := uint64(1); n < 200; seed++ {
		r := rand.New(rand.NewPCG(seed, 9))
		now := map[string]string{}
		for k, v := range site {
			now[k] = v
		}
		c, ok := edits.ChangeSite(r, now)
		if !ok {
			continue
		}
		n++
		good, others := false, ""
		for id, d := range run(now) {
			if _, was := base[id]; was {
				continue
			}
			if d.Cause.Place.Line == c.Line && strings.HasSuffix(d.Cause.Place.File, c.File) {
				good = true
			}
			others += "\n      " + d.Message + " " + filepath.Base(d.Cause.Place.File) + ":" + strconv.Itoa(d.Cause.Place.Line)
		}
		if good {
			found++
		} else {
			t.Logf("seed %d %s%s", seed, c, others)
		}
	}
	t.Logf("%d of %d", found, n)
}
