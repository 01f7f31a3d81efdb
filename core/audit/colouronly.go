package audit

import (
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/infer/alike"
)

var colourOnly = Rule{Name: "colour-only", Group: "access", Level: Note,
	What:  "states that say something is wrong or chosen by a colour alone",
	Why:   "who does not see the colour does not see the state",
	check: checkColourOnly,
}

// saying are the states that say something; how a thing looks under a pointer says nothing.
var saying = []string{"invalid", "selected", "checked"}

func checkColourOnly(c *checker) {
	for _, s := range c.alike() {
		plain := plainOf(s)
		if plain == nil {
			continue
		}
		for _, x := range s.Instances {
			state := stateOf(x.Element.Marks.State)
			if !slices.Contains(saying, state) || x.Element.Marks.Variant != plain.Element.Marks.Variant {
				continue
			}
			if onlyColours(plain, &x) {
				c.find([]*design.Element{x.Element}, "Add a sign or words, or make a line thicker.", "the state %s differs from the default by its colour alone", state)
			}
		}
	}
}

// plainOf is the instance in the default state.
func plainOf(s alike.Set) *alike.Instance {
	for i, x := range s.Instances {
		if stateOf(x.Element.Marks.State) == "default" && x.Element.Marks.Component != "" {
			return &s.Instances[i]
		}
	}
	return nil
}

// onlyColours reports whether two instances say the same words and differ in colours, and in nothing else.
func onlyColours(a, b *alike.Instance) bool {
	if wordsIn(a.Element) != wordsIn(b.Element) {
		return false
	}
	differs := false
	for _, d := range slices.Concat(a.Differs, b.Differs) {
		switch d.Fact {
		case "fill":
			differs = true
		case "stroke":
			if widthOf(d.Value) != widthOf(d.Others) {
				return false
			}
			differs = true
		default:
			return false
		}
	}
	return differs
}

// widthOf is the width in a stroke as it is printed: "2px #0b6e8f".
func widthOf(stroke string) string {
	w, _, _ := strings.Cut(stroke, " ")
	return w
}

func wordsIn(e *design.Element) string {
	var out []string
	e.Walk(func(x *design.Element) {
		if x.Words != nil && !x.Hidden {
			out = append(out, x.Words.Words)
		}
	})
	return strings.Join(out, "\n")
}
