package editor

import (
	"context"
	"path/filepath"
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/token"
)

// definition is where what stands at a place comes from: a token's line in its file, the element of a class or component
// in its drawing, a key's line in the catalogue.
func definition(ctx context.Context, c *call, p *documentPosition) (any, error) {
	o := c.open(ctx, p.TextDocument.URI)
	if o == nil {
		return nil, nil
	}
	offset := o.text.offset(p.Position, c.client.encoding)
	t := o.target(offset)
	switch {
	case t.token != "":
		return c.definitionsOf(o, t.token), nil
	case t.class != "":
		out := []location{}
		for _, p := range o.a.Called(t.class) {
			if e := o.a.Find(ctx, p); e != nil {
				out = append(out, c.placeOf(o.sp, e))
			}
			if len(out) == mostActions {
				break
			}
		}
		return out, nil
	}
	if key := o.keyAt(offset); key != "" {
		return c.keyPlaces(o, key), nil
	}
	return nil, nil
}

// definitionsOf are the places of a token: in its file, and in those of contexts that give it another value.
func (c *call) definitionsOf(o *openFile, path string) []location {
	out := []location{}
	add := func(t *token.Token) {
		if t == nil || t.File == "" {
			return
		}
		file := filepath.Join(o.sp.dir, filepath.FromSlash(t.File))
		text := c.textOf(file)
		if text == nil {
			return
		}
		at := text.at(t.Position().Line, t.Position().Column)
		end := at
		for end < len(text.string) && text.string[end] != '\n' && (end == at || text.string[end] != '"') {
			end++
		}
		l := location{uriOf(file), text.span(at, min(end+1, len(text.string)), c.client.encoding)}
		if !slices.Contains(out, l) {
			out = append(out, l)
		}
	}
	lib := o.a.Desk.Library
	add(lib.Base.Get(path))
	for _, ctx := range lib.Contexts {
		add(ctx.Set.Get(path))
	}
	return out
}

// textOf is the text of a file, as it is open or else on disk; nil for none.
func (c *call) textOf(file string) *text {
	if d := c.docs[uriOf(file)]; d != nil {
		return d.text
	}
	for _, d := range c.docs { // written as another URI
		if d.file == file {
			return d.text
		}
	}
	data, err := readFile(file)
	if err != nil {
		return nil
	}
	return newText(string(data))
}

// placeOf is where an element stands in its drawing.
func (c *call) placeOf(sp *space, e *design.Element) location {
	file := filepath.Join(sp.dir, filepath.FromSlash(e.Screen.File()))
	l := location{URI: uriOf(file)}
	if t := c.textOf(file); t != nil {
		at := t.at(e.Position.Line, e.Position.Column)
		s, start := t.line(e.Position.Line - 1)
		l.Range = t.span(at, start+len(s), c.client.encoding)
	}
	return l
}

// keyAt is the key of the catalogue that stands at a byte; "" for none.
func (o *openFile) keyAt(offset int) string {
	text := o.text.string
	from, to := offset, offset
	for from > 0 && keyByte(text[from-1]) {
		from--
	}
	for to < len(text) && keyByte(text[to]) {
		to++
	}
	c, err := o.a.Texts()
	if err != nil || c == nil {
		return ""
	}
	for _, e := range c.Entries {
		if e.Key == text[from:to] {
			return e.Key
		}
	}
	return ""
}

func keyByte(b byte) bool {
	return b == '.' || b == '-' || b == '_' || b >= '0' && b <= '9' || b >= 'a' && b <= 'z' || b >= 'A' && b <= 'Z'
}

// keyPlaces are the lines of a key in the catalogue's files, that of the source language first.
func (c *call) keyPlaces(o *openFile, key string) []location {
	out := []location{}
	for _, file := range o.a.TextFiles() {
		abs := filepath.Join(o.sp.dir, filepath.FromSlash(file))
		t := c.textOf(abs)
		if t == nil {
			continue
		}
		quoted := `"` + key + `"`
		if at := strings.Index(t.string, quoted); at >= 0 {
			out = append(out, location{uriOf(abs), t.span(at, at+len(quoted), c.client.encoding)})
		}
	}
	return out
}

// references are the places where a token is used: code, other tokens, elements of drawings.
func references(ctx context.Context, c *call, p *struct {
	documentPosition
	Context struct {
		IncludeDeclaration bool `json:"includeDeclaration"`
	} `json:"context"`
}) (any, error) {
	out := []location{}
	o := c.open(ctx, p.TextDocument.URI)
	if o == nil {
		return out, nil
	}
	t := o.target(o.text.offset(p.Position, c.client.encoding))
	if t.token == "" {
		return out, nil
	}
	if p.Context.IncludeDeclaration {
		out = append(out, c.definitionsOf(o, t.token)...)
	}
	uses, err := o.a.CodeUses(t.token, c.allBuffers(o.sp))
	if err != nil {
		return nil, err
	}
	for _, u := range uses {
		file := filepath.Join(o.sp.dir, filepath.FromSlash(u.File))
		if text := c.textOf(file); text != nil {
			_, start := text.line(u.Line - 1)
			at := min(start+u.Column-1, len(text.string))
			out = append(out, location{uriOf(file), text.span(at, at+len(u.Name), c.client.encoding)})
		}
	}
	out = append(out, c.aliasPlaces(o, t.token)...)
	placed, _ := o.a.Sited(t.token, mostReferences)
	for _, p := range placed {
		if ctx.Err() != nil {
			break
		}
		if e := o.a.Find(ctx, p); e != nil {
			if l := c.placeOf(o.sp, e); !slices.Contains(out, l) {
				out = append(out, l)
			}
		}
	}
	return out, nil
}

// mostReferences is how many elements of drawings are listed for a token.
const mostReferences = 500

// aliasPlaces are the aliases that lead to a token.
func (c *call) aliasPlaces(o *openFile, path string) (out []location) {
	files, err := o.a.WS.TokenFiles()
	if err != nil {
		return nil
	}
	for _, f := range files {
		file := filepath.Join(o.sp.dir, filepath.FromSlash(f))
		t := c.textOf(file)
		if t == nil {
			continue
		}
		for _, s := range token.Spans([]byte(t.string)) {
			for _, a := range s.Aliases {
				if a.Path == path {
					out = append(out, location{uriOf(file), t.span(a.From, a.To, c.client.encoding)})
				}
			}
		}
	}
	return out
}

// symbols are the screens and elements of a drawing that is open.
func symbols(ctx context.Context, c *call, p *documentParams) (any, error) {
	out := []documentSymbol{}
	o := c.open(ctx, p.TextDocument.URI)
	if o == nil || o.code != nil {
		return out, nil
	}
	sources, err := o.a.Sources()
	if err != nil || !slices.Contains(sources, o.rel()) {
		return out, err
	}
	doc, err := o.a.Document(ctx, o.rel())
	if err != nil {
		return out, nil // its faults are shown as such
	}
	for _, s := range doc.Screens {
		sym := c.symbol(o, s.Root)
		sym.Name, sym.Detail = s.Name, "screen"
		out = append(out, sym)
	}
	if !c.client.nested {
		return flat(o.uri, "", out, nil), nil
	}
	return out, nil
}

// flat are symbols one behind another, for clients that know no symbols in symbols.
func flat(uri, in string, list []documentSymbol, out []symbolInformation) []symbolInformation {
	for _, s := range list {
		out = append(out, symbolInformation{s.Name, s.Kind, location{uri, s.Range}, in})
		out = flat(uri, s.Name, s.Children, out)
	}
	return out
}

// symbol is an element with all in it.
func (c *call) symbol(o *openFile, e *design.Element) documentSymbol {
	at := o.text.at(e.Position.Line, e.Position.Column)
	s, start := o.text.line(e.Position.Line - 1)
	r := o.text.span(at, start+len(s), c.client.encoding)
	sym := documentSymbol{Name: e.Title(), Detail: string(e.Kind), Kind: symbolKinds[e.Kind], Range: r, SelectionRange: r}
	if e.Marks.Component != "" {
		sym.Detail = e.Marks.Component
	}
	for _, k := range e.Children {
		child := c.symbol(o, k)
		if after(child.Range.End, sym.Range.End) { // a symbol holds those in it
			sym.Range.End = child.Range.End
		}
		sym.Children = append(sym.Children, child)
	}
	return sym
}

func after(a, b position) bool {
	return a.Line > b.Line || a.Line == b.Line && a.Character > b.Character
}

// symbolKinds are the kinds of symbols that come nearest to those of elements.
var symbolKinds = map[design.Kind]int{design.Group: 3, design.Box: 23, design.Text: 15, design.Path: 8, design.Image: 1}

// lenses stand above the rules of components: the design they are of, its phases and remarks, and the line that uses them.
func lenses(ctx context.Context, c *call, p *documentParams) (any, error) {
	out := []codeLens{}
	o := c.open(ctx, p.TextDocument.URI)
	if o == nil || o.code == nil {
		return out, nil
	}
	code := o.code()
	seen := map[string]bool{}
	for i := range code.Rules {
		r := &code.Rules[i]
		if r.Selector == "" || r.At() || r.Parent >= 0 && !code.Rules[r.Parent].At() {
			continue
		}
		name := lastName(r.Selector)
		if name == "" || seen[name] || strings.ContainsAny(r.Selector, " ,>") {
			continue
		}
		found := o.a.Called(name)
		if len(found) == 0 || found[0].Component == "" && r.Selector != "."+name && r.Selector != "#"+name {
			continue
		}
		seen[name] = true
		at := o.text.span(r.From, r.To, c.client.encoding)
		title := "design: " + found[0].Path[strings.LastIndexByte(found[0].Path, '/')+1:] + " in " + found[0].Source
		out = append(out, codeLens{Range: at, Command: &command{title, showElement, []any{focusRequest{o.uri, found[0].Source, found[0].Index}}}})
		for _, line := range o.a.AnnotationsOf(found) {
			out = append(out, codeLens{Range: at, Command: &command{line, showElement, []any{focusRequest{o.uri, found[0].Source, found[0].Index}}}})
		}
		if o.a.WS.Config.Components[found[0].Component].Use != "" {
			out = append(out, codeLens{Range: at, Data: &lensData{o.uri, found[0].Source, found[0].Index, true}})
		}
	}
	return out, nil
}

// resolveLens finds the usage line of a component.
func resolveLens(ctx context.Context, c *call, l *codeLens) (any, error) {
	if l.Data == nil {
		return l, nil
	}
	l.Command = &command{Title: "no usage"}
	o := c.open(ctx, l.Data.URI)
	if o == nil {
		return l, nil
	}
	for _, p := range o.a.Elements() {
		if p.Source != l.Data.Source || p.Index != l.Data.Index {
			continue
		}
		if e := o.a.Find(ctx, p); e != nil {
			if line := usage(o.a, e); line != "" {
				l.Command = &command{"use: " + line, showElement, []any{focusRequest{l.Data.URI, p.Source, p.Index}}}
			}
		}
	}
	return l, nil
}
