package asset

import (
	"fmt"
	"slices"
	"sort"
	"strings"

	"archetyp/core/color"
)

// Set is what one target wants of an asset: which formats in which densities, under which names.
type Set struct {
	Name    string
	Kind    string    // web, android, ios or favicon; "" for the team's own
	To      string    // the folder, from that of all assets
	At      []float64 // densities
	Formats []string  // in the order of preference
	// the pattern of paths, with {name}, {file}, {folder}, {density}, {x}, {dpi}, {format}, {width}, {height}
	Files      string
	Quality    int          // of JPEG, 1–100
	Background *color.Color // nil: transparent, where the format can be
	Current    bool         // the one colour of a drawing becomes currentColor in SVG
	Only       bool         // for assets that name this set alone
}

// format is a form a picture is written in.
type format struct {
	extension string
	media     string // its media type
	pixels    bool   // one file a density
}

var formats = map[string]format{
	"svg":    {"svg", "image/svg+xml", false},
	"png":    {"png", "image/png", true},
	"webp":   {"webp", "image/webp", true},
	"jpeg":   {"jpg", "image/jpeg", true},
	"pdf":    {"pdf", "application/pdf", false},
	"vector": {"xml", "", false}, // Android vector drawable
	"ico":    {"ico", "image/vnd.microsoft.icon", false},
}

// FormatNames are the formats there are.
func FormatNames() []string {
	var out []string
	for f := range formats {
		out = append(out, f)
	}
	sort.Strings(out)
	return out
}

// FormatOf is the format a file name's extension stands for.
func FormatOf(extension string) (name string, ok bool) {
	extension = strings.TrimPrefix(strings.ToLower(extension), ".")
	if extension == "jpeg" {
		return "jpeg", true
	}
	for name, f := range formats {
		if f.extension == extension {
			return name, true
		}
	}
	return "", false
}

// dpis are the names Android gives densities. https://developer.android.com/guide/topics/resources/providing-resources
var dpis = map[float64]string{0.75: "ldpi", 1: "mdpi", 1.5: "hdpi", 2: "xhdpi", 3: "xxhdpi", 4: "xxxhdpi"}

// BuiltIn are the sets that need no configuration.
func BuiltIn() []Set {
	return []Set{
		{Name: "web", Kind: "web", To: "web", At: []float64{1, 2, 3}, Formats: []string{"svg", "png"},
			Files: "{name}{x}.{format}", Quality: 85},
		{Name: "android", Kind: "android", To: "android/res", At: []float64{1, 1.5, 2, 3, 4}, Formats: []string{"vector",
			"png"}, Files: "drawable-{dpi}/{name}.{format}", Quality: 85},
		{Name: "ios", Kind: "ios", To: "ios", At: []float64{1, 2, 3}, Formats: []string{"pdf", "png"},
			Files: "Assets.xcassets/{name}.imageset/{file}{x}.{format}", Quality: 85},
		{Name: "favicon", Kind: "favicon", To: "favicon", At: []float64{1}, Formats: []string{"ico", "svg", "png"},
			Quality: 85, Only: true},
	}
}

// Check says what is wrong with a set.
func (s *Set) Check() error {
	if s.Name == "" {
		return fmt.Errorf("a set needs a name")
	}
	if len(s.Formats) == 0 {
		return fmt.Errorf("the set %s has no formats; there are %s", s.Name, strings.Join(FormatNames(), ", "))
	}
	many := 0
	for _, f := range s.Formats {
		known, ok := formats[f]
		if !ok || f == "ico" && s.Kind != "favicon" {
			return fmt.Errorf("the set %s: unknown format %q; there are %s", s.Name, f, strings.Join(FormatNames(), ", "))
		}
		if known.pixels {
			many++
		}
	}
	for _, d := range s.At {
		if !(d >= 0.1 && d <= 16) {
			return fmt.Errorf("the set %s: no density %g; 0.1 to 16 are possible", s.Name, d)
		}
		if s.Kind == "android" && dpis[d] == "" {
			return fmt.Errorf("there is no folder for the density %g on Android; it has 0.75, 1, 1.5, 2, 3 and 4", d)
		}
	}
	if s.Quality < 1 || s.Quality > 100 {
		return fmt.Errorf("the set %s: no quality %d; 1 to 100 are possible", s.Name, s.Quality)
	}
	if s.Kind == "favicon" {
		return nil
	}
	if err := checkPattern(s.Files); err != nil {
		return fmt.Errorf("the set %s: %w", s.Name, err)
	}
	if !strings.Contains(s.Files, "{name}") && !strings.Contains(s.Files, "{file}") {
		return fmt.Errorf("the set %s: the pattern %q gives all assets the same name; it needs {name}", s.Name, s.Files)
	}
	tells := strings.Contains(s.Files, "{density}") || strings.Contains(s.Files, "{x}") || strings.Contains(s.Files,
		"{dpi}") || strings.Contains(s.Files, "{width}")
	if many > 0 && len(s.At) > 1 && !tells {
		return fmt.Errorf("the set %s: the pattern %q gives all densities the same name; it needs {x} or {density}", s.Name,
			s.Files)
	}
	if len(s.Formats) > 1 && !strings.Contains(s.Files, "{format}") {
		return fmt.Errorf("the set %s: the pattern %q gives all formats the same name; it needs {format}", s.Name, s.Files)
	}
	return nil
}

// find is the set of a name.
func find(sets []Set, name string) (*Set, bool) {
	for i := range sets {
		if sets[i].Name == name {
			return &sets[i], true
		}
	}
	return nil, false
}

func setNames(sets []Set) []string {
	var out []string
	for _, s := range sets {
		out = append(out, s.Name)
	}
	return out
}

// Targets are the sets an asset is exported in: those it names, else all but those that want to be named.
func (a *Asset) Targets(sets []Set) []Set {
	var out []Set
	for _, s := range sets {
		if len(a.Sets) == 0 && !s.Only || slices.Contains(a.Sets, s.Name) {
			out = append(out, s)
		}
	}
	return out
}

// FormatsIn are the formats an asset is written in for a set: those of the set that the asset names; where it names
// none of them, all of the set.
func (a *Asset) FormatsIn(s *Set) []string {
	var out []string
	for _, f := range s.Formats {
		if slices.Contains(a.Formats, f) {
			out = append(out, f)
		}
	}
	if len(out) == 0 {
		return s.Formats
	}
	return out
}
