package token

import (
	"encoding/json"
	"fmt"

	"archetyp/core/design"
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
	c := &collector{Values: &Values{source: d.Name}, byKey: map[string]*Found{}, index: map[*design.Element]int{}}
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
	index, ok := c.index[e]
	if !ok {
		index = -1
	}
	return Use{Source: c.source, Screen: c.screen, Element: e.Path, Selector: e.Selector(), Property: prop, Line: e.Position.Line, weight: weight, Index: index, At: e}
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

// The form in which values are kept: the elements once, and in each value the uses by number.
type (
	keptValues struct {
		Source   string
		Screens  []screenWidth
		Elements []keptElement
		Found    []keptFound
	}
	keptElement struct {
		Index                     int
		Screen, Element, Selector string
		Line                      int
	}
	keptFound struct {
		Key, Kind string
		Type      Type
		Value     Value
		Text      string
		Angle     *float64  `json:",omitempty"`
		Ending    string    `json:",omitempty"`
		Size      float64   `json:",omitempty"`
		Face      *keptFace `json:",omitempty"`
		Uses      []keptUse
	}
	keptFace struct {
		Family                      string
		Size, Spacing, Line, Normal float64
		Weight                      int
		Missing                     bool
	}
	keptUse struct {
		At       int     `json:"a"`
		Property string  `json:"p"`
		Weight   float64 `json:"w"`
		Words    string  `json:"s,omitempty"`
	}
)

// MarshalJSON writes the values for this program to read back.
func (v *Values) MarshalJSON() ([]byte, error) {
	k := keptValues{Source: v.source, Screens: v.screens}
	number := map[keptElement]int{}
	for i, f := range v.found {
		kf := keptFound{Key: v.keys[i], Kind: f.Kind, Type: f.Type, Value: f.Value, Text: f.Text, Angle: f.Angle, Ending: f.Ending, Size: f.size}
		if t := f.face; t != nil {
			kf.Face = &keptFace{t.family, t.size, t.spacing, t.line, t.normal, t.weight, t.missing}
		}
		for _, u := range f.Uses {
			e := keptElement{u.Index, u.Screen, u.Element, u.Selector, u.Line}
			at, ok := number[e]
			if !ok {
				at = len(k.Elements)
				number[e] = at
				k.Elements = append(k.Elements, e)
			}
			kf.Uses = append(kf.Uses, keptUse{at, u.Property, u.weight, u.Words})
		}
		k.Found = append(k.Found, kf)
	}
	return json.Marshal(k)
}

// UnmarshalJSON reads back what MarshalJSON wrote. The uses then know nothing of elements but where they are.
func (v *Values) UnmarshalJSON(data []byte) error {
	var k keptValues
	if err := json.Unmarshal(data, &k); err != nil {
		return err
	}
	*v = Values{source: k.Source, screens: k.Screens}
	for i := range k.Found {
		kf := &k.Found[i]
		f := &Found{Kind: kf.Kind, Type: kf.Type, Value: kf.Value, Text: kf.Text, Angle: kf.Angle, Ending: kf.Ending, size: kf.Size, Uses: make([]Use, len(kf.Uses))}
		if t := kf.Face; t != nil {
			f.face = &typeFace{family: t.Family, size: t.Size, weight: t.Weight, spacing: t.Spacing, line: t.Line, normal: t.Normal, missing: t.Missing}
		}
		if (f.Kind == "type") != (f.face != nil) {
			return fmt.Errorf("a value of the kind %s with the parts of another", f.Kind)
		}
		for j, u := range kf.Uses {
			if u.At < 0 || u.At >= len(k.Elements) {
				return fmt.Errorf("no element %d", u.At)
			}
			e := &k.Elements[u.At]
			f.Uses[j] = Use{Source: k.Source, Screen: e.Screen, Element: e.Element, Selector: e.Selector, Property: u.Property, Line: e.Line, Words: u.Words, weight: u.Weight, Index: e.Index}
		}
		v.found, v.keys = append(v.found, f), append(v.keys, kf.Key)
	}
	return nil
}
