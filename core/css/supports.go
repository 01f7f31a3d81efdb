package css

import "strings"

// answer is what a condition says: yes, no, or unknown, which stays so however it is negated.
type answer int8

const (
	no answer = iota - 1
	unknown
	yes
)

func of(holds bool) answer {
	if holds {
		return yes
	}
	return no
}

// condition answers words joined by not, and, or; each other word is a bracket or a function, and leaf answers what no
// further brackets stand in.
func condition(words []string, leaf func(string) answer) answer {
	out, op := unknown, ""
	for i := 0; i < len(words); i++ {
		w := words[i]
		negate := w == "not"
		if negate {
			if i++; i == len(words) {
				return unknown
			}
			w = words[i]
		}
		v := unknown
		if inner, ok := strings.CutPrefix(w, "("); ok && strings.HasSuffix(inner, ")") {
			inner = strings.TrimSpace(inner[:len(inner)-1])
			if parts := SplitTop(inner, ' '); len(parts) > 0 && (parts[0] == "not" || strings.HasPrefix(parts[0], "(") || isTest(parts[0])) {
				v = condition(parts, leaf)
			} else {
				v = leaf(inner)
			}
		} else if isTest(w) {
			v = leaf(w)
		}
		if negate {
			v = -v
		}
		switch op {
		case "":
			out = v
		case "and":
			out = min(out, v)
		case "or":
			out = max(out, v)
		}
		if i++; i == len(words) {
			return out
		}
		if next := words[i]; next != "and" && next != "or" || op != "" && next != op {
			return unknown // and beside or wants brackets
		}
		op = words[i]
	}
	return unknown // an operator with nothing behind it, or nothing at all
}

// isTest reports whether a word is one of the functions of @supports.
func isTest(word string) bool {
	return strings.HasPrefix(word, "selector(") || strings.HasPrefix(word, "font-tech(") || strings.HasPrefix(word, "font-format(")
}

// Supports answers the condition of @supports as a browser of today would: declarations hold unless they bear the prefix
// of another browser, selectors where they can be read. https://www.w3.org/TR/css-conditional-4/#at-supports
func Supports(cond string) bool {
	return condition(SplitTop(cond, ' '), func(s string) answer {
		if inner, ok := strings.CutPrefix(s, "selector("); ok {
			_, err := ParseSelector(strings.TrimSuffix(inner, ")"))
			return of(err == nil && !foreign(inner))
		}
		if isTest(s) {
			return yes
		}
		prop, value, ok := strings.Cut(s, ":")
		if !ok || strings.TrimSpace(value) == "" {
			return unknown
		}
		return of(!foreign(prop) && !foreign(value))
	}) == yes
}

// foreign reports whether a text bears the prefix of a browser that is no more, or of one alone.
func foreign(s string) bool {
	for _, prefix := range []string{"-ms-", "-moz-", "-o-", "-khtml-"} {
		if strings.Contains(s, prefix) {
			return true
		}
	}
	return false
}
