package job

import (
	"bytes"
	"fmt"
	"image"
	"path"
	"runtime"
	"sort"
	"strings"
	"unicode/utf8"

	"archetyp/core/design"
	"archetyp/core/escape"
	"archetyp/core/font"
	"archetyp/core/paint/picture"
	"archetyp/core/text"
	"archetyp/core/text/fit"
	"archetyp/workspace"
)

// Measurer measures texts with the fonts of a set, and the families the configuration names for locales.
func Measurer(ws *workspace.Workspace, fonts *font.Set) *fit.Measurer {
	m := &fit.Measurer{Fonts: fonts, More: map[string][]string{}, Jobs: runtime.NumCPU()}
	for l, list := range ws.Config.Text.Fonts {
		m.More[l] = list
	}
	if _, ok := m.More[text.PseudoRTL]; !ok {
		m.More[text.PseudoRTL] = nil
	}
	return m
}

// PlacedSource is a drawing with the words of a locale, and how it reads.
type PlacedSource struct {
	Source  string // path from the workspace
	Locale  string
	SVG     []byte
	Doc     *design.Document
	Count   int
	Skipped []string
}

// Drawings are the sources that texts of the catalogue stand in, in name order.
func Drawings(c *text.Catalogue, screen string) []string {
	seen := map[string]bool{}
	for _, e := range c.Used() {
		for _, p := range e.Places {
			if screen == "" || strings.EqualFold(p.Screen, screen) {
				seen[p.Source] = true
			}
		}
	}
	out := sortedKeys(seen)
	sort.Strings(out)
	return out
}

// Place puts the words of locales into drawings, side by side. Sources that are no SVG are left out, with a reason.
func Place(ws *workspace.Workspace, c *text.Catalogue, sources, locales []string,
	m *fit.Measurer) (placed []*PlacedSource, skipped []string, err error) {
	marks, root := ws.Config.SelectedMarks(), ws.Config.RootPx()
	type drawing struct {
		data []byte
		doc  *design.Document
	}
	drawings := make([]drawing, len(sources))
	read := func(data []byte, source string) (*design.Document, error) {
		return workspace.ParseDrawing(data, workspace.Drawing{Shown: source, Fonts: m.Fonts.Clone(), Marks: marks, Root: root,
			Limits: ws.Config.Budget(), Load: ws.Links(source, nil)})
	}
	err = Parallel(len(sources), func(i int) error {
		data, err := ws.ReadFile(sources[i])
		if err != nil {
			return err
		}
		doc, err := read(data, sources[i])
		drawings[i] = drawing{data, doc}
		return err
	})
	if err != nil {
		return nil, nil, err
	}
	placed = make([]*PlacedSource, len(sources)*len(locales))
	err = Parallel(len(placed), func(i int) error {
		source, locale, d := sources[i/len(locales)], locales[i%len(locales)], drawings[i/len(locales)]
		if d.doc.Format != "svg" || !utf8.Valid(d.data) || bytes.HasPrefix(d.data, []byte("\xff\xfe")) {
			return nil
		}
		p := &PlacedSource{Source: source, Locale: locale, SVG: d.data, Doc: d.doc}
		if locale != c.Locale {
			got, err := fit.Place(d.data, d.doc, c, locale, m)
			if err != nil {
				return fmt.Errorf("%s in %s: %w", source, locale, err)
			}
			p.SVG, p.Count, p.Skipped = got.SVG, got.Count, got.Skipped
			if p.Doc, err = read(got.SVG, source); err != nil {
				return fmt.Errorf("%s in %s: %w", source, locale, err)
			}
		}
		placed[i] = p
		return nil
	})
	if err != nil {
		return nil, nil, err
	}
	kept := placed[:0]
	for i, p := range placed {
		if p == nil {
			if i%len(locales) == 0 {
				skipped = append(skipped, sources[i/len(locales)]+": its texts are pixels, or it is no UTF-8")
			}
			continue
		}
		kept = append(kept, p)
	}
	return kept, skipped, nil
}

// PlacedFile is a file made of a drawing in a locale.
type PlacedFile struct {
	Path   string // below the folder asked for; "" where there is but one
	Source string
	Locale string
	Count  int // texts that were put into the drawing
	Data   []byte
}

// PlacedForm says what files are made of placed drawings.
type PlacedForm struct {
	Screen  string // the only one painted; "" for all
	SVG     bool
	PNG     bool
	Density float64 // of pictures
}

// Files makes an SVG of each drawing and a PNG of each screen, as the form says.
func (f PlacedForm) Files(placed []*PlacedSource) ([]PlacedFile, error) {
	var out []PlacedFile
	for _, p := range placed {
		if f.SVG {
			name := strings.TrimSuffix(path.Base(p.Source), path.Ext(p.Source))
			out = append(out, PlacedFile{name + "." + p.Locale + ".svg", p.Source, p.Locale, p.Count, p.SVG})
		}
		for _, s := range p.Doc.Screens {
			if !f.PNG || f.Screen != "" && !strings.EqualFold(s.Name, f.Screen) {
				continue
			}
			img, err := fit.Paint(s, f.Density)
			if err != nil {
				return nil, err
			}
			name := escape.FileName(design.Slug(s.Name)) + "." + p.Locale + ".png"
			out = append(out, PlacedFile{name, p.Source, p.Locale, p.Count, picture.PNG(img)})
		}
	}
	return out, nil
}

// PlacedSheet is one picture of a screen in all locales, side by side.
type PlacedSheet struct {
	Screen        string
	Locales       int
	Width, Height int // pixels
	PNG           []byte
}

// Sheet paints one screen, the first where none is named, in all locales.
func Sheet(placed []*PlacedSource, screen string, density float64, fonts *font.Set) (*PlacedSheet, error) {
	var pictures []*image.RGBA
	var captions []string
	for _, p := range placed {
		for _, s := range p.Doc.Screens {
			if screen == "" {
				screen = s.Name
			}
			if !strings.EqualFold(s.Name, screen) {
				continue
			}
			img, err := fit.Paint(s, density)
			if err != nil {
				return nil, err
			}
			pictures, captions = append(pictures, img), append(captions, s.Name+" · "+p.Locale)
		}
	}
	sheet, err := fit.Sheet(pictures, captions, density, fonts)
	if err != nil {
		return nil, err
	}
	return &PlacedSheet{screen, len(pictures), sheet.Rect.Dx(), sheet.Rect.Dy(), picture.PNG(sheet)}, nil
}
