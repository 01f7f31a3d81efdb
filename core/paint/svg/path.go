package svg

import (
	"math"
	"slices"
	"strconv"

	"archetyp/core/geom"
	"archetyp/core/geom/pathdata"
)

// PathData writes an outline as short as it goes with so many decimals: from the last point or from the origin,
// whichever is shorter, with the commands for level, upright and smooth pieces, and arcs of ellipses as such. The flags
// of an arc stand apart, as some readers take them for one number.
// https://www.w3.org/TR/SVG2/paths.html#PathData
func PathData(p *geom.Path, digits int) string {
	w := &pathWriter{least: digits, most: digits, m: geom.Identity, spare: true, spaced: true}
	return w.write(commandsOf(p))
}

// finest is the most decimals a number is written with.
const finest = 7

// ten are the powers of ten, in units of the finest decimal: of a number with so many decimals the last.
var ten = [finest + 1]int64{1e7, 1e6, 1e5, 1e4, 1e3, 1e2, 1e1, 1}

// pathWriter keeps whole numbers of the finest decimal, so that relative coordinates never add up to an error. Each
// command gets the fewest decimals, of least to most, with which the judge finds that it paints the same.
type pathWriter struct {
	b           []byte
	m           geom.Matrix // from the commands' space to where they are written
	least, most int
	judge       *judge
	spare       bool  // lines that paint nothing, or lead back to the start, are left out
	forms       forms // of what was written
	missed      int   // commands that the judge found no number of decimals for
	spaced      bool  // flags stand apart
	pen         pen
	from        pathdata.Point // where the pen is meant to be, as browsers count the original
	start       pen            // where the subpath began
	startFrom   pathdata.Point
	control     [2]int64 // the last control point
	controlSeen geom.Point
	smooth      byte // the curve that may follow smoothly: C, Q or 0
	last        byte // the command in force
	dot         bool // the last number had decimals
}

// pen is a point that is written, and where browsers take it to be.
type pen struct {
	x, y int64
	seen geom.Point
}

// write writes commands. Where the start of a curve has too few decimals for the curve to come out the same, what leads
// there is written again with more.
func (w *pathWriter) write(list []pathdata.Command) string {
	before, digits := *w, 0 // the command before, to write it again
	var last *pathdata.Command
	for i := range list {
		c := &list[i]
		if w.spare && w.closes(list[i:]) {
			continue
		}
		here := *w
		missed := w.missed
		n, ok := w.command(c, w.least)
		for more := digits + 1; !ok && last != nil && more <= w.most; more++ {
			*w = before
			_, kept := w.command(last, more)
			here = *w
			n, ok = w.command(c, w.least)
			ok = ok && kept
		}
		if !ok {
			w.missed = missed + 1
			here.missed = w.missed
		}
		before, last, digits = here, c, n
	}
	return string(w.b)
}

// closes reports whether the next of the commands is a line back to where Z leads anyway.
func (w *pathWriter) closes(list []pathdata.Command) bool {
	return len(list) > 1 && list[0].Letter == 'L' && list[1].Letter == 'Z' && list[0].End() == w.startFrom
}

// command writes a command with the fewest decimals, from least on, that the judge is content with, and says how many
// those are.
func (w *pathWriter) command(c *pathdata.Command, least int) (digits int, ok bool) {
	switch c.Letter {
	case 'Z':
		w.note(drawn{command: c})
		w.take(&draft{piece: w.text('z', nil), end: w.start})
		w.from, w.smooth = w.startFrom, 0
		return w.most, true
	case 'L':
		if e := c.End(); w.spare && (e == w.from || w.judge == nil && w.nears(w.m.Apply(e.Meant))) && w.last != 'M' &&
			w.last != 'm' {
			return w.most, true // adds nothing to what is there
		}
	}
	var best *draft
	for digits = least; digits <= w.most; digits++ {
		list := w.drafts(c, digits)
		slices.SortStableFunc(list, func(a, b *draft) int { return len(a.s) - len(b.s) })
		for _, d := range list {
			if w.judge == nil || w.judge.same(w, c, d) {
				w.accept(c, d)
				return digits, true
			}
		}
		best = list[0]
	}
	w.accept(c, best)
	return w.most, false
}

// nears reports whether a point is written as the one where the pen is.
func (w *pathWriter) nears(p geom.Point) bool {
	unit := float64(ten[w.most]) / 2
	return math.Abs(p.X*1e7-float64(w.pen.x)) < unit && math.Abs(p.Y*1e7-float64(w.pen.y)) < unit
}

// note takes what is written into account.
func (w *pathWriter) note(d drawn) {
	if w.judge == nil {
		return
	}
	for k := range w.judge.seen {
		w.forms[k].command(d, &w.judge.seen[k].to)
	}
	w.forms[densities].command(d, &asDrawn)
}

// accept writes a draft of a command.
func (w *pathWriter) accept(c *pathdata.Command, d *draft) {
	w.note(w.drawn(c, d))
	w.take(d)
	w.from = c.End()
	switch c.Letter {
	case 'M':
		w.start, w.startFrom = d.end, w.from
		w.smooth = 0
	case 'Q', 'C':
		w.control, w.controlSeen, w.smooth = d.control, d.points[len(d.points)-2], c.Letter
	default:
		w.smooth = 0
	}
}

func (w *pathWriter) take(d *draft) {
	w.b = append(w.b, d.s...)
	w.last, w.dot = d.command, d.dot
	w.pen = d.end
}

// draft is a way to write a command.
type draft struct {
	piece
	end     pen
	control [2]int64          // the last control point
	points  []geom.Point      // of the command, as browsers count them
	arc     *pathdata.Command // an arc as written
}

// drawn is a draft of a command as browsers count it.
func (w *pathWriter) drawn(c *pathdata.Command, d *draft) drawn {
	out := drawn{command: c, from: w.pen.seen}
	if d.arc != nil {
		out.command = d.arc
	}
	copy(out.points[:], d.points)
	return out
}

// way is how the numbers of a command are meant.
type way struct {
	lower byte // what makes its letter
	aim   func(pathdata.Point) geom.Point
	place func(pathdata.Point) ([2]int64, pen)
}

// drafts are the ways to write a command with so many decimals.
func (w *pathWriter) drafts(c *pathdata.Command, digits int) []*draft {
	unit := ten[digits]
	round := func(v int64) int64 { return roundTo(v, unit) }
	meant := func(s pathdata.Point) geom.Point { return w.m.Apply(s.Meant) }
	counted := func(s pathdata.Point) geom.Point { return w.m.Apply(s.Counted) }
	aim := meant
	relative := func(s pathdata.Point) (v [2]int64, at pen) {
		p := aim(s)
		v = [2]int64{round(whole(p.X) - w.pen.x), round(whole(p.Y) - w.pen.y)}
		return v, pen{w.pen.x + v[0], w.pen.y + v[1], pathdata.Round32(w.pen.seen.Add(point32(v)))}
	}
	absolute := func(s pathdata.Point) (v [2]int64, at pen) {
		p := aim(s)
		v = [2]int64{round(whole(p.X)), round(whole(p.Y))}
		return v, pen{v[0], v[1], point32(v)}
	}
	var out []*draft
	ways := []way{{'a' - 'A', meant, relative}, {0, meant, absolute}}
	if w.last == 0 { // nothing to be relative to
		ways = ways[1:]
	}
	if digits == finest && w.judge != nil { // sums of relative numbers may have strayed by a last bit
		for _, same := range slices.Clone(ways) {
			ways = append(ways, way{same.lower, counted, same.place})
		}
	}
	for _, way := range ways {
		aim = way.aim
		out = append(out, w.draft(c, way, unit)...)
	}
	for _, d := range out {
		d.points = append(d.points, d.end.seen)
	}
	return out
}

// whole counts in 10⁻⁷.
func whole(v float64) int64 { return int64(math.Round(v * 1e7)) }

// roundTo rounds to a multiple of a unit, halves away from zero.
func roundTo(v, unit int64) int64 {
	if v < 0 {
		return -((-v + unit/2) / unit * unit)
	}
	return (v + unit/2) / unit * unit
}

// draft are the forms of a command in one way of writing it.
func (w *pathWriter) draft(c *pathdata.Command, way way, unit int64) (out []*draft) {
	place, letter := way.place, func(c byte) byte { return c + way.lower }
	v, end := place(c.End())
	switch c.Letter {
	case 'M':
		out = append(out, &draft{piece: w.text(letter('M'), v[:]), end: end})
	case 'L':
		level, upright := end, end
		level.y, level.seen.Y = w.pen.y, w.pen.seen.Y
		upright.x, upright.seen.X = w.pen.x, w.pen.seen.X
		if w.judge == nil && end.y == w.pen.y || w.judge != nil && abs(end.y-w.pen.y) <= unit {
			out = append(out, &draft{piece: w.text(letter('H'), v[:1]), end: level})
		}
		if w.judge == nil && end.x == w.pen.x || w.judge != nil && abs(end.x-w.pen.x) <= unit {
			out = append(out, &draft{piece: w.text(letter('V'), v[1:]), end: upright})
		}
		out = append(out, &draft{piece: w.text(letter('L'), v[:]), end: end})
	case 'Q':
		v1, p1 := place(c.Points[0])
		if near, mirror := w.mirror('Q', p1, unit); near {
			out = append(out, &draft{piece: w.text(letter('T'), v[:]), end: end, control: [2]int64{mirror.x, mirror.y},
				points: []geom.Point{mirror.seen}})
		}
		out = append(out, &draft{piece: w.text(letter('Q'), append(v1[:], v[:]...)), end: end, control: [2]int64{p1.x, p1.y},
			points: []geom.Point{p1.seen}})
	case 'C':
		v1, p1 := place(c.Points[0])
		v2, p2 := place(c.Points[1])
		control, rest := [2]int64{p2.x, p2.y}, append(v2[:], v[:]...)
		if near, mirror := w.mirror('C', p1, unit); near {
			out = append(out, &draft{piece: w.text(letter('S'), rest), end: end, control: control,
				points: []geom.Point{mirror.seen, p2.seen}})
		}
		out = append(out, &draft{piece: w.text(letter('C'), append(v1[:], rest...)), end: end, control: control,
			points: []geom.Point{p1.seen, p2.seen}})
	case 'A':
		a, _ := under(c, w.m)
		out = append(out, w.arc(&a, letter('A'), roundTo(whole(a.RX), unit), roundTo(whole(a.RY), unit),
			roundTo(whole(a.Turn), unit), v, end))
		if low := whole(a.RX) / unit * unit; a.RX == a.RY && low > 0 { // for half circles: radii that are too small grow
			out = append(out, w.arc(&a, letter('A'), low, low, 0, v, end))
		}
	}
	return out
}

func (w *pathWriter) arc(c *pathdata.Command, letter byte, rx, ry, turn int64, v [2]int64, end pen) *draft {
	flag := func(on bool) int64 {
		if on {
			return 1
		}
		return 0
	}
	written := &pathdata.Command{Letter: 'A', Seen: pathdata.Ellipse{RX: value(rx), RY: value(ry), Turn: value(turn)},
		Large: c.Large, Sweep: c.Sweep}
	return &draft{piece: w.text(letter, []int64{rx, ry, turn, v[0], v[1]}, flag(c.Large), flag(c.Sweep)), end: end,
		arc: written}
}

// mirror is the control point that a smooth curve takes over, and whether that will do for the one that is wanted.
func (w *pathWriter) mirror(letter byte, want pen, unit int64) (near bool, p pen) {
	p = w.pen
	if w.smooth == letter {
		p = pen{2*w.pen.x - w.control[0], 2*w.pen.y - w.control[1], pathdata.Round32(w.pen.seen.Mul(2).Sub(w.controlSeen))}
	} else if letter == 'Q' {
		return false, p
	}
	if w.judge == nil {
		unit = 0
	}
	return abs(p.x-want.x) <= unit && abs(p.y-want.y) <= unit, p
}

func abs(v int64) int64 { return max(v, -v) }

// value is the number that a whole number of the finest decimal stands for, as browsers read it.
func value(v int64) float64 {
	var b [24]byte
	return float64(pathdata.Float32(appendDecimal(b[:0], v)))
}

func point32(v [2]int64) geom.Point { return geom.Point{X: value(v[0]), Y: value(v[1])} }

// piece is a command as it would be written next.
type piece struct {
	s       []byte
	command byte
	dot     bool
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
		b = appendDecimal(b, n)
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
	p.s = b
	return p
}

// appendDecimal writes a whole number of the finest decimal without zeros that say nothing.
func appendDecimal(b []byte, n int64) []byte {
	if n < 0 {
		b = append(b, '-')
		n = -n
	}
	unit := ten[0]
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
