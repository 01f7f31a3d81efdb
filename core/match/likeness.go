package match

import (
	"math"
	"sort"
	"strings"
)

// How alike two texts must be to be taken for one, 0–1: by their words and overall.
const (
	likeWords = 0.4
	likeAll   = 0.5
)

// nearby is how many candidates on the same screen are weighed for each element.
const nearby = 48

// alike pairs what is left by words, place and name, best first. Only elements with words take part.
func (m *matcher) alike(old, new []Identity) {
	byScreen := map[string][]int{}
	for j := range old {
		if !m.oldTaken[j] && old[j].Words != "" {
			byScreen[old[j].Screen] = append(byScreen[old[j].Screen], j)
		}
	}
	for _, list := range byScreen {
		sort.SliceStable(list, func(a, b int) bool { return old[list[a]].Box.Y < old[list[b]].Box.Y })
	}
	type candidate struct {
		old, new int
		score    float64
	}
	var all []candidate
	for i := range new {
		if m.newTaken[i] || new[i].Words == "" {
			continue
		}
		list := byScreen[new[i].Screen]
		at := sort.Search(len(list), func(k int) bool { return old[list[k]].Box.Y >= new[i].Box.Y })
		for k := max(0, at-nearby/2); k < min(len(list), at+nearby/2); k++ {
			if s := likeness(old[list[k]], new[i]); s >= likeAll {
				all = append(all, candidate{list[k], i, s})
			}
		}
	}
	sort.SliceStable(all, func(a, b int) bool { return all[a].score > all[b].score })
	for _, c := range all {
		if !m.oldTaken[c.old] && !m.newTaken[c.new] {
			m.oldTaken[c.old], m.newTaken[c.new] = true, true
			m.pairs = append(m.pairs, Pair{c.old, c.new, ByLikeness})
		}
	}
}

// likeness weighs words, place and name path.
func likeness(a, b Identity) float64 {
	w := Words(a.Words, b.Words)
	if w < likeWords {
		return 0
	}
	place := math.Max(0, 1-math.Abs(a.Box.X-b.Box.X)/200-math.Abs(a.Box.Y-b.Box.Y)/100)
	name := 0.0
	switch {
	case parent(a.Path) == parent(b.Path):
		name = 1
	case last(a.Path) == last(b.Path):
		name = 0.5
	}
	return 0.6*w + 0.25*place + 0.15*name
}

func parent(path string) string {
	i := strings.LastIndexByte(path, '/')
	return path[:max(i, 0)]
}

func last(path string) string { return path[strings.LastIndexByte(path, '/')+1:] }

// Words says how alike two texts are, 0–1: the share of letter pairs they have in common (Dice's coefficient), case and
// white space aside.
func Words(a, b string) float64 {
	if a == b {
		return 1
	}
	x, y := pairs(a), pairs(b)
	if len(x) == 0 || len(y) == 0 {
		if strings.EqualFold(strings.TrimSpace(a), strings.TrimSpace(b)) {
			return 1
		}
		return 0
	}
	count := make(map[[2]rune]int, len(x))
	for _, p := range x {
		count[p]++
	}
	common := 0
	for _, p := range y {
		if count[p] > 0 {
			count[p]--
			common++
		}
	}
	return 2 * float64(common) / float64(len(x)+len(y))
}

func pairs(s string) [][2]rune {
	var out [][2]rune
	var before rune
	for _, r := range strings.ToLower(s) {
		if r == ' ' || r == '\n' {
			before = 0
			continue
		}
		out = append(out, [2]rune{before, r})
		before = r
	}
	return out
}
