package design

import (
	"path"
	"regexp"
	"strconv"
	"strings"
	"unicode/utf8"

	"archetyp/core/css"
	"archetyp/core/markup"
)

// Marks are the statements made about an element, in the drawing or in the configuration.
type Marks struct {
	Screen    string   `json:"screen,omitempty"`
	Label     string   `json:"label,omitempty"`
	Component string   `json:"component,omitempty"`
	Variant   string   `json:"variant,omitempty"`
	State     string   `json:"state,omitempty"`
	Asset     string   `json:"asset,omitempty"`
	Formats   []string `json:"formats,omitempty"`
	Sets      []string `json:"sets,omitempty"`
	Text      string   `json:"text,omitempty"`
	Message   string   `json:"message,omitempty"` // what the words are a sample of: "{n} of {all}"
	Meaning   string   `json:"meaning,omitempty"` // what the words mean, where they alone do not say
	Code      string   `json:"code,omitempty"`
	LeadsTo   string   `json:"leadsTo,omitempty"`
	Behaviour string   `json:"behaviour,omitempty"`
}

// SelectedMarks are marks given to all elements of a selector.
type SelectedMarks struct {
	Select *css.Selector
	Marks  Marks
	file   string // the name of the file they are for, without folder and extension
}

// ForFile are the marks for one file: {file} in them stands for its name without folder and extension, and so does
// {name} for a whole drawing that has none of its own.
func ForFile(selected []SelectedMarks, file string) []SelectedMarks {
	base := strings.TrimSuffix(path.Base(file), path.Ext(file))
	out := make([]SelectedMarks, len(selected))
	for i, s := range selected {
		m := &s.Marks
		for _, v := range []*string{&m.Screen, &m.Label, &m.Component, &m.Asset, &m.Text, &m.Code} {
			*v = strings.ReplaceAll(*v, "{file}", base)
		}
		s.file = base
		out[i] = s
	}
	return out
}

// ReadMarks collects the marks of an element: its own attributes win over the selected ones, later ones over earlier.
// {name} in a selected mark stands for the element's name.
func ReadMarks(n *markup.Node, selected []SelectedMarks, match *css.Matcher) Marks {
	var m Marks
	for _, s := range selected {
		if match.Matches(s.Select, n) {
			name := ElementName(n, "")
			if name == "" && n.Parent == nil {
				name = s.file
			}
			m.fill(s.Marks, name)
		}
	}
	own := func(name string, to *string) {
		if v, ok := n.Attr("data-" + name); ok {
			*to = strings.TrimSpace(v)
		}
	}
	own("screen", &m.Screen)
	own("label", &m.Label)
	own("component", &m.Component)
	own("variant", &m.Variant)
	own("state", &m.State)
	own("asset", &m.Asset)
	own("text", &m.Text)
	own("message", &m.Message)
	own("meaning", &m.Meaning)
	own("code", &m.Code)
	own("leads-to", &m.LeadsTo)
	own("behaviour", &m.Behaviour)
	if v, ok := n.Attr("data-formats"); ok {
		m.Formats = strings.Fields(v)
	}
	if v, ok := n.Attr("data-sets"); ok {
		m.Sets = strings.Fields(v)
	}
	return m
}

func (m *Marks) fill(from Marks, name string) {
	set := func(to *string, v string) {
		if v != "" {
			*to = strings.ReplaceAll(v, "{name}", name)
		}
	}
	set(&m.Screen, from.Screen)
	set(&m.Label, from.Label)
	set(&m.Component, from.Component)
	set(&m.Variant, from.Variant)
	set(&m.State, from.State)
	set(&m.Asset, from.Asset)
	set(&m.Text, from.Text)
	set(&m.Message, from.Message)
	set(&m.Meaning, from.Meaning)
	set(&m.Code, from.Code)
	set(&m.LeadsTo, from.LeadsTo)
	set(&m.Behaviour, from.Behaviour)
	if len(from.Formats) > 0 {
		m.Formats = from.Formats
	}
	if len(from.Sets) > 0 {
		m.Sets = from.Sets
	}
}

// ElementName is the name of an element: its label mark, else what drawing programs leave behind, else its id with
// escapes undone; "" where none of these means anything.
func ElementName(n *markup.Node, label string) string {
	if label != "" {
		return label
	}
	candidates := []string{n.AttrOr("data-label", ""), n.AttrOr("data-name", ""), n.AttrOr("aria-label", "")}
	for _, a := range n.Attrs {
		if a.Local == "label" && a.Space != "" {
			candidates = append(candidates, a.Value)
		}
	}
	for _, c := range n.Children {
		if c.Is("title") {
			candidates = append(candidates, strings.Join(strings.Fields(c.TextContent()), " "))
		}
	}
	if n.Space == "" { // a layer of a pixel design
		candidates = append(candidates, n.AttrOr("name", ""))
	}
	candidates = append(candidates, UnescapeID(n.ID()))
	for _, c := range candidates {
		if c = strings.TrimSpace(c); c != "" && !meaningless(c) {
			return c
		}
	}
	return ""
}

var idEscape = regexp.MustCompile(`_x([0-9A-Fa-f]{2,6})_`)

// UnescapeID undoes the `_x20_` escapes that some drawing programs write into ids.
func UnescapeID(id string) string {
	return idEscape.ReplaceAllStringFunc(id, func(s string) string {
		v, err := strconv.ParseUint(s[2:len(s)-1], 16, 32)
		if err != nil || !utf8.ValidRune(rune(v)) || v == 0 {
			return s
		}
		return string(rune(v))
	})
}

// kindWords say what a thing is, not which: a name made of one and a number is none.
var kindWords = func() map[string]bool {
	m := map[string]bool{}
	for _, w := range strings.Fields(`rect rectangle path group g ellipse circle line polygon polyline text tspan image layer
		shape vector oval frame svg use symbol mask clip clippath object element node union subtract star bitmap slice
		artboard`) {
		m[w] = true
	}
	return m
}()

var copyWord = regexp.MustCompile(`(?i)(^|[^a-z])copy([^a-z]|$)`)

// meaningless says whether a name is only a kind word with a number, or a "copy".
func meaningless(s string) bool {
	word := strings.TrimRight(s, "0123456789_. #-")
	if word == "" || len(word) <= 9 && kindWords[strings.ToLower(word)] {
		return true
	}
	return len(s) >= 4 && copyWord.MatchString(s)
}

// Slug is words as a name in code or in a file: lower case, joined by hyphens.
func Slug(s string) string {
	var b strings.Builder
	dash := false
	for _, r := range strings.ToLower(s) {
		if r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r >= 0x80 && r != '∕' {
			if dash && b.Len() > 0 {
				b.WriteByte('-')
			}
			b.WriteRune(r)
			dash = false
		} else {
			dash = true
		}
	}
	return b.String()
}
