package token

import (
	"fmt"
	"math"
	"slices"
	"sort"
	"strings"

	"archetyp/core/color"
	"archetyp/core/design"
)

// propose names the values that should be tokens and are none yet: not the flagged ones, and not spaces used once.
func (h *Harvest) propose(have *Set) {
	n := &namer{taken: map[string]bool{}, have: have}
	if have != nil {
		for _, t := range have.Tokens {
			n.taken[strings.ToLower(t.Path)] = true
		}
	}
	by := map[string][]*Found{}
	for _, f := range h.Found {
		if !f.Flagged() && f.Behind == "" && f.WideOf == nil && (f.Kind != "space" || len(f.Uses) > 1) {
			by[f.Kind] = append(by[f.Kind], f)
		}
	}
	n.colors(by["color"])
	n.ranked(by["radius"], "radius")
	n.spaces(by["space"])
	n.ranked(by["shadow"], "shadow")
	n.gradients(by["gradient"])
	n.types(by["type"])
	if have == nil || len(have.Tokens) == 0 {
		h.Aliases = n.roles(by["color"])
	}
}

type namer struct {
	taken map[string]bool
	have  *Set
}

// claim takes a name, with a number behind it where it is taken.
func (n *namer) claim(name string) string {
	out := name
	for i := 2; n.taken[strings.ToLower(out)]; i++ {
		out = fmt.Sprintf("%s-%d", name, i)
	}
	n.taken[strings.ToLower(out)] = true
	return out
}

// colors are named by hue and lightness step: color.blue.600.
func (n *namer) colors(found []*Found) {
	for _, f := range found {
		if f.Token != "" {
			continue
		}
		c := *f.Value.Color
		hue := c.Name()
		name := "color." + hue
		if hue != "white" && hue != "black" {
			step := lightnessStep(c, 50)
			if n.taken[fmt.Sprintf("%s.%d", name, step)] {
				step = lightnessStep(c, 10)
			}
			name = fmt.Sprintf("%s.%d", name, step)
		} else if c.Alpha == 1 {
			name += ".base" // a group, as the other hues are: white may come translucent too
		}
		if c.Alpha < 1 {
			name = strings.TrimSuffix(name, ".base")
			name += fmt.Sprintf(".alpha-%d", int(math.Round(c.Alpha*100)))
			if hue != "white" && hue != "black" {
				name = fmt.Sprintf("color.%s.%d-alpha-%d", hue, lightnessStep(c, 50), int(math.Round(c.Alpha*100)))
			}
		}
		f.Proposed = n.claim(name)
	}
}

// lightnessStep counts from 0 (white) to 1000 (black) by OKLab lightness.
func lightnessStep(c color.Color, unit int) int {
	l := c.To(color.OKLCH).C[0]
	step := int(math.Round((1-l)*1000/float64(unit))) * unit
	return max(unit, min(1000-unit, step))
}

// roles are names by use, as aliases: the text colour used most, the surface that is largest, and so on.
func (n *namer) roles(found []*Found) []*Token {
	weigh := func(want func(Use, *Found) bool) []*Found {
		type weighed struct {
			f *Found
			w float64
		}
		var list []weighed
		for _, f := range found {
			var w float64
			for _, u := range f.Uses {
				if want(u, f) {
					w += u.weight
				}
			}
			if w > 0 {
				list = append(list, weighed{f, w})
			}
		}
		sort.SliceStable(list, func(i, j int) bool { return list[i].w > list[j].w })
		var out []*Found
		for _, l := range list {
			out = append(out, l.f)
		}
		return out
	}
	var out []*Token
	give := func(f *Found, name, about string) {
		path := f.Proposed
		if path == "" {
			path = f.Token
		}
		out = append(out, &Token{Path: n.claim(name), Type: Color, Value: Value{Alias: path}, Description: about})
	}
	texts := weigh(func(u Use, _ *Found) bool { return u.Property == "text" })
	names := []string{"default", "muted"}
	for _, f := range texts {
		l := f.Value.Color.To(color.OKLCH).C[0]
		if l > 0.9 {
			if !n.taken["color.text.inverse"] {
				give(f, "color.text.inverse", "Text on dark surfaces")
			}
			continue
		}
		if len(names) > 0 {
			give(f, "color.text."+names[0], map[string]string{"default": "Most text", "muted": "Text that steps back"}[names[0]])
			names = names[1:]
		}
	}
	surfaces := weigh(func(u Use, f *Found) bool { return u.Property == "fill" && f.Value.Color.Alpha == 1 })
	for i, role := range []string{"page", "raised"} {
		if i < len(surfaces) {
			give(surfaces[i], "color.surface."+role, []string{"The ground of screens", "What lies on it: cards, fields"}[i])
		}
	}
	borders := weigh(func(u Use, f *Found) bool {
		return u.Property == "border" && f.Value.Color.Alpha == 1 && f.Value.Color.To(color.OKLCH).C[1] < 0.05
	})
	if len(borders) > 0 {
		give(borders[0], "color.border.default", "Most borders")
	}
	actions := weigh(func(u Use, f *Found) bool {
		return f.Value.Color.To(color.OKLCH).C[1] > 0.05 && (u.Property == "fill" && u.weight < 60000 || u.Property == "border" || u.Property == "icon")
	})
	if len(actions) > 0 {
		sort.SliceStable(actions, func(i, j int) bool { return len(actions[i].Uses) > len(actions[j].Uses) })
		give(actions[0], "color.action.default", "What can be acted on")
	}
	return out
}

// rankWords are sizes around m.
var rankWords = []string{"4xs", "3xs", "2xs", "xs", "s", "m", "l", "xl", "2xl", "3xl", "4xl", "5xl", "6xl", "7xl"}

const middle = 5 // the place of m

// ranks names sorted sizes, the given one m.
func ranks(count, m int) []string {
	out := make([]string, count)
	for i := range out {
		k := middle + i - m
		switch {
		case k < 0:
			out[i] = fmt.Sprintf("%dxs", 4-k)
		case k < len(rankWords):
			out[i] = rankWords[k]
		default:
			out[i] = fmt.Sprintf("%dxl", k-middle)
		}
	}
	return out
}

// ranked names values of one group by size, the one used most in the middle.
func (n *namer) ranked(found []*Found, group string) {
	list := append([]*Found(nil), found...)
	sort.SliceStable(list, func(i, j int) bool { return list[i].size < list[j].size })
	most := 0
	for i, f := range list {
		if len(f.Uses) > len(list[most].Uses) {
			most = i
		}
	}
	words := ranks(len(list), most)
	for i, f := range list {
		if f.Token == "" {
			word := words[i]
			if f.Kind == "shadow" && strings.HasPrefix(f.Text, "inset") {
				word = "inset"
			}
			f.Proposed = n.claim(group + "." + word)
		}
	}
}

// spaces are named by how many px they are, since they stand on a scale.
func (n *namer) spaces(found []*Found) {
	for _, f := range found {
		if f.Token == "" {
			f.Proposed = n.claim("space." + strings.ReplaceAll(strings.TrimSuffix(f.Text, "px"), ".", "-"))
		}
	}
}

// gradients are named after what they paint.
func (n *namer) gradients(found []*Found) {
	for _, f := range found {
		if f.Token != "" {
			continue
		}
		u := f.Uses[0]
		steps := strings.Split(u.Element, "/")
		name := ""
		for i := len(steps) - 1; i >= 0 && name == ""; i-- {
			if s := design.Slug(steps[i]); s != "" && !strings.HasPrefix(s, "box-") && !strings.HasPrefix(s, "path-") && !strings.HasPrefix(s, "group-") {
				name = s
			}
		}
		if name == "" {
			name = "base"
		}
		f.Proposed = n.claim("gradient." + name)
	}
}

// types are named by family and size around the style used most, which is the body.
func (n *namer) types(found []*Found) {
	if len(found) == 0 {
		return
	}
	weight := func(f *Found) (w float64) {
		for _, u := range f.Uses {
			w += u.weight
		}
		if f.face.size == 16 { // 1rem, where it is used at all, is the body
			w *= 100
		}
		return w
	}
	body := found[0]
	for _, f := range found {
		if weight(f) > weight(body) {
			body = f
		}
	}
	var up, down []float64 // sizes of the body's family
	seen := map[float64]bool{}
	for _, f := range found {
		if f.face.first() == body.face.first() && !seen[f.face.size] {
			seen[f.face.size] = true
			if f.face.size > body.face.size {
				up = append(up, f.face.size)
			} else if f.face.size < body.face.size {
				down = append(down, f.face.size)
			}
		}
	}
	sort.Float64s(up)
	sort.Sort(sort.Reverse(sort.Float64Slice(down)))
	sizeName := map[float64]string{body.face.size: "body"}
	for i, s := range up {
		sizeName[s] = "heading-" + ranks(len(up), 0)[i]
		if len(up) == 1 {
			sizeName[s] = "heading"
		}
	}
	for i, s := range down {
		sizeName[s] = []string{"small", "caption", "fine"}[min(i, 2)]
	}
	others := map[string][]float64{} // other families: display sizes
	for _, f := range found {
		if sizes := others[f.face.first()]; f.face.first() != body.face.first() && !slices.Contains(sizes, f.face.size) {
			others[f.face.first()] = append(sizes, f.face.size)
		}
	}
	for _, f := range found {
		if f.Token != "" {
			continue
		}
		name := sizeName[f.face.size]
		if f.face.first() != body.face.first() {
			sizes := others[f.face.first()]
			sort.Float64s(sizes)
			name = "title"
			if len(sizes) > 1 {
				i := sort.SearchFloat64s(sizes, f.face.size)
				name = "title-" + ranks(len(sizes), (len(sizes)-1)/2)[i]
			}
		} else if lighter := lightest(found, f); f.face.weight > lighter {
			name += map[bool]string{true: "-bold", false: "-strong"}[f.face.weight >= 700]
		}
		f.Proposed = n.claim("type." + name)
	}
}

// lightest is the lightest weight a size of a family comes in.
func lightest(found []*Found, f *Found) int {
	w := f.face.weight
	for _, o := range found {
		if o.face.first() == f.face.first() && o.face.size == f.face.size {
			w = min(w, o.face.weight)
		}
	}
	return w
}

// Tokens are the tokens to write for the proposals accept says yes to: palette first, then what is built on it.
func (h *Harvest) Tokens(accept func(path string) bool, have *Set) []*Token {
	var out []*Token
	written := map[string]bool{}
	exists := func(path string) bool { return written[path] || have != nil && have.Get(path) != nil }
	put := func(t *Token) {
		if !exists(t.Path) {
			written[t.Path] = true
			out = append(out, t)
		}
	}
	for _, f := range h.Found {
		if f.Proposed == "" || !accept(f.Proposed) {
			continue
		}
		if f.face == nil {
			put(&Token{Path: f.Proposed, Type: f.Type, Value: f.Value, Own: f.own()})
			continue
		}
		family := "font.family." + design.Slug(firstFamily(f.face.family))
		if f.face.family != "" {
			if t := have.find(family); t == nil || len(t.Value.Words) > 0 && t.Value.Words[0] == firstFamily(f.face.family) {
				put(&Token{Path: family, Type: FontFamily, Value: Value{Words: splitFamilies(f.face.family)}})
			} else {
				family = ""
			}
		} else {
			family = ""
		}
		put(&Token{Path: f.Proposed, Type: Typography, Value: f.face.value(family, "")})
	}
	for _, t := range h.Aliases {
		if accept(t.Path) && exists(t.Value.Alias) {
			put(t)
		}
	}
	return out
}

func (s *Set) find(path string) *Token {
	if s == nil {
		return nil
	}
	return s.Get(path)
}
