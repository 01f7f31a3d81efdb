package token

import (
	"bytes"
	"fmt"
	"path"
	"slices"
	"strings"
)

// ResolverVersion is the version of the Resolver module that is read.
const ResolverVersion = "2025.10"

// Modifier is a choice that a resolver offers: a scheme, a viewport, a brand.
type Modifier struct {
	Name        string
	Description string
	Contexts    []string // in file order
	Default     string   // "" where a choice has to be made
	layers      map[string][]*File
}

// Resolver says which token files are loaded, and in which order, for each choice of contexts.
// https://www.designtokens.org/tr/2025.10/resolver/
type Resolver struct {
	Name        string
	Description string
	Modifiers   []*Modifier // in the order they are applied
	Files       []string    // loaded, in the order met
	steps       []step
	faults      []Error
	warnings    []Error
	layers      layers
}

// step is a set, or a modifier, of the resolution order.
type step struct {
	set      []*File
	modifier *Modifier
}

// Input chooses a context of each modifier, by name.
type Input map[string]string

// ParseResolver reads a resolver file. load gives the bytes of a token file by its path, which is the reference in the
// resolver joined to the folder of file. Faults come out with the sets that are made.
func ParseResolver(data []byte, file string, load func(path string) ([]byte, error)) *Resolver {
	p := &resolverParser{file: &File{Name: file, src: data}, load: load, out: &Resolver{}, loaded: map[string]*File{},
		sets: map[string][]*File{}, modifiers: map[string]*Modifier{}, busy: map[string]bool{}}
	v, err := readJSON(data, file)
	if err != nil {
		p.file.faults = append(p.file.faults, *err)
	} else if v.kind == '{' {
		p.root = &v
		p.read()
	} else {
		p.fail(v, "a resolver is a JSON object")
	}
	p.out.faults, p.out.warnings = p.file.faults, p.file.warnings
	return p.out
}

// ResolverFiles lists the token files that a resolver names, in the order they stand there, without reading them.
func ResolverFiles(data []byte, file string) []string {
	v, err := readJSON(data, file)
	if err != nil {
		return nil
	}
	var out []string
	var walk func(v jsonValue)
	walk = func(v jsonValue) {
		if ref, ok := v.member("$ref"); ok {
			s, _ := text(ref)
			if name, _, _ := strings.Cut(s, "#"); name != "" && !strings.Contains(name, ":") && !strings.HasPrefix(name, "/") {
				if p := path.Join(path.Dir(file), name); !slices.Contains(out, p) {
					out = append(out, p)
				}
			}
		}
		for i := range v.kids {
			walk(v.kids[i].value)
		}
	}
	walk(v)
	return out
}

type resolverParser struct {
	file      *File
	root      *jsonValue
	load      func(string) ([]byte, error)
	out       *Resolver
	loaded    map[string]*File
	sets      map[string][]*File
	modifiers map[string]*Modifier
	busy      map[string]bool // references being followed
}

func (p *resolverParser) fail(v jsonValue, format string, args ...any) {
	p.file.fault(v.start, "", fmt.Sprintf(format, args...))
}

// keys refuses members that the module does not know.
func (p *resolverParser) keys(obj *jsonValue, where string, known ...string) {
	seen := map[string]bool{}
	for _, m := range obj.kids {
		key, at := m.name, jsonValue{start: m.at}
		ok := false
		for _, k := range known {
			ok = ok || k == key
		}
		if !ok {
			p.fail(at, "%q is not known in %s", key, where)
		}
		if seen[key] {
			p.fail(at, "%q stands twice in %s", key, where)
		}
		seen[key] = true
	}
}

func (p *resolverParser) words(obj *jsonValue, key string) string {
	v, ok := obj.member(key)
	s, isText := text(v)
	if ok && !isText {
		p.fail(v, "%s is a text", key)
	}
	return s
}

func (p *resolverParser) read() {
	p.keys(p.root, "a resolver", "$schema", "name", "version", "description", "sets", "modifiers", "resolutionOrder",
		"$extensions", "$defs")
	p.out.Name, p.out.Description = p.words(p.root, "name"), p.words(p.root, "description")
	top := *p.root
	if v, ok := p.root.member("version"); !ok {
		p.fail(top, "a resolver has a version: %q", ResolverVersion)
	} else if s, _ := text(v); s != ResolverVersion {
		p.fail(v, "the version %s is not read; %q is", v.raw, ResolverVersion)
	}
	for _, key := range []string{"sets", "modifiers"} {
		v, ok := p.root.member(key)
		if !ok {
			continue
		}
		if v.kind != '{' {
			p.fail(v, "%s is a JSON object, by name", key)
			continue
		}
		for _, m := range v.kids {
			if key == "sets" {
				p.set(m.name, m.value)
			} else {
				p.modifier(m.name, m.value)
			}
		}
	}
	v, ok := p.root.member("resolutionOrder")
	switch {
	case !ok:
		p.fail(top, "a resolver has a resolutionOrder: the sets and modifiers in the order they are applied")
	case v.kind != '[':
		p.fail(v, "resolutionOrder is a list")
	default:
		p.order(v.kids)
	}
}

// set is the layers of a named set, read once.
func (p *resolverParser) set(name string, v jsonValue) []*File {
	if p.busy["set "+name] {
		p.fail(v, "the set %q leads back to itself", name)
		return nil
	}
	if s, ok := p.sets[name]; ok {
		return s
	}
	obj := &v
	if v.kind != '{' {
		p.fail(v, "the set %q is a JSON object with sources", name)
		return nil
	}
	p.keys(obj, "a set", "description", "sources", "$extensions", "name", "type")
	p.words(obj, "description")
	sources, _ := obj.member("sources")
	if sources.kind != '[' {
		p.fail(v, "the set %q has a list of sources", name)
		return nil
	}
	p.busy["set "+name] = true
	defer delete(p.busy, "set "+name)
	p.sets[name] = p.sources(sources.kids, "set")
	return p.sets[name]
}

func (p *resolverParser) modifier(name string, v jsonValue) *Modifier {
	if m, ok := p.modifiers[name]; ok {
		return m
	}
	obj := &v
	if v.kind != '{' {
		p.fail(v, "the modifier %q is a JSON object with contexts", name)
		return nil
	}
	p.keys(obj, "a modifier", "description", "contexts", "default", "$extensions", "name", "type")
	m := &Modifier{Name: name, Description: p.words(obj, "description"), Default: p.words(obj, "default"),
		layers: map[string][]*File{}}
	p.modifiers[name] = m
	contexts, _ := obj.member("contexts")
	if contexts.kind != '{' || len(contexts.kids) == 0 {
		p.fail(v, "the modifier %q has contexts, at least one", name)
		return m
	}
	if len(contexts.kids) == 1 {
		p.file.warnings = append(p.file.warnings, *p.file.error(contexts.start, "",
			fmt.Sprintf("the modifier %q has one context only, so it modifies nothing; make it a set", name)))
	}
	for _, c := range contexts.kids {
		key := c.name
		if c.value.kind != '[' {
			p.fail(c.value, "the context %q is a list of sources", key)
			continue
		}
		if _, twice := m.layers[key]; twice {
			p.fail(jsonValue{start: c.at}, "%q stands twice in the contexts", key)
			continue
		}
		m.Contexts = append(m.Contexts, key)
		m.layers[key] = p.sources(c.value.kids, "modifier")
	}
	if d, ok := obj.member("default"); ok && m.layers[m.Default] == nil && !slices.Contains(m.Contexts, m.Default) {
		p.fail(d, "the default %q is no context of the modifier %q", m.Default, name)
	}
	return m
}

// sources reads a list of token files, parts of them, sets of this file, and tokens written in place.
func (p *resolverParser) sources(list []jsonMember, in string) []*File {
	out := []*File{}
	for i := range list {
		e := list[i].value
		obj := &e
		if e.kind != '{' {
			p.fail(e, `a source is tokens, or {"$ref": "file.tokens.json"}`)
			continue
		}
		ref, isRef := obj.member("$ref")
		if !isRef {
			out = append(out, p.inline(obj))
			continue
		}
		out = append(out, p.reference(ref, in)...)
	}
	return out
}

// inline is tokens written in the resolver itself.
func (p *resolverParser) inline(obj *jsonValue) *File {
	f := &File{Name: p.file.Name, src: p.file.src, points: bytes.Contains(p.file.src, []byte(`"$ref"`))}
	f.root = f.group(obj, "", "", 0)
	return f
}

// reference follows a $ref of a source.
func (p *resolverParser) reference(ref jsonValue, in string) []*File {
	s, ok := text(ref)
	if !ok || s == "" {
		p.fail(ref, "$ref is a text")
		return nil
	}
	file, fragment, pointed := strings.Cut(s, "#")
	if file != "" {
		f := p.part(ref, file, fragment, pointed)
		if f == nil {
			return nil
		}
		return []*File{f}
	}
	steps, fault := pointer(s)
	if fault != "" {
		p.fail(ref, "%s", fault)
		return nil
	}
	if p.busy[s] {
		p.fail(ref, "%s leads back to itself", s)
		return nil
	}
	p.busy[s] = true
	defer delete(p.busy, s)
	switch steps[0] {
	case "resolutionOrder":
		p.fail(ref, "nothing may point into the resolutionOrder")
		return nil
	case "modifiers":
		p.fail(ref, "a %s cannot use a modifier as a source", in)
		return nil
	case "sets":
		if len(steps) == 2 {
			if v, ok := p.within(steps); ok {
				return p.set(steps[1], v)
			}
		}
	default:
		if v, ok := p.within(steps); ok {
			if inner, ok := v.member("$ref"); ok {
				return p.reference(inner, in)
			}
			switch v.kind {
			case '{':
				return []*File{p.inline(&v)}
			case '[':
				return p.sources(v.kids, in)
			}
		}
	}
	p.fail(ref, "there is no %s", s)
	return nil
}

// within is what a pointer into the resolver means.
func (p *resolverParser) within(steps []string) (jsonValue, bool) {
	return inside(*p.root, steps)
}

func inside(v jsonValue, steps []string) (jsonValue, bool) {
	for _, s := range steps {
		var ok bool
		if v, ok = v.member(s); !ok {
			return v, false
		}
	}
	return v, true
}

// part is a token file, or the part of one that a fragment means.
func (p *resolverParser) part(ref jsonValue, file, fragment string, pointed bool) *File {
	if strings.Contains(file, ":") || strings.HasPrefix(file, "/") {
		p.fail(ref, "%q: only files beside the resolver are read, by a relative path", file)
		return nil
	}
	name := path.Join(path.Dir(p.file.Name), file)
	key := name + "#" + fragment
	if f, ok := p.loaded[key]; ok {
		return f
	}
	whole, ok := p.loaded[name+"#"]
	if !ok {
		data, err := p.load(name)
		if err != nil {
			p.fail(ref, "%s: %v", file, err)
			return nil
		}
		whole = Parse(data, name)
		p.loaded[name+"#"] = whole
		p.out.Files = append(p.out.Files, name)
	}
	if !pointed || fragment == "" || whole.root == nil {
		return whole
	}
	steps, fault := pointer("#" + fragment)
	v, _ := readJSON(whole.src, name)
	v, there := inside(v, steps)
	if fault != "" || !there || v.kind != '{' {
		p.fail(ref, "there is no #%s in %s", fragment, file)
		return nil
	}
	f := &File{Name: name, src: whole.src, points: whole.points}
	f.root = f.group(&v, "", "", 0)
	p.loaded[key] = f
	return f
}

// order reads the resolution order.
func (p *resolverParser) order(list []jsonMember) {
	names := map[string]bool{}
	for i := range list {
		e := list[i].value
		obj := &e
		if e.kind != '{' {
			p.fail(e, `an item of the resolutionOrder is {"$ref": "#/sets/…"}, {"$ref": "#/modifiers/…"}, or a set or modifier itself`)
			continue
		}
		ref, isRef := obj.member("$ref")
		kind, name := p.words(obj, "type"), p.words(obj, "name")
		v := e
		if isRef {
			s, _ := text(ref)
			steps, fault := pointer(s)
			if fault != "" || len(steps) != 2 || steps[0] != "sets" && steps[0] != "modifiers" {
				p.fail(ref, "%s is no set and no modifier of this file; write #/sets/… or #/modifiers/…", ref.raw)
				continue
			}
			var ok bool
			if v, ok = p.within(steps); !ok {
				p.fail(ref, "there is no %s", s)
				continue
			}
			kind, name = strings.TrimSuffix(steps[0], "s"), steps[1]
			p.add(kind, name, v)
			continue
		}
		switch {
		case name == "":
			p.fail(e, "a set or modifier in the resolutionOrder has a name")
		case kind != "set" && kind != "modifier":
			p.fail(e, `a set or modifier in the resolutionOrder has a type: "set" or "modifier"`)
		case names[kind+name] || kind == "set" && p.sets[name] != nil || kind == "modifier" && p.modifiers[name] != nil:
			p.fail(e, "there is a %s %q already", kind, name)
		default:
			names[kind+name] = true
			p.add(kind, name, v)
		}
	}
}

func (p *resolverParser) add(kind, name string, v jsonValue) {
	if kind == "set" {
		p.out.steps = append(p.out.steps, step{set: p.set(name, v)})
		return
	}
	if m := p.modifier(name, v); m != nil {
		p.out.steps = append(p.out.steps, step{modifier: m})
		for _, have := range p.out.Modifiers {
			if have == m {
				return
			}
		}
		p.out.Modifiers = append(p.out.Modifiers, m)
	}
}

// Err is the first fault of the resolver file itself, or nil.
func (r *Resolver) Err() error {
	if len(r.faults) == 0 {
		return nil
	}
	return &r.faults[0]
}

// Check says what is wrong with an input: unknown modifiers and contexts, and choices that have to be made.
func (r *Resolver) Check(in Input) error {
	for name, context := range in {
		m := r.modifier(name)
		if m == nil {
			return fmt.Errorf("there is no modifier %q", name)
		}
		if !slices.Contains(m.Contexts, context) {
			return fmt.Errorf("the modifier %q has no context %q; its contexts are %s", name, context,
				strings.Join(m.Contexts, ", "))
		}
	}
	for _, m := range r.Modifiers {
		if _, chosen := in[m.Name]; !chosen && m.Default == "" {
			return fmt.Errorf("the modifier %q has no default: choose one of %s", m.Name, strings.Join(m.Contexts, ", "))
		}
	}
	return nil
}

func (r *Resolver) modifier(name string) *Modifier {
	for _, m := range r.Modifiers {
		if m.Name == name {
			return m
		}
	}
	return nil
}

// Resolve makes the set of one choice of contexts: later layers override earlier ones, and only then are aliases
// followed.
func (r *Resolver) Resolve(in Input) (*Set, error) {
	if err := r.Check(in); err != nil {
		return nil, err
	}
	return r.assemble(in, nil), nil
}

// assemble makes the set of a full input; base is one that it may be like.
func (r *Resolver) assemble(in Input, base *Set) *Set {
	var files []*File
	for _, st := range r.steps {
		if st.modifier == nil {
			files = append(files, st.set...)
			continue
		}
		context, ok := in[st.modifier.Name]
		if !ok {
			context = st.modifier.Default
		}
		files = append(files, st.modifier.layers[context]...)
	}
	s := (&Set{}).resolve(r.layers.root(files), files, base)
	s.Faults = append(append([]Error(nil), r.faults...), s.Faults...)
	s.Warnings = append(append([]Error(nil), r.warnings...), s.Warnings...)
	return s
}
