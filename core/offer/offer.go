// Package offer works out what a design offers to code that is being written: the values of the focused elements, the
// tokens that suit a property, distances, words. Tokens and elements go in; lists of what could be written come out, the
// best first. Nothing is written here.
package offer

import (
	"cmp"
	"slices"
	"strings"
	"sync"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/token"
	"archetyp/core/token/emit"
)

// Most is how many items one answer holds at most.
const Most = 200

// From is where an offer comes from.
type From string

// What an offer comes from.
const (
	FromElement  From = "element"
	FromDistance From = "distance"
	FromToken    From = "token"
)

// Item is something that could be written.
type Item struct {
	From   From
	Label  string       // in a list
	Insert string       // what is written
	Detail string       // one line: the value, in every context, and uses
	Color  *color.Color // nil for none
	Token  string       // path; "" for none
}

// Desk holds what offers are made from. It never changes, and may be used side by side.
type Desk struct {
	Library  *token.Library
	Property func(path string) string // what a token is called in CSS
	Uses     func(path string) int    // elements of the drawings that have it; nil if unknown
	Unit     design.Unit              // of lengths that are written
	Pictures bool                     // About may hold pictures

	once sync.Once
	all  []*Entry
	by   map[string]*Entry // by custom property

	sorted sync.Once
	values map[value][]*Entry
	light  []*Entry // colours, the darkest first
	near   sync.Map // what names are nearest to
	lines  sync.Map // Line of tokens, by path
}

// Entry is a token as code sees it.
type Entry struct {
	*token.Token
	Property string // its custom property
	Kind     Kind
	Color    *color.Color // of a colour
	Px       float64      // of a length, px; of a duration, ms; of a number, itself
	Uses     int

	order int
	lab   [3]float64 // of a colour, in OKLab
	role  string     // of a colour, as its name says it
}

// Entries are all tokens, in the order of their files.
func (d *Desk) Entries() []*Entry {
	d.once.Do(func() {
		set := d.Library.Base
		d.all = make([]*Entry, 0, len(set.Tokens))
		d.by = make(map[string]*Entry, len(set.Tokens))
		for i, t := range set.Tokens {
			e := d.entry(set, t)
			e.order = i
			d.all = append(d.all, e)
			d.by[e.Property] = e
			if t.Type == token.Typography { // its custom properties are two
				d.by[e.Property+"-letter-spacing"] = e
			}
		}
	})
	return d.all
}

// Text is a token's value as CSS with every alias followed, lengths in px.
func (d *Desk) Text(e *Entry) string { return emit.Preview(d.Library.Base, e.Token) }

// Named is the token of a custom property; nil for none.
func (d *Desk) Named(property string) *Entry {
	d.Entries()
	return d.by[property]
}

func (d *Desk) entry(set *token.Set, t *token.Token) *Entry {
	e := &Entry{Token: t, Property: d.Property(t.Path), Kind: KindOf(t)}
	switch v := set.Resolve(t).Value; {
	case v.Color != nil:
		e.Color, e.lab, e.role = v.Color, v.Color.To(color.OKLab).C, token.Role(t.Path)
	case v.Length != nil:
		e.Px = v.Length.Px(set.RootPx())
	case v.Number != nil:
		e.Px = *v.Number
	}
	if d.Uses != nil {
		e.Uses = d.Uses(t.Path)
	}
	return e
}

// Query is what is asked at a place in code.
type Query struct {
	Property string // of the declaration
	Typed    string // the word at the place, up to the caret
	Word     string // all of it
	Function string // the function around it, as "var"
	Part     bool   // other words stand in the value
	Focused  []*Own
}

// Values are what could stand as the value of a property: first that of the focused elements, then distances, then
// tokens, the nearest to it first. more says that there are others.
func (d *Desk) Values(q Query) (items []Item, more bool) {
	if q.Function != "" && q.Function != "var" {
		return nil, false
	}
	var like []string
	if q.Function == "" {
		for _, own := range q.Focused {
			v, raw, ok := own.Of(q.Property)
			if !ok {
				continue
			}
			like = append(like, raw)
			if (!q.Part || !strings.Contains(v, " ")) && contains(v, nameWords(q.Typed)) {
				items = append(items, d.ofElement(own.Element, v, raw))
			}
		}
		if nameWords(q.Typed) == nil {
			items = append(items, d.distances(q)...)
		}
	}
	tokens := d.tokens(q, like)
	if n := Most - len(items); len(tokens) > n {
		tokens, more = tokens[:max(n, 0)], true
	}
	for _, t := range tokens {
		items = append(items, d.item(t, q.Function == "var"))
	}
	return unique(items), more
}

// ofElement offers the value of an element: as a token where it is one, and as it is.
func (d *Desk) ofElement(e *design.Element, value, raw string) Item {
	it := Item{From: FromElement, Label: value, Insert: value, Detail: "of " + e.Title()}
	if raw != value {
		it.Detail = raw + " of " + e.Title()
	}
	if c, err := color.Parse(raw); err == nil {
		it.Color = &c
	}
	if entry := d.Named(bareVar(value)); entry != nil {
		it.Token = entry.Path
		if raw == value {
			it.Detail = d.shown(d.Library.Base, entry.Token) + " of " + e.Title()
		}
	}
	return it
}

// bareVar is the custom property of a value that is one var(); "" for any other.
func bareVar(value string) string {
	name, ok := strings.CutPrefix(value, "var(")
	name, closed := strings.CutSuffix(name, ")")
	if !ok || !closed || strings.ContainsAny(name, "(), ") {
		return ""
	}
	return name
}

// item offers a token. bare leaves out the var().
func (d *Desk) item(e *Entry, bare bool) Item {
	it := Item{From: FromToken, Label: e.Property, Insert: "var(" + e.Property + ")", Token: e.Path, Color: e.Color,
		Detail: d.Line(e)}
	if bare {
		it.Insert = e.Property
	}
	return it
}

// scored is a token with how well it suits: less is better in each.
type scored struct {
	*Entry
	kind, role int
	far        float64
}

func (a scored) compare(b scored) int {
	return cmp.Or(cmp.Compare(a.kind, b.kind), cmp.Compare(a.far, b.far), cmp.Compare(a.role, b.role), cmp.Compare(b.Uses, a.Uses),
		cmp.Compare(a.order, b.order))
}

// tokens are those that suit a property and what is typed, the best first, and not many more than are shown.
func (d *Desk) tokens(q Query, like []string) []*Entry {
	kinds := KindsFor(q.Property)
	rank := make(map[Kind]int, len(kinds))
	for i, k := range kinds {
		rank[k] = i + 1
	}
	near := nearness(q, like, d.Unit.Root)
	var list []scored
	words := nameWords(q.Typed)
	use := useOf(q.Property)
	var worst *scored // of those that would be shown
	for _, e := range d.Entries() {
		k := rank[e.Kind]
		if k == 0 && (len(kinds) > 0 || len(words) == 0 && q.Function != "var") || !contains(e.Property, words) {
			continue
		}
		s := scored{e, k, 0, near(e)}
		if e.Color != nil && use != "" && e.role != use {
			s.role = 1
		}
		if worst != nil && s.compare(*worst) > 0 {
			continue
		}
		if list = append(list, s); len(list) == 4*Most { // those that would not be shown are left behind
			slices.SortFunc(list, scored.compare)
			list = list[:Most+1]
			worst = &scored{}
			*worst = list[Most]
		}
	}
	slices.SortFunc(list, scored.compare)
	out := make([]*Entry, len(list))
	for i, s := range list {
		out[i] = s.Entry
	}
	return out
}

// nameWords are the parts of a name that is being typed; none for a number or a colour.
func nameWords(typed string) []string {
	typed = strings.TrimPrefix(strings.ToLower(typed), "var(")
	if typed == "" || typed[0] == '#' || typed[0] >= '0' && typed[0] <= '9' || typed[0] == '.' {
		return nil
	}
	return strings.FieldsFunc(typed, func(r rune) bool { return r == '-' || r == '.' || r == '(' || r == '_' })
}

// contains reports whether a name has all words, in any order.
func contains(name string, words []string) bool {
	for _, w := range words {
		if !strings.Contains(strings.ToLower(name), w) && !strings.HasPrefix("var", w) {
			return false
		}
	}
	return true
}

// unique leaves out what would be written twice.
func unique(items []Item) []Item {
	seen := map[string]bool{}
	return slices.DeleteFunc(items, func(it Item) bool {
		was := seen[it.Insert]
		seen[it.Insert] = true
		return was
	})
}
