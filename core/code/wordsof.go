package code

import (
	"strings"

	"archetyp/core/design"
	"archetyp/core/escape"
)

// Words are the words of a text, and how code of the team writes them: by their key, where they have one.
type Words struct{ Words, Code string }

// WordsOf are the words in an element, in the order they are drawn.
func WordsOf(e *design.Element, o Options) (out []Words) {
	e.Walk(func(x *design.Element) {
		if x.Words == nil || x.Hidden || x.Words.Words == "" {
			return
		}
		w := Words{Words: strings.ReplaceAll(x.Words.Words, "\n", " ")}
		if o.Words != nil {
			w.Code, _ = o.Words(x)
		}
		out = append(out, w)
	})
	return out
}

// Escaped is a text as it is written between tags or in an attribute of HTML, or of JSX.
func Escaped(words string, jsx bool) string {
	words = escape.In("html", escape.Attribute, words)
	if jsx {
		words = braces.Replace(words)
	}
	return words
}
