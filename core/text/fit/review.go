package fit

import (
	"fmt"
	"math"
	"sort"
	"strings"
	"sync"

	"archetyp/core/css"
	"archetyp/core/font"
	"archetyp/core/guard"
	"archetyp/core/text"
	"archetyp/core/text/message"
)

// Verdict reports whether words fit.
type Verdict string

// The verdicts, the best first.
const (
	Fits      Verdict = "fits"
	Tight     Verdict = "tight"     // takes nearly all of the room
	Glyphs    Verdict = "glyphs"    // letters that no font has
	Lines     Verdict = "lines"     // needs more lines
	Overflows Verdict = "overflows" // wider than the room
)

// Verdicts are all of them, the worst first.
var Verdicts = []Verdict{Overflows, Lines, Glyphs, Tight, Fits}

// tightFrom is the share of the room from which words are tight.
const tightFrom = 0.95

// Judged is whether a key's words fit in one place. Lengths in px.
type Judged struct {
	Key     string     `json:"key"`
	Locale  string     `json:"locale"`
	Fit     Verdict    `json:"fit"`
	Words   string     `json:"words"` // as they would be shown
	Place   text.Place `json:"place"`
	Needs   float64    `json:"needs"`             // width of the widest line
	Over    float64    `json:"over,omitempty"`    // how far that leaves the room
	Lines   int        `json:"lines"`             // it takes
	Missing []string   `json:"missing,omitempty"` // letters that no font has
	Font    string     `json:"font,omitempty"`    // that lacks them
}

// Msg says the verdict in words.
func (j Judged) Msg() string {
	r := j.Place.Room
	switch j.Fit {
	case Overflows:
		return fmt.Sprintf("overflows by %.1f px (%.1f of %.1f px)", j.Over, j.Needs, r.Width)
	case Lines:
		n := j.Lines - r.Lines
		more := "more lines"
		if n == 1 {
			more = "more line"
		}
		return fmt.Sprintf("needs %d %s (%d of %d)", n, more, j.Lines, r.Lines)
	case Glyphs:
		return "no glyph for " + strings.Join(j.Missing, " ") + " in " + j.Font
	case Tight:
		return fmt.Sprintf("tight (%.1f of %.1f px)", j.Needs, r.Width)
	}
	return fmt.Sprintf("fits (%.1f of %.1f px)", j.Needs, r.Width)
}

// Measurer is what measuring needs: fonts, and the families for letters that the design's own lack, by locale.
type Measurer struct {
	Fonts *font.Set
	More  map[string][]string
	Jobs  int // how many work side by side
}

// Review measures every text in every place and locale; where the same words stand in like places, the tightest tells.
// The worst come first.
func Review(c *text.Catalogue, locales []string, m *Measurer) []Judged {
	type job struct {
		e      *text.Entry
		locale string
	}
	var jobs []job
	for _, e := range c.Used() {
		for _, l := range locales {
			jobs = append(jobs, job{e, l})
		}
	}
	results := make([][]Judged, len(jobs))
	workers := max(1, m.Jobs)
	var wg sync.WaitGroup
	var faults guard.Carrier
	for w := range workers {
		wg.Add(1)
		go func() {
			defer wg.Done()
			defer faults.Guard()
			sh := font.NewShaper(m.Fonts)
			for i := w * len(jobs) / workers; i < (w+1)*len(jobs)/workers; i++ {
				results[i] = m.entry(sh, c, jobs[i].e, jobs[i].locale)
			}
		}()
	}
	wg.Wait()
	faults.Raise()
	var out []Judged
	for _, r := range results {
		out = append(out, r...)
	}
	order := map[Verdict]int{}
	for i, v := range Verdicts {
		order[v] = i
	}
	sort.SliceStable(out, func(i, j int) bool {
		a, b := &out[i], &out[j]
		if a.Fit != b.Fit {
			return order[a.Fit] < order[b.Fit]
		}
		return a.share() > b.share()
	})
	return out
}

// share is how much of its room a text takes.
func (j *Judged) share() float64 {
	if j.Place.Room == nil || j.Place.Room.Width <= 0 {
		return 0
	}
	return j.Needs / j.Place.Room.Width * float64(max(1, j.Lines)) / float64(max(1, j.Place.Room.Lines))
}

// entry judges a key in one locale: once for each different room and way to set it.
func (m *Measurer) entry(sh *font.Shaper, c *text.Catalogue, e *text.Entry, locale string) []Judged {
	words, _ := c.Of(e, locale)
	if words == "" {
		return nil
	}
	msg, err := message.Parse(words)
	if err != nil {
		return nil
	}
	var out []Judged
	type like struct {
		font  text.Font
		width float64
		lines int
		said  string
	}
	seen := map[like]bool{}
	for _, p := range e.Places {
		if p.Font == nil || p.Room == nil || p.Attribute != "" {
			continue
		}
		k := like{*p.Font, p.Room.Width, p.Room.Lines, p.Said}
		if seen[k] {
			continue
		}
		seen[k] = true
		spans := msg.Format(locale, e.Values(c.Locale, &p))
		runs := m.Runs(p, spans, locale)
		j := Judge(sh, runs, p.Room)
		j.Key, j.Locale, j.Place = e.Key, locale, p
		if lacks := m.lacks(runs); len(lacks) > 0 {
			j.Missing, j.Font = lacks, p.Font.Family
			if j.Fit == Fits || j.Fit == Tight {
				j.Fit = Glyphs
			}
		}
		out = append(out, j)
	}
	return out
}

func (m *Measurer) lacks(runs []Run) []string {
	var out []string
	for _, r := range runs {
		for _, c := range m.Fonts.Lacks(r.Words, r.Style.Families, r.Style.Weight, r.Style.Italic) {
			out = append(out, string(c))
		}
	}
	return out
}

// Runs are the words of a place as they are set there.
func (m *Measurer) Runs(p text.Place, spans []message.Span, locale string) []Run {
	base := m.style(*p.Font, locale)
	var out []Run
	for _, s := range spans {
		r := Run{Words: css.TextTransform(s.Words, p.Font.Case, locale), Style: base}
		for _, name := range s.Elements {
			for _, i := range p.Inline {
				if i.Name == name {
					f := i.Font
					if f.Family == "" {
						f.Family = p.Font.Family
					}
					r.Style, r.Name = m.style(f, locale), name
				}
			}
		}
		out = append(out, r)
	}
	return out
}

func (m *Measurer) style(f text.Font, locale string) font.Style {
	return font.Style{Families: m.families(f.Family, locale), Size: f.Size, Weight: f.Weight, Italic: f.Italic,
		Spacing: f.Spacing, RTL: message.RightToLeft(locale)}
}

// families is a family list with those for letters that it lacks, before the generic ones.
func (m *Measurer) families(list, locale string) []string {
	own, more := font.Families(list), m.More[locale]
	if len(more) == 0 {
		return own
	}
	at := 0
	for at < len(own) && !font.Generic(own[at]) {
		at++
	}
	return append(append(append([]string(nil), own[:at]...), more...), own[at:]...)
}

// Judge measures words against room: on one line as they are, on several wrapped to its width.
func Judge(sh *font.Shaper, runs []Run, room *text.Room) Judged {
	var j Judged
	var b strings.Builder
	for _, r := range runs {
		b.WriteString(r.Words)
	}
	j.Words = b.String()
	width := 0.0
	if room.Lines > 1 {
		width = room.Width
	}
	lines := Wrap(sh, runs, width)
	j.Lines = len(lines)
	for _, l := range lines {
		j.Needs = math.Max(j.Needs, l.Width)
	}
	j.Needs = math.Round(j.Needs*100) / 100
	switch over := j.Needs - room.Width; {
	case over > tolerance:
		j.Fit, j.Over = Overflows, math.Round(over*100)/100
	case j.Lines > room.Lines:
		j.Fit = Lines
	case room.Lines == 1 && j.Needs > tightFrom*room.Width:
		j.Fit = Tight
	default:
		j.Fit = Fits
	}
	return j
}
