package token

import (
	"math"
	"sort"
	"strings"

	"archetyp/core/color"

	"github.com/tailscale/hujson"
)

// edit replaces the bytes from start up to end.
type edit struct {
	start, end int
	text       string
}

// apply does edits that do not overlap.
func apply(data []byte, edits []edit) []byte {
	sort.SliceStable(edits, func(i, j int) bool { return edits[i].start < edits[j].start })
	grown := 0
	for _, e := range edits {
		grown += len(e.text)
	}
	out := make([]byte, 0, len(data)+grown)
	at := 0
	for _, e := range edits {
		out = append(append(out, data[at:e.start]...), e.text...)
		at = e.end
	}
	return append(out, data[at:]...)
}

// patch turns an old value into a new one, leaving every part that says the same as it is.
func patch(data []byte, old, now hujson.Value) []edit {
	whole := []edit{{old.StartOffset, old.EndOffset, raw(now)}}
	if same(old, now) {
		return nil
	}
	switch a := old.Value.(type) {
	case *hujson.Object:
		b, ok := now.Value.(*hujson.Object)
		if !ok {
			return whole
		}
		var out []edit
		for _, m := range a.Members {
			key := word(m.Name)
			v, has := member(b, key)
			if !has && key == "alpha" {
				v, has = hujson.Value{Value: hujson.Int(1)}, true
			}
			if !has {
				return whole
			}
			out = append(out, patch(data, m.Value, v)...)
		}
		for _, m := range b.Members {
			key := word(m.Name)
			if _, has := member(a, key); !has && key != "hex" {
				return whole
			}
		}
		return out
	case *hujson.Array:
		b, ok := now.Value.(*hujson.Array)
		if !ok || len(a.Elements) != len(b.Elements) {
			return whole
		}
		var out []edit
		for i := range a.Elements {
			out = append(out, patch(data, a.Elements[i], b.Elements[i])...)
		}
		return out
	}
	return whole
}

// same reports whether two values mean the same, though one may be written as an older form or as a pointer.
func same(before, after hujson.Value) bool {
	old, now := light(before), light(after)
	if x, ok := number(old); ok {
		y, ok := number(now)
		return ok && math.Abs(x-y) < 1e-9
	}
	if old.kind == '{' {
		ref, isRef := old.member("$ref")
		s, isText := text(now)
		if !isRef || !isText {
			return false
		}
		to, _ := text(ref)
		steps, _ := pointer(to)
		return s == "{"+strings.TrimSuffix(strings.Join(steps, "."), ".$value")+"}"
	}
	s, ok := text(old)
	if !ok {
		return old.kind != '[' && old.kind == now.kind
	}
	if t, ok := text(now); ok {
		return s == t
	}
	if f, ok := weights[s]; ok {
		y, ok := number(now)
		return ok && f == y
	}
	r := &reader{file: &File{}}
	if now.kind != '{' {
		return false
	}
	if c, err := color.Parse(s); err == nil {
		v, fault := r.color(now)
		return fault == nil && v.Color != nil && *v.Color == c
	}
	for _, typ := range []Type{Dimension, Duration} {
		if v, fault := r.value(now, typ); fault == nil && v.Length != nil {
			return s == num(v.Length.Value)+v.Length.Unit
		}
	}
	return false
}
