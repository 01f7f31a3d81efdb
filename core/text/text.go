// Package text is the catalogue: the words of designs by key and locale. Documents and an earlier catalogue go in,
// keys with their words and places come out; exchange formats have a file each.
package text

import (
	"fmt"
	"sort"
	"strconv"
	"strings"
	"unicode"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// Place is where a text stands.
type Place struct {
	Source   string    `json:"source"`
	Screen   string    `json:"screen"`
	Element  string    `json:"element"` // name path
	Selector string    `json:"selector"`
	Box      geom.Rect `json:"-"`
	Room     *Room     `json:"room,omitempty"`
}

// Room is the space a text has, in px.
type Room struct {
	Width float64 `json:"width"`
	Lines int     `json:"lines"`
}

// Entry is one key of the catalogue.
type Entry struct {
	Key    string  `json:"key"`
	Words  string  `json:"-"` // in the source language
	Places []Place `json:"places"`
	Unused bool    `json:"unused,omitempty"` // no drawing has it any more
	Marked bool    `json:"marked,omitempty"` // the key was given by a mark
	Note   string  `json:"note,omitempty"`
}

// Catalogue is the texts of a workspace in the source language, sorted by key.
type Catalogue struct {
	Locale  string
	Entries []*Entry
}

// Event is what happened to one text while collecting.
type Event struct {
	What  string `json:"what"` // new, same, changed, folded, unused, skipped
	Key   string `json:"key,omitempty"`
	Words string `json:"words"`
	Was   string `json:"was,omitempty"`
	Why   string `json:"why,omitempty"`
	Place string `json:"place,omitempty"`
}

// Collection is the result of collecting: the new catalogue, and what happened.
type Collection struct {
	Catalogue *Catalogue
	Events    []Event
}

// Count counts the events of a kind.
func (c *Collection) Count(what string) int {
	n := 0
	for _, e := range c.Events {
		if e.What == what {
			n++
		}
	}
	return n
}

// Collect gathers the texts of documents into a catalogue. Keys come from marks, else from the pattern; the same
// words keep one key. old is the catalogue there was, or nil: its keys stay with their words, and where the words at
// a place changed, the key stays with the place. Nothing is deleted: a text that left the drawings is marked unused.
func Collect(docs []*design.Document, old *Catalogue, locale, pattern string) (*Collection, error) {
	if err := CheckPattern(pattern); err != nil {
		return nil, err
	}
	c := &collector{pattern: pattern, byKey: map[string]*Entry{}, byWords: map[string]*Entry{}, oldPlace: map[string]*Entry{},
		oldWords: map[string]*Entry{}, oldKey: map[string]*Entry{}, out: &Collection{Catalogue: &Catalogue{Locale: locale}}}
	if old != nil {
		for _, e := range old.Entries {
			c.oldKey[e.Key] = e
			if _, ok := c.oldWords[e.Words]; !ok {
				c.oldWords[e.Words] = e
			}
			for _, p := range e.Places {
				c.oldPlace[placeKey(p)] = e
			}
		}
	}
	present := map[string]bool{}
	each(docs, func(_ *design.Document, e *design.Element) { present[e.Words.Words] = true })
	c.present = present
	each(docs, c.text)
	c.leftovers(old)
	sort.Slice(c.out.Catalogue.Entries, func(i, j int) bool {
		return c.out.Catalogue.Entries[i].Key < c.out.Catalogue.Entries[j].Key
	})
	return c.out, nil
}

func each(docs []*design.Document, visit func(*design.Document, *design.Element)) {
	for _, d := range docs {
		for _, s := range d.Screens {
			for _, e := range s.Elements {
				if e.Words != nil && e.Words.Words != "" && !e.Hidden {
					visit(d, e)
				}
			}
		}
	}
}

type collector struct {
	pattern  string
	out      *Collection
	byKey    map[string]*Entry
	byWords  map[string]*Entry
	oldPlace map[string]*Entry
	oldWords map[string]*Entry
	oldKey   map[string]*Entry
	present  map[string]bool
}

func placeKey(p Place) string { return p.Source + "\x00" + p.Screen + "\x00" + p.Element }

func (c *collector) event(e Event) { c.out.Events = append(c.out.Events, e) }

func (c *collector) text(d *design.Document, e *design.Element) {
	words := e.Words.Words
	p := Place{Source: d.Name, Screen: e.Screen.Name, Element: e.Path, Selector: e.Selector(), Box: e.Geometry.Value, Room: room(e)}
	where := p.Screen + ": " + p.Element
	mark := ""
	if a := e.Ancestor(func(x *design.Element) bool { return x.Marks.Text != "" }); a != nil {
		mark = a.Marks.Text
		if a != e && mark != "none" {
			mark = "" // a key belongs to one text; "none" holds for all inside
		}
	}
	switch {
	case mark == "none":
		c.event(Event{What: "skipped", Words: words, Why: "marked as not to be translated", Place: where})
		return
	case mark == "" && !hasLetters(words):
		c.event(Event{What: "skipped", Words: words, Why: "no letters", Place: where})
		return
	}
	if e := c.byWords[words]; e != nil && (mark == "" || mark == e.Key) {
		e.Places = append(e.Places, p)
		c.event(Event{What: "folded", Key: e.Key, Words: words, Place: where})
		return
	}
	ev := Event{What: "new", Words: words, Place: where}
	entry := &Entry{Words: words, Marked: mark != ""}
	switch {
	case mark != "":
		entry.Key = mark
	case c.oldWords[words] != nil:
		entry.Key = c.oldWords[words].Key
	default:
		if o := c.oldPlace[placeKey(p)]; o != nil && !o.Marked && c.byKey[o.Key] == nil && !c.present[o.Words] {
			entry.Key = o.Key
		} else {
			entry.Key = c.newKey(d, e)
		}
	}
	if same := c.byKey[entry.Key]; same != nil {
		if mark != "" {
			c.event(Event{What: "skipped", Key: mark, Words: words, Why: "its mark gives the key " + mark + ", which has other words: “" + same.Words + "”", Place: where})
			return
		}
		entry.Key = c.free(entry.Key)
	}
	if o := c.oldKey[entry.Key]; o != nil {
		entry.Note = o.Note
		ev.What = "same"
		if o.Words != words {
			ev.What, ev.Was = "changed", o.Words
		}
	}
	ev.Key = entry.Key
	entry.Places = []Place{p}
	c.byKey[entry.Key], c.byWords[words] = entry, entry
	c.out.Catalogue.Entries = append(c.out.Catalogue.Entries, entry)
	c.event(ev)
}

// leftovers keeps the keys no drawing has any more.
func (c *collector) leftovers(old *Catalogue) {
	if old == nil {
		return
	}
	for _, e := range old.Entries {
		if c.byKey[e.Key] != nil {
			continue
		}
		c.out.Catalogue.Entries = append(c.out.Catalogue.Entries, &Entry{Key: e.Key, Words: e.Words, Places: []Place{}, Unused: true, Note: e.Note, Marked: e.Marked})
		if !e.Unused {
			c.event(Event{What: "unused", Key: e.Key, Words: e.Words})
		}
	}
}

func (c *collector) free(key string) string {
	out := key
	for i := 2; c.byKey[out] != nil || c.oldKey[out] != nil; i++ {
		out = key + "-" + strconv.Itoa(i)
	}
	return out
}

func hasLetters(s string) bool {
	for _, r := range s {
		if unicode.IsLetter(r) {
			return true
		}
	}
	return false
}

// room is the container's inside for a text that stands in one, else what the text takes now.
func room(e *design.Element) *Room {
	r := &Room{Width: e.Geometry.Value.W, Lines: max(1, len(e.Words.Lines))}
	in, box := e.Container(), e.Geometry.Value
	if in.W >= e.Screen.Box.W || in.W <= box.W {
		return round(r)
	}
	switch e.Words.Align.Value {
	case "center":
		r.Width = 2 * min(box.Centre().X-in.X, in.Right()-box.Centre().X)
	case "right":
		r.Width = box.Right() - in.X - (in.Right() - box.Right())
	default:
		r.Width = in.Right() - box.X - (box.X - in.X)
	}
	r.Width = max(r.Width, box.W)
	return round(r)
}

func round(r *Room) *Room {
	r.Width = float64(int(r.Width*100+0.5)) / 100
	return r
}

var placeholders = []string{"screen", "component", "name", "words", "n"}

// CheckPattern says whether a key pattern can be followed.
func CheckPattern(pattern string) error {
	rest := pattern
	for {
		i := strings.IndexByte(rest, '{')
		if i < 0 {
			break
		}
		end := strings.IndexByte(rest[i:], '}')
		if end < 0 {
			return fmt.Errorf("the key pattern %q has a { without a }", pattern)
		}
		name := rest[i+1 : i+end]
		ok := false
		for _, p := range placeholders {
			ok = ok || p == name
		}
		if !ok {
			return fmt.Errorf("the key pattern %q has {%s}; {%s} are known", pattern, name, strings.Join(placeholders, "}, {"))
		}
		rest = rest[i+end+1:]
	}
	if !strings.Contains(pattern, "{") {
		return fmt.Errorf("the key pattern %q has no part that differs, such as {words}", pattern)
	}
	return nil
}

func (c *collector) newKey(d *design.Document, e *design.Element) string {
	name := e.Name
	if name == "" && e.Parent != nil {
		name = e.Parent.NearestName()
	}
	values := map[string]string{"screen": slug(e.Screen.Name, 4), "component": slug(e.Component(), 4), "name": slug(name, 4),
		"words": slug(e.Words.Words, 4), "n": strconv.Itoa(len(c.byKey) + 1)}
	key := c.pattern
	for k, v := range values {
		key = strings.ReplaceAll(key, "{"+k+"}", v)
	}
	// a part that is empty takes its separator with it
	var parts []string
	for _, p := range strings.Split(key, ".") {
		if p = strings.Trim(p, "-_ "); p != "" {
			parts = append(parts, p)
		}
	}
	if len(parts) == 0 {
		parts = []string{"text"}
	}
	return c.free(strings.Join(parts, "."))
}

// slug is the first words of a text as a key part.
func slug(s string, words int) string {
	var out []string
	for _, w := range strings.FieldsFunc(strings.ToLower(s), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) }) {
		if len(out) == words {
			break
		}
		out = append(out, w)
	}
	return strings.Join(out, "-")
}
