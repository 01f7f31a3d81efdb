package page

import (
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
)

// Values as attributes of HTML have them.

// dimension reads `90%`, `12`, `12px`. https://html.spec.whatwg.org/multipage/common-microsyntaxes.html#rules-for-parsing-dimension-values
func dimension(v string) string {
	v = strings.TrimSpace(v)
	n := css.NumberPrefix(v)
	if n == 0 || v[0] == '-' {
		return ""
	}
	num := strings.TrimPrefix(v[:n], "+")
	if strings.ContainsAny(num, "eE") {
		num, _, _ = strings.Cut(strings.ToLower(num), "e")
	}
	if strings.HasPrefix(v[n:], "%") {
		return num + "%"
	}
	return num + "px"
}

func whole(v string) string {
	v = strings.TrimSpace(v)
	if d := leadingDigits(v); d != "" && !strings.HasPrefix(v[len(d):], "%") {
		return d
	}
	return ""
}

func leadingDigits(v string) string {
	v = strings.TrimSpace(v)
	i := 0
	for i < len(v) && v[i] >= '0' && v[i] <= '9' {
		i++
	}
	return v[:i]
}

func fontSize(v string) string {
	v = strings.TrimSpace(v)
	n, err := strconv.Atoi(leadingDigits(strings.TrimLeft(v, "+-")))
	if err != nil {
		return ""
	}
	switch {
	case strings.HasPrefix(v, "+"):
		n = 3 + n
	case strings.HasPrefix(v, "-"):
		n = 3 - n
	}
	return []string{"x-small", "small", "medium", "large", "x-large", "xx-large", "xxx-large"}[max(1, min(7, n))-1]
}

// legacyColour reads a colour as old attributes do: names, and hexadecimal digits with or without #.
// https://html.spec.whatwg.org/multipage/common-microsyntaxes.html#rules-for-parsing-a-legacy-colour-value
func legacyColour(v string) string {
	v = strings.TrimSpace(v)
	if v == "" || strings.EqualFold(v, "transparent") {
		return ""
	}
	if namedColour(strings.ToLower(v)) {
		return strings.ToLower(v)
	}
	if len(v) == 4 && v[0] == '#' && isHex(v[1:]) {
		return v
	}
	v = strings.TrimPrefix(v, "#")
	if len(v) > 128 {
		v = v[:128]
	}
	b := []byte(v)
	for i := range b {
		if !isHex(string(b[i])) {
			b[i] = '0'
		}
	}
	for len(b) == 0 || len(b)%3 != 0 {
		b = append(b, '0')
	}
	n := len(b) / 3
	parts := [3]string{string(b[:n]), string(b[n : 2*n]), string(b[2*n:])}
	if n > 8 {
		for i := range parts {
			parts[i] = parts[i][n-8:]
		}
		n = 8
	}
	for n > 2 && parts[0][0] == '0' && parts[1][0] == '0' && parts[2][0] == '0' {
		for i := range parts {
			parts[i] = parts[i][1:]
		}
		n--
	}
	out := "#"
	for i := range parts {
		p := parts[i][:min(2, n)]
		if len(p) == 1 {
			p = "0" + p
		}
		out += p
	}
	return out
}

func namedColour(name string) bool {
	_, ok := color.Named(name)
	return ok
}

func isHex(s string) bool {
	for i := 0; i < len(s); i++ {
		c := s[i] | 0x20
		if !(s[i] >= '0' && s[i] <= '9' || c >= 'a' && c <= 'f') {
			return false
		}
	}
	return s != ""
}
