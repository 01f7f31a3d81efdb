package drift

import (
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/markup"
)

// variables holds the custom properties of pages against the tokens that are called the same.
func variables(in *In) (out []seen) {
	if in.Tokens == nil {
		return nil
	}
	done := map[*design.Document]bool{}
	for i := range in.Drawings {
		p := &in.Drawings[i]
		if done[p.Page] || p.View.Dark {
			continue
		}
		done[p.Page] = true
		root := p.Page.Markup.Root
		if k := slices.IndexFunc(root.Children, func(n *markup.Node) bool { return n.Kind == markup.Element }); k >= 0 && root.Kind != markup.Element {
			root = root.Children[k]
		}
		for _, name := range p.Page.Styles.Declared(root) {
			if !strings.HasPrefix(name.Prop, "--") {
				continue
			}
			token := in.Tokens.Named(name.Prop)
			value := in.Tokens.Value(token)
			w := winner(p.Page.Styles.Why(root, name.Prop))
			if value == "" || w == nil || onlyVar(w.Value) != "" || len(w.Vars) > 0 || len(w.Within) > 0 || in.sameLiteral(value, w.Value) {
				continue
			}
			s := seen{kind: kindOf(token), token: token, cause: declares(w, w.Prop), claimed: name.Prop + ": " + value + ";"}
			if s.kind == Other {
				s.kind = Size
			}
			s.far, s.unit, _ = in.Tolerances.apart("", value, w.Value)
			pos := p.Page.Markup.Position(root.Offset)
			s.spot = Spot{Screen: p.Screen.Name, View: p.View, Prop: name.Prop, Was: value, Is: w.Value, Site: Ref{Source: p.Page.Name, Selector: w.Selector, Element: name.Prop, Line: pos.Line, Column: pos.Column}}
			out = append(out, s)
		}
	}
	return out
}
