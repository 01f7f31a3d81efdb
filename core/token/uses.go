package token

// Role is the use as names of colours tell it: text, surface, border or icon; the property itself for what is no colour.
func (u *Use) Role() string {
	if u.Property == "fill" {
		return "surface"
	}
	return u.Property
}

// roleWords are the uses that names of colours tell; any other name says nothing of where a colour may stand.
var roleWords = map[string]bool{"text": true, "surface": true, "border": true, "icon": true}

// Uses are the uses of a token of a set: of its own value, or of that of the token it leads to, as far as they are of the
// kind that its name tells (color.text.inverse is no fill), and of elements that go on having it while they show
// another value.
func (h *Harvest) Uses(set *Set, t *Token) []Use {
	out := []Use{}
	end, role := set.Resolve(t).Path, Role(t.Path)
	narrow := t.Type == Color && t.Value.Alias != "" && roleWords[role]
	for _, f := range h.Found {
		if f.Type != t.Type {
			continue
		}
		for i := range f.Uses {
			u := &f.Uses[i]
			switch {
			case u.Held == t.Path:
			case u.Held != "", f.Token != t.Path && f.Token != end, narrow && u.Role() != role:
				continue
			}
			out = append(out, *u)
		}
	}
	return out
}
