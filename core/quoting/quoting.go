// Package quoting writes strings between quotation marks, as languages have them.
package quoting

import (
	"strings"
	"unicode/utf8"

	"github.com/go-json-experiment/json/jsontext"
)

// Quote writes a string between quotation marks. rare gives what the rest of it begins with in the language's own form,
// and how many bytes that stands for; no bytes where it is written as it is. Other quotation marks and backslashes get
// a backslash, and what is not UTF-8 becomes the replacement character.
func Quote(s string, rare func(rest string) (text string, n int)) string {
	var b strings.Builder
	b.Grow(len(s) + 2)
	b.WriteByte('"')
	for i := 0; i < len(s); {
		if text, n := rare(s[i:]); n > 0 {
			b.WriteString(text)
			i += n
			continue
		}
		if s[i] == '"' || s[i] == '\\' {
			b.WriteByte('\\')
		}
		r, n := utf8.DecodeRuneInString(s[i:])
		b.WriteRune(r) // what is not UTF-8 is the replacement character
		i += n
	}
	b.WriteByte('"')
	return b.String()
}

// Signs are escapes that many languages share.
var Signs = map[byte]string{'\n': `\n`, '\t': `\t`, '\r': `\r`}

// AppendJSON adds a string of JSON; what is not UTF-8 becomes the replacement character.
func AppendJSON(b []byte, s string) []byte {
	out, err := jsontext.AppendQuote(b, s)
	if err != nil {
		out, _ = jsontext.AppendQuote(b, strings.ToValidUTF8(s, "\uFFFD"))
	}
	return out
}

// JSON writes s as a string of JSON, which is one of YAML, too.
func JSON(s string) string { return string(AppendJSON(nil, s)) }
