package exchange

import (
	"fmt"
	"strings"

	"archetyp/core/text/message"
)

// piece is a stretch of a message as formats with inline codes see it: words to translate, or code to protect. Codes
// are kept as they stand in the message, so that putting the pieces together gives it again.
type piece struct {
	kind pieceKind
	text string // words, or the code as it stands in the message
	name string // of an element or argument
}

type pieceKind uint8

const (
	wordsPiece pieceKind = iota
	openPiece            // <b>
	closePiece           // </b>
	codePiece            // {name}, #, <br/>, and the parts of a choice around its words
)

// pieces takes a message apart; a message that is none is one piece of words.
func pieces(msg string) []piece {
	m, err := message.Parse(msg)
	if err != nil {
		return []piece{{wordsPiece, msg, ""}}
	}
	var out []piece
	flatten(m, &out)
	return out
}

func flatten(m message.Message, out *[]piece) {
	for _, p := range m {
		switch p.Kind {
		case message.Literal:
			*out = append(*out, piece{wordsPiece, p.Text, ""})
		case message.Open:
			*out = append(*out, piece{openPiece, "<" + p.Name + ">", p.Name})
		case message.Close:
			*out = append(*out, piece{closePiece, "</" + p.Name + ">", p.Name})
		case message.Choice:
			head := "{" + p.Name + ", " + p.Type + ","
			if p.Offset != 0 {
				head += fmt.Sprintf(" offset:%d", p.Offset)
			}
			for i, c := range p.Cases {
				if i > 0 {
					head = "}"
				}
				*out = append(*out, piece{codePiece, head + " " + c.Selector + " {", p.Name})
				flatten(c.Message, out)
			}
			*out = append(*out, piece{codePiece, "}}", p.Name})
		default:
			*out = append(*out, piece{codePiece, message.Message{p}.String(), p.Name})
		}
	}
}

// whole puts pieces together to a message. Words are quoted as the place needs it.
func whole(list []piece) string {
	var b strings.Builder
	var plural []bool
	for _, p := range list {
		if p.kind == wordsPiece {
			b.WriteString(message.EscapeIn(p.text, len(plural) > 0 && plural[len(plural)-1]))
			continue
		}
		b.WriteString(p.text)
		switch {
		case p.kind != codePiece:
		case strings.HasPrefix(p.text, "{") && strings.HasSuffix(p.text, "{"):
			plural = append(plural, strings.Contains(p.text, ", plural,") || strings.Contains(p.text, ", selectordinal,"))
		case p.text == "}}" && len(plural) > 0:
			plural = plural[:len(plural)-1]
		}
	}
	return b.String()
}

// tidy writes a message as the parser would, where it is one: the same message always looks the same.
func tidy(msg string) string {
	m, err := message.Parse(msg)
	if err != nil {
		return msg
	}
	return m.String()
}

// joinWords makes neighbouring words one piece.
func joinWords(list []piece) []piece {
	var out []piece
	for i := 0; i < len(list); {
		p := list[i]
		k := i + 1
		for p.kind == wordsPiece && k < len(list) && list[k].kind == wordsPiece {
			k++
		}
		if k > i+1 {
			var b strings.Builder
			for _, more := range list[i:k] {
				b.WriteString(more.text)
			}
			p.text = b.String()
		}
		out = append(out, p)
		i = k
	}
	return out
}

// codeName is the name of an element a code opens or closes: "b" of "<b>" or "</b>".
func codeName(code string) string { return strings.Trim(code, "</> ") }
