package page

import (
	"cmp"
	"net/url"
	"path"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/css/computed"
	"archetyp/core/design"
	"archetyp/core/markup"
)

// The page answers for its styles: design.Styles.

// Nodes are the elements of the page that a selector means, and the pseudo-elements that show something, those in frames
// last.
func (p *Page) Nodes(sel *css.Selector) (out []*markup.Node) {
	m := css.NewMatcher(nil, nil)
	p.Markup.Root.Walk(func(n *markup.Node) bool {
		if m.Matches(sel, n) {
			out = append(out, n)
		}
		return true
	})
	for _, n := range p.parts {
		if m.MatchesPart(sel, n.Parent, partOf(n)) {
			out = append(out, n)
		}
	}
	for _, n := range p.framesInOrder() {
		out = append(out, p.frames[n].Nodes(sel)...)
	}
	return out
}

// Computed is the computed value of a property of an element.
func (p *Page) Computed(n *markup.Node, property string) (string, bool) {
	if p = p.Of(n); p == nil {
		return "", false
	}
	s := p.styles[n]
	if s == nil {
		return "", false
	}
	return s.Get(property)
}

// Differs reports whether a value is neither initial nor as in the element around it.
func (p *Page) Differs(n *markup.Node, property string) bool {
	if p = p.Of(n); p == nil {
		return false
	}
	s := p.styles[n]
	return s != nil && (s.Differs(property) || strings.HasPrefix(property, "--") && slices.Contains(s.Customs(), property))
}

// Properties are all longhands, and the custom properties in force for an element.
func (p *Page) Properties(n *markup.Node) []string {
	if p = p.Of(n); p == nil {
		return nil
	}
	out := computed.Properties()
	seen := map[string]bool{}
	var custom []string
	for a := n; a != nil; a = a.Parent {
		if s := p.styles[a]; s != nil {
			for _, name := range s.Customs() {
				if !seen[name] {
					seen[name] = true
					custom = append(custom, name)
				}
			}
		}
	}
	slices.Sort(custom)
	return append(slices.Clone(out), custom...)
}

// Rules are the rules that mean an element, the one that wins first; those of the browser come last.
func (p *Page) Rules(n *markup.Node) (out []design.StyleRule) {
	if p = p.Of(n); p == nil {
		return nil
	}
	s := p.styles[n]
	if s == nil {
		return nil
	}
	if text, ok := n.Attr("style"); ok {
		r := design.StyleRule{Selector: "style attribute", Place: p.at(n.Offset)}
		for _, d := range css.ParseDecls(text) {
			r.Declarations = append(r.Declarations, written(d))
		}
		out = append(out, r)
	}
	for _, m := range slices.Backward(s.Declared()) {
		r := design.StyleRule{Selector: oneLine(m.Rule.Selector.Text), Specificity: [3]int(m.Spec), Within: m.Rule.Around, Place: p.placeOf(m.Rule.Sheet, m.Rule.Offset)}
		for _, d := range m.Rule.Decls {
			r.Declarations = append(r.Declarations, written(d))
		}
		out = append(out, r)
	}
	return out
}

// oneLine is a text with its white space as single blanks.
func oneLine(s string) string { return strings.Join(strings.Fields(s), " ") }

// selector is a short selector of an element.
func (p *Page) selector(n *markup.Node) string {
	return (&design.Element{Node: n, Screen: &design.Screen{Document: &design.Document{Markup: p.Markup}}}).Selector()
}

func written(d css.Decl) design.Declaration {
	v := d.Value
	if d.Important {
		v += " !important"
	}
	return design.Declaration{Prop: d.Prop, Value: v}
}

// at is a place in the page itself.
func (p *Page) at(offset int) design.StylePlace {
	pos := p.Markup.Position(offset)
	return design.StylePlace{File: p.name, Line: pos.Line, Column: pos.Column}
}

// placeOf is a place in a style sheet, by its offset in the sheet's text.
func (p *Page) placeOf(s *css.Sheet, offset int) design.StylePlace {
	switch {
	case s == nil:
		return design.StylePlace{}
	case s.Origin == css.OfBrowser:
		return design.StylePlace{File: s.Name}
	case s.Offset > 0:
		return p.at(s.Offset + offset)
	case s.Lines == nil:
		return design.StylePlace{File: p.shown(s.Name)}
	}
	if p.lines[s] == nil {
		p.lines[s] = s.Lines()
	}
	pos := p.lines[s].Position(offset)
	return design.StylePlace{File: p.shown(s.Name), Line: pos.Line, Column: pos.Column}
}

// shown is how a sheet is named to people: its address, or its path beside that of the page.
func (p *Page) shown(name string) string {
	file, ok := strings.CutPrefix(name, "file://")
	if !ok {
		return name
	}
	if plain, err := url.PathUnescape(file); err == nil {
		file = plain
	}
	own, ok := strings.CutPrefix(p.address, "file://")
	if !ok {
		return file
	}
	if plain, err := url.PathUnescape(own); err == nil {
		own = plain
	}
	rel, err := filepath.Rel(path.Dir(own), file)
	if err != nil {
		return file
	}
	return path.Join(path.Dir(filepath.ToSlash(p.name)), filepath.ToSlash(rel))
}

// Why are the declarations of a property, the one that wins first.
func (p *Page) Why(n *markup.Node, property string) []design.StyleDeclaration {
	if p = p.Of(n); p == nil {
		return nil
	}
	s := p.styles[n]
	if s == nil {
		return nil
	}
	return p.declarations(n, s.Why(property))
}

func (p *Page) declarations(n *markup.Node, list []computed.Declared) (out []design.StyleDeclaration) {
	for _, d := range list {
		on := n
		for range d.Up {
			if on = on.Parent; on.Kind == markup.Fragment {
				on = on.Host
			}
		}
		x := design.StyleDeclaration{Declaration: design.Declaration{Prop: d.Prop, Value: d.Value}, Important: d.Important, Kind: d.Kind, Lost: d.Lost,
			Element: p.selector(on), Vars: p.declarations(n, d.Vars)}
		if d.Match != nil {
			x.Selector, x.Within, x.Place = oneLine(d.Match.Rule.Selector.Text), d.Match.Rule.Around, p.placeOf(d.Match.Rule.Sheet, d.Offset)
		} else {
			x.Place = p.at(on.Offset)
		}
		out = append(out, x)
	}
	return out
}

// Declared are the declarations that win for an element itself, as they are written: shorthands whole where nothing
// overrides them in part.
func (p *Page) Declared(n *markup.Node) (out []design.Declaration) {
	if p = p.Of(n); p == nil {
		return nil
	}
	s := p.styles[n]
	if s == nil {
		return nil
	}
	seen := map[string]bool{}
	for _, name := range append(s.Customs(), s.Set()...) {
		for _, d := range firstOf(s.Why(name)) {
			if d.Kind == "browser" || d.Up > 0 {
				continue
			}
			if key := d.Prop + ":" + d.Value; !seen[key] {
				seen[key] = true
				out = append(out, design.Declaration{Prop: d.Prop, Value: d.Value})
			}
		}
	}
	return out
}

// Same is equal for elements that have the same computed style.
func (p *Page) Same(n *markup.Node) any {
	if p = p.Of(n); p == nil || p.styles[n] == nil {
		return nil
	}
	return p.styles[n]
}

// Set are the longhands that the page declares for an element itself.
func (p *Page) Set(n *markup.Node) []string {
	if p = p.Of(n); p == nil || p.styles[n] == nil {
		return nil
	}
	return p.styles[n].Set()
}

// section is the part of the facts that a property belongs to.
func section(prop string) string {
	switch {
	case prop == "color", strings.HasPrefix(prop, "font"), strings.HasPrefix(prop, "text"), strings.HasPrefix(prop, "letter"), strings.HasPrefix(prop, "word"),
		prop == "line-height", strings.HasPrefix(prop, "white-space"), prop == "hyphens", prop == "direction", strings.HasPrefix(prop, "list-style"), prop == "vertical-align":
		return "text"
	case strings.HasPrefix(prop, "background"), strings.HasPrefix(prop, "border"), strings.HasPrefix(prop, "outline"), strings.HasPrefix(prop, "mask"),
		strings.HasPrefix(prop, "fill"), strings.HasPrefix(prop, "stroke"), strings.HasSuffix(prop, "color"):
		return "paint"
	case prop == "opacity", prop == "box-shadow", strings.HasSuffix(prop, "filter"), strings.HasPrefix(prop, "mix-blend"), strings.HasPrefix(prop, "transform"),
		prop == "translate", prop == "rotate", prop == "scale", strings.HasPrefix(prop, "clip"):
		return "effects"
	case strings.HasPrefix(prop, "transition"), strings.HasPrefix(prop, "animation"):
		return "motion"
	}
	return "layout"
}

// sectionOrder is the order in which facts are read.
var sectionOrder = []string{"layout", "paint", "effects", "text", "motion"}

// facts are what the page declares of an element, longhand by longhand; four sides of one value are one fact. Text has
// the type it is set in, inherited or not.
func (p *Page) facts(n *markup.Node, words bool) []design.FactLine {
	s := p.styles[n]
	names := s.Set()
	if words {
		for _, name := range []string{"color", "font-family", "font-size", "font-weight", "line-height"} {
			if !slices.Contains(names, name) {
				names = append(names, name)
			}
		}
	}
	byName := map[string]design.FactLine{}
	for _, name := range names {
		value, _ := s.Get(name)
		if c, ok := s.ColorOf(name); ok {
			value = c
		}
		f := design.FactLine{Section: section(name), Name: name, Value: value, Origin: design.Stated}
		if list := s.Why(name); len(list) > 0 {
			d := p.declarations(n, list[:1])[0]
			if d.Prop != name && !s.Differs(name) && !(words && section(name) == "text") { // only a shorthand resets it
				continue
			}
			f.From = from(d)
			if strings.Contains(d.Value, "var(") {
				f.Note = d.Value
			}
			if d.Kind == "browser" {
				f.Origin = design.Derived
			}
		} else {
			f.Origin, f.From = design.Derived, "initial value"
		}
		byName[name] = f
	}
	for _, q := range []struct{ all, pattern string }{{"margin", "margin-*"}, {"padding", "padding-*"}, {"border-width", "border-*-width"}, {"border-style", "border-*-style"},
		{"border-color", "border-*-color"}, {"inset", "*"}, {"border-radius", "border-*-radius"}, {"scroll-margin", "scroll-margin-*"}} {
		sides := []string{"top", "right", "bottom", "left"}
		if q.all == "border-radius" {
			sides = []string{"top-left", "top-right", "bottom-right", "bottom-left"}
		}
		first, same := design.FactLine{}, true
		for i, side := range sides {
			f, ok := byName[strings.Replace(q.pattern, "*", side, 1)]
			if i == 0 {
				first = f
			}
			same = same && ok && f.Value == first.Value && f.From == first.From
		}
		if same {
			for _, side := range sides {
				delete(byName, strings.Replace(q.pattern, "*", side, 1))
			}
			first.Name = q.all
			byName[q.all] = first
			names = append(names, q.all)
		}
	}
	out := []design.FactLine{}
	for _, sec := range sectionOrder {
		for _, name := range names {
			if f, ok := byName[name]; ok && f.Section == sec {
				out = append(out, f)
				delete(byName, name)
			}
		}
	}
	return out
}

// from says where a declaration stands, in a few words.
func from(d design.StyleDeclaration) string {
	where := d.Place.File
	if i := strings.LastIndexByte(where, '/'); i >= 0 && i+1 < len(where) {
		where = where[i+1:]
	}
	if d.Place.Line > 0 {
		where += ":" + strconv.Itoa(d.Place.Line)
	}
	switch d.Kind {
	case "rule":
		text := d.Selector
		if r := []rune(text); len(r) > 48 {
			text = string(r[:47]) + "…"
		}
		return "rule " + text + ", " + where
	case "browser":
		return "the browser"
	}
	return d.Kind + ", " + where
}

// firstOf is the first of a list, as a list.
func firstOf(list []computed.Declared) []computed.Declared { return list[:min(1, len(list))] }

// Sheets are the style sheets of the page, in order.
func (p *Page) Sheets() (out []design.StyleSheet) {
	for _, s := range p.sheets {
		if s.Text == "" {
			continue
		}
		x := design.StyleSheet{Name: p.shown(s.Name), Text: s.Text, Line: 1}
		if s.Offset > 0 {
			x.Line = p.at(s.Offset).Line
		}
		out = append(out, x)
	}
	return out
}

// stateNames are the states that are asked for, in the order in which rules are written.
var stateNames = []string{"hover", "focus", "focus-within", "focus-visible", "active", "disabled", "checked", "invalid", "target"}

// States are the rules of the page that mean an element only in a state.
func (p *Page) States(n *markup.Node) (out []design.StyleRule) {
	if p = p.Of(n); p == nil {
		return nil
	}
	if partOf(n) != "" {
		return nil
	}
	plain := css.NewMatcher(nil, nil)
	for _, state := range stateNames {
		forced := css.NewMatcher(map[string]bool{state: true}, nil)
		for _, s := range p.sheets {
			for i := range s.Rules {
				r := &s.Rules[i]
				if !strings.Contains(r.Selector.Text, ":"+state) || plain.Matches(r.Selector, n) || !forced.Matches(r.Selector, n) {
					continue
				}
				x := design.StyleRule{Selector: ":" + state, Within: r.Around, Place: p.placeOf(s, r.Offset)}
				for _, d := range r.Decls {
					x.Declarations = append(x.Declarations, written(d))
				}
				out = append(out, x)
			}
		}
	}
	return out
}

// framesInOrder are the frames of the page that can be looked into, as they stand in it.
func (p *Page) framesInOrder() (out []*markup.Node) {
	for n := range p.frames {
		out = append(out, n)
	}
	slices.SortFunc(out, func(a, b *markup.Node) int { return cmp.Compare(p.numbers[a], p.numbers[b]) })
	return out
}
