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

// lengthUses are the words in names that say what a length is for.
var lengthUses = map[string]string{
	"space": "space", "spacing": "space", "gap": "space", "gutter": "space", "inset": "space", "padding": "space", "margin": "space",
	"radius": "radius", "radii": "radius", "corner": "radius", "corners": "radius", "rounding": "radius", "rounded": "radius",
	"size": "size", "text": "size", "font": "size", "type": "size", "fontsize": "size",
	"border": "width", "stroke": "width", "line": "width", "outline": "width",
}

// LengthUse is what the name of a length says it is for: space, radius, size (of type) or width (of a line); "" where it
// does not say. The first name that says it counts, as in "spacing.4" and "border.radius.large".
func LengthUse(path string) string {
	use := ""
	for _, name := range strings.Split(path, ".") {
		for _, word := range strings.FieldsFunc(kebab(name), func(r rune) bool { return r == '-' || r == '_' || r == ' ' }) {
			switch found := lengthUses[word]; {
			case found == "radius", found != "" && use == "":
				use = found
			}
		}
	}
	return use
}

// kebab parts the words of a name and puts them in lower case: borderRadius is border-radius.
func kebab(name string) string {
	var b strings.Builder
	for i, r := range name {
		if r >= 'A' && r <= 'Z' {
			if i > 0 && name[i-1] >= 'a' && name[i-1] <= 'z' {
				b.WriteByte('-')
			}
			r += 'a' - 'A'
		}
		b.WriteRune(r)
	}
	return b.String()
}
