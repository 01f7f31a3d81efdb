package token

import (
	"bytes"
	"fmt"
	"strings"
	"unicode/utf8"

	"archetyp/core/markup"

	"github.com/tailscale/hujson"
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
	lines    *markup.LineIndex
	old      []edit // older forms of values, and what they are to become
	points   bool   // there is a $ref in it
}

// node is a group or a token of a file.
type node struct {
	name    string
	file    *File
	at      int     // offset of its name
	kids    []*node // of a group
	index   map[string]int
	props   map[string]hujson.Value // $type, $description and so on; of a token $value or $ref, too
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

// value is a token's $value, or the {"$ref": …} that stands for one.
func (n *node) value() (v hujson.Value, stated bool) {
	if v, ok := n.props["$value"]; ok {
		return v, true
	}
	ref := n.props["$ref"]
	return hujson.Value{Value: &hujson.Object{Members: []hujson.ObjectMember{{Name: hujson.Value{Value: hujson.String("$ref")}, Value: ref}}},
		StartOffset: ref.StartOffset, EndOffset: ref.EndOffset}, false
}

func (n *node) kid(name string) *node {
	if i, ok := n.index[name]; ok {
		return n.kids[i]
	}
	return nil
}

func (n *node) add(k *node) {
	if n.index == nil {
		n.index = map[string]int{}
	}
	if i, ok := n.index[k.name]; ok {
		n.kids[i] = k
		return
	}
	n.index[k.name] = len(n.kids)
	n.kids = append(n.kids, k)
}

// Parse reads one token file. name stands for it in errors. Faults come out with the set that is made of it.
func Parse(data []byte, name string) *File {
	f := &File{Name: name, src: data, points: bytes.Contains(data, []byte(`"$ref"`))}
	v, err := parseJSON(data, name)
	if err != nil {
		f.faults = append(f.faults, *err)
		return f
	}
	obj, ok := v.Value.(*hujson.Object)
	if !ok {
		f.fault(v.StartOffset, "", "a token file is a JSON object")
		return f
	}
	f.root = f.group(obj, "", "", 0)
	return f
}

// ParseJSON reads strict JSON; the error is an *Error with the place.
func ParseJSON(data []byte, name string) (hujson.Value, error) {
	v, err := parseJSON(data, name)
	if err != nil {
		return v, err
	}
	return v, nil
}

// parseJSON reads strict JSON, and says where it is none.
func parseJSON(data []byte, name string) (hujson.Value, *Error) {
	fail := func(msg string) (hujson.Value, *Error) {
		return hujson.Value{}, &Error{name, markup.Position{Line: 1, Column: 1}, "", msg}
	}
	if !utf8.Valid(data) {
		return fail("not valid UTF-8; save the file as UTF-8")
	}
	if depth(data) > MaxNesting {
		return fail(fmt.Sprintf("groups more than %d deep are not read", MaxNesting))
	}
	v, err := hujson.Parse(data)
	if err != nil {
		line, col := 1, 1
		msg := err.Error()
		if n, _ := fmt.Sscanf(msg, "hujson: line %d, column %d:", &line, &col); n == 2 {
			_, msg, _ = strings.Cut(msg, ": ")
			_, msg, _ = strings.Cut(msg, ": ")
		}
		return hujson.Value{}, &Error{name, markup.Position{Line: line, Column: col}, "", "not valid JSON: " + msg}
	}
	if !v.IsStandard() {
		return fail("comments and trailing commas are no JSON; take them out")
	}
	return v, nil
}

// depth is the deepest nesting of brackets outside strings.
func depth(data []byte) int {
	d, most, inString := 0, 0, false
	for i := 0; i < len(data); i++ {
		switch c := data[i]; {
		case inString && c == '\\':
			i++
		case c == '"':
			inString = !inString
		case inString:
		case c == '{' || c == '[':
			d++
			most = max(most, d)
		case c == '}' || c == ']':
			d--
		}
	}
	return most
}

func (f *File) at(offset int) markup.Position {
	if f.lines == nil {
		f.lines = markup.Lines(f.src)
	}
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
	groupKeys = map[string]bool{"$type": true, "$description": true, "$extensions": true, "$deprecated": true, "$extends": true, "$schema": true}
	tokenKeys = map[string]bool{"$type": true, "$description": true, "$extensions": true, "$deprecated": true, "$value": true, "$ref": true}
)

// group reads the members of a group.
func (f *File) group(obj *hujson.Object, name, path string, at int) *node {
	n := &node{name: name, file: f, at: at}
	n.index = make(map[string]int, len(obj.Members))
	var byCase map[string]string // lower-cased names
	for i := range obj.Members {
		m := &obj.Members[i]
		key, _ := text(m.Name)
		at := m.Name.StartOffset
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
		inner, ok := m.Value.Value.(*hujson.Object)
		if !ok {
			f.fault(m.Value.StartOffset, child, "a token or a group is a JSON object")
			continue
		}
		if lower := strings.ToLower(key); lower != key || byCase != nil {
			byCase = f.caseClash(n, byCase, key, lower, path, at)
		}
		_, value := member(inner, "$value")
		_, ref := member(inner, "$ref")
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

// caseClash warns of names that differ by letter case alone. byCase is filled from the first such name on.
func (f *File) caseClash(n *node, byCase map[string]string, key, lower, path string, at int) map[string]string {
	if byCase == nil {
		byCase = map[string]string{}
		for _, k := range n.kids {
			byCase[strings.ToLower(k.name)] = k.name
		}
	}
	if other, ok := byCase[lower]; ok {
		f.warnings = append(f.warnings, *f.error(at, path, fmt.Sprintf("%q and %q differ by letter case alone, which some languages do not tell apart; rename one", other, key)))
	}
	byCase[lower] = key
	return byCase
}

func (f *File) token(obj *hujson.Object, name, path string, at int) *node {
	n := &node{name: name, file: f, at: at, token: true}
	for i := range obj.Members {
		m := &obj.Members[i]
		key, _ := text(m.Name)
		if !strings.HasPrefix(key, "$") || key == "$root" {
			f.fault(m.Name.StartOffset, path, fmt.Sprintf("%q cannot stand in a token: a token holds no other tokens", key))
			continue
		}
		f.property(n, path, key, m, tokenKeys)
	}
	_, value := n.props["$value"]
	if _, ref := n.props["$ref"]; value && ref {
		f.fault(at, path, "a token has a $value or a $ref, not both")
	}
	return n
}

// property keeps a member whose name begins with $, where it is as the format wants it.
func (f *File) property(n *node, path, key string, m *hujson.ObjectMember, keys map[string]bool) {
	if !keys[key] {
		f.fault(m.Name.StartOffset, path, fmt.Sprintf("%q is not known to the format here", key))
		return
	}
	if _, twice := n.props[key]; twice {
		f.fault(m.Name.StartOffset, path, fmt.Sprintf("%q stands twice", key))
		return
	}
	v := m.Value
	wrong := ""
	switch key {
	case "$type":
		t, _ := text(v)
		if !known(Type(t)) {
			n.wrong = true
			f.fault(v.StartOffset, path, fmt.Sprintf("the type %s is not known to the format", raw(v)))
			return
		}
		n.typ = Type(t)
	case "$description", "$schema", "$extends", "$ref":
		if _, ok := text(v); !ok {
			wrong = key + " is a text"
		}
	case "$deprecated":
		if l, ok := v.Value.(hujson.Literal); !ok || l.Kind() != 't' && l.Kind() != 'f' && l.Kind() != '"' {
			wrong = "$deprecated is true, false, or a text that says why"
		}
	case "$extensions":
		if _, ok := v.Value.(*hujson.Object); !ok {
			wrong = "$extensions is a JSON object"
		}
	}
	if wrong != "" {
		f.fault(v.StartOffset, path, wrong)
		return
	}
	if n.props == nil {
		n.props = make(map[string]hujson.Value, 2)
	}
	n.props[key] = v
}

func (n *node) words(key string) string {
	s, _ := text(n.props[key])
	return s
}

// deprecated is why a token is, "" for not at all; ok is false where nothing is said.
func (n *node) deprecated() (why string, ok bool) {
	l, ok := n.props["$deprecated"].Value.(hujson.Literal)
	switch {
	case !ok || l.Kind() == 'f':
		return "", ok
	case l.Kind() == '"' && l.String() != "":
		return l.String(), true
	}
	return "deprecated", true
}

func member(obj *hujson.Object, name string) (hujson.Value, bool) {
	for i := range obj.Members {
		if l, ok := obj.Members[i].Name.Value.(hujson.Literal); ok && len(l) >= 2 && (string(l[1:len(l)-1]) == name || strings.Contains(string(l), `\`) && l.String() == name) {
			return obj.Members[i].Value, true
		}
	}
	return hujson.Value{}, false
}

// raw is a value as it is written, for messages.
func raw(v hujson.Value) string { return strings.TrimSpace(string(v.Pack())) }

func text(v hujson.Value) (string, bool) {
	l, ok := v.Value.(hujson.Literal)
	if !ok || l.Kind() != '"' {
		return "", false
	}
	return l.String(), true
}
