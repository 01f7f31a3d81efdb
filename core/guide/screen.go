package guide

import (
	"fmt"
	"sort"
	"strings"

	"archetyp/core/code"
	"archetyp/core/design"
	"archetyp/core/escape"
	"archetyp/core/geom"
	"archetyp/core/infer/layout"
)

type spotModel struct {
	Name, Path, Kind, Size, Code string
	X, Y, W, H                   float64
	Facts                        []factModel
}

type factModel struct{ Name, Value, Origin, Swatch string }

type usedModel struct {
	Name, Value, Swatch string
	Count               int
}

type screenModel struct {
	Name, Page, Picture, Source string
	Width, Height               float64
	Elements                    int
	Spots                       []spotModel
	Colors, Types, Others       []usedModel
	Components, Assets          []usedModel
	Texts                       []textModel
	Fonts                       []string
	TextPage                    string // with its texts; "" for none
}

func (m *model) screens() {
	taken := map[string]bool{}
	for _, d := range m.in.Docs {
		for _, s := range d.Screens {
			slug := escape.FileName(design.Slug(s.Name))
			if slug == "" || slug == "index" {
				slug = "screen"
			}
			base := slug
			for i := 2; taken[slug]; i++ {
				slug = fmt.Sprintf("%s-%d", base, i)
			}
			taken[slug] = true
			sm := screenModel{Name: s.Name, Page: "screens/" + slug + ".html", Picture: "img/screen-" + slug + ".png", Source: d.Name,
				Width: s.Box.W, Height: s.Box.H, Elements: len(s.Elements)}
			m.picture(sm.Picture, s.Picture(), geom.Rect{W: s.Box.W, H: s.Box.H})
			m.spots(&sm, s)
			m.used(&sm, s, d)
			m.Screens = append(m.Screens, sm)
		}
	}
}

// spots are the elements one can point at: all that paint something by themselves, and the marked groups.
func (m *model) spots(sm *screenModel, s *design.Screen) {
	full := geom.Rect{W: s.Box.W, H: s.Box.H}
	var finder layout.Finder
	for _, e := range s.Elements {
		g := e.Geometry.Value.Intersect(full)
		if e.Hidden || g.W <= 0 && g.H <= 0 || e.Kind == design.Group && e.Marks.Component == "" && e.Marks.Asset == "" {
			continue
		}
		if inUse(e) {
			continue // a used drawing is pointed at as a whole
		}
		sp := spotModel{Name: firstOf(e.Name, e.NearestName()), Path: e.Path, Kind: string(e.Kind), X: g.X, Y: g.Y, W: max(g.W, 1), H: max(g.H, 1),
			Size: fmt.Sprintf("%s × %s", short(e.Geometry.Value.W), short(e.Geometry.Value.H)), Code: code.Print(code.CSS(e, m.in.CodeNames)[:1])}
		for _, f := range finder.Facts(e) {
			fm := factModel{Name: f.Name, Value: f.Value, Origin: string(f.Origin)}
			if f.Name == "fill" || f.Name == "stroke" {
				fm.Swatch = f.Value
			}
			sp.Facts = append(sp.Facts, fm)
		}
		sm.Spots = append(sm.Spots, sp)
	}
	// the small ones on top, so that they can be reached
	sort.SliceStable(sm.Spots, func(i, j int) bool { return sm.Spots[i].W*sm.Spots[i].H > sm.Spots[j].W*sm.Spots[j].H })
}

func inUse(e *design.Element) bool {
	for p := e.Parent; p != nil; p = p.Parent {
		if p.Shape == "use" {
			return true
		}
	}
	return false
}

func short(v float64) string {
	return strings.TrimSuffix(strings.TrimRight(fmt.Sprintf("%.2f", v), "0"), ".")
}

// used is what a screen uses, each with its count.
func (m *model) used(sm *screenModel, s *design.Screen, d *design.Document) {
	for _, f := range m.in.Harvest.Found {
		n := 0
		for _, u := range f.Uses {
			if u.Screen == s.Name && u.Source == d.Name {
				n++
			}
		}
		if n == 0 {
			continue
		}
		u := usedModel{Name: firstOf(f.Token, f.Behind), Value: f.Text, Count: n}
		switch f.Kind {
		case "color":
			u.Swatch = f.Text
			sm.Colors = append(sm.Colors, u)
		case "type":
			sm.Types = append(sm.Types, u)
		case "gradient":
			u.Swatch = f.Text
			sm.Others = append(sm.Others, u)
		case "shadow", "radius":
			sm.Others = append(sm.Others, u)
		}
	}
	byCount := func(list []usedModel) {
		sort.SliceStable(list, func(i, j int) bool { return list[i].Count > list[j].Count })
	}
	byCount(sm.Colors)
	byCount(sm.Types)
	components, assets := map[string]int{}, map[string]int{}
	for _, e := range s.Elements {
		if e.Marks.Component != "" {
			components[e.Marks.Component]++
		}
		if e.Marks.Asset != "" {
			assets[e.Marks.Asset]++
		}
	}
	sm.Components, sm.Assets = counted(components), counted(assets)
	for _, t := range m.in.Texts.Entries {
		for _, p := range t.Places {
			if p.Screen == s.Name && p.Source == d.Name {
				sm.Texts = append(sm.Texts, textModel{Key: t.Key, Words: t.Words})
				break
			}
		}
	}
	for _, f := range d.Fonts {
		state := "found"
		if !f.Found {
			state = "missing"
		}
		sm.Fonts = append(sm.Fonts, fmt.Sprintf("%s %d (%s)", f.Family, f.Weight, state))
	}
}

func counted(m map[string]int) []usedModel {
	var out []usedModel
	for k, n := range m {
		out = append(out, usedModel{Name: k, Count: n})
	}
	sort.Slice(out, func(i, j int) bool { return out[i].Name < out[j].Name })
	return out
}
