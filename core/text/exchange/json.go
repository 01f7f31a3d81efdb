package exchange

import (
	"bytes"
	"errors"
	"io"
	"sort"
	"strings"

	"archetyp/core/markup"
	"archetyp/core/quoting"
	"archetyp/core/text"

	"github.com/go-json-experiment/json/jsontext"
)

// JSON for code: messages by key, flat or nested at the dots of the keys.

func writeJSON(d *Document, _ Options) ([]byte, []string) {
	b := []byte{'{'}
	n := 0
	for i := range d.Units {
		u := &d.Units[i]
		if d.words(u) == "" {
			continue
		}
		if n > 0 {
			b = append(b, ',')
		}
		b = append(b, "\n  "...)
		b = quoting.AppendJSON(b, u.Key)
		b = append(b, ": "...)
		b = quoting.AppendJSON(b, d.words(u))
		n++
	}
	if n > 0 {
		b = append(b, '\n')
	}
	return append(b, "}\n"...), nil
}

// branch is a group of keys with the same beginning.
type branch struct {
	words string
	leaf  bool
	kids  map[string]*branch
}

func writeNested(d *Document, _ Options) ([]byte, []string) {
	root := &branch{kids: map[string]*branch{}}
	for i := range d.Units {
		u := &d.Units[i]
		if d.words(u) == "" {
			continue
		}
		at := root
		for _, part := range strings.Split(u.Key, ".") {
			if at.kids == nil {
				at.kids = map[string]*branch{}
			}
			if at.kids[part] == nil {
				at.kids[part] = &branch{}
			}
			at = at.kids[part]
		}
		at.leaf, at.words = true, d.words(u)
	}
	return append(root.write(nil, 0), '\n'), nil
}

// write prints a group; a key that is the beginning of others has its words under "".
func (n *branch) write(b []byte, depth int) []byte {
	if n.leaf && len(n.kids) == 0 {
		return quoting.AppendJSON(b, n.words)
	}
	var names []string
	for k := range n.kids {
		names = append(names, k)
	}
	sort.Strings(names)
	b = append(b, '{')
	count := 0
	member := func(name string, write func([]byte) []byte) {
		if count > 0 {
			b = append(b, ',')
		}
		b = append(b, '\n')
		b = append(b, strings.Repeat("  ", depth+1)...)
		b = append(quoting.AppendJSON(b, name), ": "...)
		b = write(b)
		count++
	}
	if n.leaf {
		member("", func(b []byte) []byte { return quoting.AppendJSON(b, n.words) })
	}
	for _, k := range names {
		member(k, func(b []byte) []byte { return n.kids[k].write(b, depth+1) })
	}
	if count > 0 {
		b = append(b, '\n')
		b = append(b, strings.Repeat("  ", depth)...)
	}
	return append(b, '}')
}

const maxDepth = 64 // groups inside one another in JSON

func readJSON(data []byte, o Options) (*Document, error) {
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	r := &jsonTexts{data: data, dec: jsontext.NewDecoder(bytes.NewBuffer(data)), lines: markup.Lines(data),
		d: &Document{Target: o.Locale}, seen: map[string]int{}}
	if k := r.dec.PeekKind(); k != '{' && k != 0 {
		return nil, fault(1, 1, "not a JSON object of texts by key")
	}
	if err := r.object("", 0); err != nil {
		return nil, err
	}
	if _, err := r.dec.ReadToken(); err != io.EOF {
		return nil, r.broken(errors.New("something stands behind the end of the object"))
	}
	return r.d, nil
}

type jsonTexts struct {
	data  []byte
	dec   *jsontext.Decoder
	lines *markup.LineIndex
	d     *Document
	seen  map[string]int
}

func (r *jsonTexts) broken(err error) error {
	var me *markup.Error
	if errors.As(err, &me) {
		return err
	}
	at, msg := int(r.dec.InputOffset()), err.Error()
	var se *jsontext.SyntacticError
	if errors.As(err, &se) {
		at, msg = int(se.ByteOffset), "not valid JSON: "+strings.TrimPrefix(se.Err.Error(), "jsontext: ")
		switch {
		case errors.Is(err, jsontext.ErrDuplicateName):
			msg = "the key stands twice; take one of them out"
		case errors.Is(se.Err, io.ErrUnexpectedEOF):
			msg = "the file is cut off"
		case strings.Contains(msg, "UTF-8"):
			msg = "not valid UTF-8; save the file as UTF-8"
		}
	}
	p := r.lines.Position(min(at, len(r.data)))
	return fault(p.Line, p.Column, "%s", msg)
}

func (r *jsonTexts) object(prefix string, depth int) error {
	if depth > maxDepth {
		return r.broken(errors.New("groups more than 64 deep are not read"))
	}
	if _, err := r.dec.ReadToken(); err != nil {
		return r.broken(err)
	}
	for r.dec.PeekKind() != '}' {
		t, err := r.dec.ReadToken()
		if err != nil {
			return r.broken(err)
		}
		at := r.lines.Position(int(r.dec.InputOffset()))
		key := t.String()
		if key == "" {
			key = prefix
		} else if prefix != "" {
			key = prefix + "." + key
		}
		switch r.dec.PeekKind() {
		case '{':
			if err := r.object(key, depth+1); err != nil {
				return err
			}
			continue
		case '"':
		case 'n':
			if err := r.dec.SkipValue(); err != nil {
				return r.broken(err)
			}
			continue
		case 0:
			_, err := r.dec.ReadToken()
			return r.broken(err)
		default:
			return fault(at.Line, at.Column, "%s: a text or a group of texts was expected", key)
		}
		v, err := r.dec.ReadToken()
		if err != nil {
			return r.broken(err)
		}
		u := text.Unit{Key: key, Target: v.String(), Line: at.Line, Column: at.Column}
		if err := twice(r.seen, key, at.Line, at.Column); err != nil {
			return err
		}
		if err := valid(&u); err != nil {
			return err
		}
		r.d.Units = append(r.d.Units, u)
	}
	_, err := r.dec.ReadToken()
	if err != nil {
		return r.broken(err)
	}
	return nil
}
