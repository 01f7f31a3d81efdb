// Package emit writes tokens as code: a token.Library goes in, the text of generated files comes out. Each language
// has a file of its own, and stands in Languages.
package emit

import (
	"fmt"
	"path"
	"sort"
	"strings"

	"archetyp/core/token"
)

// Options are what an output may set.
type Options struct {
	Unit     string              // px or rem: what dimensions are written in
	Prefix   string              // of names
	Root     float64             // px of 1rem
	Name     string              // of the workspace, for the head of the file
	Only     []string            // paths of the tokens and groups to write, also with * for a name; empty for all
	Form     string              // of JSON: nested (default) or flat
	Package  string              // of Kotlin: its package
	Contexts map[string][]string // how contexts are reached in CSS, by key ("scheme.dark"); see Conditions
	Template string              // the text of a template
}

// Warning names a token that an output cannot say.
type Warning struct {
	Token string
	Msg   string
}

func (w Warning) String() string { return fmt.Sprintf("%s: %s", w.Token, w.Msg) }

// File is one generated file. Path is "" for an output of one file, else relative to the output's folder.
type File struct {
	Path string
	Text string
}

// Language is one kind of output.
type Language struct {
	Name   string
	About  string // one line
	Folder bool   // it writes several files into a folder
	Write  func(*token.Library, Options) ([]File, []Warning, error)
}

// Languages are the outputs there are, in the order they are listed.
var Languages = []Language{
	{"css", "CSS custom properties, a block for each context", false, single(CSS)},
	{"css-classes", "CSS classes for type styles, shadows and gradients", false, single(Classes)},
	{"scss", "SCSS variables, a map for each context", false, single(SCSS)},
	{"json", "values as CSS writes them, by path", false, single(JSON)},
	{"ts", "a typed TypeScript constant", false, single(TypeScript)},
	{"android", "Android resources: values and values-night, dp and sp", true, Android},
	{"swift", "Swift constants for SwiftUI, colours with light and dark", false, single(Swift)},
	{"kotlin", "Kotlin for Compose, colours with light and dark", false, single(Kotlin)},
	{"template", "what a Go text/template of your own makes of the tokens", false, single(Template)},
}

// Of finds a language by name.
func Of(name string) (Language, bool) {
	for _, l := range Languages {
		if l.Name == name {
			return l, true
		}
	}
	return Language{}, false
}

// Names lists the languages.
func Names() []string {
	var out []string
	for _, l := range Languages {
		out = append(out, l.Name)
	}
	return out
}

// single makes a language of a function that writes one file.
func single(write func(*token.Library, Options) (string, []Warning, error)) func(*token.Library, Options) ([]File,
	[]Warning, error) {
	return func(lib *token.Library, o Options) ([]File, []Warning, error) {
		text, warnings, err := write(lib, o)
		return []File{{"", text}}, warnings, err
	}
}

// Includes reports whether an output writes a token.
func (o Options) Includes(tokenPath string) bool {
	if len(o.Only) == 0 {
		return true
	}
	for _, p := range o.Only {
		steps := strings.Count(p, ".") + 1
		names := strings.Split(tokenPath, ".")
		if len(names) < steps {
			continue
		}
		if ok, _ := path.Match(p, strings.Join(names[:steps], ".")); ok {
			return true
		}
	}
	return false
}

// named gives each token of a set its name in a language. Two paths that give one name are an error.
func (o Options) named(set *token.Set, in string, name func(path string) string) (map[string]string, error) {
	out := make(map[string]string, len(set.Tokens))
	paths := make(map[string]*token.Token, len(set.Tokens))
	for _, t := range set.Tokens {
		if !o.Includes(t.Path) {
			continue
		}
		n := name(t.Path)
		if other := paths[n]; other != nil {
			return nil, &token.Error{File: t.File, Position: t.Position(), Path: t.Path,
				Msg: fmt.Sprintf("becomes %s in %s, as %s (%s:%d) does; rename one", n, in, other.Path, other.File,
					other.Position().Line)}
		}
		paths[n], out[t.Path] = t, n
	}
	return out, nil
}

// namer is a function that gives each token its name in a language, worked out once.
func (o Options) namer(set *token.Set, in string, name func(path string) string) (func(path string) string, error) {
	names, err := o.named(set, in, name)
	return func(path string) string {
		if n, ok := names[path]; ok {
			return n
		}
		return name(path)
	}, err
}

// head is the first line of a generated file.
func (o Options) head() string {
	return "Design tokens of " + o.Name + ". Written by archetyp from the token files."
}

func (o Options) root() float64 {
	if o.Root == 0 {
		return 16
	}
	return o.Root
}

func sortWarnings(w []Warning) []Warning {
	sort.SliceStable(w, func(i, j int) bool { return w[i].Token < w[j].Token })
	return w
}
