package job

import (
	"fmt"
	"image"
	"slices"
	"strings"
	"time"

	"archetyp/core/ask"
	"archetyp/core/design"
	"archetyp/core/diff"
	"archetyp/core/escape"
	"archetyp/core/hint"
	"archetyp/core/match"
	"archetyp/core/paint/picture"
	"archetyp/core/paint/raster"
)

// Showings are the ways to show a difference, and what each is.
var Showings = [][2]string{
	{"difference", "what changed framed and numbered as in the list, on the later picture"},
	{"overlay", "both pictures over each other, half of each"},
	{"split", "both pictures side by side, the earlier one on the left"},
	{"blink", "both pictures in turn, as an animated PNG"},
}

// CheckShowing says what is wrong with a way to show a difference.
func CheckShowing(how string) error {
	var names []string
	for _, s := range Showings {
		if s[0] == how {
			return nil
		}
		names = append(names, s[0])
	}
	return hint.New(fmt.Sprintf("--show %q is not known", how), "Choose "+strings.Join(names, ", ")+".")
}

// Shown is a picture of a difference.
type Shown struct {
	Name   string `json:"name"` // of the screen or asset
	File   string `json:"file"`
	Width  int    `json:"width"` // px of the picture
	Height int    `json:"height"`
	Data   []byte `json:"-"`
}

// Pictures shows every changed screen and asset of a comparison, by file name.
func (c *Comparison) Pictures(how string, density float64) ([]Shown, error) {
	if err := CheckShowing(how); err != nil {
		return nil, err
	}
	taken := map[string]bool{}
	name := func(of string) string {
		stem := escape.FileName(design.Slug(of))
		if stem == "" {
			stem = "screen"
		}
		file := stem + ".png"
		for n := 2; taken[file]; n++ {
			file = fmt.Sprintf("%s-%d.png", stem, n)
		}
		taken[file] = true
		return file
	}
	todo := make([]func() (*Shown, error), 0, len(c.Screens)+len(c.Assets))
	for i := range c.Screens {
		s := &c.Screens[i]
		file := name(s.Screen)
		todo = append(todo, func() (*Shown, error) { return s.picture(file, how, density) })
	}
	for i := range c.Assets {
		x := &c.Assets[i]
		file := name("asset " + x.Name)
		todo = append(todo, func() (*Shown, error) { return x.picture(file, how, density) })
	}
	out := make([]Shown, len(todo))
	err := Parallel(len(todo), func(i int) error {
		s, err := todo[i]()
		if err == nil {
			out[i] = *s
		}
		return err
	})
	return out, err
}

func painted(s ask.Subject, density float64) (*image.RGBA, error) {
	return raster.Render(s.Paint, raster.Options{View: s.View, Density: density})
}

func (s *ScreenChanges) picture(file, how string, density float64) (*Shown, error) {
	var pair [2]*image.RGBA
	for i, screen := range []*design.Screen{s.Old, s.New} {
		if screen == nil {
			continue
		}
		img, err := painted(ask.OfScreen(screen, false), density)
		if err != nil {
			return nil, err
		}
		pair[i] = img
	}
	return show(s.Screen, file, how, pair, s.Changes, density)
}

func (x *AssetChange) picture(file, how string, density float64) (*Shown, error) {
	var pair [2]*image.RGBA
	for i, e := range []*design.Element{x.Old, x.New} {
		if e == nil {
			continue
		}
		img, err := painted(ask.OfElement(e), max(density, min(8, 96/max(1, e.Painted.Value.W))))
		if err != nil {
			return nil, err
		}
		img.Rect = img.Rect.Sub(img.Rect.Min)
		pair[i] = img
	}
	if how == "difference" { // its parts are in the list of its screen
		how = "split"
	}
	return show(x.Name, file, how, pair, nil, density)
}

// blinking is how long each of two pictures shows that show in turn.
const blinking = time.Second

// show makes one picture of two; one of them may be missing.
func show(name, file, how string, pair [2]*image.RGBA, list []diff.Change, density float64) (*Shown, error) {
	for i := range pair {
		if pair[i] == nil && how != "difference" {
			pair[i] = image.NewRGBA(pair[1-i].Rect)
		}
	}
	var img *image.RGBA
	var data []byte
	switch how {
	case "difference":
		img = diff.Framed(pair[0], pair[1], list, density)
	case "overlay":
		img = diff.Overlaid(pair[0], pair[1])
	case "split":
		img = diff.Beside(pair[0], pair[1])
	case "blink":
		a, b := diff.SameSize(pair[0], pair[1])
		img, data = b, picture.Animation([]*image.RGBA{a, b}, blinking)
	}
	if data == nil {
		data = picture.PNG(img)
	}
	return &Shown{name, file, img.Rect.Dx(), img.Rect.Dy(), data}, nil
}

// AssetChange is an asset that came, went or looks different.
type AssetChange struct {
	Name     string
	Source   string
	Kind     diff.Kind // Added, Removed, Restyled
	Old, New *design.Element
}

// assetChanges are the marked elements of a drawing that differ, by the names of their assets. Either document may be nil.
func assetChanges(source string, old, new *design.Document) (out []AssetChange) {
	marked := func(d *design.Document) map[string]*design.Element {
		m := map[string]*design.Element{}
		if d == nil {
			return m
		}
		for _, e := range d.All() {
			if e.Marks.Asset != "" && m[e.Marks.Asset] == nil {
				m[e.Marks.Asset] = e
			}
		}
		return m
	}
	was, is := marked(old), marked(new)
	f := match.NewField(nil)
	for _, n := range sortedKeys(was) {
		switch {
		case is[n] == nil:
			out = append(out, AssetChange{n, source, diff.Removed, was[n], nil})
		case f.State(was[n]) != f.State(is[n]):
			out = append(out, AssetChange{n, source, diff.Restyled, was[n], is[n]})
		}
	}
	for _, n := range sortedKeys(is) {
		if was[n] == nil {
			out = append(out, AssetChange{n, source, diff.Added, nil, is[n]})
		}
	}
	return out
}

// ChangeFilter says which changes of a comparison are wanted; what is empty lets all through.
type ChangeFilter struct {
	Screens []string
	Kinds   []diff.Kind
	Only    []string // elements, tokens, texts, assets
	Phases  map[string]bool
}

// Parts are what a comparison has, as filters name it.
var Parts = []string{"elements", "tokens", "texts", "assets"}

// Filter takes out of a comparison what is not wanted.
func (c *Comparison) Filter(f ChangeFilter) error {
	for _, p := range f.Only {
		if !slices.Contains(Parts, p) {
			return hint.New(fmt.Sprintf("--only %q is not known", p), "Choose "+strings.Join(Parts, ", ")+".")
		}
	}
	for _, k := range f.Kinds {
		if !slices.Contains(diff.Kinds, k) {
			return hint.New(fmt.Sprintf("--kind %q is not known", k), "Choose "+strings.Join(kindNames(), ", ")+".")
		}
	}
	want := func(part string) bool { return len(f.Only) == 0 || slices.Contains(f.Only, part) }
	if !want("tokens") || len(f.Kinds) > 0 {
		c.Tokens = nil
	}
	if !want("texts") || len(f.Kinds) > 0 {
		c.Texts = nil
	}
	if len(f.Only) > 0 || len(f.Kinds) > 0 {
		c.Phases, c.Remarks = 0, 0
	}
	if !want("assets") {
		c.Assets = nil
	}
	if !want("elements") {
		c.Screens = nil
	}
	if len(f.Kinds) > 0 {
		c.Assets = slices.DeleteFunc(c.Assets, func(x AssetChange) bool { return !slices.Contains(f.Kinds, x.Kind) })
		for i := range c.Screens {
			c.Screens[i].Changes = slices.DeleteFunc(c.Screens[i].Changes, func(x diff.Change) bool { return !slices.Contains(f.Kinds, x.Kind) })
		}
	}
	if f.Phases != nil {
		for i := range c.Screens {
			s := &c.Screens[i]
			s.Changes = slices.DeleteFunc(s.Changes, func(x diff.Change) bool { return !phasedAbove(x.Element(), f.Phases) })
		}
	}
	c.Screens = slices.DeleteFunc(c.Screens, func(s ScreenChanges) bool { return len(s.Changes) == 0 })
	return nil
}

// phasedAbove reports whether an element, one around it or its screen is among those named.
func phasedAbove(e *design.Element, named map[string]bool) bool {
	for p := e; p != nil; p = p.Parent {
		if named[elementKey(p)] {
			return true
		}
	}
	return false
}

// elementKey names an element among all drawings.
func elementKey(e *design.Element) string { return e.Screen.Name + "\x00" + e.Selector() }

func kindNames() (out []string) {
	for _, k := range diff.Kinds {
		out = append(out, string(k))
	}
	return out
}
