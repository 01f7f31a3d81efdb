package code

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/hint"
)

// Group is a group of properties that people take or leave as one.
type Group struct {
	Name    string
	members []string // properties; one stands for those that begin with it and a hyphen, too
}

// Groups are the groups there are. A property is in the first that has it, and in the last if none has.
var Groups = []Group{
	{"size", []string{"box-sizing", "width", "height", "min-width", "min-height", "max-width", "max-height", "aspect-ratio"}},
	{"layout", []string{"display", "flex", "grid", "align", "justify", "place", "gap", "row-gap", "column-gap", "order",
		"padding", "margin", "overflow", "position", "inset", "float"}},
	{"text", []string{"font", "line-height", "letter-spacing", "word-spacing", "text-align", "text-transform",
		"text-decoration", "text-overflow", "white-space", "hyphens"}},
	{"colour", []string{"color", "background", "fill", "accent-color", "caret-color"}},
	{"corners", []string{"border-radius", "border-top-left-radius", "border-top-right-radius", "border-bottom-right-radius",
		"border-bottom-left-radius"}},
	{"border", []string{"border", "outline"}},
	{"shadow", []string{"box-shadow", "text-shadow"}},
	{"effects", []string{"opacity", "filter", "backdrop-filter", "mix-blend-mode", "transform", "rotate", "scale", "translate",
		"mask", "clip-path"}},
	{"motion", []string{"transition", "animation"}},
	{"other", nil},
}

// GroupNames are what the groups are called.
func GroupNames() (names []string) {
	for _, g := range Groups {
		names = append(names, g.Name)
	}
	return names
}

// GroupOf is the name of a property's group.
func GroupOf(property string) string {
	for _, g := range Groups {
		for _, m := range g.members {
			if property == m || strings.HasPrefix(property, m+"-") {
				return g.Name
			}
		}
	}
	return Groups[len(Groups)-1].Name
}

// Choice is which groups are written; the zero Choice is all of them.
type Choice map[string]bool

// Choose reads which groups are wanted, or, where none is, which are not.
func Choose(only, except []string) (Choice, error) {
	if len(only) > 0 && len(except) > 0 {
		return nil, hint.New("a group is either wanted or not", "Say the groups to write, or the groups to leave out.")
	}
	known := GroupNames()
	for _, name := range slices.Concat(only, except) {
		if !slices.Contains(known, name) {
			return nil, hint.New(fmt.Sprintf("%q is no group of properties", name),
				"The groups are "+strings.Join(known, ", ")+".")
		}
	}
	if len(only)+len(except) == 0 {
		return nil, nil
	}
	c := Choice{}
	for _, name := range known {
		c[name] = len(only) > 0 && slices.Contains(only, name) || len(except) > 0 && !slices.Contains(except, name)
	}
	return c, nil
}

func (c Choice) has(property string) bool { return c == nil || c[GroupOf(property)] }

// of leaves in rules only what was chosen; a remark about no property goes as well.
func (c Choice) of(blocks []Block) []Block {
	if c == nil {
		return blocks
	}
	for i := range blocks {
		b := &blocks[i]
		b.Declarations = slices.DeleteFunc(b.Declarations, func(d design.Declaration) bool { return !c.has(d.Prop) })
		b.Comments = slices.DeleteFunc(b.Comments, func(r Comment) bool { return r.Property == "" || !c.has(r.Property) })
	}
	return blocks
}

// Form is how a selector says what it styles.
type Form string

// A rule is for a class, or for every class whose name contains what it is called, so that one place changes them all.
const (
	OfClass    Form = "class"
	OfFragment Form = "fragment"
)

// ParseForm reads a form.
func ParseForm(name string) (Form, error) {
	if f := Form(name); f == OfClass || f == OfFragment {
		return f, nil
	}
	return "", hint.New(fmt.Sprintf("the form %q is not known", name), "Choose class or fragment.")
}

var class = regexp.MustCompile(`\.([\pL\d_-]+)`)

// Of writes the selectors of rules in the form.
func (f Form) Of(blocks []Block) []Block {
	if f != OfFragment {
		return blocks
	}
	out := slices.Clone(blocks)
	for i := range out {
		out[i].Selector = class.ReplaceAllString(out[i].Selector, `[class*="$1"]`)
	}
	return out
}

// Called writes the rules of one element, or of one component, for another selector than their name gives.
func Called(blocks []Block, elements []*design.Element, selector string) ([]Block, error) {
	was := base(elements)
	if m := elements[0].Marks; m.Component != "" && !oneVariant(elements) {
		was = "." + slug(m.Component)
	}
	for _, e := range elements {
		if len(elements) > 1 && (e.Marks.Component == "" || e.Marks.Component != elements[0].Marks.Component) {
			return nil, hint.New(fmt.Sprintf("%d unlike elements cannot all be called %s", len(elements), selector),
				"Choose one element, or the instances of one component.")
		}
	}
	out := slices.Clone(blocks)
	for i := range out {
		parts := strings.Split(out[i].Selector, ",\n")
		for k, p := range parts {
			parts[k] = selector + strings.TrimPrefix(p, was)
		}
		out[i].Selector = strings.Join(parts, ",\n")
	}
	return out, nil
}

// ParseName reads a selector to be called by: a bare name is a class.
func ParseName(s string) (string, error) {
	if s = strings.TrimSpace(s); s != "" && css.Ident(s) == s {
		return "." + s, nil
	}
	if _, err := css.ParseSelector(s); err != nil || strings.Contains(s, ",") {
		return "", hint.New(fmt.Sprintf("%q is neither a name nor one CSS selector", s), "For example: pay-button, or '.form .pay'.")
	}
	return s, nil
}

// Lines writes the declarations of an element's own rule, without a selector.
func Lines(ds []design.Declaration) string {
	var s strings.Builder
	for _, d := range ds {
		s.WriteString(d.Prop + ": " + d.Value + ";\n")
	}
	return s.String()
}
