package styletext

import "sort"

// Edited is what Read would find in a text after the bytes from..to of the old one were replaced by n others. Of a style
// sheet only the rule around the edit is read again, where that is enough.
func (c *Code) Edited(text string, from, to, n int) *Code {
	if out := c.spliced(text, from, to, n); out != nil {
		return out
	}
	return Read(text, c.Language)
}

// spliced reads the rule around an edit again; nil where what comes after it has changed, too.
func (c *Code) spliced(text string, from, to, n int) *Code {
	if c.Language != CSS && c.Language != SCSS || len(c.Text)-(to-from)+n != len(text) {
		return nil
	}
	first := sort.Search(len(c.Rules), func(i int) bool { return c.Rules[i].From > from }) - 1
	for first >= 0 && c.Rules[first].Parent >= 0 {
		first = c.Rules[first].Parent
	}
	if first < 0 || from < c.Rules[first].Open || to > c.Rules[first].Close || c.Rules[first].Close >= len(c.Text) {
		return nil
	}
	old, by := c.Rules[first], n-(to-from)
	part := &Code{Text: text, Language: c.Language, Regions: []Region{{Sheet, 0, len(text), c.Language == SCSS}}}
	s := &sheetScanner{c: part, text: text, rule: -1, base: -1, slashes: c.Language == SCSS}
	i := s.item(old.From)
	for s.rule >= 0 && i < len(text) && i <= old.Close+by {
		i = s.item(i)
	}
	if s.rule >= 0 || i != old.Close+by+1 || len(part.Rules) == 0 || part.Rules[0].Selector != old.Selector {
		return nil
	}
	behind := func(at int) bool { return at > old.Close }
	last := first + sort.Search(len(c.Rules)-first, func(i int) bool { return behind(c.Rules[first+i].From) })
	firstDecl := c.firstDecl(old.Open - 1)
	lastDecl := firstDecl + sort.Search(len(c.Decls)-firstDecl, func(i int) bool { return behind(c.Decls[firstDecl+i].From) })
	return c.splice(part, first, last, firstDecl, lastDecl, by)
}

// splice puts what was read again in the place of rules and declarations; those behind it have moved.
func (c *Code) splice(part *Code, first, last, firstDecl, lastDecl, by int) *Code {
	more := len(part.Rules) - (last - first)
	out := &Code{Text: part.Text, Language: c.Language, Regions: part.Regions,
		Rules: make([]Rule, 0, len(c.Rules)+more), Decls: make([]Decl, 0, len(c.Decls)+len(part.Decls)-(lastDecl-firstDecl))}
	rule := func(r Rule, by, index int) {
		r.From, r.To, r.Open, r.Close = r.From+by, r.To+by, r.Open+by, r.Close+by
		if r.Parent >= 0 {
			r.Parent += index
		}
		r.Selector = out.Text[r.From:r.To] // and not a part of the old text
		out.Rules = append(out.Rules, r)
	}
	decl := func(d Decl, by, index int) {
		d.From, d.To, d.End = d.From+by, d.To+by, d.End+by
		if d.Colon >= 0 {
			d.Colon, d.ValueAt = d.Colon+by, d.ValueAt+by
			d.Value = out.Text[d.ValueAt : d.ValueAt+len(d.Value)]
		}
		if d.Rule >= 0 {
			d.Rule += index
		}
		if p := out.Text[d.From:d.To]; p == d.Property {
			d.Property = p
		}
		out.Decls = append(out.Decls, d)
	}
	for _, from := range []struct {
		rules     []Rule
		decls     []Decl
		by, index int // how far they moved, in bytes and in the list of rules
	}{{c.Rules[:first], c.Decls[:firstDecl], 0, 0}, {part.Rules, part.Decls, 0, first}, {c.Rules[last:], c.Decls[lastDecl:], by, more}} {
		for _, r := range from.rules {
			rule(r, from.by, from.index)
		}
		for _, d := range from.decls {
			decl(d, from.by, from.index)
		}
	}
	return out
}
