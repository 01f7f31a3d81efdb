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
// further brackets stand in. What no grammar allows is unknown.
func condition(words []string, depth int, leaf func(string) answer) answer {
	if len(words) == 2 && strings.EqualFold(words[0], "not") {
		return -term(words[1], depth, leaf)
	}
	if len(words)%2 == 0 {
		return unknown
	}
	out := term(words[0], depth, leaf)
	for i := 1; i < len(words); i += 2 {
		v := term(words[i+1], depth, leaf)
		switch op := strings.ToLower(words[i]); {
		case op != strings.ToLower(words[1]): // "and" beside "or" needs brackets
			return unknown
		case op == "and":
			out = min(out, v)
		case op == "or":
			out = max(out, v)
		default:
			return unknown
		}
	}
	return out
}

// term answers one bracket or function of a condition.
func term(word string, depth int, leaf func(string) answer) answer {
	if isTest(word) {
		return leaf(word)
	}
	inner, ok := strings.CutPrefix(word, "(")
	if !ok || !strings.HasSuffix(inner, ")") || depth == maxNesting {
		return unknown
	}
	inner = strings.TrimSpace(inner[:len(inner)-1])
	if words := SplitTop(inner, ' '); len(words) > 0 && (strings.EqualFold(words[0], "not") || words[0][0] == '(' ||
		isTest(words[0])) {
		return condition(words, depth+1, leaf)
	}
	return leaf(inner)
}

// isTest reports whether a word is one of the functions of @supports.
func isTest(word string) bool {
	return strings.HasPrefix(word, "selector(") || strings.HasPrefix(word, "font-tech(") || strings.HasPrefix(word,
		"font-format(")
}

// Supports answers the condition of @supports: selectors hold where they can be read, declarations where takes says so;
// without it (nil), unless they have the prefix of another browser.
// https://www.w3.org/TR/css-conditional-4/#at-supports
func Supports(cond string, takes func(property, value string) bool) bool {
	return condition(SplitTop(cond, ' '), 0, func(s string) answer {
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
		if takes != nil {
			return of(takes(strings.TrimSpace(prop), value))
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
