package emit

import (
	"strings"

	"archetyp/core/escape"
	"archetyp/core/token"
)

// SCSS writes variables, each behind those it refers to; all of them as the map $tokens; and in $contexts, by context,
// what is another there.
func SCSS(lib *token.Library, o Options) (string, []Warning, error) {
	name, err := o.namer(lib.Base, "SCSS", func(path string) string { return Property(path, o.Prefix)[2:] })
	if err != nil {
		return "", nil, err
	}
	w := cssWriter{set: lib.Base, unit: o.Unit, root: o.root(), includes: o.Includes, full: true, quote: sassString,
		ref: func(path string) string { return "$" + name(path) }}
	var b, all strings.Builder
	b.Grow(128 * len(lib.Base.Tokens))
	all.Grow(64 * len(lib.Base.Tokens))
	b.WriteString("// " + escape.In("scss", escape.LineComment, o.head()) + "\n\n")
	for _, t := range inOrder(lib.Base) {
		if !o.Includes(t.Path) {
			continue
		}
		for _, d := range w.sass(t) {
			b.WriteString("$" + name(t.Path) + d.suffix + ": " + d.text + ";\n")
			all.WriteString("  \"" + name(t.Path) + d.suffix + "\": $" + name(t.Path) + d.suffix + ",\n")
		}
	}
	b.WriteString("\n$tokens: (\n" + all.String() + ");\n\n$contexts: (\n")
	for _, s := range scopes(lib, o.Includes) {
		lit := cssWriter{set: s.set, unit: o.Unit, root: o.root(), full: true, quote: sassString}
		b.WriteString("  " + sassString(s.context.Key()) + ": (\n")
		for _, t := range s.tokens {
			for _, d := range lit.sass(t) {
				text := d.text
				if strings.Contains(text, ",") {
					text = "(" + text + ")"
				}
				b.WriteString("    \"" + name(t.Path) + d.suffix + "\": " + text + ",\n")
			}
		}
		b.WriteString("  ),\n")
	}
	b.WriteString(");\n")
	return b.String(), sortWarnings(append(w.warnings, clashes(lib)...)), nil
}

// clashes warns of tokens that contexts of several modifiers change, for outputs that list contexts one by one.
func clashes(lib *token.Library) []Warning {
	declared := map[string]map[string]bool{}
	for _, s := range scopes(lib, func(string) bool { return true }) {
		declared[s.context.Key()] = s.declared()
	}
	list, _ := meetings(lib, declared)
	var out []Warning
	for _, m := range list {
		for path := range m.tokens {
			out = append(out, Warning{path, "changes with " + strings.Join(m.keys, " and ") +
				"; what it is where they meet is not written"})
		}
	}
	return sortWarnings(out)
}

// sass writes a token's values so that Sass does not compute with them.
func (p *cssWriter) sass(t *token.Token) []declaration {
	return p.plain(t, func(font string) string {
		weight, rest, _ := strings.Cut(font, " ")
		size, rest, _ := strings.Cut(rest, "/")
		line, family, _ := strings.Cut(rest, " ")
		return weight + " #{" + size + "}#{\"/\"}#{" + line + "} " + family
	})
}

func sassString(s string) string { return escape.In("scss", escape.String, s) }

// inOrder is a set's tokens with each behind those it refers to, else in the set's order.
func inOrder(s *token.Set) []*token.Token {
	out := make([]*token.Token, 0, len(s.Tokens))
	done := make(map[string]bool, len(s.Tokens))
	var put func(t *token.Token)
	put = func(t *token.Token) {
		if t == nil || done[t.Path] {
			return
		}
		done[t.Path] = true
		t.Value.Aliases(func(path string) { put(s.Get(path)) })
		out = append(out, t)
	}
	for _, t := range s.Tokens {
		put(t)
	}
	return out
}
