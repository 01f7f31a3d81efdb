package guide

import (
	"slices"
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
	Home    string // link to the list they belong to
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

// Render writes the pages, by path: a list of screens, and a page a screen.
func (p *TextPages) Render() (map[string][]byte, error) {
	tmpl, err := pages()
	if err != nil {
		return nil, err
	}
	around := &site{Name: p.Name, Rem: 16, Alone: true}
	out := map[string][]byte{}
	f := &frame{site: around, link: link{"Texts", "index.html"}, Kind: "textlist", Of: p}
	if out["index.html"], err = execute(tmpl, "textlist.html", f); err != nil {
		return nil, err
	}
	for i := range p.Screens {
		s := &p.Screens[i]
		f := &frame{site: around, link: link{s.Name, s.Page}, Kind: "texts", Of: textPage{p, s}}
		if i > 0 {
			f.Prev = &link{p.Screens[i-1].Name, p.Screens[i-1].Page}
		}
		if i+1 < len(p.Screens) {
			f.Next = &link{p.Screens[i+1].Name, p.Screens[i+1].Page}
		}
		if out[s.Page], err = execute(tmpl, "texts.html", f); err != nil {
			return nil, err
		}
	}
	return out, nil
}

type textPage struct {
	*TextPages
	Screen *TextScreen
}

// screenText is a text of a screen.
type screenText struct {
	Key, Words string
	Others     []TextLocale
	Selectors  []string // of the elements it stands in
}

// textScreens lists the texts of every screen, in the order of the catalogue, and gives each screen that has any its
// page of texts.
func (b *builder) textScreens() map[screenAt][]screenText {
	out := map[screenAt][]screenText{}
	if b.in.Texts == nil {
		return out
	}
	for _, t := range b.in.Texts.Entries {
		seen := map[screenAt]int{}
		for i := range t.Places {
			at := screenAt{t.Places[i].Source, t.Places[i].Screen}
			s := b.at[at]
			if s == nil {
				continue
			}
			s.TextPage = "texts/" + strings.TrimPrefix(s.Page, "screens/")
			k, known := seen[at]
			if !known {
				k = len(out[at])
				seen[at] = k
				one := screenText{Key: t.Key, Words: t.Words}
				for _, l := range b.in.Texts.Locales {
					words, state := b.in.Texts.Of(t, l)
					one.Others = append(one.Others, TextLocale{Locale: l, Words: words, State: state, RTL: message.RightToLeft(l)})
				}
				out[at] = append(out[at], one)
			}
			out[at][k].Selectors = append(out[at][k].Selectors, t.Places[i].Selector)
		}
	}
	return out
}

// placeOf is where a text stands.
type placeOf struct{ source, selector string }

// textAt finds the texts by the elements they stand in.
func (m *model) textAt() map[placeOf]*text.Entry {
	m.places.Do(func() {
		m.byPlace = map[placeOf]*text.Entry{}
		for _, t := range m.in.Texts.Entries {
			for i := range t.Places {
				m.byPlace[placeOf{t.Places[i].Source, t.Places[i].Selector}] = t
			}
		}
	})
	return m.byPlace
}

// textsKey is a sum of all texts and their translations.
func (m *model) textsKey() string {
	if m.in.Texts == nil {
		return ""
	}
	if m.ofTexts == "" {
		d := digest.New()
		for _, t := range m.in.Texts.Entries {
			d.Text(t.Key, t.Words)
			for _, l := range m.in.Texts.Locales {
				words, _ := m.in.Texts.Of(t, l)
				d.Text(l, words)
			}
		}
		m.ofTexts = d.String()
	}
	return m.ofTexts
}

// textsPage lists all texts.
type textsPage struct {
	Source  string
	Locales []string
	Texts   []textModel
	Screens []textScreenModel
}

// textModel is a text with the screens it is on.
type textModel struct {
	Key, ID, Words string
	Others         []TextLocale
	Places         []useModel
	Unused         bool
}

// textScreenModel is a screen with a page of its texts.
type textScreenModel struct {
	Name, Page, Picture string
	Keys                int
}

// textPages adds the list of texts, and a page of texts for every screen that has any.
func (b *builder) textPages() {
	c := b.in.Texts
	if c == nil || len(c.Entries) == 0 {
		return
	}
	page := textsPage{Source: c.Locale, Locales: c.Locales}
	taken := map[string]bool{}
	for _, e := range c.Entries {
		t := textModel{Key: e.Key, ID: unique(e.Key, "text", taken), Words: e.Words, Unused: e.Unused}
		for _, l := range c.Locales {
			words, state := c.Of(e, l)
			t.Others = append(t.Others, TextLocale{Locale: l, Words: words, State: state, RTL: message.RightToLeft(l)})
		}
		for i := range e.Places {
			s := b.at[screenAt{e.Places[i].Source, e.Places[i].Screen}]
			if s != nil && !slices.ContainsFunc(t.Places, func(u useModel) bool { return u.Screen == s.Name }) {
				t.Places = append(t.Places, useModel{Screen: s.Name, Page: s.TextPage})
			}
		}
		page.Texts = append(page.Texts, t)
		b.found = append(b.found, entry{Kind: "text", Name: e.Words, Page: "texts.html#" + t.ID, About: e.Key})
	}
	whole := &TextPages{Name: b.in.Name, Home: "../texts.html", Source: c.Locale}
	var jobs []pageJob
	for _, s := range TextScreens(b.in.Drawings, c, c.Used(), c.Locales) {
		of := b.at[screenAt{s.Source, s.Name}]
		if of == nil || of.TextPage == "" {
			continue
		}
		s.Page = of.TextPage
		s.Pictures = []TextPicture{{c.Locale, "../" + of.Picture}}
		page.Screens = append(page.Screens, textScreenModel{s.Name, s.Page, of.Picture, len(s.Rows)})
		jobs = append(jobs, pageJob{link: link{s.Name, s.Page}, kind: "texts", key: s.key(),
			content: func() (any, error) { return textPage{whole, &s}, nil }})
	}
	b.page(shown("Texts", "texts.html", "textkeys", page))
	b.under(jobs)
}
