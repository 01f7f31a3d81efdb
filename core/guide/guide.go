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

	"archetyp/core/code"
	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/digest"
	"archetyp/core/geom"
	"archetyp/core/paint/picture"
	"archetyp/core/paint/raster"
	"archetyp/core/text"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/core/token/harvest"
)

//go:embed files
var files embed.FS

// Asset is an exported element, with a picture of it.
type Asset struct {
	Name          string
	Width, Height float64 // px
	Picture       Picture
	Files         []string // all files there are of it
}

// Picture is a picture in hand: Key says which, Make gives its bytes.
type Picture struct {
	Key, Extension string // the extension with the dot
	Make           func() ([]byte, error)
}

// Drawing is a document of the guide. Its pages are made of Doc, and only where they have to be.
type Drawing struct {
	Name    string
	Key     string // hash of all that the document says
	Screens []Screen
	Parts   []Part // the components drawn in it
	Doc     func() (*design.Document, error)
}

// Screen is a screen of a drawing. Lengths in px.
type Screen struct {
	Name          string
	Width, Height float64
	Elements      int
}

// ScreensOf lists the screens of a document.
func ScreensOf(d *design.Document) []Screen {
	var out []Screen
	for _, s := range d.Screens {
		out = append(out, Screen{s.Name, s.Box.W, s.Box.H, len(s.Elements)})
	}
	return out
}

// Input is what the guide shows.
type Input struct {
	Name      string
	Drawings  []Drawing
	Key       string // hash of what all pages depend on beside drawings and texts: tokens, their names, the program
	Tokens    *token.Set
	Harvest   *harvest.Harvest
	Texts     *text.Catalogue
	Assets    []Asset
	Property  func(path string) string // the custom property of a token
	CodeNames code.Tokens              // custom properties for values
	Fonts     map[string]Picture       // font files by name below guide/fonts
	Faces     []Face
	Body      string // font families the guide is set in; "" for the reader's own
	Title     string
}

// Face is an @font-face of the guide.
type Face struct {
	Family string
	Weight int
	Italic bool
	File   string
}

// File is one file of the guide. Make may be called beside others.
type File struct {
	Path string
	Key  string // a file made with the same key is the same; "" for what is made as soon as asked
	Make func() ([]byte, error)
}

const density = 2 // of the guide's pictures

// Files lists the files of the guide, by path below it.
func Files(in *Input) ([]File, error) {
	m := &model{Name: in.Name, in: in}
	m.tokens()
	m.components()
	m.assets()
	m.texts()
	m.screens()
	tmpl, err := template.New("").Funcs(funcs).ParseFS(files, "files/*.html")
	if err != nil {
		return nil, err
	}
	m.guideTexts(tmpl)
	style := append([]byte(faces(in)), Static("style.css")...)
	m.files = append(m.files, ready("style.css", style), ready("script.js", Static("script.js")))
	for name, f := range in.Fonts {
		m.files = append(m.files, File{Path: "fonts/" + name, Key: f.Key, Make: f.Make})
	}
	m.files = append(m.files, File{Path: "index.html", Key: m.indexKey(),
		Make: func() ([]byte, error) { return page(tmpl, "index.html", m) }})
	nav := digest.New()
	for i := range m.Screens {
		nav.Text(m.Screens[i].Name, m.Screens[i].Page)
	}
	for i := range m.Screens {
		s := &m.Screens[i]
		m.files = append(m.files, File{Path: s.Page, Key: m.screenKey(s, nav.String()),
			Make: func() ([]byte, error) { return m.screenPage(tmpl, s) }})
	}
	sort.Slice(m.files, func(i, j int) bool { return m.files[i].Path < m.files[j].Path })
	return m.files, nil
}

// indexKey is a sum of what the first page shows.
func (m *model) indexKey() string {
	d := digest.New()
	d.Text(m.in.Key, m.Name)
	for i := range m.Screens {
		s := &m.Screens[i]
		d.Text(s.Name, s.Page)
		d.Num(s.Width, s.Height, float64(s.Elements))
		m.addUses(d, s)
	}
	for i := range m.Texts {
		t := &m.Texts[i]
		d.Text(t.Key, t.Words)
		d.Flag(t.Unused)
		d.Text(t.Places...)
	}
	for i := range m.Types {
		d.Text(m.Types[i].Words)
	}
	d.Text(fmt.Sprint(m.Look, m.Components, m.Assets))
	return d.String()
}

// screenKey is a sum of what the page of a screen shows; nav is one of all screens, which every page lists.
func (m *model) screenKey(s *screenModel, nav string) string {
	d := digest.New()
	d.Text(m.in.Key, m.Name, nav, s.drawing.Key, s.TextPage)
	d.Num(float64(s.index))
	for i := range s.Texts {
		d.Text(s.Texts[i].Key, s.Texts[i].Words)
	}
	m.addUses(d, s)
	return d.String()
}

// addUses adds what the harvest says of a screen, in its order.
func (m *model) addUses(d *digest.Digest, s *screenModel) {
	for _, u := range s.uses {
		f := m.in.Harvest.Found[u.Value]
		d.Text(f.Kind, f.Text, f.Token, f.Behind)
		d.Num(float64(u.Count))
	}
}

func page(tmpl *template.Template, name string, data any) ([]byte, error) {
	var b bytes.Buffer
	err := tmpl.ExecuteTemplate(&b, name, data)
	return b.Bytes(), err
}

func ready(path string, data []byte) File {
	return File{Path: path, Make: func() ([]byte, error) { return data, nil }}
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

	in    *Input
	files []File
}

type lookModel struct{ Value, Swatch, Msg, Where string }

func (m *model) tokens() {
	printed := map[string]string{}
	if m.in.Tokens == nil {
		return
	}
	groups := map[string]int{}
	by := m.in.Harvest.ByToken(m.in.Tokens)
	for _, t := range m.in.Tokens.Tokens {
		end := m.in.Tokens.Resolve(t)
		tm := tokenModel{Path: t.Path, Property: m.in.Property(t.Path), About: t.Description, Alias: t.Value.Alias}
		uses := by[t.Path]
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
		l := lookModel{Value: f.Text, Where: strings.Join(places(pointers(f.Uses)), "; ")}
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
func sample(uses []*harvest.Use) string {
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

func pointers(uses []harvest.Use) []*harvest.Use {
	out := make([]*harvest.Use, len(uses))
	for i := range uses {
		out[i] = &uses[i]
	}
	return out
}

// places words where uses are, each screen once.
func places(uses []*harvest.Use) []string {
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

// picture adds a PNG of a part of a drawing.
func (m *model) picture(path, key string, d *Drawing, view geom.Rect, paint func(*design.Document) *design.PaintNode) {
	m.files = append(m.files, File{Path: path, Key: key, Make: func() ([]byte, error) {
		doc, err := d.Doc()
		if err != nil {
			return nil, err
		}
		img, err := raster.Render(paint(doc), raster.Options{View: view, Density: density})
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
		am := assetModel{Name: a.Name, Width: a.Width, Height: a.Height, Picture: "assets/" + a.Name + a.Picture.Extension,
			Files: a.Files}
		m.files = append(m.files, File{Path: am.Picture, Key: a.Picture.Key, Make: a.Picture.Make})
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
