package markup

import (
	"fmt"
	"slices"
	"strings"
)

// Edit puts other text into a stretch of a file: the bytes from From up to To.
type Edit struct {
	From, To int
	With     string
}

// Rewrite makes edits, none of which may lie in another. Every other byte stays.
func Rewrite(src []byte, edits []Edit) ([]byte, error) {
	edits = slices.Clone(edits)
	slices.SortStableFunc(edits, func(a, b Edit) int { return a.From - b.From })
	var b strings.Builder
	b.Grow(len(src))
	at := 0
	for _, e := range edits {
		if e.From < at || e.To > len(src) || e.To < e.From {
			return nil, fmt.Errorf("two changes of the file stand in one another")
		}
		b.Write(src[at:e.From])
		b.WriteString(e.With)
		at = e.To
	}
	b.Write(src[at:])
	return []byte(b.String()), nil
}

// Tag is where the parts of a start tag stand in its file.
type Tag struct {
	Name  Span // of the element
	Attrs []AttrSpan
	End   int // the > or />
}

// Span is a stretch of a file: the bytes from From up to To.
type Span struct{ From, To int }

// AttrSpan is where an attribute stands.
type AttrSpan struct {
	Name  string // as it is written
	Whole Span   // name, =, and value with its quotation marks
	Value Span   // without quotation marks; empty for an attribute without one
	Quote byte   // " or '; 0 for a value without them
}

// Attr is the attribute of a name; ok is false where there is none.
func (t *Tag) Attr(name string) (a AttrSpan, ok bool) {
	for _, a := range t.Attrs {
		if a.Name == name {
			return a, true
		}
	}
	return a, false
}

// TagAt finds the parts of the start tag that begins at an offset, in XML and in HTML. ok is false where no tag is.
func TagAt(src []byte, offset int) (t Tag, ok bool) {
	i := offset
	if i < 0 || i >= len(src) || src[i] != '<' {
		return t, false
	}
	i++
	t.Name.From = i
	for i < len(src) && !isBlank(src[i]) && src[i] != '>' && src[i] != '/' {
		i++
	}
	if t.Name.To = i; t.Name.To == t.Name.From {
		return t, false
	}
	for {
		for i < len(src) && isBlank(src[i]) {
			i++
		}
		switch {
		case i >= len(src):
			return t, false
		case src[i] == '>':
			t.End = i
			return t, true
		case src[i] == '/':
			if i+1 < len(src) && src[i+1] == '>' {
				t.End = i
				return t, true
			}
			i++
			continue
		}
		a := AttrSpan{Whole: Span{From: i}}
		for i < len(src) && !isBlank(src[i]) && src[i] != '=' && src[i] != '>' && (src[i] != '/' || i+1 < len(src) && src[i+1] != '>') {
			i++
		}
		a.Name = string(src[a.Whole.From:i])
		a.Whole.To, a.Value = i, Span{i, i}
		j := i
		for j < len(src) && isBlank(src[j]) {
			j++
		}
		if j < len(src) && src[j] == '=' && i > a.Whole.From {
			for j++; j < len(src) && isBlank(src[j]); j++ {
			}
			if j >= len(src) {
				return t, false
			}
			if q := src[j]; q == '"' || q == '\'' {
				end := j + 1
				for end < len(src) && src[end] != q {
					end++
				}
				if end >= len(src) {
					return t, false
				}
				a.Quote, a.Value, i = q, Span{j + 1, end}, end+1
			} else {
				end := j
				for end < len(src) && !isBlank(src[end]) && src[end] != '>' {
					end++
				}
				a.Value, i = Span{j, end}, end
			}
			a.Whole.To = i
		} else if i == a.Whole.From { // a lone sign that is no name
			i++
			continue
		}
		t.Attrs = append(t.Attrs, a)
	}
}

func isBlank(c byte) bool { return c == ' ' || c == '\t' || c == '\n' || c == '\r' || c == '\f' }

// SetAttrEdit is the edit that gives the start tag at an offset an attribute, in the place of one of its name, else
// behind all others. ok is false where no tag is.
func SetAttrEdit(src []byte, offset int, name, value string) (e Edit, ok bool) {
	t, ok := TagAt(src, offset)
	if !ok {
		return e, false
	}
	if a, there := t.Attr(name); there {
		if a.Quote == '\'' {
			return Edit{a.Value.From, a.Value.To, strings.ReplaceAll(EscapeAttr(value), "'", "&#39;")}, true
		}
		if a.Quote == 0 {
			return Edit{a.Whole.From, a.Whole.To, name + `="` + EscapeAttr(value) + `"`}, true
		}
		return Edit{a.Value.From, a.Value.To, EscapeAttr(value)}, true
	}
	at := t.Name.To
	if n := len(t.Attrs); n > 0 {
		at = t.Attrs[n-1].Whole.To
	}
	return Edit{at, at, " " + name + `="` + EscapeAttr(value) + `"`}, true
}

// RemoveAttrEdit is the edit that takes an attribute away, with the white space before it; ok is false where it is not.
func RemoveAttrEdit(src []byte, offset int, name string) (e Edit, ok bool) {
	t, ok := TagAt(src, offset)
	if !ok {
		return e, false
	}
	a, ok := t.Attr(name)
	if !ok {
		return e, false
	}
	from := a.Whole.From
	for from > t.Name.To && isBlank(src[from-1]) {
		from--
	}
	return Edit{from, a.Whole.To, ""}, true
}
