package text

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"archetyp/core/text/message"
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
	m, err := message.Parse(words)
	if err != nil {
		return words
	}
	if locale == PseudoRTL {
		out := mapped(m, mirror)
		return out.String()
	}
	letters := utf8.RuneCountInString(m.Words())
	out := mapped(m, func(s string) string { return strings.Map(accent, s) })
	pad := padding(int(float64(letters)*growth(letters) + 0.5))
	out = append(message.Message{{Kind: message.Literal, Text: "["}}, out...)
	return append(out, message.Part{Kind: message.Literal, Text: pad + "]"}).Merged().String()
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

func mapped(m message.Message, change func(string) string) message.Message {
	out := append(message.Message(nil), m...)
	for i := range out {
		if out[i].Kind == message.Literal {
			out[i].Text = change(out[i].Text)
		}
		out[i].Cases = append([]message.Case(nil), out[i].Cases...)
		for j := range out[i].Cases {
			out[i].Cases[j].Message = mapped(out[i].Cases[j].Message, change)
		}
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
