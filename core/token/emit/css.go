package emit

import (
	"fmt"
	"strings"

	"archetyp/core/css"
	"archetyp/core/escape"
	"archetyp/core/token"
)

// CSS writes custom properties on :root, aliases as var(), and for each context a block with all that is another there.
func CSS(lib *token.Library, o Options) (string, []Warning, error) {
	names, err := o.named(lib.Base, "CSS", func(path string) string { return Property(path, o.Prefix) })
	if err != nil {
		return "", nil, err
	}
	p := &cssFile{lib: lib, o: o, names: names, widened: map[string]bool{}}
	p.w = cssWriter{set: lib.Base, unit: o.Unit, root: o.root(), includes: o.Includes,
		ref: func(path string) string { return "var(" + p.name(path) + ")" }}
	p.b.Grow(128 * len(lib.Base.Tokens))
	p.b.WriteString("/* " + escape.In("css", escape.BlockComment, o.head()) + " */\n")
	p.block(place{nil, ":root"}, lib.Base, lib.Base.Tokens, true)
	p.contexts()
	if p.wide.Len() > 0 {
		p.b.WriteString("\n@supports (color: color(display-p3 0 0 0)) {\n" + p.wide.String() + "}\n")
	}
	return p.b.String(), sortWarnings(p.w.warnings), nil
}

type cssFile struct {
	lib   *token.Library
	o     Options
	names map[string]string
	w     cssWriter
	b     strings.Builder
	wide  strings.Builder // the same blocks, for screens and browsers that can show more than sRGB
	// widened are the properties in them.
	widened map[string]bool
}

// name is a token's custom property.
func (p *cssFile) name(path string) string {
	if n, ok := p.names[path]; ok {
		return n
	}
	return Property(path, p.o.Prefix)
}

// contexts writes the blocks of all contexts: those by at-rule first, so that a selector, which is a choice, wins; and
// last those for where several contexts meet.
func (p *cssFile) contexts() {
	list := scopes(p.lib, p.o.Includes)
	own, declared := map[string]map[string]bool{}, map[string]map[string]bool{}
	where := map[string][]place{}
	for _, m := range p.lib.Modifiers() {
		changed := map[string]bool{} // by any context of the modifier
		again := map[string]bool{}   // … or pointing to one of those
		var late []func()
		for _, s := range list {
			if s.context.Modifier != m.Name {
				continue
			}
			for path := range s.own {
				changed[path] = true
			}
			for _, t := range s.tokens {
				again[t.Path] = true
			}
			rules, selectors := places(Conditions(p.lib, s.context, p.o.Contexts))
			own[s.context.Key()], declared[s.context.Key()] = s.own, s.declared()
			where[s.context.Key()] = append(append([]place(nil), rules...), selectors...)
			for _, pl := range rules {
				p.block(pl, s.set, s.tokens, false)
			}
			for _, pl := range selectors {
				late = append(late, func() { p.block(pl, s.set, s.tokens, false) })
			}
		}
		for _, c := range p.lib.Contexts {
			if c.Modifier != m.Name || !c.Default || len(changed) == 0 {
				continue
			}
			rules, selectors := places(Conditions(p.lib, c, p.o.Contexts))
			own[c.Key()], declared[c.Key()] = changed, again
			where[c.Key()] = append(append([]place(nil), rules...), selectors...)
			var tokens []*token.Token
			for _, t := range p.lib.Base.Tokens {
				if again[t.Path] && p.o.Includes(t.Path) {
					tokens = append(tokens, t)
				}
			}
			for _, pl := range append(rules, selectors...) {
				p.block(pl, p.lib.Base, tokens, false)
			}
		}
		for _, f := range late {
			f()
		}
	}
	p.meet(own, declared, where)
}

// meet writes the blocks for where contexts of several modifiers hold at once.
// A token that only follows others says the same everywhere, and is left to them.
func (p *cssFile) meet(own, declared map[string]map[string]bool, where map[string][]place) {
	list, dropped := meetings(p.lib, declared)
	if dropped {
		p.w.warn("", fmt.Sprintf("more than %d combinations of contexts; the rest is left out", maxMeetings))
	}
	for _, m := range list {
		spots := []place{{nil, ":root"}}
		defaults := true
		for _, key := range m.keys {
			var next []place
			for _, a := range spots {
				for _, b := range where[key] {
					next = append(next, both(a, b))
				}
			}
			spots = next
			for _, c := range p.lib.Contexts {
				defaults = defaults && (c.Key() != key || c.Default)
			}
		}
		if len(spots) == 0 || defaults {
			continue
		}
		set := p.lib.Set(m.input)
		var tokens []*token.Token
		for _, t := range set.Tokens {
			changes := false
			for _, key := range m.keys {
				changes = changes || own[key][t.Path]
			}
			if changes && m.tokens[t.Path] && p.o.Includes(t.Path) {
				tokens = append(tokens, t)
			}
		}
		for _, pl := range spots {
			if pl.selector != ":root" || len(pl.around) > 0 {
				p.block(pl, set, tokens, false)
			}
		}
	}
}

// block writes the declarations of tokens at a place.
func (p *cssFile) block(at place, set *token.Set, tokens []*token.Token, grouped bool) {
	p.w.set = set
	var b, wide strings.Builder
	b.Grow(64 * len(tokens))
	in := strings.Repeat("  ", len(at.around)+1)
	group := ""
	for _, t := range tokens {
		if !p.o.Includes(t.Path) {
			continue
		}
		g, _, nested := strings.Cut(t.Path, ".")
		if !nested {
			g = ""
		}
		if grouped && g != group {
			if b.Len() > 0 {
				b.WriteString("\n")
			}
			group = g
		}
		for _, d := range p.w.declarations(t) {
			name := p.name(t.Path) + d.suffix
			b.WriteString(in + name + ": " + d.text + ";")
			if t.Deprecated != "" && grouped {
				b.WriteString(" /* deprecated" + escape.In("css", escape.BlockComment, strings.TrimSuffix(": "+t.Deprecated,
					": deprecated")) + " */")
			}
			b.WriteString("\n")
			if d.wide == "" && p.widened[name] { // a block above says it for wide screens, where this one has to hold, too
				d.wide = d.text
			}
			if d.wide != "" {
				wide.WriteString("  " + in + name + ": " + d.wide + ";\n")
				p.widened[name] = true
			}
		}
	}
	p.plain(&b, in, set, grouped)
	if b.Len() == 0 && !grouped {
		return
	}
	if !grouped {
		p.b.WriteString("\n")
	}
	writeBlock(&p.b, at, b.String(), "")
	if wide.Len() > 0 {
		writeBlock(&p.wide, at, wide.String(), "  ")
	}
}

// plain writes the custom properties that token files carry as CSS text: all of them, or those that are others in a
// context.
func (p *cssFile) plain(b *strings.Builder, in string, set *token.Set, all bool) {
	was := map[string]string{}
	if !all {
		for _, x := range p.lib.Base.Properties() {
			was[x.Name] = x.Value
		}
	}
	for _, x := range set.Properties() {
		if !css.IsCustomProperty(x.Name, x.Value) {
			p.w.warnings = append(p.w.warnings, Warning{x.Name, "left out: what its file says is no value of a custom property"})
			continue
		}
		if old, known := was[x.Name]; all || !known || old != x.Value {
			b.WriteString(in + x.Name + ": " + x.Value + ";\n")
		}
	}
}

func writeBlock(b *strings.Builder, at place, body, in string) {
	for i, rule := range at.around {
		b.WriteString(in + strings.Repeat("  ", i) + rule + " {\n")
	}
	deep := in + strings.Repeat("  ", len(at.around))
	b.WriteString(deep + at.selector + " {\n" + body + deep + "}\n")
	for i := len(at.around) - 1; i >= 0; i-- {
		b.WriteString(in + strings.Repeat("  ", i) + "}\n")
	}
}
