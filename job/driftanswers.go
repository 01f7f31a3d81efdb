package job

import (
	"context"

	"archetyp/core/audit"
	"archetyp/core/design"
	"archetyp/core/drift"
)

// Drift holds the site that the configuration names for it against the drawings, as both lie on disk; nil where it names
// none. What the baseline accepts is left out.
func (a *Answers) Drift(ctx context.Context) ([]drift.Difference, error) {
	c := &a.disk.Config
	if c.Drift.Site == "" || IsAddress(c.Drift.Site) {
		return nil, nil
	}
	sources, err := a.Sources()
	if err != nil {
		return nil, err
	}
	docs := make([]*design.Document, 0, len(sources))
	for _, s := range sources {
		doc, err := a.Document(ctx, s)
		if err != nil { // its own fault is reported there
			continue
		}
		docs = append(docs, doc)
	}
	r, err := Drift(&SiteReader{Context: ctx, WS: a.disk, Dir: a.disk.Dir}, DriftOptions{Site: c.Drift.Site, Drawings: docs, Base: drift.View{Width: 1280, Height: 800},
		Tolerances: c.DriftTolerances(), Levels: c.DriftLevels(), Pairs: c.Drift.Pairs})
	if err != nil {
		return nil, err
	}
	if c.Drift.Baseline != "" {
		if data, err := a.disk.ReadFile(c.Drift.Baseline); err == nil {
			if b, err := audit.ReadBaseline(data, c.Drift.Baseline); err == nil {
				r.Accepted(b, today())
			}
		}
	}
	return r.Differences, nil
}
