package guide

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"sort"
	"strconv"
	"strings"

	"archetyp/core/design"
	"archetyp/core/digest"
	"archetyp/core/escape"
	"archetyp/core/geom"
)

// screenModel is a screen of the guide.
type screenModel struct {
	Screen
	Page, Picture, Source string
	TextPage              string // with its texts; "" for none
	drawing               *Drawing
	index                 int // of the screen in the drawing
	offset                int // of its first element among all of the drawing
	uses                  []usedValue
	Annotations           []annotationModel
	Phase                 string // of the screen as a whole
	Open                  int    // remarks
}

// Data is where the script finds the screen's elements.
func (s *screenModel) Data() string { return strings.TrimSuffix(s.Page, ".html") }

// usedValue is a value of the harvest that a screen uses: its place there, and the elements.
type usedValue struct {
	Value int
	At    []int // among all elements of the drawing
}

// screenAt names a screen.
type screenAt struct{ source, screen string }

// listScreens lists the screens that are published, in their order.
func (m *model) listScreens() {
	uses := m.usesByScreen()
	a := &m.in.Screens
	for i := range m.in.Drawings {
		d := &m.in.Drawings[i]
		offset := 0
		for k, s := range d.Screens {
			if !matchesAny(a.LeaveOut, s.Name) {
				if group, ok := a.groupOf(s.Name); ok {
					s.Group = group
				}
				if about := a.About[s.Name]; about != "" {
					s.About = about
				}
				m.screens = append(m.screens, &screenModel{Screen: s, Source: d.Name, drawing: d, index: k, offset: offset,
					uses: uses[screenAt{d.Name, s.Name}]})
			}
			offset += s.Elements
		}
	}
	place := func(s *screenModel) int {
		if i := slices.IndexFunc(a.Order, func(p string) bool { return fits(p, s.Name) }); i >= 0 {
			return i
		}
		return len(a.Order)
	}
	slices.SortStableFunc(m.screens, func(x, y *screenModel) int { return cmp.Compare(place(x), place(y)) })
	taken := map[string]bool{}
	m.at = map[screenAt]*screenModel{}
	for _, s := range m.screens {
		slug := pageName(s.Name, taken)
		s.Page, s.Picture = "screens/"+slug+".html", "img/screen-"+slug+".png"
		m.at[screenAt{s.Source, s.Name}] = s
	}
}

// LeavesOut reports whether a screen is one of those that are read and never published.
func LeavesOut(patterns []string, screen string) bool { return matchesAny(patterns, screen) }

// matchesAny reports whether a name fits one of several patterns.
func matchesAny(patterns []string, name string) bool {
	return slices.ContainsFunc(patterns, func(p string) bool { return fits(p, name) })
}

// fits reports whether a name fits a pattern, in which * stands for any letters and everything else for itself.
func fits(pattern, name string) bool {
	parts := strings.Split(pattern, "*")
	rest, ok := strings.CutPrefix(name, parts[0])
	if !ok || len(parts) == 1 {
		return ok && rest == ""
	}
	last := len(parts) - 1
	for _, p := range parts[1:last] {
		if _, rest, ok = strings.Cut(rest, p); !ok {
			return false
		}
	}
	return strings.HasSuffix(rest, parts[last])
}

// groupOf is the group that the arrangement puts a screen into: the first, by name, whose patterns it fits.
func (a *Arrangement) groupOf(name string) (group string, ok bool) {
	for g, names := range a.Groups {
		if matchesAny(names, name) && (!ok || g < group) {
			group, ok = g, true
		}
	}
	return group, ok
}

// pageName is the name of a screen's page, which no other has.
func pageName(screen string, taken map[string]bool) string {
	slug := escape.FileName(design.Slug(screen))
	if slug == "" || slug == "index" {
		slug = "screen"
	}
	return unique(slug, "screen", taken)
}

// usesByScreen lists for every screen the values of the harvest it uses, in the order of the harvest.
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
			list[len(list)-1].At = append(list[len(list)-1].At, f.Uses[k].Index)
			out[at] = list
		}
	}
	return out
}

// screensPage lists the screens by group.
type screensPage struct {
	Groups []screenGroup
	Widths []widthModel // there are more than one of
	Phases []widthModel
	Named  bool // there are groups to filter by
}

type screenGroup struct {
	Name    string
	Screens []*screenModel
}

// widthModel is a kind of screen by its width.
type widthModel struct {
	Name  string
	Count int
}

// WidthName is the kind of screen that it is by its width.
func (s *screenModel) WidthName() string {
	switch {
	case s.Width < 600:
		return "phone"
	case s.Width < 1024:
		return "tablet"
	}
	return "desktop"
}

func (b *builder) screenPages() {
	if len(b.screens) == 0 {
		return
	}
	page := screensPage{}
	phases := map[string]int{}
	groups, widths := map[string]int{}, map[string]int{}
	for _, s := range b.screens {
		i, known := groups[s.Group]
		if !known {
			i = len(page.Groups)
			groups[s.Group] = i
			page.Groups = append(page.Groups, screenGroup{Name: s.Group})
		}
		page.Groups[i].Screens = append(page.Groups[i].Screens, s)
		widths[s.WidthName()]++
		if s.Phase != "" {
			phases[s.Phase]++
		}
	}
	for _, name := range slices.Sorted(maps.Keys(phases)) {
		page.Phases = append(page.Phases, widthModel{name, phases[name]})
	}
	for _, name := range []string{"phone", "tablet", "desktop"} {
		if widths[name] > 0 {
			page.Widths = append(page.Widths, widthModel{name, widths[name]})
		}
	}
	sort.SliceStable(page.Groups, func(i, k int) bool { return page.Groups[i].Name != "" && page.Groups[k].Name == "" })
	page.Named = len(page.Groups) > 1
	texts := b.textScreens()
	b.page(shown("Screens", "screens.html", "screens", page))
	var jobs []pageJob
	for _, g := range page.Groups {
		for _, s := range g.Screens {
			jobs = append(jobs, b.screenPage(s, texts[screenAt{s.Source, s.Name}]))
			b.foundScreen(s)
		}
	}
	b.under(jobs)
}

// screenPage adds the page of a screen, its data, its layers and its picture.
func (b *builder) screenPage(s *screenModel, texts []screenText) pageJob {
	key := b.screenKey(s, texts)
	b.data(s.Data(), digest.Of("elements", key), func() (any, error) { return b.elements(s, texts) })
	b.data(s.Data()+".layers", digest.Of("layers", s.drawing.Key, strconv.Itoa(s.index)), func() (any, error) {
		return s.layers()
	})
	b.picture(s.Picture, digest.Of(s.drawing.Key, strconv.Itoa(s.index)), s.drawing, geom.Rect{W: s.Width, H: s.Height},
		func(doc *design.Document) *design.PaintNode { return doc.Screens[s.index].Picture() })
	return pageJob{link: link{s.Name, s.Page}, kind: "screen", key: key,
		scripts: []string{"measure.js", "screen.js", "layers.js"},
		content: func() (any, error) {
			doc, err := s.drawing.Doc()
			if err != nil {
				return nil, err
			}
			return b.used(s, doc, texts), nil
		}}
}

// screenKey is a sum of what the page of a screen shows.
func (b *builder) screenKey(s *screenModel, texts []screenText) string {
	d := digest.New()
	d.Text(s.drawing.Key, s.TextPage, s.Group, s.About, sum(texts), sum(b.leadsFrom(s)), sum(s.Annotations))
	for _, c := range b.parts {
		d.Text(c.Name, c.Page)
	}
	d.Num(float64(s.index))
	for _, u := range s.uses {
		f := b.in.Harvest.Found[u.Value]
		d.Text(f.Kind, f.Text, f.Token, f.Behind)
		d.Num(float64(len(u.At)))
	}
	return d.String()
}

// screenPageModel is what the page of a screen says below its picture.
type screenPageModel struct {
	*screenModel
	Colors, Types, Others []usedModel
	Fonts                 []string
	Components, Assets    []usedModel
	Texts                 []screenText
	Locales               []string
	Leads                 []leadModel
}

// usedModel is a value, component or asset that a screen uses.
type usedModel struct {
	Name, Value, Swatch, Page string
	At                        []int // the elements, by their place on the screen
}

// used is what a screen uses, the most used first.
func (b *builder) used(s *screenModel, d *design.Document, texts []screenText) *screenPageModel {
	p := &screenPageModel{screenModel: s, Texts: texts, Leads: b.leadsFrom(s)}
	if b.in.Texts != nil {
		p.Locales = append([]string{b.in.Texts.Locale}, b.in.Texts.Locales...)
	}
	for _, v := range s.uses {
		f := b.in.Harvest.Found[v.Value]
		u := usedModel{Name: cmp.Or(f.Token, f.Behind), Value: f.Text}
		u.Page = b.byToken[u.Name]
		for _, i := range v.At {
			u.At = append(u.At, i-s.offset)
		}
		switch f.Kind {
		case "color":
			u.Swatch = f.Text
			p.Colors = append(p.Colors, u)
		case "type":
			p.Types = append(p.Types, u)
		case "gradient":
			u.Swatch = f.Text
			p.Others = append(p.Others, u)
		case "shadow", "radius":
			p.Others = append(p.Others, u)
		}
	}
	for _, list := range [][]usedModel{p.Colors, p.Types, p.Others} {
		sort.SliceStable(list, func(i, k int) bool { return len(list[i].At) > len(list[k].At) })
	}
	components, assets := map[string][]int{}, map[string][]int{}
	for i, e := range d.Screens[s.index].Elements {
		if e.Marks.Component != "" {
			components[e.Marks.Component] = append(components[e.Marks.Component], i)
		}
		if e.Marks.Asset != "" {
			assets[e.Marks.Asset] = append(assets[e.Marks.Asset], i)
		}
	}
	p.Components = counted(components, func(name string) string {
		if c := b.component(name); c != nil {
			return c.Page
		}
		return ""
	})
	p.Assets = counted(assets, func(name string) string { return "assets.html#" + assetID(name) })
	for _, f := range d.Fonts {
		state := "found"
		if !f.Found {
			state = "missing"
		}
		p.Fonts = append(p.Fonts, fmt.Sprintf("%s %d (%s)", f.Family, f.Weight, state))
	}
	return p
}

func counted(m map[string][]int, page func(string) string) []usedModel {
	var out []usedModel
	for name, at := range m {
		out = append(out, usedModel{Name: name, Page: page(name), At: at})
	}
	sort.Slice(out, func(i, j int) bool { return out[i].Name < out[j].Name })
	return out
}

func short(v float64) string {
	return strings.TrimSuffix(strings.TrimRight(fmt.Sprintf("%.2f", v), "0"), ".")
}
