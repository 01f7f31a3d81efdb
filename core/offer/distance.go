package offer

import (
	"math"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
)

// distances are what lies between two focused elements for a property that is one: gaps and offsets, in the unit and in
// per cent of what CSS counts it by. Of one element alone they are its insets.
func (d *Desk) distances(q Query) (out []Item) {
	if len(q.Focused) == 0 {
		return nil
	}
	a := q.Focused[0].Element
	in := a.Container()
	property := physical(q.Property)
	if list := names(q.Property); len(list) == 2 {
		property = list[0]
	}
	add := func(px float64, what string, full float64) {
		if px = design.Tidy(px); px == 0 || math.IsNaN(px) {
			return
		}
		unit := d.Unit
		item := Item{From: FromDistance, Label: unit.Text(px, false), Detail: css.Px(px) + " " + what}
		if t := d.exact(Space, px); t != nil {
			item.Label, item.Token = "var("+t.Property+")", t.Path
		}
		item.Insert = item.Label
		out = append(out, item)
		if full > 0 && !strings.HasSuffix(property, "gap") {
			p := css.Num(px/full*100, 2) + "%"
			out = append(out, Item{From: FromDistance, Label: p, Insert: p, Detail: css.Px(px) + " " + what})
		}
	}
	side := property
	if _, s, ok := strings.Cut(property, "-"); ok && strings.HasPrefix(property, "margin") {
		side = s
	}
	if len(q.Focused) == 1 {
		i := design.Insets(a.BorderBox(), in)
		at := map[string]int{"top": 0, "right": 1, "bottom": 2, "left": 3}
		if n, ok := at[property]; ok {
			full := in.H
			if n%2 == 1 {
				full = in.W
			}
			add(i[n], side+" of "+a.Title(), full)
		}
		return out
	}
	b := q.Focused[1].Element
	if b.Screen != a.Screen {
		return nil
	}
	between := design.Between(a.BorderBox(), b.BorderBox())
	what := " from " + a.Title() + " to " + b.Title()
	across := func() { add(between.GapX, "across"+what, in.W) }
	down := func() { add(between.GapY, "down"+what, in.W) } // per cent of a margin are of the width, whichever way
	switch property {
	case "gap", "margin":
		if between.GapY > 0 {
			down()
		}
		if between.GapX > 0 {
			across()
		}
	case "row-gap", "margin-top", "margin-bottom":
		down()
	case "column-gap", "margin-left", "margin-right":
		across()
	case "left":
		add(between.Offsets[design.Left], "left"+what, in.W)
	case "right":
		add(-between.Offsets[design.Right], "right"+what, in.W)
	case "top":
		add(between.Offsets[design.Top], "top"+what, in.H)
	case "bottom":
		add(-between.Offsets[design.Bottom], "bottom"+what, in.H)
	}
	return out
}

// exact is the first token of a kind with a value in px; nil for none.
func (d *Desk) exact(k Kind, px float64) *Entry {
	for _, e := range d.Entries() {
		if e.Kind == k && math.Abs(e.Px-px) < 1e-4 {
			return e
		}
	}
	return nil
}
