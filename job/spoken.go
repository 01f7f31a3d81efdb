package job

import (
	"path"
	"reflect"
	"strings"

	"archetyp/core/match"
	"archetyp/core/phase"
	"archetyp/core/remark"
	"archetyp/workspace"
)

// spokenFiles are the files of the phases and of the remarks, where there may be some.
func spokenFiles(ws *workspace.Workspace) []string {
	out := []string{phase.FileName}
	found, err := ws.Glob([]string{remark.Dir + "/*.md"})
	if err != nil { // a folder that cannot be read has none
		return out
	}
	for _, f := range found {
		if remarkFile(f) {
			out = append(out, f)
		}
	}
	return out
}

// remarkFile reports whether a file of the folder is a remark; a README is none.
func remarkFile(file string) bool { return !strings.EqualFold(path.Base(file), "readme.md") }

// makeSpoken brings up to date what phases and remarks remember their elements by, where drawings changed since the last
// sync. What lost its element keeps what it remembers.
func (s *Snapshot) makeSpoken(a *artefacts) error {
	if len(s.unread) > 0 {
		return nil
	}
	book, err := readBook(s.ws)
	if err != nil {
		return err
	}
	threads, err := readThreads(s.ws)
	if err != nil {
		return err
	}
	var anchors []*match.Anchor
	for _, k := range book.Keys() {
		anchors = append(anchors, &book.Entries[k].At)
	}
	for _, t := range threads {
		anchors = append(anchors, &t.At)
	}
	var stale []*match.Anchor
	for _, x := range anchors {
		if h := s.in.hashOf(x.Source); h == "" || h != s.lock.Inputs[x.Source] {
			stale = append(stale, x)
		}
	}
	if len(stale) == 0 {
		return nil
	}
	p, err := newPins(s.ws)
	if err != nil {
		return err
	}
	values := make([]match.Anchor, len(stale))
	for i, x := range stale {
		values[i] = *x
	}
	where, err := p.find(values)
	if err != nil {
		return err
	}
	moved := map[*match.Anchor]bool{}
	for i, w := range where {
		if w.Element == nil {
			continue
		}
		if now := p.field.Anchor(w.Doc, w.Element); !reflect.DeepEqual(now, values[i]) {
			*stale[i], moved[stale[i]] = now, true
		}
	}
	changed := false
	for _, k := range book.Keys() {
		changed = changed || moved[&book.Entries[k].At]
	}
	if changed {
		data, err := book.Bytes()
		if err == nil {
			err = a.put(workspace.Spoken, "the phases", phase.FileName, data)
		}
		if err != nil {
			return err
		}
	}
	for _, t := range threads {
		if moved[&t.At] {
			data, err := t.Bytes()
			if err == nil {
				err = a.put(workspace.Spoken, "a remark", remark.Dir+"/"+t.ID+".md", data)
			}
			if err != nil {
				return err
			}
		}
	}
	return nil
}
