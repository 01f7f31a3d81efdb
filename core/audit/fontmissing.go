package audit

import (
	"strings"

	"archetyp/core/design"
)

var fontMissing = Rule{Name: "font-missing", Group: "values", Level: Warning,
	What:  "families that the design asks for and that are not there",
	Why:   "widths are measured with another face, and pictures show it",
	check: checkFontMissing,
}

func checkFontMissing(c *checker) {
	byFamily := map[string][]*design.Element{}
	var order []string
	for _, d := range c.Docs {
		if d.Styles != nil {
			continue
		}
		for _, e := range d.All() {
			w := e.Words
			if w == nil || !w.Missing || e.Hidden {
				continue
			}
			family := firstFamily(w.Family.Value)
			if family == "" || generic[strings.ToLower(family)] { // any will do
				continue
			}
			if byFamily[family] == nil {
				order = append(order, family)
			}
			byFamily[family] = append(byFamily[family], e)
		}
	}
	if len(order) > fewFamilies {
		var all []*design.Element
		for _, f := range order {
			all = append(all, byFamily[f]...)
		}
		c.find(all, "Put their files into a folder of fonts: in the configuration.", "%d families are not there: %s", len(order), list(order))
		return
	}
	for _, f := range order {
		c.find(byFamily[f], "Put its files into a folder of fonts: in the configuration.", "the family %s is not there; %s set in it", f, countTexts(byFamily[f]))
	}
}

// fewFamilies that are missing are a finding each; more have one cause.
const fewFamilies = 3

func countTexts(list []*design.Element) string {
	if len(list) == 1 {
		return "1 text is"
	}
	return count(len(list), "text") + " are"
}

// firstFamily is the first of a list of families.
func firstFamily(list string) string {
	first, _, _ := strings.Cut(list, ",")
	return strings.Trim(strings.TrimSpace(first), `"'`)
}

// generic are families that every machine has some face for. https://www.w3.org/TR/css-fonts-4/#generic-font-families
var generic = map[string]bool{"serif": true, "sans-serif": true, "sans": true, "monospace": true, "cursive": true, "fantasy": true, "system-ui": true,
	"ui-serif": true, "ui-sans-serif": true, "ui-monospace": true, "ui-rounded": true, "math": true, "emoji": true}
