package audit

import (
	"strings"
	"unicode"

	"archetyp/core/design"
)

var twoSpellings = Rule{Name: "two-spellings", Group: "words", Level: Warning,
	What:  "the same words written in two ways: E-mail and Email, Log in and Log In",
	Why:   "it is translated twice, and looks like two things",
	check: checkTwoSpellings,
}

func checkTwoSpellings(c *checker) {
	type use struct{ list []*design.Element }
	byKey, spelled := map[string][]string{}, map[string]*use{}
	var order []string
	c.screens(func(s *design.Screen) {
		texts(s, func(e *design.Element, words string) {
			key := folded(words)
			if len([]rune(key)) < 4 || isSpaced(words) || len([]rune(words)) > 60 || e.Words.Case.Value == "uppercase" {
				return
			}
			if spelled[words] == nil {
				spelled[words] = &use{}
				if byKey[key] == nil {
					order = append(order, key)
				}
				byKey[key] = append(byKey[key], words)
			}
			spelled[words].list = append(spelled[words].list, e)
		})
	})
	for _, key := range order {
		ways := byKey[key]
		if len(ways) < 2 {
			continue
		}
		usual := ways[0]
		for _, w := range ways {
			if len(spelled[w].list) > len(spelled[usual].list) {
				usual = w
			}
		}
		for _, w := range ways {
			if w != usual && !meant(w, usual) {
				c.find(spelled[w].list, "Write “"+clip(usual)+"”, or what is meant.", "“%s” is “%s” elsewhere", clip(w), clip(usual))
			}
		}
	}
}

// meant reports whether two spellings may both be right: one is all capitals, or one ends with a sign that makes it a
// sentence, a question or a label.
func meant(a, b string) bool {
	if strings.ToUpper(a) == a || strings.ToUpper(b) == b {
		return true
	}
	return endSign(a) != endSign(b)
}

// isSpaced reports whether letters stand apart, to look wide: "e n t r y".
func isSpaced(s string) bool {
	words := strings.Fields(s)
	single := 0
	for _, w := range words {
		if len([]rune(w)) == 1 {
			single++
		}
	}
	return single > 2 && 2*single > len(words)
}

// folded is a text without case, signs and blanks.
func folded(s string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return unicode.ToLower(r)
		}
		return -1
	}, s)
}
