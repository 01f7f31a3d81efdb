// Package digest sums up values: things that sum up alike are alike. It guards against doing work twice, not against
// people who look for two things with one sum.
package digest

import (
	"encoding/binary"
	"math"
	"strconv"

	"github.com/cespare/xxhash/v2"
)

// Digest sums up values one after another; their order counts.
type Digest struct {
	*xxhash.Digest
	buf [8]byte
}

// New begins a sum.
func New() *Digest { return &Digest{Digest: xxhash.New()} }

// Num adds numbers.
func (d *Digest) Num(v ...float64) {
	for _, x := range v {
		binary.LittleEndian.PutUint64(d.buf[:], math.Float64bits(x))
		_, _ = d.Write(d.buf[:])
	}
}

// Text adds strings, each with its length.
func (d *Digest) Text(list ...string) {
	for _, s := range list {
		d.Num(float64(len(s)))
		_, _ = d.WriteString(s)
	}
}

// Flag adds truths.
func (d *Digest) Flag(list ...bool) {
	for _, b := range list {
		if b {
			_, _ = d.WriteString("1")
		} else {
			_, _ = d.WriteString("0")
		}
	}
}

// String is the sum of all so far, as a word.
func (d *Digest) String() string { return strconv.FormatUint(d.Sum64(), 16) }

// Of is the sum of strings.
func Of(words ...string) string {
	d := New()
	d.Text(words...)
	return d.String()
}
