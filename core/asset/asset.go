// Package asset takes pictures out of designs: the marked elements, alone, cut to what they paint, as SVG and in
// every density as PNG. Documents go in, named files come out.
package asset

import (
	"bytes"
	"fmt"
	"image/png"
	"path"
	"sort"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/raster"
	"archetyp/core/svg"
)

// Asset is one marked element.
type Asset struct {
	Name    string // as marked: "icons/anchor"
	Element *design.Element
	Source  string
	Box     geom.Rect // what it paints, in whole px of its screen
	Formats []string  // svg, png
}

// File is one exported file: its path below the folder of assets, and its bytes.
type File struct {
	Path    string
	Data    []byte
	Width   int // pixels; for SVG the size in px
	Height  int
	Density float64 // 0 for SVG
}

// Densities of the PNG pictures.
var Densities = []float64{1, 2, 3}

// Collect lists the marked elements of documents, by name. Faults (a name twice, a name that is no path, an unknown
// format, nothing painted) are told and the asset is left out.
func Collect(docs []*design.Document) (assets []*Asset, faults []string) {
	seen := map[string]*Asset{}
	for _, d := range docs {
		for _, e := range d.All() {
			if e.Marks.Asset == "" {
				continue
			}
			a, err := of(d, e)
			if err != nil {
				faults = append(faults, fmt.Sprintf("%s:%d:%d: the asset %q %v", d.Name, e.Position.Line, e.Position.Column, e.Marks.Asset, err))
				continue
			}
			key := strings.ToLower(a.Name)
			if old := seen[key]; old != nil {
				if old.Element.Node != e.Node { // another instance of the same drawing is no fault
					faults = append(faults, fmt.Sprintf("%s:%d:%d: the asset %q is marked at %s:%d too; the first counts", d.Name, e.Position.Line, e.Position.Column, a.Name, old.Source, old.Element.Position.Line))
				}
				continue
			}
			seen[key] = a
			assets = append(assets, a)
		}
	}
	sort.Slice(assets, func(i, j int) bool { return assets[i].Name < assets[j].Name })
	return assets, faults
}

func of(d *design.Document, e *design.Element) (*Asset, error) {
	name := path.Clean(strings.ReplaceAll(e.Marks.Asset, `\`, "/"))
	if !validName(name) {
		return nil, fmt.Errorf("has no name that can be a file's: write words joined by - and /")
	}
	a := &Asset{Name: name, Element: e, Source: d.Name, Box: design.WholePixels(e.Painted.Value), Formats: []string{"svg", "png"}}
	if len(e.Marks.Formats) > 0 {
		a.Formats = nil
		for _, f := range e.Marks.Formats {
			if f != "svg" && f != "png" {
				return nil, fmt.Errorf("wants the format %q; svg and png are known", f)
			}
			a.Formats = append(a.Formats, f)
		}
	}
	if e.Hidden || a.Box.W <= 0 || a.Box.H <= 0 {
		return nil, fmt.Errorf("paints nothing")
	}
	return a, nil
}

func validName(s string) bool {
	if s == "" || s == "." || strings.HasPrefix(s, "/") || strings.HasPrefix(s, "../") || s == ".." || len(s) > 200 {
		return false
	}
	for _, r := range s {
		if r < 0x20 || strings.ContainsRune(`<>:"|?*`, r) {
			return false
		}
	}
	return true
}

// Export makes the files of an asset: name.svg, name.png, name@2x.png, name@3x.png; transparent where it paints
// nothing.
func (a *Asset) Export() ([]File, error) {
	alone := design.Alone(a.Element)
	var out []File
	for _, f := range a.Formats {
		if f == "svg" {
			out = append(out, File{a.Name + ".svg", svg.Write(alone, a.Box), int(a.Box.W), int(a.Box.H), 0})
			continue
		}
		for _, d := range Densities {
			img, err := raster.Render(alone, raster.Options{View: a.Box, Density: d})
			if err != nil {
				return nil, fmt.Errorf("the asset %s: %w", a.Name, err)
			}
			var buf bytes.Buffer
			if err := png.Encode(&buf, img); err != nil {
				return nil, fmt.Errorf("the asset %s: %w", a.Name, err)
			}
			name := a.Name + ".png"
			if d != 1 {
				name = fmt.Sprintf("%s@%gx.png", a.Name, d)
			}
			out = append(out, File{name, buf.Bytes(), img.Rect.Dx(), img.Rect.Dy(), d})
		}
	}
	return out, nil
}
