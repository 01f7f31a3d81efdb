package code

import (
	"fmt"
	"strings"

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
	p.line(0, "fun "+t.ComponentName()+"(modifier: Modifier = Modifier) {")
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
		if n.AccessibleName != "" {
			says = kotlinText(n.AccessibleName)
		}
		p.call(in, "Image", args("painterResource(R.drawable."+drawable(n.Picture.Name)+")", "contentDescription = "+says,
			modified(mod)), "")
	case n.Control != nil && isChoice(n.Control):
		p.call(in, "Row", args(modified(mod), "verticalAlignment = Alignment.CenterVertically"), " {")
		p.choice(n.Control, n.phrase(), in+1)
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
		if n.AccessibleName != "" {
			says = ".semantics { contentDescription = " + kotlinText(n.AccessibleName) + " }"
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
	p.call(in, "Text", args("text = "+p.annotated(n), "style = "+p.style(n), align, modified(mod)), "")
}

// annotated is a text as a string, or as an annotated string where its runs differ.
func (p *composePrinter) annotated(n *Node) string {
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
			parts = append(parts, fmt.Sprintf("withStyle(SpanStyle(fontWeight = FontWeight(%d))) { append(%s) }", r.Weight,
				kotlinText(text)))
			continue
		}
		parts = append(parts, "append("+kotlinText(text)+")")
	}
	if !strings.Contains(strings.Join(parts, ""), "withStyle") {
		return kotlinText(plain)
	}
	return "buildAnnotatedString { " + strings.Join(parts, "; ") + " }"
}
