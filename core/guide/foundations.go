package guide

import (
	"cmp"
	"slices"
	"strings"

	"archetyp/core/color"
	"archetyp/core/token"
)

// foundations adds the pages of tokens: one a kind, where there are any.
func (b *builder) foundations() {
	b.whereUsed()
	b.colours()
	b.ofTokens("Type", "type.html", "type", b.byType[token.Typography])
	spaces, radii, others := b.dimensions()
	b.ofTokens("Spacing and sizes", "spacing.html", "spacing", spaces)
	b.ofTokens("Radii", "radii.html", "radii", radii)
	b.ofTokens("Shadows", "shadows.html", "shadows", b.byType[token.Shadow])
	b.ofTokens("Gradients", "gradients.html", "gradients", b.byType[token.Gradient])
	b.motion()
	for _, kind := range token.Types {
		switch kind {
		case token.Color, token.Typography, token.Dimension, token.Shadow, token.Gradient, token.Duration,
			token.CubicBezier, token.Transition:
		default:
			others = append(others, b.byType[kind]...)
		}
	}
	b.ofTokens("More tokens", "tokens.html", "tokens", others)
}

// ofTokens adds a page that lists tokens.
func (b *builder) ofTokens(title, page, kind string, list []tokenModel) {
	if len(list) == 0 {
		return
	}
	b.page(shown(title, page, kind, list))
	for i := range list {
		b.foundToken(&list[i], page)
	}
}

// dimensions parts lengths by what they are for: spacing and sizes, corner radii, and the rest; the first in the order
// of their size.
func (b *builder) dimensions() (spaces, radii, others []tokenModel) {
	for _, t := range b.byType[token.Dimension] {
		switch head, _, _ := strings.Cut(t.Path, "."); head {
		case "radius", "radii", "corner", "border-radius":
			radii = append(radii, t)
		case "space", "spacing", "size", "sizes", "gap", "inset":
			spaces = append(spaces, t)
		default:
			others = append(others, t)
		}
	}
	bySize := func(a, b tokenModel) int { return cmp.Compare(a.Px, b.Px) }
	slices.SortStableFunc(spaces, bySize)
	slices.SortStableFunc(radii, bySize)
	return spaces, radii, others
}

// coloursPage is the page of colours.
type coloursPage struct {
	Roles, Ramps []groupModel // by what they are for; by tint
	Contrast     []contrastModel
}

// contrastModel is how well words can be read on surfaces, in a context.
type contrastModel struct {
	Label    string
	Surfaces []tokenModel
	Rows     []contrastRow
}

type contrastRow struct {
	Text  tokenModel
	Ink   string // the colour itself
	Cells []contrastCell
}

// contrastCell is one pair. Level is what WCAG 2.2 says of it: AAA, AA, AA for large words only, or neither.
// https://www.w3.org/TR/WCAG22/#contrast-minimum
type contrastCell struct {
	Text, Surface string // colours
	Ratio         string
	Level, Class  string
}

func (b *builder) colours() {
	list := b.byType[token.Color]
	if len(list) == 0 {
		return
	}
	page := coloursPage{Contrast: b.contrast()}
	for _, g := range groups(list) {
		if g.Ramp = g.ramp(); g.Tokens[0].Alias != "" {
			page.Roles = append(page.Roles, g)
		} else {
			page.Ramps = append(page.Ramps, g)
		}
	}
	b.page(shown("Colours", "colours.html", "colours", page))
	for i := range list {
		b.foundToken(&list[i], "colours.html")
	}
}

// mostContrasted colours are held against each other each way.
const mostContrasted = 16

// contrast holds the colours of words against those of surfaces, in every context that has others.
func (b *builder) contrast() (out []contrastModel) {
	var texts, surfaces []tokenModel
	for _, t := range b.byType[token.Color] {
		switch token.Role(t.Path) {
		case "text":
			texts = append(texts, t)
		case "surface":
			surfaces = append(surfaces, t)
		}
	}
	if len(texts) == 0 || len(surfaces) == 0 {
		return nil
	}
	texts, surfaces = texts[:min(len(texts), mostContrasted)], surfaces[:min(len(surfaces), mostContrasted)]
	for _, c := range b.inContexts {
		differs := c.Attr == ""
		for _, t := range slices.Concat(texts, surfaces) {
			differs = differs || c.changed[t.Path]
		}
		if !differs || c.Attr == "" && len(b.inContexts) > 1 && b.coloursChange() {
			continue
		}
		out = append(out, contrastIn(c, texts, surfaces))
	}
	return out
}

// coloursChange reports whether a context changes a colour.
func (b *builder) coloursChange() bool {
	for _, c := range b.inContexts[1:] {
		for _, t := range b.byType[token.Color] {
			if role := token.Role(t.Path); c.changed[t.Path] && (role == "text" || role == "surface") {
				return true
			}
		}
	}
	return false
}

func contrastIn(c contextModel, texts, surfaces []tokenModel) contrastModel {
	out := contrastModel{Label: c.Label, Surfaces: surfaces}
	for _, t := range texts {
		text, ok := valueIn(c, t.Path)
		if !ok || text.color == nil {
			continue
		}
		row := contrastRow{Text: t, Ink: text.color.CSS()}
		for _, s := range surfaces {
			on, ok := valueIn(c, s.Path)
			if !ok || on.color == nil {
				row.Cells = append(row.Cells, contrastCell{})
				continue
			}
			ratio := color.Contrast(*text.color, *on.color)
			cell := contrastCell{Text: text.color.CSS(), Surface: on.color.CSS(), Ratio: short(float64(int(ratio*10)) / 10)}
			switch {
			case ratio >= 7:
				cell.Level, cell.Class = "AAA", "good"
			case ratio >= 4.5:
				cell.Level, cell.Class = "AA", "good"
			case ratio >= 3:
				cell.Level, cell.Class = "AA, large text only", "large"
			default:
				cell.Level, cell.Class = "too low", "low"
			}
			row.Cells = append(row.Cells, cell)
		}
		out.Rows = append(out.Rows, row)
	}
	return out
}

// motionPage is the page of motion.
type motionPage struct {
	Durations, Curves, Transitions []tokenModel
	Stated                         []motionModel
}

// motionModel is motion that a drawing states for a component.
type motionModel struct{ Component, Page, Text string }

func (b *builder) motion() {
	page := motionPage{Durations: b.byType[token.Duration], Curves: b.byType[token.CubicBezier],
		Transitions: b.byType[token.Transition]}
	for _, c := range b.parts {
		for _, text := range c.motion() {
			page.Stated = append(page.Stated, motionModel{c.Name, c.Page, text})
		}
	}
	if len(page.Durations)+len(page.Curves)+len(page.Transitions)+len(page.Stated) == 0 {
		return
	}
	b.page(shown("Motion", "motion.html", "motion", page))
	for _, list := range [][]tokenModel{page.Durations, page.Curves, page.Transitions} {
		for i := range list {
			b.foundToken(&list[i], "motion.html")
		}
	}
}

// overviewPage is the first page.
type overviewPage struct {
	Screens    []*screenModel
	Colours    []tokenModel
	Types      []tokenModel
	Components []*componentModel
	Counts     []countModel
	Tokens     bool // there are tokens
}

// countModel is how much there is of something.
type countModel struct {
	link
	Count int
}

// overview adds the first page. What it says of the others is found when they are there.
func (b *builder) overview() {
	page := &overviewPage{Tokens: b.in.Tokens != nil && len(b.in.Tokens.Tokens) > 0}
	for _, t := range b.byType[token.Color] {
		if len(page.Colours) < 24 && !slices.ContainsFunc(page.Colours, func(o tokenModel) bool {
			return o.Values[0].Text == t.Values[0].Text
		}) {
			page.Colours = append(page.Colours, t)
		}
	}
	largest := slices.Clone(b.byType[token.Typography])
	slices.SortStableFunc(largest, func(x, y tokenModel) int { return cmp.Compare(sizeOf(y), sizeOf(x)) })
	page.Types = largest[:min(3, len(largest))]
	page.Screens = b.screens[:min(8, len(b.screens))]
	page.Components = b.parts[:min(len(b.parts), 8)]
	key := digestOverview(page)
	b.page(pageJob{link: link{"Overview", "index.html"}, kind: "index", key: key, content: func() (any, error) {
		whole := *page
		for _, s := range b.site.Sections[1:] {
			whole.Counts = append(whole.Counts, countModel{s.link, s.Count})
		}
		return &whole, nil
	}})
}

func sizeOf(t tokenModel) float64 {
	if len(t.Values) > 0 && t.Values[0].Face != nil {
		return t.Values[0].Face.Px
	}
	return 0
}

func digestOverview(p *overviewPage) string {
	text := sum(p.Colours) + sum(p.Types)
	for _, s := range p.Screens {
		text += sum(s.Screen) + s.Page + s.Picture
	}
	for _, c := range p.Components {
		text += c.Name + c.Page + sum(len(c.Parts)) + sum(c.Face())
	}
	return text
}

// Var is the token as CSS uses it.
func (t tokenModel) Var() string { return "var(" + t.Property + ")" }

// Shown is the token as the guide's own CSS uses it: its custom property, which follows the contexts, or where there is
// none its value.
func (t tokenModel) Shown() string { return "var(" + t.Property + ", " + t.Preview + ")" }
