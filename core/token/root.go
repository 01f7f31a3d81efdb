package token

// defaultRoot is what browsers take for 1rem, in px.
const defaultRoot = 16

// RootPx is the size of 1rem in px that the set counts with.
func (s *Set) RootPx() float64 {
	if s == nil || s.rootPx == 0 {
		return defaultRoot
	}
	return s.rootPx
}

// SetRoot says how many px 1rem is.
func (s *Set) SetRoot(px float64) { s.rootPx = px }

// SetRoot says how many px 1rem is, for every set of the library.
func (l *Library) SetRoot(px float64) {
	l.rootPx = px
	l.Base.SetRoot(px)
	for _, c := range l.Contexts {
		c.Set.SetRoot(px)
	}
}
