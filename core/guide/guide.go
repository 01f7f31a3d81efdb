// Package guide makes the style guide: documents, tokens, texts and assets go in, the files of a small static site
// come out. It works from disk without a network; all links are relative, and what a page does not need at once is
// kept in script files beside it, which browsers load from disk too.
//
// Files lists what there is. frame.go is what all pages share; each kind of page has a file of its own.
package guide

import (
	"embed"
	"encoding/json"
	"fmt"
	"html/template"
	"sort"
	"strings"
	"sync"

	"archetyp/core/code"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/digest"
	"archetyp/core/drift"
	"archetyp/core/geom"
	"archetyp/core/paint/picture"
	"archetyp/core/paint/raster"
	"archetyp/core/text"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/core/token/harvest"

	"github.com/evanw/esbuild/pkg/api"
)

//go:embed files
var files embed.FS

// Picture is a picture or file that can be made: Key says which, Make gives its bytes.
type Picture struct {
	Key, Extension string // the extension with the dot
	Make           func() ([]byte, error)
}

// Drawing is a document of the guide. Its pages are made of Doc, and only where they have to be.
type Drawing struct {
	Name    string
	Key     string // hash of all that the document says
	Screens []Screen
	Holds   Holds // what other pages show of it
	Doc     func() (*design.Document, error)
}

// Screen is a screen of a drawing. Lengths in px.
type Screen struct {
	Name          string
	Width, Height float64
	Elements      int
	Group         string `json:",omitempty"` // as marked
	About         string `json:",omitempty"` // its description in the drawing
}

// ScreensOf lists the screens of a document.
func ScreensOf(d *design.Document) []Screen {
	var out []Screen
	for _, s := range d.Screens {
		one := Screen{Name: s.Name, Width: s.Box.W, Height: s.Box.H, Elements: len(s.Elements), Group: s.Root.Marks.Group}
		if s.Root.Node != nil {
			for _, c := range s.Root.Node.Children {
				if c.Is("desc") {
					one.About = strings.Join(strings.Fields(c.TextContent()), " ")
				}
			}
		}
		out = append(out, one)
	}
	return out
}

// Holds is what a document holds that the pages of others show: instances of components, and ways to other screens.
type Holds struct {
	Parts []Part
	Leads []Lead
}

// HoldsOf reads them off a document.
func HoldsOf(d *design.Document, names code.Tokens) Holds {
	return Holds{PartsOf(d, names), LeadsOf(d)}
}

// Arrangement is how the screens of a guide are published. Patterns are names with * for any letters.
type Arrangement struct {
	LeaveOut []string
	Order    []string            // what comes first; the rest follows in the order of the drawings
	Groups   map[string][]string // screens by group; they go before marks
	About    map[string]string   // descriptions by name; they go before those of the drawings
}

// Input is what the guide shows.
type Input struct {
	Name      string
	Drawings  []Drawing
	Key       string // hash of what all pages depend on beside drawings and texts: tokens, their names, the program
	Library   *token.Library
	Tokens    *token.Set // of the library, in its default contexts
	Emit      emit.Options
	Harvest   *harvest.Harvest
	Texts     *text.Catalogue
	Assets    []Asset
	Screens   Arrangement
	Property  func(path string) string // the custom property of a token
	CodeNames code.Tokens              // custom properties for values
	Find      *emit.Finder             // tokens for facts
	// Code are the options that elements of a source are written with in a language.
	Code  func(source, language string) code.Options
	Use   map[string]Use // components the team has in code, by name
	Fonts map[string]Picture
	Faces []Face
	Body  string // font families the guide is set in; "" for the reader's own
	Title string

	Annotations []Annotation    // phases and remarks
	Shared      []Shared        // components of libraries, which are documented there
	Changes     *Changes        // from an earlier state; nil for no such page
	Drift       *drift.Standing // how far the site is from the design; nil where that is not recorded
	Edition     string          // "edition 3: As agreed"; "" for the workspace as it is
}

// Use is how a component that the team has in code is used, and an excerpt of its file.
type Use struct{ File, Import, Line, Excerpt string }

// Face is an @font-face of the guide.
type Face struct {
	Family string
	Weight int
	Italic bool
	File   string
}

// File is one file of the guide. Files may be made concurrently.
type File struct {
	Path string
	Key  string // with the same key, Make gives the same bytes; "" for no key
	Make func() ([]byte, error)
}

const density = 2 // of the guide's pictures

// Files lists the files of the guide, by path below it.
func Files(in *Input) ([]File, error) {
	m := &model{in: in}
	m.contexts()
	m.values()
	m.listScreens()
	m.annotate()
	m.components()
	tmpl, err := pages()
	if err != nil {
		return nil, err
	}
	site := &site{Name: in.Name, Edition: in.Edition, Switches: m.switches, Rem: m.rem()}
	b := &builder{model: m, site: site, tmpl: tmpl, byToken: map[string]string{}}
	b.overview()
	b.foundations()
	b.componentPages()
	b.screenPages()
	b.annotationPages()
	b.sitePage()
	b.changes()
	b.flows()
	b.assets()
	b.textPages()
	b.look()
	b.finish()
	b.statics()
	sort.Slice(b.files, func(i, k int) bool { return b.files[i].Path < b.files[k].Path })
	return b.files, nil
}

// model is what the pages are made of.
type model struct {
	in         *Input
	switches   []switchModel
	inContexts []contextModel // the default first, then each context that changes something
	uses       map[string][]*harvest.Use
	byType     map[token.Type][]tokenModel
	parts      []*componentModel
	screens    []*screenModel
	at         map[screenAt]*screenModel
	places     sync.Once
	byPlace    map[placeOf]*text.Entry // texts by where they stand
	ofTexts    string                  // a sum of all texts
}

// rem is how many px 1rem is.
func (m *model) rem() float64 {
	if m.in.Tokens == nil {
		return 16
	}
	return m.in.Tokens.RootPx()
}

// statics adds what is the same in every guide, the fonts, and the custom properties.
func (b *builder) statics() {
	b.file("style.css", faces(b.in), func() ([]byte, error) { return small("style.css", faces(b.in)) })
	for _, name := range scripts {
		b.file(name, "", func() ([]byte, error) { return small(name, "") })
	}
	b.file("values.css", b.in.Key, func() ([]byte, error) { return []byte(b.properties()), nil })
	for name, f := range b.in.Fonts {
		b.files = append(b.files, File{Path: "fonts/" + name, Key: f.Key, Make: f.Make})
	}
}

// scripts are those of the pages; the first is for all of them.
var scripts = []string{"page.js", "search.js", "screen.js", "measure.js", "layers.js", "component.js", "flow.js"}

// Static is a file the pages need: style.css, or a script.
func Static(name string) []byte {
	data, err := files.ReadFile("files/" + name)
	if err != nil {
		return nil // there are those
	}
	return data
}

// small is a static file, minified, with text of the workspace's own before it.
func small(name, before string) ([]byte, error) {
	loader := api.LoaderJS
	if strings.HasSuffix(name, ".css") {
		loader = api.LoaderCSS
	}
	r := api.Transform(before+string(Static(name)), api.TransformOptions{Loader: loader, MinifyWhitespace: true,
		MinifySyntax: loader == api.LoaderJS, Charset: api.CharsetUTF8, Sourcefile: name})
	if len(r.Errors) > 0 {
		return nil, fmt.Errorf("%s: %s", name, r.Errors[0].Text)
	}
	return r.Code, nil
}

// file adds a file that depends on the program, and on what key sums up.
func (b *builder) file(path, key string, make func() ([]byte, error)) {
	b.files = append(b.files, File{Path: path, Key: digest.Of(path, key, string(Static(path))), Make: make})
}

// data adds a script file that holds data for a page: guide.give("NAME", …). It is no JSON file because a page on disk
// may load scripts alone.
func (b *builder) data(name, key string, of func() (any, error)) {
	b.files = append(b.files, File{Path: name + ".js", Key: digest.Of(b.in.Key, key), Make: func() ([]byte, error) {
		v, err := of()
		if err != nil {
			return nil, err
		}
		at, err := json.Marshal(name)
		if err != nil {
			return nil, err
		}
		text, err := json.Marshal(v)
		return fmt.Appendf(nil, "guide.give(%s, %s);\n", at, text), err
	}})
}

// picture adds a PNG of a part of a drawing.
func (b *builder) picture(path, key string, d *Drawing, view geom.Rect, paint func(*design.Document) *design.PaintNode) {
	b.files = append(b.files, File{Path: path, Key: key, Make: func() ([]byte, error) {
		doc, err := d.Doc()
		if err != nil {
			return nil, err
		}
		return pictureOf(paint(doc), view)
	}})
}

// pictureOf is a picture as pages show it.
func pictureOf(paint *design.PaintNode, view geom.Rect) ([]byte, error) {
	img, err := raster.Render(paint, raster.Options{View: view, Density: density})
	if err != nil {
		return nil, err
	}
	return picture.QuickPNG(img), nil
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

// pages are the templates of all pages.
func pages() (*template.Template, error) {
	return template.New("").Funcs(funcs).ParseFS(files, "files/*.html")
}

var funcs = template.FuncMap{
	"css":     func(s string) template.CSS { return template.CSS(s) },
	"percent": func(v, of float64) string { return fmt.Sprintf("%.4f%%", 100*v/max(of, 1e-9)) },
	"list": func(v any) (string, error) {
		text, err := json.Marshal(v)
		return string(text), err
	},
	"phaseclass": phaseClass, "inc": func(i int) int { return i + 1 },
	"showings": func() [][3]string {
		return [][3]string{{"difference", "what changed framed and numbered", "D"}, {"overlay", "both over each other", "O"}, {"split", "split at the slider", "S"}, {"blink", "both in turn", "B"}}
	}, "plural": func(n int, one, many string) string {
		if n == 1 {
			return "1 " + one
		}
		return fmt.Sprintf("%d %s", n, many)
	},
	"px":   short,
	"join": strings.Join,
}
