package token

import (
	"bytes"
	"fmt"
	"strings"
)

// What a set may come to hold: tokens, and groups that extend others.
const (
	MaxTokens  = 500_000
	MaxExtends = 20_000
)

// Resolve makes a set of files that stand side by side: a path that stands in two of them is a fault.
func Resolve(files ...*File) *Set {
	s := &Set{}
	var root *node
	for _, f := range files {
		if f.root != nil {
			root = merged(root, f.root, "", func(a, b *node, path string) {
				s.fault(b.file.error(b.at, path, fmt.Sprintf("this token stands in %s:%d too", a.file.Name, a.file.at(a.at).Line)))
			})
		}
	}
	return s.resolve(root, files, nil)
}

// Alone makes a set of files that belong to others not at hand: aliases may lead out of them.
func Alone(files ...*File) *Set {
	s := &Set{loose: true}
	var root *node
	for _, f := range files {
		if f.root != nil {
			root = merged(root, f.root, "", nil)
		}
	}
	return s.resolve(root, files, nil)
}

// layers lays files over each other, later ones over earlier ones. What was made is kept, so that the same layers give
// the same groups.
type layers struct {
	made map[[2]*node]*node
}

func (l *layers) root(files []*File) *node {
	var root *node
	for _, f := range files {
		switch {
		case f.root == nil:
		case root == nil:
			root = f.root
		default:
			key := [2]*node{root, f.root}
			next, ok := l.made[key]
			if !ok {
				next = merged(root, f.root, "", nil)
				if l.made == nil {
					l.made = map[[2]*node]*node{}
				}
				l.made[key] = next
			}
			root = next
		}
	}
	return root
}

// resolve reads the tokens of a tree: it follows $extends, reads every value and checks every alias. What stands in
// groups that base has, too, is taken over from it.
func (s *Set) resolve(root *node, files []*File, base *Set) *Set {
	s.byPath, s.files, s.root, s.spans = map[string]*Token{}, files, root, map[*node]span{}
	r := &resolving{set: s, extended: map[string]*node{}, busy: map[string]bool{}, faulty: map[string]bool{}}
	own := true
	for _, f := range files {
		own = own && !f.points && !f.extends
	}
	if own && base != nil && len(base.Faults) == 0 { // nothing in a group depends on what stands elsewhere
		s.base = base
	}
	if s.base == nil {
		n := 0
		for _, f := range files {
			n += f.count
		}
		s.byPath, s.Tokens, r.fresh = make(map[string]*Token, n), make([]*Token, 0, n), make([]*Token, 0, n)
	} else {
		s.Tokens = make([]*Token, 0, len(base.Tokens)+16)
	}
	if root != nil {
		r.walk(root, "", "", "")
	}
	s.fresh = r.fresh
	r.link()
	seen := map[*File]bool{}
	for _, f := range files {
		if !seen[f] {
			seen[f] = true
			s.Faults = append(s.Faults, f.faults...)
			s.Warnings = append(s.Warnings, f.warnings...)
		}
	}
	sortErrors(s.Faults)
	return s
}

func (s *Set) fault(err *Error) { s.Faults = append(s.Faults, *err) }

// merged is group a with what b says laid over it; both stay as they are.
func merged(a, b *node, path string, clash func(a, b *node, path string)) *node {
	if a == nil {
		return b
	}
	if a.token || b.token {
		if clash != nil {
			clash(a, b, path)
		}
		return b
	}
	out := *a
	out.kids = append(make([]*node, 0, len(a.kids)+len(b.kids)), a.kids...)
	if a.index != nil {
		out.index = make(map[string]int, len(a.kids)+len(b.kids))
		for i, k := range out.kids {
			out.index[k.name] = i
		}
	}
	out.wrong = a.wrong || b.wrong
	if b.typ != "" {
		out.typ = b.typ
	}
	if len(b.props) > 0 {
		out.props = nil
		for _, p := range a.props {
			if _, over := b.prop(p.key); !over {
				out.props = append(out.props, p)
			}
		}
		out.props = append(out.props, b.props...)
		if _, ok := b.prop("$extends"); ok {
			out.file, out.at = b.file, b.at
		}
	}
	for _, k := range b.kids {
		out.add(merged(a.kid(k.name), k, join(path, k.name), clash))
	}
	return &out
}

// resolving is the state of making one set.
type resolving struct {
	set      *Set
	extended map[string]*node // groups with $extends followed, by path
	busy     map[string]bool  // … that are being followed
	faulty   map[string]bool  // tokens left out for a fault of their own
	fresh    []*Token         // tokens that were not taken over
	steps    int              // of following references, so that no file can ask for endless work
	stepsEnd int              // … up to which the token at hand may go
}

// extend is a group with what it $extends beneath it.
func (r *resolving) extend(n *node, path string) *node {
	if len(n.props) == 0 {
		return n
	}
	ref, ok := n.prop("$extends")
	if !ok || n.token {
		return n
	}
	if done, ok := r.extended[path]; ok {
		return done
	}
	r.extended[path] = n // where it fails
	fail := func(format string, args ...any) *node {
		r.set.fault(n.file.error(ref.start, path, "$extends: "+fmt.Sprintf(format, args...)))
		return n
	}
	s, _ := text(ref)
	target := strings.TrimSuffix(strings.TrimPrefix(s, "{"), "}")
	if strings.HasPrefix(s, "#") {
		steps, err := pointer(s)
		if err != "" {
			return fail("%s", err)
		}
		target = strings.Join(steps, ".")
	} else if len(target) != len(s)-2 {
		return fail("%q names no group; write {group} or #/group", s)
	}
	if len(r.extended) > MaxExtends {
		if len(r.extended) == MaxExtends+1 {
			return fail("more than %d groups that extend others are not read", MaxExtends)
		}
		return n
	}
	if r.busy[path] || path == target || strings.HasPrefix(path, target+".") {
		return fail("leads back to itself")
	}
	r.busy[path] = true
	defer delete(r.busy, path)
	t, looped := r.find(target)
	switch {
	case looped:
		return fail("leads back to itself")
	case t == nil:
		return fail("there is no group %q", target)
	case t.token:
		return fail("%q is a token; only groups can be extended", target)
	}
	out := merged(t, n, path, nil)
	out.name, out.file, out.at = n.name, n.file, n.at
	r.extended[path] = out
	return out
}

// find goes to a path; looped says that a group on the way is just being extended.
func (r *resolving) find(path string) (n *node, looped bool) {
	n = r.set.root
	at := ""
	for _, name := range strings.Split(path, ".") {
		if n = r.extend(n, at); n == nil || n.token {
			return nil, false
		}
		n = n.kid(name)
		at = join(at, name)
		if n == nil {
			return nil, false
		}
		if r.busy[at] {
			return nil, true
		}
	}
	return r.extend(n, at), false
}

// walk reads the tokens of a group. typ and old are the $type and $deprecated of the groups around it.
func (r *resolving) walk(n *node, path string, typ Type, old string) {
	n = r.extend(n, path)
	if n.typ != "" {
		typ = n.typ
	}
	if n.wrong {
		typ = unknownType
	}
	if why, ok := n.deprecated(); ok {
		old = why
	}
	here := span{len(r.set.Tokens), 0, path, typ, old}
	if r.set.base != nil {
		if was, ok := r.set.base.spans[n]; ok && was.path == path && was.typ == typ && was.old == old {
			r.set.Tokens = append(r.set.Tokens, r.set.base.Tokens[was.from:was.to]...)
			return
		}
	}
	for _, k := range n.kids {
		if len(r.set.Tokens) >= MaxTokens {
			if len(r.set.Tokens) == MaxTokens && len(r.set.Faults) == 0 {
				r.set.fault(k.file.error(k.at, join(path, k.name), fmt.Sprintf("more than %d tokens are not read", MaxTokens)))
			}
			return
		}
		p := join(path, k.name)
		if k.token {
			r.token(k, p, typ, old)
		} else {
			r.walk(k, p, typ, old)
		}
	}
	here.to = len(r.set.Tokens)
	r.set.spans[n] = here
}

// unknownType stands for a type that is none: that is reported where it is stated, and not with every token.
const unknownType Type = "?"

func (r *resolving) token(n *node, path string, typ Type, old string) {
	inherited := n.typ == ""
	if !inherited {
		typ = n.typ
	}
	if n.wrong || typ == unknownType { // reported already
		r.faulty[path] = true
		return
	}
	v, err := r.value(n, path, typ)
	if err != nil {
		err.Path = path
		r.set.fault(err)
		r.faulty[path] = true
		return
	}
	if why, ok := n.deprecated(); ok {
		old = why
	}
	t := &Token{Path: path, Type: typ, Value: v, Description: n.words("$description"), Deprecated: old, Own: n.ours(),
		File: n.file.Name, node: n, inherited: inherited}
	r.set.Tokens = append(r.set.Tokens, t)
	r.set.byPath[path] = t
	r.fresh = append(r.fresh, t)
}

// value reads a token's value, once where it does not point into others.
func (r *resolving) value(n *node, path string, typ Type) (Value, *Error) {
	if n.read == typ && typ != "" && !n.pointed {
		if n.memoErr != nil {
			e := *n.memoErr
			return Value{}, &e
		}
		return n.memo, nil
	}
	v, stated := n.value()
	rd := &reader{file: n.file, path: path}
	if n.file.points && (!stated || bytes.Contains(v.raw, []byte(`"$ref"`))) {
		n.pointed = true
		r.stepsEnd = min(maxSteps, r.steps+maxStepsEach)
		var err *Error
		if v, err = r.expand(rd, v, typ, true, 0); err != nil {
			return Value{}, err
		}
	}
	n.memo, n.memoErr = rd.value(v, typ)
	n.read = typ
	if n.memoErr != nil {
		e := *n.memoErr
		return Value{}, &e
	}
	return n.memo, nil
}

// ours is what our key under $extensions holds.
func (n *node) ours() Own {
	if n.ownRead {
		return n.own
	}
	n.ownRead = true
	ext, _ := n.prop("$extensions")
	if v, ok := ext.member(Extension); ok {
		n.own = parseOwn(v.raw)
	}
	return n.own
}

// link checks that every alias leads to a token of the type wanted and never back, and gives aliases their types.
func (r *resolving) link() {
	l := &linker{resolving: r, state: make(map[*Token]int, len(r.fresh))}
	list, reported := r.fresh, len(r.set.Faults)
	for _, t := range r.fresh {
		if s := r.set.base; s != nil && t.Value.Alias == "" {
			if was := s.Get(t.Path); was == nil || was.Type != t.Type { // others may point to it as something else
				list = r.set.Tokens
			}
		}
	}
	for _, t := range list {
		l.visit(t)
	}
	if r.set.base == nil && len(l.bad) == 0 {
		for _, t := range r.fresh {
			t.end = r.end(t)
		}
	}
	if r.set.loose {
		r.set.Faults = r.set.Faults[:reported]
		return
	}
	if len(l.bad) == 0 {
		return
	}
	kept := r.set.Tokens[:0]
	for _, t := range r.set.Tokens {
		if l.bad[t] {
			delete(r.set.byPath, t.Path)
			continue
		}
		kept = append(kept, t)
	}
	r.set.Tokens = kept
}

// end follows a token's aliases, and notes on the way where they lead.
func (r *resolving) end(t *Token) *Token {
	if t.end == nil {
		t.end = t
		if next := r.set.byPath[t.Value.Alias]; t.Value.Alias != "" && next != nil {
			t.end = r.end(next)
		}
	}
	return t.end
}

type linker struct {
	*resolving
	state map[*Token]int // 1 under way, 2 done
	stack []*Token
	bad   map[*Token]bool
}

func (l *linker) fail(t *Token, format string, args ...any) {
	if l.bad == nil {
		l.bad = map[*Token]bool{}
	}
	if l.bad[t] {
		return
	}
	l.bad[t] = true
	at := t.node.at
	if v, _ := t.node.value(); v.start > 0 {
		at = v.start
	}
	l.set.fault(t.node.file.error(at, t.Path, fmt.Sprintf(format, args...)))
}

func (l *linker) visit(t *Token) {
	if l.state[t] != 0 {
		return
	}
	l.state[t] = 1
	l.stack = append(l.stack, t)
	// the type of what it points to counts before that of a group
	if t.Value.Alias != "" && t.inherited && l.set.byPath[t.Path] == t {
		t.Type = ""
	}
	l.value(t, t.Value, t.Type, true)
	l.stack = l.stack[:len(l.stack)-1]
	l.state[t] = 2
}

// value checks the aliases in a value of a type; whole for the token's own value.
func (l *linker) value(t *Token, v Value, want Type, whole bool) {
	if v.Alias != "" {
		target := l.set.Get(v.Alias)
		if target == nil {
			l.missing(t, v.Alias)
			return
		}
		if l.state[target] == 1 {
			l.looped(target)
			return
		}
		l.visit(target)
		switch {
		case l.bad[target]:
			l.fail(t, "{%s} has a fault itself", v.Alias)
		case want == "" && whole:
			t.Type = target.Type
		case want != "" && target.Type != want:
			l.fail(t, "{%s} is a %s, where a %s is wanted", v.Alias, target.Type, want)
		}
		return
	}
	if v.Parts != nil {
		for _, name := range partOrder {
			if p, ok := v.Parts[name]; ok && (p.Alias != "" || p.List != nil || p.Parts != nil) {
				want := partType(want, name)
				if name == "dashArray" {
					want = Dimension
				}
				l.value(t, p, want, false)
			}
		}
	}
	for _, e := range v.List {
		l.value(t, e, want, false)
	}
}

func (l *linker) missing(t *Token, path string) {
	n, _ := l.find(path)
	switch {
	case l.faulty[path]:
		l.fail(t, "{%s} has a fault itself", path)
	case n != nil && !n.token && n.kid("$root") != nil:
		l.fail(t, "{%s} is a group; its own token is {%s.$root}", path, path)
	case n != nil && !n.token:
		l.fail(t, "{%s} is a group, not a token", path)
	default:
		l.fail(t, "there is no token {%s}", path)
	}
}

// looped fails the tokens from one under way back to itself; the first says so.
func (l *linker) looped(to *Token) {
	i := len(l.stack) - 1
	for l.stack[i] != to {
		i--
	}
	var names []string
	for _, t := range l.stack[i:] {
		names = append(names, t.Path)
	}
	l.fail(to, "the alias leads back to itself: %s", strings.Join(append(names, to.Path), " → "))
	for _, t := range l.stack[i:] {
		l.bad[t] = true
	}
}
