// Package escape puts text that people wrote (names, descriptions, values) into code: for each place in each language
// one function, so that whatever the text is, it stays text. In goes text, out comes what can stand there.
package escape

import (
	"fmt"
	"net/url"
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"

	"archetyp/core/css"
	"archetyp/core/quoting"
)

// Place is a kind of place in code.
type Place string

// The places.
const (
	LineComment  Place = "line comment"  // up to the end of a line
	BlockComment Place = "block comment" // between its marks
	String       Place = "string"        // with its quotation marks
	Attribute    Place = "attribute"     // of XML or HTML, without its quotation marks
	Text         Place = "text"          // of XML or HTML
	Name         Place = "name"          // an identifier
	Address      Place = "address"       // one segment of a URL's path
	Cell         Place = "cell"          // of a CSV file that a spreadsheet may open
	Inline       Place = "inline"        // within a line of Markdown, or at its beginning
)

// Languages are the places in each language, and what is done with text there.
var Languages = map[string]map[Place]func(string) string{
	"css":    {BlockComment: comment, String: css.String, Name: css.Ident},
	"scss":   {BlockComment: comment, LineComment: line, String: sassString, Name: css.Ident},
	"ts":     {BlockComment: comment, LineComment: line, String: jsonString},
	"json":   {String: jsonString},
	"swift":  {BlockComment: comment, LineComment: line, String: swiftString},
	"kotlin": {BlockComment: comment, LineComment: line, String: kotlinString},
	"xml":    {BlockComment: xmlComment, Attribute: xmlText, Text: xmlText},
	"html":   {Attribute: xmlText, Text: xmlText},
	"po":     {LineComment: line},
	"md":     {Inline: markdown},
	"csv":    {Cell: cell},
	"url":    {Address: url.PathEscape},
}

// In is text as it can stand at a place in a language. A place that a language does not have is a fault of the program.
func In(language string, place Place, s string) string { return Languages[language][place](s) }

// markdownMarks are what Markdown would take for its own. https://spec.commonmark.org/0.31.2/#backslash-escapes
var markdownMarks = strings.NewReplacer("\\", "\\\\", "*", "\\*", "_", "\\_", "`", "\\`", "[", "\\[", "]", "\\]", "|", "\\|", "~", "\\~", "<", "&lt;", "&", "&amp;")

// begins are how a block begins that is no paragraph.
var begins = regexp.MustCompile(`^(\s*)([#+=>-]|\d+[.)])`)

// markdown is text within a line of Markdown, which begins no heading, list or quotation either.
func markdown(s string) string {
	s = markdownMarks.Replace(strings.TrimSpace(line(s)))
	return begins.ReplaceAllStringFunc(s, func(mark string) string { return mark[:len(mark)-1] + "\\" + mark[len(mark)-1:] })
}

// breaks reports whether some language takes a character for the end of a line.
func breaks(r rune) bool {
	switch r {
	case '\n', '\r', '\v', '\f', 0x85, 0x2028, 0x2029:
		return true
	}
	return false
}

// line is text without anything that ends a line or hides what follows.
func line(s string) string {
	return strings.Map(func(r rune) rune {
		switch {
		case breaks(r) || r == '\t':
			return ' '
		case unicode.IsControl(r) || turns(r) || r == unicode.ReplacementChar:
			return -1
		}
		return r
	}, s)
}

// turns reports whether a character changes the direction of those that follow, so that code reads otherwise than it
// is.
func turns(r rune) bool {
	return r >= 0x202a && r <= 0x202e || r >= 0x2066 && r <= 0x2069 || r == 0x200e || r == 0x200f || r == 0x061c
}

// comment is text that neither ends a comment nor begins another: Kotlin, Swift and CSS preprocessors nest them.
func comment(s string) string {
	s = line(s)
	for strings.Contains(s, "*/") || strings.Contains(s, "/*") {
		s = strings.ReplaceAll(strings.ReplaceAll(s, "*/", "* /"), "/*", "/ *")
	}
	if strings.HasSuffix(s, "*") || strings.HasSuffix(s, "/") {
		s += " "
	}
	if strings.HasPrefix(s, "*") || strings.HasPrefix(s, "/") {
		s = " " + s
	}
	return s
}

// xmlComment is text without two dashes after each other, which end a comment.
func xmlComment(s string) string {
	s = xmlChars(line(s))
	for strings.Contains(s, "--") {
		s = strings.ReplaceAll(s, "--", "- -")
	}
	if strings.HasSuffix(s, "-") {
		s += " "
	}
	return s
}

// xmlChars is text without what XML cannot hold. https://www.w3.org/TR/xml/#charsets
func xmlChars(s string) string {
	return strings.Map(func(r rune) rune {
		switch {
		case r == '\t' || r == '\n' || r == '\r' || r >= 0x20 && r <= 0xd7ff || r >= 0xe000 && r <= 0xfffd || r >= 0x10000:
			return r
		}
		return -1
	}, s)
}

var xmlSigns = strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;", `"`, "&#34;", "'", "&#39;", "\n", "&#xA;",
	"\t", "&#x9;", "\r", "&#xD;")

func xmlText(s string) string { return xmlSigns.Replace(xmlChars(s)) }

// quoted writes a string with a language's own escapes for signs, and a form for all that cannot be seen.
func quoted(s string, signs map[rune]string, form string) string {
	return quoting.Quote(s, func(rest string) (string, int) {
		r, n := utf8.DecodeRuneInString(rest)
		switch esc, ok := signs[r]; {
		case ok:
			return esc, n
		case unicode.IsControl(r) || breaks(r) || turns(r):
			return fmt.Sprintf(form, r), n
		}
		return "", 0
	})
}

func swiftString(s string) string {
	return quoted(s, map[rune]string{'\\': `\\`, '"': `\"`, '\n': `\n`, '\r': `\r`, '\t': `\t`}, `\u{%x}`)
}

func kotlinString(s string) string {
	return quoted(s, map[rune]string{'\\': `\\`, '"': `\"`, '\n': `\n`, '\r': `\r`, '\t': `\t`, '$': `\u0024`}, `\u%04x`)
}

// jsonString is a string of JSON, and so of JavaScript and TypeScript; what ends a line there is escaped too.
func jsonString(s string) string {
	return quoted(s, map[rune]string{'\\': `\\`, '"': `\"`, '\n': `\n`, '\r': `\r`, '\t': `\t`, '\b': `\b`, '\f': `\f`},
		`\u%04x`)
}

// sassString is a string of CSS in which Sass computes nothing.
func sassString(s string) string { return strings.ReplaceAll(css.String(s), "#{", `\#{`) }

// formula are the signs a spreadsheet begins a formula at, the wide ones of East Asia too.
const formula = "=+-@\t\r\n'＝＋－＠"

// cell keeps a spreadsheet from taking words for a formula: an apostrophe stands before them.
func cell(s string) string {
	s = strings.ReplaceAll(s, "\r", "")
	if strings.IndexAny(s, formula) == 0 {
		return "'" + s
	}
	return s
}

// Uncell takes away an apostrophe that stands before a cell's words for that reason only.
func Uncell(s string) string {
	if rest, ok := strings.CutPrefix(s, "'"); ok && strings.IndexAny(rest, formula) == 0 {
		return rest
	}
	return s
}
