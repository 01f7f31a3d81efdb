package job

import (
	"context"

	"archetyp/core/markup"
	"archetyp/core/revise"
)

// Marks writes marks that the configuration gives by selector into the drawings, as attributes of their elements.
func (a *Applying) Marks(ctx context.Context, source string) error {
	return a.each(ctx, source, func(d *AppliedDrawing) error {
		one := AppliedOne{What: "marks", Old: "in the configuration", New: "in the drawing"}
		if err := a.revised(d).Writable(); err != nil {
			if marked(d) == 0 {
				return nil
			}
			return a.refuse(d.Source, one, err)
		}
		var edits []markup.Edit
		seen := map[*markup.Node]bool{}
		for _, e := range d.doc.All() {
			if seen[e.Node] {
				continue
			}
			seen[e.Node] = true
			more := revise.MissingMarks(d.now, e)
			if len(more) > 0 {
				one.Elements++
			}
			edits = append(edits, more...)
		}
		return a.take(d, edits, one)
	})
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
