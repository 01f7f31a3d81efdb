// Package asset takes pictures out of designs: which elements may be exported, under what names, in which sets of
// formats and densities, as which files; and which pictures are not needed at all. Documents go in, named files and
// advice come out.
package asset

import (
	"fmt"
	"math"
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
	a := &Asset{Name: name, Element: e, Source: d.Name, Box: Frame(e), Formats: e.Marks.Formats, Sets: e.Marks.Sets}
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

// Frame is what is cut out of the screen for an element, in whole px: the viewport it was drawn in, where it has one
// (an icon keeps the air around it), and else all it paints; in any case nothing that it paints is cut off.
func Frame(e *design.Element) geom.Rect {
	if e.Parent == nil || e.Screen != nil && e == e.Screen.Root { // a whole screen
		b := e.Screen.Box
		return geom.Rect{W: wholeLength(b.W), H: wholeLength(b.H)}
	}
	painted := design.WholePixels(e.Painted.Value)
	port, ok := viewport(e)
	if !ok {
		return painted
	}
	x, y := math.Round(port.X), math.Round(port.Y)
	if math.Abs(x-port.X) > slack || math.Abs(y-port.Y) > slack { // between pixels: the air may not make it blurred
		return painted.Union(design.WholePixels(port))
	}
	frame := geom.Rect{X: x, Y: y, W: wholeLength(port.W), H: wholeLength(port.H)}
	if painted.W > 0 && painted.H > 0 && !frame.Contains(painted, slack) {
		frame = frame.Union(painted)
	}
	return frame
}

// slack is by how much of a px a frame may be off a whole one and still be taken for it.
const slack = 0.08

// wholeLength is a length in whole px: the nearest, where it is meant to be that, else the next.
func wholeLength(v float64) float64 {
	if r := math.Round(v); r > 0 && math.Abs(v-r) < slack {
		return r
	}
	return math.Ceil(v)
}

// viewport is the box that an element's drawing was made in, on the screen: that of a symbol or an inner svg.
func viewport(e *design.Element) (geom.Rect, bool) {
	if e.Node == nil || e.Native != design.Instance && e.Native != design.Viewport || e.Paint == nil ||
		!e.Matrix.Upright() {
		return geom.Rect{}, false
	}
	if e.Native == design.Viewport {
		return e.Layout.Value, e.Layout.Set
	}
	for _, c := range e.Paint.Children { // what a use element paints stands in a group that moves it
		for k := c.Clip; k != nil; k = k.Clip {
			if len(k.Shapes) == 1 && k.Shapes[0].Path.IsRect() {
				if b, ok := k.Shapes[0].Path.Transform(e.Matrix.Mul(c.Matrix).Mul(k.Shapes[0].Matrix)).Bounds(); ok {
					return b, true
				}
			}
		}
	}
	return geom.Rect{}, false
}
