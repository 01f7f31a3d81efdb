package drift

import (
	"fmt"
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/markup"
	"archetyp/core/styletext"
)

// Edit is a change to a style sheet of the site that mends a difference: the value of a declaration is another, a
// declaration goes, or one comes into a rule.
type Edit struct {
	File         string
	Line, Column int    // of the declaration; of a rule that gets one, of its selector
	Property     string // as it is declared
	Was          string // the value there; "" for none
	Is           string // the value to be; "" for none
}

// edit is what would mend a difference safely; nil where nothing is: where the markup differs, where one declaration
// sets more than was compared, where the value would have to be made up.
func (d *Difference) edit(in *In, first *seen) *Edit {
	c := &d.Cause
	if c.Place.Line == 0 || first.message != "" || c.Selector == "" || c.Selector == "style attribute" && c.Property == "" {
		return nil
	}
	e := &Edit{File: c.Place.File, Line: c.Place.Line, Column: c.Place.Column, Property: c.Property}
	switch {
	case first.old != nil && c.Lacking: // the rule lost it
		if first.old.Kind != "rule" {
			return nil
		}
		e.Is = first.old.Value
		if first.old.Important {
			e.Is += " !important"
		}
	case first.old != nil && first.old.Prop == c.Property:
		e.Was, e.Is = c.Value, first.old.Value
	case first.old != nil:
		return nil
	case first.claimed != "" && !c.Lacking:
		property, value, _ := strings.Cut(strings.TrimSuffix(first.claimed, ";"), ":")
		if c.Variable == "" && (strings.TrimSpace(property) != c.Property || !whole(c.Property, c.Value)) {
			return nil
		}
		if value = strings.TrimSpace(value); c.Variable != "" {
			if _, value, _ = strings.Cut(strings.TrimSuffix(d.Mend, ";"), ":"); strings.TrimSpace(value) == "" {
				return nil
			}
		}
		e.Was, e.Is = c.Value, strings.TrimSpace(value)
		if v := in.own(d.Design.Token); v != "" && c.Variable == "" {
			e.Is = "var(" + v + ")"
		}
	case first.claimed == "" && !c.Lacking: // the design declares nothing here
		e.Was = c.Value
	default:
		return nil
	}
	return e
}

// whole reports whether a drawing's value may stand for all that a declaration says: a shorthand of several parts says
// more than what was compared, such as the picture beside a colour.
func whole(property, value string) bool {
	switch property {
	case "background", "border", "outline", "font", "text-decoration", "border-radius", "padding", "margin", "gap", "border-width", "border-style", "border-color":
		return len(css.SplitTop(strings.TrimSpace(value), ' ')) == 1
	}
	return true
}

// own is the custom property of a token, where the site declares it; "" for none.
func (in *In) own(token string) string {
	if in.Tokens == nil || token == "" {
		return ""
	}
	name := in.Tokens.Property(token)
	for i := range in.Drawings {
		p := in.Drawings[i].Page
		for _, s := range p.Styles.Sheets() {
			if strings.Contains(s.Text, name+":") || strings.Contains(s.Text, name+" :") {
				return name
			}
		}
	}
	return ""
}

// Apply makes edits in the text of a file. What does not stand there as it was read is left alone; left says why.
func Apply(text string, edits []Edit) (out string, made int, left []string) {
	lang := styletext.CSS
	if strings.Contains(text[:min(len(text), 2000)], "<") {
		lang = styletext.HTML
	}
	code := styletext.Read(text, lang)
	lines := markup.Lines([]byte(text))
	type change struct {
		from, to int
		text     string
	}
	var changes []change
	for _, e := range edits {
		c, ok := change{}, false
		if e.Was == "" {
			c.from, c.text, ok = insertion(code, lines, text, e)
			c.to = c.from
		} else {
			for i := range code.Decls {
				d := &code.Decls[i]
				at := lines.Position(d.From)
				if at.Line != e.Line || at.Column != e.Column || !strings.EqualFold(d.Property, e.Property) {
					continue
				}
				value := strings.TrimRight(d.Value, " \t\n")
				if k := strings.LastIndex(value, "!"); k >= 0 && strings.EqualFold(strings.Join(strings.Fields(value[k+1:]), ""), "important") {
					value = strings.TrimRight(value[:k], " \t\n")
				}
				if strings.Join(strings.Fields(value), " ") != strings.Join(strings.Fields(e.Was), " ") {
					continue
				}
				ok = true
				if e.Is == "" {
					c.from, c.to = withLine(text, d)
				} else {
					c.from, c.to, c.text = d.ValueAt, d.ValueAt+len(value), e.Is
				}
			}
		}
		if !ok {
			left = append(left, fmt.Sprintf("%s:%d:%d: %s is not there any more", e.File, e.Line, e.Column, e.Property))
			continue
		}
		changes = append(changes, c)
	}
	slices.SortStableFunc(changes, func(a, b change) int { return b.from - a.from })
	end := len(text) + 1
	for _, c := range changes {
		if c.to > end { // two edits of one place
			continue
		}
		text = text[:c.from] + c.text + text[c.to:]
		end = c.from
		made++
	}
	return text, made, left
}

// withLine is a declaration with its semicolon, and with its line where it stands alone in it.
func withLine(text string, d *styletext.Decl) (from, to int) {
	from, to = d.From, d.End
	if to < len(text) && text[to] == ';' {
		to++
	}
	start := strings.LastIndexByte(text[:from], '\n') + 1
	end := strings.IndexByte(text[to:], '\n')
	if strings.TrimSpace(text[start:from]) == "" && end >= 0 && strings.TrimSpace(text[to:to+end]) == "" {
		return start, to + end + 1
	}
	for from > 0 && (text[from-1] == ' ' || text[from-1] == '\t') {
		from--
	}
	return from, to
}

// insertion is where a declaration comes into a rule: behind its last one, on a line of its own where the others are.
func insertion(code *styletext.Code, lines *markup.LineIndex, text string, e Edit) (at int, what string, ok bool) {
	for i := range code.Rules {
		r := &code.Rules[i]
		if p := lines.Position(r.From); p.Line != e.Line || r.Close > len(text) || r.Selector == "" {
			continue
		}
		end := len(strings.TrimRight(text[:r.Close], " \t\r\n"))
		if end < r.Open {
			end = r.Open
		}
		semi := ""
		if last := text[r.Open:end]; strings.TrimSpace(last) != "" && text[end-1] != ';' && text[end-1] != '}' {
			semi = ";"
		}
		inner := text[r.Open:r.Close]
		if strings.Contains(inner, "\n") {
			indent := "  "
			if k := strings.IndexByte(inner, '\n'); k >= 0 {
				rest := inner[k+1:]
				indent = rest[:len(rest)-len(strings.TrimLeft(rest, " \t"))]
			}
			return end, semi + "\n" + indent + e.Property + ": " + e.Is + ";", true
		}
		return end, semi + " " + e.Property + ": " + e.Is + ";", true
	}
	return 0, "", false
}

// Patch is the difference of two texts of one file as a unified diff, with three lines around each change.
func Patch(file, was, is string) string {
	if was == is {
		return ""
	}
	a, b := strings.SplitAfter(was, "\n"), strings.SplitAfter(is, "\n")
	script := lineScript(a, b)
	var out strings.Builder
	fmt.Fprintf(&out, "--- a/%s\n+++ b/%s\n", file, file)
	const around = 3
	for i := 0; i < len(script); {
		if script[i].op == ' ' {
			i++
			continue
		}
		from := max(i-around, 0)
		to, quiet := i, 0
		for k := i; k < len(script) && quiet <= 2*around; k++ {
			if script[k].op == ' ' {
				quiet++
			} else {
				quiet, to = 0, k+1
			}
		}
		to = min(to+around, len(script))
		oldLine, newLine, oldN, newN := script[from].old+1, script[from].new+1, 0, 0
		var body strings.Builder
		for _, l := range script[from:to] {
			body.WriteByte(l.op)
			body.WriteString(strings.TrimSuffix(l.text, "\n") + "\n")
			if !strings.HasSuffix(l.text, "\n") {
				body.WriteString("\\ No newline at end of file\n")
			}
			if l.op != '+' {
				oldN++
			}
			if l.op != '-' {
				newN++
			}
		}
		fmt.Fprintf(&out, "@@ -%d,%d +%d,%d @@\n%s", oldLine, oldN, newLine, newN, body.String())
		i = to
	}
	return out.String()
}

type scriptLine struct {
	op       byte // ' ', '-', '+'
	text     string
	old, new int // lines before it on each side
}

// lineScript leads from one list of lines to another. The lists differ in few places: what is the same at the front and
// the back is skipped, and the rest is walked by the nearest same line.
func lineScript(a, b []string) (out []scriptLine) {
	if n := len(a); n > 0 && a[n-1] == "" {
		a = a[:n-1]
	}
	if n := len(b); n > 0 && b[n-1] == "" {
		b = b[:n-1]
	}
	i, j := 0, 0
	const reach = 200
	for i < len(a) || j < len(b) {
		if i < len(a) && j < len(b) && a[i] == b[j] {
			out = append(out, scriptLine{' ', a[i], i, j})
			i, j = i+1, j+1
			continue
		}
		di, dj := len(a)-i, len(b)-j
		for sum := 1; sum <= reach; sum++ {
			found := false
			for x := 0; x <= sum && !found; x++ {
				y := sum - x
				if i+x < len(a) && j+y < len(b) && a[i+x] == b[j+y] || i+x == len(a) && j+y == len(b) {
					di, dj, found = x, y, true
				}
			}
			if found {
				break
			}
		}
		for range di {
			out = append(out, scriptLine{'-', a[i], i, j})
			i++
		}
		for range dj {
			out = append(out, scriptLine{'+', b[j], i, j})
			j++
		}
	}
	return out
}
