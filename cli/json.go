package cli

import (
	"bufio"
	"bytes"
	"encoding/json"
	"io"
)

// printJSON writes a result as JSON, indented.
func (a *app) printJSON(v any) error {
	var buf bytes.Buffer
	enc := json.NewEncoder(&buf)
	enc.SetEscapeHTML(false)
	if err := enc.Encode(v); err != nil {
		return err
	}
	w := bufio.NewWriterSize(a.out, 1<<16)
	indentJSON(w, bytes.TrimSuffix(buf.Bytes(), []byte("\n")))
	return w.Flush()
}

// indentJSON breaks JSON without white space into lines, as json.Indent does with two spaces, in one pass.
func indentJSON(w *bufio.Writer, src []byte) {
	depth := 0
	line := func() {
		w.WriteByte('\n')
		for range depth {
			io.WriteString(w, "  ")
		}
	}
	for i := 0; i < len(src); i++ {
		switch c := src[i]; c {
		case '"':
			end, high := i+1, false
			for src[end] != '"' {
				if src[end] == '\\' {
					end++
				}
				high = high || src[end] >= 0x7f
				end++
			}
			if word := src[i : end+1]; high {
				w.Write(jsonEscapes(word))
			} else {
				w.Write(word)
			}
			i = end
		case '{', '[':
			w.WriteByte(c)
			if src[i+1] == c+2 { // empty
				i++
				w.WriteByte(src[i])
				continue
			}
			depth++
			line()
		case '}', ']':
			depth--
			line()
			w.WriteByte(c)
		case ',':
			w.WriteByte(c)
			line()
		case ':':
			w.WriteString(": ")
		default:
			w.WriteByte(c)
		}
	}
	w.WriteByte('\n')
}
