package asset

import (
	"fmt"
	"maps"
	"path"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"archetyp/core/css"
	"archetyp/core/escape"
	"archetyp/core/markup"
)

// Names are the names assets have in the files of a set, by their own; and what was changed about them.
type Names map[string]string

// Fit makes names fit for a set, each different from all others whatever their case; changed tells what was changed
// beyond the form that the target asks of every name. The same names always give the same result.
func (s *Set) Fit(names []string) (fitted Names, changed []string) {
	fitted, why := s.FitEach(names)
	for _, n := range slices.Sorted(maps.Keys(fitted)) {
		if why[n] != "" {
			changed = append(changed, why[n])
		}
	}
	return fitted, changed
}

// FitEach is Fit with the reason for each name that is changed.
func (s *Set) FitEach(names []string) (fitted Names, changed map[string]string) {
	fitted, changed = Names{}, map[string]string{}
	taken := map[string]string{}
	sorted := slices.Clone(names)
	slices.Sort(sorted)
	for _, n := range slices.Compact(sorted) {
		named := s.fitName(n)
		fit := escape.FilePath(named)
		say := func(format string, args ...any) {
			if changed[n] != "" {
				changed[n] += "; "
			}
			changed[n] += fmt.Sprintf(format, args...)
		}
		if fit != named {
			say("%s is called %s in the set %s: some systems can give no file that name", markup.Clip(n), markup.Clip(fit), s.Name)
		}
		if s.Kind == "android" && javaWords[fit] {
			fit += "_"
			say("%s is called %s in the set %s: the word alone is none that can name a resource", n, fit, s.Name)
		}
		one := fit
		for i := 2; taken[strings.ToLower(one)] != ""; i++ {
			one = fit + s.joint() + strconv.Itoa(i)
		}
		if one != fit {
			say("%s is called %s in the set %s: %s has that name", n, one, s.Name, taken[strings.ToLower(fit)])
		} else if fit == named && !strings.EqualFold(joints.Replace(fit), joints.Replace(n)) {
			say("%s is called %s in the set %s", n, fit, s.Name)
		}
		taken[strings.ToLower(one)] = n
		fitted[n] = one
	}
	return fitted, changed
}

// joints takes out what joins words.
var joints = strings.NewReplacer("/", "", "-", "", "_", "", " ", "")

func (s *Set) joint() string {
	if s.Kind == "android" {
		return "_"
	}
	return "-"
}

// fitName brings a name into the form a target asks for.
func (s *Set) fitName(n string) string {
	switch s.Kind {
	case "android": // a-z, 0-9 and _, not beginning with a number
		out := strings.Trim(words(strings.ToLower(n), '_', func(r rune) bool {
			return r >= 'a' && r <= 'z' || r >= '0' &&
				r <= '9'
		}), "_")
		if out == "" || out[0] >= '0' && out[0] <= '9' {
			out = "i_" + out
		}
		return strings.TrimRight(out, "_")
	case "web": // no letter that an address must escape
		var parts []string
		for _, p := range strings.Split(n, "/") {
			p = strings.Trim(words(p, '-', func(r rune) bool {
				return r < 0x80 && (unicode.IsLetter(r) || unicode.IsDigit(r)) || r == '_' || r == '.'
			}), "-.")
			if p == "" {
				p = "x"
			}
			parts = append(parts, p)
		}
		return strings.Join(parts, "/")
	}
	return n
}

// words joins the stretches of letters that are allowed.
func words(s string, joint rune, ok func(rune) bool) string {
	var b strings.Builder
	gap := false
	for _, r := range s {
		if plain, is := plainLetters[r]; is {
			b.WriteString(plain)
			gap = false
			continue
		}
		if ok(r) {
			if gap && b.Len() > 0 {
				b.WriteRune(joint)
			}
			b.WriteRune(r)
			gap = false
		} else {
			gap = true
		}
	}
	return b.String()
}

// plainLetters are common letters beyond ASCII as they are written without them.
var plainLetters = map[rune]string{'ä': "ae", 'ö': "oe", 'ü': "ue", 'ß': "ss", 'é': "e", 'è': "e", 'ê': "e", 'à': "a",
	'á': "a", 'å': "a",
	'ç': "c", 'ñ': "n", 'ø': "o", 'ó': "o", 'í': "i", 'ú': "u", 'ł': "l", 'Ä': "Ae", 'Ö': "Oe", 'Ü': "Ue"}

// javaWords cannot name a resource: they are words of the language it is used from.
var javaWords = func() map[string]bool {
	m := map[string]bool{}
	for _, w := range strings.Fields(`abstract assert boolean break byte case catch char class const continue default do double else enum
		extends final finally float for goto if implements import instanceof int interface long native new package private protected
		public return short static strictfp super switch synchronized this throw throws transient try void volatile while true false null`) {
		m[w] = true
	}
	return m
}()

// placeholders of file patterns.
var placeholders = []string{"name", "file", "folder", "density", "x", "dpi", "format", "width", "height"}

func checkPattern(p string) error {
	for rest := p; ; {
		_, after, ok := strings.Cut(rest, "{")
		if !ok {
			break
		}
		word, behind, ok := strings.Cut(after, "}")
		if !ok || !slices.Contains(placeholders, word) {
			return fmt.Errorf("the pattern %q has the unknown placeholder {%s; there are {%s}", p, markup.Clip(after),
				strings.Join(placeholders, "}, {"))
		}
		rest = behind
	}
	if !ValidName(path.Clean(p)) {
		return fmt.Errorf("the pattern %q leads out of the folder of assets", p)
	}
	return nil
}

// place is a file's path below the folder of assets.
func (s *Set) place(name, format string, density float64, width, height int) string {
	x := ""
	if density != 1 && density != 0 {
		x = "@" + num(density) + "x"
	}
	folder, file := path.Split(name)
	p := strings.NewReplacer("{name}", name, "{file}", file, "{folder}", strings.TrimSuffix(folder, "/"), "{density}",
		num(density), "{x}", x,
		"{dpi}", s.dpi(density), "{format}", formats[format].extension, "{width}", strconv.Itoa(width), "{height}", strconv.Itoa(height)).Replace(s.Files)
	return path.Join(s.To, p)
}

// dpi is what Android calls a density; a vector drawable is for any, from the version on that knows gradients in them.
func (s *Set) dpi(density float64) string {
	if density == 0 {
		return "anydpi-v24"
	}
	if d := dpis[density]; d != "" {
		return d
	}
	return num(density*160) + "dpi"
}

func num(v float64) string { return css.Num(v, 4) }
