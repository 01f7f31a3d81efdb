package text

import (
	"slices"

	"archetyp/core/design"
	"archetyp/core/text/message"
)

// Options of collecting.
type Options struct {
	Locale  string   // of the words in the drawings
	Locales []string // translated to
	Pattern string   // of keys; NoKeys for only those texts that have one
	Case    string   // how words are joined in a key; "" for kebab
	Apart   []string // what keeps the same words apart: component, room, screen
	Hidden  bool     // hidden texts too
	Tags    []string // given to every text that is found

	Screens []string        // the only ones to collect; empty for all
	Unread  map[string]bool // sources that could not be read now
}

// Happening is what became of one text.
type Happening string

// What can happen to a text.
const (
	New     Happening = "new"      // a key was made
	ByKey   Happening = "by key"   // its key was known: by a mark, or by its place
	ByWords Happening = "by words" // a key that exists has the same words
	Folded  Happening = "folded"   // another text found now has the same words
	Changed Happening = "changed"  // the same place has other words
	Gone    Happening = "gone"     // no drawing has it any more
	Skipped Happening = "skipped"
)

// Happenings are all of them, in the order they are listed.
var Happenings = []Happening{New, Changed, ByKey, ByWords, Folded, Gone, Skipped}

// Event is what happened to one text while collecting.
type Event struct {
	What   Happening `json:"what"`
	Key    string    `json:"key,omitempty"`
	Words  string    `json:"words"`
	Was    string    `json:"was,omitempty"`
	Why    string    `json:"why,omitempty"`
	Source string    `json:"source,omitempty"`
	Place  string    `json:"place,omitempty"`
}

// Collection is the result of collecting: the new catalogue, and what happened.
type Collection struct {
	Catalogue *Catalogue
	Events    []Event
}

// Count counts the events of a kind.
func (c *Collection) Count(what Happening) int {
	n := 0
	for _, e := range c.Events {
		if e.What == what {
			n++
		}
	}
	return n
}

// found is one text of a document.
type found struct {
	words   string // as a message
	said    string // as drawn
	message string // given by a mark
	mark    string // the key a mark gives
	meaning string
	skip    string // why it is not collected
	name    string
	place   Place
	old     *Entry // whose place this was
	oldWhy  string
	key     string
	event   Event
}

// Collect gathers the texts of documents into a catalogue. Keys come from marks, else from where the text stood before,
// else from a key that has the same words, else from the pattern. old is the catalogue there was, or nil: what people
// said of its keys stays, and nothing is deleted: a text that left the drawings is marked unused.
func Collect(docs []*design.Document, old *Catalogue, o Options) (*Collection, error) {
	finds := make([]*Finds, len(docs))
	for i, d := range docs {
		finds[i] = Find(d, o)
	}
	return Gather(finds, old, o)
}

// Finds are the texts of one document. They hold nothing of the document itself.
type Finds struct {
	name    string
	all     []*found
	screens []string
}

// Screens are the names of the document's screens.
func (f *Finds) Screens() []string { return f.screens }

// Find finds the texts of a document, drawn and in attributes.
func Find(d *design.Document, o Options) *Finds {
	f := &Finds{name: d.Name}
	f.read(d, o)
	return f
}

// Gather is Collect for texts that were found already.
func Gather(finds []*Finds, old *Catalogue, o Options) (*Collection, error) {
	if err := CheckPattern(o.Pattern); err != nil {
		return nil, err
	}
	if old == nil {
		old = &Catalogue{Locale: o.Locale}
	}
	c := &collector{o: o, old: old, byKey: map[string]*Entry{}, byWords: map[string]*Entry{},
		oldWords: map[string]*Entry{}, unmeant: map[string]bool{}, order: map[screenAt]int{}}
	for _, f := range finds {
		c.all = append(c.all, f.all...)
		for i, s := range f.screens {
			c.order[screenAt{f.name, s}] = i
		}
	}
	c.matchPlaces(finds)
	for _, f := range c.all {
		if f.skip == "" && f.meaning == "" {
			c.unmeant[f.words] = true
		}
	}
	for _, step := range []func(*found) bool{c.marked, c.stays, c.sameWords, c.otherWords, c.awaited, c.made} {
		for _, f := range c.all {
			if f.skip == "" && f.key == "" {
				step(f)
			}
		}
	}
	return c.result(), nil
}

// screenAt names a screen of a source.
type screenAt struct{ source, screen string }

type collector struct {
	o        Options
	old      *Catalogue
	all      []*found
	byKey    map[string]*Entry
	byWords  map[string]*Entry // those found now
	oldWords map[string]*Entry
	unmeant  map[string]bool  // words that a text without a meaning has
	order    map[screenAt]int // of screens in their source
}

func (c *Finds) read(d *design.Document, o Options) {
	for _, s := range d.Screens {
		c.screens = append(c.screens, s.Name)
		if o.leaves(d.Name, s.Name) {
			continue
		}
		var y *surroundings
		texts := bodies(s)
		for _, e := range s.Elements {
			if e.Hidden && !o.Hidden {
				if e.Words != nil && e.Words.Words != "" {
					c.add(d, e, &found{said: e.Words.Words, skip: "hidden"})
				}
				continue
			}
			if b, ok := texts[e]; ok {
				if y == nil {
					y = newSurroundings(s)
				}
				words, inlines := Rich(b.words)
				f := &found{words: words, said: joinLines(b.words), skip: untranslatable(b.words.Words)}
				c.add(d, e, f)
				if f.skip == "" {
					f.place.Box, f.place.Room, f.place.Font = b.box, y.room(b), fontOf(b.words)
					for _, l := range b.more {
						f.place.More = append(f.place.More, l.Path)
					}
					for _, i := range inlines {
						f.place.Inline = append(f.place.Inline, InlineFont{i.Name, Font{Family: i.Run.Family, Size: cents(i.Run.Size),
							Weight: i.Run.Weight, Italic: i.Run.Italic, Spacing: f.place.Font.Spacing}})
					}
				}
			}
			if e.Kind == design.Image || e.Node != nil && (e.Native == design.Embedded || e.Node.HTML || e.Node.AttrOr("role", "") == "img") {
				for _, a := range attributes(e) {
					f := &found{words: message.Escape(a.words), said: a.words, skip: untranslatable(a.words)}
					c.add(d, e, f)
					f.place.Attribute = a.name
					if f.mark != "" {
						f.mark = "" // the mark is for the words that are drawn
					}
				}
			}
		}
	}
}

func fontOf(w *design.TextFacts) *Font {
	f := &Font{Family: w.Family.Value, Size: cents(w.Size.Value), Weight: w.Weight.Value, Italic: w.Italic.Value,
		Spacing: cents(w.Spacing.Value), Case: w.Case.Value}
	if len(w.Lines) > 1 {
		f.Line = cents(w.LineHeight.Value)
	}
	return f
}

// add notes where a text stands and what marks say of it.
func (c *Finds) add(d *design.Document, e *design.Element, f *found) {
	f.place = Place{Source: d.Name, Screen: e.Screen.Name, Element: e.Path, Selector: e.Selector(), ID: e.ID,
		Component: e.Component(), Box: e.Geometry.Value}
	f.event = eventAt(&f.place, f.said)
	f.name = e.Name
	if f.name == "" && e.Parent != nil {
		f.name = e.Parent.NearestName()
	}
	f.meaning = e.Marks.Meaning
	if a := e.Ancestor(func(x *design.Element) bool { return x.Marks.Text != "" }); a != nil {
		switch {
		case a.Marks.Text == "none":
			f.skip = "marked as not to be translated"
		case a == e:
			f.mark = a.Marks.Text
			if f.skip != "hidden" {
				f.skip = "" // who gives a key means it, be it a number
			}
		}
	}
	if msg := e.Marks.Message; msg != "" && f.skip != "hidden" {
		f.message, f.skip = msg, ""
	}
	c.all = append(c.all, f)
}

// put adds a text to the entry of a key.
func (c *collector) put(f *found, key string, what Happening) *Entry {
	f.key, f.event.Key = key, key
	e := c.byKey[key]
	if e == nil {
		if o := c.old.Get(key); o != nil && o.Key == key {
			e = o.clone()
			e.Places, e.Unused, e.Marked = nil, false, false
			if e.Words == "" { // translations came before the words
				if e.Words = f.words; f.message != "" {
					e.Words = f.message
				}
			}
		} else {
			e = &Entry{Key: key, Words: f.words}
		}
		c.byKey[key] = e
		switch {
		case f.message != "":
			e.say(f.message)
			e.Said = f.said
		case what == Changed && e.Said != "": // a message made by hand is not taken back: the check tells
			if f.event.Was == "" {
				f.event.Was = e.Said
			}
			e.Said = f.said
		case e.Said != "":
			e.Said = f.said
		case what == Changed || what == ByKey && e.Words != f.words:
			if f.event.Was == "" {
				f.event.Was = e.Words
			}
			e.say(f.words)
		}
		if f.meaning != "" {
			e.Meaning = f.meaning
		}
	} else if what == ByKey && f.mark == "" && f.old == nil {
		what = Folded
	}
	f.event.What = what
	e.Places = append(e.Places, f.place)
	for _, t := range c.o.Tags {
		e.tag(t)
	}
	if k := wordsKey(e.Words, e.Meaning, c.apart(f.place)); !e.Apart && c.byWords[k] == nil {
		c.byWords[k] = e
	}
	return e
}

// result puts the catalogue together: what was found, then what no drawing has any more.
func (c *collector) result() *Collection {
	out := &Collection{Catalogue: &Catalogue{Locale: c.o.Locale}}
	for _, l := range append(append([]string(nil), c.old.Locales...), c.o.Locales...) {
		out.Catalogue.AddLocale(l)
	}
	for _, f := range c.all {
		if f.skip != "" {
			f.event.What, f.event.Why = Skipped, f.skip
		} else if f.oldWhy != "" && f.event.Why == "" && f.event.What == ByKey {
			f.event.Why = f.oldWhy
		}
		out.Events = append(out.Events, f.event)
	}
	placed := map[*Entry]bool{}
	for _, f := range c.all {
		e := c.byKey[f.key]
		if f.key == "" || e == nil {
			continue
		}
		if !placed[e] {
			placed[e], e.Places = true, nil
			if e.Said != "" {
				e.Said = f.said // of the first place
			}
			out.Catalogue.Entries = append(out.Catalogue.Entries, e)
		}
		if e.Said != "" && f.said != e.Said {
			f.place.Said = f.said
		}
		e.Places = append(e.Places, f.place) // in the order of the drawings, whatever step found them
	}
	for _, o := range c.old.Entries {
		kept := c.left(o.Places)
		if e := c.byKey[o.Key]; e != nil {
			c.keep(e, kept)
			continue
		}
		e := o.clone()
		e.Places, e.Unused = kept, o.Unused || len(kept) == 0
		out.Catalogue.Entries = append(out.Catalogue.Entries, e)
		if !o.Unused && e.Unused {
			out.Events = append(out.Events, Event{What: Gone, Key: o.Key, Words: o.Words})
		}
	}
	out.Catalogue.index()
	return out
}

func (e *Entry) tag(t string) {
	if !slices.Contains(e.Tags, t) {
		e.Tags = append(e.Tags, t)
		slices.Sort(e.Tags)
	}
}
