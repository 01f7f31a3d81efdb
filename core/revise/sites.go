package revise

import (
	"bytes"
	"strings"

	"archetyp/core/css"
	"archetyp/core/markup"

	"github.com/tdewolff/parse/v2"
	lexer "github.com/tdewolff/parse/v2/css"
)

// site is a place in a file where a property is given a value: an attribute, or a declaration in a style attribute or a
// style sheet.
type site struct {
	node *markup.Node // nil for a style sheet
	prop string
	at   markup.Span // of the value
	text string
}

// sitesOf are the values that a file declares, in order. Attributes with escaped characters are left out: their bytes
// are not what they say.
func sitesOf(src []byte, doc *markup.Document) (out []site) {
	doc.Root.Walk(func(n *markup.Node) bool {
		if n.Kind != markup.Element {
			return true
		}
		tag, ok := markup.TagAt(src, n.Offset)
		if !ok {
			return true
		}
		for _, a := range tag.Attrs {
			raw := src[a.Value.From:a.Value.To]
			switch {
			case bytes.IndexByte(raw, '&') >= 0:
			case a.Name == "style":
				out = append(out, declarations(raw, a.Value.From, n, false)...)
			case css.IsPresentationAttribute(a.Name) || a.Name == "rx" || a.Name == "ry" || a.Name == "values" || a.Name == "from" || a.Name == "to":
				out = append(out, site{n, a.Name, a.Value, string(raw)})
			}
		}
		if n.Local == "style" && tag.End < n.End && src[tag.End] == '>' {
			from, to := tag.End+1, n.End
			if i := bytes.LastIndexByte(src[from:to], '<'); i >= 0 {
				to = from + i
			}
			if bytes.IndexByte(src[from:to], '&') < 0 || bytes.Contains(src[from:to], []byte("<![CDATA[")) {
				out = append(out, declarations(src[from:to], from, nil, true)...)
			}
		}
		return true
	})
	return out
}

// declarations are those of CSS text that stands at an offset of the file; sheet says that they stand in braces.
func declarations(text []byte, offset int, n *markup.Node, sheet bool) (out []site) {
	l := lexer.NewLexer(parse.NewInputBytes(bytes.Clone(text)))
	at, depth, round := offset, 0, 0
	prop, from := "", -1
	name := ""
	end := func(to int) {
		if prop != "" && from >= 0 {
			raw := string(text[from-offset : to-offset])
			lead := len(raw) - len(strings.TrimLeft(raw, " \t\r\n\f"))
			value := strings.TrimSpace(raw)
			if value != "" {
				out = append(out, site{n, prop, markup.Span{From: from + lead, To: from + lead + len(value)}, value})
			}
		}
		prop, name, from = "", "", -1
	}
	for {
		kind, data := l.Next()
		if kind == lexer.ErrorToken {
			break
		}
		switch {
		case kind == lexer.LeftBraceToken: // what stood before was a selector
			prop, name, from = "", "", -1
			depth++
		case kind == lexer.RightBraceToken:
			end(at)
			depth--
		case kind == lexer.FunctionToken || kind == lexer.LeftParenthesisToken:
			round++
		case kind == lexer.RightParenthesisToken:
			round--
		case kind == lexer.SemicolonToken && round <= 0:
			end(at)
		case kind == lexer.ColonToken && prop == "" && name != "" && (depth > 0 || !sheet):
			prop, from = strings.ToLower(name), at+len(data)
		case (kind == lexer.IdentToken || kind == lexer.CustomPropertyNameToken) && prop == "":
			name = string(data)
		case kind == lexer.WhitespaceToken || kind == lexer.CommentToken:
		case prop == "":
			name = ""
		}
		at += len(data)
	}
	if !sheet {
		end(at)
	}
	return out
}
