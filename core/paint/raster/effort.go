package raster

import (
	"fmt"
	"image"

	"archetyp/core/design"
)

// effort is what painting a picture may still take, in steps of one pixel: patterns, masks, groups and filters inside
// one another multiply, and a small drawing could keep a machine busy for days.
type effort struct {
	left, all int64
	failed    error // the first fault met on the way
}

// newEffort allows for a thousand layers as large as the picture, or as one of 400,000 pixels.
func newEffort(pixels int) *effort {
	all := 1000 * max(int64(pixels), 400_000)
	return &effort{left: all, all: all}
}

// spend takes so many steps for each pixel of an area; false says that there are none left.
func (p *painter) spend(r image.Rectangle, steps int) bool {
	if p.effort == nil {
		return true
	}
	p.effort.left -= int64(r.Dx()) * int64(r.Dy()) * int64(steps)
	return p.effort.left >= 0
}

// fail notes a fault: painting ends with it.
func (e *effort) fail(err error) {
	if e != nil && e.failed == nil {
		e.failed = err
	}
}

func (e *effort) err() error {
	if e.failed != nil {
		return e.failed
	}
	if e.left >= 0 {
		return nil
	}
	return fmt.Errorf("painting it takes more than %d million steps, with all its patterns, masks, groups and filters; "+
		"choose a smaller density, or simplify it", e.all/1_000_000)
}

// stepsOf is about how much longer a step of a filter takes for a pixel than laying it on another.
func stepsOf(p *design.Primitive) int {
	switch {
	case p.Kernel != nil:
		return 1 + p.Kernel.W*p.Kernel.H/2
	case p.Noise != nil:
		return 8 * p.Noise.Octaves
	case p.Light != nil:
		return 15
	case p.Kind == "feGaussianBlur" || p.Kind == "feDropShadow" || p.Kind == "feMorphology":
		return 30
	}
	return 2
}
