package job

import (
	"context"
	"fmt"
	"path"
	"strings"

	"archetyp/core/guide"
	"archetyp/core/token/emit"
	"archetyp/workspace"
)

// GuideOf makes the guide of a revision, "" for the folder as it is, with a page of what changed since another one where
// that is not "". It gives the files by path in the guide; nothing of the workspace is written.
func GuideOf(ctx context.Context, ws *workspace.Workspace, revision, since string) (map[string][]byte, error) {
	at := ws
	if revision != "" {
		var err error
		if at, err = ws.At(workspace.EditionRevision(revision)); err != nil {
			return nil, err
		}
		defer at.Close()
	}
	in, err := findInputs(at)
	if err != nil {
		return nil, err
	}
	s, err := read(ctx, in, Options{})
	if err != nil {
		return nil, err
	}
	x, err := s.makeAssets(ctx, newArtefacts(), Options{DryRun: true})
	if err != nil {
		return nil, err
	}
	var cache guideCache
	input, err := s.guideInput(&cache, &guideCache{Keys: map[string]string{}, Holds: map[string]held{}})
	if err != nil {
		return nil, err
	}
	input.Assets = x.pictured()
	if revision != "" {
		input.Edition = editionTitle(ws, revision)
	}
	if since != "" {
		cmp, err := CompareStates(ctx, ws, since, revision, nil)
		if err != nil {
			return nil, err
		}
		input.Changes = guideChanges(cmp, editionTitle(ws, since))
	}
	files, err := guide.Files(input)
	if err != nil {
		return nil, err
	}
	made := make([][]byte, len(files))
	if err := Parallel(len(files), func(i int) (err error) {
		made[i], err = files[i].Make()
		return err
	}); err != nil {
		return nil, err
	}
	out := map[string][]byte{}
	for i, f := range files {
		out[path.Clean(f.Path)] = made[i]
	}
	return out, nil
}

// editionTitle is what a revision is called in a guide.
func editionTitle(ws *workspace.Workspace, revision string) string {
	e, err := EditionNamed(ws, revision)
	if err != nil {
		return revision
	}
	first, _, _ := strings.Cut(e.Message, "\n")
	return fmt.Sprintf("edition %d: %s", e.Number, first)
}

// guideChanges is a comparison as the guide shows it.
func guideChanges(c *Comparison, from string) *guide.Changes {
	out := &guide.Changes{From: from}
	for i := range c.Screens {
		s := &c.Screens[i]
		x := guide.ChangedScreen{Name: s.Screen, Source: s.Source, Old: s.Old, New: s.New}
		for k := range s.Changes {
			d := &s.Changes[k]
			x.Changes = append(x.Changes, guide.ChangedElement{Kind: string(d.Kind), Words: d.String(), Box: d.Element().BorderBox()})
		}
		out.Screens = append(out.Screens, x)
	}
	for _, t := range c.Tokens {
		v := guide.ChangedValue{Name: t.Path}
		if was := c.Libs[0].Base.Get(t.Path); was != nil {
			v.Was = emit.Literal(c.Libs[0].Base, was)
		}
		if is := c.Libs[1].Base.Get(t.Path); is != nil {
			v.Is = emit.Literal(c.Libs[1].Base, is)
		}
		out.Tokens = append(out.Tokens, v)
	}
	for _, t := range c.Texts {
		name := t.Key
		if t.Locale != "" {
			name += ", " + t.Locale
		}
		out.Texts = append(out.Texts, guide.ChangedValue{Name: name, Was: t.Was, Is: t.Is})
	}
	return out
}
