package css

import (
	"slices"
	"strconv"
	"strings"
)

// MatchMedia answers a media query list for a screen of this size and scheme. Features we do not know do not match,
// negated or not. https://www.w3.org/TR/mediaqueries-4/
func MatchMedia(query string, m Medium) bool {
	if strings.TrimSpace(query) == "" {
		return true
	}
	for _, q := range SplitTop(strings.ToLower(query), ',') {
		if matchQuery(strings.TrimSpace(q), m) == yes {
			return true
		}
	}
	return false
}

// matchQuery answers one query: a type with features, or a condition.
func matchQuery(q string, m Medium) answer {
	feature := func(s string) answer { return matchFeature(s, m) }
	words := SplitTop(q, ' ')
	negate := false
	if len(words) > 1 && (words[0] == "not" || words[0] == "only") && !strings.HasPrefix(words[1], "(") {
		negate = words[0] == "not"
		words = words[1:]
	}
	if len(words) == 0 || strings.HasPrefix(words[0], "(") || words[0] == "not" {
		return condition(words, 0, feature)
	}
	out := of(words[0] == "all" || words[0] == "screen")
	if len(words) > 1 {
		if words[1] != "and" || slices.Contains(words, "or") {
			return no
		}
		out = min(out, condition(words[2:], 0, feature))
	}
	if negate {
		out = -out
	}
	return out
}

// matchFeature answers what stands between the brackets of a media query.
func matchFeature(f string, m Medium) answer {
	if strings.ContainsAny(f, "<>=") {
		return matchRange(f, m)
	}
	name, value, has := strings.Cut(f, ":")
	name, value = strings.TrimSpace(name), strings.TrimSpace(value)
	if !has {
		switch name {
		case "color", "hover", "any-hover", "width", "height", "pointer", "any-pointer", "aspect-ratio", "resolution",
			"orientation",
			"prefers-color-scheme", "update", "overflow-block", "overflow-inline", "scripting":
			return yes
		case "monochrome", "grid", "color-index", "prefers-reduced-motion", "prefers-contrast",
			"prefers-reduced-transparency",
			"prefers-reduced-data", "forced-colors", "inverted-colors":
			return no
		}
		return unknown
	}
	if side, of, ok := strings.Cut(name, "-"); ok && (side == "min" || side == "max") {
		return compare(of, map[string]string{"min": ">=", "max": "<="}[side], value, m)
	}
	switch name {
	case "width", "height", "aspect-ratio", "resolution":
		return compare(name, "=", value, m)
	case "prefers-color-scheme":
		return of(value == "light" != m.Dark)
	case "prefers-reduced-motion", "prefers-contrast", "prefers-reduced-transparency", "prefers-reduced-data":
		return of(value == "no-preference")
	case "forced-colors", "inverted-colors":
		return of(value == "none")
	case "orientation":
		return of(value == "portrait" == (m.Height >= m.Width))
	case "hover", "any-hover":
		return of(value == "hover")
	case "pointer", "any-pointer":
		return of(value == "fine")
	case "scripting":
		return of(value == "enabled")
	case "update":
		return of(value == "fast")
	case "display-mode":
		return of(value == "browser")
	}
	return unknown
}

// matchRange answers `width >= 48rem` and `30rem <= width < 60rem`.
func matchRange(f string, m Medium) answer {
	var sides, signs []string
	for f != "" {
		i := strings.IndexAny(f, "<>=")
		if i < 0 {
			i = len(f)
		}
		sides = append(sides, strings.TrimSpace(f[:i]))
		n := i
		for n < len(f) && strings.IndexByte("<>=", f[n]) >= 0 {
			n++
		}
		if n > i {
			signs = append(signs, f[i:n])
		}
		f = f[n:]
	}
	if len(sides) != len(signs)+1 || len(signs) > 2 {
		return unknown
	}
	out := yes
	for i, sign := range signs {
		name, value := sides[i], sides[i+1]
		if _, known := measures[name]; !known { // the feature stands on the right
			name, value = value, name
			sign = strings.NewReplacer("<", ">", ">", "<").Replace(sign)
		}
		out = min(out, compare(name, sign, value, m))
	}
	return out
}

// measures are the features that have a size, in px or as a ratio.
var measures = map[string]func(Medium) float64{
	"width":               func(m Medium) float64 { return m.Width },
	"height":              func(m Medium) float64 { return m.Height },
	"device-width":        func(m Medium) float64 { return m.Width },
	"device-height":       func(m Medium) float64 { return m.Height },
	"aspect-ratio":        func(m Medium) float64 { return m.Width / m.Height },
	"device-aspect-ratio": func(m Medium) float64 { return m.Width / m.Height },
	"resolution":          func(Medium) float64 { return 1 },
	"color":               func(Medium) float64 { return 8 },
	"monochrome":          func(Medium) float64 { return 0 },
}

func compare(name, sign, value string, m Medium) answer {
	measure, known := measures[name]
	want, ok := sizeOf(value)
	if !known || !ok {
		return unknown
	}
	have := measure(m)
	switch sign {
	case "=":
		return of(have == want)
	case "<":
		return of(have < want)
	case "<=":
		return of(have <= want)
	case ">":
		return of(have > want)
	case ">=":
		return of(have >= want)
	}
	return unknown
}

// sizeOf reads a length in px, a ratio, or a resolution in dots for each px.
func sizeOf(value string) (float64, bool) {
	if a, b, ok := strings.Cut(value, "/"); ok {
		x, err1 := strconv.ParseFloat(strings.TrimSpace(a), 64)
		y, err2 := strconv.ParseFloat(strings.TrimSpace(b), 64)
		return x / y, err1 == nil && err2 == nil && y != 0
	}
	for unit, px := range map[string]float64{"dppx": 1, "dpi": 1.0 / 96, "dpcm": 2.54 / 96} {
		if v, ok := strings.CutSuffix(value, unit); ok {
			x, err := strconv.ParseFloat(v, 64)
			return x * px, err == nil
		}
	}
	if v, ok := strings.CutSuffix(value, "x"); ok && !strings.HasSuffix(value, "px") {
		x, err := strconv.ParseFloat(v, 64)
		return x, err == nil
	}
	l, err := ParseLength(value)
	if err != nil {
		return 0, false
	}
	return l.Px(Units{Em: 16, Rem: 16}), true
}
