package guide

import (
	"encoding/base64"
	"fmt"
	"slices"
	"strings"

	"archetyp/core/asset"
	"archetyp/core/code"
	"archetyp/core/design"
	"archetyp/core/digest"
	"archetyp/core/geom"
)

// componentPage is the page of a component.
type componentPage struct {
	*componentModel
	Motion []string
}

// componentPages adds the list of components and a page for each.
func (b *builder) componentPages() {
	if len(b.parts)+len(b.in.Shared) == 0 {
		return
	}
	b.page(shown("Components", "components.html", "components", componentsPage{b.parts, b.in.Shared}))
	var jobs []pageJob
	for _, c := range b.parts {
		jobs = append(jobs, shown(c.Name, c.Page, "component", componentPage{c, c.motion()}, "measure.js", "component.js"))
		key := digest.New()
		for _, p := range c.Parts {
			key.Text(p.key(), sum(c.Use), b.textsKey())
			b.picture(p.Picture, digest.Of(p.Paint, fmt.Sprint(p.View)), p.drawing, p.View,
				func(doc *design.Document) *design.PaintNode { return design.Alone(doc.All()[p.Index]) })
		}
		b.data(strings.TrimSuffix(c.Page, ".html"), key.String(), func() (any, error) { return b.partsData(c) })
		b.foundComponent(c)
	}
	b.under(jobs)
}

// componentsPage lists the components, and those of libraries.
type componentsPage struct {
	Parts  []*componentModel
	Shared []Shared
}

// Shared is a component that a library documents, and its uses here.
type Shared struct {
	Name, Library, Where string
	Uses                 int
	Differ               []string // in what uses differ from the library, in words
}

// shared reports whether a component is one of a library.
func (in *Input) shared(name string) bool {
	return slices.ContainsFunc(in.Shared, func(s Shared) bool { return s.Name == name })
}

// partsData is what the script of a component's page knows.
func (b *builder) partsData(c *componentModel) (any, error) {
	var out []*partData
	for _, p := range c.Parts {
		d, err := b.partData(p)
		if err != nil {
			return nil, err
		}
		out = append(out, d)
	}
	return out, nil
}

// partData is a part with its code.
type partData struct {
	ID      string       `json:"id"`
	Variant string       `json:"variant"`
	State   string       `json:"state"`
	Look    int          `json:"look,omitempty"`
	Dark    bool         `json:"dark,omitempty"` // it is drawn on a dark ground
	Live    liveData     `json:"live"`
	Code    []codeData   `json:"code"`
	Facts   [][4]string  `json:"facts"` // name, value, origin, token
	Words   []partWords  `json:"words"`
	Parts   []insideData `json:"parts"`
	View    [4]float64   `json:"view"` // of the picture, px from the component's corner
	Box     [2]float64   `json:"box"`  // its border box: width, height
}

// liveData is a part as HTML and CSS, with its pictures worked into it.
type liveData struct {
	HTML string `json:"html"`
	CSS  string `json:"css"`
	Free int    `json:"free,omitempty"` // elements that stand free of the flow
}

// codeData is the code of a part in a language, in px and in rem.
type codeData struct {
	Language string `json:"language"`
	Px       string `json:"px"`
	Rem      string `json:"rem,omitempty"` // where lengths have units
}

// partWords are words of a part.
type partWords struct {
	Words  string            `json:"words"`
	Key    string            `json:"key,omitempty"`
	Others map[string]string `json:"others,omitempty"` // by locale
}

// insideData is an element of a part. Its box is in px from the part's corner.
type insideData struct {
	Name   string     `json:"n"`
	Kind   string     `json:"k"`
	Box    [4]float64 `json:"b"`
	Parent int        `json:"p"`
	Grows  bool       `json:"w,omitempty"`
}

// codeLanguages are the languages that the guide shows. Lengths of apps are points, whatever the unit.
var codeLanguages = []struct {
	name, title string
	units       bool
}{{"css", "CSS", true}, {"html", "HTML", true}, {"jsx", "JSX", true}, {"swift", "Swift", false}, {"kotlin", "Kotlin", false}}

func (b *builder) partData(p *partModel) (*partData, error) {
	doc, err := p.drawing.Doc()
	if err != nil {
		return nil, err
	}
	e := doc.All()[p.Index]
	d := &partData{ID: p.ID, Variant: p.Variant, State: p.State, Look: p.Look, Words: []partWords{}, Dark: onDark(e)}
	box, err := b.live(d, e, p.drawing)
	if err != nil {
		return nil, err
	}
	d.View, d.Box = tidied(p.View.Move(-box.X, -box.Y)), [2]float64{design.Tidy(box.W), design.Tidy(box.H)}
	for _, lang := range codeLanguages {
		one := codeData{Language: lang.title}
		if one.Px, err = b.codeOf(e, p.drawing, lang.name, "px"); err != nil {
			return nil, err
		}
		if lang.units {
			if one.Rem, err = b.codeOf(e, p.drawing, lang.name, "rem"); err != nil {
				return nil, err
			}
		}
		d.Code = append(d.Code, one)
	}
	spec := b.speller().Spec(e)
	for i, f := range spec.Facts {
		d.Facts = append(d.Facts, [4]string{f.Name, f.Value, f.Known(), spec.Found[i].Path})
	}
	b.inside(d, e, p)
	return d, nil
}

// codeOf is the code of an element in a language.
func (b *builder) codeOf(e *design.Element, d *Drawing, language, unit string) (text string, err error) {
	o := b.options(d, language)
	if o.Unit, err = design.ParseUnit(unit, b.rem()); err != nil {
		return "", err
	}
	switch language {
	case "css":
		return code.Print(code.CSS(e, o)), nil
	case "swift":
		return code.Swift(code.NewTree(e, o), o), nil
	case "kotlin":
		return code.Compose(code.NewTree(e, o), o), nil
	}
	page := code.NewPage(code.NewTree(e, o), o)
	if language == "jsx" {
		return code.JSX(page), nil
	}
	return code.HTML(page), nil
}

// options are what elements of a drawing are written with in a language.
func (b *builder) options(d *Drawing, language string) code.Options {
	if b.in.Code == nil {
		return code.Options{Tokens: b.in.CodeNames}
	}
	return b.in.Code(d.Name, language)
}

// live adds an element as HTML that a page can show: as it is drawn, whatever the team has in code. It gives the box of
// the HTML element, px on its screen.
func (b *builder) live(to *partData, e *design.Element, d *Drawing) (geom.Rect, error) {
	o := b.options(d, "html")
	o.Components, o.Words, o.Keys = nil, nil, nil
	page := code.NewPage(code.NewTree(e, o), o)
	l := &to.Live
	*l = liveData{HTML: code.HTML(page), CSS: code.Print(page.Rules), Free: len(page.Free)}
	for _, p := range page.Pictures {
		data, err := asset.OfPage(p)
		if err != nil {
			return geom.Rect{}, err
		}
		kind := "image/svg+xml"
		if p.Bitmap {
			kind = "image/png"
		}
		at := `"data:` + kind + ";base64," + base64.StdEncoding.EncodeToString(data) + `"`
		l.HTML = strings.ReplaceAll(l.HTML, `"`+p.File()+`"`, at)
		l.CSS = strings.NewReplacer(`"`+p.File()+`"`, at, "("+p.File()+")", "("+at+")").Replace(l.CSS)
	}
	return page.Tree.Root.Cell.Box, nil
}

// inside lists what a part holds, and its words.
func (b *builder) inside(d *partData, e *design.Element, p *partModel) {
	corner := e.BorderBox()
	var walk func(x *design.Element, parent int)
	walk = func(x *design.Element, parent int) {
		if x.Hidden {
			return
		}
		at := len(d.Parts)
		one := insideData{Name: x.Title(), Kind: string(x.Kind), Parent: parent,
			Box: tidied(x.BorderBox().Move(-corner.X, -corner.Y))}
		for _, s := range x.Stated {
			one.Grows = one.Grows || s.Prop == "flex" || s.Prop == "flex-grow"
		}
		d.Parts = append(d.Parts, one)
		if x.Words != nil {
			d.Words = append(d.Words, b.wordsOf(x, p.drawing.Name))
		}
		for _, c := range x.Children {
			walk(c, at)
		}
	}
	walk(e, -1)
}

// wordsOf are the words of a text with its key, and what they are in other languages.
func (b *builder) wordsOf(e *design.Element, source string) partWords {
	w := partWords{Words: e.Words.Words}
	if b.in.Texts == nil {
		return w
	}
	t := b.textAt()[placeOf{source, e.Selector()}]
	if t == nil {
		return w
	}
	w.Key = t.Key
	for _, l := range b.in.Texts.Locales {
		if words, _ := b.in.Texts.Of(t, l); words != "" {
			if w.Others == nil {
				w.Others = map[string]string{}
			}
			w.Others[l] = words
		}
	}
	return w
}

// onDark reports whether an element is light words on no ground of its own that would hide what it lies on.
func onDark(e *design.Element) bool {
	if bg := e.Background(); bg != nil && slices.ContainsFunc(bg.Fills, func(f design.Fact[design.Paint]) bool {
		return f.Value.Kind != design.Solid || f.Value.Color.Alpha > 0.5
	}) {
		return false
	}
	light := false
	var walk func(x *design.Element)
	walk = func(x *design.Element) {
		if x.Words != nil && len(x.Fills) > 0 && x.Fills[0].Value.Kind == design.Solid {
			light = light || x.Fills[0].Value.Color.Luminance() > 0.7
		}
		for _, c := range x.Children {
			walk(c)
		}
	}
	walk(e)
	return light
}
