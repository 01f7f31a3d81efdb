package text

import (
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/infer/layout"
)

// Drawing programs write the lines of a paragraph as texts of their own. To people they are one text.

// fewest is how many words each line but the last of such a paragraph has: shorter ones are labels under each other.
const fewest = 3

// mostLines is how many children a group may have that is looked through for paragraphs.
const mostLines = 2000

// body is a text as people see it: one element, or several that are the lines of one paragraph.
type body struct {
	first *design.Element
	more  []*design.Element // further lines
	words *design.TextFacts
	box   geom.Rect
}

// has reports whether an element is one of the text's.
func (b body) has(e *design.Element) bool { return e == b.first || slices.Contains(b.more, e) }

// bodies are the texts of a screen that are shown, by their first element; the other lines are in none but their own.
func bodies(s *design.Screen) map[*design.Element]body {
	out := map[*design.Element]body{}
	for _, e := range s.Elements {
		if e.Words != nil && e.Words.Words != "" {
			out[e] = body{first: e, words: e.Words, box: e.Geometry.Value}
		}
	}
	join := func(parent *design.Element) {
		if n := len(parent.Children); n < 2 || n > mostLines {
			return
		}
		for _, p := range layout.Paragraphs(parent) {
			if wordy(p.Lines) {
				out[p.Lines[0]] = joined(p.Lines)
				for _, l := range p.Lines[1:] {
					delete(out, l)
				}
			}
		}
	}
	join(s.Root)
	for _, e := range s.Elements {
		join(e)
	}
	return out
}

func wordy(lines []*design.Element) bool {
	for _, l := range lines[:len(lines)-1] {
		if len(strings.Fields(l.Words.Words)) < fewest {
			return false
		}
	}
	return true
}

// joined is several texts of one line each as one text of several lines.
func joined(lines []*design.Element) body {
	b := body{first: lines[0], more: lines[1:], box: lines[0].Geometry.Value}
	w := *lines[0].Words
	w.Lines, w.Runs = nil, nil
	var said []string
	for i, l := range lines {
		said = append(said, l.Words.Words)
		w.Lines = append(w.Lines, l.Words.Lines...)
		for _, r := range l.Words.Runs {
			r.Line = i
			w.Runs = append(w.Runs, r)
		}
		b.box = b.box.Union(l.Geometry.Value)
	}
	w.Words = strings.Join(said, "\n")
	w.LineHeight = design.Derive(w.Lines[1].Baseline.Y-w.Lines[0].Baseline.Y, "distance of the baselines")
	b.words = &w
	return b
}

// Words are what a place's element says, with its further lines; nil where there is no such text.
func (p *Place) Words(find func(path string) *design.Element) *design.TextFacts {
	first := find(p.Element)
	if first == nil || first.Words == nil {
		return nil
	}
	lines := []*design.Element{first}
	for _, path := range p.More {
		l := find(path)
		if l == nil || l.Words == nil || len(l.Words.Lines) != 1 {
			return nil
		}
		lines = append(lines, l)
	}
	if len(lines) == 1 {
		return first.Words
	}
	return joined(lines).words
}
