package font

import (
	"strings"

	gofont "github.com/go-text/typesetting/font"
)

// generics are the families that browsers take for CSS's generic ones where a machine has them, the first there is.
// https://www.w3.org/TR/css-fonts-4/#generic-font-families
var generics = map[string][]string{
	"sans-serif": {"Arial", "Liberation Sans", "Arimo", "Helvetica", "Nimbus Sans", "Noto Sans", "DejaVu Sans"},
	"serif":      {"Times New Roman", "Liberation Serif", "Tinos", "Times", "Nimbus Roman", "Noto Serif", "DejaVu Serif"},
	"monospace":  {"Noto Sans Mono", "DejaVu Sans Mono", "Liberation Mono", "Courier New", "Menlo", "Consolas"},
	"system-ui":  {"Noto Sans", "DejaVu Sans", "Segoe UI", "Helvetica", "Liberation Sans"},
}

// Generic reports whether a family name is one of CSS's generic families, for which any font will do.
func Generic(family string) bool { return genericKind(family) != "" }

// genericKind is the key of generics for a generic family; "" for a name of a font.
func genericKind(family string) string {
	switch f := strings.ToLower(family); f {
	case "sans-serif", "serif", "monospace", "system-ui":
		return f
	case "ui-sans-serif", "-apple-system", "blinkmacsystemfont", "ui-rounded":
		return "system-ui"
	case "ui-monospace":
		return "monospace"
	case "ui-serif", "cursive", "fantasy", "math", "emoji":
		return "serif"
	}
	return ""
}

// alike are families whose letters are as wide as those of others, by the name of the others without spaces.
var alike = map[string][]string{
	"arial":         {"Liberation Sans", "Arimo"},
	"helvetica":     {"Liberation Sans", "Nimbus Sans", "Arimo"},
	"timesnewroman": {"Liberation Serif", "Tinos"},
	"times":         {"Liberation Serif", "Nimbus Roman", "Tinos"},
	"couriernew":    {"Liberation Mono", "Cousine"},
	"courier":       {"Liberation Mono", "Nimbus Mono PS", "Cousine"},
}

// styleWords are what the second half of a PostScript name is made of: weights as CSS counts them, and slants.
var styleWords = []struct {
	word   string
	weight int
	italic bool
}{
	{"extralight", 200, false}, {"ultralight", 200, false}, {"semibold", 600, false}, {"demibold", 600,
		false}, {"extrabold", 800, false},
	{"ultrabold", 800, false}, {"thin", 100, false}, {"hairline", 100, false}, {"light", 300, false}, {"regular", 400,
		false}, {"roman", 400, false},
	{"book", 400, false}, {"normal", 400, false}, {"medium", 500, false}, {"demi", 600, false}, {"bold", 700,
		false}, {"black", 900, false},
	{"heavy", 900, false}, {"italic", 0, true}, {"oblique", 0, true}, {"ital", 0, true}, {"it", 0, true}, {"obl", 0, true},
}

// postScript takes a PostScript name such as SourceSans3-SemiBoldIt apart; ok is false for what is none.
func postScript(name string) (family string, weight int, italic, ok bool) {
	if strings.ContainsRune(name, ' ') {
		return "", 0, false, false
	}
	family, style, _ := strings.Cut(name, "-")
	weight = 400
	rest := strings.TrimSuffix(strings.ToLower(style), "mt")
	for rest != "" {
		known := false
		for _, w := range styleWords {
			if after, has := strings.CutPrefix(rest, w.word); has {
				rest, known = after, true
				italic = italic || w.italic
				if w.weight > 0 {
					weight = w.weight
				}
				break
			}
		}
		if !known {
			return "", 0, false, false
		}
	}
	for _, end := range []string{"PSMT", "MT", "PS"} {
		if short, has := strings.CutSuffix(family, end); has && short != "" {
			family = short
			break
		}
	}
	return family, weight, italic, family != name && family != ""
}

// Named resolves a family that is given by the PostScript name of one of its faces, as some programs write it: to the
// family's own name, and the face's weight and slant where the text states none of its own (400, upright). Every other
// name stays as it is.
func (s *Set) Named(family string, weight int, italic bool) (string, int, bool) {
	base, w, slant, ok := postScript(family)
	if !ok || s.has(family, weight, italic) != nil {
		return family, weight, italic
	}
	if weight != 400 {
		w = weight
	}
	face := s.has(base, w, italic || slant)
	if face == nil {
		return family, weight, italic
	}
	return face.Family, w, italic || slant
}

// has is the face of a family by its own name, from the set or the machine; nil for none.
func (s *Set) has(family string, weight int, italic bool) *Face {
	if f := nearest(s.faces, family, weight, italic); f != nil || s.more == nil {
		return f
	}
	return s.find(family, weight, italic)
}

// standIn is the machine's face for a family that is not there: for a generic one as browsers choose it, for another
// one whose letters are as wide; nil for none.
func (s *Set) standIn(family string, weight int, italic bool) *Face {
	if s.more == nil {
		return nil
	}
	list := alike[gofont.NormalizeFamily(family)]
	if kind := genericKind(family); kind != "" {
		list = generics[kind]
	}
	for _, name := range list {
		if f := s.has(name, weight, italic); f != nil {
			return f
		}
	}
	return nil
}
