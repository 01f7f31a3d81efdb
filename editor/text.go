package editor

import (
	"strings"
	"unicode/utf8"
)

// encoding says what positions count in.
type encoding string

// The encodings of positions. https://microsoft.github.io/language-server-protocol/specifications/lsp/3.17/specification/#positionEncodingKind
const (
	utf8Units  encoding = "utf-8"
	utf16Units encoding = "utf-16"
	utf32Units encoding = "utf-32"
)

// text is the text of a document with the places of its lines. It never changes.
type text struct {
	string
	starts []int // of lines, in bytes
}

// newText finds the lines of a text: they end with \n, \r\n or \r.
func newText(s string) *text {
	t := &text{string: s, starts: make([]int, 1, strings.Count(s, "\n")+2)}
	for i := 0; i < len(s); i++ {
		switch {
		case s[i] == '\n', s[i] == '\r' && (i+1 == len(s) || s[i+1] != '\n'):
			t.starts = append(t.starts, i+1)
		}
	}
	return t
}

// line is the text of a line without its end, and where it begins; the last one for a line there is not.
func (t *text) line(n int) (s string, start int) {
	if n >= len(t.starts) {
		return "", len(t.string)
	}
	start = t.starts[n]
	end := len(t.string)
	if n+1 < len(t.starts) {
		end = t.starts[n+1]
	}
	return strings.TrimRight(t.string[start:end], "\r\n"), start
}

// offset is the byte of a position. Positions beyond the end of a line or of the text are those ends; one within a
// character is its beginning.
func (t *text) offset(p position, e encoding) int {
	if p.Line < 0 {
		return 0
	}
	s, start := t.line(p.Line)
	units := 0
	for i, r := range s {
		n := e.units(r, s[i:])
		if units+n > p.Character {
			return start + i
		}
		units += n
	}
	return start + len(s)
}

// position is the position of a byte.
func (t *text) position(offset int, e encoding) position {
	offset = max(0, min(offset, len(t.string)))
	lo, hi := 0, len(t.starts)
	for lo+1 < hi {
		if mid := (lo + hi) / 2; t.starts[mid] <= offset {
			lo = mid
		} else {
			hi = mid
		}
	}
	p := position{Line: lo}
	s := t.string[t.starts[lo]:offset]
	for i, r := range s {
		p.Character += e.units(r, s[i:])
	}
	return p
}

// span is the range of bytes.
func (t *text) span(from, to int, e encoding) lspRange {
	return lspRange{t.position(from, e), t.position(to, e)}
}

// units is how many units a character takes; rest begins with it. A byte that is no character counts as one.
func (e encoding) units(r rune, rest string) int {
	switch e {
	case utf8Units:
		if r == utf8.RuneError {
			_, n := utf8.DecodeRuneInString(rest)
			return n
		}
		return utf8.RuneLen(r)
	case utf16Units:
		if r > 0xFFFF {
			return 2
		}
	}
	return 1
}

// change is the text with a part of it replaced.
func (t *text) change(c contentChange, e encoding) *text {
	if c.Range == nil {
		return newText(c.Text)
	}
	from, to := t.bytes(*c.Range, e)
	return newText(t.string[:from] + c.Text + t.string[to:])
}

// bytes are the bytes of a range, in order.
func (t *text) bytes(r lspRange, e encoding) (from, to int) {
	from, to = t.offset(r.Start, e), t.offset(r.End, e)
	return min(from, to), max(from, to)
}

// at is the byte of a line and a column as files are cited: from 1, columns in characters.
func (t *text) at(line, column int) int {
	return t.offset(position{line - 1, max(0, column-1)}, utf32Units)
}
