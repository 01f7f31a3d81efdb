package svg

import (
	"math"

	"archetyp/core/geom"
	"archetyp/core/geom/pathdata"
)

// commandsOf are the commands that draw an outline; pieces of one ellipse become one arc.
func commandsOf(p *geom.Path) []pathdata.Command {
	var out []pathdata.Command
	var pending *arc
	flush := func() {
		if a := pending; a != nil {
			e := pathdata.Ellipse{RX: a.rx, RY: a.ry, Turn: a.turn}
			out = append(out, pathdata.Command{Letter: 'A', Ellipse: e, Seen: e, Large: math.Abs(a.sweep) > math.Pi,
				Sweep: a.sweep > 0, Points: [3]pathdata.Point{pathdata.At(a.end)}})
		}
		pending = nil
	}
	p.Each(func(s geom.Segment, first bool) {
		if first {
			flush()
			out = append(out, pathdata.Command{Letter: 'M', Points: [3]pathdata.Point{pathdata.At(s.P[0])}})
		}
		if s.Verb == geom.Conic {
			if next, ok := arcOf(&s); ok {
				if pending == nil || !pending.join(next) {
					flush()
					pending = next
				}
				return
			}
			s = geom.Segment{Verb: geom.Cubic, P: s.Cubic()}
		}
		flush()
		c := pathdata.Command{Letter: map[geom.Verb]byte{geom.Line: 'L', geom.Quad: 'Q', geom.Cubic: 'C',
			geom.Close: 'Z'}[s.Verb]}
		for i := range s.Verb.Size() {
			c.Points[i] = pathdata.At(s.P[i+1])
		}
		out = append(out, c)
	})
	flush()
	return out
}

// under is an arc under a matrix; ok is false where that would have to turn and squeeze it.
func under(c *pathdata.Command, m geom.Matrix) (a pathdata.Command, ok bool) {
	a = *c
	flip := m.Det() < 0
	switch {
	case math.Abs(c.RX) == math.Abs(c.RY) && similar(m):
		k := m.MeanScale()
		a.RX, a.RY, a.Turn = math.Abs(c.RX)*k, math.Abs(c.RY)*k, 0
	case m.B == 0 && m.C == 0 && (c.Turn == 0 || m.A == m.D):
		a.RX, a.RY = math.Abs(c.RX*m.A), math.Abs(c.RY*m.D)
	case m.A == 0 && m.D == 0 && c.Turn == 0:
		a.RX, a.RY = math.Abs(c.RY*m.C), math.Abs(c.RX*m.B)
	default:
		return a, false
	}
	a.Sweep = c.Sweep != flip
	return a, true
}

// conics visits the curves that browsers paint an arc by, all counted in 32 bits.
// https://www.w3.org/TR/SVG2/implnote.html#ArcImplementationNotes
func conics(c *pathdata.Command, from, to geom.Point, visit func(*geom.Segment)) {
	f := single
	rx, ry := f(math.Abs(c.Seen.RX)), f(math.Abs(c.Seen.RY))
	if from == to {
		return
	}
	line := func() { visit(&geom.Segment{Verb: geom.Line, P: [4]geom.Point{from, to}}) }
	if rx == 0 || ry == 0 {
		line()
		return
	}
	sin, cos := singleTrig(f(f(c.Seen.Turn) * f(math.Pi/180)))
	mid := turnBack(pathdata.Round32(pathdata.Round32(from.Sub(to)).Mul(0.5)), sin, cos)
	if grow := f(f(f(mid.X*mid.X)/f(rx*rx)) + f(f(mid.Y*mid.Y)/f(ry*ry))); grow > 1 {
		grow = f(math.Sqrt(grow))
		rx, ry = f(rx*grow), f(ry*grow)
	}
	kx, ky := f(1/rx), f(1/ry)
	unit := func(p geom.Point) geom.Point {
		if sin == 0 && cos == 1 {
			return geom.Point{X: f(p.X * kx), Y: f(p.Y * ky)}
		}
		return geom.Point{X: f(f(p.X*f(kx*cos)) + f(p.Y*f(kx*sin))), Y: f(f(p.Y*f(ky*cos)) + f(p.X*f(ky*-sin)))}
	}
	p1, p2 := unit(from), unit(to)
	delta := pathdata.Round32(p2.Sub(p1))
	k := f(math.Sqrt(math.Max(0, f(f(1/f(f(delta.X*delta.X)+f(delta.Y*delta.Y)))-0.25))))
	if c.Sweep == c.Large {
		k = -k
	}
	centre := geom.Point{X: f(f(f(p1.X+p2.X)*0.5) - f(delta.Y*k)), Y: f(f(f(p1.Y+p2.Y)*0.5) + f(delta.X*k))}
	p1, p2 = pathdata.Round32(p1.Sub(centre)), pathdata.Round32(p2.Sub(centre))
	at := f(math.Atan2(p1.Y, p1.X))
	turn := f(2 * f(math.Pi))
	sweep := sweepOf(f(f(math.Atan2(p2.Y, p2.X))-at), turn, c.Sweep)
	if math.Abs(sweep) < math.Pi/1e6 {
		line()
		return
	}
	n := math.Ceil(math.Abs(f(sweep / f(turn/3)))) // pieces of a third of a turn at most
	step := f(sweep / n)
	t := f(math.Tan(f(0.5 * step)))
	weight := f(math.Sqrt(f(0.5 + f(f(math.Cos(step))*0.5))))
	whole := math.Abs(f(f(math.Pi/2)-math.Abs(step))) <= 1.0/4096 && rx == math.Floor(rx) && ry == math.Floor(ry) &&
		to.X == math.Floor(to.X) && to.Y == math.Floor(to.Y)
	place := func(p geom.Point) geom.Point {
		p = turnTo(p, sin, cos, rx, ry)
		if whole {
			p = geom.Point{X: math.Floor(p.X + 0.5), Y: math.Floor(p.Y + 0.5)}
		}
		return p
	}
	last := from
	for i := 0.0; i < n; i++ {
		at = f(at + step)
		sinE, cosE := singleTrig(at)
		end := pathdata.Round32(geom.Point{X: cosE, Y: sinE}.Add(centre))
		control := place(pathdata.Round32(end.Add(geom.Point{X: f(t * sinE), Y: f(-t * cosE)})))
		if end = place(end); i == n-1 {
			end = to
		}
		visit(&geom.Segment{Verb: geom.Conic, Weight: weight, P: [4]geom.Point{last, control, end}})
		last = end
	}
}

// single is a number in the precision of renderers.
func single(v float64) float64 { return float64(float32(v)) }

// singleTrig is sine and cosine in that precision; next to nothing is nothing.
func singleTrig(v float64) (sin, cos float64) {
	sin, cos = math.Sincos(v)
	if sin, cos = single(sin), single(cos); math.Abs(sin) <= 1.0/65536 {
		sin = 0
	}
	if math.Abs(cos) <= 1.0/65536 {
		cos = 0
	}
	return sin, cos
}

// turnBack takes the turn of an ellipse out of a point.
func turnBack(p geom.Point, sin, cos float64) geom.Point {
	f := single
	if sin == 0 && cos == 1 {
		return p
	}
	return geom.Point{X: f(f(p.X*cos) + f(p.Y*sin)), Y: f(f(p.Y*cos) - f(p.X*sin))}
}

// turnTo brings a point of the unit circle onto an ellipse around the origin.
func turnTo(p geom.Point, sin, cos, rx, ry float64) geom.Point {
	f := single
	if sin == 0 && cos == 1 {
		return geom.Point{X: f(p.X * rx), Y: f(p.Y * ry)}
	}
	return geom.Point{X: f(f(p.X*f(cos*rx)) + f(p.Y*f(-sin*ry))), Y: f(f(p.Y*f(cos*ry)) + f(p.X*f(sin*rx)))}
}

// arc is a piece of an ellipse: of radii rx and ry, the first turned by so many degrees.
type arc struct {
	centre, end  geom.Point
	rx, ry, turn float64
	sweep        float64 // radians, positive where y turns towards x
}

// arcOf finds the ellipse that a conic is a piece of.
func arcOf(s *geom.Segment) (*arc, bool) {
	w := s.Weight
	if !(w > 0 && w < 1-1e-9) {
		return nil, false
	}
	mid := s.P[0].Lerp(s.P[2], 0.5)
	c := mid.Sub(s.P[1].Mul(w * w)).Mul(1 / (1 - w*w))
	half := math.Acos(w)
	u, v := s.P[1].Sub(c).Mul(w), s.P[2].Sub(s.P[0]).Mul(0.5/math.Sin(half)) // two conjugate half diameters
	// the ellipse is the unit circle under the matrix with columns u and v: its axes by singular values
	e, f, g, h := (u.X+v.Y)/2, (u.X-v.Y)/2, (u.Y+v.X)/2, (u.Y-v.X)/2
	q, r := math.Hypot(e, h), math.Hypot(f, g)
	a := &arc{centre: c, end: s.P[2], rx: q + r, ry: math.Abs(q - r), sweep: 2 * half}
	if a.ry < 1e-9*a.rx || a.rx > 1e6 {
		return nil, false
	}
	if u.X*v.Y-u.Y*v.X < 0 {
		a.sweep = -a.sweep
	}
	if a.rx-a.ry > 1e-6*a.rx {
		a.turn = math.Mod((math.Atan2(g, f)+math.Atan2(h, e))/2*180/math.Pi+360, 180)
		if a.turn > 179.9999 {
			a.turn = 0
		}
		if math.Abs(a.turn-90) < 1e-6 {
			a.turn, a.rx, a.ry = 0, a.ry, a.rx
		}
	} else {
		a.rx = (a.rx + a.ry) / 2
		a.ry = a.rx
	}
	return a, true
}

// join adds the piece that follows, where it is of the same ellipse and the whole stays well short of a full turn,
// for which ends that are rounded would say too little.
func (a *arc) join(b *arc) bool {
	tol := 1e-6 * math.Max(a.rx, a.ry)
	if a.centre.Sub(b.centre).Len() > tol || math.Abs(a.rx-b.rx) > tol || math.Abs(a.ry-b.ry) > tol ||
		math.Abs(a.turn-b.turn) > 1e-4 ||
		a.sweep*b.sweep < 0 || math.Abs(a.sweep+b.sweep) > 1.5*math.Pi {
		return false
	}
	both := *a
	both.end, both.sweep = b.end, a.sweep+b.sweep
	if near := math.Abs(math.Abs(both.sweep)-math.Pi) < 0.05; near && !both.half() {
		return false // which of the two halves is meant would hang on a digit
	}
	*a = both
	return true
}

// half reports whether this is half of a circle.
func (a *arc) half() bool { return a.rx == a.ry && math.Abs(math.Abs(a.sweep)-math.Pi) < 1e-6 }

// sweepOf turns an angle into one in the direction of the sweep.
func sweepOf(angle, turn float64, positive bool) float64 {
	switch {
	case angle < 0 && positive:
		return single(angle + turn)
	case angle > 0 && !positive:
		return single(angle - turn)
	}
	return angle
}
