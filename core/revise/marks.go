package revise

import (
	"archetyp/core/design"
	"archetyp/core/markup"
)

// Writable says why the bytes of a drawing cannot be kept while it is changed; nil where they can.
func (d *Drawing) Writable() error { return d.text() }

// MissingMarks are the edits that write those marks of an element into its tag that do not stand there.
func MissingMarks(src []byte, e *design.Element) (out []markup.Edit) {
	for _, m := range e.Marks.Attributes() {
		if _, own := e.Node.Attr(m[0]); own {
			continue
		}
		if edit, ok := markup.SetAttrEdit(src, e.Node.Offset, m[0], m[1]); ok {
			out = append(out, edit)
		}
	}
	return out
}
