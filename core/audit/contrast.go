package audit

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"archetyp/core/css"
	"archetyp/core/design"
)

var contrast = Rule{Name: "contrast", Group: "access", Level: Error,
	What:  "words that can hardly be read on what lies under them: WCAG 2.2 wants 4.5 to 1, of large type 3 to 1",
	Why:   "many people cannot read it",
	check: checkContrast,
}

// https://www.w3.org/TR/WCAG22/#contrast-minimum
const (
	enoughContrast = 4.5
	enoughLarge    = 3
	largeType      = 24    // px
	largeBold      = 18.66 // px, from a weight of 700
)

func checkContrast(c *checker) {
	c.screens(func(s *design.Screen) {
		texts := textsToRead(s)
		reads := make([]reading, len(texts))
		parallel(len(texts), func(i int) { reads[i] = read(texts[i]) })
		byPair, byInk := map[[2]string][]reading{}, map[string]int{}
		var order [][2]string
		for _, r := range reads {
			if !r.poor {
				continue
			}
			p := [2]string{r.text, r.under}
			if byPair[p] == nil {
				order = append(order, p)
				byInk[r.text]++
			}
			byPair[p] = append(byPair[p], r)
		}
		done := map[string]bool{}
		for _, p := range order {
			switch ink := p[0]; {
			case done[ink]:
			case byInk[ink] <= fewGrounds:
				c.poor(byPair[p], p[0]+" on "+p[1])
			default: // one colour on many grounds has one cause
				done[ink] = true
				var all []reading
				for _, q := range order {
					if q[0] == ink {
						all = append(all, byPair[q]...)
					}
				}
				slices.SortStableFunc(all, func(a, b reading) int { return cmp.Compare(a.ratio, b.ratio) })
				c.poor(all, fmt.Sprintf("%s on %d grounds, the worst %s,", ink, byInk[ink], all[0].under))
			}
		}
	})
}

// fewGrounds of one colour of text are a finding each.
const fewGrounds = 3

// reading is how well a text can be read.
type reading struct {
	e           *design.Element
	ratio       float64
	text, under string // colours; of the text as stated, with its opacity
	poor        bool
}

func read(e *design.Element) reading {
	ratio, text, under, ok := ground(e)
	if ink, plain := inkOf(e); plain && e.Screen.Document.Styles == nil {
		text = ink
	}
	return reading{e, ratio, text.Hex(), under.Hex(), ok && math.Round(ratio*100)/100 < enough(e)}
}

// poor reports texts of one colour that can hardly be read on their ground.
func (c *checker) poor(list []reading, pair string) {
	worst, want := math.Inf(1), 0.0
	var found []*design.Element
	for _, r := range list {
		found = append(found, r.e)
		worst, want = min(worst, r.ratio), max(want, enough(r.e))
	}
	f := c.find(found, fmt.Sprintf("Make one of the two darker or lighter, up to %s to 1.", css.Num(want, 1)),
		"%s has %s to 1%s", pair, css.Num(math.Floor(worst*100)/100, 2), times(len(found)))
	f.about = "contrast"
}

// textsToRead are the texts of a screen that people read. What cannot be used need not be readable; a text with a line
// around its letters, or with copies of it beside it that make it look raised, is no plain text on a ground.
func textsToRead(s *design.Screen) (out []*design.Element) {
	byWords := map[string][]*design.Element{}
	for _, e := range s.Elements {
		if e.Hidden || e.Words == nil || e.Words.Words == "" || inPicture(e) || isHead(e) || isDisabled(e) || len(e.Strokes) > 0 {
			continue
		}
		if e.Parent != nil && e.Parent.Words != nil { // a part of the text around it
			continue
		}
		out = append(out, e)
		byWords[e.Words.Words] = append(byWords[e.Words.Words], e)
	}
	return slices.DeleteFunc(out, func(e *design.Element) bool {
		return slices.ContainsFunc(byWords[e.Words.Words], func(o *design.Element) bool { return o != e && isCopy(e, o) })
	})
}

// isCopy reports whether two texts of the same words stand on one another, a few px apart.
func isCopy(a, b *design.Element) bool {
	p, q := a.Geometry.Value, b.Geometry.Value
	return a.Geometry.Set && b.Geometry.Set && math.Abs(p.X-q.X) <= 0.2*p.H+2 && math.Abs(p.Y-q.Y) <= 0.2*p.H+2
}

func isDisabled(e *design.Element) bool {
	return e.Ancestor(func(a *design.Element) bool {
		if stateOf(a.Marks.State) == "disabled" && a.Marks.State != "" {
			return true
		}
		if a.Node == nil || !a.Node.HTML {
			return false
		}
		_, disabled := a.Node.Attr("disabled")
		return disabled || a.Node.AttrOr("aria-disabled", "") == "true" || a.Node.AttrOr("aria-hidden", "") == "true"
	}) != nil
}

// enough is the contrast that a text needs.
func enough(e *design.Element) float64 {
	size, weight := e.Words.Size.Value, e.Words.Weight.Value
	if size >= largeType || size >= largeBold && weight >= 700 {
		return enoughLarge
	}
	return enoughContrast
}
