package guide

import (
	"archetyp/core/design"
	"archetyp/core/digest"
	"archetyp/core/geom"
)

// Changes are what differs from an earlier state, as the guide shows it.
type Changes struct {
	From    string // what the earlier state is called
	Screens []ChangedScreen
	Tokens  []ChangedValue
	Texts   []ChangedValue
}

// ChangedScreen is a screen that differs. One side may be missing.
type ChangedScreen struct {
	Name, Source string
	Old, New     *design.Screen
	Changes      []ChangedElement
}

// ChangedElement is a change of an element, in words, with where it is. Lengths in px.
type ChangedElement struct {
	Kind, Words string
	Box         geom.Rect
}

// ChangedValue is a token or a text that differs; "" on the side that lacks it.
type ChangedValue struct{ Name, Was, Is string }

// changedModel is a changed screen, as the page has it.
type changedModel struct {
	ChangedScreen
	Was, Is       string // pictures
	Width, Height float64
	Page          string // of the screen; "" for one that is gone
}

// Share is a box as shares of the screen: left, top, width, height.
func (c *changedModel) Share(b geom.Rect) [4]float64 {
	return [4]float64{b.X / c.Width, b.Y / c.Height, b.W / c.Width, b.H / c.Height}
}

// changesPage is what differs, screen by screen.
type changesPage struct {
	From    string
	Screens []*changedModel
	Tokens  []ChangedValue
	Texts   []ChangedValue
}

// changes adds the page of what differs, where that is wanted.
func (b *builder) changes() {
	c := b.in.Changes
	if c == nil {
		return
	}
	p := changesPage{From: c.From, Tokens: c.Tokens, Texts: c.Texts}
	taken := map[string]bool{}
	for _, s := range c.Screens {
		x := &changedModel{ChangedScreen: s}
		slug := pageName(s.Name, taken)
		for _, side := range []struct {
			to     *string
			name   string
			screen *design.Screen
		}{{&x.Was, "img/before-" + slug + ".png", s.Old}, {&x.Is, "img/now-" + slug + ".png", s.New}} {
			if side.screen == nil {
				continue
			}
			screen := side.screen
			*side.to = side.name
			x.Width, x.Height = max(x.Width, screen.Box.W), max(x.Height, screen.Box.H)
			b.files = append(b.files, File{Path: side.name, Make: func() ([]byte, error) {
				return pictureOf(screen.Picture(), geom.Rect{W: screen.Box.W, H: screen.Box.H})
			}})
		}
		if m := b.at[screenAt{s.Source, s.Name}]; m != nil {
			x.Page = m.Page
		}
		x.Old, x.New = nil, nil // the page itself needs neither
		p.Screens = append(p.Screens, x)
	}
	b.file("changes.js", "", func() ([]byte, error) { return small("changes.js", "") })
	j := shown("Changes", "changes.html", "changes", p, "changes.js")
	j.key = digest.Of(j.key, b.in.Edition)
	b.page(j)
}
