package token

import (
	"strings"
)

// Span is a place in a token file, in bytes: the name of a token or group, its value, or an alias in it.
type Span struct {
	Path     string // of the token or group
	Token    bool   // else it is a group
	NameFrom int    // the name with its quotes
	NameTo   int
	From, To int    // the value as written; both 0 if there is none
	Text     string // the value, where it is a string
	Aliases  []AliasSpan
}

// AliasSpan is an alias, without the quotes of its string.
type AliasSpan struct {
	Path     string // of the token it leads to
	From, To int
}

// Spans finds the tokens and groups of a file; none in one that is no JSON object.
func Spans(data []byte) (out []Span) {
	f := Parse(data, "")
	if f.root == nil {
		return nil
	}
	var walk func(n *node, path string)
	walk = func(n *node, path string) {
		for _, k := range n.kids {
			p := strings.TrimPrefix(path+"."+k.name, ".")
			s := Span{Path: p, Token: k.token, NameFrom: k.at, NameTo: k.at + 2 + len(k.name)}
			if v, ok := k.prop("$value"); ok {
				s.From, s.To = v.start, v.end()
				s.Text, _ = text(v)
				s.Aliases = aliasesIn(v, nil)
			}
			out = append(out, s)
			walk(k, p)
		}
	}
	walk(f.root, "")
	return out
}

// aliasesIn are the aliases in a value.
func aliasesIn(v jsonValue, list []AliasSpan) []AliasSpan {
	if s, ok := text(v); ok {
		if inner, ok := strings.CutPrefix(s, "{"); ok && strings.HasSuffix(inner, "}") {
			list = append(list, AliasSpan{strings.TrimSuffix(inner, "}"), v.start + 1, v.end() - 1})
		}
		return list
	}
	for _, k := range v.kids {
		list = aliasesIn(k.value, list)
	}
	return list
}
