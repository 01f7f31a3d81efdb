package code

import (
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/infer/role"
)

// Rules writes elements one after the other. Of a component there is one rule for what all its variants share, then for
// each variant and state only what differs; two unlike instances that no mark tells apart are one rule and a comment.
func Rules(elements []*design.Element, o Options) []Block {
	s := &sheet{at: map[string]int{}}
	o.roles = map[*design.Screen]*role.Screen{}
	for len(elements) > 0 {
		e := elements[0]
		if e.Marks.Component == "" {
			s.add(CSS(e, o))
			elements = elements[1:]
			continue
		}
		var same, rest []*design.Element
		for _, x := range elements {
			if x.Marks.Component == e.Marks.Component {
				same = append(same, x)
			} else {
				rest = append(rest, x)
			}
		}
		s.component(same, o)
		elements = rest
	}
	return s.blocks
}

// sheet is rules, each selector once.
type sheet struct {
	blocks []Block
	at     map[string]int // place by selector
}

// add puts rules; one that is not as the rule of the same selector becomes a comment.
func (s *sheet) add(blocks []Block) {
	for _, b := range blocks {
		if b.empty() {
			continue
		}
		i, known := s.at[b.Selector]
		if !known {
			s.at[b.Selector] = len(s.blocks)
			s.blocks = append(s.blocks, b)
			continue
		}
		if differ := without(b.Declarations, s.blocks[i].Declarations); len(differ) > 0 {
			s.blocks[i].comment("", "another instance differs, and nothing marks it: "+strings.TrimSuffix(declText(differ), ";"))
		}
	}
}

// instance is an element of a component as rules, by what they are about: "" for the whole, else the part.
type instance struct {
	e     *design.Element
	parts []string
	rules map[string]Block
}

func instanceOf(e *design.Element, o Options) instance {
	in := instance{e: e, rules: map[string]Block{}}
	class := ClassName(e)
	for _, b := range CSS(e, o) {
		part := strings.ReplaceAll(b.Selector, class, "")
		in.parts = append(in.parts, part)
		in.rules[part] = b
	}
	return in
}

// component writes instances of one component: what is the same in every variant at rest, then what each differs in.
func (s *sheet) component(elements []*design.Element, o Options) {
	list := make([]instance, len(elements))
	for i, e := range elements {
		list[i] = instanceOf(e, o)
	}
	base := base(elements)
	rest := atRest(list)
	shared := common(rest)
	for _, part := range shared.parts {
		s.put(base, part, shared.rules[part])
	}
	byVariant := map[string]instance{}
	for _, in := range rest {
		class := ClassName(in.e)
		if _, known := byVariant[in.e.Marks.Variant]; !known {
			byVariant[in.e.Marks.Variant] = in
		}
		s.differences(class, in, shared)
	}
	for _, in := range list {
		if isAtRest(in.e) || len(rest) == len(list) {
			continue
		}
		from, ok := byVariant[in.e.Marks.Variant]
		if !ok {
			from = shared
		}
		s.differences(ClassName(in.e), in, from)
	}
}

// base is the selector of what elements share: their component, with the variant and the state where all have the
// same.
func base(elements []*design.Element) string {
	m := elements[0].Marks
	if m.Component == "" {
		return ClassName(elements[0])
	}
	s := "." + slug(m.Component)
	if oneVariant(elements) {
		s += variantSelector(m.Variant)
	}
	if !slices.ContainsFunc(elements, func(e *design.Element) bool { return e.Marks.State != m.State }) {
		s += stateSelector(m.State)
	}
	return s
}

// oneVariant reports whether all elements are of one variant.
func oneVariant(elements []*design.Element) bool {
	return !slices.ContainsFunc(elements,
		func(e *design.Element) bool { return e.Marks.Variant != elements[0].Marks.Variant })
}

// isAtRest reports whether an element shows its component in no particular state.
func isAtRest(e *design.Element) bool { return e.Marks.State == "" || e.Marks.State == "default" }

// atRest are the instances that variants are compared by: those in no state, else all.
func atRest(list []instance) []instance {
	var out []instance
	for _, in := range list {
		if isAtRest(in.e) {
			out = append(out, in)
		}
	}
	if out == nil {
		return list
	}
	return out
}

// common is what all instances have.
func common(list []instance) instance {
	out := instance{e: list[0].e, rules: map[string]Block{}}
	for _, part := range list[0].parts {
		b := list[0].rules[part]
		b.Comments = slices.Clone(b.Comments)
		b.Declarations = slices.Clone(b.Declarations)
		for _, in := range list[1:] {
			other, ok := in.rules[part]
			if !ok {
				b.Declarations = nil
				break
			}
			b.Declarations = slices.DeleteFunc(b.Declarations,
				func(d design.Declaration) bool { return !slices.Contains(other.Declarations, d) })
		}
		out.parts = append(out.parts, part)
		out.rules[part] = b
	}
	return out
}

// differences writes what an instance has otherwise than another, and takes back what it has not.
func (s *sheet) differences(class string, in, from instance) {
	for _, part := range in.parts {
		b := in.rules[part]
		was := from.rules[part].Declarations
		d := without(b.Declarations, was)
		for _, old := range was {
			if !slices.ContainsFunc(b.Declarations, func(x design.Declaration) bool { return x.Prop == old.Prop }) {
				if none, ok := unset[old.Prop]; ok {
					d = append(d, design.Declaration{Prop: old.Prop, Value: none})
				}
			}
		}
		s.put(class, part, Block{Declarations: d, Comments: without(b.Comments, from.rules[part].Comments)})
	}
}

// unset is how what another state has is taken back.
var unset = map[string]string{"box-shadow": "none", "text-shadow": "none", "outline": "none", "border": "none",
	"opacity": "1",
	"filter":  "none", "mix-blend-mode": "normal", "background": "none", "text-decoration": "none", "font-style": "normal",
	"text-transform": "none", "border-radius": "0"}

func without[T comparable](list, gone []T) (out []T) {
	for _, x := range list {
		if !slices.Contains(gone, x) {
			out = append(out, x)
		}
	}
	return out
}

// put adds the rule of a part of a class, unless it says nothing.
func (s *sheet) put(class, part string, b Block) {
	b.Selector = class + part
	if strings.HasPrefix(part, " ") || part == "" {
		b.Selector = ""
		for i, p := range strings.Split(part, ",\n") { // several parts with one look
			if i > 0 {
				b.Selector += ",\n"
			}
			b.Selector += class + p
		}
	}
	s.add([]Block{b})
}
