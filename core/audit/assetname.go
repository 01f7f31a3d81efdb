package audit

import (
	"archetyp/core/asset"
	"archetyp/core/design"
)

var assetName = Rule{Name: "asset-name", Group: "assets", Level: Warning,
	What:  "assets whose names are another's, or no names, on one of the targets",
	Why:   "its files are called otherwise than people ask for it",
	check: checkAssetName,
}

func checkAssetName(c *checker) {
	byName := map[string][]*design.Element{}
	var names []string
	for _, d := range c.Docs {
		for _, e := range d.All() {
			if n := e.Marks.Asset; n != "" && asset.ValidName(n) {
				if byName[n] == nil {
					names = append(names, n)
				}
				byName[n] = append(byName[n], e)
			}
		}
	}
	said := map[string]bool{}
	for i := range c.Sets {
		_, changed := c.Sets[i].FitEach(names)
		for _, n := range names {
			if why := changed[n]; why != "" && !said[n] {
				said[n] = true
				c.find(byName[n], "Give it a name that every target takes: lower-case letters, digits and hyphens.", "%s", why)
			}
		}
	}
}
