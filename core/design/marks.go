package design

import (
	"path"
	"reflect"
	"regexp"
	"strconv"
	"strings"
	"unicode/utf8"

	"archetyp/core/css"
	"archetyp/core/markup"
)

// Marks are the statements made about an element, in the drawing or in the configuration. A new mark is a line here:
// its yaml tag is its key in the configuration and, after data-, its attribute.
type Marks struct {
	Screen    string   `json:"screen,omitempty" yaml:"screen"`
	Label     string   `json:"label,omitempty" yaml:"label"`
	Component string   `json:"component,omitempty" yaml:"component"`
	Variant   string   `json:"variant,omitempty" yaml:"variant"`
	State     string   `json:"state,omitempty" yaml:"state"`
	Asset     string   `json:"asset,omitempty" yaml:"asset"`
	Formats   []string `json:"formats,omitempty" yaml:"formats"`
	Sets      []string `json:"sets,omitempty" yaml:"sets"`
	Text      string   `json:"text,omitempty" yaml:"text"`
	Message   string   `json:"message,omitempty" yaml:"message"` // what the words are a sample of: "{n} of {all}"
	Meaning   string   `json:"meaning,omitempty" yaml:"meaning"` // what the words mean, where they alone do not say
	Code      string   `json:"code,omitempty" yaml:"code"`
	LeadsTo   string   `json:"leadsTo,omitempty" yaml:"leads-to"`
	Behaviour string   `json:"behaviour,omitempty" yaml:"behaviour"`
	Role      string   `json:"role,omitempty" yaml:"role"`   // what it is for: an ARIA role or HTML element
	Group     string   `json:"group,omitempty" yaml:"group"` // the group of screens that a screen belongs to
}

// mark is a field of Marks.
type mark struct {
	attribute string
	index     int
	list      bool // of words
	own       bool // what stands in braces is the mark's own
}

var marks = func() (out []mark) {
	t := reflect.TypeFor[Marks]()
	for i := range t.NumField() {
		f := t.Field(i)
		name := f.Tag.Get("yaml")
		out = append(out, mark{"data-" + name, i, f.Type.Kind() == reflect.Slice, name == "message"})
	}
	return out
}()

// Texts are the marks that are one text, those that are given.
func (m Marks) Texts() (out []string) {
	v := reflect.ValueOf(m)
	for _, k := range marks {
		if f := v.Field(k.index); !k.list && f.Len() > 0 {
			out = append(out, f.String())
		}
	}
	return out
}

// MarkKeys are the keys of marks in the configuration, in the order of Marks.
func MarkKeys() (out []string) {
	for _, k := range marks {
		out = append(out, strings.TrimPrefix(k.attribute, "data-"))
	}
	return out
}

// Attributes are the marks that are given as attributes of a drawing, name and value, in the order of Marks.
func (m Marks) Attributes() (out [][2]string) {
	v := reflect.ValueOf(m)
	for _, k := range marks {
		switch f := v.Field(k.index); {
		case f.Len() == 0:
		case k.list:
			out = append(out, [2]string{k.attribute, strings.Join(f.Interface().([]string), " ")})
		default:
			out = append(out, [2]string{k.attribute, f.String()})
		}
	}
	return out
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
		v := reflect.ValueOf(&s.Marks).Elem()
		for _, k := range marks {
			if f := v.Field(k.index); !k.list && !k.own {
				f.SetString(strings.ReplaceAll(f.String(), "{file}", base))
			}
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
	v := reflect.ValueOf(&m).Elem()
	for _, k := range marks {
		a, ok := n.Attr(k.attribute)
		switch f := v.Field(k.index); {
		case ok && k.list:
			f.Set(reflect.ValueOf(strings.Fields(a)))
		case ok:
			f.SetString(strings.TrimSpace(a))
		}
	}
	return m
}

// fill takes over the marks that are given.
func (m *Marks) fill(from Marks, name string) {
	v, given := reflect.ValueOf(m).Elem(), reflect.ValueOf(from)
	for _, k := range marks {
		f := given.Field(k.index)
		switch to := v.Field(k.index); {
		case f.Len() == 0:
		case k.list || k.own:
			to.Set(f)
		default:
			to.SetString(strings.ReplaceAll(f.String(), "{name}", name))
		}
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

// meaningless reports whether a name is only a kind word with a number, or a "copy".
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
