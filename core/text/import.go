package text

import (
	"slices"
	"sort"
	"strings"

	"archetyp/core/text/message"
)

// Unit is one message on its way between the catalogue and a file: what exchange formats read and write.
type Unit struct {
	Key    string
	Source string // message in the source language; "" where the format has none
	Target string // message in the target language; "" for none
	State  State  // of the target; "" where the format does not say
	Of     string // the source message the target was made from, where that is another
	Note   string // for translators
	Given  string // meaning, where the words alone do not say
	Places []Place
	Room   *Room // the tightest
	Limit  int   // letters that fit, about; 0 for unknown
	Tags   []string
	Words  map[string]string // what the design has for the arguments
	Base   *string           // the target when it was exported; nil where the file does not say

	Line, Column int // where it stands in the file it was read from
}

// Units are the entries a filter picks, with their messages in a locale ("" for the source language alone).
func (c *Catalogue) Units(f Filter, locale string) []Unit {
	picked := c.Pick(f)
	out := make([]Unit, 0, len(picked))
	for _, e := range picked {
		u := Unit{Key: e.Key, Source: e.Words, Note: e.Note, Given: e.Meaning, Places: e.Places, Tags: e.Tags,
			Limit: e.Limit(c.Locale), Words: e.Values(c.Locale, nil)}
		if p := e.Tight(); p != nil {
			u.Room = p.Room
		}
		if locale != "" && locale != c.Locale {
			u.Target, u.State = c.Of(e, locale)
			if t := e.In[locale]; t != nil {
				u.Of = t.Of
			}
			base := u.Target
			u.Base = &base
		}
		out = append(out, u)
	}
	return out
}

// Arrival is what becomes of one unit that comes back.
type Arrival string

// What can become of a unit.
const (
	Taken     Arrival = "taken"     // new words, or another state
	Same      Arrival = "same"      // what there is already
	Late      Arrival = "late"      // the source words changed since the export: taken as outdated
	Conflict  Arrival = "conflict"  // the words here were changed since the export, otherwise: kept
	Protected Arrival = "protected" // reviewed or final here: kept
	Unknown   Arrival = "unknown"   // no such key, and no such words
	Nothing   Arrival = "empty"     // not translated
	Broken    Arrival = "broken"    // not a valid message, or arguments are lost: not taken
)

// Arrivals are all of them, in the order they are listed.
var Arrivals = []Arrival{Taken, Late, Conflict, Protected, Broken, Unknown, Same, Nothing}

// Arrived is what became of one unit.
type Arrived struct {
	What Arrival `json:"what"`
	Key  string  `json:"key"`
	Why  string  `json:"why,omitempty"`
	// Base is what was exported, Ours what stands here, Theirs what came back.
	Base   string `json:"base,omitempty"`
	Ours   string `json:"ours,omitempty"`
	Theirs string `json:"theirs,omitempty"`
	Line   int    `json:"line,omitempty"`
}

// ImportOptions say how units are taken in.
type ImportOptions struct {
	Locale string
	Over   bool                // reviewed and final texts too, and those changed here since the export
	Key    func(string) *Entry // finds the entry of a file's key; nil for Get
}

// Import takes units into the catalogue: by key, else by their words where those mean one key only. Words changed since
// the export make a translation outdated, they do not lose it; where both sides changed, ours stays and the three
// values are reported.
func (c *Catalogue) Import(units []Unit, o ImportOptions) []Arrived {
	c.AddLocale(o.Locale)
	before := c.states(o.Locale)
	out := make([]Arrived, 0, len(units))
	byWords := map[string][]*Entry{}
	for _, e := range c.Entries {
		byWords[e.Words] = append(byWords[e.Words], e)
	}
	find := o.Key
	if find == nil {
		find = c.Get
	}
	for i := range units {
		u := &units[i]
		a := Arrived{Key: u.Key, Theirs: u.Target, Line: u.Line}
		e := find(u.Key)
		if e == nil {
			if same := byWords[u.Source]; u.Source != "" && len(same) == 1 {
				e = same[0]
				a.Why = "there is no such key; " + e.Key + " has these words"
			} else if u.Source != "" && len(same) > 1 {
				a.Why = "there is no such key, and several have these words"
			}
		}
		if e == nil {
			a.What = Unknown
		} else {
			a.Key = e.Key
			a.What = c.take(e, u, o, &a)
		}
		out = append(out, a)
	}
	c.StatesChanged = c.StatesChanged || !slices.Equal(before, c.states(o.Locale))
	return out
}

func (c *Catalogue) take(e *Entry, u *Unit, o ImportOptions, a *Arrived) Arrival {
	if u.Target == "" {
		return Nothing
	}
	u.Target = Adopt(e.Words, u.Target)
	a.Theirs = u.Target
	t := e.In[o.Locale]
	ours := ""
	if t != nil {
		ours = t.Words
	}
	a.Ours = ours
	u.Target = keepFractions(ours, u.Target, o.Locale)
	if ours != u.Target && Spread(ours) == Spread(u.Target) {
		u.Target = ours
	}
	a.Theirs = u.Target
	if u.Source != e.Words && Spread(u.Source) == Spread(e.Words) {
		u.Source = e.Words
	}
	state := u.State
	if state == "" || state == Outdated {
		state = Translated
		if t != nil && ours == u.Target && u.State == "" {
			state = t.State // the format does not say: as it was
		}
	}
	of := madeFrom(e, u, t, ours)
	if why := Lost(e.Words, u.Target, o.Locale); why != "" && of == "" {
		a.Why = why
		return Broken
	}
	if _, err := message.Parse(u.Target); err != nil {
		a.Why = err.Error()
		return Broken
	}
	if t != nil && ours == u.Target && t.Of != "" && u.State == Initial {
		return Same // some formats can say no more of what is outdated than that it is not done
	}
	if t != nil && ours == u.Target && t.Of == of && normal(t.State) == normal(state) {
		return Same
	}
	if t != nil && ours != "" && !o.Over {
		if what, settled := guarded(t, u, a, state, of); settled {
			return what
		}
	}
	*e.in(o.Locale) = Translation{Words: u.Target, State: state, Of: of}
	if of != "" {
		a.Why, a.Base = "the source words were “"+of+"” when it was exported", of
		return Late
	}
	return Taken
}

// madeFrom are the source words that a translation was made from, where they are others than those of now; else "".
func madeFrom(e *Entry, u *Unit, t *Translation, ours string) string {
	switch {
	case u.Source != "" && u.Source != e.Words && (u.Of == "" || u.Of != e.Words):
		return u.Source
	case u.State == Outdated && u.Of != "" && u.Of != e.Words:
		return u.Of
	case u.State == Outdated && t != nil && ours == u.Target:
		return t.Of
	}
	return ""
}

// guarded says what becomes of a translation that meets one of ours; settled is false where it may be taken.
func guarded(t *Translation, u *Unit, a *Arrived, state State, of string) (what Arrival, settled bool) {
	ours := t.Words
	if now := t.Now(); now == Reviewed || now == Final {
		if ours == u.Target && rank(state) > rank(t.State) && of == "" {
			t.State = state // a step further is no loss
			return Taken, true
		}
		if ours == u.Target {
			return Same, true
		}
		a.Why = "it is " + string(now) + " here"
		return Protected, true
	}
	if u.Base != nil && *u.Base != ours && ours != u.Target {
		a.Base = *u.Base
		if *u.Base == u.Target {
			a.Why = "changed here since the export, and not there"
			return Same, true
		}
		a.Why = "changed here and there since the export"
		return Conflict, true
	}
	return "", false
}

func normal(s State) State {
	if s == "" {
		return Translated
	}
	return s
}

func rank(s State) int {
	switch normal(s) {
	case Initial:
		return 0
	case Reviewed:
		return 2
	case Final:
		return 3
	}
	return 1
}

// Lost says which arguments or inline elements of a source message a translation lacks, or has too many; "" for none.
// A translation may leave out the number in forms for one number, and take one form of a choice for all.
func Lost(source, target, locale string) string {
	if source == target {
		return ""
	}
	s, err := message.Parse(source)
	if err != nil {
		return ""
	}
	t, err := message.Parse(target)
	if err != nil {
		return "not a valid message: " + err.Error()
	}
	a, b := partsOf(s), partsOf(t)
	var lost, more []string
	for name := range a {
		if _, ok := b[name]; !ok {
			lost = append(lost, name)
		}
	}
	for name := range b {
		if _, ok := a[name]; !ok {
			more = append(more, name)
		}
	}
	sort.Strings(lost)
	sort.Strings(more)
	switch {
	case len(lost) > 0:
		return "lacks " + strings.Join(lost, ", ")
	case len(more) > 0:
		return "has " + strings.Join(more, ", ") + ", which the source lacks"
	}
	return ""
}

// partsOf are the arguments and elements a message has, as they are written.
func partsOf(m message.Message) map[string]bool {
	out := map[string]bool{}
	m.Walk(func(p message.Part) {
		switch p.Kind {
		case message.Argument, message.Choice:
			out["{"+p.Name+"}"] = true
		case message.Open, message.Empty:
			out["<"+p.Name+">"] = true
		}
	})
	return out
}
