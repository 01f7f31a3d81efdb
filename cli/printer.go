package cli

import (
	"crypto/rand"
	"fmt"
	"os"
	"reflect"
	"strings"
	"unicode"
	"unicode/utf8"

	xterm "golang.org/x/term"
)

// Everything people read goes through print and say, and there every text that came from a file, a name or an argument
// is made visible: a terminal obeys control characters, and letters that turn or hide others let a name look like
// another. Colours are ours: until the last moment they carry a mark that nobody else can know.

// colourMark stands for the escape character of our own colours.
var colourMark = "\x00" + rand.Text() + "\x00"

// block is text of several lines that is visible already.
type block string

// visible shows what a terminal would obey or hide as escapes such as \x1b and \u202e. Line breaks and tabs count as
// such unless the text is of several lines.
func visible(s string, lines bool) string {
	if plain(s, lines) {
		return s
	}
	var b strings.Builder
	for i, part := range strings.Split(s, colourMark) {
		if i > 0 {
			b.WriteByte('\x1b')
		}
		for len(part) > 0 {
			r, n := utf8.DecodeRuneInString(part)
			switch {
			case r == utf8.RuneError && n == 1:
				fmt.Fprintf(&b, `\x%02x`, part[0])
			case (r == '\n' || r == '\t') && lines, !obeyed(r):
				b.WriteString(part[:n])
			default:
				b.WriteString(escaped(r))
			}
			part = part[n:]
		}
	}
	return b.String()
}

// plain says, soon, that there is nothing to show otherwise.
func plain(s string, lines bool) bool {
	for i := 0; i < len(s); i++ {
		if c := s[i]; c >= 0x7f || c < ' ' && !(lines && (c == '\n' || c == '\t')) {
			return false
		}
	}
	return true
}

// obeyed reports whether a terminal does something with a character, or hides it, rather than show it: controls (C0,
// DEL, C1), overrides and marks of direction, invisible signs and separators. Joiners are part of words and stay.
func obeyed(r rune) bool {
	switch {
	case unicode.IsControl(r), r >= 0x2028 && r <= 0x202e, r >= 0x2060 && r <= 0x206f, r == 0x200b, r == 0x200e,
		r == 0x200f,
		r == 0x061c, r == 0x180e, r == 0xfeff, r == 0x00ad, r == 0x115f, r == 0x1160, r == 0x3164, r == 0xffa0, r >= 0xfff9 &&
			r <= 0xfffb,
		r >= 0xe0000 && r <= 0xe0fff:
		return true
	}
	return false
}

func escaped(r rune) string {
	switch {
	case r == '\n':
		return `\n`
	case r == '\r':
		return `\r`
	case r == '\t':
		return `\t`
	case r < 0x80:
		return fmt.Sprintf(`\x%02x`, r)
	case r > 0xffff:
		return fmt.Sprintf(`\U%08x`, r)
	}
	return fmt.Sprintf(`\u%04x`, r)
}

// shown makes the arguments of a format visible.
func shown(args []any) []any {
	out := make([]any, len(args))
	for i, a := range args {
		switch a := a.(type) {
		case string:
			out[i] = visible(a, false)
		case error:
			out[i] = visible(a.Error(), true)
		case block, int, float64, bool:
			out[i] = a
		case fmt.Stringer:
			out[i] = visible(a.String(), false)
		default:
			if v := reflect.ValueOf(a); v.Kind() == reflect.String {
				out[i] = visible(v.String(), false)
			} else {
				out[i] = a
			}
		}
	}
	return out
}

// print writes results to stdout.
func (a *app) print(format string, args ...any) { fmt.Fprintf(a.out, format, shown(args)...) }

// say writes what happens to stderr, unless --quiet.
func (a *app) say(format string, args ...any) {
	if !a.quiet {
		fmt.Fprintf(a.err, format, shown(args)...)
	}
}

// document writes a file's bytes to stdout: as they are, but to a terminal only what can be seen.
func (a *app) document(data []byte) error {
	if f, ok := a.out.(*os.File); ok && xterm.IsTerminal(int(f.Fd())) {
		data = []byte(visible(string(data), true))
	}
	_, err := a.out.Write(data)
	return err
}

// jsonEscapes writes what a terminal would obey or hide as JSON escapes; the value stays the same.
func jsonEscapes(data []byte) []byte {
	var out []byte
	from := 0 // what is not in out yet
	for i := 0; i < len(data); {
		if data[i] < 0x7f {
			i++
			continue
		}
		r, n := utf8.DecodeRune(data[i:])
		if obeyed(r) {
			out = append(out, data[from:i]...)
			if r > 0xffff {
				out = fmt.Appendf(out, `\u%04x\u%04x`, (r-0x10000)>>10+0xd800, (r-0x10000)&0x3ff+0xdc00)
			} else {
				out = fmt.Appendf(out, `\u%04x`, r)
			}
			from = i + n
		}
		i += n
	}
	if from == 0 {
		return data
	}
	return append(out, data[from:]...)
}
