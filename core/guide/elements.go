package guide

import (
	"cmp"
	"fmt"
	"slices"
	"sort"

	"archetyp/core/ask"
	"archetyp/core/code"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/paint/svg"
)

// elementsData is what the script of a screen's page knows of its elements. All strings of facts are in one list, by
// number, since most stand there many times.
type elementsData struct {
	Width    float64       `json:"w"`
	Height   float64       `json:"h"`
	Rem      float64       `json:"rem"`
	Strings  []string      `json:"strings"`
	Elements []elementData `json:"elements"`
}

// elementData is an element. Boxes are the CSS border boxes that "archetyp measure" measures, in px of the screen.
type elementData struct {
	Name      string     `json:"n"`
	Kind      string     `json:"k"`
	Parent    int        `json:"p"` // -1: the screen
	Box       [4]float64 `json:"b"` // x, y, width, height
	In        int        `json:"i"` // the element its insets count in; -1: the screen
	Selector  string     `json:"s"`
	Path      string     `json:"a"` // its address on the page
	State     string     `json:"v,omitempty"`
	Facts     []int      `json:"f,omitempty"` // name, value, origin, token, from; each a number of a string
	Code      string     `json:"c,omitempty"`
	Words     string     `json:"t,omitempty"`
	Text      int        `json:"x,omitempty"` // its text among those of the screen, from 1
	Component string     `json:"m,omitempty"`
	Page      string     `json:"g,omitempty"` // of the component
	Asset     string     `json:"o,omitempty"`
	AssetPage string     `json:"q,omitempty"`
}

// speller spells out facts with lengths in px.
func (b *builder) speller() *ask.Speller {
	return &ask.Speller{Tokens: b.in.Find, Unit: design.Unit{Name: "px", Root: b.rem()}}
}

// tidied is a box as data: x, y, width, height, without what binary fractions leave over.
func tidied(r geom.Rect) [4]float64 {
	return [4]float64{design.Tidy(r.X), design.Tidy(r.Y), design.Tidy(r.W), design.Tidy(r.H)}
}

// numbered gives strings numbers.
type numbered struct {
	list []string
	at   map[string]int
}

func (n *numbered) of(s string) int {
	i, known := n.at[s]
	if !known {
		i = len(n.list)
		n.at[s] = i
		n.list = append(n.list, s)
	}
	return i
}

// elements is the data of a screen.
func (b *builder) elements(s *screenModel, texts []screenText) (any, error) {
	doc, err := s.drawing.Doc()
	if err != nil {
		return nil, err
	}
	screen := doc.Screens[s.index]
	out := &elementsData{Width: s.Width, Height: s.Height, Rem: b.rem(), Elements: make([]elementData, len(screen.Elements))}
	index := map[*design.Element]int{}
	for i, e := range screen.Elements {
		index[e] = i
	}
	at := func(e *design.Element) int {
		if i, ok := index[e]; ok {
			return i
		}
		return -1
	}
	text := map[string]int{}
	for i, t := range texts {
		for _, sel := range t.Selectors {
			text[sel] = i + 1
		}
	}
	words := &numbered{at: map[string]int{}}
	speller := b.speller()
	own := code.Own(screen.Elements, code.Options{Tokens: b.in.CodeNames})
	covered := covered(screen)
	for i, e := range screen.Elements {
		d := elementData{Name: cmp.Or(e.Name, e.NearestName()), Kind: string(e.Kind), Parent: at(e.Parent),
			Box: tidied(e.BorderBox()), In: at(e.ContainerElement()), Selector: e.Selector(), Path: e.Path,
			Code: code.Print(own[i : i+1]), Component: e.Marks.Component, Asset: e.Marks.Asset}
		switch {
		case e.Hidden:
			d.State = "hidden"
		case covered[i]:
			d.State = "covered"
		}
		if c := b.component(e.Marks.Component); c != nil {
			d.Page = c.Page + "#" + c.partID(e.Marks.Variant, e.Marks.State)
		}
		if e.Marks.Asset != "" {
			d.AssetPage = "assets.html#" + assetID(e.Marks.Asset)
		}
		if e.Words != nil {
			d.Words, d.Text = e.Words.Words, text[d.Selector]
		}
		spec := speller.Spec(e)
		for k, f := range spec.Facts {
			d.Facts = append(d.Facts, words.of(f.Name), words.of(f.Value), words.of(f.Known()),
				words.of(spec.Found[k].Path), words.of(f.From))
		}
		out.Elements[i] = d
	}
	out.Strings = words.list
	return out, nil
}

// mostCovers is how many opaque boxes are looked at, the largest ones.
const mostCovers = 200

// covered finds the elements that are hidden behind an opaque box.
func covered(s *design.Screen) map[int]bool {
	type cover struct {
		at  int
		box geom.Rect
	}
	var covers []cover
	for i, e := range s.Elements {
		if opaque(e) {
			covers = append(covers, cover{i, e.Geometry.Value})
		}
	}
	sort.SliceStable(covers, func(i, k int) bool {
		return covers[i].box.W*covers[i].box.H > covers[k].box.W*covers[k].box.H
	})
	covers = covers[:min(len(covers), mostCovers)]
	out := map[int]bool{}
	for i, e := range s.Elements {
		if e.Kind == design.Group || !e.Painted.Set {
			continue
		}
		out[i] = slices.ContainsFunc(covers, func(c cover) bool {
			return c.at > i && c.box.Contains(e.Painted.Value, 0.01)
		})
	}
	return out
}

// opaque reports whether an element is an upright, square box that nothing shows through.
func opaque(e *design.Element) bool {
	if e.Kind != design.Box || e.Hidden || !e.Radii.Value.Zero() || e.Oval() || !e.Matrix.Upright() || e.Casts {
		return false
	}
	for p := e; p != nil; p = p.Parent {
		if p.Paint != nil && !p.Paint.Plain() {
			return false
		}
	}
	return slices.ContainsFunc(e.Fills, func(f design.Fact[design.Paint]) bool {
		return f.Value.Kind == design.Solid && f.Value.Color.Alpha >= 1
	})
}

// layers is a drawing of a screen whose shapes can be switched off: each says in data-e which element it is of.
func (s *screenModel) layers() (any, error) {
	doc, err := s.drawing.Doc()
	if err != nil {
		return nil, err
	}
	screen := doc.Screens[s.index]
	index := map[*design.Element]int{}
	for i, e := range screen.Elements {
		index[e] = i
	}
	return string(svg.Write(screen.Paint, geom.Rect{W: s.Width, H: s.Height}, svg.Options{Prefix: "layer-",
		Mark: func(e *design.Element) string {
			if i, ok := index[e]; ok {
				return fmt.Sprint(i)
			}
			return ""
		}})), nil
}
