package svg

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/markup"
)

// presentation reports whether an attribute is a CSS property; mix-blend-mode is one that drawing programs write so.
func presentation(name string) bool {
	return css.IsPresentationAttribute(name) || name == "mix-blend-mode"
}

// geometryProps are attributes of some elements that CSS may set too.
var geometryProps = map[string]string{"x": "svg image use rect foreignObject", "y": "svg image use rect foreignObject",
	"width": "svg image rect foreignObject", "height": "svg image rect foreignObject", "cx": "circle ellipse", "cy": "circle ellipse",
	"r": "circle", "rx": "rect ellipse", "ry": "rect ellipse", "d": "path"}

func (b *builder) hints(n *markup.Node) []css.Decl {
	var out []css.Decl
	for i := range n.Attrs {
		a := &n.Attrs[i]
		if a.Space != "" {
			continue
		}
		if presentation(a.Local) && a.Value != "" {
			v := a.Value
			if strings.Contains(v, "!important") {
				continue
			}
			out = append(out, css.Decl{Prop: a.Local, Value: v})
		}
	}
	return out
}

func (b *builder) style(n *markup.Node, parent *style) *style {
	var ps *css.Style
	fontSize := 16.0
	if parent != nil {
		ps, fontSize = parent.Style, parent.fontSize
	}
	s := &style{Style: b.cascade.Style(n, ps), b: b, parent: parent}
	s.fontSize = s.computeFontSize(fontSize)
	s.weight = s.computeWeight(parent)
	return s
}

// nodeStyle is the style of a node where it stands in the file, for what lies in defs.
func (b *builder) nodeStyle(n *markup.Node) *style {
	if n == nil {
		return nil
	}
	if st, ok := b.styles[n]; ok {
		return st
	}
	st := b.style(n, b.nodeStyle(n.Parent))
	b.styles[n] = st
	return st
}

// style is the cascaded style of an element with what depends on its ancestors worked out.
type style struct {
	*css.Style
	b        *builder
	parent   *style
	fontSize float64 // px
	weight   int
}

func (s *style) computeFontSize(inherited float64) float64 {
	if !s.has("font-size") {
		return inherited
	}
	v, _, ok := s.Get("font-size")
	if !ok {
		return 16
	}
	if k, ok := fontSizes[strings.ToLower(v)]; ok {
		return k
	}
	switch strings.ToLower(v) {
	case "larger":
		return inherited * 1.2
	case "smaller":
		return inherited / 1.2
	}
	l, err := css.ParseLength(v)
	if err != nil || l.Value < 0 {
		return inherited
	}
	return l.Px(css.Units{Em: inherited, Rem: s.b.opts.Root, Percent: inherited})
}

var fontSizes = map[string]float64{"xx-small": 9, "x-small": 10, "small": 13, "medium": 16, "large": 18, "x-large": 24,
	"xx-large": 32, "xxx-large": 48}

func (s *style) computeWeight(parent *style) int {
	inherited := 400
	if parent != nil {
		inherited = parent.weight
	}
	if _, ok := s.Raw("font-weight"); !ok {
		return inherited
	}
	v, _, ok := s.Get("font-weight")
	if !ok {
		return 400
	}
	return parseWeight(v, inherited, inherited)
}

func parseWeight(v string, inherited, or int) int {
	switch v = strings.ToLower(strings.TrimSpace(v)); v {
	case "normal":
		return 400
	case "bold":
		return 700
	case "bolder":
		if inherited < 350 {
			return 400
		} else if inherited < 550 {
			return 700
		}
		return 900
	case "lighter":
		if inherited < 550 {
			return 100
		} else if inherited < 750 {
			return 400
		}
		return 700
	}
	n, err := strconv.ParseFloat(v, 64)
	if err != nil || n < 1 || n > 1000 {
		return or
	}
	return int(n)
}

// str is a keyword property in lower case, or its initial value.
func (s *style) str(prop, initial string) string {
	if v, _, ok := s.Get(prop); ok {
		return strings.ToLower(strings.TrimSpace(v))
	}
	return initial
}

// num is a number or percentage property.
func (s *style) num(prop string, initial float64) float64 {
	v, _, ok := s.Get(prop)
	if !ok {
		return initial
	}
	l, err := css.ParseLength(v)
	if err != nil || (l.Unit != "" && l.Unit != "%") {
		return initial
	}
	return l.Px(css.Units{Percent: 1})
}

// share is num kept within 0–1.
func (s *style) share(prop string, initial float64) float64 {
	return math.Min(1, math.Max(0, s.num(prop, initial)))
}

func (s *style) units(percent float64) css.Units {
	return css.Units{Em: s.fontSize, Rem: s.b.opts.Root, Percent: percent}
}

// px is a length property in user units; percent is what 100 % of it is.
func (s *style) px(prop string, initial, percent float64) float64 {
	v, _, ok := s.Get(prop)
	if !ok {
		return initial
	}
	l, err := css.ParseLength(v)
	if err != nil {
		return initial
	}
	return l.Px(s.units(percent))
}

// hidden reports whether an element of this style, apart from its ancestors, is not shown.
func (s *style) hidden() bool {
	return s.str("display", "") == "none" || s.invisible()
}

func (s *style) invisible() bool {
	v := s.str("visibility", "visible")
	return v == "hidden" || v == "collapse"
}

// color resolves a colour property; currentColor takes the color property.
func (s *style) color(value string) (color.Color, error) {
	if strings.EqualFold(value, "currentcolor") {
		v, _, ok := s.Get("color")
		if !ok || strings.EqualFold(v, "currentcolor") {
			return color.Black, nil
		}
		return color.Parse(v)
	}
	c, err := color.Parse(value)
	if err != nil { // icc-color() and the like stand behind the sRGB colour
		if head, _, ok := strings.Cut(strings.TrimSpace(value), " "); ok && !strings.Contains(head, "(") {
			return color.Parse(head)
		}
	}
	return c, err
}

// from words the statement a property's value comes from; stated is false where there is none.
func (s *style) from(n *markup.Node, prop string) (where string, stated bool) {
	_, src, ok := s.Get(prop)
	if !ok {
		return "initial value", false
	}
	switch src.Kind {
	case css.FromAttribute:
		where = prop + " attribute"
	case css.FromInline:
		where = "style attribute"
	case css.FromRule:
		pos := s.b.doc.Markup.Position(s.b.offsets[src.Rule])
		where = fmt.Sprintf("rule %s, line %d", src.Rule.Selector.Text, pos.Line)
	}
	if src.Node != nil && src.Node != n {
		name := src.Node.Local
		if id := src.Node.ID(); id != "" {
			name += "#" + id
		}
		where += " of " + name
	}
	return where, true
}

// fact makes a stated fact of a property's value, derived where it is only the initial one.
func fact[T any](s *style, n *markup.Node, prop string, v T) design.Fact[T] {
	from, stated := s.from(n, prop)
	if !stated {
		return design.Derive(v, from)
	}
	return design.State(v, from)
}

// statedProps is CSS in a drawing that its picture cannot show but code wants: layout intent and motion.
var statedProps = func() map[string]bool {
	m := map[string]bool{}
	for _, p := range strings.Fields(`gap row-gap column-gap flex flex-grow flex-shrink flex-basis flex-direction flex-wrap
		justify-content align-items align-self align-content place-items grid-template-columns grid-template-rows
		grid-column grid-row padding margin min-width max-width min-height max-height transition animation cursor
		padding-top padding-right padding-bottom padding-left text-overflow white-space overflow-wrap z-index`) {
		m[p] = true
	}
	return m
}()

// noteStated keeps custom properties, values written with var(), layout intent and motion as declared.
func (b *builder) noteStated(e *design.Element, s *style) {
	for _, prop := range s.Own() {
		raw, _ := s.Raw(prop)
		intent := statedProps[prop] || prop == "display" && (strings.Contains(raw, "flex") || strings.Contains(raw, "grid"))
		if intent || strings.HasPrefix(prop, "--") || strings.Contains(raw, "var(") {
			e.Stated = append(e.Stated, design.Declaration{Prop: prop, Value: raw})
		}
	}
}
