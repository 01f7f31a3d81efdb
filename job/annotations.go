package job

import (
	"context"
	"fmt"
	"path"
	"reflect"
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/guide"
	"archetyp/core/match"
	"archetyp/core/phase"
	"archetyp/core/remark"
	"archetyp/workspace"
)

// annotationFiles are the files of the phases and of the remarks, where there may be some.
func annotationFiles(ws *workspace.Workspace) []string {
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

// makeAnnotations brings up to date what phases and remarks remember their elements by, where drawings changed since the last
// sync. What lost its element keeps what it remembers.
func (s *Snapshot) makeAnnotations(a *artefacts) error {
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
	p := s.pins()
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
			err = a.put(workspace.Annotations, "the phases", phase.FileName, data)
		}
		if err != nil {
			return err
		}
	}
	for _, t := range threads {
		if moved[&t.At] {
			data, err := t.Bytes()
			if err == nil {
				err = a.put(workspace.Annotations, "a remark", remark.Dir+"/"+t.ID+".md", data)
			}
			if err != nil {
				return err
			}
		}
	}
	return nil
}

// annotations are the phases and remarks as the guide shows them.
func (s *Snapshot) annotations() ([]guide.Annotation, error) {
	p := s.pins()
	list, err := p.phases(context.Background(), PhaseFilter{}, false)
	if err != nil {
		return nil, err
	}
	var out []guide.Annotation
	place := func(e *design.Element) (at int) {
		if e == e.Screen.Root {
			return -1
		}
		return slices.Index(e.Screen.Document.All(), e)
	}
	tickets := func(names []string) (out []guide.Ticket) {
		for _, t := range names {
			out = append(out, guide.Ticket{Name: t, URL: s.ws.Config.TicketURL(t)})
		}
		return out
	}
	for i := range list {
		p := &list[i]
		if p.Element == nil {
			continue
		}
		b := p.Element.BorderBox()
		out = append(out, guide.Annotation{Source: p.Source, Screen: p.Element.Screen.Name, At: place(p.Element), X: b.X, Y: b.Y, Where: p.Where(),
			Phase: p.Phase, Why: p.Entry.Why, By: p.By, On: p.On, Due: p.Due, Changed: p.Changed, Tags: p.Tags, Tickets: tickets(p.Tickets)})
	}
	threads, err := readThreads(s.ws)
	if err != nil {
		return nil, err
	}
	remarks, err := p.remarks(threads)
	if err != nil {
		return nil, err
	}
	for i := range remarks {
		r := &remarks[i]
		if r.Element == nil {
			continue
		}
		out = append(out, guide.Annotation{Source: r.Source, Screen: r.Element.Screen.Name, At: place(r.Element), X: r.Spot.X, Y: r.Spot.Y, Where: r.Where(),
			ID: r.ID, Kind: r.Kind, LeadsTo: r.LeadsTo, Closed: r.Closed(), Entries: r.Entries, Tags: r.Tags, Tickets: tickets(r.Tickets)})
	}
	return out, nil
}

// AnnotationsOf are the phases and the open remarks of elements, in words, as an editor shows them: what is held and what people
// ask comes before what is settled.
func (a *Answers) AnnotationsOf(list []Placed) (out []string) {
	said := a.annotations()
	for _, p := range list {
		for _, line := range said[placedKey(p.Source, p.Path, p.ID)] {
			if !slices.Contains(out, line) {
				out = append(out, line)
			}
		}
	}
	return out
}

func placedKey(source, path, id string) string { return source + "\x00" + path + "\x00" + id }

// readAnnotations reads the phases and remarks by the elements they are about. Faults in their files are for the commands that
// write them.
func (a *Answers) readAnnotations() map[string][]string {
	out := map[string][]string{}
	add := func(source string, e *design.Element, line string) {
		k := placedKey(source, e.Path, e.ID)
		out[k] = append(out[k], line)
	}
	ctx := context.Background()
	remarks, _, err := Remarks(ctx, a.WS, RemarkFilter{State: "open"})
	if err == nil {
		for i := range remarks {
			if r := &remarks[i]; r.Element != nil {
				first, _, _ := strings.Cut(r.Entries[0].Text, "\n")
				add(r.Source, r.Element, fmt.Sprintf("%s by %s: %s (remark %s)", r.Kind, r.Entries[0].By, first, r.Short()))
			}
		}
	}
	phases, _, err := Phases(ctx, a.WS, PhaseFilter{}, false)
	if err == nil {
		for i := range phases {
			p := &phases[i]
			if p.Element == nil {
				continue
			}
			line := p.Phase
			if p.By != "" {
				line += " by " + p.By
			}
			if p.Entry.Why != "" {
				first, _, _ := strings.Cut(p.Entry.Why, "\n")
				line += ": " + first
			}
			if p.Changed {
				line += "; changed since"
			}
			add(p.Source, p.Element, line)
		}
	}
	return out
}
