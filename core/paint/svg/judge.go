package svg

import (
	"math"
	"slices"

	"archetyp/core/geom"
	"archetyp/core/geom/pathdata"
)

// judge finds whether path data is painted as an original is, at one to four pixels for each unit: browsers fill shapes
// by edges of whole numbers, and where those are the same the picture is. It counts as browsers do, in 32 bits.
type judge struct {
	seen           [densities]seen
	forms          forms   // of the original
	stroked        bool    // the edges of a stroke are elsewhere: only points count
	lines          bool    // there is nothing else
	exact          bool    // points must be the same to the last bit, as for a stroke or what is cut off
	noise          float64 // px, of the last bit of coordinates where the original is
	original, mine []geom.Edge
}

// seen is how a path comes out in one density.
type seen struct {
	from, to device  // from the original's space, and from that of what is written
	cutOff   bool    // the original, by the edge of the picture
	rows     float64 // of pixels that the original is seen in
}

const densities = 4

// newJudge holds data in the space that to leads from against commands in the space that from leads from; scale is the
// size of the picture, of which view is seen.
func newJudge(list []pathdata.Command, from, to geom.Matrix, scale float64, view geom.Rect) *judge {
	j := &judge{noise: max(math.Abs(from.E-to.E), math.Abs(from.F-to.F)) / (1 << 22)}
	j.lines = !slices.ContainsFunc(list, func(c pathdata.Command) bool {
		return c.Letter != 'M' && c.Letter != 'L' &&
			c.Letter != 'Z'
	})
	for k := range j.seen {
		s := &j.seen[k]
		s.from, s.to = deviceAt(float64(k+1), scale, from), deviceAt(float64(k+1), scale, to)
		var at geom.Point
		for i := range list {
			j.forms[k].command(counted(&list[i], at), &s.from)
			if k == 0 {
				j.forms[densities].command(counted(&list[i], at), &asDrawn)
			}
			at = list[i].End().Counted
		}
		all, in := j.forms[k].box.whole(), geom.Scale(scale*float64(k+1), scale*float64(k+1)).Rect(view)
		s.cutOff = all.x0 < in.X || all.y0 < in.Y || all.x1 > in.Right() || all.y1 > in.Bottom()
		if s.cutOff { // what cuts it computes with every bit
			j.noise = 0
		}
		s.rows = max(0, min(all.y1, math.Ceil(in.Bottom()))-max(all.y0, math.Floor(in.Y)))
	}
	return j
}

// forms are those in each density, and last that of the path where it is drawn.
type forms [densities + 1]form

var asDrawn = deviceOf(geom.Identity)

// form is what browsers choose by how to paint a path.
type form struct {
	box     box
	turning geom.Turning
	points  int
}

// crowded reports whether an outline has so many points for its rows that browsers do not look where its edges cross.
func (f *form) crowded(rows float64) bool { return float64(f.points) > 2*rows }

// command takes a command into account.
func (f *form) command(d drawn, on *device) {
	if d.command.Letter == 'Z' {
		f.turning.Close()
		return
	}
	d.segments(on, func(s *geom.Segment) {
		f.box.addSegment(s)
		f.points += max(1, s.Verb.Size())
		if d.command.Letter == 'M' {
			f.turning.Move(s.P[0])
			return
		}
		for _, p := range s.P[1 : s.Verb.Size()+1] {
			f.turning.To(p)
		}
	})
}

// box is the smallest and the largest of the coordinates of points.
type box struct {
	x0, y0, x1, y1 float64
	any            bool
}

func (b *box) add(p geom.Point) {
	if !b.any {
		*b = box{p.X, p.Y, p.X, p.Y, true}
	}
	b.x0, b.y0, b.x1, b.y1 = min(b.x0, p.X), min(b.y0, p.Y), max(b.x1, p.X), max(b.y1, p.Y)
}

// whole is the box in whole pixels: by it browsers choose how to paint a shape.
func (b *box) whole() box {
	return box{math.Floor(b.x0), math.Floor(b.y0), math.Ceil(b.x1), math.Ceil(b.y1), b.any}
}

func (b *box) addSegment(s *geom.Segment) {
	for i := 0; i <= s.Verb.Size(); i++ {
		b.add(s.P[i])
	}
}

// device leads to the pixels of a device.
type device struct {
	m       geom.Matrix
	upright bool
}

func deviceOf(m geom.Matrix) device { return device{m.Round32(), m.B == 0 && m.C == 0} }

// deviceAt leads to the pixels of a device with so many for each px of a picture, to whose size scale leads.
func deviceAt(density, scale float64, m geom.Matrix) device {
	return deviceOf(geom.Scale(density, density).Mul(geom.Scale(scale, scale).Mul(m).Round32()))
}

// moved is a device whose pixels are a little to the side.
func (d device) moved(by float64) device {
	d.m.E, d.m.F = d.m.E+by, d.m.F+by
	return d
}

func (d *device) apply(p geom.Point) geom.Point {
	f := func(v float64) float64 { return float64(float32(v)) }
	if d.upright {
		return geom.Point{X: f(f(p.X*d.m.A) + d.m.E), Y: f(f(p.Y*d.m.D) + d.m.F)}
	}
	return geom.Point{X: f(f(p.X*d.m.A) + f(f(p.Y*d.m.C)+d.m.E)), Y: f(f(p.Y*d.m.D) + f(f(p.X*d.m.B)+d.m.F))}
}

// drawn is a command as browsers count it.
type drawn struct {
	command *pathdata.Command // its letter, and all of an arc but its ends
	from    geom.Point
	points  [3]geom.Point
}

func counted(c *pathdata.Command, from geom.Point) drawn {
	return drawn{c, from, [3]geom.Point{c.Points[0].Counted, c.Points[1].Counted, c.Points[2].Counted}}
}

// segments visits the pieces of what is drawn, on a device.
func (d drawn) segments(on *device, visit func(*geom.Segment)) {
	put := func(s *geom.Segment) {
		for i := range s.P {
			s.P[i] = on.apply(s.P[i])
		}
		visit(s)
	}
	switch d.command.Letter {
	case 'M':
		put(&geom.Segment{Verb: geom.Line, P: [4]geom.Point{d.points[0], d.points[0]}})
	case 'L':
		put(&geom.Segment{Verb: geom.Line, P: [4]geom.Point{d.from, d.points[0]}})
	case 'Q':
		put(&geom.Segment{Verb: geom.Quad, P: [4]geom.Point{d.from, d.points[0], d.points[1]}})
	case 'C':
		put(&geom.Segment{Verb: geom.Cubic, P: [4]geom.Point{d.from, d.points[0], d.points[1], d.points[2]}})
	case 'A':
		conics(d.command, d.from, d.points[0], put)
	}
}

// same reports whether a draft of a command comes out as the command does.
func (j *judge) same(w *pathWriter, c *pathdata.Command, d *draft) bool {
	original, mine := counted(c, w.from.Counted), w.drawn(c, d)
	if j.exact && !j.sameNumbers(original, mine) {
		return false
	}
	if j.stroked {
		return true
	}
	end := c.End().Counted
	for k := range j.seen {
		s := &j.seen[k]
		x, y := geom.Cell(s.from.apply(end))
		x2, y2 := geom.Cell(s.to.apply(d.end.seen))
		if x != x2 || y != y2 {
			return false
		}
	}
	if c.Letter == 'M' {
		return true
	}
	if c.Letter == 'L' { // a line is no more than its ends, but one that is level with others may make a rectangle of them
		return !j.lines || levelWith(end, w.from.Counted) == levelWith(d.end.seen, w.pen.seen) &&
			levelWith(end, w.startFrom.Counted) == levelWith(d.end.seen, w.start.seen)
	}
	for k := range j.seen {
		s := &j.seen[k]
		if !j.sameEdges(original, mine, s.from, s.to) {
			return false
		}
		if c.Letter != 'A' {
			continue
		}
		// the last bits of arcs are anybody's
		for _, off := range []float64{arcError * float64(k+1), -arcError * float64(k+1)} {
			if !j.sameEdges(original, mine, s.from.moved(off), s.to.moved(off)) {
				return false
			}
		}
	}
	return true
}

// arcError is by how much, in px, a point of an arc may be elsewhere than counted here.
const arcError = 1e-5

// sameEdges reports whether two commands have the same edges on their devices.
func (j *judge) sameEdges(original, mine drawn, from, to device) bool {
	j.original, j.mine = j.original[:0], j.mine[:0]
	original.segments(&from, func(g *geom.Segment) { j.original = g.Edges(j.original) })
	mine.segments(&to, func(g *geom.Segment) { j.mine = g.Edges(j.mine) })
	return slices.Equal(j.original, j.mine)
}

// levelWith reports whether points have an x, and a y, in common.
func levelWith(p, q geom.Point) [2]bool { return [2]bool{p.X == q.X, p.Y == q.Y} }

// sameNumbers reports whether the points of two commands are the same to the last bit that means something.
func (j *judge) sameNumbers(original, mine drawn) bool {
	on := &j.seen[0]
	var a, b []geom.Point
	original.segments(&on.from, func(g *geom.Segment) { a = append(a, g.P[:g.Verb.Size()+1]...) })
	mine.segments(&on.to, func(g *geom.Segment) { b = append(b, g.P[:g.Verb.Size()+1]...) })
	return slices.EqualFunc(a, b, func(p, q geom.Point) bool {
		return math.Abs(p.X-q.X) <= j.noise && math.Abs(p.Y-q.Y) <= j.noise
	})
}

// cutOff reports whether the edge of the picture cuts off a part of the original.
func (j *judge) cutOff() bool {
	return slices.ContainsFunc(j.seen[:], func(s seen) bool { return s.cutOff })
}

// sameForm reports whether all that was written lies in the same pixels, and turns as the original does.
func (j *judge) sameForm(mine *forms) bool {
	for k := range j.forms {
		a, b := &j.forms[k], &mine[k]
		ta, tb := a.turning, b.turning
		if k < densities && a.box.whole() != b.box.whole() || ta.Convex() != tb.Convex() {
			return false
		}
	}
	return true
}

// asCrowded reports whether all that was written has about as many points as the original.
func (j *judge) asCrowded(mine *forms) bool {
	for k := range j.seen {
		if rows := j.seen[k].rows; j.forms[k].crowded(rows) != mine[k].crowded(rows) {
			return false
		}
	}
	return true
}
