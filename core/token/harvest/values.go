package harvest

import (
	"fmt"

	"archetyp/core/design"
	"archetyp/core/packed"
	"archetyp/core/token"
)

// Values are the values of one document, each with its uses there.
type Values struct {
	source  string
	screens []screenWidth
	found   []*Found
	keys    []string // of found: what one value is known by in every document
}

type screenWidth struct {
	Name  string
	Width float64 // px
}

// foundKey is what a value of a kind is known by.
func foundKey(kind, text string) string { return kind + " " + text }

// Find finds the values of a document.
func Find(d *design.Document) *Values {
	c := &collector{Values: &Values{source: d.Name}, byKey: map[string]*Found{}, index: map[*design.Element]int{},
		sites: map[*design.Element]*Site{}}
	for i, e := range d.All() {
		c.index[e] = i
	}
	for _, s := range d.Screens {
		c.screens = append(c.screens, screenWidth{s.Name, s.Box.W})
		c.screen, c.icon = s.Name, icon(s)
		for _, e := range s.Elements {
			if !e.Hidden && e.Ancestor(func(x *design.Element) bool { return x.Casts }) == nil {
				c.element(e)
			}
		}
		if !c.icon {
			c.spacing(s)
		}
	}
	return c.Values
}

type collector struct {
	*Values
	byKey  map[string]*Found
	index  map[*design.Element]int
	sites  map[*design.Element]*Site
	screen string // the one in hand
	icon   bool   // it is a picture as a whole
}

func (c *collector) add(f *Found, text string, u Use) {
	key := foundKey(f.Kind, text)
	old := c.byKey[key]
	if old == nil {
		c.byKey[key] = f
		c.found, c.keys = append(c.found, f), append(c.keys, key)
		old = f
	}
	old.Uses = append(old.Uses, u)
}

func (c *collector) use(e *design.Element, prop string, weight float64) Use {
	s := c.sites[e]
	if s == nil {
		index, ok := c.index[e]
		if !ok {
			index = -1
		}
		s = &Site{Source: c.source, Screen: c.screen, Element: e.Path, Selector: e.Selector(), Line: e.Position.Line,
			Index: index, At: e}
		if e.Words != nil && len(e.Words.Lines) > 0 {
			s.Words = e.Words.Lines[0].Words
		}
		c.sites[e] = s
	}
	return Use{Site: s, Property: prop, weight: weight}
}

// alone is a copy of a value without its uses.
func (f *Found) alone() *Found {
	c := *f
	c.Uses = nil
	if f.face != nil {
		face := *f.face
		c.face = &face
	}
	return &c
}

// MarshalBinary writes the values for this program to read back: the elements once, and in each value its uses by
// number.
func (v *Values) MarshalBinary() ([]byte, error) {
	var w packed.Writer
	w.String(v.source)
	w.Int(len(v.screens))
	for _, s := range v.screens {
		w.String(s.Name)
		w.Float(s.Width)
	}
	number := map[*Site]int{}
	var sites []*Site
	for _, f := range v.found {
		for i := range f.Uses {
			if _, known := number[f.Uses[i].Site]; !known {
				number[f.Uses[i].Site] = len(sites)
				sites = append(sites, f.Uses[i].Site)
			}
		}
	}
	w.Int(len(sites))
	for _, s := range sites {
		for _, word := range []string{s.Screen, s.Element, s.Selector, s.Words} {
			w.String(word)
		}
		w.Int(s.Line)
		w.Int(s.Index)
	}
	w.Int(len(v.found))
	for i, f := range v.found {
		w.String(v.keys[i])
		writeFound(&w, f, number)
	}
	return w.Bytes(), nil
}

func writeFound(w *packed.Writer, f *Found, number map[*Site]int) {
	for _, s := range []string{f.Kind, string(f.Type), f.Text, f.Ending} {
		w.String(s)
	}
	writeValue(w, &f.Value)
	w.Bool(f.Angle != nil)
	if f.Angle != nil {
		w.Float(*f.Angle)
	}
	w.Float(f.size)
	w.Bool(f.face != nil)
	if t := f.face; t != nil {
		w.String(t.family)
		for _, n := range []float64{t.size, t.spacing, t.line, t.normal} {
			w.Float(n)
		}
		w.Int(t.weight)
		w.Bool(t.missing)
	}
	w.Int(len(f.Uses))
	for i := range f.Uses {
		u := &f.Uses[i]
		w.Int(number[u.Site])
		w.String(u.Property)
		w.Float(u.weight)
	}
}

// UnmarshalBinary reads back what MarshalBinary wrote. The uses then know nothing of elements but where they are.
func (v *Values) UnmarshalBinary(data []byte) error {
	r := packed.NewReader(data)
	*v = Values{source: r.String(), screens: make([]screenWidth, r.Len())}
	for i := range v.screens {
		v.screens[i] = screenWidth{r.String(), r.Float()}
	}
	sites := make([]Site, r.Len())
	for i := range sites {
		sites[i] = Site{Source: v.source, Screen: r.String(), Element: r.String(), Selector: r.String(), Words: r.String(),
			Line: r.Int(), Index: r.Int()}
	}
	for range r.Len() {
		v.keys = append(v.keys, r.String())
		f, err := readFound(r, sites)
		if err != nil {
			return err
		}
		v.found = append(v.found, f)
	}
	return r.Err()
}

func readFound(r *packed.Reader, sites []Site) (*Found, error) {
	f := &Found{Kind: r.String(), Type: token.Type(r.String()), Text: r.String(), Ending: r.String(),
		Value: readValue(r, deepest)}
	if r.Bool() {
		angle := r.Float()
		f.Angle = &angle
	}
	f.size = r.Float()
	if r.Bool() {
		f.face = &typeFace{family: r.String(), size: r.Float(), spacing: r.Float(), line: r.Float(), normal: r.Float(),
			weight: r.Int(), missing: r.Bool()}
	}
	if ((f.Kind == "type") != (f.face != nil) || f.Kind == "color" && f.Value.Color == nil) && r.Err() == nil {
		return nil, fmt.Errorf("a value of the kind %s with the parts of another", f.Kind)
	}
	f.Uses = make([]Use, r.Len())
	for i := range f.Uses {
		at := r.Int()
		if at < 0 || at >= len(sites) {
			return nil, fmt.Errorf("no element %d", at)
		}
		f.Uses[i] = Use{Site: &sites[at], Property: r.String(), weight: r.Float()}
	}
	return f, r.Err()
}
