package sync

import (
	"regexp"
	"strconv"
	"strings"

	"archetyp/core/code"
	"archetyp/core/css"
	"archetyp/core/emit"
	"archetyp/core/token"
)

// Properties answers which custom property stands for a CSS value. Where a colour has names by use (text, surface,
// border, action), the one for the use in question goes before the palette's.
func Properties(set *token.Set, prefix string) code.Tokens {
	if set == nil {
		return nil
	}
	plain, byRole := map[string]string{}, map[string]string{}
	put := func(m map[string]string, key, path string) {
		if _, ok := m[key]; !ok {
			m[key] = emit.Property(path, prefix)
		}
	}
	for _, t := range set.Tokens {
		end := set.Resolve(t)
		value := emit.Literal(set, end)
		head, rest, _ := strings.Cut(t.Path, ".")
		role, _, _ := strings.Cut(rest, ".")
		switch t.Type {
		case token.Color:
			if t.Value.Alias != "" {
				put(byRole, role+"\x00"+value, t.Path)
			} else {
				put(plain, "color\x00"+value, t.Path)
			}
		case token.Dimension:
			put(plain, head+"\x00"+value, t.Path)
		case token.Shadow:
			put(plain, "shadow\x00"+value, t.Path)
		case token.Gradient:
			put(plain, "gradient\x00"+drawn(value), t.Path)
		case token.FontFamily:
			put(plain, "fontFamily\x00"+value, t.Path)
		case token.Typography:
			face := end.Value.Parts
			if f, s, w, sp := set.ResolvePart(face["fontFamily"]), set.ResolvePart(face["fontSize"]), set.ResolvePart(face["fontWeight"]), set.ResolvePart(face["letterSpacing"]); s.Length != nil && w.Number != nil && sp.Length != nil {
				put(plain, "type\x00"+typeKey(f.Words, s.Length.Value, int(*w.Number), sp.Length.Value), t.Path)
			}
		}
	}
	return func(kind, value string) string {
		if role, ok := strings.CutPrefix(kind, "color:"); ok {
			if p, ok := byRole[role+"\x00"+value]; ok {
				return p
			}
			if p, ok := byRole["action\x00"+value]; ok {
				return p
			}
			kind = "color"
		}
		return plain[kind+"\x00"+value]
	}
}

var decimals = regexp.MustCompile(`([0-9]+\.[0-9]+)(deg|%)`)

// drawn rounds a gradient token to the digits that a drawing's gradient is printed with.
func drawn(gradient string) string {
	return decimals.ReplaceAllStringFunc(gradient, func(s string) string {
		m := decimals.FindStringSubmatch(s)
		v, err := strconv.ParseFloat(m[1], 64)
		if err != nil {
			return s
		}
		return css.Num(v, 2) + m[2]
	})
}

func typeKey(families []string, size float64, weight int, spacing float64) string {
	family := ""
	if len(families) > 0 {
		family = families[0]
	}
	return strings.Join([]string{family, css.Px(size), css.Num(float64(weight), 0), css.Px(spacing)}, "|")
}
