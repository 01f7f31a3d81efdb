package packed

import (
	"math"
	"slices"
	"testing"
)

func TestWhatIsWrittenIsRead(t *testing.T) {
	var w Writer
	ints, floats := []int{0, 1, -1, 300, math.MaxInt64, math.MinInt64}, []float64{0, math.Copysign(0, -1), 1, -7, 0.1,
		1 << 40, math.Inf(1), math.SmallestNonzeroFloat64}
	words := []string{"", "berth", "quay", "berth", "", "täglich"}
	for _, v := range ints {
		w.Int(v)
	}
	for _, v := range floats {
		w.Float(v)
	}
	w.Strings(words)
	w.Strings(nil)
	w.Bool(true)
	r := NewReader(w.Bytes())
	for _, v := range ints {
		if got := r.Int(); got != v {
			t.Errorf("%d, want %d", got, v)
		}
	}
	for _, v := range floats {
		if got := r.Float(); math.Float64bits(got) != math.Float64bits(v) {
			t.Errorf("%v, want %v", got, v)
		}
	}
	if got := r.Strings(); !slices.Equal(got, words) {
		t.Errorf("%q, want %q", got, words)
	}
	if got := r.Strings(); got != nil || !r.Bool() || r.Err() != nil {
		t.Errorf("%q %v", got, r.Err())
	}
	if r.Int() != 0 || r.Err() == nil {
		t.Error("there was no more to read")
	}
}

func TestStringsAreWrittenOnce(t *testing.T) {
	var w Writer
	for range 100 {
		w.String("the same words each time")
	}
	if n := len(w.Bytes()); n > 130 {
		t.Errorf("%d bytes", n)
	}
}

func FuzzReader(f *testing.F) {
	var w Writer
	w.Strings([]string{"a", "b", "a"})
	w.Float(0.5)
	f.Add(w.Bytes())
	f.Add([]byte{0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 1})
	f.Fuzz(func(t *testing.T, data []byte) {
		r := NewReader(data)
		for range 10 {
			if n := len(r.Strings()); n > len(data) {
				t.Errorf("%d strings in %d bytes", n, len(data))
			}
			r.Float()
			r.Int()
			r.Bool()
		}
	})
}
