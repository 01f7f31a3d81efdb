package guide

import "archetyp/core/token/harvest"

// lookKind is what deserves a look, of one kind.
type lookKind struct {
	Name  string
	Items []lookModel
}

type lookModel struct {
	Value, Swatch, Msg string
	Where              []useModel
}

// kindNames are what kinds of harvested values are called on the page.
var kindNames = map[string]string{"color": "Colours", "type": "Type styles", "radius": "Radii", "shadow": "Shadows",
	"gradient": "Gradients", "space": "Spacing"}

// look adds the page of values that deserve a look: near-duplicates, and what is off its scale.
func (b *builder) look() {
	if b.in.Harvest == nil {
		return
	}
	var kinds []lookKind
	index := map[string]int{}
	for _, f := range b.in.Harvest.Found {
		if !f.Notable() {
			continue
		}
		l := lookModel{Value: f.Text, Where: b.screensOf(pointers(f.Uses))}
		if f.Kind == "color" {
			l.Swatch = f.Text
		}
		if f.Near != "" {
			l.Msg = "almost the same as " + f.Near
		} else {
			l.Msg = "off the scale; the nearest step is " + f.Off
		}
		i, known := index[f.Kind]
		if !known {
			i = len(kinds)
			index[f.Kind] = i
			name := kindNames[f.Kind]
			if name == "" {
				name = f.Kind
			}
			kinds = append(kinds, lookKind{Name: name})
		}
		kinds[i].Items = append(kinds[i].Items, l)
	}
	if len(kinds) > 0 {
		b.page(shown("Deserves a look", "look.html", "look", kinds))
	}
}

func pointers(uses []harvest.Use) []*harvest.Use {
	out := make([]*harvest.Use, len(uses))
	for i := range uses {
		out[i] = &uses[i]
	}
	return out
}
