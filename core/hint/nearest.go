package hint

// Distance is the number of letters to change, put in or take out to get from one text to the other (Levenshtein's
// distance).
func Distance(a, b []rune) int {
	row := make([]int, len(b)+1)
	for j := range row {
		row[j] = j
	}
	for i := 1; i <= len(a); i++ {
		diag := row[0]
		row[0] = i
		for j := 1; j <= len(b); j++ {
			cost := diag
			if a[i-1] != b[j-1] {
				cost++
			}
			diag = row[j]
			row[j] = min(cost, row[j]+1, row[j-1]+1)
		}
	}
	return row[len(b)]
}

// Nearest is the word of a list that takes the fewest single-letter changes to reach; "" where more than half of the
// letters would change.
func Nearest(word string, list []string) string {
	best, cost, letters := "", 1<<30, []rune(word)
	letters = letters[:min(len(letters), 64)]
	for _, w := range list {
		if c := Distance(letters, []rune(w)); c < cost {
			best, cost = w, c
		}
	}
	if 2*cost > len([]rune(word))+1 {
		return ""
	}
	return best
}
