package audit

import "archetyp/core/css"

var offScale = Rule{Name: "off-scale", Group: "values", Level: Warning,
	What:  "sizes of type that stand beside the scale",
	Why:   "every odd value is one more that code has to know",
	check: checkOffScale,
}

func checkOffScale(c *checker) {
	if c.Harvest == nil {
		return
	}
	bySize, off := map[string][]Place{}, map[string]string{}
	var order []string
	for _, f := range c.Harvest.Found {
		// Distances are derived from what is drawn, and a line of a border puts them off by one: those that stand off by
		// little are no mistake of anybody's.
		if f.Off == "" || f.Token != "" || f.Kind == "space" {
			continue
		}
		size := f.Text
		if f.Kind == "type" { // however heavy: what is off is the size
			_, _, px, _, _ := f.Drawn()
			size = css.Px(px)
		}
		if size == f.Off { // it only rounds differently
			continue
		}
		if bySize[size] == nil {
			order = append(order, size)
		}
		bySize[size], off[size] = append(bySize[size], c.sites(f)...), f.Off
	}
	for _, size := range order {
		f := c.at(bySize[size], "Use "+off[size]+", or put "+size+" on the scale.", "%s is off the scale; the nearest is %s", size, off[size])
		f.about = "size"
	}
}
