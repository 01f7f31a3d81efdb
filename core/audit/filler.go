package audit

import (
	"regexp"
	"strings"

	"archetyp/core/design"
)

var filler = Rule{Name: "filler", Group: "words", Level: Warning,
	What:  "words that only fill a place: Lorem ipsum, Label, Text here, TODO",
	Why:   "it is translated, measured and shipped like any other",
	check: checkFiller,
}

var (
	latin     = regexp.MustCompile(`(?i)\b(lorem|ipsum|dolor sit|consectetur|adipiscing|eiusmod|tempor incididunt|magna aliqua|ut enim ad minim|quis nostrud|duis aute)\b`)
	standsFor = regexp.MustCompile(`(?i)^((your |sample |some |insert |add |enter |short |long )?(text|copy|words|title|heading|headline|label|description|caption|paragraph|subtitle|body|content)( text)?( goes)?( here)?( \d+)?|(type|write) something( here)?|x{3,}|y{3,}|tbd|tba|todo|to do:?.*|fixme.*|asdf\w*|qwert\w*|foo|bar|foobar|blah( blah)*|button( \d+)?|(menu |list )?item \d+|option \d+|placeholder( text)?|\?{2,}|\[[a-z ]+\])$`)
	bare      = regexp.MustCompile(`(?i)^(text|copy|words|description|caption|content|title|label|body)$`) // words that a form may well ask for
)

func checkFiller(c *checker) {
	c.screens(func(s *design.Screen) {
		byWords := map[string][]*design.Element{}
		var order []string
		texts(s, func(e *design.Element, words string) {
			if !isFiller(e, words) {
				return
			}
			if byWords[words] == nil {
				order = append(order, words)
			}
			byWords[words] = append(byWords[words], e)
		})
		for _, w := range order {
			c.find(byWords[w], "Write the words that are meant.", "“%s” only fills the place%s", clip(w), times(len(byWords[w])))
		}
	})
}

func isFiller(e *design.Element, words string) bool {
	if latin.MatchString(words) {
		return true
	}
	if !standsFor.MatchString(words) {
		return false
	}
	// A field may ask for a title, a table may have a column of them: such a word alone is filler only where it is set as
	// what it says.
	return !bare.MatchString(words) || strings.EqualFold(e.Name, words)
}

func times(n int) string {
	if n < 2 {
		return ""
	}
	return ", in " + count(n, "place")
}
