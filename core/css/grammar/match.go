package grammar

// Match holds a value against a grammar. It gives the parts in the order of the grammar, types read (colours, lengths,
// math); ok is false where the value is none of the grammar.
func (g *Grammar) Match(value []Part) (parts []Part, ok bool) {
	m := &matcher{in: value}
	for _, s := range m.match(g.root, state{}) {
		if s.at == len(value) {
			return s.parts(), true
		}
	}
	return nil, false
}

// Text is Match for the text of a value.
func (g *Grammar) Text(value string) ([]Part, bool) {
	in, err := Parts(value)
	if err != nil || len(in) == 0 {
		return nil, false
	}
	return g.Match(in)
}

// Prefix is the longest run at the beginning of a value that a grammar takes.
func (g *Grammar) Prefix(value []Part) (parts []Part, n int) {
	m := &matcher{in: value}
	for _, s := range m.match(g.root, state{}) {
		if s.at > n {
			parts, n = s.parts(), s.at
		}
	}
	return parts, n
}

// state is how far a match has come, and what it has taken so far.
type state struct {
	at   int
	last *taken
	n    int
}

// taken is a list of parts that grows at its end and shares its beginning.
type taken struct {
	part Part
	prev *taken
}

func (s state) with(p Part, to int) state {
	return state{to, &taken{p, s.last}, s.n + 1}
}

func (s state) parts() []Part {
	out := make([]Part, s.n)
	for i, t := s.n-1, s.last; i >= 0; i, t = i-1, t.prev {
		out[i] = t.part
	}
	return out
}

// matcher matches one value.
type matcher struct{ in []Part }

// match gives every state that a node can end in, those first that its order prefers.
func (m *matcher) match(n *node, s state) []state {
	switch n.op {
	case opNothing:
		return []state{s}
	case opWord:
		if s.at < len(m.in) && m.in[s.at].Kind == Word && equalFold(m.in[s.at].Text, n.text) {
			return []state{s.with(Part{Kind: Word, Text: n.text}, s.at+1)}
		}
		return nil
	case opMark:
		if s.at < len(m.in) && m.in[s.at].mark(n.text) {
			return []state{s.with(m.in[s.at], s.at+1)}
		}
		if n.text == "," && s.at == 0 { // nothing stands before it
			return []state{s}
		}
		return nil
	case opCall:
		if s.at < len(m.in) && m.in[s.at].Kind == Call && m.in[s.at].Text == n.text {
			if args, ok := (&Grammar{n.kids[0]}).Match(m.in[s.at].Args); ok {
				return []state{s.with(Part{Kind: Call, Text: n.text, Args: args}, s.at+1)}
			}
		}
		return nil
	case opType:
		return m.typed(n, s)
	case opSeq:
		now := []state{s}
		for _, k := range n.kids {
			if now = m.each(k, now); len(now) == 0 {
				return nil
			}
		}
		return now
	case opOr:
		var out []state
		for _, k := range n.kids {
			out = add(out, m.match(k, s)...)
		}
		return out
	case opRepeat:
		return m.repeat(n, s)
	}
	return m.unordered(n, s)
}

func (m *matcher) each(n *node, from []state) (out []state) {
	if len(from) == 1 {
		return m.match(n, from[0])
	}
	for _, s := range from {
		out = add(out, m.match(n, s)...)
	}
	return out
}

// add adds states that end where none does yet.
func add(out []state, more ...state) []state {
next:
	for _, s := range more {
		for _, o := range out {
			if o.at == s.at {
				continue next
			}
		}
		out = append(out, s)
	}
	return out
}

// fewEnds are as many ends of a repetition as are tried: of a long list only the last matter.
const fewEnds = 64

// repeat matches a{min,max}, longest first.
func (m *matcher) repeat(n *node, s state) []state {
	now := []state{s}
	var ends []state
	for count := 0; len(now) > 0; count++ {
		if count >= n.min {
			ends = append(now[:len(now):len(now)], ends[:min(len(ends), fewEnds)]...)
		}
		if count == n.max {
			break
		}
		from := now
		if n.commas && count > 0 {
			from = nil
			for _, s := range now {
				if s.at < len(m.in) && m.in[s.at].mark(",") {
					from = append(from, s.with(m.in[s.at], s.at+1))
				}
			}
		}
		next := m.each(n.kids[0], from)
		now = nil
		for _, x := range next {
			switch {
			case x.at > s.at && (len(from) == 0 || x.at > from[0].at):
				now = append(now, x)
			case count+1 >= n.min: // it takes nothing: once is as good as many times
				ends = append(ends, x)
			}
		}
	}
	return add(nil, ends...)
}

// slots is a state of a match in any order: which alternatives were taken, and what each took.
type slots struct {
	at   int
	mask uint32
	outs []state
}

// unordered matches a || b and a && b. What was taken comes out in the order of the grammar.
func (m *matcher) unordered(n *node, s state) []state {
	now := []slots{{at: s.at, outs: make([]state, len(n.kids))}}
	var ends []slots
	seen := map[[2]int]bool{}
	full := uint32(1)<<len(n.kids) - 1
	for len(now) > 0 {
		var next []slots
		for _, x := range now {
			if n.op == opAny && x.mask != 0 || n.op == opAll && m.optional(n, full&^x.mask) {
				ends = append([]slots{x}, ends...)
			}
			for i, k := range n.kids {
				if x.mask&(1<<i) != 0 {
					continue
				}
				for _, e := range m.match(k, state{at: x.at}) {
					key := [2]int{int(x.mask | 1<<i), e.at}
					if e.at == x.at || seen[key] {
						continue
					}
					seen[key] = true
					y := slots{e.at, x.mask | 1<<i, append([]state(nil), x.outs...)}
					y.outs[i] = e
					next = append(next, y)
				}
			}
		}
		now = next
	}
	var out []state
	for _, e := range ends {
		r := s
		for _, o := range e.outs {
			for _, p := range o.parts() {
				r = r.with(p, 0)
			}
		}
		r.at = e.at
		out = add(out, r)
	}
	return out
}

// optional reports whether the alternatives of a mask may all be left out.
func (m *matcher) optional(n *node, mask uint32) bool {
	for i, k := range n.kids {
		if mask&(1<<i) != 0 && !(k.op == opRepeat && k.min == 0) {
			return false
		}
	}
	return true
}

// typed matches a type: one of the basic ones, or one that a grammar defines.
func (m *matcher) typed(n *node, s state) []state {
	if n.read != nil {
		if s.at >= len(m.in) {
			return nil
		}
		p, ok := n.read(&m.in[s.at], n)
		if !ok {
			return nil
		}
		return []state{s.with(p, s.at+1)}
	}
	def, err := typeNode(n.text)
	if err != nil {
		return nil
	}
	return m.match(def, s)
}

// equalFold compares a text with one that is in lower case.
func equalFold(s, lower string) bool {
	if len(s) != len(lower) {
		return false
	}
	for i := 0; i < len(s); i++ {
		c := s[i]
		if c >= 'A' && c <= 'Z' {
			c += 'a' - 'A'
		}
		if c != lower[i] {
			return false
		}
	}
	return true
}
