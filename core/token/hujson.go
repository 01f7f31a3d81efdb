package token

import (
	"bytes"
	"strings"

	"archetyp/core/markup"

	"github.com/tailscale/hujson"
)

// parseJSON reads a file to be edited.
func parseJSON(data []byte, name string) (hujson.Value, *Error) {
	if _, err := readJSON(data, name); err != nil {
		return hujson.Value{}, err
	}
	v, err := hujson.Parse(data)
	if err != nil {
		return v, &Error{name, markup.Position{Line: 1, Column: 1}, "", "not valid JSON: " + err.Error()}
	}
	return v, nil
}

// ParseJSON is a JSON file as a tree that knows its places; the error is an *Error.
func ParseJSON(data []byte, name string) (hujson.Value, error) {
	v, err := parseJSON(data, name)
	if err != nil {
		return v, err
	}
	return v, nil
}

func member(obj *hujson.Object, name string) (hujson.Value, bool) {
	for i := range obj.Members {
		if called(obj.Members[i].Name, name) {
			return obj.Members[i].Value, true
		}
	}
	return hujson.Value{}, false
}

// word is a string's text; "" for what is none.
func word(v hujson.Value) string {
	l, ok := v.Value.(hujson.Literal)
	if !ok || len(l) < 2 || l[0] != '"' {
		return ""
	}
	return unquote(l)
}

// called reports whether a member has a name.
func called(v hujson.Value, name string) bool {
	l, ok := v.Value.(hujson.Literal)
	if !ok || len(l) < 2 {
		return false
	}
	return string(l[1:len(l)-1]) == name && !strings.Contains(name, `\`) || bytes.IndexByte(l, '\\') >= 0 &&
		unquote(l) == name
}

// raw is a value as it is written.
func raw(v hujson.Value) string { return strings.TrimSpace(string(v.Pack())) }

// light is a value in the form that values are read in.
func light(v hujson.Value) jsonValue {
	out, _ := readJSON([]byte(raw(v)), "")
	return out
}
