package text

import (
	"fmt"
	"strings"

	"archetyp/core/match"
	"archetyp/core/text/message"
)

// matchPlaces says for every text whose place it was in the catalogue. Places are compared source by source; then,
// for what is left, over all: a drawing may have been renamed.
func (c *collector) matchPlaces(finds []*Finds) {
	m := &placeMatch{c: c, before: map[string]*placeSide{}, now: map[string]*placeSide{}}
	for _, e := range c.old.Entries {
		m.remember(e)
	}
	for i, f := range c.all {
		if f.skip == "" {
			side(m.now, f.place.Source).put(placeIdentity(f.place, f.said), i)
		}
	}
	var leftOld, leftNew placeSide
	seen := map[string]bool{}
	for _, d := range finds {
		seen[d.name] = true
		a, b := m.take(side(m.before, d.name), side(m.now, d.name))
		leftOld.join(a)
		leftNew.join(b)
	}
	for _, p := range m.olds { // of drawings that are no more
		if !seen[p.place.Source] {
			leftOld.join(m.before[p.place.Source])
			seen[p.place.Source] = true
		}
	}
	if len(leftOld.at) > 0 && len(leftNew.at) > 0 {
		a, b := m.take(&leftOld, &leftNew)
		// last of all, by the name path on whatever screen: a screen may have been renamed
		for _, s := range []*placeSide{a, b} {
			for i := range s.ids {
				s.ids[i].Screen = ""
			}
		}
		m.take(a, b)
	}
}

// placeMatch finds the texts of now in the places of then.
type placeMatch struct {
	c           *collector
	olds        []oldPlace
	before, now map[string]*placeSide // by source
}

// oldPlace is a place in the catalogue, and the entry that stands there.
type oldPlace struct {
	e     *Entry
	place Place
}

// placeSide is one side of a match: identities, and which text or old place each is of.
type placeSide struct {
	ids []match.Identity
	at  []int
}

func (s *placeSide) put(id match.Identity, at int) { s.ids, s.at = append(s.ids, id), append(s.at, at) }

func (s *placeSide) join(o *placeSide) {
	s.ids, s.at = append(s.ids, o.ids...), append(s.at, o.at...)
}

// side is the side of a source, made where there is none.
func side(m map[string]*placeSide, source string) *placeSide {
	s := m[source]
	if s == nil {
		s = &placeSide{}
		m[source] = s
	}
	return s
}

func placeIdentity(p Place, words string) match.Identity {
	path := p.Element
	if p.Attribute != "" {
		path += "@" + p.Attribute
		p.ID = ""
	}
	return match.Identity{Screen: p.Screen, ID: p.ID, Path: path, Words: words, Box: p.Box}
}

// remember notes where an entry stood, and its words.
func (m *placeMatch) remember(e *Entry) {
	c := m.c
	said := e.Said
	for _, p := range e.Places {
		if said == "" {
			said = e.Sample(c.o.Locale)
		}
		if !c.o.leaves(p.Source, p.Screen) {
			side(m.before, p.Source).put(placeIdentity(p, said), len(m.olds))
			m.olds = append(m.olds, oldPlace{e, p})
		}
	}
	if e.Apart {
		return
	}
	if k := wordsKey(e.Words, e.Meaning, ""); len(e.Places) == 0 && c.oldWords[k] == nil {
		c.oldWords[k] = e
	}
	for _, p := range e.Places {
		if k := wordsKey(e.Words, e.Meaning, c.apart(p)); c.oldWords[k] == nil {
			c.oldWords[k] = e
		}
	}
}

// take pairs two sides, and gives what is left of each.
func (m *placeMatch) take(a, b *placeSide) (restA, restB *placeSide) {
	gone, came := make([]bool, len(a.at)), make([]bool, len(b.at))
	for _, pair := range match.Match(a.ids, b.ids) {
		f := m.c.all[b.at[pair.New]]
		f.old, f.oldWhy = m.olds[a.at[pair.Old]].e, string(pair.Why)
		gone[pair.Old], came[pair.New] = true, true
	}
	return a.without(gone), b.without(came)
}

func (s *placeSide) without(taken []bool) *placeSide {
	out := &placeSide{}
	for i := range s.at {
		if !taken[i] {
			out.put(s.ids[i], s.at[i])
		}
	}
	return out
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
	m, err := message.Parse(e.Words)
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

// gains reports whether an entry that had no meaning may take that of a text: a mark was added to all texts with its
// words.
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

// awaited gives a text the key its own place makes where that has translations and no words yet. It comes before made:
// otherwise a screen read earlier that says the same would take the text to a key of its own.
func (c *collector) awaited(f *found) bool {
	if c.o.Pattern == NoKeys || strings.Contains(c.o.Pattern, "{n}") {
		return false
	}
	key := makeKey(c.o.Pattern, c.o.Case, c.keyValues(f))
	if o := c.old.Get(key); o == nil || o.Key != key || o.Words != "" || c.byKey[key] != nil {
		return false
	}
	return c.made(f)
}

// keyValues are what a pattern for keys may name.
func (c *collector) keyValues(f *found) map[string]string {
	return map[string]string{"screen": f.place.Screen, "component": f.place.Component, "name": f.name, "words": f.said,
		"n": fmt.Sprint(len(c.byKey) + 1)}
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
	taken := func(k string) bool { // a key that has only translations waits for its words
		o := c.old.Get(k)
		return c.byKey[k] != nil || o != nil && (o.Key != k || o.Words != "")
	}
	key := free(makeKey(c.o.Pattern, c.o.Case, c.keyValues(f)), c.o.Case, taken)
	c.put(f, key, New)
	return true
}
