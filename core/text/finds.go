package text

import (
	"encoding/json"

	"archetyp/core/geom"
)

// The form in which the texts found in a document are kept.
type (
	keptFinds struct {
		Name    string
		Screens []string
		Texts   []keptText
	}
	keptText struct {
		Place Place
		Box   geom.Rect
		Words string
		Drawn string `json:",omitempty"` // where it differs from the words

		Message string `json:",omitempty"`
		Mark    string `json:",omitempty"`
		Meaning string `json:",omitempty"`
		Skip    string `json:",omitempty"`
		Name    string `json:",omitempty"`
	}
)

// MarshalJSON writes what was found for this program to read back.
func (f *Finds) MarshalJSON() ([]byte, error) {
	k := keptFinds{Name: f.name, Screens: f.screens, Texts: make([]keptText, len(f.all))}
	for i, t := range f.all {
		k.Texts[i] = keptText{Place: t.place, Box: t.place.Box, Words: t.words, Message: t.message, Mark: t.mark, Meaning: t.meaning, Skip: t.skip, Name: t.name}
		if t.said != t.words {
			k.Texts[i].Drawn = t.said
		}
	}
	return json.Marshal(k)
}

// UnmarshalJSON reads back what MarshalJSON wrote.
func (f *Finds) UnmarshalJSON(data []byte) error {
	var k keptFinds
	if err := json.Unmarshal(data, &k); err != nil {
		return err
	}
	*f = Finds{name: k.Name, screens: k.Screens, all: make([]*found, len(k.Texts))}
	for i := range k.Texts {
		t := &k.Texts[i]
		said := t.Drawn
		if said == "" {
			said = t.Words
		}
		t.Place.Box = t.Box
		f.all[i] = &found{words: t.Words, said: said, message: t.Message, mark: t.Mark, meaning: t.Meaning, skip: t.Skip, name: t.Name, place: t.Place, event: eventAt(&t.Place, said)}
	}
	return nil
}

// eventAt is what happens to a text, as far as it is known when it is found.
func eventAt(p *Place, said string) Event {
	return Event{Words: said, Source: p.Source, Place: p.Screen + ": " + p.Element}
}
