package code

import (
	"fmt"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/escape"
	"archetyp/core/infer/layout"
	"archetyp/core/infer/role"
)

// Swift prints a tree as a view of SwiftUI. Lengths are points.
func Swift(t *Tree, o Options) string {
	p := &swiftPrinter{native: native{o: o, language: "swift"}, tree: t, labels: labels(t)}
	if t.Whole {
		p.line(2, "ScrollView {")
		p.view(t.Root, nil, 3)
		p.line(2, "}")
		if g := ground(t.Root); g != nil {
			p.background(t.Root, 2)
		}
	} else {
		p.view(t.Root, nil, 2)
	}
	body := p.b.String()
	p.b.Reset()
	p.line(0, "import SwiftUI\n")
	p.line(0, "struct "+t.ComponentName()+": View {")
	for _, s := range p.states {
		value := fmt.Sprint(s.on)
		if s.text {
			value = swiftText(s.value)
		}
		p.line(1, "@State private var "+s.name+" = "+value)
	}
	if len(p.states) > 0 {
		p.b.WriteString("\n")
	}
	p.line(1, "var body: some View {")
	return p.b.String() + body + "    }\n}\n"
}

type swiftPrinter struct {
	native
	tree   *Tree
	labels map[*Node]bool
}

func swiftText(s string) string { return escape.In("swift", escape.String, s) }

func points(px float64) string { return css.Num(px, 3) }

// view writes a node and its modifiers.
func (p *swiftPrinter) view(n, holder *Node, in int) {
	if p.labels[n] && (n.Control == nil || n.Control.Label == n) {
		if n.Control == nil {
			return // a choice says it
		}
	}
	switch {
	case n.Picture != nil:
		p.line(in, "Image("+swiftText(n.Picture.Name)+")")
		if n.AccessibleName == "" {
			p.line(in+1, ".accessibilityHidden(true)")
		} else {
			p.line(in+1, ".accessibilityLabel("+swiftText(n.AccessibleName)+")")
		}
	case n.Control != nil && isChoice(n.Control):
		name := p.named(n.phrase(), state{on: n.Control.On})
		p.line(in, "Toggle("+swiftText(n.phrase())+", isOn: $"+name+")")
		if w := n.words(); w != nil {
			p.font(w, in+1)
		}
	case p.control(n, in):
	case n.Cell.Words():
		p.words(n, in)
	case n.Role == role.Separator || n.Cell.Leaf():
		p.line(in, swiftShape(n)+"()")
		p.leaf(n, holder, in+1)
		p.stand(n, holder, in+1)
		return
	case n.Role == role.Button || n.Role == role.Tab:
		p.line(in, "Button(action: {}) {")
		p.content(n, in+1)
		p.line(in, "}")
		p.line(in+1, ".buttonStyle(.plain)")
		if n.AccessibleName != "" {
			p.line(in+1, ".accessibilityLabel("+swiftText(n.AccessibleName)+")")
		}
	case n.Role == role.Link && n.Element() != nil && n.Element().Marks.LeadsTo != "":
		screen, _, _ := strings.Cut(n.Element().Marks.LeadsTo, ";")
		p.line(in, "NavigationLink(value: "+swiftText(strings.TrimSpace(screen))+") {")
		p.content(n, in+1)
		p.line(in, "}")
	default:
		p.content(n, in)
	}
	p.box(n, holder, in+1)
	p.stand(n, holder, in+1)
}

// control writes what people fill in or choose; false for anything else.
func (p *swiftPrinter) control(n *Node, in int) bool {
	switch n.Role {
	case role.Field, role.Search:
		name := p.named(n.label(), state{text: true, value: n.Value})
		p.line(in, "TextField("+swiftText(n.label())+", text: $"+name+")")
	case role.Area:
		name := p.named(n.label(), state{text: true, value: n.Value})
		p.line(in, "TextEditor(text: $"+name+")")
		p.line(in+1, ".frame(height: "+points(n.Cell.Box.H)+")")
	case role.Select:
		name := p.named(n.label(), state{text: true, value: n.Value})
		p.line(in, "Picker("+swiftText(n.label())+", selection: $"+name+") {")
		p.line(in+1, "Text("+swiftText(n.Value)+").tag("+swiftText(n.Value)+")")
		p.line(in, "}")
	case role.Checkbox, role.Radio, role.Switch:
		name := p.named(n.label(), state{on: n.On})
		p.line(in, "Toggle("+swiftText(n.label())+", isOn: $"+name+")")
		p.line(in+1, ".labelsHidden()")
		return true
	default:
		return false
	}
	if w := n.words(); w != nil {
		p.font(w, in+1)
	}
	return true
}

// content writes what a node holds, in a stack.
func (p *swiftPrinter) content(n *Node, in int) {
	c := n.Cell
	if n.Alone {
		p.words(n.Nodes[0], in)
		return
	}
	if len(n.Over) > 0 {
		p.line(in, "ZStack(alignment: .topLeading) {")
		defer p.line(in, "}")
		in++
		for _, k := range n.Over {
			if k.Cell.Under {
				p.view(k, n, in)
			}
		}
		defer func() {
			for _, k := range n.Over {
				if !k.Cell.Under {
					p.view(k, n, in)
				}
			}
		}()
	}
	e := n.Element()
	switch {
	case len(n.Nodes) == 0:
		if len(n.Over) == 0 {
			p.line(in, "EmptyView()")
		}
		return
	case len(n.Nodes) == 1 && c.Kind != layout.Row:
		p.view(n.Nodes[0], n, in)
		return
	case c.Kind == layout.Row:
		p.line(in, "HStack(alignment: "+swiftDown(c.Align)+", spacing: "+p.length(e, "space", c.Gap, points)+") {")
	case c.Kind == layout.Grid:
		p.line(in, fmt.Sprintf("LazyVGrid(columns: Array(repeating: GridItem(.flexible(), spacing: %s), count: %d), "+
			"spacing: %s) {", points(c.Gap), c.Columns, points(c.RowGap)))
	default:
		p.line(in, "VStack(alignment: .leading, spacing: "+p.length(e, "space", c.Gap, points)+") {")
	}
	for i, k := range n.Nodes {
		if k.Cell.Pushed || i > 0 && c.Justify == layout.Apart {
			p.line(in+1, "Spacer(minLength: 0)")
		}
		p.view(k, n, in+1)
	}
	p.line(in, "}")
}

func swiftDown(a layout.Align) string {
	switch a {
	case layout.Start, layout.Stretch:
		return ".top"
	case layout.End:
		return ".bottom"
	case layout.Baseline:
		return ".firstTextBaseline"
	}
	return ".center"
}

// words writes a text; runs that are set differently are joined to it.
func (p *swiftPrinter) words(n *Node, in int) {
	var parts []string
	base := n.Cell.Element.Words
	for _, s := range n.Words {
		text := s.Words
		if s.Break {
			text += "\n"
		}
		part := "Text(" + swiftText(text) + ")"
		if r := s.Run; r != nil && base != nil {
			if r.Weight != base.Weight.Value {
				part += ".fontWeight(" + swiftWeight(r.Weight) + ")"
			}
			c, ok := p.colour(n.Element(), "color:text", r.Fill)
			if fills := n.Element().Fills; ok && len(fills) > 0 && fills[0].Value.Color.CSS() != r.Fill.Color.CSS() {
				part += ".foregroundColor(" + c + ")"
			}
		}
		parts = append(parts, part)
	}
	if len(parts) > 1 {
		p.line(in, "("+strings.Join(parts, " + ")+")")
	} else {
		p.line(in, strings.Join(parts, ""))
	}
	p.font(n, in+1)
	if n.Role == role.Heading {
		p.line(in+1, ".accessibilityAddTraits(.isHeader)")
	}
	if a := n.Cell.Text; a == layout.Center {
		p.line(in+1, ".multilineTextAlignment(.center)")
	} else if a == layout.End {
		p.line(in+1, ".multilineTextAlignment(.trailing)")
	}
}

// font writes how a text is set.
func (p *swiftPrinter) font(n *Node, in int) {
	e := n.Cell.Element
	w := e.Words
	if t := p.token(e, "type", typeKey(w)); t != "" {
		p.line(in, ".font("+t+".font)")
		p.line(in, ".fontWeight("+swiftWeight(w.Weight.Value)+")")
	} else {
		family, _, _ := strings.Cut(w.Family.Value, ",")
		font := ".system(size: " + points(w.Size.Value) + ")"
		if family != "" {
			font = ".custom(" + swiftText(strings.Trim(strings.TrimSpace(family), `"'`)) + ", size: " +
				points(w.Size.Value) + ")"
		}
		p.line(in, ".font("+font+")")
		p.line(in, ".fontWeight("+swiftWeight(w.Weight.Value)+")")
	}
	if w.Italic.Value {
		p.line(in, ".italic()")
	}
	if w.Spacing.Set && w.Spacing.Value != 0 {
		p.line(in, ".tracking("+points(w.Spacing.Value)+")")
	}
	if w.Case.Value == "uppercase" {
		p.line(in, ".textCase(.uppercase)")
	}
	if strings.Contains(w.Decoration.Value, "underline") {
		p.line(in, ".underline()")
	}
	if len(e.Fills) > 0 {
		if c, ok := p.colour(e, "color:text", e.Fills[0].Value); ok {
			p.line(in, ".foregroundStyle("+c+")")
		}
	}
	if lines := n.Cell.TextLines(); len(lines) > 1 {
		px := n.Cell.Box.H / float64(len(lines))
		if more := px - (w.Ascent+w.Descent)*w.Size.Value; more > 0.5 {
			p.line(in, ".lineSpacing("+points(design.Tidy(float64(int(more*2+0.5))/2))+")")
		}
	}
}

func swiftWeight(w int) string {
	names := []string{".ultraLight", ".thin", ".light", ".regular", ".medium", ".semibold", ".bold", ".heavy", ".black"}
	weights := []int{200, 100, 300, 400, 500, 600, 700, 800, 900}
	for i, v := range weights {
		if v == w {
			return names[i]
		}
	}
	return ".regular"
}

// box writes the padding, ground, border and effects of a node.
func (p *swiftPrinter) box(n, holder *Node, in int) {
	c := n.Cell
	e := n.Element()
	if pad := c.Padding; pad != [4]float64{} && !c.Words() {
		p.padding(e, pad, in)
	}
	if c.High {
		p.line(in, ".frame(minHeight: "+points(c.Box.H)+", alignment: .top)")
	}
	if c.Least {
		p.line(in, ".frame(maxWidth: .infinity, minHeight: "+points(c.Box.H)+")")
	} else if wide(n, holder) && (c.Face != nil || c.Kind == layout.Row) && holder != nil {
		p.line(in, ".frame(maxWidth: .infinity, alignment: .leading)")
	} else if c.Wide && c.Face != nil && !c.Leaf() {
		p.line(in, ".frame(width: "+points(c.Box.W)+")")
	}
	if holder == nil && p.tree.Whole || c.Face == nil || n.Picture != nil {
		return
	}
	p.background(n, in)
	p.edge(n, in)
	p.effects(n, in)
}

func (p *swiftPrinter) padding(e *design.Element, pad [4]float64, in int) {
	say := func(edge string, px float64) {
		if px != 0 {
			p.line(in, ".padding("+edge+", "+p.length(e, "space", px, points)+")")
		}
	}
	switch {
	case pad[0] == pad[1] && pad[1] == pad[2] && pad[2] == pad[3]:
		p.line(in, ".padding("+p.length(e, "space", pad[0], points)+")")
	case pad[1] == pad[3] && pad[0] == pad[2]:
		say(".horizontal", pad[1])
		say(".vertical", pad[0])
	case pad[1] == pad[3]:
		say(".horizontal", pad[1])
		say(".top", pad[0])
		say(".bottom", pad[2])
	default:
		say(".top", pad[0])
		say(".trailing", pad[1])
		say(".bottom", pad[2])
		say(".leading", pad[3])
	}
}

// swiftShape is the shape of a node's face.
func swiftShape(n *Node) string {
	if face := faceOf(n.Cell); face != nil && face.Oval() {
		return "Ellipse"
	}
	return "Rectangle"
}

func (p *swiftPrinter) shape(n *Node) string {
	e, face := n.Element(), faceOf(n.Cell)
	r := e.Corners()
	switch {
	case face.Oval():
		return "Ellipse()"
	case face.Pill():
		return "Capsule()"
	case !r.Set || r.Value.Zero():
		return "Rectangle()"
	case r.Value.Uniform():
		return "RoundedRectangle(cornerRadius: " + p.length(e, "radius", r.Value.X[0], points) + ")"
	}
	x := r.Value.X
	return fmt.Sprintf("UnevenRoundedRectangle(topLeadingRadius: %s, bottomLeadingRadius: %s, "+
		"bottomTrailingRadius: %s, topTrailingRadius: %s)", points(x[0]), points(x[3]), points(x[2]), points(x[1]))
}

// fill is a paint as a shape style; ok is false where there is no such style.
func (p *swiftPrinter) fill(e *design.Element, paint design.Paint) (string, bool) {
	if c, ok := p.colour(e, "color:surface", paint); ok {
		return c, true
	}
	if paint.Gradient == nil {
		return "", false
	}
	var stops []string
	for _, s := range paint.Gradient.Stops {
		c, _ := p.colour(nil, "", design.Paint{Kind: design.Solid, Color: s.Color})
		stops = append(stops, "Gradient.Stop(color: "+c+", location: "+css.Num(s.Offset, 4)+")")
	}
	list := "Gradient(stops: [" + strings.Join(stops, ", ") + "])"
	if paint.Kind == design.Radial {
		b := e.Geometry.Value
		return "RadialGradient(gradient: " + list + ", center: .center, startRadius: 0, endRadius: " +
			points(max(b.W, b.H)/2) + ")", true
	}
	from, to := gradientEnds(e, paint)
	return fmt.Sprintf("LinearGradient(gradient: %s, startPoint: UnitPoint(x: %s, y: %s), "+
		"endPoint: UnitPoint(x: %s, y: %s))", list,
		css.Num(from.X, 4), css.Num(from.Y, 4), css.Num(to.X, 4), css.Num(to.Y, 4)), true
}

func (p *swiftPrinter) background(n *Node, in int) {
	g := ground(n)
	if g == nil {
		return
	}
	text, ok := p.fill(faceOf(n.Cell), *g)
	switch {
	case !ok:
		p.line(in, "// the ground is a "+string(g.Kind)+": use a picture")
	case n.Element() == nil || p.shape(n) == "Rectangle()":
		p.line(in, ".background("+text+")")
	default:
		p.line(in, ".background("+text+", in: "+p.shape(n)+")")
	}
}

func (p *swiftPrinter) edge(n *Node, in int) {
	s, ok := frame(n)
	if !ok {
		return
	}
	c, _ := p.colour(faceOf(n.Cell), "color:border", s.Paint)
	p.line(in, ".overlay("+p.shape(n)+".strokeBorder("+c+", lineWidth: "+points(s.Shown)+"))")
}

func (p *swiftPrinter) effects(n *Node, in int) {
	e := n.Element()
	for _, s := range e.AllShadows() {
		v := s.Value
		if v.Inset {
			p.line(in, "// an inner shadow: "+v.CSS())
			continue
		}
		c, _ := p.colour(nil, "", design.Paint{Kind: design.Solid, Color: v.Color})
		p.line(in, fmt.Sprintf(".shadow(color: %s, radius: %s, x: %s, y: %s)", c, points(v.Blur/2), points(v.X), points(v.Y)))
	}
	if e.Opacity.Set && e.Opacity.Value != 1 {
		p.line(in, ".opacity("+css.Num(e.Opacity.Value, 4)+")")
	}
	if face := faceOf(n.Cell); !face.Matrix.Upright() {
		if turn := face.Turn(); turn != 0 {
			p.line(in, ".rotationEffect(.degrees("+css.Num(turn, 3)+"))")
		}
	}
}

// leaf writes the size and paint of a shape that holds nothing.
func (p *swiftPrinter) leaf(n, holder *Node, in int) {
	c := n.Cell
	e := n.Element()
	paint, fill := ground(n), "color:surface"
	if paint == nil && len(e.Strokes) > 0 {
		paint, fill = &e.Strokes[0].Value.Paint, "color:border"
	}
	if paint != nil {
		text, ok := p.colour(e, fill, *paint)
		if !ok {
			text, ok = p.fill(e, *paint)
		}
		if ok {
			p.line(in, ".fill("+text+")")
		}
	}
	size := ".frame(height: " + points(c.Box.H) + ")"
	if c.Wide || holder != nil && holder.Cell.Kind == layout.Row {
		size = ".frame(width: " + points(c.Box.W) + ", height: " + points(c.Box.H) + ")"
	}
	p.line(in, size)
	if swiftShape(n) == "Rectangle" && p.shape(n) != "Rectangle()" {
		p.line(in, ".clipShape("+p.shape(n)+")")
	}
}

// stand writes where a node stands in its holder.
func (p *swiftPrinter) stand(n, holder *Node, in int) {
	if holder == nil {
		return
	}
	c, h := n.Cell, holder.Cell
	for _, k := range holder.Over {
		if k == n {
			p.line(in, ".offset(x: "+points(c.Box.X-h.Box.X)+", y: "+points(c.Box.Y-h.Box.Y)+")")
			return
		}
	}
	before, across := ".top", ".leading"
	if h.Kind == layout.Row {
		before, across = ".leading", ".top"
	}
	if c.Before != 0 {
		p.line(in, ".padding("+before+", "+points(c.Before)+")")
	}
	if c.Across != 0 {
		if c.Inset {
			across = ".horizontal"
		}
		p.line(in, ".padding("+across+", "+points(c.Across)+")")
	}
	if h.Kind != layout.Row {
		side := map[layout.Align]string{layout.Center: ".center", layout.End: ".trailing"}
		if s := firstOf(side[c.Text], side[c.Self]); s != "" {
			p.line(in, ".frame(maxWidth: .infinity, alignment: "+s+")")
		}
	}
}
