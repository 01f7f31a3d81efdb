package audit

import (
	"archetyp/core/css"
	"archetyp/core/design"
)

var bitmapSmall = Rule{Name: "bitmap-small", Group: "assets", Level: Warning,
	What:  "bitmaps with fewer pixels than the room they are shown in",
	Why:   "it is blurred on every screen",
	check: checkBitmapSmall,
}

func checkBitmapSmall(c *checker) {
	for _, d := range c.Docs {
		if d.Format != "svg" { // pixel designs are as large as they are
			continue
		}
		for _, e := range d.All() {
			b, box := e.Bitmap.Value, e.Geometry.Value
			if e.Hidden || e.Kind != design.Image || b.Width == 0 || box.W < 16 || box.H < 16 {
				continue
			}
			if density := min(float64(b.Width)/box.W, float64(b.Height)/box.H); density < 0.95 {
				c.find([]*design.Element{e}, "Put in one of "+css.Num(2*box.W, 0)+" × "+css.Num(2*box.H, 0)+" pixels, enough for 2x.",
					"a bitmap of %d × %d pixels is shown at %s × %s px", b.Width, b.Height, css.Num(box.W, 1), css.Num(box.H, 1))
			}
		}
	}
}
