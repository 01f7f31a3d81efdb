package text

import (
	"fmt"
	"strings"

	"archetyp/core/match"
)

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
		// last of all, by the name path on whatever screen: a screen may have been renamed
		for _, s := range []*side{&a, &b} {
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
	values := map[string]string{"screen": f.place.Screen, "component": f.place.Component, "name": f.name, "words": f.said,
		"n": fmt.Sprint(len(c.byKey) + 1)}
	taken := func(k string) bool { // a key that has only translations waits for its words
		o := c.old.Get(k)
		return c.byKey[k] != nil || o != nil && (o.Key != k || o.Words != "")
	}
	key := free(makeKey(c.o.Pattern, c.o.Case, values), c.o.Case, taken)
	c.put(f, key, New)
	return true
}
