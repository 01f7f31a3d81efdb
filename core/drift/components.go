package drift

import (
	"math"
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/infer/role"
	"archetyp/core/match"
)

// Sheet is a screen that is no page but a collection of components, in their variants and states, and the pages that may
// show them.
type Sheet struct {
	Screen *design.Screen
	View   View
	Pages  func(state string) ([]*design.Document, error) // with a pseudo-class in force; "" for none
}

// forced are the states that can be forced on a page; others it has to show by itself.
var forced = []string{"hover", "focus", "focus-visible", "active", "disabled"}

// compareSheet holds the components of a sheet against those of the pages.
func compareSheet(in *In, s *Sheet) (held []*drawn, out []seen, pair Pair, err error) {
	pair = Pair{Screen: s.Screen.Name, Design: s.Screen.Document.Name, Views: []View{s.View}, Why: match.ByMark}
	c := &components{in: in, sheet: s, absent: map[string]*seen{}, found: map[string]bool{}, plain: map[string]bool{}}
	var list []*design.Element
	s.Screen.Root.Walk(func(e *design.Element) {
		if e.Marks.Component == "" || e.Hidden {
			return
		}
		for up := e.Parent; up != nil; up = up.Parent {
			if up.Marks.Component != "" {
				return
			}
		}
		list = append(list, e)
	})
	slices.SortStableFunc(list, func(a, b *design.Element) int { return rank(a.Marks.State) - rank(b.Marks.State) })
	for _, e := range list {
		pair.Elements++
		ok, err := c.instance(e)
		if err != nil {
			return nil, nil, pair, err
		}
		if ok {
			pair.Paired++
		}
	}
	pair.Matched = c.matched
	for _, name := range c.missing {
		if !c.found[name] {
			c.out = append(c.out, *c.absent[name])
		}
	}
	return c.held, c.out, pair, nil
}

// rank puts the plain state before others.
func rank(state string) int {
	if state == "" || state == "default" {
		return 0
	}
	return 1
}

// components compares the instances of one sheet.
type components struct {
	in      *In
	sheet   *Sheet
	out     []seen
	absent  map[string]*seen // by component
	missing []string
	found   map[string]bool
	matched []Matched
	held    []*drawn        // one for each instance that was compared
	plain   map[string]bool // differences of the plain state, which every state has, too
}

// instance compares one instance; ok reports whether the pages have its component.
func (c *components) instance(e *design.Element) (ok bool, err error) {
	state := e.Marks.State
	if state == "default" {
		state = ""
	}
	name := e.Marks.Component
	plain, err := c.sheet.Pages("")
	if err != nil {
		return false, err
	}
	shown := c.shownBy(plain, e, state)
	force := ""
	if shown == nil && state != "" && slices.Contains(forced, state) {
		force = state
		pages, err := c.sheet.Pages(state)
		if err != nil {
			return false, err
		}
		shown = c.shownBy(pages, e, "")
	}
	if shown == nil {
		if c.absent[name] == nil {
			d := &drawn{in: c.in, view: c.sheet.View, screen: c.sheet.Screen.Name, page: plain[0]}
			s := seen{kind: Missing, spot: d.spot(nil, "", "", ""), message: "no page shows the component " + name}
			s.spot.Design = drawnRef(e)
			s.cause.Lacking, s.cause.Place = true, d.place(plain[0].Screens[0].Root.Node)
			c.absent[name] = &s
			c.missing = append(c.missing, name)
		}
		return false, nil
	}
	c.found[name] = true
	view := c.sheet.View
	view.State = force
	d := &drawn{in: c.in, view: view, screen: c.sheet.Screen.Name, page: shown.Screen.Document}
	d.part = true
	d.match(e, shown, match.AcrossOptions{Hand: map[*design.Element]*design.Element{e: shown}})
	d.compareInstance(e, force)
	c.held = append(c.held, d)
	if c.in.Reasons {
		c.matched = append(c.matched, d.matched()...)
	}
	for _, s := range d.out {
		key := s.spot.Site.Selector + "\x00" + s.spot.Prop + "\x00" + s.spot.Was + "\x00" + s.spot.Is
		if s.kind == Words || s.kind == Missing || s.kind == Extra { // an instance has sample words
			continue
		}
		if force == "" {
			c.plain[key] = true
		} else if c.plain[key] {
			continue
		}
		c.out = append(c.out, s)
	}
	return true, nil
}

// compareInstance compares an instance of a component. In a state the site may declare nothing: then the rule that gives
// the plain value lacks its state.
func (d *drawn) compareInstance(e *design.Element, state string) {
	d.compare()
	if state == "" {
		return
	}
	for i := range d.out {
		s := &d.out[i]
		if s.cause.Selector != "" && !stated(s.cause.Selector, state) && !s.cause.Lacking {
			s.cause = Cause{Lacking: true, Selector: s.cause.Selector + ":" + state, Within: s.cause.Within, Property: s.property, Place: s.cause.Place}
		}
	}
}

// shownBy is the first element of the pages that is the component in the variant and state of an instance; nil for none.
func (c *components) shownBy(pages []*design.Document, e *design.Element, state string) *design.Element {
	var best *design.Element
	score := math.MinInt
	other := c.variants(e)
	for _, p := range pages {
		for _, k := range p.All() {
			if k.Hidden || k.Node == nil || !is(k, e.Marks.Component) || stateOf(k) != state {
				continue
			}
			s, fits := fit(k, e, other)
			if fits && s > score {
				best, score = k, s
			}
		}
	}
	return best
}

// is reports whether an element of a page is a component: by its mark, its class, or its element's own name.
func is(k *design.Element, component string) bool {
	if k.Marks.Component != "" {
		return k.Marks.Component == component
	}
	return match.HasClass(k, component) || component == string(role.Button) && k.Node.Local == "button"
}

// stateOf is the state that an element of a page says it is in.
func stateOf(k *design.Element) string {
	if s := k.Marks.State; s != "" && s != "default" {
		return s
	}
	for attr, state := range map[string]string{"aria-disabled": "disabled", "aria-invalid": "invalid", "disabled": "disabled"} {
		if v, ok := k.Node.Attr(attr); ok && v != "false" {
			return state
		}
	}
	if v, ok := k.Node.Attr("aria-selected"); ok && v == "true" {
		return "selected"
	}
	return ""
}

// variants are the values that any instance of the component on the sheet has.
func (c *components) variants(e *design.Element) (out []string) {
	c.sheet.Screen.Root.Walk(func(k *design.Element) {
		if k.Marks.Component == e.Marks.Component {
			for _, v := range values(k) {
				if !slices.Contains(out, v) {
					out = append(out, v)
				}
			}
		}
	})
	return out
}

// values are those of the variant of an instance: quiet of tone=quiet.
func values(e *design.Element) (out []string) {
	for _, f := range strings.Fields(e.Marks.Variant) {
		_, v, ok := strings.Cut(f, "=")
		if !ok {
			v = f
		}
		out = append(out, v)
	}
	return out
}

// fit says how well an element of a page shows the variant of an instance: by its mark or by classes that end in the
// value.
func fit(k, e *design.Element, all []string) (score int, ok bool) {
	own := values(e)
	if k.Marks.Variant != "" {
		return 10, slices.Equal(values(k), own)
	}
	classes := strings.Fields(strings.ToLower(k.Node.AttrOr("class", "")))
	says := func(v string) bool {
		return slices.ContainsFunc(classes, func(c string) bool { return c == v || strings.HasSuffix(c, "-"+v) || strings.HasSuffix(c, "_"+v) })
	}
	for _, v := range all {
		if says(v) && !slices.Contains(own, v) {
			return 0, false
		}
	}
	for _, v := range own {
		if says(v) {
			score += 2
		} else if !plainVariants[v] && (len(all) > 1 || modified(classes, e.Marks.Component)) {
			return 0, false
		}
	}
	for _, c := range classes { // one that is modified further is less what the sheet shows
		if strings.HasPrefix(c, strings.ToLower(e.Marks.Component)+"-") && !slices.ContainsFunc(own, func(v string) bool { return strings.HasSuffix(c, "-"+v) }) {
			score -= 2
		}
	}
	if wordsIn(k) != "" && strings.EqualFold(wordsIn(k), wordsIn(e)) {
		score++
	}
	return score, true
}

// plainVariants are values that code mostly leaves without a class of their own.
var plainVariants = map[string]bool{"main": true, "default": true, "primary": true, "medium": true, "normal": true, "base": true}

// modified reports whether one of the classes is the component's name and something behind a hyphen.
func modified(classes []string, component string) bool {
	return slices.ContainsFunc(classes, func(c string) bool { return strings.HasPrefix(c, strings.ToLower(component)+"-") })
}

func wordsIn(e *design.Element) string {
	out := ""
	e.Walk(func(k *design.Element) {
		if out == "" && k.Words != nil {
			out = strings.Join(strings.Fields(k.Words.Words), " ")
		}
	})
	return out
}
