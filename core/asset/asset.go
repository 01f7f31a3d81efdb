// Package asset takes pictures out of designs: which elements may be exported, under what names, in which sets of
// formats and densities, as which files; and which pictures are not needed at all. Documents go in, named files and
// advice come out.
package asset

import (
	"fmt"
	"path"
	"slices"
	"sort"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// Asset is one element that may be exported.
type Asset struct {
	Name    string // as marked: "icons/anchor"
	Element *design.Element
	Source  string
	Box     geom.Rect // what is cut out of its screen, in design px
	Formats []string  // as marked; none for those of the set
	Sets    []string  // as marked; none for those of the configuration
}

// Collect lists the marked elements of documents, by name. Faults (a name twice, a name that is no path, an unknown
// format or set, nothing painted) are reported and the asset is left out.
func Collect(docs []*design.Document, sets []Set) (assets []*Asset, faults []string) {
	seen := map[string]*Asset{}
	for _, d := range docs {
		elements := d.All()
		for i := len(d.Screens) - 1; i >= 0; i-- { // a whole drawing may be marked too
			if r := d.Screens[i].Root; !slices.Contains(elements, r) {
				elements = append([]*design.Element{r}, elements...)
			}
		}
		for _, e := range elements {
			if e.Marks.Asset == "" {
				continue
			}
			a, err := Of(d, e, sets)
			if err != nil {
				faults = append(faults, fmt.Sprintf("%s:%d:%d: the asset %q %v", d.Name, e.Position.Line, e.Position.Column,
					e.Marks.Asset, err))
				continue
			}
			key := strings.ToLower(a.Name)
			if old := seen[key]; old != nil {
				if old.Element.Node != e.Node { // another instance of the same drawing is no fault
					faults = append(faults, fmt.Sprintf("%s:%d:%d: the asset %q is marked at %s:%d too; the first counts", d.Name,
						e.Position.Line, e.Position.Column, a.Name, old.Source, old.Element.Position.Line))
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

// Of makes an asset of a marked element.
func Of(d *design.Document, e *design.Element, sets []Set) (*Asset, error) {
	name := path.Clean(strings.ReplaceAll(e.Marks.Asset, `\`, "/"))
	if strings.HasSuffix(e.Marks.Asset, "/") { // what {name} or {file} stands for is missing
		return nil, fmt.Errorf("ends where a name is wanted: the element has none; write a whole name, or give it a " +
			"data-label")
	}
	if !ValidName(name) {
		return nil, fmt.Errorf("has no name that can be a file's: write words joined by - and /")
	}
	a := &Asset{Name: name, Element: e, Source: d.Name, Box: e.Frame(), Formats: e.Marks.Formats, Sets: e.Marks.Sets}
	for _, f := range a.Formats {
		if _, ok := formats[f]; !ok {
			return nil, fmt.Errorf("unknown format %q; there are %s", f, strings.Join(FormatNames(), ", "))
		}
	}
	for _, s := range a.Sets {
		if _, ok := find(sets, s); !ok {
			return nil, fmt.Errorf("unknown set %q; there are %s", s, strings.Join(setNames(sets), ", "))
		}
	}
	if e.Hidden || a.Box.W <= 0 || a.Box.H <= 0 {
		return nil, fmt.Errorf("paints nothing")
	}
	return a, nil
}

// ValidName reports whether a name can be a file's below a folder.
func ValidName(s string) bool {
	if s == "" || s == "." || strings.HasPrefix(s, "/") || strings.HasPrefix(s, "../") || s == ".." || len(s) > 1000 {
		return false
	}
	for _, r := range s {
		if r < 0x20 || strings.ContainsRune(`<>:"|?*`, r) {
			return false
		}
	}
	return true
}
