package text

import (
	"bytes"
	"encoding/json"
	"fmt"
	"sort"
)

// A catalogue lies in two files: the words of a locale as one flat object, and for all locales the places, rooms and
// notes of the keys.

// Locale writes the words of a locale: one flat JSON object, sorted by key.
func (c *Catalogue) LocaleJSON() []byte {
	var b bytes.Buffer
	b.WriteString("{")
	for i, e := range c.Entries {
		if i > 0 {
			b.WriteString(",")
		}
		fmt.Fprintf(&b, "\n  %s: %s", quote(e.Key), quote(e.Words))
	}
	if len(c.Entries) > 0 {
		b.WriteString("\n")
	}
	b.WriteString("}\n")
	return b.Bytes()
}

// KeysJSON writes what is known of the keys apart from their words.
func (c *Catalogue) KeysJSON() []byte {
	type keyJSON struct {
		Note   string  `json:"note,omitempty"`
		Marked bool    `json:"marked,omitempty"`
		Unused bool    `json:"unused,omitempty"`
		Places []Place `json:"places"`
	}
	var b bytes.Buffer
	b.WriteString("{")
	for i, e := range c.Entries {
		if i > 0 {
			b.WriteString(",")
		}
		one, _ := marshal(keyJSON{e.Note, e.Marked, e.Unused, e.Places})
		fmt.Fprintf(&b, "\n  %s: %s", quote(e.Key), one)
	}
	if len(c.Entries) > 0 {
		b.WriteString("\n")
	}
	b.WriteString("}\n")
	return b.Bytes()
}

func marshal(v any) ([]byte, error) {
	var b bytes.Buffer
	enc := json.NewEncoder(&b)
	enc.SetEscapeHTML(false)
	err := enc.Encode(v)
	return bytes.TrimRight(b.Bytes(), "\n"), err
}

func quote(s string) string {
	b, _ := marshal(s)
	return string(b)
}

// ReadCatalogue reads both files back; either may be empty.
func ReadCatalogue(locale string, words, keys []byte) (*Catalogue, error) {
	c := &Catalogue{Locale: locale}
	w := map[string]string{}
	if len(bytes.TrimSpace(words)) > 0 {
		if err := json.Unmarshal(words, &w); err != nil {
			return nil, fmt.Errorf("not a flat JSON object of texts: %w", err)
		}
	}
	k := map[string]*Entry{}
	if len(bytes.TrimSpace(keys)) > 0 {
		if err := json.Unmarshal(keys, &k); err != nil {
			return nil, fmt.Errorf("not a JSON object of keys: %w", err)
		}
	}
	for key, s := range w {
		e := k[key]
		if e == nil {
			e = &Entry{}
		}
		e.Key, e.Words = key, s
		c.Entries = append(c.Entries, e)
	}
	sort.Slice(c.Entries, func(i, j int) bool { return c.Entries[i].Key < c.Entries[j].Key })
	return c, nil
}
