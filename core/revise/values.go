package revise

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/markup"

	"github.com/tdewolff/parse/v2"
	lexer "github.com/tdewolff/parse/v2/css"
)

// replace are the edits that put the new value where a site has the old one, in the notation that stands there.
func (s *site) replace(v Value) []markup.Edit {
	switch v.Kind {
	case Colour:
		return s.colours(v)
	case Radius:
		if s.prop == "rx" || s.prop == "ry" || s.prop == "border-radius" {
			return s.length(v)
		}
	case Size, Spacing:
		if s.prop == string(v.Kind) {
			return s.length(v)
		}
		if s.prop == "font" && v.Kind == Size {
			return s.inFont(v)
		}
	case Weight:
		if s.prop == "font-weight" && weightOf(s.text) == weightOf(v.Old) {
			return []markup.Edit{{From: s.at.From, To: s.at.To, With: v.New}}
		}
	case Family:
		if s.prop == "font-family" || s.prop == "font" {
			return s.family(v)
		}
	}
	return nil
}

func weightOf(s string) string {
	switch strings.ToLower(strings.TrimSpace(s)) {
	case "normal":
		return "400"
	case "bold":
		return "700"
	}
	return strings.TrimSpace(s)
}

// colours replaces each colour of a value that is the old one.
func (s *site) colours(v Value) (out []markup.Edit) {
	old, err := color.Parse(v.Old)
	fresh, other := color.Parse(v.New)
	if err != nil || other != nil {
		return nil
	}
	for _, c := range coloursIn(s.text) {
		is, err := color.Parse(c.text)
		if err != nil {
			continue
		}
		alone := is.Alpha == 1 && old.Alpha < 1 && fresh.Alpha == old.Alpha // its opacity is written elsewhere
		if !is.Same(old) && !(alone && is.Same(opaque(old))) {
			continue
		}
		to := fresh
		if alone {
			to = opaque(fresh)
		}
		out = append(out, markup.Edit{From: s.at.From + c.from, To: s.at.From + c.from + len(c.text), With: likeColour(c.text, to)})
	}
	return out
}

// recoloured is a text with the new colour in place of the old one, whatever their opacity.
func (v *Value) recoloured(text string) string {
	old, err := color.Parse(v.Old)
	fresh, other := color.Parse(v.New)
	if err != nil || other != nil {
		return text
	}
	var b strings.Builder
	at := 0
	for _, c := range coloursIn(text) {
		is, err := color.Parse(c.text)
		if err != nil {
			continue
		}
		alpha := is.Alpha
		b.WriteString(text[at:c.from])
		at = c.from + len(c.text)
		if opaque(is).Same(opaque(old)) {
			is = opaque(fresh)
		}
		is.Alpha = alpha
		b.WriteString(is.CSS())
	}
	return b.String() + text[at:]
}

func opaque(c color.Color) color.Color {
	c.Alpha = 1
	return c
}

// part is a stretch of a value.
type part struct {
	from int
	text string
}

// colourFunctions are the functions that are a colour.
var colourFunctions = map[string]bool{"rgb(": true, "rgba(": true, "hsl(": true, "hsla(": true, "hwb(": true, "lab(": true, "lch(": true, "oklab(": true,
	"oklch(": true, "color(": true}

// coloursIn are the colours that stand in a value.
func coloursIn(text string) (out []part) {
	l := lexer.NewLexer(parse.NewInputString(text))
	at, open, begin := 0, 0, -1
	for {
		kind, data := l.Next()
		if kind == lexer.ErrorToken {
			return out
		}
		switch {
		case begin >= 0:
			switch kind {
			case lexer.FunctionToken, lexer.LeftParenthesisToken:
				open++
			case lexer.RightParenthesisToken:
				if open--; open == 0 {
					out = append(out, part{begin, text[begin : at+len(data)]})
					begin = -1
				}
			}
		case kind == lexer.FunctionToken && colourFunctions[strings.ToLower(string(data))]:
			begin, open = at, 1
		case kind == lexer.HashToken || kind == lexer.IdentToken:
			out = append(out, part{at, string(data)})
		}
		at += len(data)
	}
}

var hexForm = regexp.MustCompile(`^#[0-9a-fA-F]+$`)

// likeColour writes a colour in the notation of another: hexadecimal digits as many and in the case they have, rgb()
// with commas or blanks. What that notation cannot say is written as CSS has it.
func likeColour(like string, c color.Color) string {
	r, g, b, _ := c.RGBA8()
	plain := c.InSRGB() && c.Is8Bit()
	switch lower := strings.ToLower(like); {
	case hexForm.MatchString(like) && plain:
		s := c.Hex()
		if len(like) <= 5 && short(s) {
			s = shortened(s)
		}
		if like == strings.ToUpper(like) && like != lower {
			s = strings.ToUpper(s)
		}
		return s
	case strings.HasPrefix(lower, "rgb") && plain && !strings.Contains(like, "%"):
		name, _, _ := strings.Cut(like, "(")
		inner := strings.TrimSuffix(like[len(name)+1:], ")")
		sep := " "
		if i := strings.IndexByte(inner, ','); i >= 0 {
			sep = ","
			if strings.HasPrefix(inner[i:], ", ") {
				sep = ", "
			}
		}
		out := fmt.Sprintf("%s(%d%s%d%s%d", name, r, sep, g, sep, b)
		switch {
		case c.Alpha == 1 && strings.EqualFold(name, "rgba"):
			out += map[bool]string{true: sep + "1", false: " / 1"}[sep != " "]
		case c.Alpha < 1 && sep == " ":
			out += " / " + css.Num(c.Alpha, 4)
		case c.Alpha < 1:
			if strings.EqualFold(name, "rgb") {
				out = "rgba" + out[3:]
			}
			out += sep + css.Num(c.Alpha, 4)
		}
		return out + ")"
	case strings.HasPrefix(lower, "hsl") && c.InSRGB():
		return c.To(color.HSL).CSS()
	case strings.HasPrefix(lower, "oklch"):
		return c.To(color.OKLCH).CSS()
	}
	return c.CSS()
}

// short reports whether a colour of hexadecimal digits can be said with half of them.
func short(s string) bool {
	for i := 1; i+1 < len(s); i += 2 {
		if s[i] != s[i+1] {
			return false
		}
	}
	return true
}

func shortened(s string) string {
	out := []byte{'#'}
	for i := 1; i < len(s); i += 2 {
		out = append(out, s[i])
	}
	return string(out)
}

var number = regexp.MustCompile(`[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?`)

// length replaces a length by as much as the new value is more or less than the old: a drawing may be scaled, and what
// is written is in its own units.
func (s *site) length(v Value) []markup.Edit {
	old, fresh := firstLength(v.Old), firstLength(v.New)
	at := number.FindStringIndex(s.text)
	if old == 0 || at == nil || strings.ContainsAny(s.text, "(%") {
		return nil
	}
	written, err := strconv.ParseFloat(s.text[at[0]:at[1]], 64)
	if err != nil || written == 0 {
		return nil
	}
	unit := strings.ToLower(strings.TrimSpace(s.text[at[1]:]))
	if v.Kind == Spacing && unit == "em" || unit == "em" && v.Kind == Size { // of a size that may change with it
		return nil
	}
	with := css.Num(written*fresh/old, 4)
	if v.shifted {
		with = css.Num(max(0, written+fresh-old), 4)
	}
	return []markup.Edit{{From: s.at.From + at[0], To: s.at.From + at[1], With: with}}
}

// says reports whether a site has just the length that a fact has.
func (s *site) says(length string) bool {
	return math.Abs(firstLength(s.text)-firstLength(length)) < 0.001
}

// inFont replaces the size in a font shorthand.
func (s *site) inFont(v Value) []markup.Edit {
	for _, at := range number.FindAllStringIndex(s.text, -1) {
		if !strings.HasPrefix(s.text[at[1]:], "px") {
			continue
		}
		written, err := strconv.ParseFloat(s.text[at[0]:at[1]], 64)
		if err != nil || math.Abs(written-firstLength(v.Old)) > 0.01 {
			return nil
		}
		return []markup.Edit{{From: s.at.From + at[0], To: s.at.From + at[1], With: css.Num(firstLength(v.New), 4)}}
	}
	return nil
}

// family replaces a family in a list, with the quotation marks that stand there.
func (s *site) family(v Value) []markup.Edit {
	old := strings.Trim(v.Old, `"'`)
	i := strings.Index(strings.ToLower(s.text), strings.ToLower(old))
	if i < 0 {
		return nil
	}
	quoted := i > 0 && (s.text[i-1] == '"' || s.text[i-1] == '\'')
	with := strings.Trim(v.New, `"'`)
	if !quoted && strings.ContainsFunc(with, func(r rune) bool {
		return r != ' ' && r != '-' && (r < '0' || r > '9') && (r < 'a' || r > 'z') && (r < 'A' || r > 'Z')
	}) {
		return nil
	}
	return []markup.Edit{{From: s.at.From + i, To: s.at.From + i + len(old), With: with}}
}

// firstLength is the first number in a value; 0 for none.
func firstLength(s string) float64 {
	v, err := strconv.ParseFloat(number.FindString(s), 64)
	if err != nil {
		return 0
	}
	return v
}

// sameLengths reports whether two values differ only in how their numbers are rounded.
func sameLengths(a, b string) bool {
	x, y := number.FindAllString(a, -1), number.FindAllString(b, -1)
	if len(x) != len(y) || number.ReplaceAllString(a, "n") != number.ReplaceAllString(b, "n") {
		return false
	}
	for i := range x {
		p, err := strconv.ParseFloat(x[i], 64)
		q, other := strconv.ParseFloat(y[i], 64)
		if err != nil || other != nil || math.Abs(p-q) > 0.02 {
			return false
		}
	}
	return true
}
