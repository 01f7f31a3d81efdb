package token

import "strings"

// Role is the use that a colour's name tells: the name's second part ("text" of color.text.muted); "" for none.
func Role(path string) string {
	_, rest, _ := strings.Cut(path, ".")
	role, _, more := strings.Cut(rest, ".")
	if !more {
		return ""
	}
	return role
}

// fit says how well a colour's name suits a use, more for better: named for the use, for what can be acted on, not by a
// use at all, for another use.
func (t *Token) fit(use string) int {
	switch {
	case t.Value.Alias == "":
		return 1
	case Role(t.Path) == use:
		return 3
	case Role(t.Path) == "action":
		return 2
	}
	return 0
}
