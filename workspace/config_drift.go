package workspace

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/audit"
	"archetyp/core/css"
	"archetyp/core/drift"
)

// DriftConfig says how a site is held against the design.
type DriftConfig struct {
	Site     string            `yaml:"site"`    // what is compared where no other is named
	Colour   string            `yaml:"colour"`  // how far colours may be apart, in OKLab
	Size     string            `yaml:"size"`    // how far lengths may be apart
	Opacity  string            `yaml:"opacity"` // how far opacities may be apart
	Levels   map[string]string `yaml:"levels"`  // by kind of difference
	Baseline string            `yaml:"baseline"`
	Pairs    []DriftPair       `yaml:"pairs"`
}

// DriftPair says what of the design became what of the site: a screen a page, or an element another.
type DriftPair struct {
	Screen  string `yaml:"screen"`
	Page    string `yaml:"page"`
	Element string `yaml:"element"` // a selector in the drawing
	Site    string `yaml:"site"`    // a selector in the page
}

// checkDrift refuses what means nothing.
func (c *Config) checkDrift(fail func(path, format string, args ...any) error) error {
	d := &c.Drift
	for key, text := range map[string]string{"colour": d.Colour, "opacity": d.Opacity} {
		if v, err := strconv.ParseFloat(text, 64); text != "" && (err != nil || !(v >= 0) || v > 1) {
			return fail("$.drift."+key, "drift: %s: %q is no number from 0 to 1", key, text)
		}
	}
	if l, err := css.ParseLength(d.Size); d.Size != "" && (err != nil || !(l.Value >= 0) || l.Value > 100) {
		return fail("$.drift.size", "drift: size: %q is no length; such as 0.5px", d.Size)
	}
	var kinds []string
	for _, k := range drift.Kinds {
		kinds = append(kinds, string(k))
	}
	for k, l := range d.Levels {
		switch {
		case !slices.Contains(kinds, k):
			return fail("$.drift.levels", "drift: levels: %s is no kind of difference; %s are", k, strings.Join(kinds, ", "))
		case !slices.Contains(audit.Levels, audit.Level(l)):
			return fail("$.drift.levels."+k, "drift: levels: %s: %q is no level; error, warning, note and off are", k, l)
		}
	}
	for i, p := range d.Pairs {
		at := fmt.Sprintf("$.drift.pairs[%d]", i)
		switch {
		case p.Element != "" && p.Site == "" || p.Element == "" && p.Site != "":
			return fail(at, "drift: pairs: element and site go together: a selector in the drawing, and one in the page")
		case p.Element == "" && (p.Screen == "" || p.Page == ""):
			return fail(at, "drift: pairs: a screen and a page are wanted, or an element and its site")
		}
		for _, s := range []string{p.Element, p.Site} {
			if s != "" {
				if _, err := css.ParseSelector(s); err != nil {
					return fail(at, "drift: pairs: %q is no selector: %v", s, err)
				}
			}
		}
	}
	return nil
}

// DriftTolerances are how far values may be apart.
func (c *Config) DriftTolerances() (t drift.Tolerances) {
	t.Colour, _ = strconv.ParseFloat(c.Drift.Colour, 64)
	t.Share, _ = strconv.ParseFloat(c.Drift.Opacity, 64)
	t.Length = px(c.Drift.Size, 0, c.RootPx())
	return t
}

// DriftLevels are the levels of the kinds that have one.
func (c *Config) DriftLevels() map[drift.Kind]audit.Level {
	out := map[drift.Kind]audit.Level{}
	for k, l := range c.Drift.Levels {
		out[drift.Kind(k)] = audit.Level(l)
	}
	return out
}
