package emit

import (
	"regexp"
	"strings"
	"unicode"

	"archetyp/core/css"
)

// Property is the custom property a token becomes: --prefix-color-sea-600.
func Property(path, prefix string) string {
	path = strings.TrimSuffix(path, ".$root")
	plain := true
	for i := 0; i < len(path) && plain; i++ {
		c := path[i]
		plain = c >= 'a' && c <= 'z' || c >= '0' && c <= '9' || c >= 'A' && c <= 'Z' || c == '.' || c == '-' || c == '_'
	}
	if plain && prefix == "" {
		return "--" + strings.ReplaceAll(path, ".", "-")
	}
	name := strings.ReplaceAll(strings.ReplaceAll(path, ".$root", ""), ".", "-")
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
	path = strings.ReplaceAll(path, ".$root", "")
	out := make([]string, 0, 6)
	from, lower := -1, false
	end := func(i int) {
		if from >= 0 {
			out = append(out, strings.ToLower(path[from:i]))
		}
		from = -1
	}
	for i, r := range path {
		switch {
		case !unicode.IsLetter(r) && !unicode.IsDigit(r):
			end(i)
			lower = false
			continue
		case unicode.IsUpper(r) && lower:
			end(i)
		}
		if from < 0 {
			from = i
		}
		lower = !unicode.IsUpper(r)
	}
	end(len(path))
	return out
}

// snake is color_sea_600.
func snake(path, prefix string) string { return strings.Join(words(join(prefix, path)), "_") }

// kebab is color-sea-600.
func kebab(path, prefix string) string { return strings.Join(words(join(prefix, path)), "-") }

// camel is colorSea600. Numbers that follow each other stay apart.
func camel(path, prefix string) string {
	var b strings.Builder
	digit := false
	for i, w := range words(join(prefix, path)) {
		if digit && w[0] >= '0' && w[0] <= '9' {
			b.WriteByte('_')
		}
		if c := w[0]; i > 0 && c >= 'a' && c <= 'z' {
			b.WriteByte(c - 'a' + 'A')
			b.WriteString(w[1:])
		} else if r := []rune(w); i > 0 && c >= 0x80 {
			b.WriteString(string(unicode.ToUpper(r[0])) + string(r[1:]))
		} else {
			b.WriteString(w)
		}
		digit = w[len(w)-1] >= '0' && w[len(w)-1] <= '9'
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

var kotlinPackage = regexp.MustCompile(`^[A-Za-z_][A-Za-z0-9_]*(\.[A-Za-z_][A-Za-z0-9_]*)*$`)

// KotlinPackage reports whether a name can be a package of Kotlin: words joined with dots, none of them a keyword.
func KotlinPackage(name string) bool {
	if !kotlinPackage.MatchString(name) {
		return false
	}
	for _, word := range strings.Split(name, ".") {
		if kotlinWords[word] {
			return false
		}
	}
	return true
}
