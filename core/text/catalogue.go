// Package text is the catalogue: the words of designs by key and locale. Documents and an earlier catalogue go in,
// keys with their words, places and room come out (collect.go); translations are set, checked, filled from a memory
// and merged with what comes back. How the catalogue travels is core/text/exchange; whether it fits is core/text/fit.
package text

import (
	"slices"
	"sort"
	"strings"
	"unicode/utf8"

	"archetyp/core/geom"
	"archetyp/core/text/message"
)

// State is how far a translation is, in the words of XLIFF 2.1, and Outdated where the source words changed since.
// https://docs.oasis-open.org/xliff/xliff-core/v2.1/xliff-core-v2.1.html#state
type State string

// The states.
const (
	Initial    State = "initial"
	Translated State = "translated"
	Reviewed   State = "reviewed"
	Final      State = "final"
	Outdated   State = "outdated"
)

// States are all of them, from nothing to done.
var States = []State{Initial, Outdated, Translated, Reviewed, Final}

// Catalogue is the texts of a workspace, sorted by key.
type Catalogue struct {
	Locale  string   // of the source words
	Locales []string // that are translated to, sorted
	Entries []*Entry

	StatesChanged bool // an import changed more than words
	Placeless     bool // it was read without the places of its keys, and cannot be written as a whole

	byKey map[string]*Entry
}

// Entry is one key of the catalogue.
type Entry struct {
	Key      string
	Words    string   // the message in the source language
	Said     string   // the words in the design, where the message is another: "3 of 12" for "{n} of {all}"
	Places   []Place  // where it stands, in the order of the documents
	Unused   bool     // no drawing has it any more
	Marked   bool     // the key was given by a mark
	Given    bool     // the key was given by hand
	Apart    bool     // kept apart by hand: other texts with these words do not fold into it
	Formerly []string // other keys it had, or that were joined with it
	Meaning  string   // what is meant, where the words alone do not say
	Note     string   // for translators
	Tags     []string // sorted
	In       map[string]*Translation
	Or       string // the words that somebody else gave at the same time; one is to be chosen
}

// Translation is an entry in one locale.
type Translation struct {
	Words string // a message; "" for none yet
	State State  // Initial or Translated … Final; Of says what is outdated
	Of    string // the source message it was made from, where that is another by now
	Or    string // the words that somebody else gave at the same time; one is to be chosen
	Score int    // 1–100: it came from a memory, this well matched; 0 for not
}

// Place is where a text stands.
type Place struct {
	Source    string    `json:"source"`
	Screen    string    `json:"screen"`
	Element   string    `json:"element"` // name path
	Selector  string    `json:"selector"`
	Attribute string    `json:"attribute,omitzero"` // where the words are not drawn but stand in an attribute
	ID        string    `json:"id,omitzero"`
	Component string    `json:"component,omitzero"`
	Said      string    `json:"said,omitzero"` // its words, where they are others than the entry's sample
	Box       geom.Rect `json:"-"`
	Font      *Font     `json:"font,omitempty"`
	Room      *Room     `json:"room,omitempty"`

	More   []string     `json:"more,omitempty"`   // name paths of further lines, where each is a text of its own
	Inline []InlineFont `json:"inline,omitempty"` // how inline elements are set
}

// InlineFont is how the words of an inline element are set.
type InlineFont struct {
	Name string `json:"name"`
	Font
}

// Font is how a text is set. Lengths in px.
type Font struct {
	Family  string  `json:"family"`
	Size    float64 `json:"size"`
	Weight  int     `json:"weight"`
	Italic  bool    `json:"italic,omitzero"`
	Spacing float64 `json:"spacing,omitzero"` // letter spacing
	Case    string  `json:"case,omitzero"`    // text-transform
	Line    float64 `json:"line,omitzero"`    // distance of the baselines, where there are several
}

// Get is the entry of a key, also by a key it had before; nil for none.
func (c *Catalogue) Get(key string) *Entry {
	if c.byKey == nil {
		c.index()
	}
	return c.byKey[key]
}

// index makes the keys findable, and the order right.
func (c *Catalogue) index() {
	sort.Slice(c.Entries, func(i, j int) bool { return c.Entries[i].Key < c.Entries[j].Key })
	c.byKey = make(map[string]*Entry, len(c.Entries))
	for _, e := range c.Entries {
		for _, f := range e.Formerly {
			c.byKey[f] = e
		}
	}
	for _, e := range c.Entries { // a key there is wins over one there was
		c.byKey[e.Key] = e
	}
}

// Used are the entries that stand in a design.
func (c *Catalogue) Used() []*Entry {
	var out []*Entry
	for _, e := range c.Entries {
		if !e.Unused {
			out = append(out, e)
		}
	}
	return out
}

// Clone is a copy that can be changed.
func (c *Catalogue) Clone() *Catalogue {
	out := &Catalogue{Locale: c.Locale, Locales: append([]string(nil), c.Locales...),
		Entries: make([]*Entry, len(c.Entries))}
	for i, e := range c.Entries {
		out.Entries[i] = e.clone()
	}
	return out
}

func (e *Entry) clone() *Entry {
	n := *e
	n.Places = append([]Place(nil), e.Places...)
	n.Formerly, n.Tags = append([]string(nil), e.Formerly...), append([]string(nil), e.Tags...)
	n.In = make(map[string]*Translation, len(e.In))
	for l, t := range e.In {
		one := *t
		n.In[l] = &one
	}
	return &n
}

// Of is the entry's message in a locale, and its state; for the source language, the source words.
func (c *Catalogue) Of(e *Entry, locale string) (words string, state State) {
	if locale == "" || locale == c.Locale {
		return e.Words, Final
	}
	if Pseudo(locale) && e.In[locale] == nil {
		return Made(e.Words, locale), Translated
	}
	t := e.In[locale]
	if t == nil || t.Words == "" {
		return "", Initial
	}
	return t.Words, t.Now()
}

// Now is the state of a translation, Outdated where the source words changed since it was made.
func (t *Translation) Now() State {
	switch {
	case t == nil || t.Words == "":
		return Initial
	case t.Of != "":
		return Outdated
	case t.State == "":
		return Translated
	}
	return t.State
}

// in is the translation of an entry, made where there is none.
func (e *Entry) in(locale string) *Translation {
	if e.In == nil {
		e.In = map[string]*Translation{}
	}
	if e.In[locale] == nil {
		e.In[locale] = &Translation{}
	}
	return e.In[locale]
}

// say gives the entry other source words; its translations remember of which they are.
func (e *Entry) say(words string) {
	if e.Words == words {
		return
	}
	for _, t := range e.In {
		switch {
		case t.Words == "":
		case t.Of == "":
			t.Of = e.Words
		case t.Of == words: // back to what was translated
			t.Of = ""
		}
	}
	e.Words, e.Or = words, ""
}

// Sample are the words that the design has for the entry.
func (e *Entry) Sample(locale string) string {
	if e.Said != "" {
		return e.Said
	}
	m, err := message.Parse(e.Words)
	if err != nil {
		return e.Words
	}
	return m.Said(locale, nil)
}

// Values are what the design has for the arguments of the entry's message, in one of its places; nil for the first.
func (e *Entry) Values(locale string, p *Place) map[string]string {
	said := e.Said
	if p != nil && p.Said != "" {
		said = p.Said
	}
	if said == "" {
		return nil
	}
	m, err := message.Parse(e.Words)
	if err != nil {
		return nil
	}
	values, _ := m.Values(locale, said)
	return values
}

// Tight is the place with the least room across; nil where no place says its room.
func (e *Entry) Tight() *Place {
	var best *Place
	for i := range e.Places {
		if p := &e.Places[i]; p.Room != nil &&
			(best == nil || p.Room.Width*float64(p.Room.Lines) < best.Room.Width*float64(best.Room.Lines)) {
			best = p
		}
	}
	return best
}

// Limit is about how many letters the entry has room for in its tightest place, by what its words take now; 0 where
// that is not known.
func (e *Entry) Limit(locale string) int {
	p := e.Tight()
	if p == nil || p.Room.Taken <= 0 {
		return 0
	}
	n := utf8.RuneCountInString(e.Sample(locale))
	return max(n, int(float64(n)*p.Room.Width*float64(p.Room.Lines)/p.Room.Taken))
}

// Screens are the screens an entry stands on, each once.
func (e *Entry) Screens() []string {
	var out []string
	seen := map[string]bool{}
	for _, p := range e.Places {
		if !seen[p.Screen] {
			seen[p.Screen] = true
			out = append(out, p.Screen)
		}
	}
	return out
}

// Filter picks entries. Empty fields pick all.
type Filter struct {
	Screen string
	Tag    string
	Locale string
	States []State // of Locale, or of any locale
	Unused bool    // only those no drawing has; otherwise only those one has
	All    bool    // both
	Key    string  // a key, or its beginning up to a "."
}

// Pick lists the entries a filter means.
func (c *Catalogue) Pick(f Filter) []*Entry {
	var out []*Entry
	for _, e := range c.Entries {
		if c.picked(e, f) {
			out = append(out, e)
		}
	}
	return out
}

func (c *Catalogue) picked(e *Entry, f Filter) bool {
	if !f.All && e.Unused != f.Unused {
		return false
	}
	if f.Key != "" && e.Key != f.Key && !strings.HasPrefix(e.Key, strings.TrimSuffix(f.Key, ".")+".") {
		return false
	}
	if f.Screen != "" && !e.On(f.Screen) {
		return false
	}
	if f.Tag != "" && !slices.Contains(e.Tags, f.Tag) {
		return false
	}
	if len(f.States) == 0 {
		return true
	}
	locales := c.Locales
	if f.Locale != "" {
		locales = []string{f.Locale}
	}
	for _, l := range locales {
		_, now := c.Of(e, l)
		for _, s := range f.States {
			if s == now {
				return true
			}
		}
	}
	return false
}

// On reports whether the entry stands on a screen, by the screen's name in any case of letters.
func (e *Entry) On(screen string) bool {
	for _, p := range e.Places {
		if strings.EqualFold(p.Screen, screen) {
			return true
		}
	}
	return false
}

// AddLocale makes sure a locale is among those translated to.
func (c *Catalogue) AddLocale(locale string) {
	if locale == c.Locale || slices.Contains(c.Locales, locale) {
		return
	}
	c.Locales = append(c.Locales, locale)
	sort.Strings(c.Locales)
}
