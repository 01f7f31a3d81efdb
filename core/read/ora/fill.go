package ora

import (
	"image"
	"math"
	"slices"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// within is how many 255ths a pixel may be from the fill it is taken for, on each channel.
const within = 3

// fillOf finds the fill of the solid pixels of a box: one colour, or a linear gradient, with its error in 255ths.
func fillOf(px *image.NRGBA, box image.Rectangle, most uint8) (design.Paint, float64, bool) {
	in := box.Inset(1)
	if in.Dx() < 2 || in.Dy() < 2 {
		in = box
	}
	points := interior(px, in, most)
	if len(points) < 4 {
		return design.Paint{}, 0, false
	}
	mid := median(points)
	off := 0.0
	strays := 0
	for _, p := range points {
		d := p.from(mid)
		if d > within {
			strays++
			continue
		}
		off = math.Max(off, d)
	}
	if strays*500 <= len(points) { // a speck does not make a picture
		return solidPaint([4]float64{mid[0], mid[1], mid[2], float64(most)}), off, true
	}
	if most < 255 {
		return design.Paint{}, 0, false
	}
	return linear(points)
}

// point is a pixel: where its centre is, and its colour in 255ths.
type point struct {
	x, y float64
	c    [3]float64
}

func (p *point) from(c [3]float64) float64 {
	return math.Max(math.Abs(p.c[0]-c[0]), math.Max(math.Abs(p.c[1]-c[1]), math.Abs(p.c[2]-c[2])))
}

const mostPoints = 60_000

// interior samples the solid pixels of a box evenly, at most so many.
func interior(px *image.NRGBA, box image.Rectangle, most uint8) []point {
	step := 1
	for box.Dx()*box.Dy()/(step*step) > mostPoints {
		step++
	}
	var out []point
	for y := box.Min.Y; y < box.Max.Y; y += step {
		for x := box.Min.X + (y/step)%step; x < box.Max.X; x += step {
			p := px.Pix[px.PixOffset(x, y):][:4]
			if int(p[3])+1 >= int(most) {
				out = append(out, point{float64(x) + 0.5, float64(y) + 0.5, [3]float64{float64(p[0]), float64(p[1]),
					float64(p[2])}})
			}
		}
	}
	return out
}

func median(points []point) (c [3]float64) {
	v := make([]float64, len(points))
	for i := range c {
		for k := range points {
			v[k] = points[k].c[i]
		}
		slices.Sort(v)
		c[i] = v[len(v)/2]
	}
	return c
}

// linear finds the direction along which colours change and nothing changes across, and the stops along it.
func linear(points []point) (design.Paint, float64, bool) {
	angle := direction(points)
	best, least := angle, spreadAlong(points, angle)
	for step := 8.0; step > 0.01; step /= 2 { // degrees
		for _, a := range []float64{best - step, best + step} {
			if s := spreadAlong(points, a); s < least {
				best, least = a, s
			}
		}
	}
	for _, right := range []float64{0, 45, 90, 135, 180} { // what is drawn upright is upright
		if math.Abs(best-right) < 0.5 && spreadAlong(points, right) <= least*1.02+0.02 {
			best = math.Mod(right, 180)
		}
	}
	p := profileOf(points, best)
	if p == nil || p.spread > 1.2 {
		return design.Paint{}, 0, false
	}
	knots := p.knots()
	if len(knots) < 2 || len(knots) > 10 {
		return design.Paint{}, 0, false
	}
	g := &design.Gradient{Matrix: geom.Identity, Spread: "pad"}
	n := normal(best)
	if n.X < -1e-9 { // counted from left to right
		n = n.Mul(-1)
		slices.Reverse(knots)
		for i := range knots {
			knots[i].at = -knots[i].at
		}
	}
	g.P0, g.P1 = n.Mul(knots[0].at), n.Mul(knots[len(knots)-1].at)
	length := knots[len(knots)-1].at - knots[0].at
	for _, k := range knots {
		g.Stops = append(g.Stops, design.Stop{Offset: (k.at - knots[0].at) / length,
			Color: paletteColor([4]float64{k.c[0], k.c[1], k.c[2], 255})})
	}
	worst, strays := 0.0, 0
	for i := range points {
		d := points[i].from(knotColor(knots, points[i].x*n.X+points[i].y*n.Y))
		if d > within {
			strays++
			continue
		}
		worst = math.Max(worst, d)
	}
	if strays*200 > len(points) {
		return design.Paint{}, 0, false
	}
	return design.Paint{Kind: design.Linear, Gradient: g, Opacity: 1}, math.Min(worst, p.spread+1), true
}

// normal is the unit vector of an angle in degrees from the x axis, clockwise.
func normal(deg float64) geom.Point {
	s, c := math.Sincos(deg * math.Pi / 180)
	return geom.Point{X: c, Y: s}
}

// direction is the angle (0–180°) that colours change along most, by least squares planes.
func direction(points []point) float64 {
	var mx, my float64
	var mc [3]float64
	for _, p := range points {
		mx, my = mx+p.x, my+p.y
		for i := range mc {
			mc[i] += p.c[i]
		}
	}
	n := float64(len(points))
	mx, my = mx/n, my/n
	var xx, xy, yy float64
	var cx, cy [3]float64
	for _, p := range points {
		dx, dy := p.x-mx, p.y-my
		xx, xy, yy = xx+dx*dx, xy+dx*dy, yy+dy*dy
		for i := range mc {
			d := p.c[i] - mc[i]/n
			cx[i], cy[i] = cx[i]+dx*d, cy[i]+dy*d
		}
	}
	det := xx*yy - xy*xy
	if det == 0 {
		return 0
	}
	var a, b, c float64 // structure of the slopes
	for i := range cx {
		gx, gy := (cx[i]*yy-cy[i]*xy)/det, (cy[i]*xx-cx[i]*xy)/det
		a, b, c = a+gx*gx, b+gx*gy, c+gy*gy
	}
	deg := math.Atan2(2*b, a-c) / 2 * 180 / math.Pi
	if deg < 0 {
		deg += 180
	}
	return deg
}

// spreadAlong is the mean distance of colours from those of the same place along a direction.
func spreadAlong(points []point, deg float64) float64 {
	if p := profileOf(points, deg); p != nil {
		return p.spread
	}
	return math.Inf(1)
}

// profile is the mean colour of each px along a direction.
type profile struct {
	from   float64 // place of the first bin's start
	bins   []bin
	spread float64 // root mean square distance of the colours from their bin's
}

type bin struct {
	n  float64
	at float64 // mean place of its pixels
	c  [3]float64
}

func profileOf(points []point, deg float64) *profile {
	n := normal(deg)
	least, most := math.Inf(1), math.Inf(-1)
	for i := range points {
		t := points[i].x*n.X + points[i].y*n.Y
		least, most = math.Min(least, t), math.Max(most, t)
	}
	count := int(most-least) + 1
	if count < 4 || count > 1<<17 {
		return nil
	}
	p := &profile{from: least, bins: make([]bin, count)}
	squares := make([]float64, count)
	for i := range points {
		t := points[i].x*n.X + points[i].y*n.Y
		k := min(int(t-least), count-1)
		b := &p.bins[k]
		b.n++
		b.at += t
		for j, v := range points[i].c {
			b.c[j] += v
			squares[k] += v * v
		}
	}
	total, sum := 0.0, 0.0
	for k := range p.bins {
		b := &p.bins[k]
		if b.n == 0 {
			continue
		}
		sum += squares[k]
		b.at /= b.n
		for j := range b.c {
			b.c[j] /= b.n
			sum -= b.n * b.c[j] * b.c[j]
		}
		total += b.n
	}
	p.spread = math.Sqrt(math.Max(0, sum) / total / 3)
	return p
}

// knot is a place along a profile where the slope of the colour changes, or an end.
type knot struct {
	at float64
	c  [3]float64
}

// knots cuts a profile into straight pieces: it is halved at the bin furthest from a straight line until none is far,
// each piece is fitted, and pieces end where neighbours meet.
func (p *profile) knots() []knot {
	var bins []bin
	for _, b := range p.bins {
		if b.n > 0 {
			bins = append(bins, b)
		}
	}
	if len(bins) < 4 {
		return nil
	}
	cuts := []int{0, len(bins) - 1}
	for len(cuts) <= 12 {
		far, at := 1.0, -1 // 255ths
		for i := 1; i < len(cuts); i++ {
			a, b := cuts[i-1], cuts[i]
			l := fitLine(bins[a : b+1])
			ends := lineThrough(bins[a], bins[b])
			for k := a + 1; k < b; k++ {
				if d := math.Min(l.off(bins[k])*2, ends.off(bins[k])); d > far && k-a >= 2 && b-k >= 2 {
					far, at = d, k
				}
			}
		}
		if at < 0 {
			break
		}
		cuts = append(cuts, at)
		slices.Sort(cuts)
	}
	if len(cuts) > 12 {
		return nil
	}
	lines := make([]line, len(cuts)-1)
	for i := range lines {
		a, b := cuts[i], cuts[i+1]
		if b-a > 6 { // the bins at a bend belong to both sides
			a, b = a+1, b-1
		}
		lines[i] = fitLine(bins[a : b+1])
	}
	out := []knot{lines[0].knot(bins[0].at - 0.5)}
	for i := 1; i < len(lines); i++ {
		at := bins[cuts[i]].at
		if m, ok := meeting(lines[i-1], lines[i]); ok && math.Abs(m-at) < 6 {
			at = m
		}
		out = append(out, lines[i].knot(at))
	}
	return simpler(append(out, lines[len(lines)-1].knot(bins[len(bins)-1].at+0.5)), bins)
}

// simpler leaves out knots that make no difference to see, and makes one of two where the pieces around them meet.
func simpler(knots []knot, bins []bin) []knot {
	for len(knots) > 2 {
		var best []knot
		least := 0.9 // 255ths
		try := func(rest []knot) {
			if off := strays(rest, bins); off < least {
				best, least = rest, off
			}
		}
		for i := 1; i < len(knots)-1; i++ {
			try(slices.Concat(knots[:i], knots[i+1:]))
			if i+2 >= len(knots) {
				continue
			}
			before, after := between(bins, knots[i-1].at, knots[i].at), between(bins, knots[i+1].at, knots[i+2].at)
			if len(before) < 3 || len(after) < 3 {
				continue
			}
			a, b := fitLine(before), fitLine(after)
			if at, ok := meeting(a, b); ok && at > knots[i-1].at && at < knots[i+2].at {
				try(slices.Concat(knots[:i], []knot{a.knot(at)}, knots[i+2:]))
			}
		}
		if best == nil {
			break
		}
		knots = best
	}
	return knots
}

func between(bins []bin, from, to float64) []bin {
	var out []bin
	for _, b := range bins {
		if b.at >= from && b.at <= to {
			out = append(out, b)
		}
	}
	return out
}

// strays is how far, in 255ths, a bin is from the colour knots give it, at most.
func strays(knots []knot, bins []bin) float64 {
	off := 0.0
	for _, b := range bins {
		p := point{c: b.c}
		off = math.Max(off, p.from(knotColor(knots, b.at)))
	}
	return off
}

// line is a colour that changes evenly with the place: c + k·(t−at).
type line struct {
	at   float64
	c, k [3]float64
}

func fitLine(bins []bin) line {
	var n, mt float64
	var l line
	for _, b := range bins {
		n, mt = n+b.n, mt+b.n*b.at
		for i := range l.c {
			l.c[i] += b.n * b.c[i]
		}
	}
	l.at = mt / n
	var tt float64
	for i := range l.c {
		l.c[i] /= n
	}
	for _, b := range bins {
		d := b.at - l.at
		tt += b.n * d * d
		for i := range l.k {
			l.k[i] += b.n * d * (b.c[i] - l.c[i])
		}
	}
	for i := range l.k {
		if tt > 0 {
			l.k[i] /= tt
		}
	}
	return l
}

func lineThrough(a, b bin) line {
	l := line{at: a.at, c: a.c}
	for i := range l.k {
		l.k[i] = (b.c[i] - a.c[i]) / math.Max(1e-9, b.at-a.at)
	}
	return l
}

func (l line) knot(t float64) knot {
	k := knot{at: t}
	for i := range k.c {
		k.c[i] = l.c[i] + l.k[i]*(t-l.at)
	}
	return k
}

func (l line) off(b bin) float64 {
	c := l.knot(b.at).c
	return math.Max(math.Abs(c[0]-b.c[0]), math.Max(math.Abs(c[1]-b.c[1]), math.Abs(c[2]-b.c[2])))
}

// meeting is where two lines have the same colour, by least squares over the channels.
func meeting(a, b line) (float64, bool) {
	num, den := 0.0, 0.0
	for i := range a.k {
		dk := a.k[i] - b.k[i]
		num += dk * ((b.c[i] - b.k[i]*b.at) - (a.c[i] - a.k[i]*a.at))
		den += dk * dk
	}
	return num / den, den > 1e-6
}

func knotColor(knots []knot, t float64) [3]float64 {
	i := 1
	for i < len(knots)-1 && knots[i].at < t {
		i++
	}
	a, b := knots[i-1], knots[i]
	k := (t - a.at) / math.Max(1e-9, b.at-a.at)
	var c [3]float64
	for j := range c {
		c[j] = a.c[j] + (b.c[j]-a.c[j])*k
	}
	return c
}

// spanGradient moves the ends of a gradient to the corners of its box where they were only cut off by it, so that its
// line is the one CSS has for the box.
func spanGradient(g *design.Gradient, box geom.Rect) {
	d := g.P1.Sub(g.P0)
	n := d.Mul(1 / d.Len())
	c := box.Centre()
	half := (math.Abs(box.W*n.X) + math.Abs(box.H*n.Y)) / 2
	mid := c.X*n.X + c.Y*n.Y
	from, to := g.P0.X*n.X+g.P0.Y*n.Y, g.P1.X*n.X+g.P1.Y*n.Y
	length := to - from
	at := func(s design.Stop) float64 { return from + s.Offset*length }
	last := len(g.Stops) - 1
	places := make([]float64, len(g.Stops))
	for i, s := range g.Stops {
		places[i] = at(s)
	}
	stretch := func(end, next int, to float64) { // along the piece's own slope
		k := (to - places[end]) / (places[end] - places[next])
		a, b := g.Stops[end].Color, g.Stops[next].Color
		for i := range a.C {
			a.C[i] = math.Min(1, math.Max(0, math.Round((a.C[i]+(a.C[i]-b.C[i])*k)*255)/255))
		}
		g.Stops[end].Color, places[end] = a, to
	}
	stretch(0, 1, mid-half)
	stretch(last, last-1, mid+half)
	g.P0, g.P1 = c.Sub(n.Mul(half)), c.Add(n.Mul(half))
	for i := range g.Stops {
		g.Stops[i].Offset = (places[i] - (mid - half)) / (2 * half)
	}
}
