package token

import (
	"slices"
	"sync"
)

// Library is all tokens of a workspace: the set that holds when nothing else is chosen, and one for each context of
// each modifier.
type Library struct {
	Base     *Set
	Contexts []Context
	resolver *Resolver
	// remembered are the tokens by context, of a library that a lock kept.
	remembered map[string][]*Token
	mu         sync.Mutex
	changed    map[string]*Changed // by context, once somebody asked
	rootPx     float64
}

// Context is one choice of one modifier, all others at their defaults.
type Context struct {
	Modifier string
	Name     string
	Default  bool // what Base holds
	Set      *Set
}

// Key names a context as the configuration does: "scheme.dark".
func (c Context) Key() string { return c.Modifier + "." + c.Name }

// Plain is the library of token files without a resolver.
func Plain(set *Set) *Library { return &Library{Base: set} }

// Library makes the sets of all contexts. A modifier without a default counts with its first context.
func (r *Resolver) Library() *Library {
	l := &Library{resolver: r}
	l.Base = l.Set(nil)
	for _, m := range r.Modifiers {
		for _, name := range m.Contexts {
			c := Context{m.Name, name, name == l.start(m), l.Base}
			if !c.Default {
				c.Set = l.Set(Input{m.Name: name})
			}
			l.Contexts = append(l.Contexts, c)
		}
	}
	return l
}

func (l *Library) start(m *Modifier) string {
	if m.Default != "" || len(m.Contexts) == 0 {
		return m.Default
	}
	return m.Contexts[0]
}

// Set is the tokens of a choice of contexts, the others at their defaults; nil for a choice there is not.
func (l *Library) Set(in Input) *Set {
	if l.resolver == nil {
		return l.Base
	}
	full := Input{}
	for _, m := range l.resolver.Modifiers {
		full[m.Name] = l.start(m)
	}
	for k, v := range in {
		full[k] = v
	}
	for name, context := range in {
		if m := l.resolver.modifier(name); m == nil || !slices.Contains(m.Contexts, context) {
			return nil
		}
	}
	var s *Set
	if l.remembered != nil {
		s = l.overlaid(full)
	} else {
		s = l.resolver.assemble(full, l.Base)
	}
	s.SetRoot(l.rootPx)
	return s
}

// Context finds a context by its key.
func (l *Library) Context(key string) (Context, bool) {
	for _, c := range l.Contexts {
		if c.Key() == key {
			return c, true
		}
	}
	return Context{}, false
}

// File is the token file that new tokens go to: the first that holds whatever is chosen; "" where a resolver names
// none.
func (l *Library) File() string {
	if l.resolver == nil {
		for _, f := range l.Base.files {
			return f.Name
		}
		return ""
	}
	for _, st := range l.resolver.steps {
		for _, f := range st.set {
			return f.Name
		}
	}
	return ""
}

// ContextFile is the token file that a context's own tokens stand in; "" where it has none.
func (l *Library) ContextFile(c Context) string {
	if m := l.resolver.modifier(c.Modifier); m != nil && len(m.layers[c.Name]) > 0 {
		return m.layers[c.Name][len(m.layers[c.Name])-1].Name
	}
	return ""
}

// Modifiers are the choices there are.
func (l *Library) Modifiers() []*Modifier {
	if l.resolver == nil {
		return nil
	}
	return l.resolver.Modifiers
}

// Err is the first fault of any context.
func (l *Library) Err() error {
	if err := l.Base.Err(); err != nil {
		return err
	}
	for _, c := range l.Contexts {
		if err := c.Set.Err(); err != nil {
			return err
		}
	}
	return nil
}

// Faults are those of all contexts, each once.
func (l *Library) Faults() []Error { return l.collect(func(s *Set) []Error { return s.Faults }) }

// Warnings are those of all contexts, each once.
func (l *Library) Warnings() []Error { return l.collect(func(s *Set) []Error { return s.Warnings }) }

func (l *Library) collect(of func(*Set) []Error) []Error {
	var out []Error
	seen := map[Error]bool{}
	put := func(list []Error) {
		for _, e := range list {
			if !seen[e] {
				seen[e] = true
				out = append(out, e)
			}
		}
	}
	put(of(l.Base))
	for _, c := range l.Contexts {
		put(of(c.Set))
	}
	sortErrors(out)
	return out
}

// Modern is a file of the library with every value in an older form as the format has it now; ok is false where there
// is none.
func (l *Library) Modern(name string) (data []byte, ok bool) {
	sets := []*Set{l.Base}
	for _, c := range l.Contexts {
		sets = append(sets, c.Set)
	}
	for _, s := range sets {
		for _, f := range s.files {
			if f.Name == name && len(f.old) > 0 {
				return apply(f.src, once(f.old)), true
			}
		}
	}
	return nil, false
}

// once leaves out edits of a place that has one already.
func once(list []edit) []edit {
	seen := map[int]bool{}
	var out []edit
	for _, e := range list {
		if !seen[e.start] {
			seen[e.start] = true
			out = append(out, e)
		}
	}
	return out
}
