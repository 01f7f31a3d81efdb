// Package remark stores remarks on a design, each a thread in a Markdown file with front matter.
// In go the bytes of a file, or three versions of it; a thread, a merged file, or the bytes of a changed one come out.
package remark

import (
	"bytes"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"archetyp/core/markup"
	"archetyp/core/match"
	"archetyp/core/safeyaml"

	"github.com/goccy/go-yaml"
)

// Dir is the folder of a workspace that holds the threads.
const Dir = "remarks"

// Usual are the kinds of remarks that need no configuration, the first one for those of no kind.
var Usual = []string{"note", "question", "change", "praise"}

// maxFile is how long a thread may be, in bytes; maxHead how long its front matter.
const (
	maxFile = 4 << 20
	maxHead = 64 << 10
)

// Thread is a remark with the replies to it.
type Thread struct {
	ID      string       `json:"id"` // the name of its file, without ".md"
	Kind    string       `json:"kind"`
	For     []string     `json:"for"` // whom it names, by their handles
	Tags    []string     `json:"tags"`
	At      match.Anchor `json:"at"`
	Point   []match.Px   `json:"point,omitempty"`   // px from the corner of the element
	LeadsTo string       `json:"leadsTo,omitempty"` // the screen that the connection it is about leads to
	Entries []Entry      `json:"entries"`           // the remark, then the replies, in the order of time

	other map[string]string // conflicting values of the front matter
}

// Entry is what one person wrote at one time.
type Entry struct {
	ID   string    `json:"id"` // a few letters that nobody else's entry has
	By   string    `json:"by"`
	On   time.Time `json:"on"`
	Does string    `json:"does,omitempty"` // Closes or Reopens
	Text string    `json:"text"`           // Markdown
}

// What an entry does to its thread.
const (
	Closes  = "closes"
	Reopens = "reopens"
)

// Closed reports whether the thread is closed: the last entry that closes or reopens it decides.
func (t *Thread) Closed() bool {
	for i := len(t.Entries) - 1; i >= 0; i-- {
		switch t.Entries[i].Does {
		case Closes:
			return true
		case Reopens:
			return false
		}
	}
	return false
}

// State is "open" or "closed".
func (t *Thread) State() string {
	if t.Closed() {
		return "closed"
	}
	return "open"
}

// Last is the last entry.
func (t *Thread) Last() *Entry { return &t.Entries[len(t.Entries)-1] }

// head is the front matter of a thread.
type head struct {
	Kind    string            `yaml:"kind"`
	For     []string          `yaml:"for,omitempty,flow"`
	Tags    []string          `yaml:"tags,omitempty,flow"`
	At      match.Anchor      `yaml:"at"`
	Point   []match.Px        `yaml:"point,omitempty,flow"`
	LeadsTo string            `yaml:"leads-to,omitempty"`
	Or      map[string]string `yaml:"or,omitempty"`
}

// entryHead is the heading that begins an entry: "## Aino Saari, 2026-05-02 10:12:30 UTC, closes {#3f9a1c}".
var entryHead = regexp.MustCompile(`^## (.+), (\d{4}-\d\d-\d\d \d\d:\d\d:\d\d) UTC(?:, (closes|reopens))? \{#([0-9a-z]{4,16})\}$`)

// escaped is a line of somebody's text that would be read as such a heading.
var escaped = regexp.MustCompile(`^(\\*)## .+ \{#[0-9a-z]{4,16}\}$`)

const timeForm = "2006-01-02 15:04:05"

// Read reads a thread; id is the name of its file. The error is a *safeyaml.Error.
func Read(id string, data []byte) (*Thread, error) {
	if len(data) > maxFile {
		return nil, &safeyaml.Error{Msg: fmt.Sprintf("a remark of more than %d MB is not read", maxFile>>20)}
	}
	if !utf8.Valid(data) {
		return nil, &safeyaml.Error{Msg: "not in UTF-8"}
	}
	text := strings.ReplaceAll(string(bytes.TrimPrefix(data, []byte("\ufeff"))), "\r\n", "\n")
	rest, ok := strings.CutPrefix(text, "---\n")
	front, body, closed := strings.Cut(rest, "\n---\n")
	if !ok || !closed {
		return nil, &safeyaml.Error{Position: markup.Position{Line: 1, Column: 1}, Msg: "a remark begins with front matter between two lines of \"---\""}
	}
	var h head
	if err := safeyaml.Decode([]byte(front+"\n"), maxHead, &h); err != nil {
		e := safeyaml.Wrap(err)
		e.Line++
		return nil, e
	}
	if h.At.Source == "" && h.At.Screen == "" {
		return nil, &safeyaml.Error{Position: markup.Position{Line: 2, Column: 1}, Msg: "it does not say where it is: \"at\" needs a source and a screen"}
	}
	t := &Thread{ID: id, Kind: h.Kind, For: h.For, Tags: h.Tags, At: h.At, Point: h.Point, LeadsTo: h.LeadsTo, other: h.Or}
	if t.Kind == "" {
		t.Kind = Usual[0]
	}
	line := strings.Count(front, "\n") + 3
	var words []string
	end := func() {
		if n := len(t.Entries); n > 0 {
			t.Entries[n-1].Text = strings.Trim(strings.Join(words, "\n"), "\n")
		}
		words = nil
	}
	for l := range strings.SplitSeq(body, "\n") {
		line++
		m := entryHead.FindStringSubmatch(l)
		switch {
		case m != nil:
			end()
			on, err := time.Parse(timeForm, m[2])
			if err != nil {
				return nil, &safeyaml.Error{Position: markup.Position{Line: line, Column: 4}, Msg: fmt.Sprintf("%q is no time", m[2])}
			}
			t.Entries = append(t.Entries, Entry{ID: m[4], By: m[1], On: on, Does: m[3]})
		case len(t.Entries) == 0 && strings.TrimSpace(l) != "":
			return nil, &safeyaml.Error{Position: markup.Position{Line: line, Column: 1},
				Msg: "an entry begins with a heading such as \"## Aino Saari, 2026-05-02 10:12:30 UTC {#3f9a1c}\""}
		case escaped.MatchString(l) && l[0] == '\\':
			words = append(words, l[1:])
		default:
			words = append(words, l)
		}
	}
	end()
	if len(t.Entries) == 0 {
		return nil, &safeyaml.Error{Position: markup.Position{Line: line, Column: 1}, Msg: "there is no entry in it"}
	}
	return t, nil
}

// Bytes is the file of a thread.
func (t *Thread) Bytes() ([]byte, error) {
	front, err := yaml.Marshal(head{t.Kind, t.For, t.Tags, t.At, t.Point, t.LeadsTo, t.other})
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	fmt.Fprintf(&b, "---\n%s---\n", front)
	for _, e := range t.Entries {
		does := ""
		if e.Does != "" {
			does = ", " + e.Does
		}
		fmt.Fprintf(&b, "\n## %s, %s UTC%s {#%s}\n", Name(e.By), e.On.UTC().Format(timeForm), does, e.ID)
		if e.Text != "" {
			b.WriteByte('\n')
			for l := range strings.SplitSeq(clean(e.Text), "\n") {
				if escaped.MatchString(l) {
					l = `\` + l
				}
				b.WriteString(l + "\n")
			}
		}
	}
	return b.Bytes(), nil
}

// clean removes control characters and surrounding blank lines from text before it is written to a file.
func clean(s string) string {
	s = strings.ReplaceAll(strings.ToValidUTF8(s, "\ufffd"), "\r\n", "\n")
	s = strings.Map(func(r rune) rune {
		if r < ' ' && r != '\n' && r != '\t' || r == 0x7f {
			return -1
		}
		return r
	}, s)
	return strings.Trim(s, "\n")
}

// Name is a person's name on one line.
func Name(s string) string {
	s = strings.Join(strings.Fields(clean(strings.ReplaceAll(s, "\n", " "))), " ")
	if s == "" {
		return "somebody"
	}
	return s
}

// Add adds an entry behind those that are older.
func (t *Thread) Add(e Entry) {
	e.By, e.Text, e.On = Name(e.By), clean(e.Text), e.On.UTC().Truncate(time.Second)
	t.Entries = append(t.Entries, e)
	t.sort()
	for _, h := range Mentions(e.Text) {
		if !slices.Contains(t.For, h) {
			t.For = append(t.For, h)
		}
	}
}

// sort puts entries in the order of time; the first one, which began the thread, stays first.
func (t *Thread) sort() {
	if len(t.Entries) > 1 {
		slices.SortStableFunc(t.Entries[1:], func(a, b Entry) int {
			if c := a.On.Compare(b.On); c != 0 {
				return c
			}
			return strings.Compare(a.ID, b.ID)
		})
	}
}

var mention = regexp.MustCompile(`(?:^|[\s(\[,;:“"'])@([\pL\pN][\pL\pN._-]{0,38}[\pL\pN]|[\pL\pN])`)

// Mentions are the handles that a text names with @, in lower case, each once.
func Mentions(text string) (out []string) {
	for _, m := range mention.FindAllStringSubmatch(text, -1) {
		if h := strings.ToLower(m[1]); !slices.Contains(out, h) {
			out = append(out, h)
		}
	}
	return out
}
