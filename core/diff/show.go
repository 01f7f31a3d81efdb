package diff

import (
	"image"
	"image/color"
	"image/draw"
	"math"
	"strconv"

	"archetyp/core/geom"

	"golang.org/x/image/font"
	"golang.org/x/image/font/basicfont"
	"golang.org/x/image/math/fixed"
)

// The colours of frames, by what happened to what they frame; each is apart from the others in lightness, too.
var (
	goneInk  = color.RGBA{196, 30, 58, 255}
	newInk   = color.RGBA{24, 128, 56, 255}
	movedInk = color.RGBA{26, 86, 219, 255}
	otherInk = color.RGBA{176, 96, 0, 255}
)

// Ink is the colour that a kind of change is drawn in.
func (k Kind) Ink() color.RGBA {
	switch k {
	case Removed:
		return goneInk
	case Added:
		return newInk
	case Moved:
		return movedInk
	}
	return otherInk
}

// Framed shows the later picture of a screen, pale, with what changed as it is, framed and numbered as in the list of
// changes. What is gone is shown from the earlier picture. density is in pixels a px.
func Framed(was, is *image.RGBA, list []Change, density float64) *image.RGBA {
	base := is
	if base == nil {
		base = was
	}
	out := image.NewRGBA(base.Rect)
	fade(out, base)
	type framed struct {
		box image.Rectangle
		ink color.RGBA
	}
	frames := make([]framed, len(list))
	whole := func(r geom.Rect) image.Rectangle {
		return image.Rect(int(math.Floor(r.X*density)), int(math.Floor(r.Y*density)), int(math.Ceil(r.Right()*density)), int(math.Ceil(r.Bottom()*density)))
	}
	for i := range list {
		c := &list[i]
		from, e := is, c.New
		if e == nil {
			from, e = was, c.Old
		}
		if from != nil {
			painted := whole(e.Painted.Value)
			draw.Draw(out, painted, from, painted.Min, draw.Over)
		}
		frames[i] = framed{whole(e.BorderBox()), c.Kind.Ink()}
	}
	for i, f := range frames {
		if c := &list[i]; c.Kind == Moved && c.Old != nil {
			before := whole(c.Old.BorderBox())
			frame(out, before, f.ink, 1)
			line(out, before.Min, f.box.Min, f.ink, 1)
		}
		frame(out, f.box.Inset(-thick(density)-1), f.ink, thick(density))
	}
	taken := []image.Rectangle{}
	for i, f := range frames {
		taken = badge(out, f.box, strconv.Itoa(i+1), f.ink, taken)
	}
	return out
}

func thick(density float64) int { return max(1, int(math.Round(1.5*density))) }

// fade draws a picture on white, three quarters of it gone.
func fade(out, img *image.RGBA) {
	draw.Draw(out, out.Rect, image.White, image.Point{}, draw.Src)
	draw.Draw(out, out.Rect, img, img.Rect.Min, draw.Over)
	for i := range out.Pix {
		if i%4 != 3 {
			out.Pix[i] = pale(out.Pix[i])
		}
	}
}

func frame(out *image.RGBA, r image.Rectangle, ink color.RGBA, w int) {
	for _, side := range []image.Rectangle{{r.Min, image.Pt(r.Max.X, r.Min.Y+w)}, {image.Pt(r.Min.X, r.Max.Y-w), r.Max},
		{r.Min, image.Pt(r.Min.X+w, r.Max.Y)}, {image.Pt(r.Max.X-w, r.Min.Y), r.Max}} {
		draw.Draw(out, side, image.NewUniform(ink), image.Point{}, draw.Src)
	}
}

// line draws a straight line of squares.
func line(out *image.RGBA, from, to image.Point, ink color.RGBA, w int) {
	d := to.Sub(from)
	n := max(abs(d.X), abs(d.Y), 1)
	for i := range n + 1 {
		p := from.Add(image.Pt(d.X*i/n, d.Y*i/n))
		draw.Draw(out, image.Rectangle{p, p.Add(image.Pt(w, w))}, image.NewUniform(ink), image.Point{}, draw.Src)
	}
}

func abs(v int) int { return max(v, -v) }

// badge writes a number at the corner of a frame, where no other stands yet.
func badge(out *image.RGBA, box image.Rectangle, number string, ink color.RGBA, taken []image.Rectangle) []image.Rectangle {
	face := basicfont.Face7x13
	size := image.Pt(7*len(number)+6, 15)
	at := image.Rectangle{box.Min, box.Min.Add(size)}.Sub(image.Pt(size.X/2, size.Y))
	room := out.Rect
	for try := 0; try < 40; try++ {
		if at.Min.X < room.Min.X {
			at = at.Add(image.Pt(room.Min.X-at.Min.X, 0))
		}
		if at.Min.Y < room.Min.Y {
			at = at.Add(image.Pt(0, room.Min.Y-at.Min.Y))
		}
		free := true
		for _, t := range taken {
			free = free && !t.Overlaps(at)
		}
		if free {
			break
		}
		at = at.Add(image.Pt(size.X+1, 0))
		if at.Max.X > room.Max.X {
			at = image.Rectangle{image.Pt(max(room.Min.X, box.Min.X), at.Max.Y+1), image.Pt(max(room.Min.X, box.Min.X)+size.X, at.Max.Y+1+size.Y)}
		}
	}
	draw.Draw(out, at, image.NewUniform(ink), image.Point{}, draw.Src)
	d := font.Drawer{Dst: out, Src: image.White, Face: face, Dot: fixed.P(at.Min.X+3, at.Min.Y+12)}
	d.DrawString(number)
	return append(taken, at)
}

// Overlaid lays two pictures over each other, half of each.
func Overlaid(was, is *image.RGBA) *image.RGBA {
	out := onWhite(was, was.Rect.Union(is.Rect))
	over := onWhite(is, out.Rect)
	for i := range out.Pix {
		out.Pix[i] = uint8((int(out.Pix[i]) + int(over.Pix[i]) + 1) / 2)
	}
	return out
}

func onWhite(img *image.RGBA, room image.Rectangle) *image.RGBA {
	out := image.NewRGBA(room)
	draw.Draw(out, room, image.White, image.Point{}, draw.Src)
	draw.Draw(out, img.Rect, img, img.Rect.Min, draw.Over)
	return out
}

// Beside puts two pictures side by side, the earlier one on the left, with a bar between them.
func Beside(was, is *image.RGBA) *image.RGBA {
	const gap = 16
	w := was.Rect.Dx()
	room := image.Rect(0, 0, w+gap+is.Rect.Dx(), max(was.Rect.Dy(), is.Rect.Dy()))
	out := image.NewRGBA(room)
	draw.Draw(out, room, image.NewUniform(color.RGBA{208, 211, 217, 255}), image.Point{}, draw.Src)
	for _, side := range []struct {
		img *image.RGBA
		x   int
	}{{was, 0}, {is, w + gap}} {
		at := side.img.Rect.Sub(side.img.Rect.Min).Add(image.Pt(side.x, 0))
		draw.Draw(out, at, image.White, image.Point{}, draw.Src)
		draw.Draw(out, at, side.img, side.img.Rect.Min, draw.Over)
	}
	return out
}

// SameSize puts two pictures on white, each as large as both need.
func SameSize(a, b *image.RGBA) (x, y *image.RGBA) {
	room := a.Rect.Union(b.Rect)
	return onWhite(a, room), onWhite(b, room)
}
