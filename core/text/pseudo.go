package text

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

// Made-up locales show what breaks before there is a translator.
const (
	PseudoLong = "en-x-pseudo" // longer, accented, bracketed
	PseudoRTL  = "ar-x-pseudo" // from right to left
)

// Pseudo reports whether a locale is made up by the program.
func Pseudo(locale string) bool { return locale == PseudoLong || locale == PseudoRTL }

// Made is the message in a made-up locale; arguments and elements stay.
func Made(words, locale string) string {
	m, err := Parse(words)
	if err != nil {
		return words
	}
	if locale == PseudoRTL {
		out := m.mapped(mirror)
		return out.String()
	}
	letters := utf8.RuneCountInString(m.Words())
	out := m.mapped(func(s string) string { return strings.Map(accent, s) })
	pad := padding(int(float64(letters)*growth(letters) + 0.5))
	out = append(Message{{Kind: Literal, Text: "["}}, out...)
	return append(out, Part{Kind: Literal, Text: pad + "]"}).merged().String()
}

// growth is how much longer words of that many letters usually get when they are translated from English.
// https://www.w3.org/International/articles/article-text-size
func growth(letters int) float64 {
	switch {
	case letters <= 10:
		return 1.0
	case letters <= 20:
		return 0.8
	case letters <= 30:
		return 0.6
	case letters <= 50:
		return 0.4
	case letters <= 70:
		return 0.4
	}
	return 0.3
}

// padding is filler of so many letters, in words of usual length.
func padding(n int) string {
	const filler = " ōné ţwö ţĥŕéé ƒöûŕ ƒîvé šîx šévéñ éîĝĥţ ñîñé ţéñ"
	runes := []rune(filler)
	var b strings.Builder
	for i := 0; i < n; i++ {
		b.WriteRune(runes[i%len(runes)])
	}
	return strings.TrimRight(b.String(), " ")
}

func (m Message) mapped(change func(string) string) Message {
	out := append(Message(nil), m...)
	for i := range out {
		if out[i].Kind == Literal {
			out[i].Text = change(out[i].Text)
		}
		out[i].Cases = append([]Case(nil), out[i].Cases...)
		for j := range out[i].Cases {
			out[i].Cases[j].Message = out[i].Cases[j].Message.mapped(change)
		}
	}
	return out
}

// merged joins words that follow each other.
func (m Message) merged() Message {
	apart := false
	for i := 1; i < len(m); i++ {
		apart = apart || m[i].Kind == Literal && m[i-1].Kind == Literal
	}
	if !apart {
		return m
	}
	var out Message
	for _, p := range m {
		if k := len(out); k > 0 && p.Kind == Literal && out[k-1].Kind == Literal {
			out[k-1].Text += p.Text
			continue
		}
		out = append(out, p)
	}
	return out
}

const (
	plainLetters  = "AaCcDdEeGgHhIiJjLlNnOoRrSsTtUuWwYyZz"
	accentLetters = "ÅåÇçÐđÉéĜĝĤĥÎîĴĵĻļÑñÖöŔŕŠšŢţÛûŴŵÝýŽž"
)

var accented = func() map[rune]rune {
	out := map[rune]rune{}
	to := []rune(accentLetters)
	for i, r := range []rune(plainLetters) {
		out[r] = to[i]
	}
	return out
}()

func accent(r rune) rune {
	if a, ok := accented[r]; ok {
		return a
	}
	return r
}

// mirror makes words run from right to left: each is put between the marks that override the direction, and these
// between marks that keep them apart from numbers.
// https://www.unicode.org/reports/tr9/#Explicit_Directional_Overrides
func mirror(s string) string {
	var b strings.Builder
	inside := false
	for _, r := range s {
		word := !unicode.IsSpace(r)
		if word != inside {
			if word {
				b.WriteString("\u200f\u202e")
			} else {
				b.WriteString("\u202c\u200f")
			}
			inside = word
		}
		b.WriteRune(r)
	}
	if inside {
		b.WriteString("\u202c\u200f")
	}
	return b.String()
}
