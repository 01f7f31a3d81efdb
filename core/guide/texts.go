package guide

import (
	"bytes"
	"fmt"
	"html/template"
	"sort"
	"strings"

	"archetyp/core/design"
	"archetyp/core/escape"
	"archetyp/core/geom"
	"archetyp/core/text"
)

// TextPages are pages for translators and for the guide: a screen's picture with numbered places beside its keys.
type TextPages struct {
	Name    string // of the workspace
	Home    string // link to what the pages belong to; "" for their own list
	Style   string // link to the style sheet
	Script  string // link to the script; "" for none
	Source  string // locale
	Screens []TextScreen
}

// TextScreen is one screen with its texts.
type TextScreen struct {
	Name, Source, Page string
	Width, Height      float64
	Pictures           []TextPicture
	Rows               []TextRow
}

// TextPicture is a picture of a screen in a locale.
type TextPicture struct{ Locale, File string }

// TextRow is one key on a screen.
type TextRow struct {
	Number   int
	Key      string
	Words    string // in the source language
	Note     string
	Meaning  string
	Room     string
	Limit    int
	Picture  string // of the key alone; "" for none
	Bad      bool   // what Fault says is a fault
	Boxes    []geom.Rect
	Locales  []TextLocale
	NotDrawn string // the attribute the words stand in; "" where they are drawn
}

// TextLocale is a row's words in a locale.
type TextLocale struct {
	Locale, Words string
	State         text.State
	Fault         string // what is wrong with how they fit
	RTL           bool
}

// TextScreens lists the screens of documents that have texts, with their keys in reading order.
func TextScreens(docs []*design.Document, c *text.Catalogue, entries []*text.Entry, locales []string) []TextScreen {
	type at struct{ source, screen string }
	rows := map[at][]TextRow{}
	for _, e := range entries {
		seen := map[at]int{}
		for _, p := range e.Places {
			k := at{p.Source, p.Screen}
			i, known := seen[k]
			if !known {
				r := TextRow{Key: e.Key, Words: e.Words, Note: e.Note, Meaning: e.Meaning, Limit: e.Limit(c.Locale), NotDrawn: p.Attribute}
				if p.Room != nil {
					r.Room = p.Room.String()
				}
				for _, l := range locales {
					words, state := c.Of(e, l)
					r.Locales = append(r.Locales, TextLocale{Locale: l, Words: words, State: state, RTL: text.RightToLeft(l)})
				}
				rows[k] = append(rows[k], r)
				i = len(rows[k]) - 1
				seen[k] = i
			}
			rows[k][i].Boxes = append(rows[k][i].Boxes, p.Box)
		}
	}
	var out []TextScreen
	taken := map[string]bool{}
	for _, d := range docs {
		for _, s := range d.Screens {
			list := rows[at{d.Name, s.Name}]
			if len(list) == 0 {
				continue
			}
			sort.SliceStable(list, func(i, j int) bool {
				a, b := list[i].Boxes[0], list[j].Boxes[0]
				if a.Y != b.Y {
					return a.Y < b.Y
				}
				return a.X < b.X
			})
			for i := range list {
				list[i].Number = i + 1
			}
			slug := escape.FileName(design.Slug(s.Name))
			if slug == "" || slug == "index" {
				slug = "screen"
			}
			for base, i := slug, 2; taken[slug]; i++ {
				slug = fmt.Sprintf("%s-%d", base, i)
			}
			taken[slug] = true
			out = append(out, TextScreen{Name: s.Name, Source: d.Name, Page: slug + ".html", Width: s.Box.W, Height: s.Box.H, Rows: list})
		}
	}
	return out
}

// Render writes the pages, by path: a list of screens where there is no home, and a page a screen.
func (p *TextPages) Render() (map[string][]byte, error) {
	tmpl, err := template.New("").Funcs(funcs).ParseFS(files, "files/*.html")
	if err != nil {
		return nil, err
	}
	out := map[string][]byte{}
	page := func(path, name string, data any) error {
		var b bytes.Buffer
		if err := tmpl.ExecuteTemplate(&b, name, data); err != nil {
			return fmt.Errorf("page %s: %w", path, err)
		}
		out[path] = b.Bytes()
		return nil
	}
	if p.Home == "" {
		if err := page("index.html", "textlist.html", p); err != nil {
			return nil, err
		}
	}
	for i := range p.Screens {
		if err := page(p.Screens[i].Page, "texts.html", textPage{p, &p.Screens[i]}); err != nil {
			return nil, err
		}
	}
	return out, nil
}

type textPage struct {
	*TextPages
	Screen *TextScreen
}

// Asset is a file the pages need: style.css or script.js.
func Asset(name string) []byte {
	data, err := files.ReadFile("files/" + name)
	if err != nil {
		return nil // there are those two
	}
	return data
}

// guideTexts adds a page of texts for every screen to the guide.
func (m *model) guideTexts() error {
	if m.in.Texts == nil {
		return nil
	}
	pages := &TextPages{Name: m.Name, Home: "../index.html#texts", Style: "../style.css", Script: "../script.js", Source: m.in.Texts.Locale}
	pages.Screens = TextScreens(m.in.Docs, m.in.Texts, m.in.Texts.Used(), m.in.Texts.Locales)
	for i := range pages.Screens {
		s := &pages.Screens[i]
		for j := range m.Screens {
			if m.Screens[j].Name == s.Name && m.Screens[j].Source == s.Source {
				s.Page = strings.TrimPrefix(m.Screens[j].Page, "screens/")
				s.Pictures = []TextPicture{{m.in.Texts.Locale, "../" + m.Screens[j].Picture}}
				m.Screens[j].TextPage = "texts/" + s.Page
			}
		}
	}
	made, err := pages.Render()
	for path, data := range made {
		m.jobs = append(m.jobs, ready("texts/"+path, data))
	}
	return err
}
