package design

import (
	"testing"

	"archetyp/core/color"
	"archetyp/core/geom"
)

func tile(x, y, w, h float64, more ...*PaintNode) *PaintNode {
	return &PaintNode{Matrix: geom.Identity, Opacity: 1, Path: geom.Rect{X: x, Y: y, W: w, H: h}.Path(),
		Fill: &Paint{Kind: Solid, Color: color.Black, Opacity: 1}, Children: more}
}

func bundle(kids ...*PaintNode) *PaintNode {
	return &PaintNode{Matrix: geom.Identity, Opacity: 1, Children: kids}
}

func TestSimplify(t *testing.T) {
	view := geom.Rect{W: 100, H: 100}
	unseen, outside, clear := tile(1, 1, 5, 5), tile(200, 1, 5, 5), tile(1, 1, 5, 5)
	unseen.Opacity = 0
	clear.Fill.Color.Alpha = 0
	moved := bundle(bundle(tile(1, 1, 5, 5)))
	moved.Matrix = geom.Translate(10, 0)
	wide, tight := tile(1, 1, 5, 5), tile(1, 1, 5, 5)
	wide.Clip = &Clip{Shapes: []*PaintNode{tile(0, 0, 50, 50)}}
	tight.Clip = &Clip{Shapes: []*PaintNode{tile(0, 0, 3, 50)}}
	thrown := tile(150, 1, 5, 5) // its filter brings it into view
	thrown.Filter = &Filter{Region: geom.Rect{X: -1000, Y: -1000, W: 2000, H: 2000},
		Primitives: []Primitive{{Kind: "feOffset", DX: -100}}}
	got := Simplify(bundle(unseen, outside, clear, moved, wide, tight, thrown), view)
	if len(got.Children) != 4 {
		t.Fatalf("%d parts are left", len(got.Children))
	}
	if m := got.Children[0]; m.Path == nil || m.Matrix != geom.Translate(10, 0) {
		t.Error("groups that only move are not folded")
	}
	if got.Children[1].Clip != nil || got.Children[2].Clip == nil {
		t.Error("a clip that cuts nothing is kept, or one that cuts is not")
	}
	if wide.Clip == nil || len(moved.Children) != 1 {
		t.Error("the original was changed")
	}
	if empty := Simplify(bundle(outside), view); len(empty.Children) != 0 || empty.Path != nil {
		t.Error("nothing is not nothing")
	}
}

func TestDigest(t *testing.T) {
	a, b := bundle(tile(1, 1, 5, 5), tile(9, 9, 5, 5)), bundle(tile(1, 1, 5, 5), tile(9, 9, 5, 5))
	if a.Digest() != b.Digest() {
		t.Error("the same tree, another digest")
	}
	for _, c := range []struct {
		name   string
		change func()
	}{
		{"a point", func() { b.Children[0].Path.Points[0].X++ }},
		{"a colour", func() { b.Children[0].Fill.Color.C[0] = 1 }},
		{"opacity", func() { b.Opacity = 0.5 }},
		{"a filter", func() { b.Filter = &Filter{Primitives: []Primitive{{Kind: "feTile", Noise: &Noise{Seed: 1}}}} }},
		{"a clip", func() { b.Clip = &Clip{Shapes: []*PaintNode{tile(0, 0, 1, 1)}} }},
		{"a gradient", func() {
			b.Children[1].Fill = &Paint{Kind: Linear, Opacity: 1, Gradient: &Gradient{Stops: []Stop{{0, color.Black}}}}
		}},
		{"a child", func() { b.Children = b.Children[:1] }},
	} {
		before := b.Digest()
		c.change()
		if b.Digest() == before {
			t.Errorf("%s makes no difference", c.name)
		}
	}
}

func TestStraightGradients(t *testing.T) {
	g := &Gradient{P1: geom.Point{X: 1}, Matrix: geom.Identity, Stops: []Stop{{0, color.Black}, {1, color.White}}}
	m := geom.Matrix{A: 10, C: 5, D: 20, E: 3, F: 4} // slanted
	from, to, ok := g.Straight(m)
	if !ok {
		t.Fatal("no line")
	}
	inv, _ := m.Inverse()
	for _, p := range []geom.Point{{X: 3, Y: 4}, {X: 8, Y: 30}, {X: -5, Y: 12}} {
		was := inv.Apply(p).X
		d := to.Sub(from)
		q := p.Sub(from)
		if is := (q.X*d.X + q.Y*d.Y) / (d.X*d.X + d.Y*d.Y); is-was > 1e-9 || was-is > 1e-9 {
			t.Errorf("at %v it is %g, not %g", p, is, was)
		}
	}
}
