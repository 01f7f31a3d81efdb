// Package read turns the bytes of design files into documents, whatever their format. A new format is a package beside
// svg and ora, and one line in the table.
package read

import (
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/limit"
	"archetyp/core/read/ora"
	"archetyp/core/read/svg"
)

// Options say how a file is read. Each format takes what it has a use for.
type Options struct {
	Fonts  *font.Set
	Marks  []design.SelectedMarks
	Root   float64                           // 1rem in px
	Load   func(href string) ([]byte, error) // what the file links to; nil for nothing
	Facts  bool                              // only facts are wanted: words are measured, and not painted
	Budget *limit.Budget                     // of work and time
}

// Format is a format of design files.
type Format struct {
	Name string
	Is   func(data []byte) bool // by what the file begins with
	Read func(name string, data []byte, o Options) (*design.Document, error)
}

// Formats are tried in their order; the last takes all that no other knows, and says what is wrong with it.
var Formats = []Format{
	{"OpenRaster", ora.Is, func(name string, data []byte, o Options) (*design.Document, error) {
		return ora.Read(name, data, ora.Options{Marks: o.Marks, Budget: o.Budget})
	}},
	{"SVG", func([]byte) bool { return true }, func(name string, data []byte, o Options) (*design.Document, error) {
		return svg.Read(name, data, svg.Options{Fonts: o.Fonts, Marks: o.Marks, Root: o.Root, Load: o.Load, Facts: o.Facts,
			Budget: o.Budget})
	}},
}

// Document reads a file. name is its name in the document. Faults have the place in the file: *markup.Error.
func Document(name string, data []byte, o Options) (*design.Document, error) {
	for _, f := range Formats {
		if f.Is(data) {
			return f.Read(name, data, o)
		}
	}
	return nil, nil // the last format takes all
}
