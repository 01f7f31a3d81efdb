package diff

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/match"
)

// Kind is what happened to an element.
type Kind string

// The kinds of changes, the one that weighs most first.
const (
	Removed   Kind = "removed"
	Added     Kind = "added"
	Reworded  Kind = "reworded"
	Restyled  Kind = "restyled"
	Moved     Kind = "moved"
	Renamed   Kind = "renamed"
	Regrouped Kind = "regrouped" // it stands in another container, where nothing of that shows
)

// Kinds are all of them, in their order.
var Kinds = []Kind{Removed, Added, Reworded, Restyled, Moved, Renamed, Regrouped}

// Change is one thing that differs from one reading of a drawing to another. A group that moved, came or went is one,
// with all that is in it.
type Change struct {
	Kind     Kind
	Screen   string
	Old, New *design.Element // nil on the side that lacks it
	Elements int             // how many it stands for
	By       geom.Point      // moved: px
	Was, Is  string          // reworded, renamed, regrouped: words, name, container
	Facts    []FactChange    // restyled
}

// FactChange is a fact with another value; "none" where one side lacks it.
type FactChange struct {
	Name     string `json:"name"`
	Was      string `json:"was"`
	Is       string `json:"is"`
	WasToken string `json:"wasToken,omitempty"` // the token that the value was then
	IsToken  string `json:"isToken,omitempty"`  // and is now
}

// String says the change with its tokens first.
func (f *FactChange) String() string {
	switch {
	case f.WasToken != "" && f.WasToken == f.IsToken:
		return fmt.Sprintf("%s %s (%s → %s)", f.Name, f.IsToken, f.Was, f.Is)
	case f.WasToken+f.IsToken == "":
		return f.Name + " " + f.Was + " → " + f.Is
	}
	named := func(token, value string) string {
		if token == "" {
			return value
		}
		return token + " (" + value + ")"
	}
	return f.Name + " " + named(f.WasToken, f.Was) + " → " + named(f.IsToken, f.Is)
}

// Element is the element that a change is about, as it is now where it still is.
func (c *Change) Element() *design.Element {
	if c.New != nil {
		return c.New
	}
	return c.Old
}

// least is how far something has to move to have moved, in px.
const least = 0.05

// Documents are the changes from one reading of a drawing to another, by screen, those that weigh most first.
func Documents(old, new *design.Document) []Change {
	d := &differ{old: old.All(), new: new.All(), was: map[*design.Element]*design.Element{}, now: map[*design.Element]*design.Element{}}
	for _, p := range match.Elements(old, new) {
		d.was[d.new[p.New]], d.now[d.old[p.Old]] = d.old[p.Old], d.new[p.New]
	}
	d.gone()
	d.come()
	for _, e := range d.new {
		if was := d.was[e]; was != nil {
			d.pair(was, e)
		}
	}
	order := map[string]int{}
	for _, doc := range []*design.Document{new, old} {
		for _, s := range doc.Screens {
			if _, known := order[s.Name]; !known {
				order[s.Name] = len(order)
			}
		}
	}
	slices.SortStableFunc(d.out, func(a, b Change) int {
		return cmp.Or(cmp.Compare(order[a.Screen], order[b.Screen]), cmp.Compare(slices.Index(Kinds, a.Kind), slices.Index(Kinds, b.Kind)))
	})
	return d.out
}

type differ struct {
	old, new []*design.Element
	was, now map[*design.Element]*design.Element // pairs, either way
	moves    map[*design.Element]*geom.Point     // of elements now; nil for those whose parts moved differently
	out      []Change
}

func (d *differ) put(c Change) {
	c.Screen = c.Element().Screen.Name
	c.Elements = max(c.Elements, 1)
	d.out = append(d.out, c)
}

// gone notes what is no more: of what stands in one another, the outermost. A group whose parts are all still there was
// only taken apart.
func (d *differ) gone() {
	for _, e := range d.old {
		if d.now[e] != nil || d.within(e, d.now) {
			continue
		}
		if kept, parts := partsKept(e, d.now); kept == parts && parts > 0 {
			d.put(Change{Kind: Regrouped, Old: e, Was: e.Title(), Elements: parts})
			continue
		}
		d.put(Change{Kind: Removed, Old: e, Elements: 1 + inside(e)})
	}
}

// come notes what is new, likewise.
func (d *differ) come() {
	for _, e := range d.new {
		if d.was[e] != nil || d.within(e, d.was) {
			continue
		}
		if kept, parts := partsKept(e, d.was); kept == parts && parts > 0 {
			d.put(Change{Kind: Regrouped, New: e, Is: e.Title(), Elements: parts})
			continue
		}
		d.put(Change{Kind: Added, New: e, Elements: 1 + inside(e)})
	}
}

// within reports whether the container of an element has no pair either, and more than its parts is gone or new with it.
func (d *differ) within(e *design.Element, pairs map[*design.Element]*design.Element) bool {
	p := e.Parent
	if p == nil || p == e.Screen.Root || pairs[p] != nil {
		return false
	}
	kept, parts := partsKept(p, pairs)
	return kept < parts || d.within(p, pairs)
}

// partsKept is how many of the things in a group have a pair, and how many there are.
func partsKept(e *design.Element, pairs map[*design.Element]*design.Element) (kept, parts int) {
	e.Walk(func(x *design.Element) {
		if x == e || x.Kind == design.Group {
			return
		}
		parts++
		if pairs[x] != nil {
			kept++
		}
	})
	return kept, parts
}

func inside(e *design.Element) (n int) {
	e.Walk(func(x *design.Element) {
		if x != e {
			n++
		}
	})
	return n
}

// pair notes what differs of one element.
func (d *differ) pair(was, e *design.Element) {
	if e.Words != nil && was.Words != nil && e.Words.Words != was.Words.Words {
		d.put(Change{Kind: Reworded, Old: was, New: e, Was: was.Words.Words, Is: e.Words.Words})
	}
	if facts := d.restyled(was, e); len(facts) > 0 {
		d.put(Change{Kind: Restyled, Old: was, New: e, Facts: facts})
	}
	if by := d.moved(e); by != nil && (math.Abs(by.X) > least || math.Abs(by.Y) > least) {
		d.put(Change{Kind: Moved, Old: was, New: e, By: *by, Elements: 1 + inside(e)})
	}
	if e.Name != was.Name {
		d.put(Change{Kind: Renamed, Old: was, New: e, Was: was.Name, Is: e.Name})
	} else if p, q := e.Parent, was.Parent; p != nil && q != nil && d.was[p] != nil && d.now[q] != nil && d.was[p] != q {
		d.put(Change{Kind: Regrouped, Old: was, New: e, Was: q.Title(), Is: p.Title()})
	}
}

// restyled are the facts that differ, without place and words; of a group its own, since its size is that of its parts.
func (d *differ) restyled(was, e *design.Element) (out []FactChange) {
	_, differ := design.CompareFacts([][]design.FactLine{styleFacts(was), styleFacts(e)})
	for _, f := range differ {
		if len(f.Values) != 2 {
			continue
		}
		out = append(out, FactChange{Name: f.Name, Was: f.Values[0].Value, Is: f.Values[1].Value})
	}
	return out
}

// styleFacts are the facts of an element that are its own look. What follows from its words, from where it stands or from
// what lies in it is that of others.
func styleFacts(e *design.Element) []design.FactLine {
	return slices.DeleteFunc(design.Placeless(e.Facts()), func(f design.FactLine) bool {
		switch {
		case f.Name == "words", f.Name == "lines", design.FollowsPlace(f.Name):
			return true
		case e.Words != nil:
			return f.Name == "size" || f.Name == "text-align"
		case len(e.Children) > 0:
			return f.Section != "code" && !ofGroups[f.Name]
		}
		return false
	})
}

// ofGroups are the facts that a group has of its own.
var ofGroups = map[string]bool{"opacity": true, "mix-blend-mode": true, "blur": true, "filter": true}

// moved is how far an element moved in its container; nil for a group whose parts moved differently.
func (d *differ) moved(e *design.Element) *geom.Point {
	own := d.shift(e)
	if own == nil {
		return nil
	}
	by := *own
	for p := e.Parent; p != nil; p = p.Parent {
		if above := d.shift(p); above != nil {
			by.X, by.Y = by.X-above.X, by.Y-above.Y
			break
		}
		if d.was[p] == nil {
			break
		}
	}
	return &by
}

// shift is how far an element moved on its screen: of a group, how far all that was and is in it did.
func (d *differ) shift(e *design.Element) *geom.Point {
	if d.moves == nil {
		d.moves = map[*design.Element]*geom.Point{}
	}
	if by, known := d.moves[e]; known {
		return by
	}
	d.moves[e] = d.newShift(e)
	return d.moves[e]
}

func (d *differ) newShift(e *design.Element) *geom.Point {
	was := d.was[e]
	if was == nil {
		return nil
	}
	if len(e.Children) == 0 || e.Words != nil {
		return shifted(was, e)
	}
	var all *geom.Point
	for _, c := range e.Children {
		by := d.shift(c)
		if d.was[c] == nil { // new: it says nothing of the others
			continue
		}
		if by == nil {
			return nil
		}
		if all != nil && (math.Abs(all.X-by.X) > least || math.Abs(all.Y-by.Y) > least) {
			return nil
		}
		all = by
	}
	return all
}

// shifted is how far an element without parts moved: of words, where their first line begins or ends, whichever stayed,
// since other words are of another width.
func shifted(was, e *design.Element) *geom.Point {
	a, b := was.BorderBox(), e.BorderBox()
	by := geom.Point{X: b.X - a.X, Y: b.Y - a.Y}
	if e.Words != nil && was.Words != nil && e.Words.Words != was.Words.Words {
		for _, x := range []float64{b.X - a.X, b.Right() - a.Right(), b.X + b.W/2 - a.X - a.W/2} {
			if math.Abs(x) < math.Abs(by.X) {
				by.X = x
			}
		}
	}
	if e.Words == nil && (math.Abs(a.W-b.W) > least || math.Abs(a.H-b.H) > least) { // a larger one stays where an edge does
		for _, x := range []float64{b.Right() - a.Right(), b.X + b.W/2 - a.X - a.W/2} {
			if math.Abs(x) < math.Abs(by.X) {
				by.X = x
			}
		}
		for _, y := range []float64{b.Bottom() - a.Bottom(), b.Y + b.H/2 - a.Y - a.H/2} {
			if math.Abs(y) < math.Abs(by.Y) {
				by.Y = y
			}
		}
	}
	return &by
}

// String says a change in words, without its screen.
func (c *Change) String() string {
	name := c.Element().Title()
	more := ""
	if c.Elements > 1 {
		more = fmt.Sprintf(" with the %d in it", c.Elements-1)
	}
	switch c.Kind {
	case Removed, Added:
		return name + " " + string(c.Kind) + more
	case Moved:
		return name + " moved " + Way(c.By) + more
	case Reworded:
		return fmt.Sprintf("“%s” is “%s”", c.Was, c.Is)
	case Renamed:
		return fmt.Sprintf("%s is called %s", nameless(c.Was), nameless(c.Is))
	case Regrouped:
		switch {
		case c.New == nil:
			return "the group " + c.Was + " taken apart"
		case c.Old == nil:
			return fmt.Sprintf("%d elements put into the group %s", c.Elements, c.Is)
		}
		return fmt.Sprintf("%s put from %s into %s", name, c.Was, c.Is)
	}
	var facts []string
	for i := range c.Facts {
		facts = append(facts, c.Facts[i].String())
	}
	return name + " restyled: " + strings.Join(facts, ", ")
}

func nameless(name string) string {
	if name == "" {
		return "(unnamed)"
	}
	return name
}

// WayTo is Way by two lengths in px.
func WayTo(x, y float64) string { return Way(geom.Point{X: x, Y: y}) }

// Way says in words how far something moved: "8 px right, 4 px up".
func Way(by geom.Point) string {
	var out []string
	for _, x := range []struct {
		by       float64
		more, to string
	}{{by.X, "right", "left"}, {by.Y, "down", "up"}} {
		switch v := design.Tidy(x.by); {
		case v > least:
			out = append(out, fmt.Sprintf("%g px %s", v, x.more))
		case v < -least:
			out = append(out, fmt.Sprintf("%g px %s", -v, x.to))
		}
	}
	return strings.Join(out, ", ")
}
