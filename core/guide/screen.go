package guide

import (
	"cmp"
	"fmt"
	"html/template"
	"sort"
	"strconv"
	"strings"

	"archetyp/core/code"
	"archetyp/core/design"
	"archetyp/core/digest"
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

	drawing *Drawing
	index   int // of the screen in the drawing
	uses    []usedValue
}

// usedValue is a value of the harvest that a screen uses, by its place there.
type usedValue struct{ Value, Count int }

func (m *model) screens() {
	uses, texts := m.usesByScreen(), m.textsByScreen()
	taken := map[string]bool{}
	for i := range m.in.Drawings {
		d := &m.in.Drawings[i]
		for k, s := range d.Screens {
			slug := pageName(s.Name, taken)
			at := screenAt{d.Name, s.Name}
			sm := screenModel{Name: s.Name, Page: "screens/" + slug + ".html", Picture: "img/screen-" + slug + ".png",
				Source: d.Name,
				Width:  s.Width, Height: s.Height, Elements: s.Elements, drawing: d, index: k, uses: uses[at], Texts: texts[at]}
			m.picture(sm.Picture, digest.Of(d.Key, strconv.Itoa(k)), d, geom.Rect{W: s.Width, H: s.Height},
				func(doc *design.Document) *design.PaintNode { return doc.Screens[k].Picture() })
			m.Screens = append(m.Screens, sm)
		}
	}
}

// pageName is the name of a screen's page, which no other has.
func pageName(screen string, taken map[string]bool) string {
	slug := escape.FileName(design.Slug(screen))
	if slug == "" || slug == "index" {
		slug = "screen"
	}
	base := slug
	for i := 2; taken[slug]; i++ {
		slug = fmt.Sprintf("%s-%d", base, i)
	}
	taken[slug] = true
	return slug
}

// screenAt names a screen.
type screenAt struct{ source, screen string }

// usesByScreen counts for every screen the values of the harvest it uses, in the order of the harvest.
func (m *model) usesByScreen() map[screenAt][]usedValue {
	out := map[screenAt][]usedValue{}
	if m.in.Harvest == nil {
		return out
	}
	for i, f := range m.in.Harvest.Found {
		for k := range f.Uses {
			at := screenAt{f.Uses[k].Source, f.Uses[k].Screen}
			list := out[at]
			if n := len(list); n == 0 || list[n-1].Value != i {
				list = append(list, usedValue{Value: i})
			}
			list[len(list)-1].Count++
			out[at] = list
		}
	}
	return out
}

// textsByScreen lists the texts of every screen, in the order of the catalogue.
func (m *model) textsByScreen() map[screenAt][]textModel {
	out := map[screenAt][]textModel{}
	if m.in.Texts == nil {
		return out
	}
	for _, t := range m.in.Texts.Entries {
		seen := map[screenAt]bool{}
		for i := range t.Places {
			if at := (screenAt{t.Places[i].Source, t.Places[i].Screen}); !seen[at] {
				seen[at] = true
				out[at] = append(out[at], textModel{Key: t.Key, Words: t.Words})
			}
		}
	}
	return out
}

// screenPage makes the page of a screen.
func (m *model) screenPage(tmpl *template.Template, s *screenModel) ([]byte, error) {
	doc, err := s.drawing.Doc()
	if err != nil {
		return nil, err
	}
	whole := *s
	m.spots(&whole, doc.Screens[s.index])
	m.used(&whole, doc.Screens[s.index], doc)
	return page(tmpl, "screen.html", screenPage{m, &whole})
}

// spots are the elements one can point at: all that paint something by themselves, and the marked groups.
func (m *model) spots(sm *screenModel, s *design.Screen) {
	full := geom.Rect{W: s.Box.W, H: s.Box.H}
	var finder layout.Finder
	var list []*design.Element
	for _, e := range s.Elements {
		g := e.Geometry.Value.Intersect(full)
		if e.Hidden || g.W <= 0 && g.H <= 0 || e.Kind == design.Group && e.Marks.Component == "" && e.Marks.Asset == "" {
			continue
		}
		if !inUse(e) { // a used drawing is pointed at as a whole
			list = append(list, e)
		}
	}
	own := code.Own(list, code.Options{Tokens: m.in.CodeNames})
	for i, e := range list {
		g := e.Geometry.Value.Intersect(full)
		sp := spotModel{Name: cmp.Or(e.Name, e.NearestName()), Path: e.Path, Kind: string(e.Kind), X: g.X, Y: g.Y,
			W: max(g.W, 1), H: max(g.H, 1),
			Size: fmt.Sprintf("%s × %s", short(e.Geometry.Value.W), short(e.Geometry.Value.H)), Code: code.Print(own[i : i+1])}
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
		if p.Native == design.Instance {
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
	for _, v := range sm.uses {
		f := m.in.Harvest.Found[v.Value]
		u := usedModel{Name: cmp.Or(f.Token, f.Behind), Value: f.Text, Count: v.Count}
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
