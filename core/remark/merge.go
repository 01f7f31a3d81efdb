package remark

import (
	"archetyp/core/threeway"
	"reflect"
	"slices"
)

// Merge merges two edits of one thread by what they were made from: entries of both sides in the order of time, and the
// front matter property by property. Of an entry that both edited, both texts stay. An empty base is a thread that both
// have. clashes are the properties and entries of which there are two versions now.
func Merge(id string, base, ours, theirs []byte) (out []byte, clashes []string, err error) {
	our, err := Read(id, ours)
	if err != nil {
		return nil, nil, err
	}
	their, err := Read(id, theirs)
	if err != nil {
		return nil, nil, err
	}
	was := &Thread{}
	if len(base) > 0 {
		if was, err = Read(id, base); err != nil {
			return nil, nil, err
		}
	}
	merged := *our
	merged.Entries = nil
	for _, e := range our.Entries {
		t, w := their.entry(e.ID), was.entry(e.ID)
		switch {
		case t == nil && w != nil && *w == e: // they took it away
			continue
		case t == nil || *t == e || w != nil && *t == *w:
		case w != nil && *w == e:
			e = *t
		default:
			e.Text += "\n\n> " + Name(t.By) + " at the same time:\n\n" + t.Text
			clashes = append(clashes, "entry "+e.ID)
		}
		merged.Entries = append(merged.Entries, e)
	}
	for _, e := range their.Entries {
		if w := was.entry(e.ID); our.entry(e.ID) == nil && (w == nil || *w != e) {
			merged.Entries = append(merged.Entries, e)
		}
	}
	if len(merged.Entries) == 0 {
		merged.Entries = our.Entries
	}
	merged.sort()
	merged.For = threeway.Set(was.For, our.For, their.For)
	merged.Tags = threeway.Set(was.Tags, our.Tags, their.Tags)
	switch {
	case our.Kind == was.Kind:
		merged.Kind = their.Kind
	case our.Kind != their.Kind && their.Kind != was.Kind:
		merged.other = map[string]string{"kind": their.Kind}
		clashes = append(clashes, "kind")
	}
	if reflect.DeepEqual(our.At, was.At) {
		merged.At, merged.Point, merged.LeadsTo = their.At, their.Point, their.LeadsTo
	}
	out, err = merged.Bytes()
	return out, clashes, err
}

func (t *Thread) entry(id string) *Entry {
	i := slices.IndexFunc(t.Entries, func(e Entry) bool { return e.ID == id })
	if i < 0 {
		return nil
	}
	return &t.Entries[i]
}
