package text

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"sort"
	"strconv"
	"strings"
	"sync"

	"archetyp/core/guard"
	"archetyp/core/markup"
	"archetyp/core/quoting"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"
)

// A catalogue lies in one file a locale, a flat object of messages by key, and in one for all locales with the places,
// notes, tags and states of the keys. Each has a line a key, sorted, so that versions merge well.

// KeysFile is the file for what is known of keys apart from their words.
const KeysFile = "keys.json"

// LocaleJSON writes the messages of a locale; those not translated are left out.
func (c *Catalogue) LocaleJSON(locale string) []byte {
	var b []byte
	b = append(b, '{')
	n := 0
	for _, e := range c.Entries {
		words := e.Words
		if locale != c.Locale {
			words = ""
			if t := e.In[locale]; t != nil {
				words = t.Words
			}
		}
		if words == "" {
			continue
		}
		b = line(b, n, e.Key)
		b = quoting.AppendJSON(b, words)
		n++
	}
	return end(b, n)
}

func line(b []byte, n int, key string) []byte {
	if n > 0 {
		b = append(b, ',')
	}
	b = append(b, "\n  "...)
	b = quoting.AppendJSON(b, key)
	return append(b, ": "...)
}

func end(b []byte, n int) []byte {
	if n > 0 {
		b = append(b, '\n')
	}
	return append(b, "}\n"...)
}

// keyJSON is a key as it stands in the file.
type keyJSON struct {
	keyFacts
	Places []placeJSON `json:"places,omitempty"`
}

// keyFacts are those of a key apart from where it stands.
type keyFacts struct {
	Said     string               `json:"said,omitzero"`
	Note     string               `json:"note,omitzero"`
	Meaning  string               `json:"meaning,omitzero"`
	Tags     []string             `json:"tags,omitempty"`
	Marked   bool                 `json:"marked,omitzero"`
	Given    bool                 `json:"given,omitzero"`
	Apart    bool                 `json:"apart,omitzero"`
	Formerly []string             `json:"formerly,omitempty"`
	Unused   bool                 `json:"unused,omitzero"`
	Or       string               `json:"or,omitzero"`
	In       map[string]stateJSON `json:"in,omitempty"`
}

type stateJSON struct {
	State State  `json:"state,omitzero"`
	Of    string `json:"of,omitzero"`
	Or    string `json:"or,omitzero"`
	Score int    `json:"score,omitzero"`
}

type placeJSON struct {
	Place
	Box []float64 `json:"box,omitempty"` // x, y, width, height
}

// KeysJSON writes what is known of the keys apart from their words.
func (c *Catalogue) KeysJSON() []byte {
	lines := make([][]byte, len(c.Entries))
	_ = inShares(len(lines), func(i int) error {
		lines[i] = append(line(nil, i, c.Entries[i].Key), c.Entries[i].keyJSON()...)
		return nil
	})
	return end(append([]byte{'{'}, bytes.Join(lines, nil)...), len(c.Entries))
}

// keyJSON is what is known of a key, as JSON.
func (e *Entry) keyJSON() []byte {
	k := keyJSON{keyFacts: keyFacts{Said: e.Said, Note: e.Note, Meaning: e.Meaning, Tags: e.Tags, Marked: e.Marked,
		Given: e.Given, Apart: e.Apart, Formerly: e.Formerly, Unused: e.Unused, Or: e.Or}}
	for l, t := range e.In {
		s := stateJSON{t.State, t.Of, t.Or, t.Score}
		if s.State == Translated || t.Words == "" { // what holds where nothing is said
			s.State = ""
		}
		if t.Words != "" && s != (stateJSON{}) {
			if k.In == nil {
				k.In = map[string]stateJSON{}
			}
			k.In[l] = s
		}
	}
	for _, p := range e.Places {
		r := p.Box
		k.Places = append(k.Places, placeJSON{p, []float64{cents(r.X), cents(r.Y), cents(r.W), cents(r.H)}})
	}
	out, err := json.Marshal(k, json.Deterministic(true), jsontext.AllowInvalidUTF8(true))
	if err != nil {
		return []byte("{}") // cannot be: the types above can always be written
	}
	return out
}

// states is what the keys file says of a locale, to tell whether it has to be written again.
func (c *Catalogue) states(locale string) []stateJSON {
	out := make([]stateJSON, len(c.Entries))
	for i, e := range c.Entries {
		if t := e.In[locale]; t != nil && t.Words != "" {
			out[i] = stateJSON{t.State, t.Of, t.Or, t.Score}
			if t.State == Translated {
				out[i].State = ""
			}
		}
	}
	return out
}

// FileError is a fault in one of the catalogue's files.
type FileError struct {
	File string
	markup.Position
	Msg string
}

func (e *FileError) Error() string {
	return fmt.Sprintf("%s:%d:%d: %s", e.File, e.Line, e.Column, e.Msg)
}

// ReadCatalogue reads the files of a catalogue, by name ("en.json", "keys.json"); those that are missing are empty. The
// error is a *FileError.
func ReadCatalogue(locale string, locales []string, files map[string][]byte) (*Catalogue, error) {
	return readCatalogue(locale, locales, files, true)
}

// ReadTranslations is ReadCatalogue without the places of the keys, which are most of what there is to read. Such a
// catalogue can be imported into; its keys cannot be written.
func ReadTranslations(locale string, locales []string, files map[string][]byte) (*Catalogue, error) {
	return readCatalogue(locale, locales, files, false)
}

// Take takes the translations of another reading of the same catalogue.
func (c *Catalogue) Take(from *Catalogue) {
	for _, l := range from.Locales {
		c.AddLocale(l)
	}
	for _, e := range from.Entries {
		if own := c.Get(e.Key); own != nil && own.Key == e.Key {
			own.In = e.In
		}
	}
}

func readCatalogue(locale string, locales []string, files map[string][]byte, places bool) (*Catalogue, error) {
	c := &Catalogue{Locale: locale, Placeless: !places, byKey: map[string]*Entry{}}
	for _, l := range locales {
		c.AddLocale(l)
	}
	entry := func(key string) *Entry {
		e := c.byKey[key]
		if e == nil {
			e = &Entry{Key: key}
			c.byKey[key] = e
			c.Entries = append(c.Entries, e)
		}
		return e
	}
	if err := members(locale+".json", files[locale+".json"], func(key string, d *jsontext.Decoder) error {
		words, err := readWords(d)
		entry(key).Words = words
		return err
	}); err != nil {
		return nil, err
	}
	if err := readKeys(files[KeysFile], places, entry); err != nil {
		return nil, err
	}
	for _, l := range c.Locales {
		if err := members(l+".json", files[l+".json"], func(key string, d *jsontext.Decoder) error {
			words, err := readWords(d)
			if err != nil || words == "" {
				return err
			}
			e := c.byKey[key]
			if e == nil {
				e = entry(key) // a translation of nothing: kept, and reported by the check
				e.Unused = true
			}
			e.in(l).Words = words
			return nil
		}); err != nil {
			return nil, err
		}
	}
	for _, e := range c.Entries { // a state without words says nothing
		for l, t := range e.In {
			if t.Words == "" {
				delete(e.In, l)
			}
		}
	}
	c.index()
	return c, nil
}

// readKeys reads what is known of keys, side by side.
func readKeys(data []byte, places bool, entry func(key string) *Entry) error {
	var entries []*Entry
	var values []jsontext.Value
	if err := members(KeysFile, data, func(key string, d *jsontext.Decoder) error {
		value, err := d.ReadValue()
		entries, values = append(entries, entry(key)), append(values, value.Clone())
		return err
	}); err != nil {
		return err
	}
	facts := make([]keyJSON, len(values))
	into := func(i int) any {
		if !places {
			return &facts[i].keyFacts
		}
		return &facts[i]
	}
	if inShares(len(values), func(i int) error { return json.Unmarshal(values[i], into(i)) }) != nil {
		i := -1 // once more, to say where
		return members(KeysFile, data, func(_ string, d *jsontext.Decoder) error {
			i++
			return json.UnmarshalDecode(d, into(i))
		})
	}
	for i, e := range entries {
		e.fill(&facts[i])
	}
	return nil
}

// inShares does something for every number below n, side by side; the error is one of those that happened.
func inShares(n int, do func(i int) error) error {
	const share = 100
	errs := make([]error, (n+share-1)/share)
	var wg sync.WaitGroup
	var faults guard.Carrier
	for k := range errs {
		wg.Go(func() {
			defer faults.Guard()
			for i := k * share; i < min(n, (k+1)*share) && errs[k] == nil; i++ {
				errs[k] = do(i)
			}
		})
	}
	wg.Wait()
	faults.Raise()
	return errors.Join(errs...)
}

func (e *Entry) fill(k *keyJSON) {
	e.Said, e.Note, e.Meaning, e.Tags, e.Marked, e.Given, e.Apart, e.Formerly, e.Unused, e.Or = k.Said, k.Note, k.Meaning, k.Tags, k.Marked, k.Given, k.Apart, k.Formerly, k.Unused, k.Or
	sort.Strings(e.Tags)
	for l, s := range k.In {
		t := e.in(l)
		t.State, t.Of, t.Or, t.Score = s.State, s.Of, s.Or, s.Score
	}
	for _, p := range k.Places {
		if b := p.Box; len(b) == 4 {
			p.Place.Box.X, p.Place.Box.Y, p.Place.Box.W, p.Place.Box.H = b[0], b[1], b[2], b[3]
		}
		e.Places = append(e.Places, p.Place)
	}
}

// readWords reads a text; null is none.
func readWords(d *jsontext.Decoder) (string, error) {
	switch d.PeekKind() {
	case '"':
		t, err := d.ReadToken()
		return t.String(), err
	case 'n':
		return "", d.SkipValue()
	}
	return "", errors.New("a text was expected: the file is one flat object of texts by key")
}

// members reads a JSON object and hands over its members, each with the decoder before its value.
func members(file string, data []byte, visit func(key string, d *jsontext.Decoder) error) error {
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	if len(bytes.TrimSpace(data)) == 0 {
		return nil
	}
	d := jsontext.NewDecoder(bytes.NewBuffer(data))
	at := func(err error) error {
		off := int(d.InputOffset())
		msg := err.Error()
		var se *jsontext.SyntacticError
		var me *json.SemanticError
		switch {
		case errors.As(err, &se):
			off, msg = int(se.ByteOffset), "not valid JSON: "+strings.TrimPrefix(se.Err.Error(), "jsontext: ")
			if errors.Is(err, jsontext.ErrDuplicateName) {
				msg = "the key stands twice; take one of them out"
			} else if strings.Contains(msg, "UTF-8") {
				msg = "not valid UTF-8; save the file as UTF-8"
			} else if errors.Is(se.Err, io.ErrUnexpectedEOF) {
				msg = "the file is cut off"
			}
		case errors.As(err, &me):
			off, msg = int(me.ByteOffset), "not what is expected here: "+me.JSONPointer.LastToken()+" should be a "+fmt.Sprint(me.GoType)
		}
		for off < len(data) && strings.IndexByte(" \t\r\n:,", data[off]) >= 0 {
			off++
		}
		return &FileError{file, markup.Lines(data).Position(min(off, len(data))), msg}
	}
	if k := d.PeekKind(); k != '{' {
		if _, err := d.ReadToken(); err != nil {
			return at(err)
		}
		return &FileError{file, markup.Position{Line: 1, Column: 1}, "not one flat JSON object of texts by key"}
	}
	if _, err := d.ReadToken(); err != nil {
		return at(err)
	}
	for d.PeekKind() != '}' {
		name, err := d.ReadToken()
		if err != nil {
			return at(err)
		}
		key := name.String()
		if key == "" {
			return at(errors.New("a key without a name"))
		}
		if err := visit(key, d); err != nil {
			return at(err)
		}
	}
	if _, err := d.ReadToken(); err != nil {
		return at(err)
	}
	if _, err := d.ReadToken(); err != io.EOF {
		return at(errors.New("something stands behind the end of the object"))
	}
	return nil
}

// cents rounds to hundredths of a px.
func cents(v float64) float64 {
	f, _ := strconv.ParseFloat(strconv.FormatFloat(v, 'f', 2, 64), 64)
	return f + 0
}
