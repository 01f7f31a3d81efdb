// Package threeway is what merging two edits of one thing comes down to: values and sets, by what both were made from.
// In go the three versions; the merged one comes out.
package threeway

import "slices"

// Value merges two edits of a value: the one that changed it wins. If both changed it differently, ours wins and both is true.
func Value[T comparable](was, ours, theirs T) (out T, both bool) {
	switch {
	case ours == theirs || theirs == was:
		return ours, false
	case ours == was:
		return theirs, false
	}
	return ours, true
}

// Set is a list with what either side added, and without what either took away, each once: ours first, in their order.
func Set[T comparable](was, ours, theirs []T) []T {
	var out []T
	for _, x := range slices.Concat(ours, theirs) {
		both := slices.Contains(ours, x) && slices.Contains(theirs, x)
		if !slices.Contains(out, x) && (both || !slices.Contains(was, x)) {
			out = append(out, x)
		}
	}
	return out
}
