package raster

import (
	"image"
	"math/rand"
	"strings"
	"testing"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/geom"
)

// spot is a layer with one opaque pixel in its middle.
func spot(n int) *layer {
	l := newLayer(image.Rect(0, 0, n, n))
	copy(l.pix[l.at(n/2, n/2):], []uint8{200, 100, 50, 255})
	return l
}

func at(l *layer, x, y int) [4]uint8 { return [4]uint8(l.pix[l.at(x, y):][:4]) }

func TestConvolveTurnsItsKernel(t *testing.T) {
	k := &design.Kernel{W: 3, H: 1, Values: []float64{1, 0, 0}, Divisor: 1, X: 1, Y: 0, Edge: "none"}
	out := convolveMatrix(spot(5), k)
	if at(out, 1, 2) != [4]uint8{200, 100, 50, 255} && at(out, 3, 2) != [4]uint8{200, 100, 50, 255} {
		t.Errorf("%v", out.pix)
	}
	if at(out, 1, 2)[3] != 255 { // the first value is laid on the pixel to the right
		t.Error("the kernel is not turned")
	}
	for _, edge := range []string{"duplicate", "wrap", "none"} {
		k.Edge, k.KeepAlpha = edge, true
		if out := convolveMatrix(spot(3), k); at(out, 1, 1)[3] != 255 {
			t.Errorf("%s: alpha is not kept", edge)
		}
	}
}

func TestTiles(t *testing.T) {
	l := spot(6) // at 3, 3
	out := tiled(l, image.Rect(3, 3, 5, 5))
	for _, p := range []image.Point{{1, 1}, {3, 3}, {5, 5}, {1, 5}} {
		if at(out, p.X, p.Y)[3] != 255 {
			t.Errorf("nothing at %v", p)
		}
	}
	if at(out, 2, 2)[3] != 0 || at(tiled(l, image.Rect(9, 9, 9, 12)), 3, 3)[3] != 0 {
		t.Error("too much is painted")
	}
}

func TestDisplacement(t *testing.T) {
	by := newLayer(image.Rect(0, 0, 7, 7))
	by.fill([4]uint8{255, 0, 0, 255})
	out := displace(spot(7), by, [2]int{0, 3}, 4, 0) // red is whole: two pixels to the left
	if at(out, 1, 3)[3] != 255 || at(out, 3, 3)[3] != 0 {
		t.Errorf("%v", out.pix)
	}
}

// TestNoiseIsThatOfTheSpecification holds the pseudo-random numbers against those it gives.
func TestNoiseIsThatOfTheSpecification(t *testing.T) {
	r := int64(1)
	for range 10_000 {
		r = 16807*(r%127773) - 2836*(r/127773)
		if r <= 0 {
			r += 2147483647
		}
	}
	if r != 1043618065 { // "the ten-thousandth number is"
		t.Error(r)
	}
	n, again, other := newNoise(3), newNoise(3), newNoise(4)
	if *n != *again || *n == *other || *newNoise(0) != *newNoise(-0.5) {
		t.Error("noise does not follow its seed")
	}
	if v := n.at(0, 5, 7, nil); v != 0 { // on the lattice
		t.Error(v)
	}
	l := newLayer(image.Rect(0, 0, 20, 20))
	turbulence(l, &design.Noise{FX: 0.1, FY: 0.1, Octaves: 2, Seed: 1, Fractal: true, Stitch: true}, geom.Identity,
		geom.Rect{W: 20, H: 20})
	if at(l, 3, 3) == at(l, 13, 9) {
		t.Error("no noise")
	}
}

func TestLightFallsOnSlopes(t *testing.T) {
	l := newLayer(image.Rect(0, 0, 9, 9))
	for y := range 9 {
		for x := range 9 {
			l.pix[l.at(x, y)+3] = uint8(x * 28)
		}
	}
	light := &design.Light{Surface: 3, Constant: 1, Exponent: 1, Color: color.White, Source: "distant", Azimuth: 180,
		Elevation: 45}
	towards := at(lighting(l, light, geom.Identity, false), 4, 4)[0]
	light.Azimuth = 0
	away := at(lighting(l, light, geom.Identity, false), 4, 4)[0]
	if towards <= away {
		t.Errorf("%d towards the light, %d away from it", towards, away)
	}
	spot := &design.Light{Surface: 1, Constant: 1, Exponent: 1, Color: color.White, Source: "spot",
		At: [3]float64{4, 4, 10}, To: [3]float64{4, 4, 0}, Focus: 1, Cone: 10}
	out := lighting(newLayer(image.Rect(0, 0, 9, 9)), spot, geom.Identity, false)
	if at(out, 4, 4)[0] < 240 || at(out, 0, 0)[0] != 0 {
		t.Errorf("%v in the cone, %v outside", at(out, 4, 4), at(out, 0, 0))
	}
}

// TestRampsFollowTheStops compares the table of a gradient with its formula.
func TestRampsFollowTheStops(t *testing.T) {
	g := &design.Gradient{P1: geom.Point{X: 100}, Matrix: geom.Identity, Spread: "pad",
		Stops: []design.Stop{{Offset: 0.2, Color: color.Black}, {Offset: 0.2, Color: color.White},
			{Offset: 0.9, Color: color.Color{Space: color.SRGB, C: [3]float64{1, 0, 0}, Alpha: 0.5}}}}
	n := &design.PaintNode{Matrix: geom.Identity, Opacity: 1, Path: geom.Rect{W: 100, H: 2}.Path(),
		Fill: &design.Paint{Kind: design.Linear, Gradient: g, Opacity: 1}}
	img, err := Render(n, Options{View: geom.Rect{W: 100, H: 2}})
	if err != nil {
		t.Fatal(err)
	}
	for x := range 100 {
		want, _ := g.At(geom.Point{X: float64(x) + 0.5})
		c := premul(want)
		got := img.RGBAAt(x, 1)
		for k, v := range [4]uint8{got.R, got.G, got.B, got.A} {
			if d := int(v) - int(c[k]); d > 1 || d < -1 {
				t.Errorf("at %d: %v, want %v", x, got, c)
				break
			}
		}
	}
}

func TestExtentHoldsTheShadow(t *testing.T) {
	n := &design.PaintNode{Matrix: geom.Identity, Opacity: 1, Path: geom.Rect{X: 10, Y: 10, W: 5, H: 5}.Path(),
		Fill: &design.Paint{Kind: design.Solid, Color: color.Black, Opacity: 1},
		Filter: &design.Filter{Region: geom.Rect{X: -1e6, Y: -1e6, W: 2e6, H: 2e6},
			Primitives: []design.Primitive{{Kind: "feGaussianBlur", SX: 4, SY: 4}}}}
	if b := Extent(n); b.X > -2 || b.Right() < 27 {
		t.Errorf("%v", b)
	}
}

// TestMorphologyIsThatOfEveryPixel holds the quick way against looking at every pixel around each.
func TestMorphologyIsThatOfEveryPixel(t *testing.T) {
	const w, h = 23, 17
	random := rand.New(rand.NewSource(4))
	in := newLayer(image.Rect(3, 2, 3+w, 2+h))
	for i := range in.pix {
		in.pix[i] = uint8(random.Intn(256))
	}
	for _, r := range [][2]int{{1, 1}, {0, 3}, {5, 0}, {4, 9}, {40, 40}} {
		for _, dilate := range []bool{true, false} {
			out := morphology(in, r[0], r[1], dilate)
			for y := range h {
				for x := range w {
					for k := range 4 {
						want := uint8(255)
						if dilate {
							want = 0
						}
						for v := y - min(r[1], h); v <= y+min(r[1], h); v++ {
							for u := x - min(r[0], w); u <= x+min(r[0], w); u++ {
								near := uint8(0)
								if u >= 0 && v >= 0 && u < w && v < h {
									near = in.pix[(v*w+u)*4+k]
								}
								if dilate {
									want = max(want, near)
								} else {
									want = min(want, near)
								}
							}
						}
						if got := out.pix[(y*w+x)*4+k]; got != want {
							t.Fatalf("radius %v, spread %t: %d at %d, %d; want %d", r, dilate, got, x, y, want)
						}
					}
				}
			}
		}
	}
}

// TestEffortEnds paints patterns and masks inside one another, thousands of them.
func TestEffortEnds(t *testing.T) {
	page := &design.PaintNode{Opacity: 1, Matrix: geom.Identity, Path: geom.Rect{W: 100, H: 100}.Path(),
		Fill: &design.Paint{Kind: design.Solid, Opacity: 1}}
	group := func(each *design.PaintNode) *design.PaintNode {
		g := &design.PaintNode{Opacity: 1, Matrix: geom.Identity}
		for range 100 {
			g.Children = append(g.Children, each)
		}
		return g
	}
	for name, wrap := range map[string]func(n *design.PaintNode) *design.PaintNode{
		"patterns": func(n *design.PaintNode) *design.PaintNode {
			p := *page
			p.Fill = &design.Paint{Kind: design.Pattern, Opacity: 1, Tile: &design.Tile{Box: geom.Rect{W: 100, H: 100},
				Matrix: geom.Identity, Content: group(n)}}
			return &p
		},
		"masks": func(n *design.PaintNode) *design.PaintNode {
			p := *page
			p.Mask = &design.Mask{Region: geom.Rect{W: 100, H: 100}, Content: group(n)}
			return &p
		},
		"groups": func(n *design.PaintNode) *design.PaintNode { g := group(n); g.Isolate = true; return g },
	} {
		n := page
		for range 2 {
			n = wrap(n)
		}
		p := &painter{cover: &coverage{}, effort: &effort{left: 8e5, all: 8e5}}
		p.node(newLayer(image.Rect(0, 0, 100, 100)), n, geom.Identity, 1)
		if err := p.effort.err(); err == nil || !strings.Contains(err.Error(), "smaller density") {
			t.Errorf("%s: %v", name, err)
		}
	}
}
