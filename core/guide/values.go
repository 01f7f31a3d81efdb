package guide

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/core/token/harvest"
)

// tokenModel is a token as the pages show it.
type tokenModel struct {
	Path, Short, Property, Alias, About, Deprecated string
	ID                                              string // of its place on the page
	Users                                           int    // tokens that point to it
	Where                                           []useModel
	Values                                          []valueModel // by context; one where it is the same in all
	Words                                           string       // of a type style: what its sample says
	Px                                              float64      // of a dimension
	Preview                                         string       // its first value, with lengths in px
}

// valueModel is the value of a token in a context.
type valueModel struct {
	contextModel
	Text      string   // as CSS writes it, every alias followed
	Notations []string // of a colour, by notation
	Ink       string   // of a colour: what can be read on it
	Face      *faceModel
	color     *color.Color
}

// faceModel is what a type style sets words in.
type faceModel struct {
	Family       string
	Px           float64
	Weight       int
	Line, Letter string // line height, letter spacing
}

// useModel is a screen that uses something, and how often.
type useModel struct {
	Screen, Page string
	Count        int
}

// values lists the tokens by type, in the order of their files.
func (m *model) values() {
	m.byType, m.uses = map[token.Type][]tokenModel{}, map[string][]*harvest.Use{}
	if m.in.Tokens == nil {
		return
	}
	m.uses = m.in.Harvest.ByToken(m.in.Tokens)
	users := m.in.Tokens.Users()
	taken := map[string]bool{}
	for _, t := range m.in.Tokens.Tokens {
		tm := tokenModel{Path: t.Path, Property: m.in.Property(t.Path), Alias: t.Value.Alias, About: t.Description,
			Deprecated: t.Deprecated, Users: len(users[t.Path]), Short: t.Path[strings.LastIndexByte(t.Path, '.')+1:]}
		tm.ID = unique(strings.ReplaceAll(t.Path, " ", "-"), "token", taken)
		for _, c := range m.of(t) {
			if v, ok := valueIn(c, t.Path); ok {
				tm.Values = append(tm.Values, v)
			}
		}
		end := m.in.Tokens.Resolve(t)
		tm.Preview = emit.Preview(m.in.Tokens, end)
		switch t.Type {
		case token.Typography:
			tm.Words = sample(m.uses[t.Path])
		case token.Dimension:
			if l := end.Value.Length; l != nil {
				tm.Px = l.Px(m.in.Tokens.RootPx())
			}
		}
		m.byType[t.Type] = append(m.byType[t.Type], tm)
	}
}

// valueIn is the value of a token in a context.
func valueIn(c contextModel, path string) (v valueModel, ok bool) {
	t := c.set.Get(path)
	if t == nil {
		return v, false
	}
	end := c.set.Resolve(t)
	v = valueModel{contextModel: c, Text: emit.Literal(c.set, end)}
	if of := end.Value.Color; of != nil && end.Type == token.Color {
		v.color, v.Ink = of, inkOn(*of)
		v.Notations = notations(*of, v.Text)
	}
	if family, size, weight, spacing, ok := emit.Face(c.set, end); ok {
		v.Face = &faceModel{Family: family, Px: size, Weight: weight, Letter: css.Px(spacing)}
		if l := end.Value.Parts["lineHeight"]; l.Number != nil {
			v.Face.Line = css.Num(*l.Number, 3)
		} else if l.Length != nil {
			v.Face.Line = css.Px(l.Length.Px(c.set.RootPx()))
		}
	}
	return v, true
}

// notations writes a colour as CSS, in rgb, in oklch, and for Swift and Kotlin: the order of the choice in frame.html.
func notations(c color.Color, text string) []string {
	r, g, b, _ := c.RGBA8()
	alpha := ""
	if c.Alpha < 1 {
		alpha = " / " + css.Num(c.Alpha, 3)
	}
	lch := c.To(color.OKLCH)
	part := func(i, digits int) string { return css.Num(lch.C[i], digits) }
	return []string{text, fmt.Sprintf("rgb(%d %d %d%s)", r, g, b, alpha),
		fmt.Sprintf("oklch(%s %s %s%s)", part(0, 4), part(1, 4), part(2, 2), alpha),
		emit.NativeColor("swift", c), emit.NativeColor("kotlin", c)}
}

// inkOn is black or white, whichever can be read better on a colour.
func inkOn(c color.Color) string {
	over := c.Over(color.White)
	if color.Contrast(color.Black, over) > color.Contrast(color.White, over) {
		return "#000"
	}
	return "#fff"
}

// sample picks words that show a type style: the longest use that stays short.
func sample(uses []*harvest.Use) string {
	best := ""
	for _, u := range uses {
		if n := len([]rune(u.Words)); n > len([]rune(best)) && n <= 48 {
			best = u.Words
		}
	}
	if best == "" {
		return "Aa Bb Cc 0123456789"
	}
	return best
}

// whereUsed adds the screens that use each token. It is called when the screens have their pages.
func (m *model) whereUsed() {
	for _, list := range m.byType {
		for i := range list {
			list[i].Where = m.screensOf(m.uses[list[i].Path])
		}
	}
}

// screensOf are the screens of uses, each once.
func (m *model) screensOf(uses []*harvest.Use) (out []useModel) {
	index := map[screenAt]int{}
	for _, u := range uses {
		at := screenAt{u.Source, u.Screen}
		s := m.at[at]
		if s == nil { // left out of the guide
			continue
		}
		i, known := index[at]
		if !known {
			i = len(out)
			index[at] = i
			out = append(out, useModel{Screen: s.Name, Page: s.Page})
		}
		out[i].Count++
	}
	return out
}

// unique is an id for a name that no other has.
func unique(name, otherwise string, taken map[string]bool) string {
	if name == "" {
		name = otherwise
	}
	id := name
	for i := 2; taken[id]; i++ {
		id = name + "-" + strconv.Itoa(i)
	}
	taken[id] = true
	return id
}

// groups gathers tokens by the name before their last one, in order; of those that have only a kind before it, by kind.
func groups(list []tokenModel) (out []groupModel) {
	index := map[string]int{}
	for _, t := range list {
		parts := strings.Split(t.Path, ".")
		name := parts[0]
		if len(parts) > 2 {
			name = strings.Join(parts[1:len(parts)-1], " ")
		}
		i, known := index[name]
		if !known {
			i = len(out)
			index[name] = i
			out = append(out, groupModel{Name: name})
		}
		out[i].Tokens = append(out[i].Tokens, t)
	}
	return out
}

// groupModel is tokens under one heading.
type groupModel struct {
	Name   string
	Ramp   bool // tints and shades of one colour
	Tokens []tokenModel
}

// ramp reports whether the names of a group are steps.
func (g *groupModel) ramp() bool {
	return len(g.Tokens) > 1 && !slices.ContainsFunc(g.Tokens, func(t tokenModel) bool {
		_, err := strconv.Atoi(t.Short)
		return err != nil
	})
}
