package audit

import (
	"math"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/infer/alike"
)

var unlikeInstance = Rule{Name: "unlike-instance", Group: "components", Level: Warning,
	What:  "one of several alike things that differs from the others by a little",
	Why:   "a small difference is seldom meant, and code has to keep it",
	check: checkUnlikeInstance,
}

func checkUnlikeInstance(c *checker) {
	for _, s := range c.alike() {
		if len(s.Instances) < 3 || !sameVariant(s) {
			continue
		}
		type fact struct{ where, name string }
		differ := map[fact]int{} // instances that are otherwise in a fact
		for _, x := range s.Instances {
			for _, d := range x.Differs {
				differ[fact{d.Where, d.Fact}]++
			}
		}
		for _, x := range s.Instances {
			if x.Element.Hidden || inPicture(x.Element) || x.Element.Marks.Asset != "" {
				continue
			}
			for _, d := range x.Differs {
				if differ[fact{d.Where, d.Fact}] == 1 && slight(d) {
					c.unlike(x.Element, d, len(s.Instances)-1)
				}
			}
		}
	}
}

// sameVariant reports whether all instances of a set are of one variant and in one state.
func sameVariant(s alike.Set) bool {
	first := s.Instances[0].Element.Marks
	for _, x := range s.Instances {
		if m := x.Element.Marks; m.State != first.State || m.Variant != first.Variant {
			return false
		}
	}
	return true
}

// unlike reports a fact in which an element is almost as so many others.
func (c *checker) unlike(e *design.Element, d alike.Difference, others int) {
	where := ""
	if d.Where != "" {
		where = d.Where + " has "
	}
	f := c.find([]*design.Element{e}, "Draw it as the others, or say what it is: data-variant.",
		"%s%s %s, the %d others %s", where, d.Fact, d.Value, others, d.Others)
	f.about = map[string]string{"border-radius": "radius", "fill": "color", "stroke": "color"}[d.Fact]
}

// slight reports whether two values of a fact are so near that no one means both.
func slight(d alike.Difference) bool {
	switch d.Fact {
	case "border-radius", "font-size", "stroke-width", "letter-spacing", "line-height":
		a, err := css.ParseLength(d.Value)
		b, other := css.ParseLength(d.Others)
		return err == nil && other == nil && math.Abs(a.Value-b.Value) <= 2 && b.Value != 0
	case "fill":
		a, err := color.Parse(d.Value)
		b, other := color.Parse(d.Others)
		return err == nil && other == nil && a.Alpha == b.Alpha && color.Difference(a, b) < 0.04
	case "font-family":
		return !strings.EqualFold(d.Value, d.Others) && d.Others != "none" && d.Value != "none"
	}
	return false
}
