// Package pathdata reads the path data of SVG 2, twice over: as it is meant, and as browsers count it, in 32 bits. Text
// comes in; commands or an outline go out. What reads drawings and what writes them share it.
// https://www.w3.org/TR/SVG2/paths.html#PathData
package pathdata

import (
	"fmt"
	"strconv"

	"archetyp/core/css"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// Parse reads path data. As SVG says, what comes before a fault is still a path; the error tells of the fault.
// https://www.w3.org/TR/SVG2/paths.html#PathData
func Parse(d string) (*geom.Path, error) {
	path := &geom.Path{}
	err := Visit(d, func(c *Command) { c.Add(path) })
	return path, err
}

// Point is a point of path data: as it is meant, and as browsers count it, in 32 bits and from one point to the next.
type Point struct{ Meant, Counted geom.Point }

// At is a place that browsers count rounded.
func At(p geom.Point) Point { return Point{p, Round32(p)} }

// Round32 rounds a point to 32-bit numbers.
func Round32(p geom.Point) geom.Point {
	return geom.Point{X: float64(float32(p.X)), Y: float64(float32(p.Y))}
}

func (s Point) add(p Point) Point {
	return Point{s.Meant.Add(p.Meant), Round32(s.Counted.Add(p.Counted))}
}

// mirrored is the point as far on the other side of a middle.
func (s Point) mirrored(middle Point) Point {
	return Point{middle.Meant.Mul(2).Sub(s.Meant), Round32(middle.Counted.Mul(2).Sub(s.Counted))}
}

// Command is one command of path data, from the origin: M, L, Q, C, A or Z.
type Command struct {
	Letter       byte
	Points       [3]Point // the last one used is the end
	Ellipse               // of an arc
	Seen         Ellipse  // as browsers count it
	Large, Sweep bool
}

// Ellipse is the form of an ellipse: its radii, and the turn of the first in degrees.
type Ellipse struct{ RX, RY, Turn float64 }

// End is where the command leads; Z says where itself.
func (c *Command) End() Point {
	switch c.Letter {
	case 'Q':
		return c.Points[1]
	case 'C':
		return c.Points[2]
	}
	return c.Points[0]
}

// Add adds a command to a path.
func (c *Command) Add(p *geom.Path) {
	if e := c.End().Meant; c.Letter == 'A' {
		p.ArcTo(c.RX, c.RY, c.Turn, c.Large, c.Sweep, e.X, e.Y)
		return
	}
	c.AddPoints(p, c.Points[0].Meant, c.Points[1].Meant, c.End().Meant)
}

// AddPoints adds a command that is no arc to a path: a and b are its control points, where it has any, and e its end.
func (c *Command) AddPoints(p *geom.Path, a, b, e geom.Point) {
	switch c.Letter {
	case 'M':
		p.MoveTo(e.X, e.Y)
	case 'L':
		p.LineTo(e.X, e.Y)
	case 'Q':
		p.QuadTo(a.X, a.Y, e.X, e.Y)
	case 'C':
		p.CubicTo(a.X, a.Y, b.X, b.Y, e.X, e.Y)
	case 'Z':
		p.Close()
	}
}

// Visit visits the commands of path data. The command is only lent.
func Visit(d string, visit func(*Command)) error {
	p := &pathParser{s: d, visit: visit}
	return p.run()
}

type pathParser struct {
	s          string
	i          int
	visit      func(*Command)
	command    Command
	start, cur Point
	lastCtrl   Point
	lastKind   byte // 'C' or 'Q' where the command before was such a curve
	failed     error
	begun      bool
	closed     bool // the command before was Z: what is drawn next starts at its start
}

func (p *pathParser) space() {
	for p.i < len(p.s) {
		switch p.s[p.i] {
		case ' ', '\t', '\n', '\r', '\f', ',':
			p.i++
		default:
			return
		}
	}
}

func (p *pathParser) more() bool {
	p.space()
	if p.i >= len(p.s) {
		return false
	}
	c := p.s[p.i]
	return c >= '0' && c <= '9' || c == '-' || c == '+' || c == '.'
}

func (p *pathParser) num() float64 {
	p.space()
	n := css.NumberPrefix(p.s[p.i:])
	if n == 0 {
		if p.failed == nil {
			p.failed = fmt.Errorf("path data: a number is wanted at character %d", p.i+1)
		}
		return 0
	}
	v, err := strconv.ParseFloat(p.s[p.i:p.i+n], 64)
	if (err != nil || v > 1e9 || v < -1e9) && p.failed == nil {
		p.failed = fmt.Errorf("path data: the number at character %d is out of range", p.i+1)
	}
	p.i += n
	return v
}

// both is a number as it is meant, and as browsers read it.
func (p *pathParser) both() (meant, counted float64) {
	p.space()
	from := p.i
	meant = p.num()
	return meant, float64(Float32(p.s[from:p.i]))
}

// Float32 reads a number as browsers do those of path data: digit by digit in 32 bits, which is off by the last bit now
// and then.
func Float32[T string | []byte](s T) float32 {
	sign, i := float32(1), 0
	if i < len(s) && (s[i] == '-' || s[i] == '+') {
		if s[i] == '-' {
			sign = -1
		}
		i++
	}
	from := i
	for i < len(s) && s[i] >= '0' && s[i] <= '9' {
		i++
	}
	whole, times := float32(0), float32(1)
	for k := i - 1; k >= from; k-- {
		whole += float32(times * float32(s[k]-'0'))
		times *= 10
	}
	rest := float32(0)
	if i < len(s) && s[i] == '.' {
		part := float32(1)
		for i++; i < len(s) && s[i] >= '0' && s[i] <= '9'; i++ {
			part *= 0.1
			rest += float32(float32(s[i]-'0') * part)
		}
	}
	if i < len(s) { // an exponent
		v, _ := strconv.ParseFloat(string(s), 64)
		return float32(v)
	}
	return sign * (whole + rest)
}

func (p *pathParser) flag() bool {
	p.space()
	if p.i < len(p.s) && (p.s[p.i] == '0' || p.s[p.i] == '1') {
		p.i++
		return p.s[p.i-1] == '1'
	}
	if p.failed == nil {
		p.failed = fmt.Errorf("path data: an arc flag (0 or 1) is wanted at character %d", p.i+1)
	}
	return false
}

func (p *pathParser) point(rel bool) Point {
	x, x32 := p.both()
	y, y32 := p.both()
	pt := Point{geom.Point{X: x, Y: y}, geom.Point{X: x32, Y: y32}}
	if rel {
		return p.cur.add(pt)
	}
	return pt
}

func (p *pathParser) run() error {
	for {
		p.space()
		if p.i >= len(p.s) {
			return nil
		}
		c := p.s[p.i]
		if !p.begun && c != 'M' && c != 'm' {
			return fmt.Errorf("path data begins with %q, not with M", c)
		}
		if (c < 'A' || c > 'Z') && (c < 'a' || c > 'z') {
			return fmt.Errorf("path data: %q at character %d is no command", c, p.i+1)
		}
		p.i++
		if c == 'Z' || c == 'z' {
			p.cur, p.lastKind = p.start, 0
			if !p.closed {
				p.closed = true
				p.put('Z', p.start)
			}
			continue
		}
		for first := true; first || p.more(); first = false {
			cmd := c
			if !first && c == 'M' {
				cmd = 'L'
			} else if !first && c == 'm' {
				cmd = 'l'
			}
			if err := p.segment(cmd); err != nil {
				return err
			}
		}
	}
}

func (p *pathParser) segment(c byte) error {
	rel := c >= 'a'
	up := c &^ 0x20
	switch up {
	case 'M':
		q := p.point(rel)
		if p.failed == nil {
			p.start, p.begun, p.closed = q, true, false
			p.put('M', q)
		}
	case 'L':
		p.draw('L', p.point(rel))
	case 'H':
		q := p.cur
		x, x32 := p.both()
		if rel {
			q = p.cur.add(Point{geom.Point{X: x}, geom.Point{X: x32}})
		} else {
			q.Meant.X, q.Counted.X = x, x32
		}
		p.draw('L', q)
	case 'V':
		q := p.cur
		y, y32 := p.both()
		if rel {
			q = p.cur.add(Point{geom.Point{Y: y}, geom.Point{Y: y32}})
		} else {
			q.Meant.Y, q.Counted.Y = y, y32
		}
		p.draw('L', q)
	case 'C':
		p.draw('C', p.point(rel), p.point(rel), p.point(rel))
	case 'S':
		p.draw('C', p.mirror('C'), p.point(rel), p.point(rel))
	case 'Q':
		p.draw('Q', p.point(rel), p.point(rel))
	case 'T':
		p.draw('Q', p.mirror('Q'), p.point(rel))
	case 'A':
		c := &p.command
		c.RX, c.Seen.RX = p.both()
		c.RY, c.Seen.RY = p.both()
		c.Turn, c.Seen.Turn = p.both()
		p.command.Large, p.command.Sweep = p.flag(), p.flag()
		p.draw('A', p.point(rel))
	default:
		return fmt.Errorf("path data: %q at character %d is no command", c, p.i)
	}
	switch up {
	case 'C', 'S':
		p.lastKind = 'C'
	case 'Q', 'T':
		p.lastKind = 'Q'
	default:
		p.lastKind = 0
	}
	return p.failed
}

// draw visits a command that paints. Where a subpath was closed and none is begun, it starts where that one did.
func (p *pathParser) draw(letter byte, points ...Point) {
	if p.failed != nil {
		return
	}
	if p.closed {
		p.closed = false
		p.put('M', p.cur)
	}
	if n := len(points); n > 1 {
		p.lastCtrl = points[n-2]
	}
	p.put(letter, points...)
}

func (p *pathParser) put(letter byte, points ...Point) {
	p.command.Letter = letter
	copy(p.command.Points[:], points)
	p.cur = points[len(points)-1]
	p.visit(&p.command)
}

func (p *pathParser) mirror(kind byte) Point {
	if p.lastKind != kind {
		return p.cur
	}
	return p.lastCtrl.mirrored(p.cur)
}

// Numbers reads a list of numbers such as points or values.
func Numbers(s string) ([]float64, error) {
	p := &pathParser{s: s}
	var out []float64
	for p.more() {
		out = append(out, p.num())
		if p.failed != nil {
			return out, p.failed
		}
	}
	if p.i < len(s) {
		return out, fmt.Errorf("%q is not a list of numbers", markup.Clip(s))
	}
	return out, nil
}

// CountedNumbers reads a list of numbers as browsers do, in 32 bits, as far as it goes.
func CountedNumbers(s string) (out []float64) {
	for p := (&pathParser{s: s}); p.more() && p.failed == nil; {
		_, v := p.both()
		out = append(out, v)
	}
	return out
}
