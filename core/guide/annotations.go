package guide

import (
	"bytes"
	"fmt"
	"html/template"
	"slices"

	"archetyp/core/remark"

	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/extension"
)

// Annotation is a phase of a screen or an element, or a remark on it with its replies.
type Annotation struct {
	Source, Screen string
	At             int     // the element among all of the drawing; −1 for the screen
	X, Y           float64 // where it is pinned, px on the screen
	Where          string

	Phase, Why, By, On string // of a phase
	Due                int
	Changed            bool // since then

	ID, Kind, LeadsTo string // of a remark
	Closed            bool
	Entries           []remark.Entry

	Tags    []string
	Tickets []Ticket
}

// Ticket is a ticket that somebody names.
type Ticket struct{ Name, URL string }

// annotationModel is an annotation as a page shows it.
type annotationModel struct {
	Annotation
	Number  int    // of the pin
	Spot    []int  // the element, by its place on the screen
	Page    string // of the screen
	Threads []annotationEntry
}

type annotationEntry struct {
	By, On, Does string
	HTML         template.HTML
}

// Left and Top are where the pin is, as a share of the screen.
func (s *annotationModel) Left(w float64) float64 { return min(1, max(0, s.X/max(1, w))) }

// Top is Left in the other direction.
func (s *annotationModel) Top(h float64) float64 { return min(1, max(0, s.Y/max(1, h))) }

// markdown writes what people wrote as HTML; what is HTML in it is left out.
var markdown = goldmark.New(goldmark.WithExtensions(extension.Table, extension.Strikethrough, extension.Linkify))

// rendered is Markdown as HTML.
func rendered(text string) template.HTML {
	var b bytes.Buffer
	if err := markdown.Convert([]byte(text), &b); err != nil {
		return template.HTML(template.HTMLEscapeString(text))
	}
	return template.HTML(b.String())
}

// annotate gives each published screen its annotations.
func (m *model) annotate() {
	for i := range m.in.Annotations {
		s := m.at[screenAt{m.in.Annotations[i].Source, m.in.Annotations[i].Screen}]
		if s == nil {
			continue
		}
		x := annotationModel{Annotation: m.in.Annotations[i], Number: len(s.Annotations) + 1, Page: s.Page}
		if x.At >= 0 {
			x.Spot = []int{x.At - s.offset}
		}
		for _, e := range x.Entries {
			x.Threads = append(x.Threads, annotationEntry{e.By, e.On.Format("2006-01-02 15:04"), e.Does, rendered(e.Text)})
		}
		s.Annotations = append(s.Annotations, x)
		if x.At < 0 && x.Phase != "" {
			s.Phase = x.Phase
		}
		if x.ID != "" && !x.Closed {
			s.Open++
		}
	}
}

// annotationsPage lists the phases and the remarks of all screens.
type annotationsPage struct {
	Phases  []phaseGroup
	Open    []annotationModel
	Closed  []annotationModel
	Changed int
}

type phaseGroup struct {
	Phase string
	Of    []annotationModel
}

// annotationPages adds the page of phases and remarks, where there are some.
func (b *builder) annotationPages() {
	p := annotationsPage{}
	groups := map[string]int{}
	for _, s := range b.screens {
		for _, x := range s.Annotations {
			switch {
			case x.Phase != "":
				i, known := groups[x.Phase]
				if !known {
					i = len(p.Phases)
					groups[x.Phase] = i
					p.Phases = append(p.Phases, phaseGroup{Phase: x.Phase})
				}
				p.Phases[i].Of = append(p.Phases[i].Of, x)
				if x.Changed {
					p.Changed++
				}
			case x.Closed:
				p.Closed = append(p.Closed, x)
			default:
				p.Open = append(p.Open, x)
			}
		}
	}
	if len(p.Phases)+len(p.Open)+len(p.Closed) == 0 {
		return
	}
	slices.SortFunc(p.Phases, func(a, b phaseGroup) int { return bytes.Compare([]byte(a.Phase), []byte(b.Phase)) })
	b.page(shown("Phases and remarks", "annotations.html", "annotations", p))
}

// PhaseClass is the class that a phase is coloured by.
func (s *Annotation) PhaseClass() string { return phaseClass(s.Phase) }

func phaseClass(phase string) string {
	switch phase {
	case "agreed", "built":
		return "good"
	case "held":
		return "warn"
	}
	return "accent"
}

// PhaseClass is that of a screen's phase.
func (s *screenModel) PhaseClass() string { return phaseClass(s.Phase) }

// RemarksTitle is what the tab is called.
func (s *screenModel) RemarksTitle() string {
	if s.Open > 0 {
		return fmt.Sprintf("Remarks (%d)", s.Open)
	}
	return "Remarks"
}
