package harvest

import "archetyp/core/token"

// Role is the use as names of colours tell it: text, surface, border or icon; the property itself for what is no
// colour.
func (u *Use) Role() string {
	if u.Property == "fill" {
		return "surface"
	}
	return u.Property
}

// roleWords are the uses that names of colours tell; any other name says nothing of where a colour may stand.
var roleWords = map[string]bool{"text": true, "surface": true, "border": true, "icon": true}

// Uses are the uses of a token of a set: of its own value, or of that of the token it leads to, as far as they are of
// the kind that its name tells (color.text.inverse is no fill), and of elements that go on having it while they show
// another value.
func (h *Harvest) Uses(set *token.Set, t *token.Token) []Use {
	out := []Use{}
	x := user{t, set.Resolve(t).Path}
	for _, f := range h.Found {
		for i := range f.Uses {
			if x.uses(f, &f.Uses[i]) {
				out = append(out, f.Uses[i])
			}
		}
	}
	return out
}

// Counts counts the uses of every token of a set by source, in one pass.
func (h *Harvest) Counts(set *token.Set) map[string]map[string]int {
	out := map[string]map[string]int{}
	h.each(set, func(t *token.Token, u *Use) {
		if out[t.Path] == nil {
			out[t.Path] = map[string]int{}
		}
		out[t.Path][u.Source]++
	})
	return out
}

// ByToken lists the uses of every token of a set, as Uses does for one, in one pass.
func (h *Harvest) ByToken(set *token.Set) map[string][]*Use {
	out := map[string][]*Use{}
	h.each(set, func(t *token.Token, u *Use) { out[t.Path] = append(out[t.Path], u) })
	return out
}

// each calls visit for every use of every token of a set.
func (h *Harvest) each(set *token.Set, visit func(t *token.Token, u *Use)) {
	users := map[string][]user{} // by the token they are or lead to
	for _, t := range set.Tokens {
		x := user{t, set.Resolve(t).Path}
		users[t.Path] = append(users[t.Path], x)
		if x.end != t.Path {
			users[x.end] = append(users[x.end], x)
		}
	}
	for _, f := range h.Found {
		for i := range f.Uses {
			u := &f.Uses[i]
			of := f.Token
			if u.Held != "" {
				of = u.Held
			}
			for _, x := range users[of] {
				if x.uses(f, u) {
					visit(x.Token, u)
				}
			}
		}
	}
}

// user is a token and the path of the one it leads to.
type user struct {
	*token.Token
	end string
}

// uses reports whether a use of a found value is one of the token.
func (t user) uses(f *Found, u *Use) bool {
	if f.Type != t.Type {
		return false
	}
	if u.Held != "" {
		return u.Held == t.Path
	}
	role := token.Role(t.Path)
	narrow := t.Type == token.Color && t.Value.Alias != "" && roleWords[role]
	return (f.Token == t.Path || f.Token == t.end) && !(narrow && u.Role() != role)
}
