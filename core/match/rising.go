package match

import "slices"

// Rising is the longest strictly rising part of a list of numbers, as places in it: what kept its order where some of a
// sequence moved. https://en.wikipedia.org/wiki/Longest_increasing_subsequence
func Rising(list []int) []int {
	tails, before := []int{}, make([]int, len(list)) // the place of the smallest last number of each length
	for i, v := range list {
		at, _ := slices.BinarySearchFunc(tails, v, func(t, v int) int { return list[t] - v })
		before[i] = -1
		if at > 0 {
			before[i] = tails[at-1]
		}
		if at == len(tails) {
			tails = append(tails, i)
		} else {
			tails[at] = i
		}
	}
	if len(tails) == 0 {
		return nil
	}
	out := make([]int, 0, len(tails))
	for i := tails[len(tails)-1]; i >= 0; i = before[i] {
		out = append(out, i)
	}
	slices.Reverse(out)
	return out
}
