package emit

import (
	"sort"
	"strings"

	"archetyp/core/css"
	"archetyp/core/token"
)

// scope is the part of an output that holds in one context.
type scope struct {
	context token.Context
	set     *token.Set
	own     map[string]bool // paths whose own value is another one here than at first
	tokens  []*token.Token  // those, and all that point to one of them: what has to be declared again
}

// scopes are those of all contexts but the defaults. includes says which tokens count.
func scopes(lib *token.Library, includes func(string) bool) []scope {
	var out []scope
	for _, c := range lib.Contexts {
		if c.Default {
			continue
		}
		changed := lib.Changed(c)
		if len(changed.Own) == 0 {
			continue
		}
		s := scope{context: c, set: c.Set, own: changed.Own}
		for _, t := range changed.Tokens {
			if includes(t.Path) {
				s.tokens = append(s.tokens, t)
			}
		}
		out = append(out, s)
	}
	return out
}

// declared are the paths of the tokens that have to be declared again.
func (s *scope) declared() map[string]bool {
	out := make(map[string]bool, len(s.tokens))
	for _, t := range s.tokens {
		out[t.Path] = true
	}
	return out
}

// Conditions are how a context is reached in CSS: at-rules ("@media (prefers-color-scheme: dark)") under which it
// holds on :root, and selectors within which it holds. What the configuration says counts; a context it leaves out is
// reached as its neighbours are, where their selectors name them; else by an attribute named after the modifier, and
// light and dark by the reader's preference.
func Conditions(lib *token.Library, c token.Context, configured map[string][]string) []string {
	if list, ok := configured[c.Key()]; ok {
		return list
	}
	reported := false
	for _, o := range lib.Contexts {
		list, ok := configured[o.Key()]
		if o.Modifier != c.Modifier || !ok {
			continue
		}
		reported = true
		var out []string
		for _, cond := range list {
			if with := strings.ReplaceAll(cond, css.String(o.Name), css.String(c.Name)); !atRule(cond) && with != cond {
				out = append(out, with)
			}
		}
		if len(out) > 0 {
			return out
		}
	}
	if reported {
		return nil
	}
	attribute := "[data-" + kebab(c.Modifier, "") + "=" + css.String(c.Name) + "]"
	if (c.Name == "dark" || c.Name == "light") && !c.Default {
		return []string{"@media (prefers-color-scheme: " + c.Name + ")", attribute}
	}
	return []string{attribute}
}

func atRule(condition string) bool { return strings.HasPrefix(condition, "@") }

// place is a condition of a scope as CSS: an at-rule around, and the selectors within it.
type place struct {
	around   []string
	selector string
}

// places are those of one context: each at-rule with :root, and all selectors together.
func places(conditions []string) (rules, selectors []place) {
	var list []string
	for _, c := range conditions {
		if atRule(c) {
			rules = append(rules, place{[]string{c}, ":root"})
		} else {
			list = append(list, c)
		}
	}
	if len(list) > 0 {
		selectors = []place{{nil, strings.Join(list, ", ")}}
	}
	return rules, selectors
}

// both is where two conditions hold at once: on one element, or one within the other.
func both(a, b place) place {
	out := place{around: append(append([]string(nil), a.around...), b.around...)}
	switch {
	case a.selector == ":root":
		out.selector = b.selector
	case b.selector == ":root":
		out.selector = a.selector
	default:
		x, y := ":is("+a.selector+")", ":is("+b.selector+")"
		out.selector = x + y + ", " + x + " " + y + ", " + y + " " + x
	}
	return out
}

// meeting is two or more contexts of different modifiers that change the same tokens: where they meet, the value is
// that of all together.
type meeting struct {
	input  token.Input
	keys   []string
	tokens map[string]bool
}

// maxMeetings bounds how many combinations of contexts are written out.
const maxMeetings = 256

// meetings finds the combinations of contexts that all declare a token, by what each declares. Defaults that can be
// reached by a selector count, too: within them, others' values have to hold again.
func meetings(lib *token.Library, declared map[string]map[string]bool) (list []meeting, dropped bool) {
	type part struct {
		m    meeting
		next int // index of the modifier to go on with
	}
	mods := lib.Modifiers()
	if len(mods) < 2 {
		return nil, false
	}
	queue := []part{}
	for i, m := range mods {
		for _, c := range m.Contexts {
			key := m.Name + "." + c
			if len(declared[key]) > 0 {
				queue = append(queue, part{meeting{token.Input{m.Name: c}, []string{key}, declared[key]}, i + 1})
			}
		}
	}
	for len(queue) > 0 {
		p := queue[0]
		queue = queue[1:]
		if len(p.m.keys) > 1 {
			if len(list) == maxMeetings {
				return list, true
			}
			list = append(list, p.m)
		}
		for i := p.next; i < len(mods); i++ {
			for _, c := range mods[i].Contexts {
				key := mods[i].Name + "." + c
				common := map[string]bool{}
				for path := range declared[key] {
					if p.m.tokens[path] {
						common[path] = true
					}
				}
				if len(common) == 0 {
					continue
				}
				in := token.Input{mods[i].Name: c}
				for k, v := range p.m.input {
					in[k] = v
				}
				queue = append(queue, part{meeting{in, append(append([]string(nil), p.m.keys...), key), common}, i + 1})
			}
		}
	}
	sort.SliceStable(list, func(i, j int) bool { return len(list[i].keys) < len(list[j].keys) })
	return list, false
}
