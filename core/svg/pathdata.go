package svg

import (
	"fmt"
	"strconv"

	"archetyp/core/css"
	"archetyp/core/geom"
)

// ParsePath reads path data. As SVG says, what comes before a fault is still a path; the error tells of the fault.
// https://www.w3.org/TR/SVG2/paths.html#PathData
func ParsePath(d string) (*geom.Path, error) {
	p := &pathParser{s: d, path: &geom.Path{}}
	err := p.run()
	return p.path, err
}

type pathParser struct {
	s         string
	i         int
	path      *geom.Path
	start     geom.Point
	cur       geom.Point
	lastCtrl  geom.Point
	lastKind  byte // 'C' or 'Q' where the command before was such a curve
	failed    error
	openAgain bool // the subpath was closed: the next line starts at its start
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

func (p *pathParser) point(rel bool) geom.Point {
	pt := geom.Point{X: p.num(), Y: p.num()}
	if rel {
		pt = pt.Add(p.cur)
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
		if p.path.Empty() && c != 'M' && c != 'm' {
			return fmt.Errorf("path data begins with %q, not with M", c)
		}
		if (c < 'A' || c > 'Z') && (c < 'a' || c > 'z') {
			return fmt.Errorf("path data: %q at character %d is no command", c, p.i+1)
		}
		p.i++
		if c == 'Z' || c == 'z' {
			p.path.Close()
			p.cur, p.lastKind, p.openAgain = p.start, 0, true
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
			p.path.MoveTo(q.X, q.Y)
			p.start, p.cur = q, q
		}
	case 'L':
		p.line(p.point(rel))
	case 'H':
		x := p.num()
		if rel {
			x += p.cur.X
		}
		p.line(geom.Point{X: x, Y: p.cur.Y})
	case 'V':
		y := p.num()
		if rel {
			y += p.cur.Y
		}
		p.line(geom.Point{X: p.cur.X, Y: y})
	case 'C':
		p.cubic(p.point(rel), p.point(rel), p.point(rel))
	case 'S':
		p.cubic(p.mirror('C'), p.point(rel), p.point(rel))
	case 'Q':
		p.quad(p.point(rel), p.point(rel))
	case 'T':
		p.quad(p.mirror('Q'), p.point(rel))
	case 'A':
		rx, ry, turn := p.num(), p.num(), p.num()
		large, sweep := p.flag(), p.flag()
		q := p.point(rel)
		if p.failed == nil {
			p.reopen()
			p.path.ArcTo(rx, ry, turn, large, sweep, q.X, q.Y)
			p.cur = q
		}
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

// reopen begins a new subpath at the start of the one just closed, where no move stands between.
func (p *pathParser) reopen() {
	if p.openAgain && len(p.path.Verbs) > 0 && p.path.Verbs[len(p.path.Verbs)-1] == geom.Close {
		p.path.MoveTo(p.cur.X, p.cur.Y)
	}
	p.openAgain = false
}

func (p *pathParser) line(q geom.Point) {
	if p.failed == nil {
		p.reopen()
		p.path.LineTo(q.X, q.Y)
		p.cur = q
	}
}

func (p *pathParser) cubic(a, b, q geom.Point) {
	if p.failed == nil {
		p.reopen()
		p.path.CubicTo(a.X, a.Y, b.X, b.Y, q.X, q.Y)
		p.cur, p.lastCtrl = q, b
	}
}

func (p *pathParser) quad(a, q geom.Point) {
	if p.failed == nil {
		p.reopen()
		p.path.QuadTo(a.X, a.Y, q.X, q.Y)
		p.cur, p.lastCtrl = q, a
	}
}

func (p *pathParser) mirror(kind byte) geom.Point {
	if p.lastKind != kind {
		return p.cur
	}
	return p.cur.Mul(2).Sub(p.lastCtrl)
}

// parseNumbers reads a list of numbers such as points or values.
func parseNumbers(s string) ([]float64, error) {
	p := &pathParser{s: s}
	var out []float64
	for p.more() {
		out = append(out, p.num())
		if p.failed != nil {
			return out, p.failed
		}
	}
	if p.i < len(s) {
		return out, fmt.Errorf("%q is not a list of numbers", clip(s))
	}
	return out, nil
}

func clip(s string) string {
	if len(s) > 40 {
		return s[:40] + "…"
	}
	return s
}
