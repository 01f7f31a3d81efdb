package edits

import (
	"fmt"
	"math/rand/v2"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/styletext"
)

// SiteChange is a change to a file of a site that shows, and where it is.
type SiteChange struct {
	What     string // value, variable, removed, added, words, picture, order
	File     string
	Line     int    // of the declaration or markup that changed; of a removed one, of its rule
	Property string // as declared; a custom property for a variable
	Was, Is  string
	Dark     bool // it stands in what is for the dark scheme
}

func (c SiteChange) String() string {
	return fmt.Sprintf("%s: %s:%d %s %q → %q", c.What, c.File, c.Line, c.Property, c.Was, c.Is)
}

// Site are the files of the demo's site by name.
func Site(files map[string][]byte) map[string]string {
	out := map[string]string{}
	for name, data := range files {
		if strings.HasPrefix(name, "site/") {
			out[name] = string(data)
		}
	}
	return out
}

func lineAt(text string, offset int) int { return strings.Count(text[:offset], "\n") + 1 }

func named(files map[string]string, ending string) (out []string) {
	for name := range files {
		if strings.HasSuffix(name, ending) {
			out = append(out, name)
		}
	}
	slices.Sort(out)
	return out
}

// ChangeSite changes one thing of a site, half of the values through a variable where there are any. ok is false where
// what was picked cannot be changed.
func ChangeSite(r *rand.Rand, files map[string]string) (c SiteChange, ok bool) {
	switch k := r.IntN(20); {
	case k < 8:
		return changeValue(r, files, true)
	case k < 14:
		return changeValue(r, files, false)
	case k < 15:
		return removeDeclaration(r, files)
	case k < 16:
		return addDeclaration(r, files)
	case k < 18:
		return changeWords(r, files)
	case k < 19:
		return changePicture(r, files)
	}
	return changeOrder(r, files)
}

var (
	hex    = regexp.MustCompile(`#[0-9a-fA-F]{6}\b|#[0-9a-fA-F]{3}\b`)
	length = regexp.MustCompile(`(?:^|[\s(,/])(-?[0-9]*\.?[0-9]+)(px|r?em|ms|s|%|deg)?\b`)
	rgb    = regexp.MustCompile(`rgb\(([0-9]+) `)
)

// keywords are other words that a property takes.
var keywords = map[string][]string{
	"display": {"block", "flex", "grid", "inline-block", "none"}, "position": {"static", "relative"}, "flex-direction": {"row", "column"},
	"align-items": {"start", "center", "end", "stretch"}, "justify-content": {"center", "space-between", "start", "end"}, "justify-self": {"start", "center", "end"},
	"text-align": {"center", "right"}, "text-transform": {"uppercase", "capitalize"}, "overflow": {"hidden", "visible"}, "cursor": {"pointer", "default"},
}

// other is another value for a property.
func other(r *rand.Rand, property, value string) (string, bool) {
	if list := keywords[property]; list != nil {
		if w := list[r.IntN(len(list))]; w != strings.TrimSpace(value) {
			return w, true
		}
		return "", false
	}
	if m := hex.FindStringIndex(value); m != nil {
		was := value[m[0]:m[1]]
		digits := []byte(was)
		at := 1
		if len(was) == 7 {
			at = 1 + 2*r.IntN(3)
		} else {
			at = 1 + r.IntN(3)
		}
		d, _ := strconv.ParseInt(string(digits[at]), 16, 8)
		d = (d + 2 + int64(r.IntN(12))) % 16
		digits[at] = "0123456789abcdef"[d]
		return value[:m[0]] + string(digits) + value[m[1]:], true
	}
	if m := rgb.FindStringSubmatchIndex(value); m != nil && r.IntN(2) == 0 {
		n, _ := strconv.Atoi(value[m[2]:m[3]])
		return value[:m[2]] + strconv.Itoa((n+40)%256) + value[m[3]:], true
	}
	list := length.FindAllStringSubmatchIndex(value, -1)
	if len(list) == 0 {
		return "", false
	}
	m := list[r.IntN(len(list))]
	n, err := strconv.ParseFloat(value[m[2]:m[3]], 64)
	if err != nil {
		return "", false
	}
	unit := ""
	if m[4] >= 0 {
		unit = value[m[4]:m[5]]
	}
	step := 1 + float64(r.IntN(6))
	switch {
	case property == "opacity" || property == "line-height" && unit == "" || unit == "em" || unit == "rem" || unit == "s":
		step = 0.1 + 0.1*float64(r.IntN(3))
	case property == "font-weight" && unit == "":
		step = 100
	case unit == "" && n == 0:
		unit = "px"
	case unit == "" && strings.HasPrefix(property, "font") && n < 4: // the line height in a shorthand
		step = 0.1
	case unit == "" && n >= 100 && strings.HasPrefix(property, "font"):
		step = 100
	case unit == "" && n < 1:
		step = 0.05
	}
	is := n + step
	if property == "opacity" && is > 1 {
		is = n - step
	}
	return value[:m[2]] + strconv.FormatFloat(is, 'f', -1, 64) + unit + value[max(m[5], m[3]):], true
}

// changeValue changes the value of a declaration, or of a custom property.
func changeValue(r *rand.Rand, files map[string]string, variable bool) (c SiteChange, ok bool) {
	sheets := named(files, ".css")
	file := sheets[r.IntN(len(sheets))]
	text := files[file]
	code := styletext.Read(text, styletext.CSS)
	d := code.Decls[r.IntN(len(code.Decls))]
	if strings.HasPrefix(d.Property, "--") != variable || d.Rule < 0 || strings.HasPrefix(strings.TrimSpace(text[max(0, d.From-40):d.From]), "@font-face") || d.Property == "src" {
		return c, false
	}
	is, ok := other(r, d.Property, d.Value)
	if !ok {
		return c, false
	}
	c = SiteChange{What: "value", File: file, Line: lineAt(text, d.From), Property: d.Property, Was: d.Value, Is: is}
	if variable {
		c.What = "variable"
	}
	for up := d.Rule; up >= 0; up = code.Rules[up].Parent {
		c.Dark = c.Dark || strings.Contains(code.Rules[up].Selector, "dark")
	}
	files[file] = text[:d.ValueAt] + is + text[d.ValueAt+len(d.Value):]
	return c, true
}

func removeDeclaration(r *rand.Rand, files map[string]string) (c SiteChange, ok bool) {
	sheets := named(files, ".css")
	file := sheets[r.IntN(len(sheets))]
	text := files[file]
	code := styletext.Read(text, styletext.CSS)
	d := code.Decls[r.IntN(len(code.Decls))]
	if strings.HasPrefix(d.Property, "--") || d.Rule < 0 || d.End <= d.From || d.End > len(text) || text[d.End-1] != ';' {
		return c, false
	}
	files[file] = text[:d.From] + text[d.End:]
	from := strings.LastIndexAny(text[:d.From], "{")
	return SiteChange{What: "removed", File: file, Line: lineAt(text, from), Property: d.Property, Was: d.Value}, true
}

func addDeclaration(r *rand.Rand, files map[string]string) (c SiteChange, ok bool) {
	sheets := named(files, ".css")
	file := sheets[r.IntN(len(sheets))]
	text := files[file]
	code := styletext.Read(text, styletext.CSS)
	d := code.Decls[r.IntN(len(code.Decls))]
	if strings.HasPrefix(d.Property, "--") || d.Rule < 0 || d.End > len(text) || d.End == 0 || text[d.End-1] != ';' {
		return c, false
	}
	add := [][2]string{{"letter-spacing", "1.5px"}, {"text-transform", "uppercase"}, {"opacity", "0.7"}, {"text-indent", "9px"}, {"filter", "blur(1px)"}}[r.IntN(5)]
	end := strings.IndexByte(text[d.End:], '}') + d.End
	if strings.Contains(text[strings.LastIndexByte(text[:d.From], '{'):end], add[0]) {
		return c, false
	}
	files[file] = text[:d.End] + " " + add[0] + ": " + add[1] + ";" + text[d.End:]
	return SiteChange{What: "added", File: file, Line: lineAt(text, d.End), Property: add[0], Is: add[1]}, true
}

var between = regexp.MustCompile(`>([^<>{}]*[A-Za-z][^<>{}]*)<`)

func changeWords(r *rand.Rand, files map[string]string) (c SiteChange, ok bool) {
	pages := named(files, ".html")
	file := pages[r.IntN(len(pages))]
	text := files[file]
	list := between.FindAllStringSubmatchIndex(text, -1)
	m := list[r.IntN(len(list))]
	words := text[m[2]:m[3]]
	start := len(words) - len(strings.TrimLeft(words, " \n\t"))
	is := words[:start] + []string{"Very ", "Not ", "Our "}[r.IntN(3)] + words[start:]
	files[file] = text[:m[2]] + is + text[m[3]:]
	return SiteChange{What: "words", File: file, Line: lineAt(text, m[2]+start), Was: strings.TrimSpace(words), Is: strings.TrimSpace(is)}, true
}

var shape = regexp.MustCompile(` (d|fill|rx|width|height|x|y)="([^"]*)"`)

func changePicture(r *rand.Rand, files map[string]string) (c SiteChange, ok bool) {
	pages := named(files, ".html")
	file := pages[r.IntN(len(pages))]
	text := files[file]
	at := strings.Index(text, "<svg")
	if at < 0 {
		return c, false
	}
	end := strings.Index(text, "</svg>")
	list := shape.FindAllStringSubmatchIndex(text[at:end], -1)
	m := list[r.IntN(len(list))]
	name, value := text[at+m[2]:at+m[3]], text[at+m[4]:at+m[5]]
	is := "#123456"
	if name == "d" {
		is = strings.Replace(value, "4", "5", 1)
	} else if name != "fill" {
		is = value + "1"
	}
	if is == value {
		return c, false
	}
	files[file] = text[:at+m[4]] + is + text[at+m[5]:]
	return SiteChange{What: "picture", File: file, Line: lineAt(text, at+m[2]), Property: name, Was: value, Is: is}, true
}

// changeOrder swaps two lines that stand next to each other and are elements of their own, and differ.
func changeOrder(r *rand.Rand, files map[string]string) (c SiteChange, ok bool) {
	pages := named(files, ".html")
	file := pages[r.IntN(len(pages))]
	lines := strings.Split(files[file], "\n")
	i := r.IntN(len(lines) - 1)
	whole := func(s string) bool {
		s = strings.TrimSpace(s)
		return strings.HasPrefix(s, "<") && strings.HasSuffix(s, ">") && !strings.HasPrefix(s, "</") && strings.Count(s, "<")-2*strings.Count(s, "</")-strings.Count(s, "<br>")-strings.Count(s, "<input") == 0 &&
			!strings.Contains(s, "<link") && !strings.Contains(s, "<meta") && !strings.Contains(s, "<title") && !strings.Contains(s, "<html")
	}
	if !whole(lines[i]) || !whole(lines[i+1]) || strings.TrimSpace(lines[i]) == strings.TrimSpace(lines[i+1]) {
		return c, false
	}
	lines[i], lines[i+1] = lines[i+1], lines[i]
	files[file] = strings.Join(lines, "\n")
	return SiteChange{What: "order", File: file, Line: i + 1, Was: strings.TrimSpace(lines[i+1]), Is: strings.TrimSpace(lines[i])}, true
}

// SameSite changes the files of a site so that nothing looks other than before, and says how.
func SameSite(r *rand.Rand, files map[string]string) (what string, ok bool) {
	switch r.IntN(7) {
	case 0:
		return renameClass(r, files)
	case 1:
		return otherUnit(r, files)
	case 2:
		return splitSheet(r, files)
	case 3:
		return wrapLine(r, files)
	case 4:
		return longhands(r, files)
	case 5:
		return swapRules(r, files)
	}
	return otherNotation(r, files)
}

var classAttr = regexp.MustCompile(`class="([^"]*)"`)

func renameClass(r *rand.Rand, files map[string]string) (string, bool) {
	pages := named(files, ".html")
	var all []string
	for _, p := range pages {
		for _, m := range classAttr.FindAllStringSubmatch(files[p], -1) {
			for _, c := range strings.Fields(m[1]) {
				if !slices.Contains(all, c) {
					all = append(all, c)
				}
			}
		}
	}
	was := all[r.IntN(len(all))]
	is := "c" + strconv.Itoa(r.IntN(1e6))
	whole := regexp.MustCompile(`\.` + regexp.QuoteMeta(was) + `([^-\w]|$)`)
	for _, p := range pages {
		files[p] = classAttr.ReplaceAllStringFunc(files[p], func(m string) string {
			list := strings.Fields(m[len(`class="`) : len(m)-1])
			for i := range list {
				if list[i] == was {
					list[i] = is
				}
			}
			return `class="` + strings.Join(list, " ") + `"`
		})
	}
	for _, s := range named(files, ".css") {
		files[s] = whole.ReplaceAllString(files[s], "."+is+"${1}")
	}
	return "class " + was + " is called " + is, true
}

func declared(r *rand.Rand, files map[string]string, fits func(styletext.Decl) bool) (file string, d styletext.Decl, ok bool) {
	sheets := named(files, ".css")
	file = sheets[r.IntN(len(sheets))]
	code := styletext.Read(files[file], styletext.CSS)
	d = code.Decls[r.IntN(len(code.Decls))]
	return file, d, d.Rule >= 0 && d.Property != "src" && fits(d)
}

var px = regexp.MustCompile(`(^|[\s(,])([0-9]+)px`)

func otherUnit(r *rand.Rand, files map[string]string) (string, bool) {
	file, d, ok := declared(r, files, func(d styletext.Decl) bool { return px.MatchString(d.Value) })
	if !ok {
		return "", false
	}
	is := px.ReplaceAllStringFunc(d.Value, func(m string) string {
		s := px.FindStringSubmatch(m)
		n, _ := strconv.ParseFloat(s[2], 64)
		return s[1] + strconv.FormatFloat(n/16, 'f', -1, 64) + "rem"
	})
	text := files[file]
	files[file] = text[:d.ValueAt] + is + text[d.ValueAt+len(d.Value):]
	return d.Property + ": " + d.Value + " → " + is, true
}

func otherNotation(r *rand.Rand, files map[string]string) (string, bool) {
	file, d, ok := declared(r, files, func(d styletext.Decl) bool { return hex.MatchString(d.Value) })
	if !ok {
		return "", false
	}
	is := hex.ReplaceAllStringFunc(d.Value, func(h string) string {
		if len(h) != 7 {
			return h
		}
		v, _ := strconv.ParseUint(h[1:], 16, 32)
		return fmt.Sprintf("rgb(%d, %d, %d)", v>>16, v>>8&255, v&255)
	})
	text := files[file]
	files[file] = text[:d.ValueAt] + is + text[d.ValueAt+len(d.Value):]
	return d.Property + ": " + d.Value + " → " + is, true
}

func splitSheet(r *rand.Rand, files map[string]string) (string, bool) {
	sheet := "site/css/site.css"
	text := files[sheet]
	var ends []int
	depth := 0
	for i, c := range text {
		switch c {
		case '{':
			depth++
		case '}':
			if depth--; depth == 0 {
				ends = append(ends, i+1)
			}
		}
	}
	if len(ends) < 8 {
		return "", false
	}
	at := ends[4+r.IntN(len(ends)-5)]
	files["site/css/more.css"] = text[at:]
	files[sheet] = text[:at] + "\n"
	for _, p := range named(files, ".html") {
		files[p] = strings.Replace(files[p], `<link rel="stylesheet" href="css/site.css">`, "<link rel=\"stylesheet\" href=\"css/site.css\">\n<link rel=\"stylesheet\" href=\"css/more.css\">", 1)
	}
	return "the sheet is in two files", true
}

// wrapLine puts a box without any style around an element of the main part.
func wrapLine(r *rand.Rand, files map[string]string) (string, bool) {
	pages := named(files, ".html")
	file := pages[r.IntN(len(pages))]
	lines := strings.Split(files[file], "\n")
	i := r.IntN(len(lines))
	l := strings.TrimSpace(lines[i])
	if !strings.HasPrefix(l, "<p") && !strings.HasPrefix(l, "<h2") || !strings.HasSuffix(l, "</p>") && !strings.HasSuffix(l, "</h2>") || !strings.HasPrefix(lines[i], "      <") && !strings.HasPrefix(lines[i], "  <p class=\"notice\"") {
		return "", false
	}
	if strings.Contains(l, `id="hint"`) { // its container is a grid, where a box more is a row more
		return "", false
	}
	lines[i] = "<div>" + lines[i] + "</div>"
	files[file] = strings.Join(lines, "\n")
	return "a box around " + l, true
}

func longhands(r *rand.Rand, files map[string]string) (string, bool) {
	file, d, ok := declared(r, files, func(d styletext.Decl) bool {
		return (d.Property == "padding" || d.Property == "margin") && !strings.Contains(d.Value, "calc")
	})
	if !ok {
		return "", false
	}
	v := strings.Fields(d.Value)
	side := func(i int) string {
		switch {
		case i < len(v):
			return v[i]
		case i == 3 && len(v) > 1:
			return v[1]
		}
		return v[0]
	}
	is := fmt.Sprintf("%[1]s-top: %[2]s; %[1]s-right: %[3]s; %[1]s-bottom: %[4]s; %[1]s-left: %[5]s", d.Property, side(0), side(1), side(2), side(3))
	text := files[file]
	files[file] = text[:d.From] + is + text[d.ValueAt+len(d.Value):]
	return d.Property + ": " + d.Value + " in four", true
}

// swapRules puts two rules of one class each in the other order that declare nothing in common.
func swapRules(r *rand.Rand, files map[string]string) (string, bool) {
	sheet := "site/css/site.css"
	lines := strings.Split(files[sheet], "\n")
	one := regexp.MustCompile(`^\.[\w-]+ \{ [^{}]* \}$`)
	i := r.IntN(len(lines) - 1)
	if !one.MatchString(lines[i]) || !one.MatchString(lines[i+1]) {
		return "", false
	}
	lines[i], lines[i+1] = lines[i+1], lines[i]
	files[sheet] = strings.Join(lines, "\n")
	return "rules swapped: " + lines[i], true
}

// ShowsNothing reports whether a change of a value shows nowhere: a border or outline of no style, a custom property of
// a radius that is as round as it can be.
func ShowsNothing(c SiteChange) bool {
	return (c.Property == "border" || c.Property == "outline") && strings.TrimSpace(c.Was) == "0"
}

// Drawn reports whether a change is one of what drawings state: a colour, a size of type or a corner, in the light scheme.
func Drawn(c SiteChange) bool {
	if c.What != "value" && c.What != "variable" || c.Dark || c.Property == "--color-bad" { // which nothing uses
		return false
	}
	switch {
	case strings.HasPrefix(c.Property, "--color"), c.Property == "color", c.Property == "border-radius", c.Property == "font-size":
		return true
	}
	return false
}
