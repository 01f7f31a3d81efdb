package phase

import (
	"maps"
	"reflect"
	"slices"

	"archetyp/core/match"
	"archetyp/core/threeway"

	"github.com/goccy/go-yaml"
)

// Conflict is an entry of which two people said different things at the same time. The merged file holds both.
type Conflict struct {
	Key          string `json:"key"`
	Ours, Theirs Statement
}

// Merge merges two edits of one file by what they were made from, entry by entry. What one side removed and the other
// changed stays. Anchors are bookkeeping: where both changed one, ours is taken.
func Merge(base, ours, theirs []byte) (out []byte, conflicts []Conflict, err error) {
	var sides [3]*Book
	for i, data := range [][]byte{base, ours, theirs} {
		if sides[i], err = Read(data); err != nil {
			return nil, nil, err
		}
	}
	b, o, t := sides[0], sides[1], sides[2]
	merged := &Book{Entries: map[string]*Entry{}, comments: o.comments}
	for k, c := range t.comments {
		if merged.comments == nil {
			merged.comments = yaml.CommentMap{}
		}
		if _, ok := merged.comments[k]; !ok {
			merged.comments[k] = c
		}
	}
	all := map[string]bool{}
	for _, side := range sides[1:] {
		for k := range side.Entries {
			all[k] = true
		}
	}
	for _, k := range slices.Sorted(maps.Keys(all)) {
		was, our, their := b.Entries[k], o.Entries[k], t.Entries[k]
		switch {
		case our != nil && their != nil && was == nil && !sameElement(&our.At, &their.At):
			merged.Entries[k] = our
			second := merged.free(k, all)
			merged.Entries[second] = their
		case our != nil && their != nil:
			e, clash := mergeEntry(was, our, their)
			merged.Entries[k] = e
			if clash {
				conflicts = append(conflicts, Conflict{k, our.Statement, their.Statement})
			}
		case our != nil && (was == nil || !reflect.DeepEqual(stated(our), stated(was))):
			merged.Entries[k] = our
		case their != nil && (was == nil || !reflect.DeepEqual(stated(their), stated(was))):
			merged.Entries[k] = their
		}
	}
	out, err = merged.Bytes()
	return out, conflicts, err
}

// stated is an entry without its bookkeeping.
func stated(e *Entry) Entry {
	s := *e
	s.At = match.Anchor{}
	return s
}

// sameElement reports whether two new entries with one key were made for one element.
func sameElement(a, b *match.Anchor) bool {
	return a.Source == b.Source && a.Screen == b.Screen && (a.Select == b.Select || a.ID != "" && a.ID == b.ID)
}

func (b *Book) free(stem string, taken map[string]bool) string {
	probe := &Book{Entries: maps.Clone(b.Entries)}
	for k := range taken {
		if probe.Entries[k] == nil {
			probe.Entries[k] = &Entry{}
		}
	}
	return probe.KeyFor(&match.Anchor{Screen: stem}, "")
}

// mergeEntry merges two edits of an entry; clash says that both said something else of it.
func mergeEntry(was, our, their *Entry) (e *Entry, clash bool) {
	if was == nil {
		was = &Entry{}
	}
	merged := *our
	switch {
	case our.Statement == their.Statement, their.Statement == was.Statement:
	case our.Statement == was.Statement:
		merged.Statement = their.Statement
	case our.Phase == their.Phase && our.Why == their.Why: // the same, said twice: the later one
		if their.On > our.On {
			merged.Statement = their.Statement
		}
	default:
		clash = true
	}
	merged.Or = threeway.Set(was.Or, our.Or, their.Or)
	if clash && !slices.Contains(merged.Or, their.Statement) {
		merged.Or = append(merged.Or, their.Statement)
	}
	merged.Tags = threeway.Set(was.Tags, our.Tags, their.Tags)
	slices.Sort(merged.Tags)
	if our.Due == was.Due {
		merged.Due = their.Due
	}
	if reflect.DeepEqual(our.At, was.At) {
		merged.At = their.At
	}
	return &merged, clash
}
