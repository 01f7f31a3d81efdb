package editor

import (
	"cmp"
	"context"
	"fmt"
	"path"
	"slices"
	"strings"

	"archetyp/core/code"
	"archetyp/core/offer"
	"archetyp/core/styletext"
)

// complete offers what could be written at a place.
func complete(ctx context.Context, c *call, p *documentPosition) (any, error) {
	o := c.open(ctx, p.TextDocument.URI)
	if o == nil {
		return nil, nil
	}
	offset := o.text.offset(p.Position, c.client.encoding)
	l := &list{c: c, o: o, offset: offset}
	if o.code == nil {
		l.tokenFile()
		return l.done(), nil
	}
	place := o.code().At(offset)
	switch place.Kind {
	case styletext.Value:
		l.values(ctx, &place)
	case styletext.Property:
		l.declarations(ctx, &place)
	case styletext.Class:
		l.classes(place.From, place.To, "")
	case styletext.Selector:
		if offset > place.From && o.text.string[place.From] == '.' {
			l.classes(place.From, place.To, ".")
		}
	case styletext.Attribute:
		l.attribute(ctx, &place)
	case styletext.Text:
		l.words(ctx, &place, false)
	}
	return l.done(), nil
}

// list is a list of items as it is made.
type list struct {
	c      *call
	o      *openFile
	offset int
	items  []completionItem
	more   bool
}

// done is the list, in the order of its items. Whoever types on asks again, since what suits best changes.
func (l *list) done() any {
	if len(l.items) == 0 {
		return nil
	}
	if len(l.items) > offer.Most {
		l.items, l.more = l.items[:offer.Most], true
	}
	for i := range l.items {
		l.items[i].SortText = fmt.Sprintf("%04d", i)
	}
	return completionList{IsIncomplete: true, Items: l.items}
}

// add offers a text in the place of bytes. The list was chosen by what is typed, so that clients need not choose again.
func (l *list) add(it completionItem, from, to int, insert string) {
	it.TextEdit = &textEdit{l.span(from, to), insert}
	it.FilterText = it.Label
	if typed := l.o.text.string[from:max(from, min(to, l.offset))]; typed != "" {
		it.FilterText = typed
	}
	l.items = append(l.items, it)
}

func (l *list) span(from, to int) lspRange { return l.o.text.span(from, to, l.c.client.encoding) }

// documented gives an item its documentation, now or when the client asks for it.
func (l *list) documented(it *completionItem, token string) {
	switch {
	case token != "" && l.c.client.resolves:
		it.Data = &itemData{URI: l.o.uri, Token: token}
	case len(l.items) >= mostDocumented: // whoever types on sees others
	case token != "":
		it.Documentation = markdown(l.o.a.Desk.Card(token))
	}
}

// mostDocumented is how many items are documented at once, where the client does not ask for it later.
const mostDocumented = 40

func markdown(s string) *markupContent { return &markupContent{"markdown", s} }

// values offers values of a property.
func (l *list) values(ctx context.Context, p *styletext.Place) {
	if p.Function == "url" {
		l.pictures(ctx, p.From, p.To, "%s")
		return
	}
	_, own := l.o.sp.focused(ctx, l.o.a, string(l.o.code().Language))
	typed := l.o.text.string[p.From:min(max(p.From, l.offset), p.To)]
	items, more := l.o.a.Desk.Values(offer.Query{Property: p.Name, Typed: typed, Word: l.o.text.string[p.From:p.To], Function: p.Function, Part: !p.Empty, Focused: own})
	l.more = l.more || more
	fresh := p.Function == "" && pictured[p.Name] && (typed == "" || strings.HasPrefix("url(", typed))
	for _, it := range items {
		if fresh && it.From == offer.FromToken { // behind what the element has
			l.newPictures(ctx, p.From, p.To, l.spaced(p, "url(%s)"))
			fresh = false
		}
		l.value(it, p)
	}
	if fresh {
		l.newPictures(ctx, p.From, p.To, l.spaced(p, "url(%s)"))
	}
}

// value adds a value.
func (l *list) value(it offer.Item, p *styletext.Place) {
	item := completionItem{Label: it.Label, Kind: kindValue, Detail: it.Detail, Preselect: it.From == offer.FromElement && len(l.items) == 0}
	switch {
	case it.Color != nil:
		item.Kind = kindColor
	case it.Token != "":
		item.Kind = kindConstant
	}
	if value, rest, ok := strings.Cut(it.Detail, " · "); ok && l.c.client.labelDetails {
		item.Detail, item.LabelDetails = value, &labelDetails{rest}
	}
	if e := l.o.a.Desk.Library.Base.Get(it.Token); e != nil && e.Deprecated != "" {
		item.Tags = []int{1}
	}
	l.documented(&item, it.Token)
	from, to := p.From, p.To
	if it.From != offer.FromToken && p.Empty {
		from, to = p.Whole[0], p.Whole[1]
	}
	l.add(item, from, to, l.spaced(p, it.Insert))
}

// spaced puts the space behind a colon that is still missing. The value of a style object stands in quotes.
func (l *list) spaced(p *styletext.Place, insert string) string {
	d, text := p.Decl, l.o.text.string
	switch {
	case d == nil:
	case p.Region.Kind == styletext.Object:
		if p.From > 0 && strings.IndexByte("\"'`", text[d.ValueAt-1]) < 0 {
			return `"` + insert + `"`
		}
	case p.From == d.Colon+1:
		return " " + insert
	}
	return insert
}

// declarations offers the declarations of the focused element that a rule lacks: each, and all together.
func (l *list) declarations(ctx context.Context, p *styletext.Place) {
	c := l.o.code()
	_, own := l.o.sp.focused(ctx, l.o.a, string(c.Language))
	var have []string
	if p.Rule >= 0 {
		for _, d := range c.DeclsIn(p.Rule) {
			if d != p.Decl {
				have = append(have, d.Property)
			}
		}
	}
	from, to := p.From, p.To
	if p.Decl != nil && p.Decl.Colon >= 0 {
		to = p.Decl.End
		if p.Region.Kind == styletext.Object && to < len(c.Text) && strings.IndexByte("\"'`", c.Text[to]) >= 0 {
			to++
		}
		if to < len(c.Text) && (c.Text[to] == ';' || c.Text[to] == ',') {
			to++
		}
	}
	object := p.Region.Kind == styletext.Object
	for _, o := range own {
		missing := o.Missing(have)
		var lines []string
		at := len(l.items)
		for _, d := range missing {
			line := d.Prop + ": " + d.Value + ";"
			if object {
				line = styletext.Camel(d.Prop) + `: "` + strings.ReplaceAll(d.Value, `"`, "'") + `",`
			}
			lines = append(lines, line)
			typed := strings.ToLower(c.Text[from:min(max(from, l.offset), to)])
			if typed != "" && !strings.HasPrefix(strings.ToLower(line), typed) {
				continue
			}
			it := completionItem{Label: strings.TrimRight(line, ";,"), Kind: kindProperty, Detail: o.Element.Title()}
			if e := l.o.a.Desk.Named(varOf(d.Value)); e != nil {
				l.documented(&it, e.Path)
			}
			l.add(it, from, to, line)
		}
		if len(lines) > 1 {
			all := completionItem{Label: fmt.Sprintf("all %d declarations of %s", len(lines), o.Element.Title()), Kind: kindProperty,
				Documentation: markdown("```css\n" + strings.Join(lines, "\n") + "\n```")}
			sep := "\n" + l.indent(from)
			if p.Region.Kind == styletext.List || object && !strings.Contains(c.Text[p.Region.From:p.Region.To], "\n") {
				sep = " "
			}
			l.add(all, from, to, strings.Join(lines, sep))
			one := l.items[len(l.items)-1] // before those it stands for
			copy(l.items[at+1:], l.items[at:])
			l.items[at] = one
		}
	}
}

// varOf is the name in a value that is one var().
func varOf(value string) string {
	return strings.TrimSuffix(strings.TrimPrefix(value, "var("), ")")
}

// indent is the space that the line of a byte begins with.
func (l *list) indent(at int) string {
	s, start := l.o.text.line(l.o.text.position(at, utf8Units).Line)
	s = s[:min(len(s), at-start)]
	return s[:len(s)-len(strings.TrimLeft(s, " \t"))]
}

// classes offers the classes of components and of utility sheets: first those that begin with what is typed.
func (l *list) classes(from, to int, before string) {
	known := l.o.a.Classes()
	typed := strings.TrimPrefix(l.o.text.string[from:min(max(from, l.offset), to)], ".")
	names := slices.DeleteFunc(sortedKeys(known), func(n string) bool { return !strings.Contains(n, typed) })
	slices.SortStableFunc(names, func(a, b string) int {
		return cmp.Compare(strings.Index(a, typed), strings.Index(b, typed))
	})
	for _, name := range names {
		l.add(completionItem{Label: before + name, Kind: kindClass, Detail: known[name]}, from, to, before+name)
	}
}

// attribute offers values of attributes that are words or pictures.
func (l *list) attribute(ctx context.Context, p *styletext.Place) {
	switch p.Name {
	case "src", "srcset", "poster", "href":
		l.pictureAttribute(ctx, p)
	case "alt", "placeholder", "title", "aria-label", "value":
		l.words(ctx, p, true)
	case "data-component":
		for _, name := range sortedKeys(l.o.a.Components()) {
			l.add(completionItem{Label: name, Kind: kindClass, Detail: "component"}, p.From, p.To, name)
		}
	}
}

// words offers the words of the focused element: as they are and as their key is written. They replace what stands there.
func (l *list) words(ctx context.Context, p *styletext.Place, attribute bool) {
	language := "html"
	if l.o.code().Language == styletext.JSX {
		language = "jsx"
	}
	_, own := l.o.sp.focused(ctx, l.o.a, language)
	seen := map[string]bool{}
	put := func(label, insert, detail string) {
		if label == "" || seen[insert] {
			return
		}
		seen[insert] = true
		l.add(completionItem{Label: label, Kind: kindText, Detail: detail}, p.Whole[0], p.Whole[1], insert)
		l.items[len(l.items)-1].FilterText = l.o.text.string[p.Whole[0]:p.Whole[1]] // whatever stands there
	}
	for _, o := range own {
		opts, err := l.o.a.Code(o.Element, language)
		if err != nil {
			continue
		}
		for _, w := range code.WordsOf(o.Element, opts) {
			if w.Code != "" && (!attribute || language == "html" && !strings.HasPrefix(w.Code, "<")) {
				put(w.Code, w.Code, w.Words)
			}
			put(w.Words, code.Escaped(w.Words, language == "jsx"), o.Element.Title())
		}
		if attribute && p.Name != "value" {
			put(o.Element.Name, code.Escaped(o.Element.Name, language == "jsx"), o.Element.Title())
		}
	}
}

// resolveItem gives an item its documentation.
func resolveItem(ctx context.Context, c *call, it *completionItem) (any, error) {
	if it.Data == nil || it.Data.Token == "" {
		return it, nil
	}
	if o := c.open(ctx, it.Data.URI); o != nil {
		it.Documentation = markdown(o.a.Desk.Card(it.Data.Token))
	}
	return it, nil
}

// relative is a path from the folder of a document to a file of the workspace.
func (o *openFile) relative(file string) string {
	from := strings.Split(path.Dir(o.rel()), "/")
	to := strings.Split(file, "/")
	if from[0] == "." {
		from = nil
	}
	for len(from) > 0 && len(to) > 1 && from[0] == to[0] {
		from, to = from[1:], to[1:]
	}
	return strings.Repeat("../", len(from)) + strings.Join(to, "/")
}
