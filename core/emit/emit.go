// Package emit writes tokens as code: a token.Set goes in, the text of one generated file comes out. Each language
// has a file of its own, and stands in Languages.
package emit

import (
	"fmt"
	"sort"

	"archetyp/core/token"
)

// Options are what an output may set.
type Options struct {
	Unit   string  // px or rem: what dimensions are written in
	Prefix string  // of names
	Root   float64 // px of 1rem
	Name   string  // of the workspace, for the head of the file
}

// Warning names a token that an output cannot say.
type Warning struct {
	Token string
	Msg   string
}

func (w Warning) String() string { return fmt.Sprintf("%s: %s", w.Token, w.Msg) }

// Language writes one kind of file.
type Language func(*token.Set, Options) (text string, warnings []Warning, err error)

// Languages are the outputs there are, by the name the configuration gives them.
var Languages = map[string]Language{
	"css": CSS,
}

// Names lists the languages.
func Names() []string {
	var out []string
	for n := range Languages {
		out = append(out, n)
	}
	sort.Strings(out)
	return out
}
