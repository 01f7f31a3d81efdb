package pathdata

import (
	"bytes"
	"strconv"

	"archetyp/core/css"
)

// Shorten is path data with all its commands as they stand and every number as browsers read it, in fewer letters; ok
// is false where it has a fault. Whatever is done with it, it comes out as before.
func Shorten(d string) (out string, ok bool) {
	if Visit(d, func(*Command) {}) != nil {
		return "", false
	}
	w := &sameWriter{p: pathParser{s: d}}
	for w.p.space(); w.p.i < len(d); w.p.space() {
		letter := d[w.p.i]
		w.p.i++
		w.command(letter)
	}
	return string(w.b), true
}

type sameWriter struct {
	p     pathParser
	b     []byte
	last  byte // the command in force
	fresh bool // what comes next cannot run into what is there
	dot   bool // the last number had decimals
}

// numbersOf is how many numbers a command takes.
var numbersOf = map[byte]int{'M': 2, 'L': 2, 'H': 1, 'V': 1, 'C': 6, 'S': 4, 'Q': 4, 'T': 2, 'A': 7}

// command writes a command with all its repetitions.
func (w *sameWriter) command(letter byte) {
	if !(letter == w.last && letter != 'M' && letter != 'm' && letter != 'z' && letter != 'Z' || letter == 'l' &&
		w.last == 'm' || letter == 'L' && w.last == 'M') {
		w.b = append(w.b, letter)
		w.fresh = true
	}
	w.last = letter
	n := numbersOf[letter&^0x20]
	for n > 0 && w.p.more() {
		for i := range n {
			if n == 7 && (i == 3 || i == 4) {
				w.flag()
				continue
			}
			w.number()
		}
	}
}

func (w *sameWriter) flag() {
	if !w.fresh {
		w.b = append(w.b, ' ')
	}
	w.p.space()
	w.b = append(w.b, w.p.s[w.p.i])
	w.p.i++
	w.fresh, w.dot = true, false
}

func (w *sameWriter) number() {
	w.p.space()
	n := css.NumberPrefix(w.p.s[w.p.i:])
	text := same32(w.p.s[w.p.i : w.p.i+n])
	w.p.i += n
	if c := text[0]; !w.fresh && c != '-' && !(c == '.' && w.dot) {
		w.b = append(w.b, ' ')
	}
	w.b = append(w.b, text...)
	w.fresh, w.dot = false, bytes.ContainsAny(text, ".e")
}

// same32 is the shortest number that browsers read as they do another in path data.
func same32(s string) []byte {
	want := Float32(s)
	v, err := strconv.ParseFloat(s, 64)
	if err != nil {
		return []byte(s)
	}
	for digits := 0; digits <= 12; digits++ {
		if t := css.Terse(css.Num(v, digits)); Float32(t) == want {
			return []byte(t)
		}
	}
	return []byte(s)
}
