package text

import (
	"fmt"
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/match"
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

// Happenings are all of them, in the order they are told.
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
	c := &collector{o: o, old: old, byKey: map[string]*Entry{}, byWords: map[string]*Entry{}, oldWords: map[string]*Entry{}, unmeant: map[string]bool{}, order: map[string]int{}}
	for _, f := range finds {
		c.all = append(c.all, f.all...)
		for i, s := range f.screens {
			c.order[f.name+"\x00"+s] = i
		}
	}
	c.matchPlaces(finds)
	for _, f := range c.all {
		if f.skip == "" && f.meaning == "" {
			c.unmeant[f.words] = true
		}
	}
	for _, step := range []func(*found) bool{c.marked, c.stays, c.sameWords, c.otherWords, c.made} {
		for _, f := range c.all {
			if f.skip == "" && f.key == "" {
				step(f)
			}
		}
	}
	return c.result(), nil
}

type collector struct {
	o        Options
	old      *Catalogue
	all      []*found
	byKey    map[string]*Entry
	byWords  map[string]*Entry // those found now
	oldWords map[string]*Entry
	unmeant  map[string]bool // words that a text without a meaning has
	order    map[string]int  // of screens in their source
}

func (c *Finds) read(d *design.Document, o Options) {
	for _, s := range d.Screens {
		c.screens = append(c.screens, s.Name)
		if o.leaves(d.Name, s.Name) {
			continue
		}
		var y *yard
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
					y = newYard(s)
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
						f.place.Inline = append(f.place.Inline, InlineFont{i.Name, Font{Family: i.Run.Family, Size: cents(i.Run.Size), Weight: i.Run.Weight, Italic: i.Run.Italic, Spacing: f.place.Font.Spacing}})
					}
				}
			}
			if e.Kind == design.Image || e.Node != nil && (e.Shape == "foreignObject" || e.Node.AttrOr("role", "") == "img") {
				for _, a := range attributes(e) {
					f := &found{words: Escape(a.words), said: a.words, skip: untranslatable(a.words)}
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
	f := &Font{Family: w.Family.Value, Size: cents(w.Size.Value), Weight: w.Weight.Value, Italic: w.Italic.Value, Spacing: cents(w.Spacing.Value), Case: w.Case.Value}
	if len(w.Lines) > 1 {
		f.Line = cents(w.LineHeight.Value)
	}
	return f
}

// add notes where a text stands and what marks say of it.
func (c *Finds) add(d *design.Document, e *design.Element, f *found) {
	f.place = Place{Source: d.Name, Screen: e.Screen.Name, Element: e.Path, Selector: e.Selector(), ID: e.ID, Component: e.Component(), Box: e.Geometry.Value}
	f.event = Event{Words: f.said, Source: d.Name, Place: e.Screen.Name + ": " + e.Path}
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

// matchPlaces says for every text whose place it was in the catalogue. Places are compared source by source; then,
// for what is left, over all: a drawing may have been renamed.
func (c *collector) matchPlaces(finds []*Finds) {
	type side struct {
		ids []match.Identity
		at  []int
	}
	type oldPlace struct {
		e *Entry
		p Place
	}
	var olds []oldPlace
	before, now := map[string]*side{}, map[string]*side{}
	put := func(m map[string]*side, source string, id match.Identity, at int) {
		if m[source] == nil {
			m[source] = &side{}
		}
		m[source].ids, m[source].at = append(m[source].ids, id), append(m[source].at, at)
	}
	identity := func(p Place, words, mark string) match.Identity {
		path := p.Element
		if p.Attribute != "" {
			path += "@" + p.Attribute
			p.ID = ""
		}
		return match.Identity{Screen: p.Screen, ID: p.ID, Path: path, Mark: mark, Words: words, Box: p.Box}
	}
	for _, e := range c.old.Entries {
		said := e.Said
		for _, p := range e.Places {
			if said == "" {
				said = e.Sample(c.o.Locale)
			}
			if !c.o.leaves(p.Source, p.Screen) {
				put(before, p.Source, identity(p, said, ""), len(olds))
				olds = append(olds, oldPlace{e, p})
			}
		}
		if k := wordsKey(e.Words, e.Meaning, ""); !e.Apart && len(e.Places) == 0 && c.oldWords[k] == nil {
			c.oldWords[k] = e
		}
		if e.Apart {
			continue
		}
		for _, p := range e.Places {
			if k := wordsKey(e.Words, e.Meaning, c.apart(p)); c.oldWords[k] == nil {
				c.oldWords[k] = e
			}
		}
	}
	for i, f := range c.all {
		if f.skip == "" {
			put(now, f.place.Source, identity(f.place, f.said, ""), i)
		}
	}
	take := func(a, b *side) (restA, restB side) {
		gone, came := make([]bool, len(a.at)), make([]bool, len(b.at))
		for _, pair := range match.Match(a.ids, b.ids) {
			f := c.all[b.at[pair.New]]
			f.old, f.oldWhy = olds[a.at[pair.Old]].e, string(pair.Why)
			gone[pair.Old], came[pair.New] = true, true
		}
		for i := range a.at {
			if !gone[i] {
				restA.ids, restA.at = append(restA.ids, a.ids[i]), append(restA.at, a.at[i])
			}
		}
		for i := range b.at {
			if !came[i] {
				restB.ids, restB.at = append(restB.ids, b.ids[i]), append(restB.at, b.at[i])
			}
		}
		return restA, restB
	}
	var leftOld, leftNew side
	seen := map[string]bool{}
	for _, d := range finds {
		seen[d.name] = true
		a, b := before[d.name], now[d.name]
		if a == nil {
			a = &side{}
		}
		if b == nil {
			b = &side{}
		}
		ra, rb := take(a, b)
		leftOld.ids, leftOld.at = append(leftOld.ids, ra.ids...), append(leftOld.at, ra.at...)
		leftNew.ids, leftNew.at = append(leftNew.ids, rb.ids...), append(leftNew.at, rb.at...)
	}
	for _, p := range olds { // of drawings that are no more
		if !seen[p.p.Source] {
			a := before[p.p.Source]
			leftOld.ids, leftOld.at = append(leftOld.ids, a.ids...), append(leftOld.at, a.at...)
			seen[p.p.Source] = true
		}
	}
	if len(leftOld.at) > 0 && len(leftNew.at) > 0 {
		a, b := take(&leftOld, &leftNew)
		for _, s := range []*side{&a, &b} { // last of all, by the name path on whatever screen: a screen may have been renamed
			for i := range s.ids {
				s.ids[i].Screen = ""
			}
		}
		take(&a, &b)
	}
}

// wordsKey is what texts that fold into one key have in common.
func wordsKey(words, meaning, apart string) string { return words + "\x00" + meaning + "\x00" + apart }

// apart is what keeps a place apart from others with the same words, as the options say.
func (c *collector) apart(p Place) string {
	var b strings.Builder
	for _, by := range c.o.Apart {
		b.WriteByte('\x00')
		switch by {
		case "component":
			b.WriteString(p.Component)
		case "screen":
			b.WriteString(p.Screen)
		case "room":
			if p.Room != nil {
				fmt.Fprintf(&b, "%.0f×%d", p.Room.Width, p.Room.Lines)
			}
		}
	}
	return b.String()
}

// marked gives texts the keys of their marks.
func (c *collector) marked(f *found) bool {
	if f.mark == "" {
		return false
	}
	words := f.words
	if f.message != "" {
		words = f.message
	}
	if e := c.byKey[f.mark]; e != nil && e.Words != words {
		f.skip = "its mark gives the key " + f.mark + ", which has other words: “" + e.Words + "”"
		f.event.Key = f.mark
		return true
	}
	what := New
	if o := c.old.Get(f.mark); o != nil && o.Key == f.mark {
		what = ByKey
		if o.Words != words && !c.says(o, f) {
			what = Changed
		}
	}
	e := c.put(f, f.mark, what)
	e.Marked = true
	return true
}

// says reports whether an entry's message, given by hand with arguments, says the words of a text.
func (c *collector) says(e *Entry, f *found) bool {
	if e.Said == "" || f.message != "" {
		return false
	}
	if e.Said == f.said {
		return true
	}
	m, err := Parse(e.Words)
	if err != nil {
		return false
	}
	_, ok := m.Values(c.o.Locale, f.said)
	return ok
}

// stays keeps the key of a text that stands where it stood with the words it had.
func (c *collector) stays(f *found) bool {
	o := f.old
	if o == nil || f.meaning != "" && o.Meaning != f.meaning && !c.gains(o, f) || f.message != "" && o.Words != f.message {
		return false
	}
	if o.Words != f.words && o.Words != f.message && !c.says(o, f) {
		return false
	}
	if e := c.byKey[o.Key]; e != nil && e.Words != o.Words { // a mark took the key for other words
		return false
	}
	c.put(f, o.Key, ByKey)
	return true
}

// gains says whether an entry that had no meaning may take that of a text: a mark was added to all texts with its words.
func (c *collector) gains(o *Entry, f *found) bool {
	if f.meaning == "" || o.Meaning != "" || c.unmeant[f.words] {
		return false
	}
	e := c.byKey[o.Key]
	return e == nil || e.Meaning == f.meaning
}

// sameWords gives a text the key that has its words: of a text found now, or of the catalogue.
func (c *collector) sameWords(f *found) bool {
	words := f.words
	if f.message != "" {
		words = f.message
	}
	k := wordsKey(words, f.meaning, c.apart(f.place))
	if e := c.byWords[k]; e != nil {
		c.put(f, e.Key, Folded)
		return true
	}
	o := c.oldWords[k]
	if p := c.oldWords[wordsKey(words, "", c.apart(f.place))]; o == nil && p != nil && c.gains(p, f) {
		o = p
	}
	if p := c.oldWords[wordsKey(words, "", "")]; o == nil && p != nil && c.gains(p, f) {
		o = p
	}
	if o == nil && f.old == nil { // one whose text had left the drawings
		o = c.oldWords[wordsKey(words, f.meaning, "")]
	}
	if o == nil || c.byKey[o.Key] != nil && c.byKey[o.Key].Words != words || o.Words != words {
		return false
	}
	c.put(f, o.Key, ByWords)
	return true
}

// otherWords keeps the key of a text that stands where it stood with other words, unless the old words still stand
// elsewhere.
func (c *collector) otherWords(f *found) bool {
	o := f.old
	if o == nil || o.Marked && f.mark == "" && c.byKey[o.Key] != nil {
		return false
	}
	if o.Words == f.words && f.meaning != "" && o.Meaning != f.meaning && !c.gains(o, f) {
		return false // the words are the same, what they mean is not
	}
	if e := c.byKey[o.Key]; e != nil {
		if e.Words == f.words {
			c.put(f, o.Key, Folded)
			return true
		}
		return false
	}
	f.event.Was = o.Words
	c.put(f, o.Key, Changed)
	return true
}

// made gives a text a new key.
func (c *collector) made(f *found) bool {
	words := f.words
	if f.message != "" {
		words = f.message
	}
	if e := c.byWords[wordsKey(words, f.meaning, c.apart(f.place))]; e != nil {
		c.put(f, e.Key, Folded)
		return true
	}
	if c.o.Pattern == NoKeys {
		f.skip = "no key is given"
		return true
	}
	values := map[string]string{"screen": f.place.Screen, "component": f.place.Component, "name": f.name, "words": f.said, "n": fmt.Sprint(len(c.byKey) + 1)}
	taken := func(k string) bool { // a key that has only translations waits for its words
		o := c.old.Get(k)
		return c.byKey[k] != nil || o != nil && (o.Key != k || o.Words != "")
	}
	key := free(makeKey(c.o.Pattern, c.o.Case, values), c.o.Case, taken)
	c.put(f, key, New)
	return true
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
