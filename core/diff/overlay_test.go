package diff

import (
	"image"
	"image/color"
	"image/draw"
	"testing"
)

// scene is a picture of boxes, moved as a whole, with one of them apart.
func scene(by, apart image.Point) (*image.RGBA, []Spot) {
	img := image.NewRGBA(image.Rect(0, 0, 200, 160))
	draw.Draw(img, img.Rect, image.NewUniform(color.RGBA{250, 250, 250, 255}), image.Point{}, draw.Src)
	var spots []Spot
	for i, r := range []image.Rectangle{image.Rect(10, 10, 60, 40), image.Rect(80, 20, 120, 90), image.Rect(30, 100, 150, 130)} {
		spots = append(spots, Spot{string(rune('a' + i)), r})
		at := r.Add(by)
		if i == 1 {
			at = at.Add(apart)
		}
		draw.Draw(img, at, image.NewUniform(color.RGBA{uint8(60 * i), 120, uint8(200 - 50*i), 255}), image.Point{}, draw.Src)
		draw.Draw(img, at.Inset(at.Dy()/3), image.NewUniform(color.RGBA{255, 255, 255, 255}), image.Point{}, draw.Src)
	}
	return img, spots
}

func TestCompareFindsWhatStandsElsewhere(t *testing.T) {
	a, spots := scene(image.Point{}, image.Point{})
	b, _ := scene(image.Point{}, image.Pt(7, -4))
	o := Compare(a, b, image.Point{}, spots, 8)
	if len(o.Spots) != 3 || o.Spots[0].Name != "b" || o.Spots[0].Offset != image.Pt(-7, 4) || o.Spots[0].There < 0.99 {
		t.Errorf("%+v", o.Spots)
	}
	if o.Spots[1].Likeness != 1 || o.Spots[2].Likeness != 1 {
		t.Errorf("the others: %+v", o.Spots[1:])
	}
	if same := Compare(a, a, image.Point{}, spots, 0); same.Likeness != 1 {
		t.Errorf("with itself: %v", same.Likeness)
	}
}

func TestBest(t *testing.T) {
	a, spots := scene(image.Point{}, image.Point{})
	for _, by := range []image.Point{{}, {13, -9}, {-30, 21}, {1, 1}} {
		b, _ := scene(by, image.Point{})
		if got := Best(a, b, 40, 8); got != by.Mul(-1) {
			t.Errorf("moved by %v: found %v", by, got)
		}
		if got := BestOf(a, b, spots[2].Box, 40, 8); got != by.Mul(-1) {
			t.Errorf("moved by %v, by one part: found %v", by, got)
		}
	}
}

func TestPlainPicturesAreAlike(t *testing.T) {
	a := image.NewRGBA(image.Rect(0, 0, 9, 9))
	if o := Compare(a, a, image.Point{}, nil, 0); o.Likeness != 1 {
		t.Errorf("%v", o.Likeness)
	}
}
