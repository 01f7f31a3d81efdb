// Package phase stores the phases of screens and elements: how far the work on them is, why, and who decided. In go
// the bytes of phases.yaml, or three versions of it; entries, a merged file, or the bytes of a changed one come out.
package phase

import (
	"bytes"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/match"
	"archetyp/core/safeyaml"

	"github.com/goccy/go-yaml"
)

// FileName is the file of a workspace that holds the phases.
const FileName = "phases.yaml"

// The phases there always are; a team adds its own.
const (
	Agreed = "agreed"
	Held   = "held"
	Built  = "built"
)

// Usual are those that need no configuration.
var Usual = []string{Agreed, Held, Built}

// maxFile is how long a file of phases may be, in bytes.
const maxFile = 8 << 20

// Statement is the phase of an element: who set it, when and why.
type Statement struct {
	Phase  string `yaml:"phase" json:"phase"`
	Why    string `yaml:"why,omitempty" json:"why,omitempty"`
	By     string `yaml:"by,omitempty" json:"by,omitempty"`
	On     string `yaml:"since,omitempty" json:"since,omitempty"`   // the day, YYYY-MM-DD
	Seen   string `yaml:"seen,omitempty" json:"seen,omitempty"`     // hash of all that showed of it then
	Commit string `yaml:"commit,omitempty" json:"commit,omitempty"` // that held the drawing as it was then
}

// Entry is a screen or an element with its phase.
type Entry struct {
	Statement `yaml:",inline"`
	Tags      []string     `yaml:"tags,omitempty,flow" json:"tags,omitempty"`
	Due       int          `yaml:"due,omitempty" json:"due,omitempty"` // the number of the edition it is due for
	At        match.Anchor `yaml:"at" json:"at"`
	Or        []Statement  `yaml:"or,omitempty" json:"or,omitempty"` // conflicting phases set at the same time, until one is chosen
}

// Book is a file of phases: entries by key. A key is made from names when an entry is, and then stays.
type Book struct {
	Entries  map[string]*Entry
	comments yaml.CommentMap
}

// New is a book without entries.
func New() *Book { return &Book{Entries: map[string]*Entry{}} }

// Read reads a file. The error is a *safeyaml.Error.
func Read(data []byte) (b *Book, err error) {
	defer func() {
		if r := recover(); r != nil {
			b, err = nil, &safeyaml.Error{Msg: fmt.Sprintf("not valid YAML: %v", r)}
		}
	}()
	b = New()
	data = bytes.TrimPrefix(data, []byte(heading))
	if err := safeyaml.Decode(data, maxFile, &b.Entries); err != nil {
		return nil, err
	}
	b.comments = yaml.CommentMap{}
	if err := yaml.UnmarshalWithOptions(data, &map[string]any{}, yaml.CommentToMap(b.comments)); err != nil && len(bytes.TrimSpace(data)) > 0 {
		b.comments = nil
	}
	for _, k := range b.Keys() {
		e := b.Entries[k]
		switch {
		case e == nil:
			return nil, &safeyaml.Error{Msg: k + " is empty"}
		case e.Phase == "":
			return nil, &safeyaml.Error{Msg: k + " has no phase"}
		case e.At.Source == "" && e.At.Screen == "":
			return nil, &safeyaml.Error{Msg: k + " does not say where it is: \"at\" needs a source and a screen"}
		}
	}
	if b.Entries == nil {
		b.Entries = map[string]*Entry{}
	}
	return b, nil
}

// Keys are those of the entries, sorted.
func (b *Book) Keys() []string { return slices.Sorted(maps.Keys(b.Entries)) }

const heading = "# The phases of screens and elements, written by \"archetyp phase set\". You may edit this file.\n"

// Bytes is the file, sorted by key, with the comments that were in it. A book without entries is no file: nil.
func (b *Book) Bytes() ([]byte, error) {
	if len(b.Entries) == 0 {
		return nil, nil
	}
	var ordered yaml.MapSlice
	for _, k := range b.Keys() {
		ordered = append(ordered, yaml.MapItem{Key: k, Value: b.Entries[k]})
	}
	data, err := yaml.MarshalWithOptions(ordered, yaml.WithComment(b.comments))
	return append([]byte(heading), data...), err
}

var noKey = regexp.MustCompile(`[^\pL\pN]+`)

// KeyFor is a free key for an element, from the names of its screen and of itself.
func (b *Book) KeyFor(a *match.Anchor, title string) string {
	stem := a.Screen
	if !a.Whole() {
		stem += " " + title
	}
	stem = strings.Trim(noKey.ReplaceAllString(strings.ToLower(stem), "-"), "-")
	if r := []rune(stem); len(r) > 60 {
		stem = strings.Trim(string(r[:60]), "-")
	}
	if stem == "" {
		stem = "element"
	}
	key := stem
	for n := 2; b.Entries[key] != nil; n++ {
		key = fmt.Sprintf("%s-%d", stem, n)
	}
	return key
}

var wordly = regexp.MustCompile(`^[\pL][\pL\pN -]{0,39}$`)

// Check says what is wrong with a phase; known are the ones there are.
func Check(name string, known []string) error {
	if slices.Contains(known, name) {
		return nil
	}
	h := "There are " + strings.Join(known, ", ") + "; phases: in archetyp.yaml adds others."
	if near := hint.Nearest(name, known); near != "" {
		h = fmt.Sprintf("Did you mean %q?", near)
	}
	return hint.New(fmt.Sprintf("there is no phase %q", name), h)
}

// CheckName says what is wrong with the name of a team's own phase.
func CheckName(name string) error {
	if !wordly.MatchString(name) {
		return fmt.Errorf("%q is no name of a phase: letters, digits, blanks and hyphens, 40 at most", name)
	}
	return nil
}
