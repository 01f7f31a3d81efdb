package offer

import (
	"cmp"
	"math"
	"slices"
	"sort"

	"archetyp/core/color"
	"archetyp/core/hint"
	"archetyp/core/token"
	"archetyp/core/token/harvest"
)

// value is what makes two tokens of one kind the same.
type value struct {
	kind Kind
	text string // CSS, lengths in px
}

// Sort finds the tokens of each value, which judging code needs and offering does not.
func (d *Desk) Sort() {
	d.sorted.Do(func() {
		d.values = make(map[value][]*Entry, len(d.Entries()))
		for _, e := range d.Entries() {
			key := value{e.Kind, d.Text(e)}
			d.values[key] = append(d.values[key], e)
			if e.Color != nil {
				d.light = append(d.light, e)
			}
		}
		slices.SortStableFunc(d.light, func(a, b *Entry) int { return cmp.Compare(a.lab[0], b.lab[0]) })
	})
}

// Valued is the token of a kind that has a value, given as CSS with lengths in px; nil for none. Of several, one that is
// not deprecated comes first, then one named for the use that a property makes of it, then one that is no alias.
func (d *Desk) Valued(k Kind, text, property string) (best *Entry) {
	d.Sort()
	most := 0
	use := useOf(property)
	for _, e := range d.values[value{k, text}] {
		suits := 1
		if e.Deprecated == "" {
			suits += 8
		}
		switch alias, role := e.Value.Alias != "", token.Role(e.Path); {
		case k == Color && alias && use != "" && role == use:
			suits += 4
		case k == Color && alias && role == "action" && use != "":
			suits += 3
		case !alias:
			suits += 2
		}
		if suits > most {
			best, most = e, suits
		}
	}
	return best
}

// Almost is the token whose colour is nearest to one, among those that look the same; nil for none.
func (d *Desk) Almost(c color.Color) (best *Entry) {
	d.Sort()
	lab := c.To(color.OKLab).C
	least := harvest.NearColor
	from := sort.Search(len(d.light), func(i int) bool { return d.light[i].lab[0] > lab[0]-harvest.NearColor })
	for _, e := range d.light[from:] {
		if e.lab[0] > lab[0]+harvest.NearColor {
			break
		}
		if far := distance(lab, e.lab); far < least && math.Abs(c.Alpha-e.Color.Alpha) < harvest.NearAlpha && e.Deprecated == "" {
			best, least = e, far
		}
	}
	return best
}

// distance is the difference of two colours in OKLab.
func distance(a, b [3]float64) float64 {
	return math.Sqrt((a[0]-b[0])*(a[0]-b[0]) + (a[1]-b[1])*(a[1]-b[1]) + (a[2]-b[2])*(a[2]-b[2]))
}

// Instead is the token to take instead of a deprecated one: the one it leads to, else another with its value; nil for
// none.
func (d *Desk) Instead(e *Entry) *Entry {
	for _, t := range d.Library.Base.Chain(e.Token)[1:] {
		if t.Deprecated == "" {
			return d.Named(d.Property(t.Path))
		}
	}
	if other := d.Valued(e.Kind, d.Text(e), ""); other != nil && other.Deprecated == "" {
		return other
	}
	return nil
}

// Nearest is the custom property of a token whose name is nearest to one that no token has; "" for none that is near.
func (d *Desk) Nearest(name string) string {
	if known, ok := d.near.Load(name); ok {
		return known.(string)
	}
	names := make([]string, len(d.Entries()))
	for i, e := range d.Entries() {
		names[i] = e.Property
	}
	near := hint.Nearest(name, names)
	d.near.Store(name, near)
	return near
}
