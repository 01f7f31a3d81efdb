package absorb

import (
	"strings"

	"archetyp/core/token"
)

// infer reports what kind of value a text is, which needs the name where a number could be two things.
func (r *values) infer(name, text string) (parsed, bool) {
	text = strings.TrimSpace(text)
	if path, ok := r.refs(text); ok {
		if t := r.set.Get(path); t != nil {
			return parsed{Type: t.Type, Value: token.Value{Alias: path}}, true
		}
	}
	order := []token.Type{token.Color, token.Dimension, token.Duration, token.Number, token.CubicBezier, token.StrokeStyle,
		token.Gradient,
		token.Typography, token.Shadow, token.Border, token.Transition, token.FontFamily}
	if words := "-" + strings.ToLower(name) + "-"; strings.Contains(words, "weight") {
		order = append([]token.Type{token.FontWeight}, order...)
	} else if strings.Contains(words, "font-family") || strings.Contains(words, "family") {
		order = append([]token.Type{token.FontFamily}, order...)
	}
	for _, typ := range order {
		if got, err := r.read(text, typ, token.Value{}); err == nil {
			return got, true
		}
	}
	return parsed{}, false
}

// neighbour is the value of another token of a type in the same group.
func (r *values) neighbour(path string, typ token.Type) token.Value {
	if typ != token.Dimension {
		return token.Value{}
	}
	group := parent(path)
	for _, t := range r.set.Tokens {
		if t.Type == typ && t.Value.Length != nil && t.File != "" && parent(t.Path) == group {
			return t.Value
		}
	}
	return token.Value{}
}

// propose is the path of a new token: in the deepest group whose tokens' names begin alike, else in one of its first
// word.
func (p *planner) propose(name string) string {
	plain := strings.TrimLeft(name, "-$")
	if prefix := p.in.Options.Prefix; prefix != "" {
		plain = strings.TrimPrefix(plain, prefix+"-")
	}
	if strings.Contains(plain, ".") && !strings.HasPrefix(name, "-") && !strings.HasPrefix(name, "$") { // a path already
		return p.free(plain)
	}
	plain = strings.Map(func(r rune) rune {
		if strings.ContainsRune("{}.\\", r) {
			return '-'
		}
		return r
	}, plain)
	if p.groups == nil {
		p.groups = map[string]string{}
		for _, set := range p.in.sets() {
			for _, t := range set.Tokens {
				for g := parent(t.Path); g != ""; g = parent(g) {
					p.groups[strings.ReplaceAll(g, ".", "-")+"-"] = g
				}
			}
		}
	}
	best, group := 0, ""
	for i := len(plain) - 2; i > 0 && best == 0; i-- {
		if plain[i] == '-' {
			if g, ok := p.groups[plain[:i+1]]; ok {
				best, group = i+1, g
			}
		}
	}
	path := plain
	if group != "" {
		path = group + "." + plain[best:]
	} else if head, rest, ok := strings.Cut(plain, "-"); ok && head != "" && rest != "" {
		path = head + "." + rest
	}
	return p.free(path)
}

// named reports whether a path holds names that tokens can have.
func named(path string) bool {
	for _, n := range strings.Split(path, ".") {
		if n == "" || strings.HasPrefix(n, "$") || strings.ContainsAny(n, "{}") {
			return false
		}
	}
	return true
}

func parent(path string) string {
	return path[:max(0, strings.LastIndexByte(path, '.'))]
}

// free makes a path one that no token has and none lies within.
func (p *planner) free(path string) string {
	base := p.in.Library.Base
	for i := 0; ; i++ {
		taken := base.Get(path) != nil
		for g := parent(path); g != "" && !taken; g = parent(g) {
			taken = base.Get(g) != nil
		}
		if !taken && !p.begun[path] && !base.HasGroup(path) {
			return path
		}
		if i > 0 || !strings.Contains(path, ".") {
			path += "-2"
		} else { // a token stands where the group would: one name then
			path = strings.ReplaceAll(path, ".", "-")
		}
	}
}
