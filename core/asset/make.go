package asset

import (
	"bytes"
	"fmt"
	"image"
	"slices"
	"strings"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/paint/drawable"
	"archetyp/core/paint/pdf"
	"archetyp/core/paint/picture"
	"archetyp/core/paint/svg"
)

// File is one exported file: its path below the folder of assets, and its bytes.
type File struct {
	Path    string
	Data    []byte
	Set     string
	Format  string
	Width   int // pixels; for vectors the size in px
	Height  int
	Density float64 // 0 for vectors
}

// Made is what became of an asset.
type Made struct {
	Files  []File
	Bitmap float64  // where it is one, the density it really has
	Notes  []string // what is worth knowing: a format that was not possible, a bitmap with too few pixels
}

// Make makes the files of an asset in all its sets. names are those of each set. It is safe to use side by side.
func Make(a *Asset, sets []Set, names map[string]Names, look Look) (*Made, error) {
	cut := a.Out(look)
	m := newMaker(&cut, a.Name)
	for _, s := range a.Targets(sets) {
		m.set, m.name = &s, names[s.Name][a.Name]
		if err := m.make(a.FormatsIn(&s)); err != nil {
			return nil, fmt.Errorf("the asset %s: %w", a.Name, err)
		}
	}
	return &m.made, nil
}

// MakeCut makes the files of a cut in one set under a name.
func MakeCut(cut *Cut, s *Set, name string) (*Made, error) {
	m := newMaker(cut, name)
	m.set, m.name = s, name
	if err := m.make(s.Formats); err != nil {
		return nil, err
	}
	return &m.made, nil
}

// maker makes files. Pictures that several sets want are painted once.
type maker struct {
	cut   *Cut
	title string
	set   *Set
	name  string
	pngs  map[pixelKey][]byte
	made  Made
	noted map[string]bool
}

func newMaker(cut *Cut, title string) *maker {
	m := &maker{cut: cut, title: title, pngs: map[pixelKey][]byte{}, noted: map[string]bool{}}
	if cut.Bitmap != nil {
		m.made.Bitmap = round2(cut.Bitmap.Density)
	}
	return m
}

type pixelKey struct {
	density float64
	format  string
	ground  string
	quality int
}

func (m *maker) note(format string, args ...any) {
	s := m.title + " " + fmt.Sprintf(format, args...)
	if !m.noted[s] {
		m.noted[s] = true
		m.made.Notes = append(m.made.Notes, s)
	}
}

func (m *maker) put(format string, density float64, width, height int, data []byte) {
	m.made.Files = append(m.made.Files, File{m.set.place(m.name, format, density, width, height), data, m.set.Name, format,
		width, height, density})
}

// make makes the files of the set.
func (m *maker) make(wanted []string) error {
	switch {
	case m.set.Kind == "favicon":
		return m.favicon()
	case m.cut.Bitmap != nil:
		return m.bitmap(wanted)
	case m.set.Kind == "ios":
		return m.imageSet(wanted)
	}
	for _, f := range wanted {
		if err := m.format(f); err != nil {
			return err
		}
	}
	return nil
}

// format makes the files of one format.
func (m *maker) format(f string) error {
	if formats[f].pixels {
		for _, d := range m.set.At {
			if err := m.pixels(f, d); err != nil {
				return err
			}
		}
		return nil
	}
	data, err := m.vector(f)
	if err != nil {
		if f == "vector" {
			instead := ""
			for _, other := range m.set.Formats {
				if formats[other].pixels {
					instead = "; " + strings.ToUpper(other) + " stands in"
				}
			}
			m.note("is no vector drawable: %v%s", err, instead)
			return nil
		}
		return err
	}
	w, h := m.cut.Size()
	m.put(f, 0, whole1(w), whole1(h), data)
	return nil
}

func whole1(v float64) int { return max(1, int(v+0.5)) }

func (m *maker) vector(f string) ([]byte, error) {
	c := m.cut
	switch f {
	case "svg":
		o := svg.Options{Scale: 1 / c.Density}
		if m.set.Current {
			o.Current = oneColour(c.Paint)
		}
		return svg.Write(c.onGround(m.ground()), c.Box, o), nil
	case "pdf":
		return pdf.Write(c.onGround(m.ground()), c.Box, pdf.Options{Scale: 1 / c.Density, Title: m.title})
	}
	return drawable.Write(c.onGround(m.ground()), c.Box, 1/c.Density)
}

func (m *maker) ground() *color.Color {
	if m.set.Background != nil {
		return m.set.Background
	}
	return m.cut.Ground
}

// pixels makes the file of one density.
func (m *maker) pixels(f string, density float64) error {
	key := pixelKey{density: density, format: f}
	if g := m.ground(); g != nil {
		key.ground = g.CSS()
	}
	if f == "jpeg" {
		key.quality = m.set.Quality
	}
	w, h := m.cut.Pixels(density)
	data, ok := m.pngs[key]
	if !ok {
		img, err := m.cut.Render(density, m.ground())
		if err != nil {
			return err
		}
		if data, err = encode(img, f, m.set.Quality); err != nil {
			return err
		}
		m.pngs[key] = data
	}
	m.put(f, density, w, h, data)
	return nil
}

func encode(img *image.RGBA, f string, quality int) ([]byte, error) {
	switch f {
	case "jpeg":
		return picture.JPEG(img, quality)
	case "webp":
		return picture.WebP(img)
	}
	return picture.PNG(img), nil
}

// bitmap makes the files of an asset that is a bitmap: with the pixels it has. In a density it has just so many for,
// it is taken over byte by byte; it is made smaller for less, and never larger.
func (m *maker) bitmap(wanted []string) error {
	b := m.cut.Bitmap
	_, kind, err := image.DecodeConfig(bytes.NewReader(b.File))
	if err != nil || formats[kind].extension == "" {
		kind = ""
	}
	var lacking []string
	m.original(kind)
	for _, f := range wanted {
		if !formats[f].pixels {
			continue
		}
		if kind == "jpeg" && f == "png" && !slices.Contains(wanted, "jpeg") && !(m.set.Kind == "android" ||
			m.set.Kind == "ios") {
			f = "jpeg" // a photograph stays one
		}
		for i, d := range m.set.At {
			switch {
			case d > b.Density*1.005:
				lacking = append(lacking, num(d)+"x")
				if i > 0 { // the smallest is written with what there is
					continue
				}
				fallthrough
			case d > b.Density*0.995 && kind == f:
				bounds := b.Image.Bounds()
				if kind == f {
					m.put(f, d, bounds.Dx(), bounds.Dy(), b.File)
					continue
				}
				img, err := design.Pixels(b.Image)
				if err != nil {
					return err
				}
				data, err := encode(picture.RGBA(img), f, m.set.Quality)
				if err != nil {
					return err
				}
				m.put(f, d, bounds.Dx(), bounds.Dy(), data)
			default:
				if err := m.pixels(f, d); err != nil {
					return err
				}
			}
		}
	}
	if len(lacking) > 0 {
		slices.Sort(lacking)
		m.note("is a bitmap of %s times the size it is drawn at: too few pixels for %s; it is not scaled up",
			num(round2(b.Density)), strings.Join(slices.Compact(lacking), ", "))
	}
	if m.set.Kind == "ios" {
		m.contents(false)
	}
	return nil
}

func round2(v float64) float64 { return float64(int(v*100+0.5)) / 100 }

// original adds the bitmap as it came, for a set of no platform, where none of the densities is its own.
func (m *maker) original(kind string) {
	b := m.cut.Bitmap
	if kind == "" || m.set.Kind != "web" || b.File == nil {
		return
	}
	for _, d := range m.set.At {
		if d > b.Density*0.995 && d < b.Density*1.005 {
			return
		}
	}
	if top := slices.Max(m.set.At); b.Density < 1 || b.Density > 2*top {
		return
	}
	bounds := b.Image.Bounds()
	m.put(kind, round2(b.Density), bounds.Dx(), bounds.Dy(), b.File)
}

// onGround is the drawing with a background laid under it.
func (c *Cut) onGround(ground *color.Color) *design.PaintNode {
	if ground == nil {
		return c.Paint
	}
	under := &design.PaintNode{Matrix: geom.Identity, Opacity: 1, Path: c.Box.Path(),
		Fill: &design.Paint{Kind: design.Solid, Color: *ground, Opacity: 1}}
	return &design.PaintNode{Matrix: geom.Identity, Opacity: 1, Children: []*design.PaintNode{under, c.Paint}}
}
