// Package font answers what text measures and looks like in real fonts: it takes font files as bytes, picks the face
// a style asks for, shapes words into positioned glyphs and gives their outlines.
package font

import (
	"bytes"
	"errors"
	"fmt"
	"math"
	"strings"
	"sync"

	gofont "github.com/go-text/typesetting/font"
	ot "github.com/go-text/typesetting/font/opentype"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/gomono"
	"golang.org/x/image/font/gofont/goregular"
)

// Face is one font of a family.
type Face struct {
	Family  string
	Weight  int // 100–900; for a variable font the weight its axis stands at
	Italic  bool
	File    string // where it came from, as the caller named it
	font    *gofont.Font
	wght    bool    // has a weight axis
	Ascent  float64 // of one em, above the baseline
	Descent float64 // of one em, below the baseline, positive
	LineGap float64
	XHeight float64
	upem    float64
}

// Set is the fonts that may be used, in order of preference, and the embedded fallback.
type Set struct {
	faces []*Face
	more  Finder
	found *finds
}

// finds remembers what the Finder gave for each style asked for, nil for nothing. It is safe to use side by side.
type finds struct {
	sync.Mutex
	faces map[wanted]*Face
}

type wanted struct {
	family string
	weight int
	italic bool
}

func (s *Set) find(family string, weight int, italic bool) *Face {
	s.found.Lock()
	defer s.found.Unlock()
	k := wanted{family, weight, italic}
	face, known := s.found.faces[k]
	if known {
		return face
	}
	if data, file, ok := s.more.Find(family, weight, italic); ok {
		if f, err := parse(data, file); err == nil {
			if !Same(f.Family, family) {
				f.Family = family
			}
			face = f
		}
	}
	s.found.faces[k] = face
	return face
}

// Finder looks elsewhere for a family the set lacks, such as among the fonts of the machine.
type Finder interface {
	// Find gives the font file of a family nearest to weight and slant; ok is false where the family is not there.
	Find(family string, weight int, italic bool) (data []byte, file string, ok bool)
}

// NewSet is a set with only the embedded fallback. more may be nil.
func NewSet(more Finder) *Set {
	return &Set{more: more, found: &finds{faces: map[wanted]*Face{}}}
}

// fallback gives the embedded faces: regular, bold, mono. Each is parsed once, when it is first wanted.
var fallback = [...]func() *Face{embedded(goregular.TTF, 400), embedded(gobold.TTF, 700), embedded(gomono.TTF, 400)}

func embedded(data []byte, weight int) func() *Face {
	return sync.OnceValue(func() *Face {
		face, err := parse(data, "")
		if err != nil {
			panic(err) // the embedded fonts are part of the program
		}
		face.Weight = weight
		return face
	})
}

// Clone is a set that can be added to without changing s.
func (s *Set) Clone() *Set {
	return &Set{faces: append([]*Face(nil), s.faces...), more: s.more, found: s.found}
}

// Add puts a font file (TrueType or OpenType) into the set; file names it in results.
func (s *Set) Add(data []byte, file string) (*Face, error) {
	face, err := parse(data, file)
	if err != nil {
		return nil, err
	}
	s.faces = append(s.faces, face)
	return face, nil
}

// AddAs is Add for a font known by another name, as @font-face gives; weight 0 and an empty family keep the file's.
func (s *Set) AddAs(data []byte, file, family string, weight int) error {
	face, err := parse(data, file)
	if err != nil {
		return err
	}
	if family != "" {
		face.Family = family
	}
	if weight != 0 {
		face.Weight = weight
	}
	for _, f := range s.faces { // the same face by another way
		if Same(f.Family, face.Family) && f.Weight == face.Weight && f.Italic == face.Italic {
			return nil
		}
	}
	s.faces = append(s.faces, face)
	return nil
}

func parse(data []byte, file string) (face *Face, err error) {
	defer func() { // the parser is given whatever lies in a folder
		if r := recover(); r != nil {
			face, err = nil, fmt.Errorf("not a usable font: %v", r)
		}
	}()
	if bytes.HasPrefix(data, []byte("wOF2")) {
		return nil, errors.New("not a usable font: WOFF 2 is not read; convert it to TrueType, OpenType or WOFF 1")
	}
	ld, err := ot.NewLoader(bytes.NewReader(data)) // which sets nothing aside yet
	if err != nil {
		return nil, fmt.Errorf("not a usable font (TrueType, OpenType and WOFF are read): %w", err)
	}
	if err := checkTables(data); err != nil {
		return nil, fmt.Errorf("not a usable font: %w", err)
	}
	f, err := gofont.NewFont(ld)
	if err != nil {
		return nil, fmt.Errorf("not a usable font: %w", err)
	}
	d, _ := gofont.Describe(ld, nil)
	d.Aspect.SetDefaults()
	face = &Face{Family: d.Family, Weight: int(d.Aspect.Weight), Italic: d.Aspect.Style == gofont.StyleItalic,
		File: file, font: f, upem: float64(f.Upem())}
	gf := gofont.NewFace(f)
	if ext, ok := gf.FontHExtents(); ok {
		face.Ascent, face.Descent = float64(ext.Ascender)/face.upem, -float64(ext.Descender)/face.upem
		face.LineGap = float64(ext.LineGap) / face.upem
	}
	face.XHeight = float64(gf.LineMetric(gofont.XHeight)) / face.upem
	if tables, err := ld.RawTable(ot.MustNewTag("fvar")); err == nil && bytes.Contains(tables, []byte("wght")) {
		face.wght = true
	}
	return face, nil
}

// Same reports whether two names are one family: case and spaces do not count.
func Same(a, b string) bool { return gofont.NormalizeFamily(a) == gofont.NormalizeFamily(b) }

// Families splits a CSS font-family list; quotes are undone.
func Families(css string) []string {
	var out []string
	for _, f := range strings.Split(css, ",") {
		if f = strings.Trim(strings.TrimSpace(f), `"'`); f != "" {
			out = append(out, f)
		}
	}
	return out
}

// Match picks the face for a family list, weight (100–900) and slant: the first family there is, in it the nearest
// weight as CSS Fonts 4 says. found is false where no named family is there and the fallback stands in.
// https://www.w3.org/TR/css-fonts-4/#font-style-matching
func (s *Set) Match(families []string, weight int, italic bool) (face *Face, found bool) {
	for _, fam := range families {
		if Generic(fam) {
			if f := s.standIn(fam, weight, italic); f != nil {
				return f, true
			}
			break
		}
		if f := s.has(fam, weight, italic); f != nil {
			return f, true
		}
		if f := s.standIn(fam, weight, italic); f != nil {
			return f, true
		}
	}
	if len(families) == 0 {
		if f := s.standIn("serif", weight, italic); f != nil { // what browsers set in when nothing is asked for
			return f, true
		}
	}
	return fallback[fallbackFor(families, weight)](), false
}

// fallbackFor is which of the embedded faces stands in for families.
func fallbackFor(families []string, weight int) int {
	for _, fam := range families {
		if strings.Contains(strings.ToLower(fam), "mono") {
			return 2
		}
	}
	if weight >= 600 {
		return 1
	}
	return 0
}

// Fallback is the file of the embedded face that stands in for a family that is not there.
func Fallback(family string, weight int) []byte {
	return [...][]byte{goregular.TTF, gobold.TTF, gomono.TTF}[fallbackFor([]string{family}, weight)]
}

func nearest(faces []*Face, family string, weight int, italic bool) *Face {
	var best *Face
	bestCost := math.Inf(1)
	for _, f := range faces {
		if !Same(f.Family, family) {
			continue
		}
		cost := weightCost(weight, f.Weight)
		if f.wght {
			cost = 0
		}
		if f.Italic != italic {
			cost += 10000
		}
		if cost < bestCost {
			best, bestCost = f, cost
		}
	}
	return best
}

// weightCost orders the weights of a family by how well they stand in for the one wanted.
func weightCost(want, have int) float64 {
	d := float64(have - want)
	switch {
	case d == 0:
		return 0
	case want >= 400 && want <= 500:
		if d > 0 && have <= 500 {
			return d
		}
		if d < 0 {
			return 1000 - d
		}
		return 2000 + d
	case want < 400:
		if d < 0 {
			return -d
		}
		return 1000 + d
	}
	if d > 0 {
		return d
	}
	return 1000 - d
}
