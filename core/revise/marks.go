package revise

import (
	"archetyp/core/design"
	"archetyp/core/markup"
	"strings"
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

// Mark are the edits that give an element marks, or take them away: keys as the configuration has them, {name} in a
// value standing for the element's name.
func Mark(src []byte, e *design.Element, list [][2]string, remove bool) (out []markup.Edit) {
	for _, m := range list {
		edit, ok := markup.Edit{}, false
		if remove {
			edit, ok = markup.RemoveAttrEdit(src, e.Node.Offset, "data-"+m[0])
		} else {
			value := strings.ReplaceAll(m[1], "{name}", e.Name)
			if have, there := e.Node.Attr("data-" + m[0]); there && have == value {
				continue
			}
			edit, ok = markup.SetAttrEdit(src, e.Node.Offset, "data-"+m[0], value)
		}
		if ok {
			out = append(out, edit)
		}
	}
	return out
}
