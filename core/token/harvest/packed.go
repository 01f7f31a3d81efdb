package harvest

import (
	"sort"

	"archetyp/core/color"
	"archetyp/core/packed"
	"archetyp/core/token"
)

// What a packed value holds.
const (
	hasColor = 1 << iota
	hasLength
	hasNumber
	hasBezier
	hasBoolean
)

// deepest is how deep the parts of a value lie inside one another; none is near.
const deepest = 16

func writeValue(w *packed.Writer, v *token.Value) {
	w.String(v.Alias)
	w.String(v.Hex)
	w.Strings(v.Words)
	kind := 0
	for i, has := range []bool{v.Color != nil, v.Length != nil, v.Number != nil, v.Bezier != nil, v.Boolean != nil} {
		if has {
			kind |= 1 << i
		}
	}
	w.Int(kind)
	if c := v.Color; c != nil {
		w.String(string(c.Space))
		for _, n := range append(c.C[:], c.Alpha) {
			w.Float(n)
		}
		w.Int(int(c.None))
	}
	if v.Length != nil {
		w.Float(v.Length.Value)
		w.String(v.Length.Unit)
	}
	if v.Number != nil {
		w.Float(*v.Number)
	}
	if v.Bezier != nil {
		for _, n := range v.Bezier {
			w.Float(n)
		}
	}
	if v.Boolean != nil {
		w.Bool(*v.Boolean)
	}
	names := make([]string, 0, len(v.Parts))
	for name := range v.Parts {
		names = append(names, name)
	}
	sort.Strings(names)
	w.Int(len(names))
	for _, name := range names {
		part := v.Parts[name]
		w.String(name)
		writeValue(w, &part)
	}
	w.Int(len(v.List))
	for i := range v.List {
		writeValue(w, &v.List[i])
	}
}

// readValue reads what writeValue wrote; depth is how deep the value may be.
func readValue(r *packed.Reader, depth int) (v token.Value) {
	if depth == 0 {
		r.Fail()
		return v
	}
	v.Alias, v.Hex, v.Words = r.String(), r.String(), r.Strings()
	kind := r.Int()
	if kind&hasColor != 0 {
		v.Color = &color.Color{Space: color.Space(r.String()), C: [3]float64{r.Float(), r.Float(), r.Float()},
			Alpha: r.Float(), None: uint8(r.Int())}
	}
	if kind&hasLength != 0 {
		v.Length = &token.Length{Value: r.Float(), Unit: r.String()}
	}
	if kind&hasNumber != 0 {
		n := r.Float()
		v.Number = &n
	}
	if kind&hasBezier != 0 {
		v.Bezier = &[4]float64{r.Float(), r.Float(), r.Float(), r.Float()}
	}
	if kind&hasBoolean != 0 {
		b := r.Bool()
		v.Boolean = &b
	}
	if n := r.Len(); n > 0 {
		v.Parts = make(map[string]token.Value, n)
		for range n {
			name := r.String()
			v.Parts[name] = readValue(r, depth-1)
		}
	}
	if n := r.Len(); n > 0 {
		v.List = make([]token.Value, n)
		for i := range v.List {
			v.List[i] = readValue(r, depth-1)
		}
	}
	return v
}
