// Package role says what an element is for: a button, a field with its label, a heading by its rank. What is not marked
// is recognised by names, shapes, places and words, with one table of rules in which the first that holds decides.
// Elements go in, roles in the terms of ARIA and HTML come out, each with the rule that gave it.
package role

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// Role is what an element is for, in the terms of WAI-ARIA 1.2. https://www.w3.org/TR/wai-aria-1.2/#role_definitions
type Role string

// The roles that are recognised.
const (
	None       Role = ""
	Button     Role = "button"
	Link       Role = "link"
	Field      Role = "textbox"
	Area       Role = "textarea" // a textbox of several lines
	Search     Role = "searchbox"
	Select     Role = "combobox"
	Checkbox   Role = "checkbox"
	Radio      Role = "radio"
	Switch     Role = "switch"
	Spin       Role = "spinbutton" // a number with steps up and down
	Tab        Role = "tab"
	Tabs       Role = "tablist"
	Navigation Role = "navigation"
	Header     Role = "banner"
	Footer     Role = "contentinfo"
	Main       Role = "main"
	Dialog     Role = "dialog"
	Note       Role = "note"
	Status     Role = "status"
	Separator  Role = "separator"
	Heading    Role = "heading"
	Paragraph  Role = "paragraph"
	List       Role = "list"
	Item       Role = "listitem"
	Table      Role = "table"
	Picture    Role = "img"
	Text       Role = "text" // words in a line of their own, no paragraph
	Group      Role = "group"
)

// names are the roles by what people call things: as marks, components and names say it. A name counts as a whole or as
// its last word: "Main button", "pay-button".
var names = map[string]Role{
	"button": Button, "btn": Button, "cta": Button,
	"link": Link, "a": Link, "anchor": Link,
	"field": Field, "input": Field, "textfield": Field, "text-field": Field, "textbox": Field,
	"textarea": Area, "text-area": Area,
	"search": Search, "searchbox": Search, "search-field": Search,
	"select": Select, "dropdown": Select, "combobox": Select, "picker": Select,
	"checkbox": Checkbox, "check-box": Checkbox,
	"radio": Radio, "radio-button": Radio,
	"switch": Switch, "toggle": Switch,
	"stepper": Spin, "spinner": Spin, "spinbutton": Spin, "counter": Spin,
	"tab": Tab, "tabs": Tabs, "tablist": Tabs,
	"tab-bar": Navigation, "nav": Navigation, "navigation": Navigation, "menu-bar": Navigation, "breadcrumb": Navigation,
	"breadcrumbs": Navigation, "pagination": Navigation, "side-bar": Navigation, "sidebar": Navigation,
	"header": Header, "masthead": Header, "top-bar": Header, "app-bar": Header, "banner": Header,
	"footer": Footer, "contentinfo": Footer,
	"dialog": Dialog, "modal": Dialog, "popover": Dialog, "sheet": Dialog,
	"notice": Note, "note": Note, "hint": Note, "tooltip": Note, "callout": Note,
	"badge": Status, "tag": Status, "chip": Status, "pill": Status, "status": Status, "toast": Status, "alert": Status,
	"divider": Separator, "separator": Separator, "rule": Separator, "hr": Separator,
	"heading": Heading, "title": Heading, "h1": Heading, "h2": Heading, "h3": Heading, "h4": Heading, "h5": Heading,
	"h6":        Heading,
	"paragraph": Paragraph, "p": Paragraph,
	"list": List, "ul": List, "ol": List, "list-item": Item, "item": Item, "li": Item, "listitem": Item,
	"table": Table, "img": Picture, "image": Picture, "picture": Picture, "icon": Picture, "photo": Picture,
	"avatar": Picture, "logo": Picture, "group": Group, "text": Text,
}

// Named is the role that a name says; None for a name that says none.
func Named(name string) Role {
	slug := design.Slug(name)
	if r, ok := names[slug]; ok {
		return r
	}
	for { // its last words
		_, rest, ok := strings.Cut(slug, "-")
		if !ok {
			return None
		}
		if r, ok := names[rest]; ok {
			return r
		}
		slug = rest
	}
}

// Found is the role of an element, and the rule that gave it in words.
type Found struct {
	Role Role
	Rank int // of a heading, from 1; 0 for what is none
	Why  string
}

// rule is a line of the table.
type rule struct {
	role Role
	why  string
	when func(s *Screen, e *design.Element) bool
}

// rules are tried in their order, once marks and names have said nothing.
var rules = []rule{
	{Separator, "it is a line", func(_ *Screen, e *design.Element) bool {
		b := e.Geometry.Value
		return e.Words == nil && e.Kind != design.Group && min(b.W, b.H) <= 2 && max(b.W, b.H) >= 24
	}},
	{Button, "it leads somewhere", func(_ *Screen, e *design.Element) bool {
		return e.Marks.LeadsTo != "" && e.Background() != nil && len(texts(e)) == 1
	}},
	{Link, "it leads somewhere", func(_ *Screen, e *design.Element) bool { return e.Marks.LeadsTo != "" }},
	{Picture, "it is exported as a picture", func(_ *Screen, e *design.Element) bool { return e.Marks.Asset != "" }},
	{Picture, "it is a bitmap", func(_ *Screen, e *design.Element) bool { return e.Kind == design.Image }},
	{Field, "words at the start of an outlined box, under a label", labelled},
	{Button, "one line of words in the middle of a box", buttonLike},
	{Picture, "it is drawn, and holds no words", func(_ *Screen, e *design.Element) bool {
		return e.Kind == design.Path || e.Kind == design.Group && drawing(e)
	}},
	{Heading, "its type is larger than that of most text", func(s *Screen, e *design.Element) bool {
		return e.Words != nil && s.rank(e) > 0
	}},
	{Paragraph, "several lines of words", func(_ *Screen, e *design.Element) bool {
		return e.Words != nil && len(e.Words.Lines) > 1
	}},
	{Text, "a line of words", func(_ *Screen, e *design.Element) bool { return e.Words != nil }},
	{List, "alike things one below the other", listLike},
	{Group, "it holds others", func(_ *Screen, e *design.Element) bool { return e.Kind == design.Group }},
}

// Screen knows what a screen's type is like, so that headings can be told from other text.
type Screen struct {
	sizes []float64 // of headings, the largest first
	body  float64   // the size that most letters are set in
}

// On looks a screen over.
func On(s *design.Screen) *Screen {
	letters := map[float64]int{}
	for _, e := range s.Elements {
		if w := e.Words; w != nil && !e.Hidden {
			letters[w.Size.Value] += len(w.Words)
		}
	}
	out := &Screen{}
	for size, n := range letters {
		if n > letters[out.body] || n == letters[out.body] && size < out.body {
			out.body = size
		}
	}
	for _, e := range s.Elements {
		if out.large(e) && !slices.Contains(out.sizes, e.Words.Size.Value) {
			out.sizes = append(out.sizes, e.Words.Size.Value)
		}
	}
	slices.Sort(out.sizes)
	slices.Reverse(out.sizes)
	return out
}

// large reports whether a text is set so that it can be a heading: larger by a tenth than most text, or as large and
// bolder, with letters, and in two lines at most.
func (s *Screen) large(e *design.Element) bool {
	w := e.Words
	if w == nil || e.Hidden || len(w.Lines) > 2 || !strings.ContainsFunc(w.Words, unicode.IsLetter) {
		return false
	}
	return w.Size.Value >= s.body*1.1 && w.Size.Value >= s.body+2
}

// rank is the rank of a heading among those of the screen; 0 for what is none.
func (s *Screen) rank(e *design.Element) int {
	if !s.large(e) {
		return 0
	}
	return min(slices.Index(s.sizes, e.Words.Size.Value)+1, 6)
}

// Of is the role of an element.
func (s *Screen) Of(e *design.Element) Found {
	found := s.find(e)
	if found.Role == Heading {
		found.Rank = max(1, s.rank(e))
	}
	return found
}

func (s *Screen) find(e *design.Element) Found {
	if m := e.Marks.Role; m != "" {
		if r := Named(m); r != None {
			return Found{r, 0, "the mark says " + m}
		}
		return Found{Role(m), 0, "the mark says " + m}
	}
	if r := Named(e.Marks.Component); r != None && fits(r, e) {
		return Found{r, 0, "its component is called " + e.Marks.Component}
	}
	if r := Named(e.Name); r != None && fits(r, e) {
		return Found{r, 0, "it is called " + e.Name}
	}
	for _, r := range rules {
		if r.when(s, e) {
			return Found{r.role, 0, r.why}
		}
	}
	return Found{}
}

// fits reports whether an element can be what its name says: only words are a heading, and a single mark is no list.
func fits(r Role, e *design.Element) bool {
	switch r {
	case Heading, Paragraph, Text:
		return e.Words != nil
	case List, Table, Navigation, Header, Footer, Tabs, Dialog, Field, Area, Select, Search, Spin:
		return e.Kind == design.Group
	case Button, Link, Note, Status, Item, Tab:
		return e.Kind == design.Group || e.Words != nil
	}
	return true
}

// texts are the visible texts in an element.
func texts(e *design.Element) (out []*design.Element) {
	e.Walk(func(x *design.Element) {
		if x.Words != nil && x.Words.Words != "" && !x.Hidden {
			out = append(out, x)
		}
	})
	return out
}

// drawing reports whether a group is nothing but shapes, small enough to be one picture.
func drawing(e *design.Element) bool {
	paths := 0
	plain := true
	e.Walk(func(x *design.Element) {
		if x.Words != nil || x.Marks.Component != "" {
			plain = false
		}
		if x.Kind == design.Path {
			paths++
		}
	})
	return plain && paths > 0
}

// buttonLike reports whether a group is a box with one line of words in its middle, as high as something one touches.
func buttonLike(_ *Screen, e *design.Element) bool {
	if e.Kind != design.Group || e.Background() == nil {
		return false
	}
	words := texts(e)
	box := e.BorderBox()
	if len(words) != 1 || len(words[0].Words.Lines) != 1 || initials(words[0].Words.Words, box) || box.H < 24 || box.H > 80 || box.W > 16*box.H {
		return false
	}
	way := design.InTheMiddle(words[0].BorderBox(), box)
	return way == "both ways" || way == "across"
}

// initials reports whether words are a letter or two in a box as wide as high: somebody's picture, or a number.
func initials(words string, box geom.Rect) bool {
	return utf8.RuneCountInString(words) <= 2 && box.W <= 1.2*box.H
}

// labelled reports whether a group is a field: an outlined box with words at its start, and a label of words above it.
func labelled(_ *Screen, e *design.Element) bool {
	if e.Kind != design.Group || e.Background() != nil {
		return false
	}
	var box *design.Element
	for _, c := range e.Children {
		if b := c.Geometry.Value; c.Kind == design.Box && !c.Hidden && len(c.Strokes) > 0 && b.H >= 28 && b.H <= 64 &&
			b.W >= 2*b.H {
			box = c
		}
	}
	if box == nil {
		return false
	}
	inside, above := 0, 0
	b := box.Geometry.Value
	for _, t := range texts(e) {
		w := t.BorderBox()
		switch {
		case w.Y >= b.Y-1 && w.Bottom() <= b.Bottom()+1:
			inside++
		case w.Bottom() <= b.Y+2:
			above++
		}
	}
	return inside <= 1 && above == 1
}

// listLike reports whether a group holds three or more groups of one size below each other.
func listLike(_ *Screen, e *design.Element) bool {
	if e.Kind != design.Group {
		return false
	}
	var rows []*design.Element
	for _, c := range e.Contents() {
		if c.Kind != design.Group {
			return false
		}
		rows = append(rows, c)
	}
	if len(rows) < 3 {
		return false
	}
	for i, r := range rows[1:] {
		a, b := rows[i].BorderBox(), r.BorderBox()
		if b.Y < a.Bottom()-0.5 || a.W != b.W || a.X != b.X {
			return false
		}
	}
	return true
}
