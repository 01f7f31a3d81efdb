// Package safeyaml reads YAML 1.2 that people typed, or that came from elsewhere: of a bounded size and depth, without
// floods of aliases, with the place of each fault. In go bytes, out comes the syntax tree, or values of Go.
package safeyaml

import (
	"bytes"
	"errors"
	"fmt"

	"archetyp/core/markup"

	"github.com/goccy/go-yaml"
	"github.com/goccy/go-yaml/ast"
	"github.com/goccy/go-yaml/parser"
)

// Error is a fault in a file.
type Error struct {
	markup.Position
	Msg string
}

func (e *Error) Error() string { return fmt.Sprintf("%d:%d: %s", e.Line, e.Column, e.Msg) }

// Parse reads a file of at most most bytes, with one document in it or none. The error is an *Error.
func Parse(data []byte, most int) (file *ast.File, err error) {
	defer caught(&err)
	if len(data) > most {
		return nil, &Error{Msg: fmt.Sprintf("it has more than %d kB", most>>10)}
	}
	if err := checkNesting(data); err != nil {
		return nil, err
	}
	file, err = parser.ParseBytes(data, 0)
	if err != nil {
		return nil, Wrap(err)
	}
	if len(file.Docs) > 1 {
		return nil, &Error{Msg: "more than one YAML document in the file"}
	}
	return file, nil
}

// Decode reads a file into a value; a key that the value has no place for is a fault.
func Decode(data []byte, most int, into any) (err error) {
	defer caught(&err)
	if _, err := Parse(data, most); err != nil {
		return err
	}
	if len(bytes.TrimSpace(data)) == 0 {
		return nil
	}
	if err := yaml.UnmarshalWithOptions(data, into, yaml.Strict()); err != nil {
		return Wrap(err)
	}
	return nil
}

// caught turns a panic of the YAML library into an error: it is given whatever a person typed.
func caught(err *error) {
	if r := recover(); r != nil {
		*err = &Error{Msg: fmt.Sprintf("not valid YAML: %v", r)}
	}
}

// Wrap gives an error of the YAML library its place.
func Wrap(err error) *Error {
	out := &Error{Msg: "not valid YAML"}
	var known *Error
	if errors.As(err, &known) {
		return known
	}
	var ye yaml.Error
	if errors.As(err, &ye) {
		out.Msg = ye.GetMessage()
		if t := ye.GetToken(); t != nil && t.Position != nil {
			out.Position = markup.Position{Line: t.Position.Line, Column: t.Position.Column}
		}
	}
	return out
}

// Limits on a file, so that the YAML library is given nothing it would choke on.
const (
	maxYAML    = 32  // lists and mappings inside one another
	maxIndent  = 256 // blanks before the first letter of a line
	maxAliases = 64
)

// checkNesting refuses YAML whose lists and mappings lie too deep inside one another. It reads quotes and comments as
// YAML does, and nothing else.
func checkNesting(data []byte) error {
	depth, dashes, aliases, lineStart := 0, 0, 0, 0
	quote := byte(0)
	begins := true // nothing but blanks and dashes so far in the line
	fail := func(i int, msg string) error {
		return &Error{markup.Lines(data).Position(i), msg}
	}
	for i := 0; i < len(data); i++ {
		c := data[i]
		if c == '\n' {
			begins, dashes, lineStart = true, 0, i+1
			continue
		}
		if quote != 0 {
			switch {
			case c == '\\' && quote == '"':
				i++
			case c == quote:
				quote = 0
			}
			continue
		}
		if begins && c != ' ' && c != '\t' && i-lineStart > maxIndent {
			return fail(i, "indented further than such a file can be")
		}
		before := byte(' ')
		if i > lineStart {
			before = data[i-1]
		}
		apart := before == ' ' || before == '\t' || before == '[' || before == '{' || before == ',' || before == '('
		switch {
		case c == '#' && (before == ' ' || before == '\t'):
			for i+1 < len(data) && data[i+1] != '\n' {
				i++
			}
			continue
		case (c == '"' || c == '\'') && apart:
			quote = c
		case c == '[' || c == '{':
			if depth++; depth > maxYAML {
				return fail(i, "lists and mappings lie too deep inside one another")
			}
		case (c == ']' || c == '}') && depth > 0:
			depth--
		case c == '*' && apart && i+1 < len(data) && data[i+1] > ' ':
			if aliases++; aliases > maxAliases {
				return fail(i, "more aliases than such a file can need")
			}
		case begins && (c == '-' || c == '?') && (i+1 == len(data) || data[i+1] == ' ' || data[i+1] == '\n'):
			if dashes++; dashes > maxYAML {
				return fail(i, "lists lie too deep inside one another")
			}
			continue
		}
		if c != ' ' && c != '\t' {
			begins = false
		}
	}
	return nil
}
