package harvest

import (
	"cmp"
	"fmt"
	"slices"
	"sort"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/token"
)

// propose names the values that should be tokens and are none yet: not the flagged ones, and not spaces used once.
func (h *Harvest) propose(have *token.Set, docs func() []*design.Document) {
	n := &namer{taken: map[string]bool{}, have: have}
	if have != nil {
		for _, t := range have.Tokens {
			n.taken[strings.ToLower(t.Path)] = true
		}
	}
	by := map[string][]*Found{}
	for _, f := range h.Found {
		if !f.Flagged() && f.Behind == "" && f.WideOf == nil && (len(f.Uses) > 1 || f.Kind != "space" &&
			f.size < token.FullRadius) {
			by[f.Kind] = append(by[f.Kind], f)
		}
	}
	n.colors(by["color"])
	n.numbered(by["radius"], "radius")
	n.numbered(by["space"], "space")
	n.ranked(by["shadow"], "shadow")
	n.gradients(by["gradient"])
	n.types(by["type"])
	if have == nil || len(have.Tokens) == 0 {
		h.Aliases = n.roles(by["color"], docs())
	}
}

type namer struct {
	taken map[string]bool
	have  *token.Set
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

// numbered values are named by how many px they are, since they stand on a scale; "full" is the radius of pills.
func (n *namer) numbered(found []*Found, group string) {
	for _, f := range found {
		if f.Token == "" {
			word := strings.ReplaceAll(css.Num(f.size, 1), ".", "-")
			if f.size >= token.FullRadius {
				word = "full"
			}
			f.Proposed = n.claim(group + "." + word)
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
			if s := design.Slug(steps[i]); s != "" && !strings.HasPrefix(s, "box-") && !strings.HasPrefix(s, "path-") &&
				!strings.HasPrefix(s, "group-") {
				name = s
			}
		}
		if name == "" {
			name = "base"
		}
		f.Proposed = n.claim("gradient." + name)
	}
}

// Tokens are the tokens to write for the proposals accept says yes to: palette first, then what is built on it.
func (h *Harvest) Tokens(accept func(path string) bool, have *token.Set) []*token.Token {
	var out []*token.Token
	written := map[string]bool{}
	exists := func(path string) bool { return written[path] || have != nil && have.Get(path) != nil }
	put := func(t *token.Token) {
		if !exists(t.Path) {
			written[t.Path] = true
			out = append(out, t)
		}
	}
	for _, f := range inOrder(h.Found) {
		if f.Proposed == "" || !accept(f.Proposed) {
			continue
		}
		if f.face == nil {
			put(&token.Token{Path: f.Proposed, Type: f.Type, Value: f.Value, Own: f.own()})
			continue
		}
		family := "font.family." + design.Slug(firstFamily(f.face.family))
		if f.face.family != "" {
			var t *token.Token
			if have != nil {
				t = have.Get(family)
			}
			if t == nil || len(t.Value.Words) > 0 && t.Value.Words[0] == firstFamily(f.face.family) {
				put(&token.Token{Path: family, Type: token.FontFamily, Value: token.Value{Words: splitFamilies(f.face.family)}})
			} else {
				family = ""
			}
		} else {
			family = ""
		}
		put(&token.Token{Path: f.Proposed, Type: token.Typography, Value: f.face.value(family, ""), Own: f.own()})
	}
	for _, t := range h.Aliases {
		if accept(t.Path) && exists(t.Value.Alias) {
			put(t)
		}
	}
	return out
}

// inOrder sorts values as people look for them: colours by hue and step, everything else as it is.
func inOrder(found []*Found) []*Found {
	out := slices.Clone(found)
	slices.SortStableFunc(out, func(a, b *Found) int {
		if a.Kind != "color" || b.Kind != "color" {
			return 0
		}
		p, q := *a.Value.Color, *b.Value.Color
		return cmp.Or(cmp.Compare(hueOrder(p), hueOrder(q)), cmp.Compare(lightness(p), lightness(q)),
			cmp.Compare(q.Alpha, p.Alpha))
	})
	return out
}
