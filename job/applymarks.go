package job

import (
	"context"

	"archetyp/core/markup"
	"archetyp/core/revise"
)

// Marks writes marks that the configuration gives by selector into the drawings, as attributes of their elements.
func (a *Applying) Marks(ctx context.Context, source string) error {
	files, err := a.ws.Sources()
	if err != nil {
		return err
	}
	for _, name := range files {
		if source != "" && name != source {
			continue
		}
		d, err := a.drawing(name)
		if err != nil {
			return err
		}
		if d.doc.Styles != nil {
			continue
		}
		one := AppliedOne{What: "marks", Old: "in the configuration", New: "in the drawing"}
		if err := a.revised(d).Writable(); err != nil {
			if marked(d) > 0 {
				if err := a.refuse(name, one, err); err != nil {
					return err
				}
			}
			continue
		}
		var edits []markup.Edit
		seen := map[*markup.Node]bool{}
		for _, e := range d.doc.All() {
			if e.Node == nil || seen[e.Node] || e.Node.Offset >= len(d.now) {
				continue
			}
			seen[e.Node] = true
			more := revise.MissingMarks(d.now, e)
			if len(more) > 0 {
				one.Elements++
			}
			edits = append(edits, more...)
		}
		if err := a.take(d, edits, one); err != nil {
			return err
		}
	}
	return ctx.Err()
}

// marked counts the elements of a drawing that have marks.
func marked(d *AppliedDrawing) (n int) {
	for _, e := range d.doc.All() {
		if len(e.Marks.Attributes()) > 0 {
			n++
		}
	}
	return n
}
