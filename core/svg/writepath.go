package svg

import (
	"math"
	"strconv"
	"strings"

	"archetyp/core/geom"
)

// PathData writes an outline as short as it goes with so many decimals: from the last point or from the origin,
// whichever is shorter, with the commands for level, upright and smooth pieces, and arcs of ellipses as such.
// https://www.w3.org/TR/SVG2/paths.html#PathData
func PathData(p *geom.Path, digits int) string {
	return pathData(p, &pathWriter{digits: digits, unit: math.Pow10(digits)})
}

// SpacedPathData is PathData for readers that take the flags of an arc for one number where nothing is between them.
func SpacedPathData(p *geom.Path, digits int) string {
	return pathData(p, &pathWriter{digits: digits, unit: math.Pow10(digits), spaced: true})
}

func pathData(p *geom.Path, w *pathWriter) string {
	var arc *arc
	p.Each(func(s geom.Segment, first bool) {
		if s.Verb == geom.Conic && !first {
			if next, ok := arcOf(&s); ok && arc != nil && arc.join(next) {
				return
			}
		}
		w.arc(arc)
		arc = nil
		if first {
			w.move(s.P[0])
		}
		if s.Verb == geom.Conic {
			if next, ok := arcOf(&s); ok {
				arc = next
				return
			}
		}
		w.segment(&s)
	})
	w.arc(arc)
	return w.b.String()
}

// finest is the most decimals a path is written with.
const finest = 5

// enough is how many decimals a path needs for browsers to paint it as before at one to four pixels for each unit of
// length. Beyond three, more only matter where a corner comes to lie near the border between two of the places that
// it may be painted at: they put corners on quarters of rows.
func enough(p *geom.Path, from int) int {
	if len(p.Points) > 20_000 { // no icon, and slow to try
		return max(from, 4)
	}
	var exact [4][]geom.Polyline
	for k := range exact {
		exact[k] = p.FlattenForPaint(geom.Scale(float64(k+1), float64(k+1)))
	}
	for digits := from; digits < finest; digits++ {
		rounded := p.Rounded(digits)
		same := sameGrid(p, rounded)
		for k := range exact {
			if !same {
				break
			}
			if same = geom.Near(exact[k], rounded.FlattenForPaint(geom.Scale(float64(k+1), float64(k+1))), 0.005); !same {
				break
			}
		}
		if same {
			return digits
		}
	}
	return finest
}

// sameGrid says that the points that bend a path fall on the same 64ths of a pixel, which browsers round them to.
func sameGrid(p, q *geom.Path) bool {
	for i, a := range p.Points {
		b := q.Points[i]
		if a == b {
			continue
		}
		for k := 64.0; k <= 256; k += 64 {
			if math.Floor(a.X*k+0.5) != math.Floor(b.X*k+0.5) || math.Floor(a.Y*k+0.5) != math.Floor(b.Y*k+0.5) {
				return false
			}
		}
	}
	return true
}

// pathWriter keeps whole numbers of the last decimal, so that relative coordinates never add up to an error.
type pathWriter struct {
	b      strings.Builder
	digits int
	unit   float64
	x, y   int64 // where the pen is
	sx, sy int64 // where the subpath began
	cx, cy int64 // the last control point, mirrored
	smooth byte  // the curve that may follow smoothly: c, q or 0
	last   byte  // the command in force
	dot    bool  // the last number had decimals
	spaced bool  // flags stand apart
}

func (w *pathWriter) whole(v float64) int64 { return int64(math.Round(v * w.unit)) }

func (w *pathWriter) move(p geom.Point) {
	x, y := w.whole(p.X), w.whole(p.Y)
	if w.last == 0 {
		w.put('M', x, y)
	} else {
		w.either('m', []int64{x - w.x, y - w.y}, []int64{x, y})
	}
	w.x, w.y, w.sx, w.sy, w.smooth = x, y, x, y, 0
}

func (w *pathWriter) segment(s *geom.Segment) {
	pt := func(i int) (int64, int64) { return w.whole(s.P[i].X), w.whole(s.P[i].Y) }
	switch s.Verb {
	case geom.Close:
		w.put('z')
		w.x, w.y, w.smooth = w.sx, w.sy, 0
		return
	case geom.Line:
		x, y := pt(1)
		switch {
		case x == w.x && y == w.y && w.last != 'M' && w.last != 'm': // adds nothing to what is there
			return
		case y == w.y:
			w.either('h', []int64{x - w.x}, []int64{x})
		case x == w.x:
			w.either('v', []int64{y - w.y}, []int64{y})
		default:
			w.either('l', []int64{x - w.x, y - w.y}, []int64{x, y})
		}
		w.x, w.y, w.smooth = x, y, 0
	case geom.Quad:
		x1, y1 := pt(1)
		x, y := pt(2)
		if w.smooth == 'q' && x1 == w.cx && y1 == w.cy {
			w.either('t', []int64{x - w.x, y - w.y}, []int64{x, y})
		} else {
			w.either('q', []int64{x1 - w.x, y1 - w.y, x - w.x, y - w.y}, []int64{x1, y1, x, y})
		}
		w.cx, w.cy, w.smooth = 2*x-x1, 2*y-y1, 'q'
		w.x, w.y = x, y
	default:
		k := s.Cubic()
		x1, y1, x2, y2, x, y := w.whole(k[1].X), w.whole(k[1].Y), w.whole(k[2].X), w.whole(k[2].Y), w.whole(k[3].X), w.whole(k[3].Y)
		mx, my := w.x, w.y
		if w.smooth == 'c' {
			mx, my = w.cx, w.cy
		}
		if x1 == mx && y1 == my {
			w.either('s', []int64{x2 - w.x, y2 - w.y, x - w.x, y - w.y}, []int64{x2, y2, x, y})
		} else {
			w.either('c', []int64{x1 - w.x, y1 - w.y, x2 - w.x, y2 - w.y, x - w.x, y - w.y}, []int64{x1, y1, x2, y2, x, y})
		}
		w.cx, w.cy, w.smooth = 2*x-x2, 2*y-y2, 'c'
		w.x, w.y = x, y
	}
}

// arc writes a piece of an ellipse.
func (w *pathWriter) arc(a *arc) {
	if a == nil {
		return
	}
	x, y := w.whole(a.end.X), w.whole(a.end.Y)
	if x == w.x && y == w.y {
		return
	}
	flag := func(b bool) int64 {
		if b {
			return 1
		}
		return 0
	}
	rx, ry, turn := w.whole(a.rx), w.whole(a.ry), w.whole(a.turn)
	if a.half() { // a radius too small for its chord grows to half of it: exactly what is wanted
		rx = int64(math.Hypot(float64(x-w.x), float64(y-w.y)) / 2)
		ry = rx
	}
	large, sweep := flag(math.Abs(a.sweep) > math.Pi), flag(a.sweep > 0)
	rel := w.text('a', []int64{rx, ry, turn, x - w.x, y - w.y}, large, sweep)
	abs := w.text('A', []int64{rx, ry, turn, x, y}, large, sweep)
	if len(abs.s) < len(rel.s) {
		rel = abs
	}
	w.take(rel)
	w.x, w.y, w.smooth = x, y, 0
}

// either writes the shorter of a relative and an absolute command.
func (w *pathWriter) either(rel byte, r, a []int64) {
	x, y := w.text(rel, r), w.text(rel-'a'+'A', a)
	if len(y.s) < len(x.s) {
		x = y
	}
	w.take(x)
}

func (w *pathWriter) put(command byte, v ...int64) { w.take(w.text(command, v)) }

// piece is a command as it would be written next.
type piece struct {
	s       string
	command byte
	dot     bool
}

func (w *pathWriter) take(p piece) {
	w.b.WriteString(p.s)
	w.last, w.dot = p.command, p.dot
}

// text is a command with its numbers; flags stand behind the third number, as arcs want them. The letter is left out
// where the command is the one in force, and separators where a number cannot be mistaken.
func (w *pathWriter) text(command byte, v []int64, flags ...int64) piece {
	p := piece{command: command, dot: w.dot}
	repeat := command == w.last && command != 'z' && command != 'M' && command != 'm' ||
		command == 'l' && w.last == 'm' || command == 'L' && w.last == 'M'
	fresh := !repeat // nothing before that a number could run into
	var b []byte
	if !repeat {
		b = append(b, command)
	}
	number := func(n int64) {
		at := len(b)
		b = appendDecimal(b, n, w.digits)
		c := b[at]
		if !fresh && c != '-' && !(c == '.' && p.dot) {
			b = append(b, 0)
			copy(b[at+1:], b[at:])
			b[at] = ' '
		}
		p.dot = false
		for _, x := range b[at:] {
			p.dot = p.dot || x == '.'
		}
		fresh = false
	}
	for i, n := range v {
		if i == 3 && flags != nil {
			for _, f := range flags {
				if !fresh {
					b = append(b, ' ')
				}
				b = append(b, byte('0'+f))
				fresh = !w.spaced // a flag is one digit: what follows needs no space
			}
			p.dot = false
		}
		number(n)
	}
	p.s = string(b)
	return p
}

// appendDecimal writes a whole number of the last decimal without zeros that say nothing.
func appendDecimal(b []byte, n int64, digits int) []byte {
	if n < 0 {
		b = append(b, '-')
		n = -n
	}
	unit := int64(math.Pow10(digits))
	whole, rest := n/unit, n%unit
	if whole != 0 || rest == 0 {
		b = strconv.AppendInt(b, whole, 10)
	}
	if rest == 0 {
		return b
	}
	b = append(b, '.')
	for unit /= 10; rest > 0; unit /= 10 {
		b = append(b, byte('0'+rest/unit))
		rest %= unit
	}
	return b
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
	if a.centre.Sub(b.centre).Len() > tol || math.Abs(a.rx-b.rx) > tol || math.Abs(a.ry-b.ry) > tol || math.Abs(a.turn-b.turn) > 1e-4 ||
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

// half says that this is half of a circle.
func (a *arc) half() bool { return a.rx == a.ry && math.Abs(math.Abs(a.sweep)-math.Pi) < 1e-6 }
