package code

import (
	"fmt"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/infer/layout"
	"archetyp/core/infer/role"
)

// style is how a text is set.
func (p *composePrinter) style(n *Node) string {
	e := n.Cell.Element
	w := e.Words
	var parts []string
	add := func(name, value string) { parts = append(parts, name+" = "+value) }
	if t := p.token(e, "type", typeKey(w)); t != "" {
		add("fontSize", t+".size")
		add("fontWeight", "FontWeight("+t+".weight)")
		if w.Spacing.Value != 0 {
			add("letterSpacing", t+".letterSpacing")
		}
	} else {
		add("fontSize", sp(w.Size.Value))
		add("fontWeight", fmt.Sprintf("FontWeight(%d)", w.Weight.Value))
		if w.Spacing.Set && w.Spacing.Value != 0 {
			add("letterSpacing", sp(w.Spacing.Value))
		}
	}
	if w.Italic.Value {
		add("fontStyle", "FontStyle.Italic")
	}
	if lines := n.Cell.TextLines(); len(lines) > 1 {
		add("lineHeight", sp(design.Tidy(n.Cell.Box.H/float64(len(lines)))))
	}
	if strings.Contains(w.Decoration.Value, "underline") {
		add("textDecoration", "TextDecoration.Underline")
	}
	if len(e.Fills) > 0 {
		if c, ok := p.colour(e, "color:text", e.Fills[0].Value); ok {
			add("color", c)
		}
	}
	return "TextStyle(" + strings.Join(parts, ", ") + ")"
}

// modifier is the modifier chain of a node: placement, size, background, border, padding.
func (p *composePrinter) modifier(n, holder *Node) string {
	c, e := n.Cell, n.Element()
	m := ""
	if holder == nil {
		m = ".fillMaxWidth()"
		if p.tree.Whole {
			m = ".fillMaxSize().verticalScroll(rememberScrollState())"
		}
	}
	m += p.stand(n, holder)
	switch {
	case n.Picture != nil:
		return whole(m)
	case c.Words() && !c.Leaf():
		return whole(m)
	}
	if !c.Words() {
		switch {
		case c.Leaf() && n.Role != role.Area && c.Face == nil && e != nil:
			if c.Wide || holder != nil && holder.Cell.Kind == layout.Row {
				m += ".size(" + dp(c.Box.W) + ", " + dp(c.Box.H) + ")"
			} else {
				m += ".fillMaxWidth().height(" + dp(c.Box.H) + ")"
			}
		case wide(n, holder) && holder != nil:
			m += ".fillMaxWidth()"
		case c.Wide && c.Face != nil:
			m += ".width(" + dp(c.Box.W) + ")"
		}
		if c.Least || c.High {
			m += ".heightIn(min = " + dp(c.Box.H) + ")"
		}
		if c.Face != nil || c.Leaf() && e != nil {
			m += p.paint(n)
		}
		m += p.padding(e, c.Padding)
	}
	return whole(m)
}

func whole(m string) string {
	if m == "" {
		return ""
	}
	return "Modifier" + m
}

// stand is where a node stands in its holder.
func (p *composePrinter) stand(n, holder *Node) string {
	if holder == nil {
		return ""
	}
	c, h := n.Cell, holder.Cell
	for _, k := range holder.Over {
		if k == n {
			return ".offset(x = " + dp(c.Box.X-h.Box.X) + ", y = " + dp(c.Box.Y-h.Box.Y) + ")"
		}
	}
	m := ""
	before, across := "top", "start"
	if h.Kind == layout.Row {
		before, across = "start", "top"
	}
	say := func(edge string, px float64) {
		if px > 0 {
			m += ".padding(" + edge + " = " + dp(px) + ")"
		} else if px < 0 {
			axis := map[string]string{"top": "y", "start": "x"}[edge]
			m += ".offset(" + axis + " = " + dp(px) + ")"
		}
	}
	say(before, c.Before)
	if c.Inset {
		m += ".padding(horizontal = " + dp(c.Across) + ")"
	} else {
		say(across, c.Across)
	}
	if h.Kind != layout.Row && h.Kind != layout.Grid {
		switch side := (map[layout.Align]string{layout.Center: "CenterHorizontally", layout.End: "End"}); {
		case c.Text != "":
			m += ".fillMaxWidth()"
		case side[c.Self] != "":
			m += ".align(Alignment." + side[c.Self] + ")"
		}
	} else if c.Self != "" && h.Kind == layout.Row {
		m += ".align(" + composeDown(c.Self) + ")"
	}
	return m
}

func (p *composePrinter) padding(e *design.Element, pad [4]float64) string {
	var list []string
	say := func(name string, px float64) {
		if px != 0 {
			list = append(list, name+p.length(e, "space", px, dp))
		}
	}
	switch {
	case pad[0] == pad[1] && pad[1] == pad[2] && pad[2] == pad[3]:
		say("", pad[0])
	case pad[1] == pad[3] && pad[0] == pad[2]:
		say("horizontal = ", pad[1])
		say("vertical = ", pad[0])
	default:
		say("start = ", pad[3])
		say("top = ", pad[0])
		say("end = ", pad[1])
		say("bottom = ", pad[2])
	}
	if list == nil {
		return ""
	}
	return ".padding(" + strings.Join(list, ", ") + ")"
}

// shape is that of a node's face.
func (p *composePrinter) shape(n *Node) string {
	e, face := n.Element(), faceOf(n.Cell)
	r := e.Corners()
	switch {
	case face.Oval():
		return "CircleShape"
	case face.Pill():
		return "RoundedCornerShape(50)"
	case !r.Set || r.Value.Zero():
		return "RectangleShape"
	case r.Value.Uniform():
		return "RoundedCornerShape(" + p.length(e, "radius", r.Value.X[0], dp) + ")"
	}
	x := r.Value.X
	return "RoundedCornerShape(" + dp(x[0]) + ", " + dp(x[1]) + ", " + dp(x[2]) + ", " + dp(x[3]) + ")"
}

// paint is the shadow, ground, border and effects of a node's face.
func (p *composePrinter) paint(n *Node) string {
	e, face := n.Element(), faceOf(n.Cell)
	shape := p.shape(n)
	m := ""
	if e.Opacity.Set && e.Opacity.Value != 1 {
		m += ".alpha(" + css.Num(e.Opacity.Value, 4) + "f)"
	}
	if turn := face.Turn(); turn != 0 {
		m += ".rotate(" + css.Num(turn, 3) + "f)"
	}
	for _, s := range e.AllShadows() {
		if v := s.Value; !v.Inset { // elevation is the nearest that Compose has
			c, _ := p.colour(nil, "", design.Paint{Kind: design.Solid, Color: v.Color})
			m += ".shadow(" + dp(v.Blur/2) + ", " + shape + ", ambientColor = " + c + ", spotColor = " + c + ")"
			break
		}
	}
	g := ground(n)
	kind := "color:surface"
	if g == nil && e.Line() && len(e.Strokes) > 0 {
		g, kind = &e.Strokes[0].Value.Paint, "color:border"
	}
	in := ""
	if shape != "RectangleShape" {
		in = ", " + shape
	}
	if g != nil {
		if c, ok := p.colour(face, kind, *g); ok {
			m += ".background(" + c + in + ")"
		} else if g.Gradient != nil {
			m += ".background(" + p.gradient(face, *g) + in + ")"
		}
	}
	if s, ok := frame(n); ok && !e.Line() {
		c, _ := p.colour(face, "color:border", s.Paint)
		m += ".border(" + dp(s.Shown) + ", " + c + in + ")"
	}
	return m
}

func (p *composePrinter) gradient(e *design.Element, paint design.Paint) string {
	var stops []string
	for _, s := range paint.Gradient.Stops {
		c, _ := p.colour(nil, "", design.Paint{Kind: design.Solid, Color: s.Color})
		stops = append(stops, css.Num(s.Offset, 4)+"f to "+c)
	}
	if paint.Kind == design.Radial {
		return "Brush.radialGradient(" + strings.Join(stops, ", ") + ")"
	}
	from, to := gradientEnds(e, paint)
	if from.X == to.X {
		return "Brush.verticalGradient(" + strings.Join(stops, ", ") + ")"
	}
	if from.Y == to.Y {
		return "Brush.horizontalGradient(" + strings.Join(stops, ", ") + ")"
	}
	return "Brush.linearGradient(" + strings.Join(stops, ", ") + ", start = Offset.Zero, end = Offset.Infinite)"
}
