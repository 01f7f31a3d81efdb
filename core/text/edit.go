package text

import (
	"fmt"
	"slices"
	"sort"
	"strings"

	"archetyp/core/text/message"
)

// EditError is an edit that cannot be made, and what to do instead.
type EditError struct{ Msg, Hint string }

func (e *EditError) Error() string { return e.Msg }

func refuse(hint, format string, args ...any) error {
	return &EditError{fmt.Sprintf(format, args...), hint}
}

// Need is the entry of a key; the error names the nearest keys.
func (c *Catalogue) Need(key string) (*Entry, error) {
	if e := c.Get(key); e != nil {
		return e, nil
	}
	if near := c.near(key); near != "" {
		return nil, refuse("Did you mean "+near+"?", "there is no key %q", key)
	}
	return nil, refuse("\"archetyp text list\" shows the keys.", "there is no key %q", key)
}

// near is a key like another: with the same end, or the same beginning.
func (c *Catalogue) near(key string) string {
	last := key[strings.LastIndexByte(key, '.')+1:]
	for _, e := range c.Entries {
		if strings.HasSuffix(e.Key, "."+last) || e.Key == last {
			return e.Key
		}
	}
	for _, e := range c.Entries {
		if len(key) > 3 && strings.HasPrefix(e.Key, key[:len(key)-1]) || len(last) > 3 && strings.Contains(e.Key, last) {
			return e.Key
		}
	}
	return ""
}

// Set gives an entry words in a locale. In the source language the message must say the words of the design, with
// arguments for what changes in them. A new wording is Translated, or the state that is given.
func (c *Catalogue) Set(e *Entry, locale, words string, state State) error {
	m, err := message.Parse(words)
	if err != nil {
		return refuse("", "not a valid message: %v", err)
	}
	if locale == c.Locale {
		return c.setSource(e, m, words)
	}
	t := e.in(locale)
	if words == "" {
		delete(e.In, locale)
		return nil
	}
	if state == "" {
		state = Translated
	}
	*t = Translation{Words: words, State: state}
	c.AddLocale(locale)
	return nil
}

func (c *Catalogue) setSource(e *Entry, m message.Message, words string) error {
	if words == e.Words {
		e.Or = "" // it is the one that was chosen
	}
	said := e.Sample(c.Locale)
	if plain, ok := m.Plain(); ok && plain == said {
		e.say(words)
		e.Said = ""
		return nil
	}
	if m.Said(c.Locale, nil) == said { // the same words, set apart otherwise
		e.say(words)
		return nil
	}
	if _, ok := m.Values(c.Locale, said); !ok && !e.Unused {
		return refuse("Words change in the drawing. Here they can be given arguments: \"3 of 12\" is a sample of "+
			"\"{taken} of {all}\".",
			"the design says %q, which %q cannot say", said, words)
	}
	e.say(words)
	e.Said = said
	return nil
}

// SetState says how far a translation is.
func (c *Catalogue) SetState(e *Entry, locale string, state State) error {
	t := e.In[locale]
	if t == nil || t.Words == "" {
		return refuse("Give the words first.", "%s has no words in %s", e.Key, locale)
	}
	if state == Outdated {
		return refuse("The states are initial, translated, reviewed and final.",
			"outdated is what the program says, when the source words change")
	}
	t.State, t.Of, t.Score = state, "", 0
	return nil
}

// Rename gives an entry another key, which stays with its places.
func (c *Catalogue) Rename(old, new string) error {
	e, err := c.Need(old)
	if err != nil {
		return err
	}
	if err := CheckKey(new); err != nil {
		return err
	}
	if e.Marked {
		return refuse("Change the mark in the drawing, or in the configuration.", "the key %s is given by a mark", e.Key)
	}
	if o := c.Get(new); o != nil && o != e {
		return refuse(fmt.Sprintf("\"archetyp text join %s %s\" makes the two one.", new, old), "there is a key %s already",
			o.Key)
	}
	e.formerly(e.Key)
	e.Formerly = without(e.Formerly, new)
	e.Key, e.Given = new, true
	c.index()
	return nil
}

// CheckKey reports whether a key given by hand can be one.
func CheckKey(key string) error {
	if key == "" || strings.ContainsAny(key, " \t\r\n\"'<>&\\\x00") || len(key) > 200 || key == "none" {
		return refuse("Keys have letters, digits and . - _ /, such as booking.pay.", "%q cannot be a key", key)
	}
	return nil
}

func (e *Entry) formerly(key string) {
	if !slices.Contains(e.Formerly, key) {
		e.Formerly = append(e.Formerly, key)
		sort.Strings(e.Formerly)
	}
}

func without(list []string, s string) []string {
	out := list[:0:0]
	for _, v := range list {
		if v != s {
			out = append(out, v)
		}
	}
	return out
}

// Split gives places of an entry a key of their own, each: those whose screen, selector or name path is where, or with
// "" all but the first. They keep the words and translations there are, and stay apart from then on.
func (c *Catalogue) Split(key, where, pattern, style string) ([]*Entry, error) {
	e, err := c.Need(key)
	if err != nil {
		return nil, err
	}
	if len(e.Places) < 2 {
		return nil, refuse("", "%s stands in one place only", e.Key)
	}
	var stay, go_ []Place
	for i, p := range e.Places {
		if where == "" && i > 0 || where != "" && (strings.EqualFold(p.Screen, where) || p.Selector == where ||
			p.Element == where || p.Component == where) {
			go_ = append(go_, p)
		} else {
			stay = append(stay, p)
		}
	}
	if len(go_) == 0 {
		return nil, refuse("\"archetyp text show "+e.Key+"\" lists its places.", "no place of %s is %q", e.Key, where)
	}
	if len(stay) == 0 {
		return nil, refuse("Name one screen, selector or component of several.", "every place of %s is %q", e.Key, where)
	}
	var out []*Entry
	type like struct{ screen, component string }
	groups := map[like]*Entry{}
	for _, p := range go_ {
		group := like{p.Screen, p.Component} // places alike stay together
		if where != "" {
			group = like{}
		}
		n := groups[group]
		if n == nil {
			n = e.clone()
			n.Places, n.Formerly, n.Marked, n.Given, n.Apart = nil, nil, false, false, true
			base := e.Key
			if pattern != NoKeys {
				said := e.Sample(c.Locale)
				base = makeKey(pattern, style, map[string]string{"screen": p.Screen, "component": p.Component,
					"name": p.Element[strings.LastIndexByte(p.Element, '/')+1:], "words": said, "n": fmt.Sprint(len(c.Entries) + 1)})
			}
			n.Key = free(base, style, func(k string) bool { return c.Get(k) != nil })
			groups[group] = n
			out = append(out, n)
			c.Entries = append(c.Entries, n)
			c.index()
		}
		n.Places = append(n.Places, p)
	}
	e.Places = stay
	return out, nil
}

// Join makes two keys with the same words one: a keeps its key and gets b's places. What b has in locales where a has
// nothing is kept; where both have words that differ, a's stay and the lost ones are reported.
func (c *Catalogue) Join(a, b string) (lost []string, err error) {
	x, err := c.Need(a)
	if err != nil {
		return nil, err
	}
	y, err := c.Need(b)
	if err != nil {
		return nil, err
	}
	switch {
	case x == y:
		return nil, refuse("", "%s and %s are one key already", a, b)
	case y.Marked && !y.Unused:
		return nil, refuse("Change the mark in the drawing, or join the other way round.", "the key %s is given by a mark",
			y.Key)
	case x.Words != y.Words:
		return nil, refuse("Keys are joined when their words are the same; change the drawing first.",
			"%s says %q and %s says %q", x.Key, x.Words, y.Key, y.Words)
	}
	for _, l := range c.Locales {
		theirs := y.In[l]
		if theirs == nil || theirs.Words == "" {
			continue
		}
		ours := x.In[l]
		switch {
		case ours == nil || ours.Words == "":
			one := *theirs
			*x.in(l) = one
		case ours.Words != theirs.Words:
			lost = append(lost, l+": "+theirs.Words)
		}
	}
	x.Places = append(x.Places, y.Places...)
	x.Unused = x.Unused && y.Unused
	for _, t := range y.Tags {
		x.tag(t)
	}
	if x.Note == "" {
		x.Note = y.Note
	} else if y.Note != "" && y.Note != x.Note {
		x.Note += "\n" + y.Note
	}
	if x.Said == "" {
		x.Said = y.Said
	}
	x.Apart = x.Apart && y.Apart
	for _, f := range append(y.Formerly, y.Key) {
		x.formerly(f)
	}
	for i, e := range c.Entries {
		if e == y {
			c.Entries = append(c.Entries[:i:i], c.Entries[i+1:]...)
			break
		}
	}
	c.index()
	return lost, nil
}

// Tag gives tags and takes others away.
func (e *Entry) Tag(give, take []string) {
	for _, t := range give {
		e.tag(t)
	}
	for _, t := range take {
		e.Tags = without(e.Tags, t)
	}
}
