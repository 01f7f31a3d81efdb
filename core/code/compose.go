package code

import (
	"fmt"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/escape"
	"archetyp/core/infer/layout"
	"archetyp/core/infer/role"
	"archetyp/core/token/emit"
)

// Compose prints a tree as a composable function of Jetpack Compose, in Kotlin. Lengths are dp, sizes of type sp.
func Compose(t *Tree, o Options) string {
	p := &composePrinter{native: native{o: o, language: "kotlin"}, tree: t, labels: labels(t)}
	p.view(t.Root, nil, 1)
	body := p.b.String()
	p.b.Reset()
	p.b.WriteString(composeImports)
	p.line(0, "@Composable")
	p.line(0, "fun "+ComponentName(&Page{Tree: t})+"(modifier: Modifier = Modifier) {")
	for _, s := range p.states {
		value := fmt.Sprint(s.on)
		if s.text {
			value = kotlinText(s.value)
		}
		p.line(1, "var "+s.name+" by remember { mutableStateOf("+value+") }")
	}
	return p.b.String() + body + "}\n"
}

const composeImports = `import androidx.compose.foundation.*
import androidx.compose.foundation.layout.*
import androidx.compose.foundation.shape.*
import androidx.compose.foundation.text.BasicTextField
import androidx.compose.material3.*
import androidx.compose.runtime.*
import androidx.compose.ui.*
import androidx.compose.ui.draw.*
import androidx.compose.ui.geometry.Offset
import androidx.compose.ui.graphics.*
import androidx.compose.ui.res.painterResource
import androidx.compose.ui.semantics.*
import androidx.compose.ui.text.*
import androidx.compose.ui.text.font.*
import androidx.compose.ui.text.style.*
import androidx.compose.ui.unit.*

`

type composePrinter struct {
	native
	tree   *Tree
	labels map[*Node]bool
}

func kotlinText(s string) string { return escape.In("kotlin", escape.String, s) }

func dp(px float64) string { return emit.Unit(px, "dp") }
func sp(px float64) string { return emit.Unit(px, "sp") }

// call writes a call, its arguments on lines of their own where one line would be too long; end is what follows it.
func (p *composePrinter) call(in int, name string, args []string, end string) {
	line := name + "(" + strings.Join(args, ", ") + ")" + end
	if len(line)+4*in <= 120 {
		p.line(in, line)
		return
	}
	p.line(in, name+"(")
	for _, a := range args {
		head, chain, ok := strings.Cut(a, "Modifier.")
		if !ok || len(a)+4*in < 112 {
			p.line(in+1, a+",")
			continue
		}
		p.line(in+1, head+"Modifier")
		steps := links(chain)
		for i, step := range steps {
			if i == len(steps)-1 {
				step += ","
			}
			p.line(in+2, "."+step)
		}
	}
	p.line(in, ")"+end)
}

// links are the calls of a chain.
func links(chain string) (out []string) {
	depth, from := 0, 0
	for i := 0; i < len(chain); i++ {
		switch chain[i] {
		case '(', '{':
			depth++
		case ')', '}':
			depth--
		case '"':
			for i++; i < len(chain) && chain[i] != '"'; i++ {
				if chain[i] == '\\' {
					i++
				}
			}
		case '.':
			if depth == 0 {
				out = append(out, chain[from:i])
				from = i + 1
			}
		}
	}
	return append(out, chain[from:])
}

// args are arguments without those that are empty.
func args(list ...string) (out []string) {
	for _, a := range list {
		if a != "" {
			out = append(out, a)
		}
	}
	return out
}

// view writes a node.
func (p *composePrinter) view(n, holder *Node, in int) {
	if p.labels[n] && n.Control == nil {
		return // a choice says it
	}
	mod := p.modifier(n, holder)
	switch {
	case n.Picture != nil:
		says := "null"
		if n.Says != "" {
			says = kotlinText(n.Says)
		}
		p.call(in, "Image", args("painterResource(R.drawable."+drawable(n.Picture.Name)+")", "contentDescription = "+says,
			modified(mod)), "")
	case n.Control != nil && isChoice(n.Control):
		p.call(in, "Row", args(modified(mod), "verticalAlignment = Alignment.CenterVertically"), " {")
		p.choice(n.Control, n.said(), in+1)
		if w := n.words(); w != nil {
			p.words(w, nil, in+1)
		}
		p.line(in, "}")
	case p.control(n, mod, in):
	case n.Cell.Words():
		p.words(n, holder, in)
	case n.Role == role.Separator || n.Cell.Leaf():
		p.call(in, "Box", args(modified(mod)), "")
	case n.Role == role.Button || n.Role == role.Tab || n.Role == role.Link:
		says := ""
		if n.Says != "" {
			says = ".semantics { contentDescription = " + kotlinText(n.Says) + " }"
		}
		if mod == "" {
			mod = "Modifier"
		}
		p.content(n, mod+".clickable(role = Role.Button) {}"+says, in)
	default:
		p.content(n, mod, in)
	}
}

// modified is a modifier as an argument.
func modified(mod string) string {
	if mod == "" {
		return ""
	}
	return "modifier = " + mod
}

// drawable is a picture's name as a resource of Android.
func drawable(name string) string {
	return strings.NewReplacer("/", "_", "-", "_").Replace(name)
}

// choice writes a box that is on or off.
func (p *composePrinter) choice(n *Node, name string, in int) {
	v := p.named(name, state{on: n.On})
	switch n.Role {
	case role.Switch:
		p.line(in, "Switch(checked = "+v+", onCheckedChange = { "+v+" = it })")
	case role.Radio:
		p.line(in, "RadioButton(selected = "+v+", onClick = { "+v+" = true })")
	default:
		p.line(in, "Checkbox(checked = "+v+", onCheckedChange = { "+v+" = it })")
	}
}

// control writes what people fill in or choose; false for anything else.
func (p *composePrinter) control(n *Node, mod string, in int) bool {
	switch n.Role {
	case role.Checkbox, role.Radio, role.Switch:
		p.choice(n, n.label(), in)
	case role.Field, role.Search, role.Area:
		v := p.named(n.label(), state{text: true, value: n.Value})
		single := ""
		if n.Role != role.Area {
			single = "singleLine = true"
		}
		if mod == "" {
			mod = "Modifier"
		}
		mod += ".semantics { contentDescription = " + kotlinText(n.label()) + " }"
		style := ""
		if w := n.words(); w != nil {
			style = "textStyle = " + p.style(w)
		}
		p.call(in, "BasicTextField", args("value = "+v, "onValueChange = { "+v+" = it }", modified(mod), style, single), "")
	case role.Select:
		v := p.named(n.label(), state{text: true, value: n.Value})
		if mod == "" {
			mod = "Modifier"
		}
		mod += ".clickable(role = Role.DropdownList) {}.semantics { contentDescription = " + kotlinText(n.label()) + " }"
		p.call(in, "Text", args("text = "+v, modified(mod)), "")
	default:
		return false
	}
	return true
}

// content writes what a node holds.
func (p *composePrinter) content(n *Node, mod string, in int) {
	if n.Alone {
		align := "Alignment.Center"
		if k := n.Nodes[0].Cell; k.Text == "" && k.Self != layout.Center {
			align = "Alignment.CenterStart"
		}
		p.call(in, "Box", args(modified(mod), "contentAlignment = "+align), " {")
		p.words(n.Nodes[0], nil, in+1)
		p.line(in, "}")
		return
	}
	if len(n.Over) > 0 {
		p.call(in, "Box", args(modified(mod)), " {")
		for _, k := range n.Over {
			if k.Cell.Under {
				p.view(k, n, in+1)
			}
		}
		p.stack(n, "", in+1)
		for _, k := range n.Over {
			if !k.Cell.Under {
				p.view(k, n, in+1)
			}
		}
		p.line(in, "}")
		return
	}
	p.stack(n, mod, in)
}

// stack writes the row, column or grid of a node.
func (p *composePrinter) stack(n *Node, mod string, in int) {
	c, e := n.Cell, n.Element()
	if len(n.Nodes) == 0 {
		return
	}
	switch c.Kind {
	case layout.Row:
		p.call(in, "Row", args(modified(mod), p.arranged("horizontalArrangement", c, e),
			"verticalAlignment = "+composeDown(c.Align)), " {")
		for _, k := range n.Nodes {
			if k.Cell.Pushed {
				p.line(in+1, "Spacer(Modifier.weight(1f))")
			}
			p.view(k, n, in+1)
		}
	case layout.Grid:
		across := "horizontalArrangement = Arrangement.spacedBy(" + p.length(e, "space", c.Gap, dp) + ")"
		if len(n.Nodes) <= c.Columns {
			p.call(in, "Row", args(modified(mod), across), " {")
			p.shares(n, n.Nodes, in+1)
			break
		}
		p.call(in, "Column", args(modified(mod), "verticalArrangement = Arrangement.spacedBy("+dp(c.RowGap)+")"), " {")
		for at := 0; at < len(n.Nodes); at += c.Columns {
			p.call(in+1, "Row", []string{across}, " {")
			p.shares(n, n.Nodes[at:min(at+c.Columns, len(n.Nodes))], in+2)
			p.line(in+1, "}")
		}
	default:
		p.call(in, "Column", args(modified(mod), p.arranged("verticalArrangement", c, e)), " {")
		for _, k := range n.Nodes {
			p.view(k, n, in+1)
		}
	}
	p.line(in, "}")
}

// shares writes nodes that share the width of a row.
func (p *composePrinter) shares(holder *Node, nodes []*Node, in int) {
	for _, k := range nodes {
		p.line(in, "Box(Modifier.weight(1f)) {")
		p.view(k, holder, in+1)
		p.line(in, "}")
	}
}

// arranged is how what follows each other is spaced.
func (p *composePrinter) arranged(name string, c *layout.Cell, e *design.Element) string {
	switch {
	case c.Justify == layout.Apart:
		return name + " = Arrangement.SpaceBetween"
	case c.Justify == layout.Middle && c.Gap == 0:
		return name + " = Arrangement.Center"
	case c.Gap > 0 && len(c.Cells) > 1:
		return name + " = Arrangement.spacedBy(" + p.length(e, "space", c.Gap, dp) + ")"
	}
	return ""
}

func composeDown(a layout.Align) string {
	switch a {
	case layout.Start, layout.Stretch:
		return "Alignment.Top"
	case layout.End:
		return "Alignment.Bottom"
	}
	return "Alignment.CenterVertically"
}

// words writes a text.
func (p *composePrinter) words(n, holder *Node, in int) {
	mod := ""
	if holder != nil {
		mod = p.modifier(n, holder)
	}
	if n.Role == role.Heading {
		if mod == "" {
			mod = "Modifier"
		}
		mod += ".semantics { heading() }"
	}
	align := map[layout.Align]string{layout.Center: "textAlign = TextAlign.Center", layout.End: "textAlign = TextAlign.End"}[n.Cell.Text]
	p.call(in, "Text", args("text = "+p.said(n), "style = "+p.style(n), align, modified(mod)), "")
}

// said is what a text says: a string, or one built of runs set unlike.
func (p *composePrinter) said(n *Node) string {
	base := n.Cell.Element.Words
	plain := ""
	var parts []string
	for _, s := range n.Words {
		text := s.Words
		if s.Break {
			text += "\n"
		}
		plain += text
		if r := s.Run; r != nil && base != nil && (r.Weight != base.Weight.Value || r.Italic != base.Italic.Value) {
			parts = append(parts, fmt.Sprintf("withStyle(SpanStyle(fontWeight = FontWeight(%d))) { append(%s) }", r.Weight, kotlinText(text)))
			continue
		}
		parts = append(parts, "append("+kotlinText(text)+")")
	}
	if !strings.Contains(strings.Join(parts, ""), "withStyle") {
		return kotlinText(plain)
	}
	return "buildAnnotatedString { " + strings.Join(parts, "; ") + " }"
}

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

// modifier is what is said of a node: where it stands, its size, its ground and border, its padding.
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
		if c.Least {
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
