package guide

import (
	"slices"

	"archetyp/core/drift"
)

// sitePage says how far the site is from the design, as it was recorded last.
type sitePage struct {
	*drift.Standing
	Errors, Warnings, Notes int
	Of                      []siteScreen
	Parts                   []sitePart
	Values                  []siteValues
	More                    int // differences that are not listed
}

type siteScreen struct {
	drift.ScreenDrift
	Link   string // of the screen's page; "" for none
	Share  int    // of its elements that are on the page, in %
	Agrees int    // of these, as designed, in %
}

type sitePart struct {
	drift.PartDrift
	Link string
}

type siteValues struct {
	Kind  string
	Share int // in %
}

// sitePage adds the page, where something was recorded.
func (b *builder) sitePage() {
	d := b.in.Drift
	if d == nil {
		return
	}
	p := &sitePage{Standing: d, Errors: d.Differences["error"], Warnings: d.Differences["warning"], Notes: d.Differences["note"]}
	p.More = p.Errors + p.Warnings + p.Notes - len(d.List)
	for _, s := range d.Screens {
		x := siteScreen{ScreenDrift: s}
		if m := b.at[screenAt{s.Source, s.Screen}]; m != nil {
			x.Link = m.Page
		}
		if s.Elements > 0 {
			x.Share = 100 * s.Found / s.Elements
		}
		if s.Found > 0 {
			x.Agrees = max(0, 100*(s.Found-s.Differ)/s.Found)
		}
		p.Of = append(p.Of, x)
	}
	slices.SortStableFunc(p.Of, func(x, y siteScreen) int { return x.Agrees - y.Agrees })
	for _, c := range d.Components {
		x := sitePart{PartDrift: c}
		for _, m := range b.parts {
			if m.Name == c.Name {
				x.Link = m.Page
			}
		}
		p.Parts = append(p.Parts, x)
	}
	for _, kind := range []string{"colour", "type", "space", "radius", "shadow"} {
		if share, ok := d.Covered[kind]; ok {
			p.Values = append(p.Values, siteValues{kind, share})
		}
	}
	b.page(shown("Design and site", "site.html", "site", p))
}
