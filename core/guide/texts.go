package guide

import (
	"html/template"
	"sort"
	"strings"

	"archetyp/core/digest"
	"archetyp/core/geom"
	"archetyp/core/text"
	"archetyp/core/text/message"
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
func TextScreens(drawings []Drawing, c *text.Catalogue, entries []*text.Entry, locales []string) []TextScreen {
	rows := map[screenAt][]TextRow{}
	for _, e := range entries {
		seen := map[screenAt]int{}
		for _, p := range e.Places {
			k := screenAt{p.Source, p.Screen}
			i, known := seen[k]
			if !known {
				r := TextRow{Key: e.Key, Words: e.Words, Note: e.Note, Meaning: e.Meaning, Limit: e.Limit(c.Locale),
					NotDrawn: p.Attribute}
				if p.Room != nil {
					r.Room = p.Room.String()
				}
				for _, l := range locales {
					words, state := c.Of(e, l)
					r.Locales = append(r.Locales, TextLocale{Locale: l, Words: words, State: state, RTL: message.RightToLeft(l)})
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
	for i := range drawings {
		d := &drawings[i]
		for _, s := range d.Screens {
			list := rows[screenAt{d.Name, s.Name}]
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
			out = append(out, TextScreen{Name: s.Name, Source: d.Name, Page: pageName(s.Name, taken) + ".html", Width: s.Width,
				Height: s.Height, Rows: list})
		}
	}
	return out
}

// key is a sum of all that the page of a screen shows of it.
func (s *TextScreen) key() string {
	d := digest.New()
	d.Text(s.Name, s.Source, s.Page)
	d.Num(s.Width, s.Height)
	for _, p := range s.Pictures {
		d.Text(p.Locale, p.File)
	}
	for i := range s.Rows {
		r := &s.Rows[i]
		d.Text(r.Key, r.Words, r.Note, r.Meaning, r.Room, r.Picture, r.NotDrawn)
		d.Num(float64(r.Number), float64(r.Limit), float64(len(r.Boxes)))
		d.Flag(r.Bad)
		for _, b := range r.Boxes {
			d.Num(b.X, b.Y, b.W, b.H)
		}
		for _, l := range r.Locales {
			d.Text(l.Locale, l.Words, string(l.State), l.Fault)
			d.Flag(l.RTL)
		}
	}
	return d.String()
}

// Render writes the pages, by path: a list of screens where there is no home, and a page a screen.
func (p *TextPages) Render() (map[string][]byte, error) {
	tmpl, err := template.New("").Funcs(funcs).ParseFS(files, "files/*.html")
	if err != nil {
		return nil, err
	}
	out := map[string][]byte{}
	if p.Home == "" {
		if out["index.html"], err = page(tmpl, "textlist.html", p); err != nil {
			return nil, err
		}
	}
	for i := range p.Screens {
		if out[p.Screens[i].Page], err = page(tmpl, "texts.html", textPage{p, &p.Screens[i]}); err != nil {
			return nil, err
		}
	}
	return out, nil
}

type textPage struct {
	*TextPages
	Screen *TextScreen
}

// Static is a file the pages need: style.css or script.js.
func Static(name string) []byte {
	data, err := files.ReadFile("files/" + name)
	if err != nil {
		return nil // there are those two
	}
	return data
}

// guideTexts adds a page of texts for every screen to the guide.
func (m *model) guideTexts(tmpl *template.Template) {
	if m.in.Texts == nil {
		return
	}
	pages := &TextPages{Name: m.Name, Home: "../index.html#texts", Style: "../style.css", Script: "../script.js",
		Source: m.in.Texts.Locale}
	pages.Screens = TextScreens(m.in.Drawings, m.in.Texts, m.in.Texts.Used(), m.in.Texts.Locales)
	at := map[screenAt]*screenModel{}
	for i := range m.Screens {
		at[screenAt{m.Screens[i].Source, m.Screens[i].Name}] = &m.Screens[i]
	}
	nav := digest.New()
	for i := range pages.Screens {
		s := &pages.Screens[i]
		if of := at[screenAt{s.Source, s.Name}]; of != nil {
			s.Page = strings.TrimPrefix(of.Page, "screens/")
			s.Pictures = []TextPicture{{m.in.Texts.Locale, "../" + of.Picture}}
			of.TextPage = "texts/" + s.Page
		}
		nav.Text(s.Name, s.Page)
	}
	for i := range pages.Screens {
		s := &pages.Screens[i]
		m.files = append(m.files, File{Path: "texts/" + s.Page, Key: digest.Of(m.in.Key, m.Name, nav.String(), s.key()),
			Make: func() ([]byte, error) { return page(tmpl, "texts.html", textPage{pages, s}) }})
	}
}
