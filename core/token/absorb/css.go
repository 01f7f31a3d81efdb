package absorb

import (
	"strings"

	"archetyp/core/css"
	"archetyp/core/markup"
	"archetyp/core/token"
	"archetyp/core/token/emit"
)

// cssFile reads custom properties. A context is called by the condition it is reached by: "@media …" or a selector.
var cssFile = Language{
	Read: func(data []byte, _ string) ([]Declaration, error) {
		lines := markup.Lines(data)
		all, _ := css.ParseScoped(string(data))
		wide := map[key]int{}
		var out []Declaration
		for _, s := range all {
			if !strings.HasPrefix(s.Prop, "--") {
				continue
			}
			where, full := condition(s)
			d := Declaration{where, s.Prop, s.Value, lines.Position(s.Offset)}
			k := key{where, s.Prop}
			if i, ok := wide[k]; ok && full { // the value where more than sRGB can be shown: the fallback stands above
				out[i].Text, out[i].Position = d.Text, d.Position
				continue
			}
			if !full {
				wide[k] = len(out)
			}
			out = append(out, d)
		}
		return out, nil
	},
	name: func(path string, o emit.Options) string { return emit.Property(path, o.Prefix) },
	refs: func(text string) (string, bool) {
		inner, ok := strings.CutPrefix(strings.TrimSpace(text), "var(")
		inner, closed := strings.CutSuffix(inner, ")")
		inner = strings.TrimSpace(inner)
		return inner, ok && closed && strings.HasPrefix(inner, "--") && !strings.ContainsAny(inner, "(), ")
	},
	where: func(lib *token.Library, c token.Context, o emit.Options) []string {
		var out []string
		var selectors []string
		for _, cond := range emit.Conditions(lib, c, o.Contexts) {
			cond = strings.Join(strings.Fields(cond), " ")
			out = append(out, cond)
			if !strings.HasPrefix(cond, "@") {
				selectors = append(selectors, cond)
			}
		}
		return append(out, strings.Join(selectors, ", "))
	},
}

// condition is where a declaration stands; full says that it is for what can show more than sRGB.
func condition(s css.Scoped) (where string, full bool) {
	var parts []string
	for _, a := range s.Around {
		switch {
		case strings.HasPrefix(a, "@supports (color:"):
			full = true
		case strings.HasPrefix(a, "@layer"):
		default:
			parts = append(parts, a)
		}
	}
	if !everywhere(s.Selector) {
		parts = append(parts, s.Selector)
	}
	return strings.Join(parts, " "), full
}

// everywhere reports whether a selector is met where nothing is chosen: one of its parts is the root.
func everywhere(selector string) bool {
	for _, s := range css.SplitTop(selector, ',') {
		if s = strings.TrimSpace(css.WithoutComments(s)); s == ":root" || s == "html" || s == ":host" ||
			s == ":where(html)" || s == ":where(:root)" {
			return true
		}
	}
	return false
}
