package font

import (
	"slices"
)

// Letters are the letters each glyph of shaped words stands for. Where several glyphs make a letter the first has it,
// and the others have none; a ligature has all of its letters.
func Letters(words string, glyphs []Glyph) []string {
	runes := []rune(words)
	starts := make([]int, 0, len(glyphs)+1)
	for _, g := range glyphs {
		starts = append(starts, g.Cluster)
	}
	starts = append(starts, len(runes))
	slices.Sort(starts)
	out := make([]string, len(glyphs))
	given := map[int]bool{}
	for i, g := range glyphs {
		if given[g.Cluster] || g.Cluster < 0 || g.Cluster >= len(runes) {
			continue
		}
		given[g.Cluster] = true
		at, _ := slices.BinarySearch(starts, g.Cluster+1)
		out[i] = string(runes[g.Cluster:min(starts[min(at, len(starts)-1)], len(runes))])
	}
	return out
}
