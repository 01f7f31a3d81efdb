package token

import (
	"fmt"
	"strings"
	"unicode/utf8"

	"archetyp/core/markup"

	"github.com/tailscale/hujson"
)

// ParseJSON reads strict JSON; the error is an *Error with the place.
func ParseJSON(data []byte, name string) (hujson.Value, error) {
	v, err := parseJSON(data, name)
	if err != nil {
		return v, err
	}
	return v, nil
}

// parseJSON reads strict JSON, and says where it is none.
func parseJSON(data []byte, name string) (hujson.Value, *Error) {
	fail := func(msg string) (hujson.Value, *Error) {
		return hujson.Value{}, &Error{name, markup.Position{Line: 1, Column: 1}, "", msg}
	}
	if !utf8.Valid(data) {
		return fail("not valid UTF-8; save the file as UTF-8")
	}
	deep, standard := survey(data)
	if deep > MaxNesting {
		return fail(fmt.Sprintf("groups more than %d deep are not read", MaxNesting))
	}
	v, err := hujson.Parse(data)
	if err != nil {
		line, col := 1, 1
		msg := err.Error()
		if n, _ := fmt.Sscanf(msg, "hujson: line %d, column %d:", &line, &col); n == 2 {
			_, msg, _ = strings.Cut(msg, ": ")
			_, msg, _ = strings.Cut(msg, ": ")
		}
		return hujson.Value{}, &Error{name, markup.Position{Line: line, Column: col}, "", "not valid JSON: " + msg}
	}
	if !standard {
		return fail("comments and trailing commas are no JSON; take them out")
	}
	return v, nil
}

// survey finds the deepest nesting of brackets, and whether there are comments or commas before a closing bracket, which
// the parser takes and JSON does not.
func survey(data []byte) (deep int, standard bool) {
	d := 0
	standard = true
	comma := false // nothing but white space since a comma
	for i := 0; i < len(data); i++ {
		switch data[i] {
		case ' ', '\n', '\t', '\r':
			continue
		case '"':
			for i++; i < len(data) && data[i] != '"'; i++ {
				if data[i] == '\\' {
					i++
				}
			}
		case '{', '[':
			d++
			deep = max(deep, d)
		case '}', ']':
			standard = standard && !comma
			d--
		case '/':
			standard = false
		case ',':
			comma = true
			continue
		}
		comma = false
	}
	return deep, standard
}
