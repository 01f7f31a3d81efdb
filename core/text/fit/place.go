package fit

import (
	"fmt"
	"math"
	"regexp"
	"sort"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/geom"
	"archetyp/core/markup"
	"archetyp/core/text"
	"archetyp/core/text/message"
)

// Placed is a drawing with other words.
type Placed struct {
	SVG     []byte
	Edits   []markup.Edit // that made it
	Count   int           // places with other words
	Skipped []string      // those that could not be, and why
}

// Place puts the words of a locale into a drawing: texts stay texts, with the anchor and the look they have. A text of
// several lines wraps again in its room, one of a single line stays one; in a language from right to left, texts that
// begin at the left begin at the right of their room. All else stays byte for byte. src is the drawing doc was read
// from.
func Place(src []byte, doc *design.Document, c *text.Catalogue, locale string, m *Measurer) (*Placed, error) {
	return PlaceKeys(src, doc, c, locale, m, nil)
}

// PlaceKeys is Place for the texts of some keys; nil for all. The key of a text that was folded with others counts.
func PlaceKeys(src []byte, doc *design.Document, c *text.Catalogue, locale string, m *Measurer, keys map[string]bool) (*Placed, error) {
	p := &placer{src: src, c: c, locale: locale, m: m, sh: font.NewShaper(m.Fonts), out: &Placed{},
		done: map[*markup.Node]bool{}}
	type at struct{ screen, path string }
	elements := map[at]*design.Element{}
	for _, s := range doc.Screens {
		for _, e := range s.Elements {
			elements[at{s.Name, e.Path}] = e
		}
	}
	for _, e := range c.Used() {
		words, _ := c.Of(e, locale)
		if words == "" || keys != nil && !keys[e.Key] {
			continue
		}
		msg, err := message.Parse(words)
		if err != nil {
			p.skip(e.Key, err.Error())
			continue
		}
		for _, place := range e.Places {
			if place.Source != doc.Name {
				continue
			}
			el := elements[at{place.Screen, place.Element}]
			if el == nil {
				p.skip(e.Key, place.Element+" is not in the drawing any more; collect the texts again")
				continue
			}
			p.find = func(path string) *design.Element { return elements[at{place.Screen, path}] }
			p.place(e, place, el, msg.Format(locale, e.Values(c.Locale, &place)))
		}
	}
	out, err := markup.Rewrite(src, p.edits)
	if err != nil {
		return nil, err
	}
	p.out.SVG, p.out.Edits = out, p.edits
	return p.out, nil
}

type placer struct {
	src    []byte
	c      *text.Catalogue
	locale string
	m      *Measurer
	sh     *font.Shaper
	edits  []markup.Edit
	done   map[*markup.Node]bool
	find   func(path string) *design.Element // on the screen in hand
	out    *Placed
}

func (p *placer) skip(key, why string) { p.out.Skipped = append(p.out.Skipped, key+": "+why) }

func (p *placer) place(e *text.Entry, place text.Place, el *design.Element, spans []message.Span) {
	if place.Attribute != "" {
		p.attribute(e, place, el, spans)
		return
	}
	n := el.Node
	switch {
	case p.done[n]:
		return // drawn once, shown several times
	case !n.Is("text"):
		p.skip(e.Key, "its words stand in <"+n.Name+">, not in <text>")
		return
	}
	drawn := place.Words(p.find)
	if drawn == nil || place.Font == nil || place.Room == nil || len(drawn.Lines) == 0 {
		p.skip(e.Key, "its lines are not as they were; collect the texts again")
		return
	}
	if k := child(n, "textPath"); k != nil {
		p.skip(e.Key, "its words stand on a path")
		return
	}
	p.done[n] = true
	p.out.Count++
	runs := p.m.Runs(place, spans, p.locale)
	width := 0.0
	if len(drawn.Lines) > 1 {
		width = place.Room.Width
	}
	lines := Wrap(p.sh, runs, width)
	if at, raw, ok := p.plain(el, drawn, place, lines); ok { // only the letters change
		if words := lines[0].Runs[0].Words; words != drawn.Words {
			lead := len(raw) - len(strings.TrimLeft(raw, " \t\r\n"))
			end := len(strings.TrimRight(raw, " \t\r\n"))
			p.edits = append(p.edits, markup.Edit{From: at + lead, To: at + end, With: markup.EscapeText(words)})
		}
		return
	}
	p.edits = append(p.edits, markup.Edit{From: n.Offset, To: n.End, With: p.text(el, drawn, place, lines)})
	for _, path := range place.More { // their words stand in the first now
		if l := p.find(path).Node; !p.done[l] {
			p.done[l] = true
			p.edits = append(p.edits, markup.Edit{From: l.Offset, To: l.End})
		}
	}
}

// plain is where the letters of a text stand that is one line of one run, begins where it began and needs no other
// font; ok is false for any other.
func (p *placer) plain(el *design.Element, drawn *design.TextFacts, place text.Place, lines []Line) (at int, raw string, ok bool) {
	_, flip := p.anchor(el, place)
	if len(drawn.Lines) != 1 || len(lines) != 1 || len(lines[0].Runs) != 1 || len(place.More) > 0 || p.direction() != "" || flip != "" ||
		p.families(el.Node, place) != "" || drawn.Align.Origin == design.Derived && place.Room.Align != "left" {
		return 0, "", false
	}
	var only *markup.Node
	several := false
	el.Node.Walk(func(n *markup.Node) bool {
		if n.Kind == markup.Text && strings.TrimSpace(n.Data) != "" {
			several = several || only != nil
			only = n
		}
		for _, name := range []string{"dx", "dy", "rotate", "textLength"} { // a place for each letter
			if _, has := n.Attr(name); has {
				several = true
			}
		}
		if x, _ := n.Attr("x"); len(strings.Fields(strings.ReplaceAll(x, ",", " "))) > 1 {
			several = true
		}
		return true
	})
	if only == nil || several || strings.TrimSpace(only.Data) != strings.TrimSpace(drawn.Words) || only.End > len(p.src) {
		return 0, "", false
	}
	raw = string(p.src[only.Offset:only.End])
	return only.Offset, raw, !strings.ContainsAny(raw, "<>")
}

func child(n *markup.Node, name string) *markup.Node {
	for _, c := range n.Children {
		if c.Is(name) {
			return c
		}
	}
	return nil
}

// text writes a text element with other lines.
func (p *placer) text(el *design.Element, drawn *design.TextFacts, place text.Place, lines []Line) string {
	inv, ok := el.Matrix.Inverse()
	if !ok {
		return string(p.src[el.Node.Offset:el.Node.End])
	}
	_, inlines := text.Rich(drawn)
	chains := map[string][]*markup.Node{"": p.chain(el, baseNode(el, drawn, inlines))}
	for _, i := range inlines {
		chains[i.Name] = p.chain(el, i.Run.Node)
	}
	var b strings.Builder
	anchor, flip := p.anchor(el, place)
	if flip == "" && drawn.Align.Origin == design.Derived { // the drawing places by x what is aligned otherwise
		flip = map[string]string{"center": "middle", "right": "end"}[place.Room.Align]
	}
	b.WriteString(p.startTag(el.Node, map[string]string{"direction": p.direction(), "text-anchor": flip,
		"font-family": p.families(el.Node, place)}))
	for i, l := range lines {
		at := p.begin(lineAt{el, drawn, inv, anchor}, place, i)
		fmt.Fprintf(&b, `<tspan x="%s" y="%s">`, css.Num(at.X, 3), css.Num(at.Y, 3))
		for _, r := range l.Runs {
			chain := chains[r.Name]
			for _, n := range chain {
				b.WriteString(p.startTag(n, map[string]string{"font-family": p.families(n, place)}))
			}
			b.WriteString(markup.EscapeText(r.Words))
			for k := len(chain) - 1; k >= 0; k-- {
				b.WriteString("</" + chain[k].Name + ">")
			}
		}
		b.WriteString("</tspan>")
	}
	b.WriteString("</" + el.Node.Name + ">")
	return b.String()
}

// baseNode is where the words that are not set apart stand.
func baseNode(el *design.Element, drawn *design.TextFacts, inlines []text.Inline) *markup.Node {
	for _, r := range drawn.Runs {
		apart := false
		for _, i := range inlines {
			apart = apart || i.Run.Node == r.Node
		}
		if !apart && strings.TrimSpace(r.Words) != "" {
			return r.Node
		}
	}
	return el.Node
}

// chain are the nodes between a text and a run in it, those that only say a place left out.
func (p *placer) chain(el *design.Element, n *markup.Node) []*markup.Node {
	var out []*markup.Node
	for ; n != nil && n != el.Node && !n.Is("text"); n = n.Parent {
		says := false
		for _, a := range n.Attrs {
			says = says || !placing[a.Name] && a.Name != "id" && a.Space != "http://www.w3.org/2000/xmlns/"
		}
		if says {
			out = append([]*markup.Node{n}, out...)
		}
	}
	return out
}

// placing are the attributes that say where letters stand.
var placing = map[string]bool{"x": true, "y": true, "dx": true, "dy": true, "rotate": true, "textLength": true,
	"lengthAdjust": true}

// startTag writes a start tag without its place. Declarations that are given (those not "") go into its style, where
// they win over rules and attributes.
func (p *placer) startTag(n *markup.Node, with map[string]string) string {
	var b strings.Builder
	b.WriteString("<" + n.Name)
	style, names := "", make([]string, 0, len(with))
	for k, v := range with {
		if v != "" {
			names = append(names, k)
		}
	}
	sort.Strings(names)
	for _, a := range n.Attrs {
		switch {
		case placing[a.Name] || n.Local != "text" && a.Name == "id" || with[a.Name] != "":
		case a.Name == "style":
			style = a.Value
		default:
			fmt.Fprintf(&b, ` %s="%s"`, a.Name, markup.EscapeAttr(a.Value))
		}
	}
	var kept []string
	for _, d := range strings.Split(style, ";") {
		if k, _, ok := strings.Cut(d, ":"); ok && with[strings.TrimSpace(k)] == "" {
			kept = append(kept, strings.TrimSpace(d))
		}
	}
	for _, k := range names {
		kept = append(kept, k+": "+with[k])
	}
	if len(kept) > 0 {
		fmt.Fprintf(&b, ` style="%s"`, markup.EscapeAttr(strings.Join(kept, "; ")))
	}
	return b.String() + ">"
}

func (p *placer) direction() string {
	if message.RightToLeft(p.locale) {
		return "rtl"
	}
	return ""
}

// families is the font family list with those for letters the design's own lack; "" where nothing is added.
func (p *placer) families(n *markup.Node, place text.Place) string {
	if len(p.m.More[p.locale]) == 0 {
		return ""
	}
	own := place.Font.Family
	if n.Local != "text" {
		v, ok := n.Attr("font-family")
		if !ok {
			return ""
		}
		own = v
	}
	list := p.m.families(own, p.locale)
	for i, f := range list {
		if strings.ContainsAny(f, " 0123456789") && !font.Generic(f) {
			list[i] = "'" + f + "'"
		}
	}
	return strings.Join(list, ", ")
}

// lineAt is a text whose lines are placed: as it is drawn, the way back into its own space, and the x of its anchor
// where it is flipped; NaN where it is not.
type lineAt struct {
	el      *design.Element
	words   *design.TextFacts
	inverse geom.Matrix
	flipped float64
}

// begin is where a line is held, in the space of its element: where the drawn line of that number is held, further ones
// below the last. flipped is a place on the screen for lines that are held elsewhere than they were, NaN for none.
func (p *placer) begin(l lineAt, place text.Place, i int) geom.Point {
	el, w, inv, flipped := l.el, l.words, l.inverse, l.flipped
	scale := el.Matrix.MeanScale()
	k := min(i, len(w.Lines)-1)
	line := w.Lines[k]
	if !math.IsNaN(flipped) { // only texts that stand upright
		line.Baseline.X = flipped
	}
	at := inv.Apply(line.Baseline)
	if math.IsNaN(flipped) {
		switch place.Room.Align {
		case "center":
			at.X += line.Width / scale / 2
		case "right":
			at.X += line.Width / scale
		}
	}
	step := w.LineHeight.Value
	if step <= 0 {
		step = place.Font.Size * 1.25
	}
	at.Y += float64(i-k) * step / scale
	return at
}

// anchor reports whether the lines are held elsewhere in a language from right to left: where, in px of the screen, and
// by which text-anchor; start is at the right there. x is NaN where they stay, flip "" where it is as it was.
func (p *placer) anchor(el *design.Element, place text.Place) (x float64, flip string) {
	r := place.Room
	if !message.RightToLeft(p.locale) || r.Align == "center" {
		return math.NaN(), ""
	}
	bound := r.By == "sibling" || r.By == "own"
	switch {
	case r.Align == "left" && bound:
		return math.NaN(), "end" // held at the left, where such words end
	case r.Align == "left":
		return r.X + math.Max(r.Width, place.Box.W), "start"
	case bound:
		return math.NaN(), "start"
	}
	return r.X, "end"
}

// attribute puts words where they stand in an attribute, or a title.
func (p *placer) attribute(e *text.Entry, place text.Place, el *design.Element, spans []message.Span) {
	words := ""
	for _, s := range spans {
		words += s.Words
	}
	said := e.Sample(p.c.Locale)
	done := false
	el.Node.Walk(func(n *markup.Node) bool {
		if done || n.Kind != markup.Element {
			return !done
		}
		if place.Attribute == "title" && n.Is("title") && n.Parent == el.Node {
			from, to := inside(p.src, n)
			p.edits = append(p.edits, markup.Edit{From: from, To: to, With: markup.EscapeText(words)})
			done = true
			return false
		}
		if v, ok := n.Attr(place.Attribute); ok && strings.Join(strings.Fields(v), " ") == said {
			tag := p.src[n.Offset:startEnd(p.src, n)]
			at := regexp.MustCompile(`\s` + regexp.QuoteMeta(place.Attribute) +
				`\s*=\s*("[^"]*"|'[^']*')`).FindSubmatchIndex(tag)
			if at != nil {
				p.edits = append(p.edits, markup.Edit{From: n.Offset + at[2], To: n.Offset + at[3], With: `"` + markup.EscapeAttr(words) + `"`})
				done = true
			}
		}
		return !done
	})
	if !done {
		p.skip(e.Key, "the attribute "+place.Attribute+" is not where it was")
		return
	}
	p.out.Count++
}

// startEnd is where a start tag ends.
func startEnd(src []byte, n *markup.Node) int {
	quote := byte(0)
	for i := n.Offset; i < n.End; i++ {
		switch c := src[i]; {
		case quote != 0:
			if c == quote {
				quote = 0
			}
		case c == '"' || c == '\'':
			quote = c
		case c == '>':
			return i + 1
		}
	}
	return n.End
}

// inside is the stretch between the tags of a node.
func inside(src []byte, n *markup.Node) (from, to int) {
	from = startEnd(src, n)
	to = n.End
	for to > from && src[to-1] != '<' {
		to--
	}
	return from, max(from, to-1)
}
