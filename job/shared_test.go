package job

import (
	"sync"
	"testing"

	"archetyp/core/code"
	"archetyp/core/design"
	"archetyp/core/infer/alike"
	"archetyp/core/infer/layout"
	"archetyp/core/paint/raster"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/demo"
	"archetyp/workspace"
)

// demoWorkspace is a copy of the demo's sources.
func demoWorkspace(t testing.TB) *workspace.Workspace {
	t.Helper()
	files, err := demo.Files()
	if err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	for name, data := range files {
		put(t, dir, name, string(data))
	}
	return open(t, dir)
}

// TestOneReadingForMany asks one reading eight things at a time, each twice. The race detector is what it is for.
func TestOneReadingForMany(t *testing.T) {
	ws := demoWorkspace(t)
	r, err := Read(t.Context(), ws)
	if err != nil {
		t.Fatal(err)
	}
	docs, err := r.Docs()
	if err != nil {
		t.Fatal(err)
	}
	set := r.Tokens.Base
	each := func(ask func(e *design.Element)) {
		for _, d := range docs {
			for _, e := range d.All() {
				ask(e)
			}
		}
	}
	finder := emit.NewFinder(set, nil)
	questions := []func(){
		func() { each(func(e *design.Element) { e.Facts() }) },
		func() { each(func(e *design.Element) { layout.Of(e); layout.Paragraphs(e); layout.Outlined(e) }) },
		func() {
			each(func(e *design.Element) {
				code.CSS(e, code.Options{})
			})
		},
		func() {
			for _, d := range docs {
				alike.Find(d.All())
			}
		},
		func() {
			for _, tok := range set.Tokens {
				set.Resolve(tok)
				set.Chain(tok)
				r.Harvest.Uses(set, tok)
			}
			set.Users()
			r.Harvest.Counts(set)
		},
		func() {
			for _, o := range ws.Config.Outputs {
				lang, _ := emit.Of(o.As)
				options, err := ws.EmitOptions(o, ws.ReadFile)
				if err != nil {
					t.Error(err)
				}
				if _, _, err := lang.Write(r.Tokens, options); err != nil {
					t.Error(err)
				}
			}
		},
		func() {
			if _, err := token.Check(r.Tokens, token.CheckOptions{}); err != nil {
				t.Error(err)
			}
			for _, c := range r.Tokens.Contexts {
				r.Tokens.Changed(c)
				c.Set.Get("color.text.default")
			}
		},
		func() {
			for _, d := range docs {
				for _, s := range d.Screens {
					if _, err := raster.Render(s.Paint, raster.Options{View: s.Box, Density: 0.25}); err != nil {
						t.Error(err)
					}
				}
			}
			each(func(e *design.Element) { finder.Find(e, "color:text", "#10243a") })
		},
	}
	var wait sync.WaitGroup
	for range 2 {
		for _, ask := range questions {
			wait.Go(ask)
		}
	}
	wait.Wait()
}
