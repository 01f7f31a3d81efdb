// Package guide makes the style guide: documents, tokens, texts and assets go in, the files of a small static site
// come out. It works from disk without a network; all links are relative.
package guide

import (
	"bytes"
	"embed"
	"fmt"
	"html/template"
	"sort"
	"strings"

	"archetyp/core/asset"
	"archetyp/core/code"
	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/paint/picture"
	"archetyp/core/paint/raster"
	"archetyp/core/text"
	"archetyp/core/token"
	"archetyp/core/token/emit"
)

//go:embed files
var files embed.FS

// AssetFile is a picture of an asset.
type AssetFile struct {
	Data      []byte
	Extension string   // with the dot
	Files     []string // all files there are of it
}

// Input is what the guide shows.
type Input struct {
	Name       string
	Docs       []*design.Document
	Tokens     *token.Set
	Harvest    *token.Harvest
	Texts      *text.Catalogue
	Assets     []*asset.Asset
	AssetFiles map[string]AssetFile     // the picture shown of each, by name
	Property   func(path string) string // the custom property of a token
	CodeNames  code.Tokens              // custom properties for values
	Fonts      map[string][]byte        // font files by name below guide/fonts
	Faces      []Face
	Body       string // font families the guide is set in; "" for the reader's own
	Title      string
}

// Face is an @font-face of the guide.
type Face struct {
	Family string
	Weight int
	Italic bool
	File   string
}

// Job is one file that takes work to make: Make is safe to call beside others.
type Job struct {
	Path string
	Make func() ([]byte, error)
}

const density = 2 // of the guide's pictures

// Jobs lists the files of the guide, by path below it. Pages are made at once; pictures when asked for.
func Jobs(in *Input) ([]Job, error) {
	m := &model{Name: in.Name, in: in}
	m.tokens()
	m.components()
	m.assets()
	m.texts()
	m.screens()
	if err := m.guideTexts(); err != nil {
		return nil, err
	}
	var jobs []Job
	for _, name := range []string{"style.css", "script.js"} {
		data, err := files.ReadFile("files/" + name)
		if err != nil {
			return nil, err
		}
		if name == "style.css" {
			data = append([]byte(faces(in)), data...)
		}
		jobs = append(jobs, ready(name, data))
	}
	for name, data := range in.Fonts {
		jobs = append(jobs, ready("fonts/"+name, data))
	}
	jobs = append(jobs, m.jobs...)
	tmpl, err := template.New("").Funcs(funcs).ParseFS(files, "files/*.html")
	if err != nil {
		return nil, err
	}
	page := func(path, name string, data any) error {
		var b bytes.Buffer
		if err := tmpl.ExecuteTemplate(&b, name, data); err != nil {
			return fmt.Errorf("guide page %s: %w", path, err)
		}
		jobs = append(jobs, ready(path, b.Bytes()))
		return nil
	}
	if err := page("index.html", "index.html", m); err != nil {
		return nil, err
	}
	for i := range m.Screens {
		if err := page(m.Screens[i].Page, "screen.html", screenPage{m, &m.Screens[i]}); err != nil {
			return nil, err
		}
	}
	sort.Slice(jobs, func(i, j int) bool { return jobs[i].Path < jobs[j].Path })
	return jobs, nil
}

func ready(path string, data []byte) Job {
	return Job{path, func() ([]byte, error) { return data, nil }}
}

// faces declares the workspace's fonts, so that the guide is set in them.
func faces(in *Input) string {
	var b strings.Builder
	for _, f := range in.Faces {
		style := "normal"
		if f.Italic {
			style = "italic"
		}
		fmt.Fprintf(&b, "@font-face { font-family: %s; font-weight: %d; font-style: %s; src: url(%s); font-display: swap; }\n",
			css.String(f.Family), f.Weight, style, css.String("fonts/"+f.File))
	}
	if in.Body != "" {
		fmt.Fprintf(&b, ":root { --guide-font: %s; }\n", css.String(in.Body))
	}
	if in.Title != "" {
		fmt.Fprintf(&b, ":root { --guide-title: %s; }\n", css.String(in.Title))
	}
	return b.String()
}

var funcs = template.FuncMap{
	"css":     func(s string) template.CSS { return template.CSS(s) },
	"percent": func(v, of float64) string { return fmt.Sprintf("%.4f%%", 100*v/max(of, 1e-9)) },
}

type screenPage struct {
	*model
	Screen *screenModel
}

type tokenModel struct {
	Path, Property, Value, Alias, About string
	Short                               string // the last part of the name
	Uses                                int
	Where                               []string
	Swatch, Ink                         string // of a colour: what to paint, and what to write on it
	Contrast                            string
	Note                                string
	Px                                  float64
	CSS                                 string // the value in px, to show it with
	Words                               string // what the sample says: words of the drawings
}

type groupModel struct {
	Name   string
	Tokens []tokenModel
}

type model struct {
	Name       string
	Colors     []groupModel
	Types      []tokenModel
	Spaces     []tokenModel
	Radii      []tokenModel
	Shadows    []tokenModel
	Gradients  []tokenModel
	Others     []tokenModel
	Look       []lookModel
	Components []componentModel
	Assets     []assetModel
	Texts      []textModel
	Screens    []screenModel

	in   *Input
	jobs []Job
}

type lookModel struct{ Value, Swatch, Msg, Where string }

func (m *model) tokens() {
	printed := map[string]string{}
	if m.in.Tokens == nil {
		return
	}
	groups := map[string]int{}
	for _, t := range m.in.Tokens.Tokens {
		end := m.in.Tokens.Resolve(t)
		tm := tokenModel{Path: t.Path, Property: m.in.Property(t.Path), About: t.Description, Alias: t.Value.Alias}
		uses := m.in.Harvest.Uses(m.in.Tokens, t)
		tm.Uses = len(uses)
		tm.Short = t.Path[strings.LastIndexByte(t.Path, '.')+1:]
		tm.Where = places(uses)
		tm.Value, tm.CSS = emit.Literal(m.in.Tokens, end), emit.Preview(m.in.Tokens, end)
		printed[t.Path] = tm.Value
		switch t.Type {
		case token.Color:
			m.color(t, end, &tm, groups)
		case token.Typography:
			tm.Words = sample(uses)
			m.Types = append(m.Types, tm)
		case token.Dimension:
			if l := end.Value.Length; l != nil {
				tm.Px = l.Px(m.in.Tokens.RootPx())
			}
			switch head, _, _ := strings.Cut(t.Path, "."); head {
			case "radius":
				m.Radii = append(m.Radii, tm)
			case "space":
				m.Spaces = append(m.Spaces, tm)
			default:
				m.Others = append(m.Others, tm)
			}
		case token.Shadow:
			m.Shadows = append(m.Shadows, tm)
		case token.Gradient:
			m.Gradients = append(m.Gradients, tm)
		default:
			m.Others = append(m.Others, tm)
		}
	}
	for _, f := range m.in.Harvest.Found {
		if !f.Notable() {
			continue
		}
		l := lookModel{Value: f.Text, Where: strings.Join(places(f.Uses), "; ")}
		if f.Kind == "color" {
			l.Swatch = f.Text
		}
		if f.Near != "" {
			l.Msg = "almost the same as " + f.Near
		} else {
			l.Msg = "off the scale; the nearest step is " + f.Off
		}
		m.Look = append(m.Look, l)
	}
}

// sample picks words that show a type style: the longest use that stays short.
func sample(uses []token.Use) string {
	best := ""
	for _, u := range uses {
		if n := len([]rune(u.Words)); n > len([]rune(best)) && n <= 48 {
			best = u.Words
		}
	}
	if best == "" {
		return "Aa Bb Cc 0123456789"
	}
	return best
}

func (m *model) color(t, end *token.Token, tm *tokenModel, groups map[string]int) {
	c := end.Value.Color
	if c == nil {
		return
	}
	tm.Swatch = c.CSS()
	onWhite, onBlack := color.Contrast(color.White, c.Over(color.White)), color.Contrast(color.Black, c.Over(color.White))
	tm.Ink = "#fff"
	if onBlack > onWhite {
		tm.Ink = "#000"
	}
	tm.Contrast = fmt.Sprintf("%.1f on white", color.Contrast(*c, color.White))
	parts := strings.Split(t.Path, ".")
	name := "colour"
	if len(parts) > 2 {
		name = parts[len(parts)-2]
	}
	i, ok := groups[name]
	if !ok {
		i = len(m.Colors)
		groups[name] = i
		m.Colors = append(m.Colors, groupModel{Name: name})
	}
	m.Colors[i].Tokens = append(m.Colors[i].Tokens, *tm)
}

// places words where uses are, each screen once.
func places(uses []token.Use) []string {
	count := map[string]int{}
	var order []string
	for _, u := range uses {
		if count[u.Screen]++; count[u.Screen] == 1 {
			order = append(order, u.Screen)
		}
	}
	var out []string
	for _, s := range order {
		if count[s] == 1 {
			out = append(out, s)
		} else {
			out = append(out, fmt.Sprintf("%s ×%d", s, count[s]))
		}
	}
	return out
}

type instanceModel struct {
	Label, Picture, Code string
	Width, Height        float64
}

type componentModel struct {
	Name, ID, Where, CodeFile, Behaviour string
	Missing                              string
	Instances                            []instanceModel
}

func (m *model) components() {
	by := map[string]int{}
	seen := map[string]bool{}
	for _, d := range m.in.Docs {
		for _, e := range d.All() {
			name := e.Marks.Component
			if name == "" || e.Hidden {
				continue
			}
			i, ok := by[name]
			if !ok {
				i = len(m.Components)
				by[name] = i
				m.Components = append(m.Components, componentModel{Name: name, ID: design.Slug(name), CodeFile: e.Marks.Code})
			}
			c := &m.Components[i]
			label := strings.TrimSpace(e.Marks.Variant + " " + firstOf(e.Marks.State, "default"))
			key := name + "\x00" + label
			if seen[key] {
				continue
			}
			seen[key] = true
			if c.Behaviour == "" {
				c.Behaviour = e.Marks.Behaviour
			}
			view := design.WholePixels(e.Painted.Value.Grow(1))
			pic := fmt.Sprintf("img/component-%s-%d.png", c.ID, len(c.Instances)+1)
			m.picture(pic, design.Alone(e), view)
			c.Instances = append(c.Instances, instanceModel{Label: label, Picture: pic, Code: code.Print(code.CSS(e, m.in.CodeNames)), Width: view.W, Height: view.H})
		}
	}
	for i := range m.Components {
		m.Components[i].missing()
	}
	sort.SliceStable(m.Components, func(i, j int) bool { return len(m.Components[i].Instances) > len(m.Components[j].Instances) })
}

// missing names states that some variants have and others lack.
func (c *componentModel) missing() {
	states, variants := map[string]bool{}, map[string]map[string]bool{}
	var order []string
	for _, in := range c.Instances {
		k := strings.LastIndexByte(in.Label, ' ')
		variant, state := "", in.Label
		if k >= 0 {
			variant, state = in.Label[:k], in.Label[k+1:]
		}
		if variants[variant] == nil {
			variants[variant] = map[string]bool{}
			order = append(order, variant)
		}
		states[state], variants[variant][state] = true, true
	}
	if len(order) < 2 || len(states) < 3 {
		return
	}
	var all, out []string
	for s := range states {
		all = append(all, s)
	}
	sort.Strings(all)
	for _, v := range order {
		var lack []string
		for _, s := range all {
			if !variants[v][s] {
				lack = append(lack, s)
			}
		}
		if len(lack) > 0 && len(all)-len(lack) > 1 { // one that is drawn once shows no states at all
			out = append(out, v+" has no "+strings.Join(lack, ", "))
		}
	}
	c.Missing = strings.Join(out, "; ")
}

func firstOf(a, b string) string {
	if a != "" {
		return a
	}
	return b
}

// picture adds a job that paints a PNG.
func (m *model) picture(path string, paint *design.PaintNode, view geom.Rect) {
	m.jobs = append(m.jobs, Job{path, func() ([]byte, error) {
		img, err := raster.Render(paint, raster.Options{View: view, Density: density})
		if err != nil {
			return nil, err
		}
		return picture.PNG(img), nil
	}})
}

type assetModel struct {
	Name, Picture string
	Width, Height float64
	Files         []string
}

func (m *model) assets() {
	for _, a := range m.in.Assets {
		f := m.in.AssetFiles[a.Name]
		am := assetModel{Name: a.Name, Width: a.Box.W, Height: a.Box.H, Picture: "assets/" + a.Name + f.Extension, Files: f.Files}
		m.jobs = append(m.jobs, ready(am.Picture, f.Data))
		m.Assets = append(m.Assets, am)
	}
}

type textModel struct {
	Key, Words string
	Places     []string
	Unused     bool
}

func (m *model) texts() {
	if m.in.Texts == nil {
		return
	}
	for _, e := range m.in.Texts.Entries {
		t := textModel{Key: e.Key, Words: e.Words, Unused: e.Unused}
		for _, p := range e.Places {
			if n := len(t.Places); n == 0 || t.Places[n-1] != p.Screen {
				t.Places = append(t.Places, p.Screen)
			}
		}
		m.Texts = append(m.Texts, t)
	}
}
