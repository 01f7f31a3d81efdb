package drift

import (
	"slices"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/markup"
	"archetyp/core/styletext"

	lexer "github.com/tdewolff/parse/v2/css"
)

// Coverage says how many of the values that a site declares are tokens.
type Coverage struct {
	Kinds  []KindCoverage `json:"kinds"`
	Raw    []RawValue     `json:"raw"`    // values that a token has, written out
	Near   []RawValue     `json:"near"`   // colours that are hard to tell from a token's
	Unused []string       `json:"unused"` // tokens of these kinds that the site does not use
}

// KindCoverage counts the values of one kind.
type KindCoverage struct {
	Kind   string `json:"kind"`   // colour, type, space, radius, shadow
	Tokens int    `json:"tokens"` // written as custom properties
	Raw    int    `json:"raw"`    // written out, with the value of a token
	Near   int    `json:"near"`   // almost one
	Others int    `json:"others"` // near none
}

// All is how many values of a kind there are.
func (k *KindCoverage) All() int { return k.Tokens + k.Raw + k.Near + k.Others }

// Share is the share of values that are written as tokens, 0–1.
func (k *KindCoverage) Share() float64 {
	if k.All() == 0 {
		return 0
	}
	return float64(k.Tokens) / float64(k.All())
}

// RawValue is a value that is written out.
type RawValue struct {
	Property string            `json:"property"`
	Value    string            `json:"value"`
	Token    string            `json:"token"`
	Use      string            `json:"use"` // what to write instead
	Distance float64           `json:"distance,omitempty"`
	Selector string            `json:"selector"`
	Place    design.StylePlace `json:"place"`
}

// coveredKinds are the kinds that are counted, in their order, and the properties of each.
var coveredKinds = []string{"colour", "type", "space", "radius", "shadow"}

func coveredAs(property string) string {
	switch k := kindOf(property); {
	case strings.HasPrefix(property, "--"):
		return ""
	case k == Radius:
		return "radius"
	case property == "box-shadow", property == "text-shadow":
		return "shadow"
	case property == "font-size":
		return "type"
	case k == Space && property != "top" && property != "right" && property != "bottom" && property != "left":
		return "space"
	case k == Colour, k == Border && !strings.Contains(property, "width") && !strings.Contains(property, "style") && !strings.Contains(property, "offset"):
		return "colour"
	}
	return ""
}

// Cover counts the values of style sheets. near gives the token that is almost a colour, and how far it is.
func Cover(sheets []design.StyleSheet, t Tokens, all []string, near func(color.Color) (token string, far float64)) *Coverage {
	out := &Coverage{Raw: []RawValue{}, Near: []RawValue{}, Unused: []string{}}
	counts := map[string]*KindCoverage{}
	for _, k := range coveredKinds {
		counts[k] = &KindCoverage{Kind: k}
	}
	used := map[string]bool{}
	seen := map[string]bool{}
	for _, s := range sheets {
		if seen[s.Name+"\x00"+s.Text] {
			continue
		}
		seen[s.Name+"\x00"+s.Text] = true
		code := styletext.Read(s.Text, styletext.CSS)
		lines := markup.Lines([]byte(s.Text))
		for i := range code.Decls {
			d := &code.Decls[i]
			if d.Colon < 0 || d.Rule < 0 {
				continue
			}
			for _, name := range varsIn(d.Value) {
				if p := t.Named(name); p != "" {
					used[p] = true
				}
			}
			kind := coveredAs(d.Property)
			if strings.HasPrefix(d.Property, "--") {
				for _, use := range []string{"color", "box-shadow", "padding", "border-radius", "font-size"} {
					if p := t.Of(use, d.Value); p != "" {
						used[p] = true
					}
				}
			}
			if kind == "" || strings.HasPrefix(code.Rules[d.Rule].Selector, "@font-face") {
				continue
			}
			c := counts[kind]
			c.Tokens += len(varsIn(d.Value))
			for _, v := range literals(kind, d) {
				at := lines.Position(d.From)
				raw := RawValue{Property: d.Property, Value: v, Selector: strings.Join(strings.Fields(code.Rules[d.Rule].Selector), " "),
					Place: design.StylePlace{File: s.Name, Line: at.Line + s.Line - 1, Column: at.Column}}
				property := map[string]string{"colour": "color", "type": "font-size", "space": "padding", "radius": "border-radius", "shadow": "box-shadow"}[kind]
				if p := t.Of(property, v); p != "" {
					used[p] = true
					c.Raw++
					raw.Token, raw.Use = p, "var("+t.Property(p)+")"
					out.Raw = append(out.Raw, raw)
					continue
				}
				if kind == "colour" && near != nil {
					if col, err := color.Parse(v); err == nil {
						if p, far := near(col); p != "" {
							c.Near++
							raw.Token, raw.Use, raw.Distance = p, "var("+t.Property(p)+")", far
							out.Near = append(out.Near, raw)
							continue
						}
					}
				}
				c.Others++
			}
		}
	}
	for _, k := range coveredKinds {
		if counts[k].All() > 0 {
			out.Kinds = append(out.Kinds, *counts[k])
		}
	}
	for _, p := range all {
		if !used[p] {
			out.Unused = append(out.Unused, p)
		}
	}
	slices.Sort(out.Unused)
	return out
}

// varsIn are the custom properties that a value uses.
func varsIn(value string) (out []string) {
	toks := css.Tokenize(value)
	for i, t := range toks {
		if t.Type == lexer.FunctionToken && strings.EqualFold(t.Data, "var(") {
			for k := i + 1; k < len(toks) && k < i+3; k++ {
				if strings.HasPrefix(toks[k].Data, "--") {
					out = append(out, toks[k].Data)
					break
				}
			}
		}
	}
	return out
}

// literals are the values of a kind that a declaration writes out. Zero, keywords and what is transparent are none.
func literals(kind string, d *styletext.Decl) (out []string) {
	switch kind {
	case "shadow":
		if v := strings.TrimSpace(d.Value); v != "none" && !strings.Contains(v, "var(") {
			return []string{v}
		}
		return nil
	case "colour":
		for _, c := range color.In(d.Value) {
			out = append(out, d.Value[c.From:c.To])
		}
		return out
	}
	depth := 0
	for _, t := range css.Tokenize(d.Value) {
		switch t.Type {
		case lexer.FunctionToken, lexer.LeftParenthesisToken:
			depth++
		case lexer.RightParenthesisToken:
			depth--
		case lexer.DimensionToken:
			if v, err := css.ParseLength(t.Data); depth == 0 && err == nil && v.Value != 0 && (v.Unit == "px" || v.Unit == "rem") {
				out = append(out, t.Data)
			}
		}
	}
	return out
}
