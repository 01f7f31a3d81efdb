package styletext

import (
	"sort"
	"strings"
)

// Kind is what stands at a place.
type Kind int

// The kinds of places: where a selector, a property or a value of CSS is written; a class, another attribute's value, or
// the words of a tag.
const (
	Nothing Kind = iota
	Selector
	Property
	Value
	Class
	Attribute
	Text
)

// Place is what stands at an offset.
type Place struct {
	Kind     Kind
	Region   *Region // of CSS
	Rule     int     // index of the innermost rule; -1 for none
	Decl     *Decl   // of a property or value
	Name     string  // of the property, or the attribute
	Tag      string  // of an attribute, or around words
	Function string  // of a value: the innermost one around the offset, as "var"; "" for none
	Index    int     // of a value: how many parts stand before, by spaces
	From, To int     // the word at the offset
	Whole    [2]int  // the value, the attribute's value, or all words
	Empty    bool    // nothing stands in the value but the word
}

// At is what stands at an offset.
func (c *Code) At(offset int) Place {
	if r := c.regionAt(offset); r >= 0 {
		return c.styleAt(r, offset)
	}
	return c.markupAt(offset)
}

func (c *Code) regionAt(offset int) int {
	i := sort.Search(len(c.Regions), func(i int) bool { return c.Regions[i].From > offset }) - 1
	if i >= 0 && offset <= c.Regions[i].To {
		return i
	}
	return -1
}

// styleAt is what stands at a place in a region.
func (c *Code) styleAt(region, offset int) Place {
	r := &c.Regions[region]
	p := Place{Kind: Nothing, Region: r, Rule: c.ruleAt(region, offset), From: offset, To: offset}
	if p.Rule >= 0 && offset < c.Rules[p.Rule].Open {
		p.Kind = Selector
		if to := c.Rules[p.Rule].To; offset <= to {
			p.From, p.To = c.word(offset, c.Rules[p.Rule].From, to, selectorEnds)
		}
		p.Rule = c.Rules[p.Rule].Parent
		return p
	}
	if d := c.declAt(region, offset); d != nil {
		p.Decl, p.Name, p.Rule = d, d.Property, d.Rule
		if d.Colon >= 0 && offset > d.Colon {
			return c.valueAt(p, offset)
		}
		p.Kind, p.From, p.To = Property, d.From, d.To
		if first := c.Text[d.From]; r.Kind != Object && (strings.IndexByte(".#&:*[>+~", first) >= 0 || p.Rule < 0 && d.Colon < 0) {
			p.Kind = Selector // of a rule that is begun
			p.From, p.To = c.word(offset, d.From, d.To, selectorEnds)
		}
		return p
	}
	if p.Rule >= 0 && !c.Rules[p.Rule].holdsRules() && !c.inComment(r, p.Rule, offset) {
		p.Kind = Property
	}
	return p
}

// selectorEnds are the bytes that end a word in a selector.
const selectorEnds = " \t\n\r\f,>+~()[]:*"

// holdsRules reports whether only rules stand in a rule.
func (r *Rule) holdsRules() bool {
	for _, name := range []string{"@media", "@supports", "@layer", "@container", "@scope", "@keyframes"} {
		if strings.HasPrefix(r.Selector, name) && r.Parent < 0 {
			return true
		}
	}
	return false
}

// inComment reports whether an offset stands in a comment, looked for from the declaration before it on.
func (c *Code) inComment(r *Region, rule, offset int) bool {
	from := c.Rules[rule].Open
	if i := c.firstDecl(offset) - 1; i >= 0 && c.Decls[i].End > from && c.Decls[i].End <= offset {
		from = c.Decls[i].End
	}
	before := c.Text[from:offset]
	if n := strings.LastIndex(before, "/*"); n >= 0 && !strings.Contains(before[n:], "*/") {
		return true
	}
	if !r.Slashes {
		return false
	}
	return strings.Contains(before[strings.LastIndexByte(before, '\n')+1:], "//")
}

// ruleAt is the innermost rule at an offset, its selector counted in; -1 for none.
func (c *Code) ruleAt(region, offset int) int {
	i := sort.Search(len(c.Rules), func(i int) bool { return c.Rules[i].start() > offset }) - 1
	for i >= 0 && (c.Rules[i].Close < offset || c.Rules[i].Region != region) {
		if c.Rules[i].Region != region {
			return -1
		}
		i = c.Rules[i].Parent
	}
	return i
}

func (r *Rule) start() int {
	if r.Selector == "" {
		return r.Open
	}
	return r.From
}

// firstDecl is the index of the first declaration behind an offset.
func (c *Code) firstDecl(offset int) int {
	return sort.Search(len(c.Decls), func(i int) bool { return c.Decls[i].From > offset })
}

// declAt is the declaration at an offset: up to what ends it.
func (c *Code) declAt(region, offset int) *Decl {
	i := c.firstDecl(offset) - 1
	if i < 0 || c.Decls[i].Region != region {
		return nil
	}
	d := &c.Decls[i]
	if offset <= d.End || d.Colon >= 0 && offset <= c.lineEnd(d) && strings.TrimSpace(c.Text[d.End:offset]) == "" {
		return d
	}
	return nil
}

// lineEnd is where the line of a declaration's end ends, where nothing but space follows it.
func (c *Code) lineEnd(d *Decl) int {
	i := d.End
	for i < len(c.Text) && (c.Text[i] == ' ' || c.Text[i] == '\t') {
		i++
	}
	if d.Colon < 0 || c.Regions[d.Region].Kind == Object {
		return d.End
	}
	return min(i, c.Regions[d.Region].To)
}

// valueAt is a place in a value.
func (c *Code) valueAt(p Place, offset int) Place {
	d := p.Decl
	p.Kind = Value
	from := d.ValueAt
	for from < offset && (c.Text[from] == ' ' || c.Text[from] == '\t') { // behind a colon that has no value yet
		from++
	}
	from, to := min(from, offset), max(trimmed(c.Text, d.ValueAt, d.End), offset)
	p.Whole = [2]int{from, max(from, trimmed(c.Text, d.ValueAt, d.End))}
	depth := []int{} // of open parentheses
	for i := from; i < offset; i++ {
		switch c.Text[i] {
		case '(':
			depth = append(depth, i)
		case ')':
			if len(depth) > 0 {
				depth = depth[:len(depth)-1]
			}
		case ' ', '\t', '\n':
			if len(depth) == 0 && i > from && !space(c.Text[i-1]) {
				p.Index++
			}
		}
	}
	apart := " \t\n\r\f,()/;\"'"
	if n := len(depth); n > 0 {
		open := depth[n-1]
		name := open
		for name > from && nameByte(c.Text[name-1]) {
			name--
		}
		p.Function = strings.ToLower(c.Text[name:open])
		if p.Function == "url" {
			apart = "()\"'"
		}
	}
	p.From, p.To = c.word(offset, from, to, apart)
	p.Whole = [2]int{min(p.Whole[0], p.From), max(p.Whole[1], p.To)}
	p.Empty = strings.TrimSpace(c.Text[p.Whole[0]:p.From])+strings.TrimSpace(c.Text[p.To:p.Whole[1]]) == ""
	return p
}

// word is the run of bytes around an offset that are none of some.
func (c *Code) word(offset, from, to int, apart string) (int, int) {
	a, b := offset, offset
	for a > from && strings.IndexByte(apart, c.Text[a-1]) < 0 {
		a--
	}
	for b < to && strings.IndexByte(apart, c.Text[b]) < 0 {
		b++
	}
	return a, b
}

// markupAt is what stands at a place among tags.
func (c *Code) markupAt(offset int) Place {
	p := Place{Rule: -1, From: offset, To: offset, Whole: [2]int{offset, offset}}
	i := sort.Search(len(c.Tags), func(i int) bool { return c.Tags[i].From >= offset }) - 1
	if i >= 0 && offset < c.Tags[i].To {
		return c.attributeAt(p, &c.Tags[i], offset)
	}
	w := sort.Search(len(c.Words), func(i int) bool { return c.Words[i].To >= offset })
	if w < len(c.Words) && c.Words[w].From <= offset {
		words := c.Words[w]
		p.Kind, p.Tag, p.From, p.To = Text, words.In, words.From, words.To
		p.Whole = [2]int{words.From, words.To}
		return p
	}
	if i >= 0 && !c.Tags[i].Closing && offset >= c.Tags[i].To && strings.TrimSpace(c.Text[c.Tags[i].To:offset]) == "" { // <b>|</b>
		p.Kind, p.Tag = Text, c.Tags[i].Name
	}
	return p
}

// attributeAt is what stands at a place in a tag.
func (c *Code) attributeAt(p Place, t *Tag, offset int) Place {
	for _, a := range t.Attrs {
		if a.From < 0 || offset < a.From || offset > a.To {
			continue
		}
		p.Kind, p.Name, p.Tag, p.Whole = Attribute, a.Name, t.Name, [2]int{a.From, a.To}
		p.From, p.To = a.From, a.To
		if a.Name == "class" || a.Name == "className" || a.Name == ":class" {
			p.Kind = Class
			p.From, p.To = c.word(offset, a.From, a.To, " \t\n\r\"'`{}(),:?")
		}
		return p
	}
	return p
}
