package emit

import (
	"strings"
	"unicode"

	"archetyp/core/css"
)

// Property is the custom property a token becomes: --prefix-color-sea-600.
func Property(path, prefix string) string {
	name := strings.ReplaceAll(path, ".$root", "")
	name = strings.ReplaceAll(name, ".", "-")
	if prefix != "" {
		name = prefix + "-" + name
	}
	return "--" + css.Ident("x" + strings.ReplaceAll(name, " ", "-"))[1:]
}

// Name is what a token is called in a language; "" where nothing is named there.
func Name(language, path, prefix string) string {
	switch language {
	case "css", "css-classes":
		return Property(path, prefix)
	case "scss":
		return "$" + Property(path, prefix)[2:]
	case "json", "ts":
		return path
	case "android":
		return snake(path, prefix)
	case "swift":
		return identifier(camel(path, prefix), swiftWords)
	case "kotlin":
		return identifier(camel(path, prefix), kotlinWords)
	}
	return ""
}

// words are the words of a path, in lower case: at dots, dashes, underscores, spaces and inner capitals.
func words(path string) []string {
	var out []string
	var word []rune
	flush := func() {
		if len(word) > 0 {
			out = append(out, strings.ToLower(string(word)))
		}
		word = nil
	}
	lower := false
	for _, r := range strings.ReplaceAll(path, ".$root", "") {
		switch {
		case !unicode.IsLetter(r) && !unicode.IsDigit(r):
			flush()
			lower = false
			continue
		case unicode.IsUpper(r) && lower:
			flush()
		}
		word = append(word, r)
		lower = !unicode.IsUpper(r)
	}
	flush()
	return out
}

// snake is color_sea_600.
func snake(path, prefix string) string { return strings.Join(words(join(prefix, path)), "_") }

// kebab is color-sea-600.
func kebab(path, prefix string) string { return strings.Join(words(join(prefix, path)), "-") }

// camel is colorSea600.
func camel(path, prefix string) string {
	var b strings.Builder
	for i, w := range words(join(prefix, path)) {
		if i > 0 {
			if w[0] >= '0' && w[0] <= '9' && b.Len() > 0 && unicode.IsDigit(rune(b.String()[b.Len()-1])) {
				b.WriteByte('_') // 1.5 and 15 stay apart
			}
			r := []rune(w)
			w = string(unicode.ToUpper(r[0])) + string(r[1:])
		}
		b.WriteString(w)
	}
	return b.String()
}

// pascal is ColorSea600.
func pascal(path, prefix string) string {
	r := []rune(camel(path, prefix))
	if len(r) == 0 {
		return ""
	}
	return string(unicode.ToUpper(r[0])) + string(r[1:])
}

// identifier makes a name that begins with a digit, or that a language keeps for itself, one that it takes.
func identifier(name string, reserved map[string]bool) string {
	if name == "" || name[0] >= '0' && name[0] <= '9' || reserved[name] {
		return "_" + name
	}
	return name
}

func join(prefix, path string) string {
	if prefix == "" {
		return path
	}
	return prefix + "." + path
}

func set(words string) map[string]bool {
	out := map[string]bool{}
	for _, w := range strings.Fields(words) {
		out[w] = true
	}
	return out
}
