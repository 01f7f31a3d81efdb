package diff

import (
	"cmp"
	"image"
	"image/color"
	"image/draw"
	"math"
	"slices"
	"strconv"
)

// Spot is a part of a picture that is compared: an element, by its name, and where it is in pixels.
type Spot struct {
	Name string
	Box  image.Rectangle
}

// Laid is how like a part of two pictures is that are laid over each other.
type Laid struct {
	Spot
	Likeness float64     // 0–1
	Offset   image.Point // by which the second picture shows it better, in pixels; 0, 0 where it does not
	There    float64     // how like it is at that offset
}

// Overlay is how like two pictures are that are laid over each other.
type Overlay struct {
	By       image.Point // by which the second picture was moved
	Likeness float64     // 0–1: the mean over the parts, or of the whole where there are none
	Spots    []Laid      // the least like first
}

// nearby is how far around its place a part is looked for, in pixels; it is found where it is at least so like (0–1), and
// so much more than in its place.
const (
	nearby     = 12
	foundAgain = 0.6
	clearly    = 0.15
)

// How many pixels are looked at for each place that a part, or the whole, may be at.
const (
	samples    = 4000
	allSamples = 400_000
)

// Compare lays two pictures over each other, the second one moved, and compares them part by part within a tolerance
// (0–255). Parts that are plain in both say nothing and are left out.
func Compare(a, b *image.RGBA, by image.Point, spots []Spot, tolerance int) *Overlay {
	o := &Overlay{By: by}
	moved := Shifted(b, by, a.Rect)
	plain := Plain(a)
	for _, s := range spots {
		like, ok := Likeness(a, moved, s.Box, plain, tolerance)
		if !ok {
			continue
		}
		l := Laid{Spot: s, Likeness: like, There: like}
		if like < 0.9 {
			l.Offset, l.There = best(a, moved, s.Box, plain, tolerance, nearby, samples)
			if l.There < foundAgain || l.There < like+clearly { // it is nowhere near
				l.Offset, l.There = image.Point{}, like
			}
		}
		o.Spots = append(o.Spots, l)
		o.Likeness += like
	}
	if n := len(o.Spots); n > 0 {
		o.Likeness /= float64(n)
	} else if like, ok := Likeness(a, moved, a.Rect, plain, tolerance); ok {
		o.Likeness = like
	} else {
		o.Likeness = 1 // both are plain
	}
	slices.SortStableFunc(o.Spots, func(x, y Laid) int { return cmp.Compare(x.Likeness, y.Likeness) })
	return o
}

// Best is the offset within a reach (pixels) by which a second picture fits the first one best.
func Best(a, b *image.RGBA, reach, tolerance int) image.Point {
	const small = 4 // first coarsely, on pictures of a quarter the size
	x, y := shrunk(a, small), shrunk(b, small)
	coarse, _ := best(x, y, x.Rect, Plain(x), tolerance, (reach+small-1)/small, samples)
	around := coarse.Mul(small)
	moved := Shifted(b, around, a.Rect)
	fine, _ := best(a, moved, a.Rect, Plain(a), tolerance, small, allSamples)
	return around.Add(fine)
}

// BestOf is the offset within a reach by which a second picture shows a part of the first one best.
func BestOf(a, b *image.RGBA, box image.Rectangle, reach, tolerance int) image.Point {
	at, _ := best(a, b, box, Plain(a), tolerance, reach, 10*samples)
	return at
}

// Copy is a picture of its own with the same pixels.
func Copy(img *image.RGBA) *image.RGBA {
	out := image.NewRGBA(img.Rect)
	copy(out.Pix, img.Pix)
	return out
}

// best is the offset by which a box of the second picture fits the first one best, and how well. The smallest one wins
// where several do.
func best(a, b *image.RGBA, box image.Rectangle, plain color.RGBA, tolerance, reach, samples int) (at image.Point, like float64) {
	like = -1
	for r := range reach + 1 { // from the middle outwards
		for dy := -r; dy <= r; dy++ {
			for dx := -r; dx <= r; dx++ {
				if max(abs(dx), abs(dy)) != r {
					continue
				}
				if l, ok := likenessMoved(a, b, box, image.Pt(dx, dy), plain, tolerance, samples); ok && l > like+1e-9 {
					at, like = image.Pt(dx, dy), l
				}
			}
		}
	}
	return at, max(like, 0)
}

// likenessMoved is Likeness with the second picture moved.
func likenessMoved(a, b *image.RGBA, box image.Rectangle, by image.Point, plain color.RGBA, tolerance, samples int) (float64, bool) {
	box = box.Intersect(a.Rect)
	count, same := 0, 0
	p0 := [4]uint8{plain.R, plain.G, plain.B, plain.A}
	step := max(1, int(math.Sqrt(float64(box.Dx()*box.Dy())/float64(samples)))) // of a large part, a grid of its pixels
	for y := box.Min.Y; y < box.Max.Y; y += step {
		for x := box.Min.X; x < box.Max.X; x += step {
			p, q := [4]uint8(a.Pix[a.PixOffset(x, y):]), p0
			if at := image.Pt(x, y).Sub(by); at.In(b.Rect) {
				q = [4]uint8(b.Pix[b.PixOffset(at.X, at.Y):])
			}
			if p == p0 && q == p0 {
				continue
			}
			count++
			if distance(p, q) <= tolerance {
				same++
			}
		}
	}
	if count == 0 {
		return 0, false
	}
	return float64(same) / float64(count), true
}

// Shifted is a picture moved into a room, on what is plain of it.
func Shifted(img *image.RGBA, by image.Point, room image.Rectangle) *image.RGBA {
	out := image.NewRGBA(room)
	draw.Draw(out, room, image.NewUniform(Plain(img)), image.Point{}, draw.Src)
	draw.Draw(out, img.Rect.Add(by), img, img.Rect.Min, draw.Src)
	return out
}

// shrunk is a picture with each n × n pixels as one, their mean.
func shrunk(img *image.RGBA, n int) *image.RGBA {
	out := image.NewRGBA(image.Rect(0, 0, max(1, img.Rect.Dx()/n), max(1, img.Rect.Dy()/n)))
	for y := range out.Rect.Dy() {
		for x := range out.Rect.Dx() {
			var sum [4]int
			count := 0
			for dy := range n {
				for dx := range n {
					p := image.Pt(img.Rect.Min.X+x*n+dx, img.Rect.Min.Y+y*n+dy)
					if !p.In(img.Rect) {
						continue
					}
					i := img.PixOffset(p.X, p.Y)
					for k := range sum {
						sum[k] += int(img.Pix[i+k])
					}
					count++
				}
			}
			for k := range sum {
				out.Pix[out.PixOffset(x, y)+k] = uint8(sum[k] / max(1, count))
			}
		}
	}
	return out
}

// thereInk outlines a part where the second picture has it.
var thereInk = color.RGBA{0x1f, 0x7a, 0xc4, 0xff}

// Outlined draws the outlines of parts on a picture that shows how two differ, the least like ones with their offsets: where
// the first picture has them, and in blue where the second does.
func Outlined(img *image.RGBA, o *Overlay, most int) *image.RGBA {
	var taken []image.Rectangle
	n := 0
	for _, l := range o.Spots {
		if n == most || l.Likeness > 0.98 {
			break
		}
		n++
		frame(img, l.Box.Inset(-2), otherInk, 1)
		if l.Offset != (image.Point{}) { // where the second picture has it
			frame(img, l.Box.Sub(l.Offset).Inset(-2), thereInk, 1)
		}
		taken = badge(img, l.Box, offsetWords(l), otherInk, taken)
	}
	return img
}

// offsetWords says the place of a part in the second picture, or how like it is.
func offsetWords(l Laid) string {
	if l.Offset == (image.Point{}) {
		return itoa(int(math.Round(100*l.Likeness))) + "%"
	}
	return signed(-l.Offset.X) + "," + signed(-l.Offset.Y)
}

func itoa(n int) string { return strconv.Itoa(n) }

func signed(n int) string {
	if n > 0 {
		return "+" + itoa(n)
	}
	return itoa(n)
}
