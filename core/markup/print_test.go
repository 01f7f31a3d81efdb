package markup

import "strings"

// Print writes a node and what is below it as XML, attributes in the order they have.
func Print(n *Node) string {
	var b strings.Builder
	printNode(&b, n)
	return b.String()
}

func printNode(b *strings.Builder, n *Node) {
	if n.Kind == Text {
		b.WriteString(EscapeText(n.Data))
		return
	}
	b.WriteString("<" + n.Name)
	for _, a := range n.Attrs {
		b.WriteString(" " + a.Name + `="` + EscapeAttr(a.Value) + `"`)
	}
	if len(n.Children) == 0 {
		b.WriteString("/>")
		return
	}
	b.WriteString(">")
	for _, c := range n.Children {
		printNode(b, c)
	}
	b.WriteString("</" + n.Name + ">")
}
