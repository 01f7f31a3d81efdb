package naming

import (
	"strings"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/infer/alike"
	"archetyp/core/infer/role"
)

// Component is what alike things may be called as one component, and how each instance differs as a variant.
type Component struct {
	Name     string // such as "sailing-row"
	Elements []*design.Element
	Variants []string // of each, such as "tone=blue size=small"; "" for none
	Why      string
}

// ComponentOf names a set of alike things: as they are called, else by what they are and where they stand. taken are
// names that others have.
func ComponentOf(s alike.Set, taken map[string]bool) Component {
	first := s.Instances[0].Element
	out := Component{Name: design.Slug(s.Name), Why: "they are called so"}
	if out.Name == "" {
		n := &namer{roles: role.On(first.Screen)}
		_, noun, why := n.name(first, first.Parent)
		out.Name, out.Why = design.Slug(noun), why
		if p := first.Parent; p != nil && p.Name != "" && p != first.Screen.Root {
			out.Name = design.Slug(trimmed(words(p.Name), 2) + " " + noun)
		}
	}
	base := out.Name
	for i := 2; taken[out.Name]; i++ {
		out.Name = base + "-" + ordinal(i)
	}
	for _, x := range s.Instances {
		out.Elements = append(out.Elements, x.Element)
		out.Variants = append(out.Variants, variant(s, x))
	}
	return out
}

// variant names what an instance does otherwise than most: the colour of its ground, and whether it is larger.
func variant(s alike.Set, x alike.Instance) string {
	var parts []string
	seen := map[string]bool{}
	add := func(key, value string) {
		if value != "" && !seen[key] {
			seen[key] = true
			parts = append(parts, key+"="+value)
		}
	}
	for _, d := range x.Differs {
		switch d.Fact {
		case "fill":
			if c, err := color.Parse(d.Value); err == nil && !strings.Contains(d.Where, "text") {
				add("tone", colourWord(c))
			}
		case "height", "width":
			if d.Where == "" || strings.HasPrefix(d.Where, "box 1") {
				add("size", larger(x.Element, s))
			}
		}
	}
	return strings.Join(parts, " ")
}

// larger says whether an element is larger or smaller than most of its set.
func larger(e *design.Element, s alike.Set) string {
	b := e.BorderBox()
	more, less := 0, 0
	for _, o := range s.Instances {
		switch q := o.Element.BorderBox(); {
		case b.W*b.H > 1.02*q.W*q.H:
			more++
		case 1.02*b.W*b.H < q.W*q.H:
			less++
		}
	}
	switch {
	case more > less:
		return "large"
	case less > more:
		return "small"
	}
	return ""
}
