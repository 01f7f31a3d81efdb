package text

import (
	"cmp"
	"slices"
	"strings"
)

// leaves reports whether a screen is left as it is: it was not asked for, or its source could not be read.
func (o *Options) leaves(source, screen string) bool {
	return o.Unread[source] || len(o.Screens) > 0 && !slices.ContainsFunc(o.Screens,
		func(s string) bool { return strings.EqualFold(s, screen) })
}

// left are the places that are left as they are.
func (c *collector) left(places []Place) (out []Place) {
	for _, p := range places {
		if c.o.leaves(p.Source, p.Screen) {
			out = append(out, p)
		}
	}
	return out
}

// keep adds places that are left as they are to those found now, in the order of sources and screens.
func (c *collector) keep(e *Entry, kept []Place) {
	if len(kept) == 0 {
		return
	}
	e.Places = append(e.Places, kept...)
	slices.SortStableFunc(e.Places, func(a, b Place) int {
		return cmp.Or(strings.Compare(a.Source, b.Source), cmp.Compare(c.order[screenAt{a.Source, a.Screen}],
			c.order[screenAt{b.Source, b.Screen}]))
	})
}
