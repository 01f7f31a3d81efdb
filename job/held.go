package job

import (
	"archetyp/core/design"
	"archetyp/core/match"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/core/token/harvest"
	"archetyp/workspace"
	"sync"
)

// holder knows from the lock which elements go on having a token whose value has changed since they were drawn with it.
type holder struct {
	bySource map[string][]holding
}

type holding struct {
	index int // of the element, at the last sync
	emit.Holding
}

// newHolder compares the tokens of the last sync with those of now.
func newHolder(lock *workspace.Lock, set *token.Set) *holder {
	h := &holder{bySource: map[string][]holding{}}
	was := sync.OnceValue(func() *token.Set {
		s := lock.SetNow()
		s.SetRoot(set.RootPx())
		return s
	})
	locked := lock.TokensNow()
	same := map[string]bool{}
	for _, path := range sortedKeys(locked) {
		t := locked[path]
		now := set.Get(path)
		if now == nil || len(t.Uses) == 0 {
			continue
		}
		drawn := emit.Drawn(set, now)
		before := drawn
		if !unchanged(set, path, locked, same) {
			old := was().Get(path)
			if old == nil {
				continue
			}
			before = emit.Drawn(was(), old)
		}
		behind := map[string]string{}
		for text, uses := range t.Behind {
			for _, u := range uses {
				behind[u] = text
			}
		}
		for _, u := range t.Uses {
			shown := before
			if text, ok := behind[u]; ok {
				shown = text
			}
			if source, i, ok := splitUse(u); ok && shown != drawn {
				h.bySource[source] = append(h.bySource[source], holding{i, emit.Holding{Path: path, Shown: shown}})
			}
		}
	}
	return h
}

// unchanged reports whether a token, and every one that its value leads to, is written as at the last sync. It is much
// quicker than working its value then out; same remembers the answers.
func unchanged(set *token.Set, path string, locked map[string]workspace.LockedToken, same map[string]bool) bool {
	if known, ok := same[path]; ok {
		return known
	}
	same[path] = false // one that leads to itself has no value
	now, was := set.Get(path), locked[path]
	if now == nil {
		return false
	}
	r := token.Remember(now)
	ok := string(r.Type) == was.Type && r.Value == was.Value && r.Own == was.Own
	now.Value.Aliases(func(to string) { ok = ok && unchanged(set, to, locked, same) })
	same[path] = ok
	return ok
}

// of lists what the elements of a document hold; then are those of the last sync by their place in the lock.
func (h *holder) of(source string, doc *design.Document,
	then map[int]*design.Element) map[*design.Element][]emit.Holding {
	out := map[*design.Element][]emit.Holding{}
	for _, x := range h.bySource[source] {
		if e := then[x.index]; e != nil {
			out[e] = append(out[e], x.Holding)
		}
	}
	return out
}

// then finds the elements that the lock remembers of a source in what was read now, by their place in the lock. same
// says that the file is the same as then.
func then(lock *workspace.Lock, source string, same bool, doc *design.Document) map[int]*design.Element {
	old, all := lock.Elements[source].List(), doc.All()
	out := make(map[int]*design.Element, len(old))
	if same && len(old) == len(all) { // the same file has the same elements
		for i, e := range all {
			out[i] = e
		}
		return out
	}
	if len(old) > 0 {
		now := make([]match.Identity, len(all))
		for i, e := range all {
			now[i] = match.Of(e)
		}
		for _, p := range matched(old, now) {
			out[p.Old] = all[p.New]
		}
	}
	return out
}

// Apart is a token that says one thing where a drawing shows another.
type Apart struct {
	Source string `json:"source"`
	Token  string `json:"token"`
	Value  string `json:"value"` // of the token
	Shown  string `json:"shown"` // in the drawing
	Places int    `json:"places"`
	Of     int    `json:"of,omitempty"`    // places that have the token, where the drawing is ahead
	Ahead  bool   `json:"ahead,omitempty"` // the drawing changed, not the token
	First  string `json:"first"`           // the first place
}

// aparts lists where drawings and tokens are apart, those behind first.
func aparts(h *harvest.Harvest, set *token.Set) []Apart {
	var behind, ahead []Apart
	type pair struct{ source, token string }
	for _, f := range h.Found {
		at := map[pair]int{} // place in the list
		put := func(list *[]Apart, u harvest.Use, path string, a Apart) {
			key := pair{u.Source, path}
			i, ok := at[key]
			if !ok {
				i = len(*list)
				at[key] = i
				a.Source, a.Token, a.Value, a.Shown, a.First = u.Source, path, emit.Literal(set,
					set.Get(path)), f.Text, u.Screen+": "+u.Element
				*list = append(*list, a)
			}
			(*list)[i].Places++
		}
		for _, u := range f.Uses {
			if u.Held != "" {
				put(&behind, u, u.Held, Apart{})
			} else if f.Changes != "" {
				_, of := f.Moved()
				put(&ahead, u, f.Changes, Apart{Ahead: true, Of: of})
			}
		}
	}
	return append(behind, ahead...)
}

// kindOf is the kind of value that a use of a found value is, as a Finder knows it.
func kindOf(f *harvest.Found, u *harvest.Use) string {
	if f.Kind != "color" {
		return f.Kind
	}
	return "color:" + u.Role()
}

// StillShown counts by source the places that show a value which some of the given tokens, and those that lead to them,
// no longer have. It reads the lock alone.
func StillShown(ws *workspace.Workspace, set *token.Set, paths []string) (map[string]int, error) {
	lock, err := ws.ReadLock()
	if err != nil {
		return nil, err
	}
	asked := map[string]bool{}
	for _, p := range paths {
		asked[p] = true
	}
	out := map[string]int{}
	for source, list := range newHolder(lock, set).bySource {
		seen := map[int]bool{}
		for _, x := range list {
			for _, t := range set.Chain(set.Get(x.Path)) {
				if asked[t.Path] && !seen[x.index] {
					seen[x.index] = true
					out[source]++
				}
			}
		}
	}
	return out, nil
}
