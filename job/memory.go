package job

import (
	"encoding/json"
	"maps"
	"slices"
	"strings"

	"archetyp/workspace"
)

// lockOf is the lock of a run: what was read and made, in words that the next one understands.
func (s *Snapshot) lockOf(a *artefacts, summary *Summary) (*workspace.Lock, error) {
	words, err := json.Marshal(summary)
	if err != nil {
		return nil, err
	}
	l := &workspace.Lock{Program: Program, Inputs: maps.Clone(s.in.hashes), Linked: linked(s.drawings),
		Outputs: map[string]string{}, Summary: words,
		Elements: map[string]*workspace.LockedElements{}, Drift: s.lock.Drift}
	for p, f := range a.files {
		if f.stale {
			continue
		}
		if f.kind == workspace.Annotations { // it is people's, and only follows its elements
			l.Inputs[p] = workspace.Hash(f.data)
			continue
		}
		l.Outputs[p] = workspace.Hash(f.data)
		if _, input := l.Inputs[p]; input || f.kind == workspace.Texts {
			l.Inputs[p] = l.Outputs[p] // it is read again next time
		}
	}
	maps.Copy(l.Outputs, a.kept)
	s.carryOver(l)
	for _, d := range s.drawings {
		if d.record.count() > 0 {
			l.Elements[d.name] = d.record.elements()
		}
	}
	s.lockTokens(l)
	return l, nil
}

// lockTokens keeps the tokens, and where each is used.
func (s *Snapshot) lockTokens(l *workspace.Lock) {
	uses, behind := map[string][]string{}, map[string]map[string][]string{}
	show := func(path, shown, at string) {
		if behind[path] == nil {
			behind[path] = map[string][]string{}
		}
		behind[path][shown] = append(behind[path][shown], at)
	}
	for _, f := range s.Harvest.Found {
		for i := range f.Uses {
			u := &f.Uses[i]
			at := lockUse(u.Source, u.Index)
			if f.Token != "" {
				uses[f.Token] = append(uses[f.Token], at)
			}
			name, shown := s.names.use(f, u)
			if name.Path != "" && name.Path != f.Token {
				uses[name.Path] = append(uses[name.Path], at)
			}
			if name.Behind {
				show(name.Path, shown, at)
			}
		}
		for _, p := range s.former[f.Changes] { // a change that waits for a word keeps its places
			uses[f.Changes] = append(uses[f.Changes], lockUse(p.Source, p.Index))
		}
	}
	for path, t := range s.lock.TokensNow() { // of drawings that could not be read
		for _, u := range t.Uses {
			if s.isUnread(u) {
				uses[path] = append(uses[path], u)
			}
		}
		for text, list := range t.Behind {
			for _, u := range list {
				if s.isUnread(u) {
					show(path, text, u)
				}
			}
		}
	}
	tidy := func(list []string) []string {
		slices.Sort(list)
		return slices.Compact(list)
	}
	for p, list := range uses {
		uses[p] = tidy(list)
	}
	for _, m := range behind {
		for text, list := range m {
			m[text] = tidy(list)
		}
	}
	l.SetTokens(s.Tokens, uses, behind, s.Harvest.Counts(s.Tokens.Base))
}

// unreadMark makes the hash of a source in the lock another one than it ever has.
const unreadMark = "?"

// isUnread reports whether a use in the lock is of a source that could not be read.
func (s *Snapshot) isUnread(use string) bool {
	source, _, _ := splitUse(use)
	return s.unread[source]
}

// carryOver keeps in the lock what it knows of sources that could not be read, and of what was made of them. They count
// as changed, so that the next run looks at them again.
func (s *Snapshot) carryOver(l *workspace.Lock) {
	for source := range s.unread {
		delete(l.Inputs, source)
		if was, ok := s.lock.Inputs[source]; ok {
			l.Inputs[source] = strings.TrimSuffix(was, unreadMark) + unreadMark
			l.Elements[source] = s.lock.Elements[source]
		}
	}
	if len(s.unread) == 0 {
		return
	}
	for p, h := range s.lock.Outputs {
		if _, made := l.Outputs[p]; !made {
			l.Outputs[p] = h
		}
	}
}
