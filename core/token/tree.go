package token

import (
	"bytes"
	"fmt"
	"strings"
	"sync"

	"archetyp/core/markup"
)

// Extension is our key under $extensions; docs/workspace.md says what it holds.
const Extension = "archetyp"

// MaxNesting is how deep groups may lie in one another.
const MaxNesting = 64

// File is one token file: its groups and tokens as they stand there, values not yet read.
type File struct {
	Name     string
	src      []byte
	root     *node // nil where the file is no JSON object
	faults   []Error
	warnings []Error
	once     sync.Once
	lines    *markup.LineIndex
	old      []edit // older forms of values, and what they are to become
	points   bool   // there is a $ref in it
	extends  bool   // there is a $extends in it
	count    int    // tokens in it
	strange  bool   // members that the format does not know were reported
}

// node is a group or a token of a file.
type node struct {
	name    string
	file    *File
	at      int     // offset of its name
	kids    []*node // of a group
	index   map[string]int
	props   []prop // $type, $description and so on; of a token $value or $ref, too
	token   bool
	typ     Type
	wrong   bool // its $type is not known: said once, not for every token in it
	pointed bool // its value is put together from other places by $ref, so it may change with them
	read    Type // the type memo was read as; "" for not read
	memo    Value
	memoErr *Error
	own     Own
	ownRead bool
}

// prop is a property whose name begins with $.
type prop struct {
	key   string
	value *jsonValue
}

// prop is a property's value.
func (n *node) prop(key string) (jsonValue, bool) {
	for i := range n.props {
		if n.props[i].key == key {
			return *n.props[i].value, true
		}
	}
	return jsonValue{}, false
}

// value is a token's $value, or the {"$ref": …} that stands for one.
func (n *node) value() (v jsonValue, stated bool) {
	if v, ok := n.prop("$value"); ok {
		return v, true
	}
	ref, _ := n.prop("$ref")
	return jsonValue{kind: '{', start: ref.start, raw: ref.raw,
		kids: []jsonMember{{name: "$ref", at: ref.start, value: ref}}}, false
}

// few is how many kids are looked through one by one.
const few = 8

// find is the index of a kid; -1 for none.
func (n *node) find(name string) int {
	if n.index != nil {
		if i, ok := n.index[name]; ok {
			return i
		}
		return -1
	}
	for i, k := range n.kids {
		if k.name == name {
			return i
		}
	}
	return -1
}

func (n *node) kid(name string) *node {
	if i := n.find(name); i >= 0 {
		return n.kids[i]
	}
	return nil
}

func (n *node) add(k *node) {
	if i := n.find(k.name); i >= 0 {
		n.kids[i] = k
		return
	}
	n.kids = append(n.kids, k)
	switch {
	case n.index != nil:
		n.index[k.name] = len(n.kids) - 1
	case len(n.kids) > few:
		n.index = make(map[string]int, 2*len(n.kids))
		for i, o := range n.kids {
			n.index[o.name] = i
		}
	}
}

// Parse reads one token file. name stands for it in errors. Faults come out with the set that is made of it.
func Parse(data []byte, name string) *File {
	f := &File{Name: name, src: data, points: bytes.Contains(data, []byte(`"$ref"`)), extends: bytes.Contains(data,
		[]byte(`"$extends"`))}
	v, err := readJSON(data, name)
	if err != nil {
		f.faults = append(f.faults, *err)
		return f
	}
	if v.kind != '{' {
		f.fault(v.start, "", "a token file is a JSON object")
		return f
	}
	f.root = f.group(&v, "", "", 0)
	sortErrors(f.faults)
	sortErrors(f.warnings)
	return f
}

func (f *File) at(offset int) markup.Position {
	f.once.Do(func() { f.lines = markup.Lines(f.src) })
	return f.lines.Position(offset)
}

func (f *File) error(offset int, path, msg string) *Error {
	return &Error{f.Name, f.at(offset), path, msg}
}

func (f *File) fault(offset int, path, msg string) {
	f.faults = append(f.faults, *f.error(offset, path, msg))
}

func join(path, name string) string {
	if path == "" {
		return name
	}
	return path + "." + name
}

// groupKeys and tokenKeys are the properties the format knows.
var (
	groupKeys = map[string]bool{"$type": true, "$description": true, "$extensions": true, "$deprecated": true,
		"$extends": true, "$schema": true}
	tokenKeys = map[string]bool{"$type": true, "$description": true, "$extensions": true, "$deprecated": true,
		"$value": true, "$ref": true}
)

// group reads the members of a group.
func (f *File) group(obj *jsonValue, name, path string, at int) *node {
	n := &node{name: name, file: f, at: at}
	n.kids = make([]*node, 0, len(obj.kids))
	if len(obj.kids) > few {
		n.index = make(map[string]int, len(obj.kids))
	}
	var byCase map[string]string // lower-cased names
	for i := range obj.kids {
		m := &obj.kids[i]
		key, at := m.name, m.at
		if strings.HasPrefix(key, "$") && key != "$root" {
			f.property(n, path, key, m, groupKeys)
			continue
		}
		child := join(path, key)
		switch {
		case key == "" || strings.ContainsAny(key, "{}."):
			f.fault(at, path, fmt.Sprintf("%q cannot be a name: names hold no braces and no dots", key))
			continue
		case n.kid(key) != nil:
			f.fault(at, path, fmt.Sprintf("%q stands twice in this group", key))
			continue
		}
		inner := &m.value
		if inner.kind != '{' {
			f.fault(inner.start, child, "a token or a group is a JSON object")
			continue
		}
		if lower := strings.ToLower(key); lower != key || byCase != nil {
			if byCase == nil {
				byCase = n.byCase()
			}
			if other, ok := byCase[lower]; ok {
				f.warnings = append(f.warnings, *f.error(at, path, fmt.Sprintf(
					"%q and %q differ only in letter case, which some languages ignore; rename one", other, key)))
			}
			byCase[lower] = key
		}
		_, value := inner.member("$value")
		_, ref := inner.member("$ref")
		switch {
		case value || ref:
			n.add(f.token(inner, key, child, at))
		case key == "$root":
			f.fault(at, child, "$root is the token of a group itself, and has a $value")
		default:
			n.add(f.group(inner, key, child, at))
		}
	}
	return n
}

// byCase are the names of a group by their lower case.
func (n *node) byCase() map[string]string {
	out := map[string]string{}
	for _, k := range n.kids {
		out[strings.ToLower(k.name)] = k.name
	}
	return out
}

func (f *File) token(obj *jsonValue, name, path string, at int) *node {
	n := &node{name: name, file: f, at: at, token: true}
	n.props = make([]prop, 0, len(obj.kids))
	f.count++
	for i := range obj.kids {
		m := &obj.kids[i]
		key := m.name
		if !strings.HasPrefix(key, "$") || key == "$root" {
			_, token := m.value.member("$value")
			switch {
			case token || m.value.kind == '{' && len(m.value.kids) == 0:
				f.fault(m.at, path, fmt.Sprintf("%q cannot stand in a token: a token holds no other tokens", key))
			case !f.strange: // other programs' notes: said once a file
				f.strange = true
				f.warnings = append(f.warnings,
					*f.error(m.at, path,
						fmt.Sprintf("%q is not known to the format here, and not read; what other programs note belongs under $extensions",
							key)))
			}
			continue
		}
		f.property(n, path, key, m, tokenKeys)
	}
	_, value := n.prop("$value")
	if _, ref := n.prop("$ref"); value && ref {
		f.fault(at, path, "a token has a $value or a $ref, not both")
	}
	return n
}

// property keeps a member whose name begins with $, where it is as the format wants it.
func (f *File) property(n *node, path, key string, m *jsonMember, keys map[string]bool) {
	if !keys[key] {
		f.fault(m.at, path, fmt.Sprintf("%q is not known to the format here", key))
		return
	}
	if _, twice := n.prop(key); twice {
		f.fault(m.at, path, fmt.Sprintf("%q stands twice", key))
		return
	}
	v := m.value
	wrong := ""
	switch key {
	case "$type":
		t, _ := text(v)
		if !known(Type(t)) {
			n.wrong = true
			f.fault(v.start, path, fmt.Sprintf("the type %s is not known to the format", v.raw))
			return
		}
		n.typ = Type(t)
	case "$description", "$schema", "$extends", "$ref":
		if _, ok := text(v); !ok {
			wrong = key + " is a text"
		}
	case "$deprecated":
		if v.kind != 't' && v.kind != 'f' && v.kind != '"' {
			wrong = "$deprecated is true, false, or a text that says why"
		}
	case "$extensions":
		if v.kind != '{' {
			wrong = "$extensions is a JSON object"
		}
	}
	if wrong != "" {
		f.fault(v.start, path, wrong)
		return
	}
	n.props = append(n.props, prop{key, &m.value})
}

func (n *node) words(key string) string {
	v, _ := n.prop(key)
	s, _ := text(v)
	return s
}

// deprecated is why a token is, "" for not at all; ok is false where nothing is said.
func (n *node) deprecated() (why string, ok bool) {
	v, ok := n.prop("$deprecated")
	if !ok || v.kind == 'f' {
		return "", ok
	}
	if s, _ := text(v); s != "" {
		return s, true
	}
	return "deprecated", true
}
