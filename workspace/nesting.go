package workspace

import "archetyp/core/markup"

// Limits on a configuration, so that the YAML library is given nothing it would choke on.
const (
	maxConfig  = 256 << 10 // bytes
	maxYAML    = 32        // lists and mappings inside one another
	maxIndent  = 256       // blanks before the first letter of a line
	maxAliases = 64
)

// checkNesting refuses YAML whose lists and mappings lie too deep inside one another. It reads quotes and comments as
// YAML does, and nothing else.
func checkNesting(data []byte, shown string) error {
	depth, dashes, aliases, lineStart := 0, 0, 0, 0
	quote := byte(0)
	begins := true // nothing but blanks and dashes so far in the line
	fail := func(i int, msg string) error {
		return &FileError{File: shown, Position: markup.Lines(data).Position(i), Msg: msg}
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
			return fail(i, "indented further than a configuration can be")
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
				return fail(i, "more aliases than a configuration can need")
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
