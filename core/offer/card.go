package offer

import (
	"encoding/base64"
	"fmt"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/escape"
	"archetyp/core/token"
	"archetyp/core/token/emit"
)

// Line is a token's value, its values in contexts where they differ, and how often it is used.
func (d *Desk) Line(e *Entry) string {
	if known, ok := d.lines.Load(e.Path); ok {
		return known.(string)
	}
	line := d.newLine(e)
	d.lines.Store(e.Path, line)
	return line
}

func (d *Desk) newLine(e *Entry) string {
	parts := []string{d.shown(d.Library.Base, e.Token)}
	for _, c := range d.contexts(e.Path) {
		parts = append(parts, c.Name+" "+d.shown(c.Set, c.Set.Get(e.Path)))
	}
	switch {
	case e.Uses == 1:
		parts = append(parts, "1 use")
	case e.Uses > 1:
		parts = append(parts, fmt.Sprintf("%d uses", e.Uses))
	}
	if e.Deprecated != "" {
		parts = append(parts, "deprecated")
	}
	return strings.Join(parts, " · ")
}

// shown is a value in the unit of the workspace.
func (d *Desk) shown(set *token.Set, t *token.Token) string {
	if t.Full(set) {
		return emit.Preview(set, t)
	}
	return d.Unit.Lengths(emit.Preview(set, t))
}

// contexts are those in which a token's value differs from its default.
func (d *Desk) contexts(path string) (out []token.Context) {
	base := d.Library.Base.Get(path)
	for _, c := range d.Library.Contexts {
		if c.Default {
			continue
		}
		t := c.Set.Get(path)
		if t == nil || base != nil && emit.Literal(c.Set, t) == emit.Literal(d.Library.Base, base) {
			continue
		}
		out = append(out, c)
	}
	return out
}

// Card describes a token in Markdown: its chain of aliases, its value in every context, its contrast.
func (d *Desk) Card(path string) string {
	var b strings.Builder
	set := d.Library.Base
	t := set.Get(path)
	if t == nil {
		return ""
	}
	fmt.Fprintf(&b, "**%s**  %s\n", path, t.Type)
	if t.Deprecated != "" {
		fmt.Fprintf(&b, "\nDeprecated: %s\n", escape.In("md", escape.Inline, t.Deprecated))
	}
	if t.Description != "" {
		fmt.Fprintf(&b, "\n%s\n", escape.In("md", escape.Inline, t.Description))
	}
	b.WriteString("\n" + d.valueLine("", set, t))
	for _, c := range d.contexts(path) {
		b.WriteString(d.valueLine(c.Key(), c.Set, c.Set.Get(path)))
	}
	if c := set.Resolve(t).Value.Color; c != nil {
		fmt.Fprintf(&b, "\nContrast to white %s, to black %s\n", ratio(*c, white), ratio(*c, black))
	}
	return b.String()
}

var white, black = color.RGB8(255, 255, 255), color.RGB8(0, 0, 0)

func ratio(c, to color.Color) string {
	return css.Num(color.Contrast(c.Over(to), to), 2) + ":1"
}

// valueLine is a token's value in a context, and the tokens its aliases lead over.
func (d *Desk) valueLine(context string, set *token.Set, t *token.Token) string {
	var b strings.Builder
	b.WriteString("- ")
	if context != "" {
		b.WriteString(context + ": ")
	}
	if c := set.Resolve(t).Value.Color; c != nil && d.Pictures {
		b.WriteString(Swatch(*c) + " ")
	}
	b.WriteString("`" + d.shown(set, t) + "`")
	for _, step := range set.Chain(t)[1:] {
		b.WriteString(" ← " + step.Path)
	}
	return b.String() + "\n"
}

// Swatch is a picture of a colour, as Markdown.
func Swatch(c color.Color) string {
	svg := `<svg xmlns="http://www.w3.org/2000/svg" width="14" height="14"><rect x=".5" y=".5" width="13" height="13" rx="3" fill="` +
		c.Hex() + `" stroke="#8888"/></svg>`
	return "![" + c.Hex() + "](data:image/svg+xml;base64," + base64.StdEncoding.EncodeToString([]byte(svg)) + ")"
}

// Contrasts is the contrast of text to its background in every context, with its level of WCAG 2.2. text and ground are
// values of color and background from one rule; "" if one of them is no colour.
func (d *Desk) Contrasts(text, ground string) string {
	var out []string
	say := func(name string, set *token.Set) {
		t, ok1 := d.colorIn(set, text)
		g, ok2 := d.colorIn(set, ground)
		if !ok1 || !ok2 || g.Alpha < 1 {
			return
		}
		v := color.Contrast(t.Over(g), g)
		level := "below AA"
		switch {
		case v >= 7:
			level = "AAA"
		case v >= 4.5:
			level = "AA"
		case v >= 3:
			level = "AA for large text only"
		}
		line := css.Num(v, 2) + ":1, " + level
		if name != "" {
			line = name + " " + line
		}
		out = append(out, line)
	}
	say("", d.Library.Base)
	for _, c := range d.Library.Contexts {
		if !c.Default {
			say(c.Key(), c.Set)
		}
	}
	if len(out) == 0 {
		return ""
	}
	line := "Contrast of text to background " + out[0]
	for _, o := range out[1:] {
		if _, same, _ := strings.Cut(o, " "); same != out[0] {
			line += "; " + o
		}
	}
	return line
}

// colorIn is the colour of a value in a set: one that is written, or a token's.
func (d *Desk) colorIn(set *token.Set, value string) (color.Color, bool) {
	if e := d.Named(bareVar(value)); e != nil {
		if t := set.Get(e.Path); t != nil {
			if c := set.Resolve(t).Value.Color; c != nil {
				return *c, true
			}
		}
		return color.Color{}, false
	}
	c, err := color.Parse(value)
	return c, err == nil
}
