// Package packed writes values in a short form that is read back fast, for what a program keeps for itself: numbers of
// varying length, and every string once. What was written by something else is an error, or other values; it never
// costs more memory than a few times its length.
package packed

import (
	"encoding/binary"
	"errors"
	"math"
)

// Writer puts values behind one another. The zero Writer is ready.
type Writer struct {
	buf   []byte
	known map[string]uint64 // strings written, by their number
}

// Bytes are the values written.
func (w *Writer) Bytes() []byte { return w.buf }

// Int writes a whole number.
func (w *Writer) Int(v int) { w.buf = binary.AppendVarint(w.buf, int64(v)) }

// Bool writes true or false.
func (w *Writer) Bool(v bool) {
	if v {
		w.buf = append(w.buf, 1)
	} else {
		w.buf = append(w.buf, 0)
	}
}

// Float writes a number: as a whole one where it is one, else its eight bytes.
func (w *Writer) Float(v float64) {
	if i := int64(v); float64(i) == v && i > -1<<31 && i < 1<<31 && !(v == 0 && math.Signbit(v)) {
		w.Bool(true)
		w.Int(int(i))
		return
	}
	w.Bool(false)
	w.buf = binary.LittleEndian.AppendUint64(w.buf, math.Float64bits(v))
}

// String writes a string; one that was written before as its number.
func (w *Writer) String(s string) {
	if n, ok := w.known[s]; ok {
		w.buf = binary.AppendUvarint(w.buf, n)
		return
	}
	if w.known == nil {
		w.known = map[string]uint64{}
	}
	w.known[s] = uint64(len(w.known)) + 1
	w.buf = binary.AppendUvarint(append(w.buf, 0), uint64(len(s)))
	w.buf = append(w.buf, s...)
}

// Strings writes a list of strings.
func (w *Writer) Strings(list []string) {
	w.Int(len(list))
	for _, s := range list {
		w.String(s)
	}
}

// Reader reads what a Writer wrote, in the same order. After a fault it gives zeros; Err says which.
type Reader struct {
	rest  []byte
	known []string
	err   error
}

// NewReader reads values.
func NewReader(data []byte) *Reader { return &Reader{rest: data} }

var errForm = errors.New("this was not written by this program, or is damaged")

// Err is nil where all that was read had been written.
func (r *Reader) Err() error { return r.err }

// Fail notes that what was read cannot have been written.
func (r *Reader) Fail() {
	r.rest, r.err = nil, errForm
}

// Int reads a whole number.
func (r *Reader) Int() int {
	v, n := binary.Varint(r.rest)
	r.skip(n)
	return int(v)
}

// Len reads how many values follow; each takes a byte at least.
func (r *Reader) Len() int {
	n := r.Int()
	if n < 0 || n > len(r.rest) {
		r.Fail()
		return 0
	}
	return n
}

// Bool reads true or false.
func (r *Reader) Bool() bool {
	if len(r.rest) == 0 {
		r.Fail()
		return false
	}
	b := r.rest[0]
	r.rest = r.rest[1:]
	return b == 1
}

// Float reads a number.
func (r *Reader) Float() float64 {
	if r.Bool() {
		return float64(r.Int())
	}
	if len(r.rest) < 8 {
		r.Fail()
		return 0
	}
	v := math.Float64frombits(binary.LittleEndian.Uint64(r.rest))
	r.rest = r.rest[8:]
	return v
}

func (r *Reader) uint() uint64 {
	v, n := binary.Uvarint(r.rest)
	r.skip(n)
	return v
}

// skip goes on behind a number of n bytes; none means that there was no number.
func (r *Reader) skip(n int) {
	if n <= 0 {
		r.Fail()
		return
	}
	r.rest = r.rest[n:]
}

// String reads a string.
func (r *Reader) String() string {
	n := r.uint()
	if n > 0 {
		if n > uint64(len(r.known)) {
			r.Fail()
			return ""
		}
		return r.known[n-1]
	}
	size := r.uint()
	if size > uint64(len(r.rest)) {
		r.Fail()
		return ""
	}
	s := string(r.rest[:size])
	r.rest = r.rest[size:]
	if r.err == nil {
		r.known = append(r.known, s)
	}
	return s
}

// Strings reads a list of strings; nil for none.
func (r *Reader) Strings() []string {
	n := r.Len()
	if n == 0 {
		return nil
	}
	out := make([]string, n)
	for i := range out {
		out[i] = r.String()
	}
	return out
}
