package emit

import (
	"strings"

	"archetyp/core/escape"
	"archetyp/core/token"
)

// JSON writes {"tokens": …, "contexts": {"scheme.dark": …}}: every token by path with its value as CSS writes it, and
// for each context those that are another there. The form is nested, or flat with whole paths as keys.
func JSON(lib *token.Library, o Options) (string, []Warning, error) {
	p := objects{o: o, quote: quoteJSON}
	return p.write(lib, func(tokens, contexts string) string {
		return "{\n  \"tokens\": " + tokens + ",\n  \"contexts\": " + contexts + "\n}\n"
	})
}

// TypeScript writes the same as constants, with types for the paths of tokens and the names of contexts.
func TypeScript(lib *token.Library, o Options) (string, []Warning, error) {
	p := objects{o: o, quote: quoteJSON}
	return p.write(lib, func(tokens, contexts string) string {
		var b strings.Builder
		b.Grow(2 * len(tokens))
		b.WriteString("// " + escape.In("ts", escape.LineComment, o.head()) + "\n\nexport const tokens = " +
			strings.ReplaceAll(tokens, "\n  ", "\n") + " as const;\n\n")
		b.WriteString("/** What is another value in a context. */\nexport const contexts = " + strings.ReplaceAll(contexts,
			"\n  ", "\n") + " as const;\n\n")
		b.WriteString("export type Tokens = typeof tokens;\nexport type Context = keyof typeof contexts;\nexport type " +
			"TokenPath =")
		none := true
		for _, t := range lib.Base.Tokens {
			if o.Includes(t.Path) {
				b.WriteString("\n  | " + quoteJSON(t.Path))
				none = false
			}
		}
		if none {
			b.WriteString(" never")
		}
		return b.String() + ";\n"
	})
}

func quoteJSON(s string) string {
	for i := 0; i < len(s); i++ {
		if s[i] < 0x20 || s[i] >= 0x7f || s[i] == '"' || s[i] == '\\' {
			return escape.In("json", escape.String, s)
		}
	}
	return `"` + s + `"`
}

// objects writes tokens as object literals.
type objects struct {
	o        Options
	quote    func(string) string
	warnings []Warning
}

func (p *objects) write(lib *token.Library, file func(tokens, contexts string) string) (string, []Warning, error) {
	tokens := p.set(lib.Base, lib.Base.Tokens, "  ")
	var b strings.Builder
	for i, s := range scopes(lib, p.o.Includes) {
		if i > 0 {
			b.WriteString(",")
		}
		b.WriteString("\n    " + p.quote(s.context.Key()) + ": " + p.set(s.set, s.tokens, "    "))
	}
	contexts := "{}"
	if b.Len() > 0 {
		contexts = "{" + b.String() + "\n  }"
	}
	return file(tokens, contexts), sortWarnings(append(p.warnings, clashes(lib)...)), nil
}

// set is the object of some tokens of a set.
func (p *objects) set(set *token.Set, tokens []*token.Token, in string) string {
	w := &cssWriter{set: set, unit: p.o.Unit, root: p.o.root(), full: true}
	root := &object{}
	for _, t := range tokens {
		if !p.o.Includes(t.Path) {
			continue
		}
		text, ok := p.value(w, t)
		if !ok {
			continue
		}
		steps := []string{t.Path}
		if p.o.Form != "flat" {
			steps = strings.Split(t.Path, ".")
		}
		root.put(steps, text)
	}
	p.warnings = append(p.warnings, w.warnings...)
	return root.text(p.quote, in, 64*len(tokens))
}

// value is a token's value: a number where it is one, an object for typography, else CSS.
func (p *objects) value(w *cssWriter, t *token.Token) (string, bool) {
	end := w.set.Resolve(t)
	switch {
	case end.Value.Number != nil && end.Own.Written[""] == "":
		return w.value(end.Value), true
	case t.Type == token.Typography:
		var parts []string
		for _, name := range []string{"fontFamily", "fontSize", "fontWeight", "letterSpacing", "lineHeight"} {
			text := w.value(end.Value.Parts[name])
			if written, ok := w.written(end, name); ok {
				text = written
			} else if w.set.ResolvePart(end.Value.Parts[name]).Number != nil {
				parts = append(parts, p.quote(name)+": "+text)
				continue
			}
			parts = append(parts, p.quote(name)+": "+p.quote(text))
		}
		return "{" + strings.Join(parts, ", ") + "}", true
	}
	text, ok := w.token(t)
	return p.quote(text), ok
}

// object is an object literal with its members in order.
type object struct {
	names []string
	kids  map[string]*object
	leaf  string
}

func (n *object) put(steps []string, text string) {
	if len(steps) == 0 {
		n.leaf = text
		return
	}
	k := n.kids[steps[0]]
	if k == nil {
		if n.kids == nil {
			n.kids = map[string]*object{}
		}
		k = &object{}
		n.kids[steps[0]] = k
		n.names = append(n.names, steps[0])
	}
	k.put(steps[1:], text)
}

func (n *object) text(quote func(string) string, in string, room int) string {
	if n.leaf != "" {
		return n.leaf
	}
	var b strings.Builder
	b.Grow(room)
	n.write(&b, quote, in)
	return b.String()
}

func (n *object) write(b *strings.Builder, quote func(string) string, in string) {
	if n.leaf != "" {
		b.WriteString(n.leaf)
		return
	}
	if len(n.names) == 0 {
		b.WriteString("{}")
		return
	}
	b.WriteString("{")
	for i, name := range n.names {
		if i > 0 {
			b.WriteString(",")
		}
		b.WriteString("\n" + in + "  " + quote(name) + ": ")
		n.kids[name].write(b, quote, in+"  ")
	}
	b.WriteString("\n" + in + "}")
}
