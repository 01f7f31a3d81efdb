package job

import (
	"slices"
	"strconv"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/guide"
	"archetyp/core/paint/picture"
	"archetyp/core/text"
	"archetyp/core/text/fit"
	"archetyp/workspace"
)

// PageOptions say what pages of texts show.
type PageOptions struct {
	Entries []*text.Entry
	Screen  string // only this one; "" for all
	Locales []string
	Judged  []fit.Judged // how they fit; what does not is framed
	Keys    bool         // a picture for every key
	Density float64
}

// Pages makes pages of texts: a list of screens, a page a screen with its picture in every locale, and pictures of
// keys. It gives files by path.
func Pages(ws *workspace.Workspace, c *text.Catalogue, o PageOptions, m *fit.Measurer) (files map[string][]byte,
	skipped []string, err error) {
	locales := append([]string{c.Locale}, o.Locales...)
	sources := Drawings(c, o.Screen)
	placed, skipped, err := Place(ws, c, sources, locales, m)
	if err != nil {
		return nil, nil, err
	}
	var drawings []guide.Drawing
	type in struct{ source, locale string }
	byLocale := map[in]*design.Document{}
	for _, p := range placed {
		byLocale[in{p.Source, p.Locale}] = p.Doc
		if p.Locale == c.Locale {
			drawings = append(drawings, guide.Drawing{Name: p.Source, Screens: guide.ScreensOf(p.Doc)})
		}
	}
	pages := &guide.TextPages{Name: ws.Config.Name, Source: c.Locale}
	for _, s := range guide.TextScreens(drawings, c, o.Entries, o.Locales) {
		if o.Screen == "" || strings.EqualFold(s.Name, o.Screen) {
			pages.Screens = append(pages.Screens, s)
		}
	}
	b := &pageBuilder{c: c, o: o, m: m, faults: map[faultKey]fit.Judged{}}
	for _, j := range o.Judged {
		k := faultOf(j.Locale, j.Key, &j.Place)
		if _, worse := b.faults[k]; !worse && j.Fit != fit.Fits && j.Fit != fit.Tight {
			b.faults[k] = j
		}
	}
	files = map[string][]byte{"style.css": guide.Static("style.css")}
	type job struct {
		screen *guide.TextScreen
		locale string
	}
	var jobs []job
	for i := range pages.Screens {
		s := &pages.Screens[i]
		b.mark(s)
		for _, l := range locales {
			s.Pictures = append(s.Pictures, guide.TextPicture{Locale: l, File: b.file(s, l)})
			jobs = append(jobs, job{s, l})
		}
	}
	made := make([]map[string][]byte, len(jobs))
	err = Parallel(len(jobs), func(i int) (err error) {
		j := jobs[i]
		made[i], err = b.pictures(j.screen, byLocale[in{j.screen.Source, j.locale}], j.locale, j.locale == c.Locale)
		return err
	})
	if err != nil {
		return nil, nil, err
	}
	html, err := pages.Render()
	for _, m := range append(made, html) {
		for p, data := range m {
			files[p] = data
		}
	}
	return files, skipped, err
}

type pageBuilder struct {
	c      *text.Catalogue
	o      PageOptions
	m      *fit.Measurer
	faults map[faultKey]fit.Judged
}

// faultKey is what places have in common that fit alike: how they are set, and their room.
type faultKey struct {
	locale, key, said string
	font              text.Font
	width             float64
	lines             int
}

func faultOf(locale, key string, p *text.Place) faultKey {
	return faultKey{locale, key, p.Said, *p.Font, p.Room.Width, p.Room.Lines}
}

// fault is how the words of a row do not fit in a locale, in the first place on a screen where they do not.
func (b *pageBuilder) fault(s *guide.TextScreen, key, locale string) (fit.Judged, bool) {
	for i := range b.c.Get(key).Places {
		p := &b.c.Get(key).Places[i]
		if p.Screen != s.Name || p.Source != s.Source || p.Font == nil || p.Room == nil {
			continue
		}
		if f, ok := b.faults[faultOf(locale, key, p)]; ok {
			return f, true
		}
	}
	return fit.Judged{}, false
}

func (b *pageBuilder) file(s *guide.TextScreen, locale string) string {
	return "img/" + strings.TrimSuffix(s.Page, ".html") + "." + locale + ".png"
}

// mark says in the rows of a screen how their words fit, and which picture shows each.
func (b *pageBuilder) mark(s *guide.TextScreen) {
	for i := range s.Rows {
		r := &s.Rows[i]
		if b.o.Keys && r.NotDrawn == "" {
			r.Picture = "img/" + strings.TrimSuffix(s.Page, ".html") + "-" + strconv.Itoa(r.Number) + ".png"
		}
		for j := range r.Locales {
			if f, ok := b.fault(s, r.Key, r.Locales[j].Locale); ok {
				r.Locales[j].Fault, r.Bad = f.Msg(), true
			}
		}
	}
}

// pictures paints a screen in a locale, with what does not fit framed; and in the source language each key's places
// with the rest dimmed.
func (b *pageBuilder) pictures(s *guide.TextScreen, doc *design.Document, locale string,
	source bool) (map[string][]byte, error) {
	out := map[string][]byte{}
	if doc == nil {
		return out, nil
	}
	at := slices.IndexFunc(doc.Screens, func(x *design.Screen) bool { return x.Name == s.Name })
	if at < 0 {
		return out, nil
	}
	img, err := fit.Paint(doc.Screens[at], max(1, b.o.Density))
	if err != nil {
		return nil, err
	}
	put := func(name string, frames []fit.Frame) error {
		shown := img
		if len(frames) > 0 {
			if shown, err = fit.Point(img, geom.Rect{W: s.Width, H: s.Height}, frames, b.m.Fonts); err != nil {
				return err
			}
		}
		out[name] = picture.PNG(shown)
		return nil
	}
	var bad []fit.Frame
	for _, r := range s.Rows {
		f, ok := b.fault(s, r.Key, locale)
		if !ok {
			continue
		}
		for _, box := range r.Boxes {
			if room := f.Place.Room; room != nil {
				box.X, box.W = min(box.X, room.X), max(box.W, room.Width)
			}
			bad = append(bad, fit.Frame{Box: box, Label: strconv.Itoa(r.Number), Bad: true})
		}
	}
	if err := put(b.file(s, locale), bad); err != nil {
		return nil, err
	}
	for _, r := range s.Rows {
		if !source || r.Picture == "" {
			continue
		}
		var frames []fit.Frame
		for _, box := range r.Boxes {
			frames = append(frames, fit.Frame{Box: box, Label: strconv.Itoa(r.Number)})
		}
		if err := put(r.Picture, frames); err != nil {
			return nil, err
		}
	}
	return out, nil
}
