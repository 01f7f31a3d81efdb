package token

// Changed is what a context makes another than where nothing is chosen.
type Changed struct {
	Own    map[string]bool // paths of tokens whose own value is another
	Tokens []*Token        // those, and all that point to one of them, in the order of the set
}

// Changed reports what a context changes. It is worked out once.
func (l *Library) Changed(c Context) *Changed {
	l.mu.Lock()
	defer l.mu.Unlock()
	if known, ok := l.changed[c.Key()]; ok {
		return known
	}
	out := &Changed{Own: map[string]bool{}}
	list := c.Set.Tokens
	if c.Set.base == l.Base {
		list = c.Set.fresh
	}
	for _, t := range list {
		if !Same(t, l.Base.Get(t.Path)) {
			out.Own[t.Path] = true
		}
	}
	if len(out.Own) > 0 {
		out.Tokens = l.followers(c.Set, out.Own)
	}
	if l.changed == nil {
		l.changed = map[string]*Changed{}
	}
	l.changed[c.Key()] = out
	return out
}

// followers are the tokens of a set that change, and those that point to one. Who points to whom is as it is where
// nothing is chosen, but for the tokens that change themselves.
func (l *Library) followers(s *Set, own map[string]bool) []*Token {
	users := l.Base.Users()
	more := map[string][]string{}
	for p := range own {
		s.Get(p).Value.Aliases(func(to string) { more[to] = append(more[to], p) })
	}
	reached := make(map[string]bool, 2*len(own))
	var reach func(path string)
	reach = func(path string) {
		if reached[path] {
			return
		}
		reached[path] = true
		for _, u := range users[path] {
			reach(u.Path)
		}
		for _, p := range more[path] {
			reach(p)
		}
	}
	for p := range own {
		reach(p)
	}
	out := make([]*Token, 0, len(reached))
	for _, t := range s.Tokens {
		if reached[t.Path] {
			out = append(out, t)
		}
	}
	return out
}
