package token

import (
	"fmt"
	"math"
)

// FullRadius is the least radius, in px, that stands for corners as round as they can be.
const FullRadius = 999

// Full is the path of the radius that stands for ends as round as they can be; "" for none.
func (s *Set) Full() string {
	for _, t := range s.Tokens {
		if t.Full(s) {
			return t.Path
		}
	}
	return ""
}

// Full reports whether a token is the radius that stands for ends as round as they can be.
func (t *Token) Full(s *Set) bool {
	l := s.Resolve(t).Value.Length
	return t.Type == Dimension && LengthUse(t.Path) == "radius" && l != nil && l.Px(s.RootPx()) >= FullRadius
}

// Key is what makes two tokens the same value: type and value as CSS, aliases followed. Dimensions count apart by
// the group they stand in, since a space and a radius of 8 px are two things.
func (s *Set) Key(t *Token) string {
	group := LengthUse(t.Path)
	kind := ""
	if t.Type == Dimension && (group == "space" || group == "radius") {
		kind = group
	}
	return s.KeyAs(t, kind)
}

// KeyAs is the key of a token as a value of a kind: space or radius; "" for any other.
func (s *Set) KeyAs(t *Token, kind string) string {
	if t.Type != Dimension {
		kind = ""
	}
	key := string(t.Type) + "\x00" + kind + "\x00" + s.flat(t.Value)
	if t.Own.Angle != nil {
		key += fmt.Sprintf("\x00%g", *t.Own.Angle)
	}
	return key + "\x00" + t.Own.Kind + "\x00" + t.Own.Shape
}

// flat is a value's JSON with all aliases followed.
func (s *Set) flat(v Value) string {
	v = s.ResolvePart(v)
	switch {
	case v.Parts != nil:
		out := ""
		for _, k := range sortedParts(v.Parts) {
			part := s.ResolvePart(v.Parts[k])
			switch {
			case k == "lineHeight": // where lines are single, their height is only the font's
				continue
			case k == "fontFamily" && len(part.Words) > 0: // what stands in for a family is not the style's business
				part.Words = part.Words[:1]
			}
			out += k + ":" + s.flat(part) + ";"
		}
		return out
	case v.List != nil:
		out := ""
		for _, p := range v.List {
			out += s.flat(p) + "|"
		}
		return out
	case v.Color != nil:
		return v.Color.CSS()
	case v.Length != nil && v.Length.Unit == "rem":
		return PxValue(v.Length.Px(s.RootPx())).JSON()
	}
	return v.JSON()
}

// PxValue is a dimension in px, to four decimals.
func PxValue(v float64) Value { return Value{Length: &Length{math.Round(v*1e4) / 1e4, "px"}} }
