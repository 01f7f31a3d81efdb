package design

import (
	"path"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/css"
)

// Used is a value and how often a screen uses it.
type Used struct {
	Value string `json:"value"`
	Count int    `json:"count"`
	As    string `json:"as,omitempty"` // of a colour: fill, stroke, text; of a component: its variants and states
	First string `json:"first"`        // selector of the first element that has it
}

// UsedFont is a family in the weights a screen sets it in.
type UsedFont struct {
	Family string       `json:"family"`
	Count  int          `json:"count"`
	Faces  []UsedWeight `json:"faces"`
}

// UsedWeight is one face of a family.
type UsedWeight struct {
	Weight   int    `json:"weight"`
	Italic   bool   `json:"italic,omitempty"`
	Count    int    `json:"count"`
	Found    bool   `json:"found"`
	File     string `json:"file,omitempty"`
	FontFace string `json:"fontFace,omitempty"` // the CSS rule to ship with the file
}

// Summary is what one screen uses, the commonest first.
type Summary struct {
	Colors     []Used     `json:"colors"`
	Gradients  []Used     `json:"gradients"`
	Types      []Used     `json:"typeStyles"`
	Fonts      []UsedFont `json:"fonts"`
	Radii      []Used     `json:"radii"`
	Shadows    []Used     `json:"shadows"`
	Assets     []Used     `json:"assets"`
	Components []Used     `json:"components"`
}

// tally counts values in the order they came.
type tally struct {
	list []Used
	at   map[string]int
	as   map[string]bool
}

func (t *tally) add(value, as string, e *Element) {
	if value == "" {
		return
	}
	if t.at == nil {
		t.at, t.as = map[string]int{}, map[string]bool{}
	}
	i, known := t.at[value]
	if !known {
		i = len(t.list)
		t.at[value] = i
		t.list = append(t.list, Used{Value: value, First: e.Selector()})
	}
	u := &t.list[i]
	u.Count++
	if key := value + "\x00" + as; as != "" && !t.as[key] {
		t.as[key] = true
		u.As = strings.TrimPrefix(u.As+", "+as, ", ")
	}
}

func (t *tally) sorted() []Used {
	slices.SortStableFunc(t.list, func(a, b Used) int { return b.Count - a.Count })
	if t.list == nil {
		return []Used{}
	}
	return t.list
}

// Summary counts what the visible elements of a screen use.
func (s *Screen) Summary() Summary {
	var colors, gradients, types, radii, shadows, assets, components tally
	var fonts fontTally
	paint := func(e *Element, p Paint, as string) {
		switch p.Kind {
		case Solid:
			colors.add(p.Color.CSS(), as, e)
		case Linear, Radial:
			if text, ok := e.PaintCSS(p); ok {
				gradients.add(text, as, e)
			} else {
				gradients.add(string(p.Kind)+" gradient", text, e)
			}
		}
	}
	for _, e := range s.Elements {
		assets.add(e.Marks.Asset, "", e)
		components.add(e.Marks.Component, componentKind(e.Marks), e)
		if e.Hidden || e.Casts {
			continue
		}
		as := "fill"
		if e.Words != nil {
			as = "text"
		}
		for _, f := range e.Fills {
			if !e.Line() {
				paint(e, f.Value, as)
			}
		}
		for _, f := range e.Strokes {
			paint(e, f.Value.Paint, "stroke")
		}
		if r := e.Corners(); r.Set && e.Kind == Box && !e.Oval() {
			radii.add(r.Value.CSS(), "", e)
		}
		for _, f := range e.Shadows {
			shadows.add(f.Value.CSS(), "", e)
		}
		if e.Words != nil {
			types.add(e.Words.Style(), "", e)
			for i := range e.Words.Runs {
				fonts.add(&e.Words.Runs[i])
			}
		}
	}
	return Summary{colors.sorted(), gradients.sorted(), types.sorted(), fonts.sorted(s.Document.Fonts), radii.sorted(),
		shadows.sorted(),
		assets.sorted(), components.sorted()}
}

func componentKind(m Marks) string {
	if m.State != "" {
		return strings.TrimSpace(m.Variant + " :" + m.State)
	}
	return m.Variant
}

// Style is the type of a text in one line: family, size and line height, weight, letter spacing.
func (w *TextFacts) Style() string {
	first, _, _ := strings.Cut(w.Family.Value, ",")
	out := strings.TrimSpace(first) + " " + css.Px(w.Size.Value)
	if w.LineHeight.Set {
		out += "/" + css.Px(w.LineHeight.Value)
	}
	out += " " + strconv.Itoa(w.Weight.Value)
	if w.Italic.Value {
		out += " italic"
	}
	if w.Spacing.Value != 0 {
		out += ", spacing " + css.Px(w.Spacing.Value)
	}
	return strings.TrimSpace(out)
}

type fontTally struct {
	list []UsedFont
	at   map[string]int
}

func (t *fontTally) add(r *Run) {
	family, _, _ := strings.Cut(r.Family, ",")
	family = strings.Trim(strings.TrimSpace(family), `"'`)
	if family == "" || strings.TrimSpace(r.Words) == "" {
		return
	}
	if t.at == nil {
		t.at = map[string]int{}
	}
	i, known := t.at[family]
	if !known {
		i = len(t.list)
		t.at[family] = i
		t.list = append(t.list, UsedFont{Family: family})
	}
	f := &t.list[i]
	f.Count++
	for k := range f.Faces {
		if f.Faces[k].Weight == r.Weight && f.Faces[k].Italic == r.Italic {
			f.Faces[k].Count++
			return
		}
	}
	f.Faces = append(f.Faces, UsedWeight{Weight: r.Weight, Italic: r.Italic, Count: 1})
}

// sorted tells of each face whether its file was found.
func (t *fontTally) sorted(have []FontUse) []UsedFont {
	for i := range t.list {
		f := &t.list[i]
		slices.SortFunc(f.Faces, func(a, b UsedWeight) int { return a.Weight - b.Weight })
		for k := range f.Faces {
			w := &f.Faces[k]
			for _, h := range have {
				if h.Family == f.Family && h.Weight == w.Weight && h.Italic == w.Italic {
					w.Found, w.File = h.Found, h.File
				}
			}
			if w.Found && w.File != "" {
				w.FontFace = fontFace(f.Family, w)
			}
		}
	}
	if t.list == nil {
		return []UsedFont{}
	}
	return t.list
}

func fontFace(family string, w *UsedWeight) string {
	file := w.File
	if path.IsAbs(file) { // of this machine: only its name means something elsewhere
		file = path.Base(file)
	}
	out := `@font-face { font-family: ` + css.String(family) + `; font-weight: ` + strconv.Itoa(w.Weight) + `; `
	if w.Italic {
		out += `font-style: italic; `
	}
	return out + `src: url(` + css.String(file) + `); }`
}
