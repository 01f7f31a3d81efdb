package text

import (
	"archetyp/core/threeway"
	"reflect"
	"slices"
)

// Clash is a text that two people changed at the same time, each in another way. The merged catalogue has ours, and keeps
// theirs beside it until somebody chooses.
type Clash struct {
	Key    string `json:"key"`
	Locale string `json:"locale"`
	Ours   string `json:"ours"`
	Theirs string `json:"theirs"`
}

// Merge merges two edits of a catalogue by what they were made from, key by key and locale by locale. A key that one side
// renamed takes along what the other changed of it. What one side removed and the other changed stays. Places follow
// from the drawings and are taken from our side. None of the three is changed.
func Merge(base, ours, theirs *Catalogue) (*Catalogue, []Clash) {
	base, ours, theirs = base.Clone(), ours.Clone(), theirs.Clone()
	m := &merging{out: ours.Clone(), base: base}
	for _, l := range theirs.Locales {
		m.out.AddLocale(l)
	}
	m.out.index()
	taken := map[*Entry]bool{}
	for _, their := range theirs.Entries {
		was := m.before(their)
		our := m.counterpart(their, was, ours)
		if our == nil {
			if was == nil || !sameEntry(was, their) {
				m.out.Entries = append(m.out.Entries, their.clone())
			}
			continue
		}
		taken[our] = true
		m.entry(our, was, their)
	}
	var kept []*Entry
	for _, e := range m.out.Entries {
		if !taken[e] && theirs.Get(e.Key) == nil {
			if was := base.Get(e.Key); was != nil && sameEntry(was, ours.Get(e.Key)) { // they took it away
				continue
			}
		}
		kept = append(kept, e)
	}
	m.out.Entries = kept
	m.out.index()
	return m.out, m.clashes
}

type merging struct {
	out, base *Catalogue
	clashes   []Clash
}

// before is the entry that an entry was in the base, by its key or one it had; nil for none.
func (m *merging) before(e *Entry) *Entry {
	if was := m.base.Get(e.Key); was != nil {
		return was
	}
	for _, f := range e.Formerly {
		if was := m.base.Get(f); was != nil {
			return was
		}
	}
	return nil
}

// counterpart is our entry for one of theirs; nil for none.
func (m *merging) counterpart(their, was *Entry, ours *Catalogue) *Entry {
	if our := m.out.Get(their.Key); our != nil {
		return our
	}
	if was != nil {
		if our := m.out.Get(was.Key); our != nil {
			return our
		}
	}
	return nil
}

// sameEntry reports whether two entries say the same, places aside.
func sameEntry(a, b *Entry) bool {
	if a == nil || b == nil {
		return a == b
	}
	x, y := a.clone(), b.clone()
	x.Places, y.Places = nil, nil
	return reflect.DeepEqual(x, y)
}

// entry merges their entry into ours.
func (m *merging) entry(e, was, their *Entry) {
	if was == nil {
		was = &Entry{}
	}
	ourWords := e.Words
	clash := func(locale, ours, theirs string) { m.clashes = append(m.clashes, Clash{e.Key, locale, ours, theirs}) }
	var both bool
	if e.Words, both = threeway.Value(was.Words, e.Words, their.Words); both && e.Said+their.Said == "" { // the drawing says which
		both = false
	} else if both {
		e.Or = their.Words
		clash(m.out.Locale, ourWords, their.Words)
	} else if e.Words == their.Words && e.Words != ourWords {
		e.Said = their.Said
	}
	if e.Key == was.Key && their.Key != was.Key && m.out.Get(their.Key) == nil { // they renamed it
		e.Key = their.Key
	}
	e.Marked, _ = threeway.Value(was.Marked, e.Marked, their.Marked)
	e.Given, _ = threeway.Value(was.Given, e.Given, their.Given)
	e.Apart, _ = threeway.Value(was.Apart, e.Apart, their.Apart)
	for _, p := range []struct {
		ours        *string
		was, theirs string
	}{{&e.Meaning, was.Meaning, their.Meaning}, {&e.Note, was.Note, their.Note}} {
		ours := *p.ours
		if *p.ours, both = threeway.Value(p.was, ours, p.theirs); both && p.ours == &e.Note {
			*p.ours = ours + " / " + p.theirs // notes are for people: both can be read
		}
	}
	e.Tags = threeway.Set(was.Tags, e.Tags, their.Tags)
	e.Formerly = threeway.Set(nil, e.Formerly, their.Formerly)
	slices.Sort(e.Tags)
	slices.Sort(e.Formerly)
	for _, f := range []string{was.Key, their.Key} {
		if f != "" && f != e.Key {
			e.formerly(f)
		}
	}
	e.Formerly = without(e.Formerly, e.Key)
	locales := map[string]bool{}
	for _, in := range []map[string]*Translation{e.In, their.In} {
		for l := range in {
			locales[l] = true
		}
	}
	for l := range locales {
		m.translation(e, l, deref(was.In[l]), deref(e.In[l]), deref(their.In[l]), ourWords, their.Words)
	}
}

func deref(t *Translation) Translation {
	if t == nil {
		return Translation{}
	}
	return *t
}

// translation merges one locale of an entry. ourSource and theirSource are the source words of either side.
func (m *merging) translation(e *Entry, locale string, was, ours, theirs Translation, ourSource, theirSource string) {
	said := func(t Translation) Translation {
		t.Of = ""
		if t.State == Translated {
			t.State = ""
		}
		return t
	}
	got, both := threeway.Value(said(was), said(ours), said(theirs))
	source, of := ourSource, ours.Of
	if got == said(theirs) && got != said(ours) {
		source, of = theirSource, theirs.Of
	}
	if both {
		switch {
		case ours.Words == theirs.Words: // they differ in how far it is
			if slices.Index(States, theirs.Now()) > slices.Index(States, ours.Now()) {
				got = said(theirs)
			}
		case theirs.Words == "": // they took it away
		case ours.Words == "":
			got, source, of = said(theirs), theirSource, theirs.Of
		default:
			got.Or = theirs.Words
			m.clashes = append(m.clashes, Clash{e.Key, locale, ours.Words, theirs.Words})
		}
	}
	if got.Words == "" {
		delete(e.In, locale)
		return
	}
	if of == "" && source != e.Words { // it was made from what the source words were
		of = source
	}
	if of == e.Words {
		of = ""
	}
	got.Of = of
	*e.in(locale) = got
}
