package harvest

import (
	"fmt"
	"math"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/token"
)

// typeFace is what makes a type style.
type typeFace struct {
	family  string
	size    float64
	weight  int
	spacing float64
	line    float64 // px; 0 for normal
	normal  float64 // the font's own line height, of one em
	missing bool    // that font only stands in for the family
}

func (c *collector) text(e *design.Element) {
	w := e.Words
	if w.Words == "" {
		return
	}
	t := &typeFace{family: w.Family.Value, size: w.Size.Value, weight: w.Weight.Value, spacing: w.Spacing.Value,
		line: w.LineHeight.Value, normal: w.Normal, missing: w.Missing || w.Used == ""}
	text := fmt.Sprintf("%d %s %s", t.weight, css.Px(t.size), firstFamily(t.family))
	if t.spacing != 0 {
		text += " " + css.Px(t.spacing) + " apart"
	}
	f := c.byKey[foundKey("type", text)]
	if f == nil {
		f = &Found{Kind: "type", Type: token.Typography, Text: text, face: t, size: t.size*10 + float64(t.weight)/1000}
	} else {
		f.face.learn(t)
	}
	c.add(f, text, c.use(e, "font", float64(len([]rune(w.Words)))))
}

// learn takes from another use of the style what this one did not say: the line height, which single lines have none
// of, and the font's own, which a stand-in does not know.
func (t *typeFace) learn(o *typeFace) {
	if t.line == 0 {
		t.line = o.line
	}
	if t.missing && !o.missing {
		t.missing, t.normal = false, o.normal
	}
}

func (t *typeFace) first() string { return firstFamily(t.family) }

func firstFamily(list string) string {
	first, _, _ := strings.Cut(list, ",")
	return strings.TrimSpace(first)
}

// value is the typography value, with aliases for family and size where there are tokens for them.
func (t *typeFace) value(family, size string) token.Value {
	fam := token.Value{Words: splitFamilies(t.family)}
	if family != "" {
		fam = token.Value{Alias: family}
	}
	fs := token.PxValue(t.size)
	if size != "" {
		fs = token.Value{Alias: size}
	}
	w, line := float64(t.weight), t.normal
	switch {
	case t.line > 0:
		line = t.line / t.size
	case t.missing: // a stand-in's says nothing
		line = token.NormalLine
	}
	line = math.Round(line*1e4) / 1e4
	return token.Value{Parts: map[string]token.Value{"fontFamily": fam, "fontSize": fs, "fontWeight": {Number: &w},
		"letterSpacing": token.PxValue(t.spacing), "lineHeight": {Number: &line}}}
}

func splitFamilies(list string) []string {
	var out []string
	for _, f := range strings.Split(list, ",") {
		if f = strings.TrimSpace(f); f != "" {
			out = append(out, f)
		}
	}
	if len(out) == 0 {
		out = []string{"sans-serif"}
	}
	return out
}
