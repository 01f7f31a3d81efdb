// Package fit is the way of words back into the design: whether they fit the room they have, by the real fonts, and
// drawings with other words in them. In go a catalogue and drawings, out come verdicts, SVG and pictures.
package fit

import (
	"math"
	"strings"
	"unicode"

	"archetyp/core/font"

	"github.com/go-text/typesetting/segmenter"
)

// Run is words set alike.
type Run struct {
	Words string
	Style font.Style
	Name  string // of the inline element they stand in; "" for none
}

// Line is one line of wrapped words. Lengths in px.
type Line struct {
	Runs  []Run
	Width float64 // advance, without white space at the end
}

// Wrap breaks words into lines no wider than width px, where the Unicode line breaking algorithm allows; width 0 breaks
// only where the words say so. A word that is wider stands on a line of its own. White space at the end of a line does
// not count. https://www.unicode.org/reports/tr14/, https://www.w3.org/TR/css-text-3/#line-breaking
func Wrap(sh *font.Shaper, runs []Run, width float64) []Line {
	if width <= 0 && plain(runs) { // nothing to break at
		p := &paragraph{runs: runs, sh: sh}
		for _, r := range runs {
			p.runes = append(p.runes, []rune(r.Words)...)
			p.ends = append(p.ends, len(p.runes))
		}
		if len(p.runes) == 0 {
			return nil
		}
		return []Line{p.line(0, len(p.runes))}
	}
	p := newParagraph(sh, runs)
	if len(p.runes) == 0 {
		return nil
	}
	var out []Line
	from, fits := 0, 0 // the line under way, and where it can end
	seg := &segmenter.Segmenter{}
	seg.Init(p.runes)
	it := seg.LineIterator()
	for it.Next() {
		l := it.Line()
		end := l.Offset + len(l.Text)
		if width > 0 && fits > from && p.width(from, end) > width+tolerance {
			out = append(out, p.line(from, fits))
			from = fits
		}
		fits = end
		if l.IsMandatoryBreak && end < len(p.runes) || l.IsMandatoryBreak && end > 0 && newline(p.runes[end-1]) {
			out = append(out, p.line(from, end))
			from = end
		}
	}
	if from < len(p.runes) {
		out = append(out, p.line(from, len(p.runes)))
	}
	return out
}

// plain reports whether the words have no line ends.
func plain(runs []Run) bool {
	for _, r := range runs {
		if strings.ContainsFunc(r.Words, newline) {
			return false
		}
	}
	return true
}

// tolerance is the 64th of a px that browsers count in.
const tolerance = 1.0 / 64

func newline(r rune) bool {
	return r == '\n' || r == '\u2028' || r == '\u2029' || r == '\v' || r == '\f'
}

// paragraph is shaped words: how far each letter reaches, in the order they are read.
type paragraph struct {
	runs  []Run
	ends  []int // where each run ends
	runes []rune
	sum   []float64 // advance of all letters before
	sh    *font.Shaper
}

func newParagraph(sh *font.Shaper, runs []Run) *paragraph {
	p := &paragraph{sh: sh, runs: runs}
	for _, r := range runs {
		rs := []rune(r.Words)
		from := len(p.runes)
		p.runes = append(p.runes, rs...)
		p.ends = append(p.ends, len(p.runes))
		advance := make([]float64, len(rs)+1)
		glyphs, _, _, _ := sh.Shape(strings.Map(spaceFor, r.Words), r.Style)
		for _, g := range glyphs {
			if g.Cluster < len(rs) {
				advance[g.Cluster] += g.Advance
			}
		}
		if len(p.sum) == 0 {
			p.sum = append(p.sum, 0)
		}
		for i := range rs {
			p.sum = append(p.sum, p.sum[from+i]+advance[i])
		}
	}
	return p
}

// spaceFor makes a line end a space, which has no ink and does not break the shaping.
func spaceFor(r rune) rune {
	if newline(r) || r == '\r' || r == '\t' {
		return ' '
	}
	return r
}

// trim is where the words before end stop, without white space.
func (p *paragraph) trim(from, end int) int {
	for end > from && (unicode.IsSpace(p.runes[end-1]) && p.runes[end-1] != '\u00a0' && p.runes[end-1] != '\u202f' &&
		p.runes[end-1] != '\u2007') {
		end--
	}
	return end
}

func (p *paragraph) width(from, end int) float64 { return p.sum[p.trim(from, end)] - p.sum[from] }

// line cuts the letters from … end out as a line, shaped anew: letters join otherwise at its ends.
func (p *paragraph) line(from, end int) Line {
	end = p.trim(from, end)
	var l Line
	at := 0
	for i, r := range p.runs {
		a, b := max(from, at), min(end, p.ends[i])
		at = p.ends[i]
		if a >= b {
			continue
		}
		r.Words = string(p.runes[a:b])
		_, w, _, _ := p.sh.Shape(strings.Map(spaceFor, r.Words), r.Style)
		l.Width += math.Ceil(w*64-1e-6) / 64
		l.Runs = append(l.Runs, r)
	}
	return l
}
