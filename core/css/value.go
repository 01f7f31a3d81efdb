package css

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	lexer "github.com/tdewolff/parse/v2/css"
)

// Length is a number with a unit: "" for a plain number, "%" for a share.
type Length struct {
	Value float64
	Unit  string
}

// Units is what relative lengths are relative to, all in px.
type Units struct {
	Em      float64 // font size
	Rem     float64 // font size of the root
	Ex      float64 // x-height; 0 means half an em
	Percent float64 // what 100 % is
	VW, VH  float64 // viewport
}

// ParseLength reads a number, a length or a percentage.
func ParseLength(s string) (Length, error) {
	s = strings.TrimSpace(s)
	n := NumberPrefix(s)
	if n == 0 {
		return Length{}, fmt.Errorf("%q is not a length", s)
	}
	v, err := strconv.ParseFloat(s[:n], 64)
	if err != nil || math.IsInf(v, 0) {
		return Length{}, fmt.Errorf("%q is not a length", s)
	}
	unit := strings.ToLower(s[n:])
	switch unit {
	case "", "%", "px", "pt", "pc", "mm", "cm", "q", "in", "em", "rem", "ex", "ch", "vw", "vh", "vmin", "vmax":
		return Length{v, unit}, nil
	}
	return Length{}, fmt.Errorf("%q has an unknown unit %q", s, unit)
}

// Terse leaves out the zero before a number's decimal point.
func Terse(number string) string {
	if strings.HasPrefix(number, "0.") {
		return number[1:]
	}
	if strings.HasPrefix(number, "-0.") {
		return "-" + number[2:]
	}
	return number
}

// NumberPrefix is the length in bytes of the number s begins with, 0 where there is none.
func NumberPrefix(s string) int {
	i, digits := 0, 0
	if i < len(s) && (s[i] == '+' || s[i] == '-') {
		i++
	}
	for i < len(s) && s[i] >= '0' && s[i] <= '9' {
		i++
		digits++
	}
	if i < len(s) && s[i] == '.' {
		j := i + 1
		for j < len(s) && s[j] >= '0' && s[j] <= '9' {
			j++
			digits++
		}
		if j > i+1 || digits > 0 {
			i = j
		}
	}
	if digits == 0 {
		return 0
	}
	if i < len(s) && (s[i] == 'e' || s[i] == 'E') {
		j := i + 1
		if j < len(s) && (s[j] == '+' || s[j] == '-') {
			j++
		}
		if k := j; j < len(s) && s[j] >= '0' && s[j] <= '9' {
			for k < len(s) && s[k] >= '0' && s[k] <= '9' {
				k++
			}
			i = k
		}
	}
	return i
}

// Px is the length in CSS pixels; a plain number counts as pixels.
func (l Length) Px(u Units) float64 {
	switch l.Unit {
	case "%":
		return l.Value / 100 * u.Percent
	case "pt":
		return l.Value * 96 / 72
	case "pc":
		return l.Value * 16
	case "mm":
		return l.Value * 96 / 25.4
	case "cm":
		return l.Value * 96 / 2.54
	case "q":
		return l.Value * 96 / 101.6
	case "in":
		return l.Value * 96
	case "em":
		return l.Value * u.Em
	case "rem":
		return l.Value * u.Rem
	case "ex":
		if u.Ex == 0 {
			return l.Value * u.Em / 2
		}
		return l.Value * u.Ex
	case "ch":
		return l.Value * u.Em / 2
	case "vw":
		return l.Value / 100 * u.VW
	case "vh":
		return l.Value / 100 * u.VH
	case "vmin":
		return l.Value / 100 * math.Min(u.VW, u.VH)
	case "vmax":
		return l.Value / 100 * math.Max(u.VW, u.VH)
	}
	return l.Value
}

// StringEnd is the place of the quotation mark that closes the string whose first one stands at i; len(s) for none.
func StringEnd(s string, i int) int {
	for k := i + 1; k < len(s); k++ {
		switch s[k] {
		case '\\':
			k++
		case s[i]:
			return k
		}
	}
	return len(s)
}

// SplitTop cuts a value at a separator that stands outside brackets and quotes; the pieces are trimmed. With ' ' it
// cuts at any white space, and empty pieces are dropped.
func SplitTop(s string, sep byte) []string {
	var out []string
	depth, from := 0, 0
	add := func(to int) {
		piece := strings.TrimSpace(s[from:to])
		if piece != "" || sep != ' ' {
			out = append(out, piece)
		}
	}
	for i := 0; i < len(s); i++ {
		c := s[i]
		switch {
		case c == '"' || c == '\'':
			i = StringEnd(s, i)
		case c == '(':
			depth++
		case c == ')':
			depth--
		case depth == 0 && (c == sep || sep == ' ' && (c == '\t' || c == '\n' || c == '\r')):
			add(i)
			from = i + 1
		}
	}
	if strings.TrimSpace(s[min(from, len(s)):]) != "" || len(out) > 0 {
		add(len(s))
	}
	return out
}

// Unquote is what a quoted string or a plain identifier means.
func Unquote(s string) string {
	s = strings.TrimSpace(s)
	if len(s) >= 2 && (s[0] == '"' || s[0] == '\'') && s[len(s)-1] == s[0] {
		s = s[1 : len(s)-1]
	}
	return unescape(s)
}

// Function is a functional value: its name in lower case and the text between the brackets.
type Function struct {
	Name string
	Args string
}

// ParseFunctions reads a list such as `translate(1px 2px) rotate(3deg)`; commas between functions may stand or not.
func ParseFunctions(s string) ([]Function, error) {
	var out []Function
	rest := strings.TrimLeft(s, " \t\r\n,")
	for rest != "" {
		open := strings.IndexByte(rest, '(')
		if open <= 0 {
			return nil, fmt.Errorf("%q is not a list of functions", s)
		}
		end := closing(rest, open)
		if end < 0 {
			return nil, fmt.Errorf("a ) is missing in %q", s)
		}
		out = append(out, Function{strings.ToLower(strings.TrimSpace(rest[:open])), rest[open+1 : end]})
		rest = strings.TrimLeft(rest[end+1:], " \t\r\n,")
	}
	return out, nil
}

// URLFragment is the id in url(#id), and the text behind it (a fallback).
func URLFragment(s string) (id, rest string, ok bool) {
	s = strings.TrimSpace(s)
	if len(s) < 5 || !strings.EqualFold(s[:4], "url(") {
		return "", s, false
	}
	end := strings.IndexByte(s, ')')
	if end < 0 {
		return "", s, false
	}
	ref := Unquote(s[4:end])
	rest = strings.TrimSpace(s[end+1:])
	if i := strings.IndexByte(ref, '#'); i >= 0 {
		return ref[i+1:], rest, true
	}
	return "", rest, true
}

// closing is where the parenthesis that opens at a place is closed, or -1.
func closing(s string, open int) int {
	depth := 0
	for i := open; i < len(s); i++ {
		switch s[i] {
		case '(':
			depth++
		case ')':
			if depth--; depth == 0 {
				return i
			}
		}
	}
	return -1
}

// Num prints a number as CSS: at most digits decimals, no trailing zeros, no minus zero.
func Num(v float64, digits int) string {
	s := strconv.FormatFloat(v, 'f', digits, 64)
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	if s == "-0" {
		return "0"
	}
	return s
}

// Px prints a length in pixels, `0` without a unit.
func Px(v float64) string {
	s := Num(v, 3)
	if s == "0" {
		return s
	}
	return s + "px"
}

// Sides is the shorthand of four lengths in px: top, right, bottom, left.
func Sides(v [4]float64) string {
	p := []string{Px(v[0]), Px(v[1]), Px(v[2]), Px(v[3])}
	switch {
	case p[0] == p[1] && p[1] == p[2] && p[2] == p[3]:
		p = p[:1]
	case p[0] == p[2] && p[1] == p[3]:
		p = p[:2]
	case p[1] == p[3]:
		p = p[:3]
	}
	return strings.Join(p, " ")
}

// URLs are the addresses in a value.
func URLs(value string) (out []string) {
	toks := Tokenize(value)
	for i, t := range toks {
		switch {
		case t.Type == lexer.URLToken:
			out = append(out, t.Text())
		case t.Type == lexer.FunctionToken && strings.EqualFold(t.Text(), "url") && i+1 < len(toks) && toks[i+1].Type == lexer.StringToken:
			out = append(out, toks[i+1].Text())
		}
	}
	return out
}
