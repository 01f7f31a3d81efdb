package job

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/design"
	"archetyp/core/markup"
	"archetyp/core/match"
	"archetyp/workspace"
)

// changes says in words how the drawings differ from what the lock remembers.
func (s *Snapshot) changes() []string {
	out := s.Moved
	for _, d := range s.drawings {
		switch old, known := s.lock.Elements[d.name]; {
		case known && s.lock.Inputs[d.name] != s.in.hashOf(d.name):
			out = append(out, d.name+": "+differences(old.List(), d.record))
		case !known && len(s.lock.Elements) > 0:
			out = append(out, d.name+": a new source")
		}
	}
	for _, name := range sortedKeys(s.lock.Elements) {
		if s.in.hashOf(name) == "" && !s.unread[name] {
			out = append(out, name+": no longer a source")
		}
	}
	return out
}

// warnings are those of the drawings, one for each cause: where it first shows, and in how many drawings more.
func (s *Snapshot) warnings() []string {
	type cause struct {
		first string
		at    markup.Position
		more  int
	}
	by := map[string]*cause{}
	var order []string
	for _, d := range s.drawings {
		for _, w := range d.record.Warnings {
			if c := by[w.Msg]; c != nil {
				c.more++
				continue
			}
			by[w.Msg] = &cause{d.name, w.At, 0}
			order = append(order, w.Msg)
		}
	}
	var out []string
	for _, msg := range order {
		c := by[msg]
		at := fmt.Sprintf("%s:%d:%d", c.first, c.at.Line, c.at.Column)
		if c.more > 0 {
			at += fmt.Sprintf(" and in %d more", c.more)
		}
		out = append(out, at+": "+msg)
	}
	return out
}

// nowAt finds the elements that the lock remembers of a drawing among those there are now, by their place there.
func (s *Snapshot) nowAt(d *drawing) func(was int) (now int, ok bool) {
	if s.lock.Inputs[d.name] == s.in.hashOf(d.name) { // the same file has the same elements
		n := d.record.count()
		return func(was int) (int, bool) { return was, was < n }
	}
	at := map[int]int{}
	for _, p := range matched(s.lock.Elements[d.name].List(), identities(d.record.elements().List())) {
		at[p.Old] = p.New
	}
	return func(was int) (int, bool) {
		now, ok := at[was]
		return now, ok
	}
}

// matched pairs the elements a lock remembers of a source with those read now.
func matched(old []workspace.LockedElement, now []match.Identity) []match.Pair {
	return match.Match(identities(old), now)
}

func identities(list []workspace.LockedElement) []match.Identity {
	out := make([]match.Identity, len(list))
	for i := range list {
		out[i] = list[i].Identity
	}
	return out
}

// differences says in words how a source differs from what the lock remembers of it.
func differences(old []workspace.LockedElement, r *record) string {
	var changed []string
	now := r.elements().List()
	pairs := matched(old, identities(now))
	for _, p := range pairs {
		if _, group := slices.BinarySearch(r.Groups, p.New); !group && old[p.Old].Facts != now[p.New].Facts {
			changed = append(changed, now[p.New].Path)
		}
	}
	var parts []string
	if n := len(changed); n > 0 {
		list := strings.Join(changed[:min(n, 3)], ", ")
		if n > 3 {
			list += ", …"
		}
		parts = append(parts, fmt.Sprintf("%d changed (%s)", n, list))
	}
	if n := len(now) - len(pairs); n > 0 {
		parts = append(parts, fmt.Sprintf("%d new", n))
	}
	if n := len(old) - len(pairs); n > 0 {
		parts = append(parts, fmt.Sprintf("%d gone", n))
	}
	if len(parts) == 0 {
		return "edited, with the same facts"
	}
	return "elements " + strings.Join(parts, ", ")
}

func lockedElement(e *design.Element) workspace.LockedElement {
	return workspace.LockedElement{Identity: match.Of(e), Facts: factsHash(e)}
}

// factsHash is short for all that is known of an element.
func factsHash(e *design.Element) string {
	var b strings.Builder
	for _, f := range e.Facts() {
		b.WriteString(f.Name + "\x00" + f.Value + "\x00")
	}
	return workspace.Hash([]byte(b.String()))[:12]
}

// lockUse is how the lock names the element of a use: its source, and its place among the elements there.
func lockUse(source string, index int) string { return source + "#" + strconv.Itoa(index) }

// splitUse reads what lockUse wrote.
func splitUse(use string) (source string, index int, ok bool) {
	at := strings.LastIndexByte(use, '#')
	if at < 0 {
		return use, 0, false
	}
	index, err := strconv.Atoi(use[at+1:])
	return use[:at], index, err == nil
}
