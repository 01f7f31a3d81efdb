package audit

import "archetyp/core/design"

var overPicture = Rule{Name: "over-picture", Group: "screens", Level: Note,
	What:  "words that stand on a bitmap, which another may take the place of",
	Why:   "nobody knows whether the next picture leaves them readable",
	check: checkOverPicture,
}

func checkOverPicture(c *checker) {
	c.interfaces(func(s *design.Screen) {
		if s.Document.Format != "svg" { // layers of a pixel design are pictures by themselves
			return
		}
		var found []*design.Element
		texts(s, func(e *design.Element, _ string) {
			if e.Geometry.Set && onPicture(e) {
				found = append(found, e)
			}
		})
		switch len(found) {
		case 0:
		case 1:
			c.find(found, "Lay a ground between the two, or say which pictures may stand there: data-behaviour.", "%s stands on a picture", found[0].Title())
		default:
			c.find(found, "Lay a ground between the two, or say which pictures may stand there: data-behaviour.", "%d texts stand on a picture", len(found))
		}
	})
}

// onPicture reports whether the nearest thing under most of a text is a bitmap.
func onPicture(e *design.Element) bool {
	box := e.Geometry.Value
	for i := indexOf(e) - 1; i >= 0; i-- {
		o := e.Screen.Elements[i]
		if o.Hidden || o.Kind == design.Group || o.Words != nil || !o.Geometry.Set {
			continue
		}
		common := o.Geometry.Value.Intersect(box)
		if common.W*common.H < 0.5*box.W*box.H {
			continue
		}
		if o.Kind == design.Image {
			return true
		}
		if len(o.Fills) > 0 && o.Fills[0].Value.Kind == design.Solid && o.Fills[0].Value.Color.Alpha >= 0.5 && !o.Opacity.Set {
			return false
		}
	}
	return false
}
