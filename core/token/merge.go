package token

import (
	"fmt"
	"sort"
	"strings"

	"github.com/tailscale/hujson"
)

// Conflict is something both sides changed, each in its own way. The merged file keeps ours, and holds the other two
// under our key in $extensions, so that it still is a token file and nothing is lost.
type Conflict struct {
	Path               string // of the token or group
	Property           string // "$value", "$description"; "" for the whole of it
	Base, Ours, Theirs string // JSON; "" where there is none
}

func (c Conflict) String() string {
	what := c.Path
	if c.Property != "" {
		what = join(c.Path, c.Property)
	}
	side := func(s string) string {
		if s == "" {
			return "removed"
		}
		return s
	}
	if c.Base == "" {
		return fmt.Sprintf("%s: added as %s here, as %s there", what, side(c.Ours), side(c.Theirs))
	}
	return fmt.Sprintf("%s: was %s; %s here, %s there", what, c.Base, side(c.Ours), side(c.Theirs))
}

// ThreeWay merges two edits of one token file, token by token and property by property. The result is ours with what
// theirs changed: every byte that theirs did not concern stays. An empty base is a file that both added.
func ThreeWay(base, ours, theirs []byte, file string) ([]byte, []Conflict, error) {
	if len(strings.TrimSpace(string(base))) == 0 {
		base = []byte("{}")
	}
	var sides [3]*hujson.Object
	for i, data := range [][]byte{base, ours, theirs} {
		v, err := parseJSON(data, file)
		if err != nil {
			err.Msg = []string{"the common ancestor: ", "our side: ", "their side: "}[i] + err.Msg
			return nil, nil, err
		}
		obj, ok := v.Value.(*hujson.Object)
		if !ok {
			return nil, nil, (&File{Name: file, src: data}).error(v.StartOffset, "", "a token file is a JSON object")
		}
		sides[i] = obj
	}
	whole, _ := parseJSON(ours, file)
	m := &merging{ours: ours, unit: indentUnit(ours)}
	m.object(sides[0], whole, sides[2], nil, false)
	out := apply(ours, m.edits)
	for _, c := range m.conflicts {
		var err error
		if out, err = mark(out, c); err != nil {
			return nil, nil, err
		}
	}
	var list []Conflict
	for _, c := range m.conflicts {
		list = append(list, c.conflict)
	}
	sort.Slice(list, func(i, j int) bool { return list[i].Path+list[i].Property < list[j].Path+list[j].Property })
	return out, list, nil
}

type merging struct {
	ours      []byte
	unit      string
	edits     []edit
	conflicts []clash
}

// clash is a conflict with the place of its mark.
type clash struct {
	conflict     Conflict
	at           []string // names down to the token or group
	base, theirs string   // JSON, null for removed
}

// indivisible reports whether a member is compared as a whole.
func indivisible(name string, inExtensions bool) bool {
	return !inExtensions && strings.HasPrefix(name, "$") && name != "$root" && name != "$extensions"
}

// compact is a value in one canonical form, for comparing.
func compact(v hujson.Value) string {
	c := v.Clone()
	sortMembers(&c)
	c.Minimize()
	return c.String()
}

func sortMembers(v *hujson.Value) {
	switch x := v.Value.(type) {
	case *hujson.Object:
		for i := range x.Members {
			sortMembers(&x.Members[i].Value)
		}
		sort.SliceStable(x.Members, func(i, j int) bool {
			return word(x.Members[i].Name) < word(x.Members[j].Name)
		})
	case *hujson.Array:
		for i := range x.Elements {
			sortMembers(&x.Elements[i])
		}
	}
}

// object merges the members of an object that both sides have. deep says that it lies inside $extensions.
func (m *merging) object(base *hujson.Object, ours hujson.Value, theirs *hujson.Object, at []string, deep bool) {
	obj := ours.Value.(*hujson.Object)
	var inserts []string
	removed := map[int]bool{}
	get := func(o *hujson.Object, name string) (hujson.Value, bool) {
		if o == nil {
			return hujson.Value{}, false
		}
		return member(o, name)
	}
	seen := map[string]bool{}
	visit := func(name string) {
		if seen[name] {
			return
		}
		seen[name] = true
		b, inBase := get(base, name)
		t, inTheirs := get(theirs, name)
		if inBase == inTheirs && (!inBase || compact(b) == compact(t)) {
			return // theirs did not change it
		}
		o, inOurs := member(obj, name)
		if inOurs == inTheirs && (!inOurs || compact(o) == compact(t)) {
			return // both say the same
		}
		unchanged := inOurs == inBase && (!inBase || compact(o) == compact(b))
		below := append(append([]string(nil), at...), name)
		bObj, _ := b.Value.(*hujson.Object)
		oObj, oIs := o.Value.(*hujson.Object)
		tObj, tIs := t.Value.(*hujson.Object)
		switch {
		case inOurs && inTheirs && oIs && tIs && (bObj != nil || !inBase) && !indivisible(name, deep) &&
			m.mixes(oObj, tObj, deep || name == "$extensions"):
			m.object(bObj, o, tObj, below, deep || name == "$extensions")
		case unchanged && inTheirs && inOurs:
			m.edits = append(m.edits, edit{o.StartOffset, o.EndOffset, m.shifted(t, len(at)+1)})
		case unchanged && inTheirs:
			if isToken(obj) && !strings.HasPrefix(name, "$") && !deep { // a token cannot hold it
				m.clash(below, name, deep, b, o, t)
				return
			}
			inserts = append(inserts, quote(name)+": "+m.shifted(t, len(at)+1))
		case unchanged:
			for i := range obj.Members {
				if word(obj.Members[i].Name) == name {
					removed[i] = true
				}
			}
		case !inOurs: // ours removed it, theirs changed it: theirs comes back, marked
			inserts = append(inserts, quote(name)+": "+m.shifted(t, len(at)+1))
			m.clash(below, name, deep, b, o, t)
		default:
			m.clash(below, name, deep, b, o, t)
		}
	}
	for _, o := range []*hujson.Object{base, theirs} {
		if o != nil {
			for i := range o.Members {
				visit(word(o.Members[i].Name))
			}
		}
	}
	m.members(ours, obj, removed, inserts, len(at))
}

// mixes reports whether two objects can be merged member by member: two groups, two tokens, or parts of extensions.
func (m *merging) mixes(a, b *hujson.Object, deep bool) bool { return deep || isToken(a) == isToken(b) }

// clash notes a conflict. Inside extensions and for properties the mark goes to the token they are of.
func (m *merging) clash(at []string, name string, deep bool, b, o, t hujson.Value) {
	c := clash{base: "null", theirs: "null"}
	say := func(v hujson.Value) string {
		if v.Value == nil {
			return ""
		}
		v = v.Clone()
		v.Minimize()
		return v.String()
	}
	c.conflict = Conflict{Base: say(b), Ours: say(o), Theirs: say(t)}
	if c.conflict.Base != "" {
		c.base = c.conflict.Base
	}
	if c.conflict.Theirs != "" {
		c.theirs = c.conflict.Theirs
	}
	end := len(at)
	for i, n := range at {
		if strings.HasPrefix(n, "$") && n != "$root" {
			end = i
			break
		}
	}
	c.at = at[:end]
	c.conflict.Path, c.conflict.Property = strings.Join(at[:end], "."), strings.Join(at[end:], ".")
	m.conflicts = append(m.conflicts, c)
}

// shifted is their text of a value, at our depth of nesting and indentation.
func (m *merging) shifted(v hujson.Value, level int) string {
	v = v.Clone()
	v.BeforeExtra, v.AfterExtra = nil, nil
	lines := strings.Split(v.String(), "\n")
	if len(lines) == 1 {
		return lines[0]
	}
	indent := func(s string) int { return len(s) - len(strings.TrimLeft(s, " \t")) }
	last := indent(lines[len(lines)-1])
	for i := 1; i < len(lines); i++ {
		lines[i] = strings.Repeat(m.unit, level) + lines[i][min(last, indent(lines[i])):]
	}
	return strings.Join(lines, "\n")
}

// members takes members out of our object and puts new ones at its end.
func (m *merging) members(v hujson.Value, obj *hujson.Object, removed map[int]bool, inserts []string, level int) {
	if len(removed)+len(inserts) == 0 {
		return
	}
	kept := -1
	for i := range obj.Members {
		if !removed[i] {
			kept = i
		}
	}
	for i := range obj.Members {
		if !removed[i] || i > kept {
			continue
		}
		mem := &obj.Members[i]
		m.edits = append(m.edits, edit{mem.Name.StartOffset - len(mem.Name.BeforeExtra), mem.Value.EndOffset +
			len(mem.Value.AfterExtra) + 1, ""})
	}
	inline := len(obj.Members) > 0 && !strings.Contains(string(m.ours[v.StartOffset:obj.Members[0].Name.StartOffset]),
		"\n")
	sep, open, shut := ",\n"+strings.Repeat(m.unit, level+1), "\n"+strings.Repeat(m.unit,
		level+1), "\n"+strings.Repeat(m.unit, level)
	if inline {
		sep, open, shut = ", ", "", ""
	}
	text := strings.Join(inserts, sep)
	start, end := v.StartOffset+1, v.EndOffset-1
	switch n := len(obj.Members); {
	case kept >= 0:
		start = obj.Members[kept].Value.EndOffset
		end = start
		if kept < n-1 { // the removed ones behind it go with their commas
			end = obj.Members[n-1].Value.EndOffset
		}
		if text != "" {
			text = sep + text
		}
	case text != "":
		text = open + text + shut
	}
	m.edits = append(m.edits, edit{start, end, text})
}

// mark writes a conflict into the merged file, beside what it is about.
func mark(data []byte, c clash) ([]byte, error) {
	property := c.conflict.Property
	if property == "" {
		property = "$"
	}
	at := append(append([]string(nil), c.at...), "$extensions", Extension, "conflict", property)
	return putMember(data, at, fmt.Sprintf(`{"base": %s, "theirs": %s}`, c.base, c.theirs))
}

// putMember sets a member of nested objects, which are made where they are missing.
func putMember(data []byte, names []string, json string) ([]byte, error) {
	v, err := parseJSON(data, "")
	if err != nil {
		return nil, err
	}
	for i, name := range names {
		obj, ok := v.Value.(*hujson.Object)
		if !ok {
			return apply(data, []edit{{v.StartOffset, v.EndOffset, nested(names[i:], json)}}), nil
		}
		next, has := member(obj, name)
		if has && i == len(names)-1 {
			return apply(data, []edit{{next.StartOffset, next.EndOffset, json}}), nil
		}
		if has {
			v = next
			continue
		}
		text := strings.TrimSuffix(strings.TrimPrefix(nested(names[i:], json), "{"), "}")
		if n := len(obj.Members); n > 0 {
			end := obj.Members[n-1].Value.EndOffset
			return apply(data, []edit{{end, end, ", " + text}}), nil
		}
		return apply(data, []edit{{v.StartOffset + 1, v.EndOffset - 1, text}}), nil
	}
	return data, nil
}

func nested(names []string, json string) string {
	if len(names) == 0 {
		return json
	}
	return "{" + quote(names[0]) + ": " + nested(names[1:], json) + "}"
}

// Conflicts are those that a merge left in a set's files, to be settled by setting the value.
func (s *Set) Conflicts() []Conflict {
	var out []Conflict
	for _, t := range s.Tokens {
		if len(t.node.props) < 3 {
			continue
		}
		ext, _ := t.node.prop("$extensions")
		own, _ := ext.member(Extension)
		by, _ := own.member("conflict")
		for _, m := range by.kids {
			side := func(key string) string {
				v, _ := m.value.member(key)
				if v.kind == 'n' {
					return ""
				}
				return v.String()
			}
			name, ours := m.name, ""
			if v, ok := t.node.prop(name); ok {
				ours = v.String()
			}
			if name == "$" {
				name = ""
			}
			out = append(out, Conflict{t.Path, name, side("base"), ours, side("theirs")})
		}
	}
	return out
}
