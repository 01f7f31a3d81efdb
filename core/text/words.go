package text

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/markup"
	"archetyp/core/text/message"
)

// Inline is an inline element of a message and the run of the design it stands for.
type Inline struct {
	Name string // b, i, a, or s for set apart otherwise; numbered where there are several
	Run  design.Run
}

// Rich reads the words of a text as one message: runs that are set apart from the rest become inline elements,
// lines that only wrap are joined. https://unicode-org.github.io/icu/userguide/format_parse/messages/
func Rich(w *design.TextFacts) (words string, inlines []Inline) {
	base := baseRun(w)
	if base < 0 {
		return message.Escape(joinLines(w)), nil
	}
	named := map[string]string{}
	count := map[string]int{}
	name := func(r design.Run) string {
		look := lookOf(r)
		if n, ok := named[look]; ok {
			return n
		}
		kind := kindOf(r, w.Runs[base])
		count[kind]++
		n := kind
		if count[kind] > 1 {
			n = fmt.Sprint(kind, count[kind])
		}
		named[look] = n
		inlines = append(inlines, Inline{n, r})
		return n
	}
	var b strings.Builder
	for i := 0; i < len(w.Runs); {
		r := w.Runs[i]
		j := i + 1
		for j < len(w.Runs) && w.Runs[j].Line == r.Line && lookOf(w.Runs[j]) == lookOf(r) {
			r.Words += w.Runs[j].Words
			j++
		}
		said := r.Words
		if i == 0 || w.Runs[i-1].Line != r.Line {
			said = strings.TrimLeft(said, " ")
			if i > 0 {
				b.WriteString(lineBreak(w, r.Line))
			}
		}
		if j == len(w.Runs) || w.Runs[j].Line != r.Line {
			said = strings.TrimRight(said, " ")
		}
		if lookOf(r) == lookOf(w.Runs[base]) {
			b.WriteString(message.EscapeIn(said, false))
		} else if core := strings.TrimSpace(said); core == "" {
			b.WriteString(said)
		} else { // the spaces around stay outside
			at := strings.Index(said, core)
			n := name(r)
			b.WriteString(said[:at] + "<" + n + ">" + message.EscapeIn(core, false) + "</" + n + ">" + said[at+len(core):])
		}
		i = j
	}
	m, err := message.Parse(b.String())
	if err != nil {
		return message.Escape(joinLines(w)), nil
	}
	return joinElements(m).String(), inlines
}

// joinElements writes neighbouring elements of one name that only a line's end parts as one.
func joinElements(m message.Message) message.Message {
	var out message.Message
	for i := 0; i < len(m); i++ {
		if k := len(out); i+2 < len(m) && k > 0 && m[i].Kind == message.Close && m[i+1].Kind == message.Literal &&
			m[i+1].Text == " " &&
			m[i+2].Kind == message.Open && m[i+2].Name == m[i].Name {
			out = append(out, m[i+1])
			i += 2
			continue
		}
		out = append(out, m[i])
	}
	return out
}

// baseRun is the first run of the look that the others are set apart from; −1 where all look alike. It is the text's
// own, which no tspan changes; where every run has a look given to it, that of three times the letters of any other;
// else the lighter, the upright, the greyer one, and the first.
func baseRun(w *design.TextFacts) int {
	var looks []look
	at := map[string]int{}
	for i, r := range w.Runs {
		letters := utf8.RuneCountInString(strings.TrimSpace(r.Words))
		if letters == 0 {
			continue
		}
		key := lookOf(r)
		k, known := at[key]
		if !known {
			k = len(looks)
			at[key] = k
			looks = append(looks, look{first: i, run: r})
		}
		looks[k].letters += letters
		looks[k].own = looks[k].own || unstyled(r.Node)
	}
	if len(looks) < 2 {
		return -1
	}
	return slices.MinFunc(looks, compareLooks).first
}

// look is how some runs of a text are set.
type look struct {
	first   int // of its runs
	letters int
	own     bool // the text's own
	run     design.Run
}

// compareLooks is less than 0 where a is rather the one that others are set apart from.
func compareLooks(a, b look) int {
	yes := func(a, b bool) int { return cmp.Compare(btoi(b), btoi(a)) }
	many := 0
	switch {
	case a.letters >= 3*b.letters:
		many = -1
	case b.letters >= 3*a.letters:
		many = 1
	}
	return cmp.Or(yes(a.own, b.own), many, cmp.Compare(a.run.Weight, b.run.Weight), yes(!a.run.Italic, !b.run.Italic),
		cmp.Compare(greyness(a.run), greyness(b.run)), cmp.Compare(a.first, b.first))
}

func btoi(b bool) int {
	if b {
		return 1
	}
	return 0
}

// greyness is 0 for greys, more for stronger colours, in steps that are seen.
func greyness(r design.Run) int {
	if r.Fill.Kind != design.Solid {
		return 10
	}
	return int(r.Fill.Color.To(color.OKLCH).C[1] / 0.03)
}

// unstyled reports whether nothing but a text element itself says how a run is set: tspans around it only say a place.
func unstyled(n *markup.Node) bool {
	for ; n != nil && !n.Is("text") && n.Local != "foreignObject"; n = n.Parent {
		for _, a := range n.Attrs {
			switch a.Name {
			case "x", "y", "dx", "dy", "id", "xml:space", "textLength", "rotate":
			default:
				return false
			}
		}
		if !n.Is("tspan") {
			return false
		}
	}
	return n != nil
}

// lookOf is all that sets a run apart: how it is set, and the link it is.
func lookOf(r design.Run) string {
	fill := string(r.Fill.Kind)
	if r.Fill.Kind == design.Solid {
		fill = r.Fill.Color.CSS()
	}
	return fmt.Sprintf("%s|%g|%d|%t|%s|%s", r.Family, r.Size, r.Weight, r.Italic, fill, linkOf(r.Node))
}

// linkOf is where a run leads to, when it stands in a link inside its text.
func linkOf(n *markup.Node) string {
	for ; n != nil && n.Local != "text" && n.Local != "foreignObject"; n = n.Parent {
		if n.Local == "a" {
			return "link " + n.Href()
		}
	}
	return ""
}

func kindOf(r, base design.Run) string {
	switch {
	case linkOf(r.Node) != linkOf(base.Node) && linkOf(r.Node) != "":
		return "a"
	case r.Weight >= base.Weight+100:
		return "b"
	case r.Italic && !base.Italic:
		return "i"
	}
	return "s"
}

// joinLines are the words of a text with the line ends that only wrap undone.
func joinLines(w *design.TextFacts) string {
	if len(w.Lines) < 2 {
		return w.Words
	}
	var b strings.Builder
	for i, l := range w.Lines {
		if i > 0 {
			b.WriteString(lineBreak(w, i))
		}
		b.WriteString(l.Words)
	}
	return b.String()
}

// lineBreak is what stands between the line before and line i: a space where the words only wrap (the next begins
// small, or would not have fit into the width of the widest), nothing after a hyphen, else a line end.
func lineBreak(w *design.TextFacts, i int) string {
	if i < 1 || i >= len(w.Lines) {
		return " "
	}
	a, b := w.Lines[i-1], w.Lines[i]
	if a.Words == "" || b.Words == "" {
		return "\n"
	}
	first, _ := utf8.DecodeRuneInString(b.Words)
	last, _ := utf8.DecodeLastRuneInString(a.Words)
	reads := unicode.IsLower(first) && last != '.' && last != '!' && last != '?' && last != ':' || last == ','
	if !reads && !full(w, i) {
		return "\n"
	}
	if last == '-' && unicode.IsLower(first) {
		return ""
	}
	if noSpaces(last) && noSpaces(first) {
		return ""
	}
	return " "
}

// full reports whether the first word of line i would not have fit on the line before, in a text of sentences.
func full(w *design.TextFacts, i int) bool {
	a, b := w.Lines[i-1], w.Lines[i]
	widest := 0.0
	for _, l := range w.Lines {
		widest = max(widest, l.Width)
	}
	word, _, _ := strings.Cut(b.Words, " ")
	share := float64(utf8.RuneCountInString(word)+1) / float64(max(1, utf8.RuneCountInString(b.Words)))
	return len(strings.Fields(a.Words)) >= 4 && a.Width+share*b.Width > widest
}

// noSpaces reports whether a letter is of a script that puts no spaces between words.
func noSpaces(r rune) bool {
	return unicode.In(r, unicode.Han, unicode.Hiragana, unicode.Katakana, unicode.Thai, unicode.Lao, unicode.Khmer,
		unicode.Myanmar)
}

// fillers are words that designers put where the real ones are not there yet.
var fillers = []string{"lorem ipsum", "dolor sit amet", "consectetur adipiscing", "lipsum"}

// untranslatable says why words are not for translators; "" where they are.
func untranslatable(words string) string {
	letters := false
	for _, r := range words {
		if unicode.IsLetter(r) {
			letters = true
			break
		}
	}
	if !letters {
		if strings.ContainsFunc(words, unicode.IsDigit) {
			return "a number"
		}
		return "only signs"
	}
	low := strings.ToLower(words)
	for _, f := range fillers {
		if strings.Contains(low, f) {
			return "filler copy"
		}
	}
	return ""
}

// attribute is a text that is not drawn: what is read aloud or shown in its place.
type attribute struct {
	name  string
	words string
	node  *markup.Node
}

// attributes are the alternative texts, placeholders and titles of an element.
func attributes(e *design.Element) []attribute {
	n := e.Node
	if n == nil {
		return nil
	}
	var out []attribute
	add := func(n *markup.Node, name string) bool {
		v := strings.Join(strings.Fields(n.AttrOr(name, "")), " ")
		if v != "" {
			out = append(out, attribute{name, v, n})
		}
		return v != ""
	}
	if e.Kind == design.Image || n.AttrOr("role", "") == "img" {
		if !add(n, "alt") && !add(n, "aria-label") {
			for _, c := range n.Children {
				if c.Is("title") {
					if v := strings.Join(strings.Fields(c.TextContent()), " "); v != "" {
						out = append(out, attribute{"title", v, n})
					}
					break
				}
			}
		}
	}
	if n.HTML && n.Kind == markup.Element { // of a page
		for _, name := range []string{"placeholder", "title", "aria-label"} {
			if name != "aria-label" || len(out) == 0 {
				add(n, name)
			}
		}
		if n.Local == "input" {
			switch strings.ToLower(n.AttrOr("type", "")) {
			case "submit", "reset", "button":
				add(n, "value")
			}
		}
		return out
	}
	if e.Native == design.Embedded {
		n.Walk(func(k *markup.Node) bool {
			if k.Kind == markup.Element && k != n {
				for _, name := range []string{"alt", "placeholder", "title", "aria-label"} {
					add(k, name)
				}
			}
			return true
		})
	}
	return out
}
