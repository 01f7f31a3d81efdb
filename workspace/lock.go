package workspace

import (
	"archetyp/core/drift"
	"bytes"
	"encoding/json"
	"fmt"
	"path"
	"path/filepath"
	"slices"
	"sort"
	"strings"
	"sync"

	"archetyp/core/match"
	"archetyp/core/token"

	fastjson "github.com/go-json-experiment/json"
)

// LockName is the file that holds what the last sync saw and wrote.
const LockName = "archetyp.lock"

// Lock is what the last sync saw and wrote. It is committed; it holds nothing of the machine or the time.
type Lock struct {
	Version int               `json:"version"`
	Program string            `json:"program"`
	Inputs  map[string]string `json:"inputs"`           // path → hash of what was read
	Linked  map[string]string `json:"linked,omitempty"` // path → hash of what the sources link to
	Outputs map[string]string `json:"outputs"`          // path → hash of what was written
	// what the sync had to say, kept for when nothing changed
	Summary json.RawMessage `json:"summary"`
	// output → hash of the edited file whose edits the tokens have
	Absorbed map[string]string `json:"absorbed,omitempty"`
	// of the site, as it was recorded last
	Drift     *drift.Standing                   `json:"drift,omitempty"`
	Tokens    map[string]LockedToken            `json:"tokens"`
	Modifiers []LockedModifier                  `json:"modifiers,omitempty"`
	Contexts  map[string]map[string]LockedToken `json:"contexts,omitempty"` // by context, the tokens that are others there
	Elements  map[string]*LockedElements        `json:"elements"`           // by source
	// since then: what a token is called now → what it was
	Renamed map[string]string `json:"renamed,omitempty"`
}

// LockedToken is a token as it was, and the elements that used it.
type LockedToken struct {
	Type  string   `json:"type"`
	Value string   `json:"value"`
	Own   string   `json:"own,omitempty"`  // what stands under our key in $extensions
	Uses  []string `json:"uses,omitempty"` // source#index into its elements

	// of the uses, those drawn with a value the token no longer has, by that value
	Behind map[string][]string `json:"behind,omitempty"`
	// by source, its uses as harvest.Harvest counts them: what its alias is used for, too
	Counts map[string]int `json:"counts,omitempty"`
}

// LockedModifier is a modifier of the resolver as it was.
type LockedModifier struct {
	Name     string   `json:"name"`
	Contexts []string `json:"contexts"`
	Default  string   `json:"default"`
}

// Library is the tokens as they were.
func (l *Lock) Library() *token.Library {
	var modifiers []*token.Modifier
	for _, m := range l.Modifiers {
		modifiers = append(modifiers, &token.Modifier{Name: m.Name, Contexts: m.Contexts, Default: m.Default})
	}
	contexts := map[string][]token.Remembered{}
	for key, m := range l.Contexts {
		contexts[key] = remembered(m)
	}
	return token.Recall(modifiers, remembered(l.Tokens), contexts)
}

// SetNow is the tokens as they were where no context is chosen, by the paths they have now.
func (l *Lock) SetNow() *token.Set { return token.Recall(nil, remembered(l.TokensNow()), nil).Base }

func remembered(m map[string]LockedToken) []token.Remembered {
	var paths []string
	for p := range m {
		paths = append(paths, p)
	}
	sort.Strings(paths)
	var out []token.Remembered
	for _, p := range paths {
		out = append(out, token.Remembered{Path: p, Type: token.Type(m[p].Type), Value: m[p].Value, Own: m[p].Own})
	}
	return out
}

// Rename notes that tokens have other paths now, by their paths before. What was written under the old ones stays known
// as it was until the next sync.
func (l *Lock) Rename(renamed map[string]string) {
	now := map[string]string{}
	for path, was := range l.Renamed {
		if next, again := renamed[path]; again {
			path = next
		}
		now[path] = was
	}
	for from, to := range renamed {
		if _, chained := l.Renamed[from]; !chained {
			now[to] = from
		}
	}
	l.Renamed = now
}

// Moved notes that a source has another path now.
func (l *Lock) Moved(from, to string) {
	l.Inputs[to], l.Elements[to] = l.Inputs[from], l.Elements[from]
	delete(l.Inputs, from)
	delete(l.Elements, from)
	move := func(uses []string) {
		for i, u := range uses {
			if index, ok := strings.CutPrefix(u, from+"#"); ok {
				uses[i] = to + "#" + index
			}
		}
	}
	for _, t := range l.Tokens {
		move(t.Uses)
		for _, uses := range t.Behind {
			move(uses)
		}
		if n, ok := t.Counts[from]; ok {
			delete(t.Counts, from)
			t.Counts[to] = n
		}
	}
}

// TokensNow are the tokens as they were, by the paths they have now; aliases lead there, too.
func (l *Lock) TokensNow() map[string]LockedToken {
	if len(l.Renamed) == 0 {
		return l.Tokens
	}
	now := map[string]string{}
	for path, was := range l.Renamed {
		now[was] = path
	}
	out := map[string]LockedToken{}
	for path, t := range l.Tokens {
		if to, ok := now[path]; ok {
			path = to
		}
		t.Value = token.Remembered{Type: token.Type(t.Type), Value: t.Value}.Lead(now)
		out[path] = t
	}
	return out
}

// SetTokens keeps the tokens of a library; uses are by path, those behind also by the value they show, and their counts
// by source.
func (l *Lock) SetTokens(lib *token.Library, uses map[string][]string, behind map[string]map[string][]string,
	counts map[string]map[string]int) {
	l.Tokens, l.Contexts, l.Modifiers = map[string]LockedToken{}, nil, nil
	keep := func(t *token.Token) LockedToken {
		r := token.Remember(t)
		return LockedToken{Type: string(r.Type), Value: r.Value, Own: r.Own}
	}
	for _, t := range lib.Base.Tokens {
		k := keep(t)
		k.Uses, k.Behind, k.Counts = uses[t.Path], behind[t.Path], counts[t.Path]
		l.Tokens[t.Path] = k
	}
	for _, m := range lib.Modifiers() {
		l.Modifiers = append(l.Modifiers, LockedModifier{m.Name, m.Contexts, m.Default})
	}
	for _, c := range lib.Contexts {
		if c.Default {
			continue
		}
		others := map[string]LockedToken{}
		for p := range lib.Changed(c).Own {
			others[p] = keep(c.Set.Get(p))
		}
		if l.Contexts == nil {
			l.Contexts = map[string]map[string]LockedToken{}
		}
		l.Contexts[c.Key()] = others
	}
}

// LockedElement is an element as it was: who it is, and a hash of its facts.
type LockedElement struct {
	match.Identity
	Facts string `json:"facts"`
}

// LockedElements are the elements of a source. They are read when they are asked for: most sources have not changed.
type LockedElements struct {
	raw  json.RawMessage
	list func() []LockedElement
}

// LockElements keeps elements in the form of JSON, an array of LockedElement.
func LockElements(raw json.RawMessage) *LockedElements {
	l := &LockedElements{}
	_ = l.UnmarshalJSON(raw) // cannot fail
	return l
}

// List is the elements; none where they have another form than this program writes.
func (l *LockedElements) List() []LockedElement {
	if l == nil {
		return nil
	}
	return l.list()
}

// MarshalJSON gives the JSON as it was.
func (l *LockedElements) MarshalJSON() ([]byte, error) { return l.raw, nil }

// UnmarshalJSON keeps the JSON.
func (l *LockedElements) UnmarshalJSON(data []byte) error {
	l.raw = bytes.Clone(data)
	l.list = sync.OnceValue(func() (list []LockedElement) {
		if fastjson.Unmarshal(l.raw, &list) != nil {
			return nil
		}
		return list
	})
	return nil
}

// lockVersion changes when the lock's form does; a lock of another form counts as none.
const lockVersion = 3

// ReadLock reads the lock; an absent or older one is empty. A damaged one is an error.
func (w *Workspace) ReadLock() (*Lock, error) { return w.readLock(false) }

// ReadLockHead reads the lock without tokens and elements, which is enough to tell whether anything has changed.
func (w *Workspace) ReadLockHead() (*Lock, error) { return w.readLock(true) }

func (w *Workspace) readLock(head bool) (*Lock, error) {
	empty := &Lock{Version: lockVersion}
	data, err := w.ReadFile(LockName)
	if Missing(err) {
		return empty, nil
	}
	if err != nil {
		return nil, err
	}
	if i := bytes.Index(data, []byte(tokensKey)); head && i > 0 { // the lock is written by us: what comes before is whole
		data = append(bytes.TrimRight(data[:i:i], ", \n"), '}')
	}
	var l Lock
	if err := fastjson.Unmarshal(data, &l); err != nil {
		if l, ok := w.unmergedLock(); ok {
			return l, nil
		}
		return nil, &FileError{File: LockName, Msg: "damaged: " + err.Error(),
			Hint: "Take it from version control, or remove it and run sync: everything is then made anew."}
	}
	if bad := l.badPath(); bad != "" {
		return nil, &FileError{File: LockName, Msg: fmt.Sprintf("damaged: %q is no place inside the workspace", bad),
			Hint: "Take it from version control, or remove it and run sync: everything is then made anew."}
	}
	if l.Version != lockVersion {
		empty.Outputs = l.Outputs // these are still ours
		return empty, nil
	}
	return &l, nil
}

// unmergedLock is our side of a lock that git knows as unmerged: with it everything can be made anew.
func (w *Workspace) unmergedLock() (*Lock, bool) {
	if !slices.Contains(w.Unmerged(), LockName) {
		return nil, false
	}
	for _, stage := range []string{":2:./", ":3:./", ":1:./"} {
		var l Lock
		data, err := w.git("show", stage+LockName)
		if err == nil && json.Unmarshal(data, &l) == nil && l.badPath() == "" {
			l.Program, l.Summary = "", nil // made anew
			return &l, true
		}
	}
	return &Lock{Version: lockVersion}, true
}

// badPath is a path of what was written that leads elsewhere; "" for none.
func (l *Lock) badPath() string {
	for _, m := range []map[string]string{l.Outputs, l.Linked, l.Absorbed} {
		for p := range m {
			if !filepath.IsLocal(filepath.FromSlash(p)) || path.Clean(p) != p {
				return p
			}
		}
	}
	return ""
}

// tokensKey begins the part of the lock that is only wanted when something has changed.
const tokensKey = "\n \"tokens\": {"

// JSON writes the lock: one line an entry, sorted, so that it merges well and never differs by chance.
func (l *Lock) JSON() ([]byte, error) {
	l.Version = lockVersion
	var b bytes.Buffer
	enc := json.NewEncoder(&b)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", " ")
	if err := enc.Encode(l); err != nil {
		return nil, err
	}
	return b.Bytes(), nil
}
