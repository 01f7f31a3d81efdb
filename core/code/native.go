package code

import (
	"slices"
	"strings"
	"unicode"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/infer/layout"
	"archetyp/core/infer/role"
	"archetyp/core/token/emit"
)

// native is what the languages of apps have in common: names of tokens, literals, and lines that are indented.
type native struct {
	o        Options
	language string // as tokens are written in
	b        strings.Builder
	states   []state // what people change
}

// state is a value that people change: what a field holds, whether something is on.
type state struct {
	name, value string
	on, text    bool
}

// line writes a line.
func (p *native) line(indent int, s string) {
	p.b.WriteString(strings.Repeat("    ", indent) + s + "\n")
}

// token is the constant of a value's token; "" for none.
func (p *native) token(e *design.Element, kind, value string) string {
	if p.o.Tokens == nil {
		return ""
	}
	n := p.o.Tokens(e, kind, value)
	if n.Path == "" {
		return ""
	}
	return "Tokens." + emit.Name(p.language, n.Path, "")
}

// colour is a plain colour as code; ok is false for gradients, pictures and patterns.
func (p *native) colour(e *design.Element, kind string, paint design.Paint) (text string, ok bool) {
	if paint.Kind != design.Solid {
		return "", false
	}
	if t := p.token(e, kind, paint.Color.CSS()); t != "" {
		return t, true
	}
	return emit.NativeColor(p.language, paint.Color), true
}

// ground is what a node is filled with; nil for nothing.
func ground(n *Node) *design.Paint {
	face := faceOf(n.Cell)
	if face == nil || n.Cell.Words() || n.Picture != nil || len(face.Fills) == 0 {
		return nil
	}
	return &face.Fills[len(face.Fills)-1].Value
}

// frame is the stroke along the edge of a node's face.
func frame(n *Node) (s design.Stroke, ok bool) {
	face := faceOf(n.Cell)
	if face == nil || n.Cell.Words() || n.Picture != nil {
		return s, false
	}
	if len(face.Strokes) > 0 {
		return face.Strokes[0].Value, face.Strokes[0].Value.Paint.Kind == design.Solid
	}
	if e := n.Element(); e != nil && e.Kind == design.Group {
		if b, s := e.Border(); b != nil {
			return s.Value, s.Value.Paint.Kind == design.Solid
		}
	}
	return s, false
}

// length is a length as code: its token, or what the language writes for it.
func (p *native) length(e *design.Element, kind string, px float64, literal func(float64) string) string {
	if e != nil {
		if t := p.token(e, kind, css.Px(px)); t != "" {
			return t
		}
	}
	return literal(px)
}

// named is a new state, called after words.
func (p *native) named(words string, s state) string {
	name := camelName(words)
	if name == "" {
		name = "value"
	}
	s.name = name
	for i := 2; slices.ContainsFunc(p.states, func(o state) bool { return o.name == s.name }); i++ {
		s.name = name + css.Num(float64(i), 0)
	}
	p.states = append(p.states, s)
	return s.name
}

// camelName is words as the name of a variable.
func camelName(words string) string {
	out := ""
	for _, w := range strings.Split(design.Slug(words), "-") {
		letters := strings.Map(func(r rune) rune {
			if r < 0x80 && (unicode.IsLetter(r) || unicode.IsDigit(r)) {
				return r
			}
			return -1
		}, w)
		if letters == "" {
			continue
		}
		if out != "" {
			letters = strings.ToUpper(letters[:1]) + letters[1:]
		}
		out += letters
	}
	if out != "" && unicode.IsDigit(rune(out[0])) {
		out = "value" + out
	}
	return out
}

// label is the name of a control: its label, else its accessible name, its value, or its name in the drawing.
func (n *Node) label() string {
	if n.Label != nil {
		return n.Label.phrase()
	}
	return firstOf(n.AccessibleName, n.Value, title(n.Name))
}

// wide reports whether a node fills the width of its holder.
func wide(n, holder *Node) bool {
	if holder == nil {
		return true
	}
	c := n.Cell
	return holder.Cell.Kind != layout.Row && c.Self == "" && !c.Wide && !c.Words() && n.Picture == nil && !c.Leaf()
}

// labels are the nodes whose words are part of the control they belong to.
func labels(t *Tree) map[*Node]bool {
	out := map[*Node]bool{}
	t.Root.Walk(func(n *Node) {
		if n.Label != nil {
			out[n.Label] = true
		}
		if n.Control != nil && isChoice(n.Control) {
			if w := n.words(); w != nil {
				out[w] = true
			}
		}
	})
	return out
}

func isChoice(n *Node) bool {
	return n.Role == role.Checkbox || n.Role == role.Radio || n.Role == role.Switch
}
