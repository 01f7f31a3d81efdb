package token

import (
	"fmt"
	"strconv"
	"strings"

	"github.com/tailscale/hujson"
)

// Files are edited over another parser than they are read with: one that keeps white space.

// Editor changes the bytes of one token file. What an edit does not concern keeps every byte, order and indentation.
type Editor struct {
	File    string
	data    []byte
	root    hujson.Value
	pending []edit
	touched map[string]bool // paths with pending edits
	owned   map[string]bool // … of what stands under our key
}

// Edit begins to edit a file; empty data is a new one.
func Edit(data []byte, file string) (*Editor, error) {
	if len(strings.TrimSpace(string(data))) == 0 {
		data = []byte("{\n}\n")
	}
	e := &Editor{File: file, data: data}
	return e, e.parse()
}

func (e *Editor) parse() error {
	v, err := parseJSON(e.data, e.File)
	if err != nil {
		return err
	}
	if _, ok := v.Value.(*hujson.Object); !ok {
		return e.fail(v.StartOffset, "", "a token file is a JSON object")
	}
	e.root, e.touched, e.owned = v, map[string]bool{}, map[string]bool{}
	return nil
}

func (e *Editor) fail(offset int, path, format string, args ...any) error {
	f := &File{Name: e.File, src: e.data}
	return f.error(offset, path, fmt.Sprintf(format, args...))
}

// flush does what is pending, so that the next edit sees it.
func (e *Editor) flush() error {
	if len(e.pending) == 0 {
		return nil
	}
	e.data, e.pending = apply(e.data, e.pending), nil
	return e.parse()
}

// Bytes is the file as edited.
func (e *Editor) Bytes() ([]byte, error) {
	err := e.flush()
	return e.data, err
}

// spot is a member of a group: where it stands, and what of.
type spot struct {
	group  *hujson.Object
	member int
	level  int // of nesting; 0 in the file's own object
}

func (s spot) value() *hujson.Value { return &s.group.Members[s.member].Value }
func (s spot) name() hujson.Value   { return s.group.Members[s.member].Name }

func (s spot) object() (*hujson.Object, bool) {
	obj, ok := s.value().Value.(*hujson.Object)
	return obj, ok
}

// find looks for a token or group; of a path that is not there, the deepest group that is, and the names left.
func (e *Editor) find(path string) (s spot, rest []string) {
	obj, _ := e.root.Value.(*hujson.Object)
	s = spot{member: -1}
	names := strings.Split(path, ".")
	for i, name := range names {
		k := -1
		for j := range obj.Members {
			if called(obj.Members[j].Name, name) {
				k = j
			}
		}
		if k < 0 {
			return s, names[i:]
		}
		s = spot{obj, k, i}
		if i == len(names)-1 {
			break
		}
		var ok bool
		if obj, ok = s.object(); !ok {
			return s, names[i+1:]
		}
	}
	return s, nil
}

// Has reports whether a token or group stands in the file. Edits that wait change no paths.
func (e *Editor) Has(path string) bool {
	_, rest := e.find(path)
	return rest == nil
}

// member is the value of a token's property ($value, $description), to be edited.
func (e *Editor) member(path, key string) (s spot, v hujson.Value, has bool, err error) {
	if e.touched[path] {
		if err := e.flush(); err != nil {
			return s, v, false, err
		}
	}
	s, rest := e.find(path)
	obj, ok := (*hujson.Object)(nil), false
	if rest == nil {
		obj, ok = s.object()
	}
	if !ok {
		return s, v, false, e.fail(0, path, "there is no such token in this file")
	}
	e.touched[path] = true
	v, has = member(obj, key)
	return s, v, has, nil
}

// Set changes a token's value, and of that only the parts that differ.
func (e *Editor) Set(path string, v Value) error {
	s, old, has, err := e.member(path, "$value")
	if err != nil {
		return err
	}
	now, perr := hujson.Parse([]byte(v.JSON()))
	if perr != nil {
		return e.fail(s.name().StartOffset, path, "cannot be written: %v", perr)
	}
	if !has {
		return e.property(path, "$value", v.JSON())
	}
	e.pending = append(e.pending, patch(e.data, old, now)...)
	return nil
}

// property sets or, with an empty text, removes a property of a token or group.
func (e *Editor) property(path, key, json string) error {
	s, old, has, err := e.member(path, key)
	switch {
	case err != nil:
		return err
	case json == "" && has:
		if err := e.flush(); err != nil {
			return err
		}
		s, _ = e.find(path)
		obj, _ := s.object()
		for i := range obj.Members {
			if word(obj.Members[i].Name) == key {
				e.pending = append(e.pending, e.without(obj, i))
			}
		}
	case has && old.String() != json:
		e.pending = append(e.pending, edit{old.StartOffset, old.EndOffset, json})
	case !has && json != "":
		obj, _ := s.object()
		if len(obj.Members) == 0 {
			e.pending = append(e.pending, edit{s.value().StartOffset + 1, s.value().StartOffset + 1, quote(key) + ": " + json})
			return nil
		}
		last := obj.Members[len(obj.Members)-1].Value
		sep := ", "
		if first := obj.Members[0].Name; strings.Contains(string(e.data[s.value().StartOffset:first.StartOffset]), "\n") {
			sep = ",\n" + strings.Repeat(indentUnit(e.data), s.level+2)
		}
		e.pending = append(e.pending, edit{last.EndOffset, last.EndOffset, sep + quote(key) + ": " + json})
	}
	return nil
}

// Describe sets a token's description.
func (e *Editor) Describe(path, words string) error {
	return e.property(path, "$description", quote(words))
}

// SetOwn puts what the format has no place for under our key; other programs' keys stay.
func (e *Editor) SetOwn(path string, own Own) error {
	if own.json() == "" && !e.owned[path] && !e.hasOwn(path) {
		return nil
	}
	e.owned[path] = true
	_, old, has, err := e.member(path, "$extensions")
	if err != nil {
		return err
	}
	json := own.json()
	obj, ok := old.Value.(*hujson.Object)
	if !has || !ok {
		if json == "" {
			return nil
		}
		return e.property(path, "$extensions", fmt.Sprintf("{%q: %s}", Extension, json))
	}
	for i := range obj.Members {
		if word(obj.Members[i].Name) != Extension {
			continue
		}
		switch {
		case json != "":
			v := obj.Members[i].Value
			e.pending = append(e.pending, edit{v.StartOffset, v.EndOffset, json})
		case len(obj.Members) == 1:
			return e.property(path, "$extensions", "")
		default:
			e.pending = append(e.pending, e.without(obj, i))
		}
		return nil
	}
	if json != "" {
		added := quote(Extension) + ": " + json
		if len(obj.Members) > 0 {
			added = ", " + added
		}
		e.pending = append(e.pending, edit{old.EndOffset - 1, old.EndOffset - 1, added})
	}
	return nil
}

// hasOwn reports whether anything stands under our key.
func (e *Editor) hasOwn(path string) bool {
	s, rest := e.find(path)
	if rest != nil {
		return false
	}
	obj, ok := s.object()
	if !ok {
		return false
	}
	ext, _ := member(obj, "$extensions")
	all, ok := ext.Value.(*hujson.Object)
	if !ok {
		return false
	}
	_, has := member(all, Extension)
	return has
}

// without is the edit that takes a member out, with its comma and line.
func (e *Editor) without(obj *hujson.Object, i int) edit {
	m := &obj.Members[i]
	start, end := m.Name.StartOffset-len(m.Name.BeforeExtra), m.Value.EndOffset+len(m.Value.AfterExtra)
	switch {
	case i < len(obj.Members)-1:
		return edit{start, end + 1, ""} // up to and with the comma behind it
	case i > 0:
		prev := &obj.Members[i-1].Value
		return edit{prev.EndOffset + len(prev.AfterExtra), m.Value.EndOffset, ""} // from the comma before it
	}
	return edit{start, end, ""}
}

// Remove takes a token or group out. Groups that hold nothing any more go with it.
func (e *Editor) Remove(path string) error {
	if err := e.flush(); err != nil {
		return err
	}
	for {
		s, rest := e.find(path)
		if rest != nil {
			return e.fail(0, path, "there is no such token in this file")
		}
		cut := strings.LastIndexByte(path, '.')
		if len(s.group.Members) > 1 || cut < 0 {
			e.pending = append(e.pending, e.without(s.group, s.member))
			return e.flush()
		}
		path = path[:cut]
	}
}

// Rename gives a token or group another path. typ is the token's type, stated where the new group does not give it;
// "" for a group.
func (e *Editor) Rename(from, to string, typ Type) error {
	if err := e.flush(); err != nil {
		return err
	}
	s, rest := e.find(from)
	if rest != nil {
		return e.fail(0, from, "there is no such token in this file")
	}
	if there, left := e.find(to); left == nil {
		return e.fail(there.name().StartOffset, to, "there is a token or group of this name already")
	} else if there.member >= 0 && len(left) > 0 {
		if obj, ok := there.object(); !ok || isToken(obj) {
			return e.fail(there.name().StartOffset, to, "would lie inside a token")
		}
	}
	if typ != "" && e.typeAt(to) != typ {
		obj, _ := s.object()
		if _, stated := member(obj, "$type"); !stated {
			at := s.value().StartOffset + 1
			gap := string(obj.Members[0].Name.BeforeExtra)
			sep := ", "
			if strings.Contains(gap, "\n") {
				sep = ","
			} else {
				gap = ""
			}
			e.pending = append(e.pending, edit{at, at, gap + `"$type": ` + strconv.Quote(string(typ)) + sep})
			if err := e.flush(); err != nil {
				return err
			}
			s, _ = e.find(from)
		}
	}
	parent := func(p string) string { return p[:max(0, strings.LastIndexByte(p, '.'))] }
	name := to[strings.LastIndexByte(to, '.')+1:]
	if parent(from) == parent(to) {
		e.pending = append(e.pending, edit{s.name().StartOffset, s.name().EndOffset, quote(name)})
		return e.flush()
	}
	body := string(e.data[s.value().StartOffset:s.value().EndOffset])
	level := s.level
	if err := e.Remove(from); err != nil {
		return err
	}
	return e.insert([]addition{{strings.Split(to, "."), func(unit string, in int) string {
		return strings.ReplaceAll(body, "\n"+strings.Repeat(unit, level+1), "\n"+strings.Repeat(unit, in))
	}}})
}

func isToken(obj *hujson.Object) bool {
	_, value := member(obj, "$value")
	_, ref := member(obj, "$ref")
	return value || ref
}

// typeAt is the $type that the groups around a path give.
func (e *Editor) typeAt(path string) Type {
	obj, _ := e.root.Value.(*hujson.Object)
	var typ Type
	for _, name := range strings.Split(path, ".") {
		if obj == nil {
			break
		}
		if t, ok := member(obj, "$type"); ok {
			typ = Type(word(t))
		}
		next, _ := member(obj, name)
		obj, _ = next.Value.(*hujson.Object)
	}
	return typ
}

// Redirect makes every alias, pointer and $extends that leads to a renamed path lead to the new one. It says how many.
func (e *Editor) Redirect(from, to string) (int, error) {
	if err := e.flush(); err != nil {
		return 0, err
	}
	moved := func(path string) (string, bool) {
		if path == from {
			return to, true
		}
		rest, ok := strings.CutPrefix(path, from+".")
		return to + "." + rest, ok
	}
	n := len(e.pending)
	var walk func(v hujson.Value, key string)
	walk = func(v hujson.Value, key string) {
		switch x := v.Value.(type) {
		case *hujson.Object:
			for _, m := range x.Members {
				if key := word(m.Name); key != "$extensions" && key != "$description" && key != "$deprecated" {
					walk(m.Value, key)
				}
			}
		case *hujson.Array:
			for _, el := range x.Elements {
				walk(el, key)
			}
		case hujson.Literal:
			if x.Kind() != '"' {
				return
			}
			s := x.String()
			if inner, ok := strings.CutPrefix(s, "{"); ok && strings.HasSuffix(inner, "}") {
				if p, ok := moved(strings.TrimSuffix(inner, "}")); ok {
					e.pending = append(e.pending, edit{v.StartOffset, v.EndOffset, quote("{" + p + "}")})
				}
			} else if (key == "$ref" || key == "$extends") && strings.HasPrefix(s, "#/") {
				if p, ok := moved(strings.ReplaceAll(s[2:], "/", ".")); ok {
					e.pending = append(e.pending, edit{v.StartOffset, v.EndOffset, quote("#/" + strings.ReplaceAll(p, ".", "/"))})
				}
			}
		}
	}
	walk(e.root, "")
	n = len(e.pending) - n
	return n, e.flush()
}
