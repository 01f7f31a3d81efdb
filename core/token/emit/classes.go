package emit

import (
	"sort"
	"strings"

	"archetyp/core/escape"
	"archetyp/core/token"
)

// Classes writes a class for each type style, shadow and gradient, over the custom properties of the CSS output. With
// the form "fragment" an element matches whose class holds the name as a part; longer names come later, so that
// type-body-strong wins over type-body.
func Classes(lib *token.Library, o Options) (string, []Warning, error) {
	styles := &token.Set{}
	for _, t := range lib.Base.Tokens {
		if t.Type == token.Typography || t.Type == token.Shadow || t.Type == token.Gradient {
			styles.Tokens = append(styles.Tokens, t)
		}
	}
	names, err := o.named(styles, "CSS", func(path string) string { return kebab(path, o.Prefix) })
	if err != nil {
		return "", nil, err
	}
	var b strings.Builder
	b.WriteString("/* " + escape.In("css", escape.BlockComment, o.head()) + " Wants their custom properties, too. */\n")
	type class struct{ name, body string }
	var list []class
	for _, t := range styles.Tokens {
		name, wanted := names[t.Path]
		if !wanted {
			continue
		}
		property := "var(" + Property(t.Path, o.Prefix)
		body := ""
		switch t.Type {
		case token.Typography:
			body = "  font: " + property + ");\n  letter-spacing: " + property + "-letter-spacing);\n"
		case token.Shadow:
			body = "  box-shadow: " + property + ");\n"
		case token.Gradient:
			body = "  background-image: " + property + ");\n"
		}
		if body != "" {
			list = append(list, class{name, body})
		}
	}
	if o.Form == "fragment" {
		sort.SliceStable(list, func(i, j int) bool { return len(list[i].name) < len(list[j].name) })
	}
	for _, c := range list {
		selector := "." + Property(c.name, "")[2:]
		if o.Form == "fragment" {
			selector = `[class*="` + c.name + `"]`
		}
		b.WriteString("\n" + selector + " {\n" + c.body + "}\n")
	}
	return b.String(), nil, nil
}
