package guide

import (
	"strings"

	"archetyp/core/digest"
)

// entry is something that can be searched for.
type entry struct {
	Kind  string `json:"k"`
	Name  string `json:"n"`
	Page  string `json:"p"`
	About string `json:"a,omitempty"`
	Color string `json:"c,omitempty"`
}

func (b *builder) foundToken(t *tokenModel, page string) {
	e := entry{Kind: "token", Name: t.Path, Page: page + "#" + t.ID, About: t.About}
	if len(t.Values) > 0 {
		e.About = strings.TrimSpace(t.Values[0].Text + " " + t.About)
		if t.Values[0].color != nil {
			e.Color = t.Values[0].color.CSS()
		}
	}
	b.found = append(b.found, e)
	b.byToken[t.Path] = e.Page
}

func (b *builder) foundScreen(s *screenModel) {
	b.found = append(b.found, entry{Kind: "screen", Name: s.Name, Page: s.Page,
		About: strings.TrimSpace(short(s.Width) + " × " + short(s.Height) + " px " + s.Group)})
}

func (b *builder) foundComponent(c *componentModel) {
	b.found = append(b.found, entry{Kind: "component", Name: c.Name, Page: c.Page, About: c.Behaviour})
	for _, p := range c.Parts {
		if len(c.Parts) > 1 && p.Look < 2 {
			b.found = append(b.found, entry{Kind: "component", Name: c.Name + " " + p.Label, Page: c.Page + "#" + p.ID})
		}
	}
}

// search adds the index of everything that can be found: pages, tokens, screens, components, words and assets.
func (b *builder) search() {
	var all []entry
	for _, s := range b.site.Sections {
		all = append(all, entry{Kind: "page", Name: s.Title, Page: s.Page})
	}
	all = append(all, b.found...)
	b.data("search-index", digest.Of(sum(all)), func() (any, error) { return all, nil })
}
