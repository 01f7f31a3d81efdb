package computed

import (
	"slices"
	"strings"

	"archetyp/core/css/grammar"
)

// font reads `italic 600 16px/1.5 "Hanken Grotesk", sans-serif`, and resets what it does not name.
// https://www.w3.org/TR/css-fonts-4/#font-prop
func font(names []string, parts []grammar.Part) ([]longhand, bool) {
	values := map[string]*Value{}
	for _, n := range names {
		values[n] = initial(n)
	}
	if len(parts) == 1 {
		switch parts[0].Keyword() {
		case "caption", "icon", "menu", "message-box", "small-caption", "status-bar":
			values["font-size"] = one("font-size", []grammar.Part{{Kind: grammar.Dimension, Num: 16, Text: "px"}})
			values["font-family"] = one("font-family", word("system-ui"))
			return ordered(names, values), true
		}
	}
	i := 0
	seen := map[string]bool{}
head:
	for ; i < len(parts) && i < 5; i++ {
		if parts[i].Is("normal") {
			continue
		}
		if parts[i].Is("oblique") && i+1 < len(parts) && parts[i+1].Kind == grammar.Dimension && !seen["font-style"] {
			if v := one("font-style", parts[i:i+2]); v != nil {
				values["font-style"], seen["font-style"] = v, true
				i++
				continue
			}
		}
		for _, n := range []string{"font-style", "font-variant-caps", "font-weight", "font-stretch"} {
			if n == "font-variant-caps" && !parts[i].Is("small-caps") || n == "font-stretch" && parts[i].Kind != grammar.Word || seen[n] {
				continue
			}
			if v := one(n, parts[i:i+1]); v != nil {
				values[n], seen[n] = v, true
				continue head
			}
		}
		break
	}
	if i >= len(parts) {
		return nil, false
	}
	if values["font-size"] = one("font-size", parts[i:i+1]); values["font-size"] == nil {
		return nil, false
	}
	i++
	if i+1 < len(parts) && isSlash(parts[i]) {
		if values["line-height"] = one("line-height", parts[i+1:i+2]); values["line-height"] == nil {
			return nil, false
		}
		i += 2
	}
	if values["font-family"] = one("font-family", parts[i:]); values["font-family"] == nil {
		return nil, false
	}
	return ordered(names, values), true
}

func ordered(names []string, values map[string]*Value) (out []longhand) {
	for _, n := range names {
		out = append(out, longhand{n, values[n]})
	}
	return out
}

// fontVariant reads `small-caps tabular-nums`.
func fontVariant(names []string, parts []grammar.Part) ([]longhand, bool) {
	if len(parts) == 1 && parts[0].Is("none") {
		out, _ := anyOrder(names, nil)
		out[0].value = one(names[0], word("none"))
		return out, true
	}
	if len(parts) == 1 && parts[0].Is("normal") {
		return anyOrder(names, nil)
	}
	values := make([][]grammar.Part, len(names)) // words of one property may stand apart
next:
	for _, p := range parts {
		for i, n := range names {
			if one(n, append(slices.Clone(values[i]), p)) != nil {
				values[i] = append(values[i], p)
				continue next
			}
		}
		return nil, false
	}
	out := make([]longhand, len(names))
	for i, n := range names {
		v := initial(n)
		if len(values[i]) > 0 {
			v = one(n, values[i])
		}
		out[i] = longhand{n, v}
	}
	return out, len(parts) > 0
}

// fontSynthesis reads `none` or what may be made up: `weight style small-caps`.
func fontSynthesis(names []string, parts []grammar.Part) ([]longhand, bool) {
	var out []longhand
	given := map[string]bool{}
	for _, p := range parts {
		given[p.Keyword()] = true
	}
	for _, n := range names {
		v := "none"
		if given[strings.TrimPrefix(n, "font-synthesis-")] {
			v = "auto"
		}
		out = append(out, longhand{n, one(n, word(v))})
	}
	return out, len(parts) > 0
}
