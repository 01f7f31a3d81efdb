package drift

import (
	"strings"

	"archetyp/core/design"
	"archetyp/core/markup"
	"archetyp/core/styletext"
)

// eachDeclaration visits the declarations in rules of style sheets, each sheet once, with their places.
func eachDeclaration(sheets []design.StyleSheet, visit func(code *styletext.Code, d *styletext.Decl, place design.StylePlace)) {
	seen := map[[2]string]bool{}
	for _, s := range sheets {
		if key := [2]string{s.Name, s.Text}; seen[key] {
			continue
		} else {
			seen[key] = true
		}
		code := styletext.Read(s.Text, styletext.CSS)
		lines := markup.Lines([]byte(s.Text))
		for i := range code.Decls {
			if d := &code.Decls[i]; d.Rule >= 0 && d.Colon >= 0 {
				at := lines.Position(d.From)
				visit(code, d, design.StylePlace{File: s.Name, Line: at.Line + s.Line - 1, Column: at.Column})
			}
		}
	}
}

// oneLine is a text with single blanks.
func oneLine(s string) string { return strings.Join(strings.Fields(s), " ") }
