package audit

import (
	"archetyp/core/design"
	"archetyp/core/geom"
)

// touchBox is where an element can be touched: its box, with the hidden or transparent box that a drawing puts behind an
// icon for it.
func touchBox(e *design.Element) geom.Rect {
	box := e.BorderBox()
	for _, k := range e.Children {
		if k.Kind == design.Box && k.Geometry.Set {
			box = box.Union(k.BorderBox())
		}
	}
	return box
}
