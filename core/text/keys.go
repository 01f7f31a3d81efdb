package text

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"
)

// NoKeys is the key pattern that makes no keys: only texts that have one are collected.
const NoKeys = "none"

// keyWords is how many words of a text go into its key.
const keyWords = 4

var keyParts = []string{"screen", "component", "name", "words", "n"}

// Cases are the ways to join the words of a key's part.
var Cases = []string{"kebab", "snake", "camel", "dots"}

// Respell spells keys another way, by the key as it is: their words joined as a style says. Of keys that come out as
// one, the later are numbered.
func Respell(keys []string, style string) map[string]string {
	out, taken := make(map[string]string, len(keys)), map[string]bool{}
	for _, k := range keys {
		name := k
		if style != "" {
			name = joinWords(keyWordsOf(k), style)
		}
		free := name
		for i := 2; taken[free]; i++ {
			free = joinWords(append(keyWordsOf(name), strconv.Itoa(i)), style)
		}
		taken[free], out[k] = true, free
	}
	return out
}

// keyWordsOf are the words of a key, which dots, hyphens, underscores and capitals part.
func keyWordsOf(key string) (out []string) {
	begin := 0
	put := func(to int) {
		if to > begin {
			out = append(out, strings.ToLower(key[begin:to]))
		}
	}
	before := rune(0)
	for i, r := range key {
		switch {
		case r == '.' || r == '-' || r == '_':
			put(i)
			begin = i + 1
		case unicode.IsUpper(r) && unicode.IsLower(before):
			put(i)
			begin = i
		}
		before = r
	}
	put(len(key))
	return out
}

func joinWords(words []string, style string) string {
	if style != "camel" {
		return strings.Join(words, map[string]string{"snake": "_", "dots": ".", "kebab": "-"}[style])
	}
	var b strings.Builder
	for i, w := range words {
		r, n := utf8.DecodeRuneInString(w)
		if i > 0 {
			r = unicode.ToUpper(r)
		}
		b.WriteRune(r)
		b.WriteString(w[n:])
	}
	return b.String()
}

// CheckPattern reports whether a key pattern can be followed.
func CheckPattern(pattern string) error {
	if pattern == NoKeys {
		return nil
	}
	rest := pattern
	for {
		i := strings.IndexByte(rest, '{')
		if i < 0 {
			break
		}
		end := strings.IndexByte(rest[i:], '}')
		if end < 0 {
			return fmt.Errorf("the key pattern %q has a { without a }", pattern)
		}
		if name := rest[i+1 : i+end]; !slices.Contains(keyParts, name) {
			return fmt.Errorf("the key pattern %q has {%s}; {%s} are known", pattern, name, strings.Join(keyParts, "}, {"))
		}
		rest = rest[i+end+1:]
	}
	if !strings.Contains(pattern, "{") {
		return fmt.Errorf("the key pattern %q has no part that differs, such as {words}", pattern)
	}
	return nil
}

// makeKey follows a pattern. A part that is empty takes its separator with it.
func makeKey(pattern, style string, values map[string]string) string {
	var b strings.Builder
	pending := ""
	for rest := pattern; rest != ""; {
		i := strings.IndexByte(rest, '{')
		if i < 0 {
			b.WriteString(rest)
			break
		}
		j := strings.IndexByte(rest[i:], '}') + i
		if i > 0 && strings.Trim(pending, ".-_/ ") == "" {
			pending = rest[:i]
		}
		if v := inCase(values[rest[i+1:j]], style); v != "" {
			if b.Len() > 0 || strings.Trim(pending, ".-_/ ") != "" {
				b.WriteString(pending)
			}
			b.WriteString(v)
			pending = ""
		}
		rest = rest[j+1:]
	}
	if b.Len() == 0 {
		return "text"
	}
	return b.String()
}

// inCase is the first words of a text, in small letters, joined as the case style says.
func inCase(s, style string) string {
	var words []string
	for _, w := range strings.FieldsFunc(strings.ToLower(s), func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r) && !unicode.Is(unicode.M, r)
	}) {
		if len(words) == keyWords {
			break
		}
		words = append(words, w)
	}
	switch style {
	case "snake":
		return strings.Join(words, "_")
	case "dots":
		return strings.Join(words, ".")
	case "camel":
		for i, w := range words {
			if i > 0 {
				r := []rune(w)
				r[0] = unicode.ToUpper(r[0])
				words[i] = string(r)
			}
		}
		return strings.Join(words, "")
	}
	return strings.Join(words, "-")
}

// free is a key that is not taken: the key itself, else numbered.
func free(key, style string, taken func(string) bool) string {
	out := key
	join := map[string]string{"snake": "_", "camel": "", "dots": "."}[style]
	if join == "" && style != "camel" {
		join = "-"
	}
	for i := 2; taken(out); i++ {
		out = key + join + strconv.Itoa(i)
	}
	return out
}

// keyShape is a pattern as a regular expression that the keys it makes follow.
func keyShape(pattern, style string) *regexp.Regexp {
	if pattern == NoKeys {
		return regexp.MustCompile(``)
	}
	word := map[string]string{"snake": `[\p{L}\p{M}\d]+(?:_[\p{L}\p{M}\d]+)*`, "camel": `[\p{L}\p{M}\d]+`,
		"dots": `[\p{L}\p{M}\d]+(?:\.[\p{L}\p{M}\d]+)*`}[style]
	if word == "" {
		word = `[\p{L}\p{M}\d]+(?:-[\p{L}\p{M}\d]+)*`
	}
	var b strings.Builder
	b.WriteString("^")
	sep := ""
	for rest := pattern; rest != ""; {
		i := strings.IndexByte(rest, '{')
		if i < 0 {
			b.WriteString(regexp.QuoteMeta(rest))
			break
		}
		if i > 0 {
			sep = rest[:i]
		}
		j := strings.IndexByte(rest[i:], '}') + i
		b.WriteString("(?:(?:" + regexp.QuoteMeta(sep) + ")?" + word + ")?")
		sep = ""
		rest = rest[j+1:]
	}
	b.WriteString(`(?:[-_.]?\d+)?$`)
	return regexp.MustCompile(b.String())
}
