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
		if len(s.Instances) < 3 {
			continue
		}
		for _, x := range s.Instances {
			c.unlike(s, x)
		}
	}
}

// unlike reports facts in which an instance is almost as the others, who are all of its variant and state.
func (c *checker) unlike(s alike.Set, x alike.Instance) {
	e := x.Element
	if e.Hidden || inPicture(e) || e.Marks.Asset != "" {
		return
	}
	for _, o := range s.Instances {
		if o.Element.Marks.State != e.Marks.State || o.Element.Marks.Variant != e.Marks.Variant {
			return
		}
	}
	for _, d := range x.Differs {
		if !slight(d) {
			continue
		}
		others := 0 // that differ in the same fact
		for _, o := range s.Instances {
			for _, od := range o.Differs {
				if od.Where == d.Where && od.Fact == d.Fact {
					others++
				}
			}
		}
		if others != 1 {
			continue
		}
		where := ""
		if d.Where != "" {
			where = d.Where + " has "
		}
		f := c.find([]*design.Element{e}, "Draw it as the others, or say what it is: data-variant.",
			"%s%s %s, the %d others %s", where, d.Fact, d.Value, len(s.Instances)-1, d.Others)
		f.about = map[string]string{"border-radius": "radius", "fill": "color", "stroke": "color"}[d.Fact]
	}
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
