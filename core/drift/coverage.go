package drift

import (
	"slices"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
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

// The kinds of values that tokens have and coverage counts, in their order.
var coveredKinds = []string{"colour", "type", "space", "radius", "shadow"}

// TokenKind is the kind of token that a value of a property may be: colour, gradient, type (a size), space, radius or
// shadow; "" for none.
func TokenKind(property, value string) string {
	switch k := kindOf(property); {
	case strings.HasPrefix(property, "--"):
		return ""
	case strings.Contains(value, "gradient("):
		return "gradient"
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
	c := &covering{tokens: t, near: near, counts: map[string]*KindCoverage{}, used: map[string]bool{},
		out: &Coverage{Raw: []RawValue{}, Near: []RawValue{}, Unused: []string{}}}
	for _, k := range coveredKinds {
		c.counts[k] = &KindCoverage{Kind: k}
	}
	eachDeclaration(sheets, c.declaration)
	for _, k := range coveredKinds {
		if c.counts[k].All() > 0 {
			c.out.Kinds = append(c.out.Kinds, *c.counts[k])
		}
	}
	for _, p := range all {
		if !c.used[p] {
			c.out.Unused = append(c.out.Unused, p)
		}
	}
	slices.Sort(c.out.Unused)
	return c.out
}

// covering counts values.
type covering struct {
	tokens Tokens
	near   func(color.Color) (token string, far float64)
	counts map[string]*KindCoverage
	used   map[string]bool // tokens
	out    *Coverage
}

func (c *covering) declaration(code *styletext.Code, d *styletext.Decl, place design.StylePlace) {
	vars := varsIn(d.Value)
	for _, name := range vars {
		if p := c.tokens.Named(name); p != "" {
			c.used[p] = true
		}
	}
	if strings.HasPrefix(d.Property, "--") {
		for _, kind := range coveredKinds {
			if p := c.tokens.Of(kind, d.Value); p != "" {
				c.used[p] = true
			}
		}
		return
	}
	kind := TokenKind(d.Property, "")
	rule := code.Rules[d.Rule].Selector
	if kind == "" || strings.HasPrefix(rule, "@font-face") {
		return
	}
	c.counts[kind].Tokens += len(vars)
	for _, v := range literals(kind, d) {
		c.literal(kind, RawValue{Property: d.Property, Value: v, Selector: oneLine(rule), Place: place})
	}
}

// literal counts a value that is written out.
func (c *covering) literal(kind string, v RawValue) {
	count := c.counts[kind]
	if v.Token = c.tokens.Of(kind, v.Value); v.Token != "" {
		c.used[v.Token] = true
		count.Raw++
		v.Use = "var(" + c.tokens.Property(v.Token) + ")"
		c.out.Raw = append(c.out.Raw, v)
		return
	}
	if col, err := color.Parse(v.Value); kind == "colour" && c.near != nil && err == nil {
		if v.Token, v.Distance = c.near(col); v.Token != "" {
			count.Near++
			v.Use = "var(" + c.tokens.Property(v.Token) + ")"
			c.out.Near = append(c.out.Near, v)
			return
		}
	}
	count.Others++
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
