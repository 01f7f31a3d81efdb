package token

import "sort"

// sortErrors puts faults in the order of the files' names and places.
func sortErrors(list []Error) {
	sort.SliceStable(list, func(i, j int) bool {
		a, b := list[i], list[j]
		if a.File != b.File {
			return a.File < b.File
		}
		if a.Line != b.Line {
			return a.Line < b.Line
		}
		return a.Column < b.Column
	})
}
