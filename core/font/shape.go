package font

import (
	"strings"
	"unicode"

	"archetyp/core/geom"

	"github.com/go-text/typesetting/di"
	gofont "github.com/go-text/typesetting/font"
	ot "github.com/go-text/typesetting/font/opentype"
	"github.com/go-text/typesetting/language"
	"github.com/go-text/typesetting/shaping"
	"golang.org/x/image/math/fixed"
)

// Style is how a run of words is set.
type Style struct {
	Families []string
	Size     float64 // px
	Weight   int     // 100–900
	Italic   bool
	Spacing  float64 // letter spacing, px
	Word     float64 // word spacing, px
	NoKern   bool
	RTL      bool // the words as a whole run from right to left: CSS direction
}

// Glyph is one positioned glyph: its origin counts from the start of the run on the baseline, in px, y downwards.
type Glyph struct {
	Face    *Face
	ID      uint32
	Origin  geom.Point
	Advance float64 // px, letter spacing included
	Cluster int     // index of the rune it stands for
}

// Shaper shapes text with the fonts of a set. It keeps caches and is for one goroutine.
type Shaper struct {
	Set   *Set
	hb    shaping.HarfbuzzShaper
	seg   shaping.Segmenter
	faces map[faceKey]*gofont.Face
	paths map[glyphKey]*outline
	known map[shapeKey]shaped

	styles map[styleKey]*used
}

// shapeKey is all that the shape of a run depends on.
type shapeKey struct {
	words, families     string
	size, spacing, word float64
	weight              int
	italic, noKern, rtl bool
}

type shaped struct {
	glyphs []Glyph
	width  float64
	face   *Face
	found  bool
}

const maxKnown = 1 << 14 // runs remembered

type faceKey struct {
	face   *Face
	weight int
}

type glyphKey struct {
	faceKey
	id uint32
}

// NewShaper begins with empty caches.
func NewShaper(s *Set) *Shaper {
	return &Shaper{Set: s, faces: map[faceKey]*gofont.Face{}, paths: map[glyphKey]*outline{}, known: map[shapeKey]shaped{},
		styles: map[styleKey]*used{}}
}

// Fork is a shaper of the same fonts for another goroutine.
func (s *Shaper) Fork() *Shaper { return NewShaper(s.Set) }

func (s *Shaper) face(f *Face, weight int) *gofont.Face {
	k := faceKey{f, 0}
	if f.wght {
		k.weight = weight
	}
	g, ok := s.faces[k]
	if !ok {
		g = gofont.NewFace(f.font)
		if f.wght {
			g.SetVariations([]gofont.Variation{{Tag: ot.MustNewTag("wght"), Value: float32(weight)}})
		}
		s.faces[k] = g
	}
	return g
}

// fontmap gives each rune the first face that has it.
type fontmap struct {
	first *gofont.Face
	rest  []*gofont.Face
}

func (m fontmap) ResolveFace(r rune) *gofont.Face {
	if _, ok := m.first.NominalGlyph(r); ok {
		return m.first
	}
	for _, f := range m.rest {
		if _, ok := f.NominalGlyph(r); ok {
			return f
		}
	}
	return m.first
}

// others are the further faces of a family list, for letters that the first lacks.
func (s *Set) others(first *Face, families []string, weight int, italic bool) []*Face {
	var out []*Face
	for _, fam := range families {
		if Generic(fam) {
			break
		}
		f := nearest(s.faces, fam, weight, italic)
		if f == nil && s.more != nil && len(families) > 1 {
			f = s.find(fam, weight, italic)
		}
		if f != nil && f != first {
			out = append(out, f)
		}
	}
	return out
}

// Lacks lists the letters that no family of the list has, each once, in their order.
func (s *Set) Lacks(words string, families []string, weight int, italic bool) []rune {
	first, found := s.Match(families, weight, italic)
	var faces []*Face
	if found {
		faces = append(faces, first)
	}
	faces = append(faces, s.others(first, families, weight, italic)...)
	if len(faces) == 0 {
		return nil // the family itself is missing, which the drawing reports
	}
	var out []rune
	seen := map[rune]bool{}
	ascii := faces[0].plain()
	for _, r := range words {
		if ascii && r < 0x80 && r >= ' ' || seen[r] || unicode.IsSpace(r) || unicode.Is(unicode.Cf, r) || r < ' ' {
			continue
		}
		seen[r] = true
		has := false
		for _, f := range faces {
			if _, ok := f.font.NominalGlyph(r); ok {
				has = true
				break
			}
		}
		if !has {
			out = append(out, r)
		}
	}
	return out
}

// plain reports whether a face has the letters of ASCII, by one of them.
func (f *Face) plain() bool {
	_, ok := f.font.NominalGlyph('e')
	return ok
}

// Shape lays words out on one line and returns the glyphs (shared: do not change them) and the advance width in px.
// The face the style asks for is returned beside them; runes it lacks come from the fallback.
func (s *Shaper) Shape(words string, st Style) (glyphs []Glyph, width float64, face *Face, found bool) {
	k := shapeKey{words, strings.Join(st.Families, ","), st.Size, st.Spacing, st.Word, st.Weight, st.Italic, st.NoKern,
		st.RTL}
	r, known := s.known[k]
	if !known {
		r.glyphs, r.width, r.face, r.found = s.shape(words, st)
		if len(s.known) < maxKnown && len(words) < 256 {
			s.known[k] = r
		}
	}
	return r.glyphs, r.width, r.face, r.found
}

// split cuts words into runs of one face, script and direction, in the order they are seen.
func (s *Shaper) split(in shaping.Input, u *used) []shaping.Input {
	if in.Direction == di.DirectionLTR && s.latin(in.Text, u) { // as most are: one run
		in.Script = language.Latin
		return []shaping.Input{in}
	}
	return visual(s.seg.Split(in, u.fonts), in.Text, in.Direction == di.DirectionRTL)
}

// latin reports whether words are in Latin letters that the first face has.
func (s *Shaper) latin(runes []rune, u *used) bool {
	letters := false
	for _, r := range runes {
		if r >= 0x250 {
			return false
		}
		if r < 0x80 {
			if letters = letters || r|0x20 >= 'a' && r|0x20 <= 'z'; r >= ' ' && u.ascii {
				continue
			}
		}
		if _, ok := u.first.NominalGlyph(r); !ok {
			return false
		}
	}
	return letters
}

// used is what a style is set with: the face it asks for, and those for letters that it lacks.
type used struct {
	face  *Face
	found bool
	first *gofont.Face
	fonts fontmap
	back  map[*gofont.Face]*Face
	ascii bool    // the first face has all letters of ASCII
	space float64 // of the first face, of one em; 0 where it has none
}

// using finds the faces of a style, once.
func (s *Shaper) using(st Style) *used {
	k := styleKey{strings.Join(st.Families, ","), st.Weight, st.Italic}
	if u, ok := s.styles[k]; ok {
		return u
	}
	u := &used{}
	u.face, u.found = s.Set.Match(st.Families, st.Weight, st.Italic)
	u.first = s.face(u.face, st.Weight)
	u.back = map[*gofont.Face]*Face{u.first: u.face}
	u.fonts.first = u.first
	rest := s.Set.others(u.face, st.Families, st.Weight, st.Italic)
	for _, face := range fallback {
		rest = append(rest, face())
	}
	for _, f := range rest {
		g := s.face(f, st.Weight)
		u.back[g] = f
		u.fonts.rest = append(u.fonts.rest, g)
	}
	if g, ok := u.first.NominalGlyph(' '); ok {
		u.space = float64(u.first.HorizontalAdvance(g)) / u.face.upem
	}
	u.ascii = true
	for r := ' '; r < 0x7f; r++ {
		_, ok := u.first.NominalGlyph(r)
		u.ascii = u.ascii && ok
	}
	s.styles[k] = u
	return u
}

type styleKey struct {
	families string
	weight   int
	italic   bool
}

func (s *Shaper) shape(words string, st Style) (glyphs []Glyph, width float64, face *Face, found bool) {
	defer func() { // a font that lies may stop the shaping library: its words then have no glyphs
		if recover() != nil {
			glyphs, width = nil, 0
		}
	}()
	u := s.using(st)
	face, found = u.face, u.found
	runes := []rune(words)
	if len(runes) == 0 || st.Size <= 0 {
		return nil, 0, face, found
	}
	first, back := u.first, u.back
	runes, skip := based(runes, st.RTL)
	in := shaping.Input{Text: runes, RunEnd: len(runes), Direction: di.DirectionLTR, Face: first,
		Size: fixed.I(1000), Language: language.NewLanguage("en")}
	if st.Spacing != 0 { // letter spacing breaks ligatures, as CSS Text says
		for _, t := range []string{"liga", "clig"} {
			in.FontFeatures = append(in.FontFeatures, shaping.FontFeature{Tag: ot.MustNewTag(t)})
		}
	}
	if st.NoKern {
		in.FontFeatures = append(in.FontFeatures, shaping.FontFeature{Tag: ot.MustNewTag("kern")})
	}
	if st.RTL {
		in.Direction = di.DirectionRTL
	}
	var pen float64
	glyphs = make([]Glyph, 0, len(runes))
	for _, run := range s.split(in, u) {
		f := back[run.Face]
		upem := f.upem
		run.Size = fixed.I(int(upem)) // so that results are font units
		out := s.hb.Shape(run)
		k := st.Size / upem / 64
		for _, g := range out.Glyphs {
			if g.TextIndex() < skip {
				continue
			}
			adv := float64(g.Advance)*k + st.Spacing
			if r := runes[g.TextIndex()]; r == ' ' || r == '\u00a0' {
				if f != face && u.space > 0 { // spaces are set in the first font that has one, as browsers do
					adv = u.space*st.Size + st.Spacing
				}
				adv += st.Word
			}
			glyphs = append(glyphs, Glyph{Face: f, ID: uint32(g.GlyphID),
				Origin:  geom.Point{X: pen + float64(g.XOffset)*k, Y: -float64(g.YOffset) * k},
				Advance: adv, Cluster: g.TextIndex() - skip})
			pen += adv
		}
	}
	return glyphs, pen, face, found
}

type outline struct {
	path *geom.Path
	ink  geom.Rect
}

// Outline is a glyph's shape at 1 px per em, baseline at 0, y downwards, and its tight box. It is shared: do not
// change it.
func (s *Shaper) Outline(g Glyph, weight int) (*geom.Path, geom.Rect) {
	k := glyphKey{faceKey{g.Face, 0}, g.ID}
	if g.Face.wght {
		k.weight = weight
	}
	o, ok := s.paths[k]
	if !ok {
		o = &outline{path: s.read(g, weight)}
		o.ink, _ = o.path.Bounds()
		s.paths[k] = o
	}
	return o.path, o.ink
}

// read takes a glyph's outline from its font; a glyph that stops the font library has none.
func (s *Shaper) read(g Glyph, weight int) *geom.Path {
	p := &geom.Path{}
	defer func() { _ = recover() }()
	data, _ := s.face(g.Face, weight).GlyphData(gofont.GID(g.ID)).(gofont.GlyphOutline)
	u := 1 / g.Face.upem
	at := func(p ot.SegmentPoint) (x, y float64) { return float64(p.X) * u, -float64(p.Y) * u }
	for _, seg := range data.Segments {
		x, y := at(seg.Args[0])
		switch seg.Op {
		case ot.SegmentOpMoveTo:
			p.Close()
			p.MoveTo(x, y)
		case ot.SegmentOpLineTo:
			p.LineTo(x, y)
		case ot.SegmentOpQuadTo:
			x2, y2 := at(seg.Args[1])
			p.QuadTo(x, y, x2, y2)
		case ot.SegmentOpCubeTo:
			x2, y2 := at(seg.Args[1])
			x3, y3 := at(seg.Args[2])
			p.CubicTo(x, y, x2, y2, x3, y3)
		}
	}
	p.Close()
	return p
}
