package css

import (
	"golang.org/x/text/cases"
	"golang.org/x/text/language"
)

// Caser changes letters as text-transform asks for, in a language (a BCP 47 tag; "" for none): ß becomes SS, and i in
// Turkish İ. ok is false where nothing changes. https://www.w3.org/TR/css-text-3/#text-transform
func Caser(transform, lang string) (c cases.Caser, ok bool) {
	tag, _ := language.Parse(lang) // what is no language is none
	switch transform {
	case "uppercase":
		return cases.Upper(tag), true
	case "lowercase":
		return cases.Lower(tag), true
	case "capitalize":
		return cases.Title(tag, cases.NoLower), true
	}
	return c, false
}

// TextTransform is a text with its case changed.
func TextTransform(s, transform, lang string) string {
	if c, ok := Caser(transform, lang); ok {
		return c.String(s)
	}
	return s
}
