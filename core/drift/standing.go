package drift

import (
	"fmt"
	"slices"
)

// Standing is how far a site is from its design, in numbers and words to remember.
type Standing struct {
	Site        string         `json:"site"`
	Differences map[string]int `json:"differences"` // by level
	Covered     map[string]int `json:"covered"`     // share of values that are tokens by kind, in %
	Accepted    int            `json:"accepted,omitempty"`
	Screens     []ScreenDrift  `json:"screens,omitempty"`
	Components  []PartDrift    `json:"components,omitempty"`
	List        []ListedDrift  `json:"list,omitempty"` // the first of the differences
}

// ScreenDrift is a screen that was held against a page.
type ScreenDrift struct {
	Screen   string `json:"screen"`
	Source   string `json:"source"`
	Page     string `json:"page,omitempty"` // "" for all pages
	Elements int    `json:"elements"`
	Found    int    `json:"found"`  // of them, on the page
	Differ   int    `json:"differ"` // of these, otherwise than designed
}

// PartDrift is a component, and how many differences it has.
type PartDrift struct {
	Name  string `json:"name"`
	Count int    `json:"count"`
}

// ListedDrift is a difference in words.
type ListedDrift struct {
	Level   string `json:"level"`
	Kind    string `json:"kind"`
	Message string `json:"message"`
	Place   string `json:"place"`
	Mend    string `json:"mend,omitempty"`
}

// mostListed is how many differences are remembered in words.
const mostListed = 200

// Standing is how far a site is from its design.
func (r *Report) Standing(site string, c *Coverage) *Standing {
	out := &Standing{Site: site, Differences: map[string]int{}, Covered: map[string]int{}, Accepted: r.Accepted}
	if c != nil {
		for i := range c.Kinds {
			out.Covered[c.Kinds[i].Kind] = int(100*c.Kinds[i].Share() + 0.5)
		}
	}
	differ, parts := map[string]map[string]bool{}, map[string]int{}
	for i := range r.Differences {
		x := &r.Differences[i]
		out.Differences[string(x.Level)]++
		of := map[string]bool{}
		for _, s := range x.Spots {
			if differ[s.Screen] == nil {
				differ[s.Screen] = map[string]bool{}
			}
			if s.Site.Selector != "" && x.Kind != Missing && x.Kind != Extra {
				differ[s.Screen][s.Site.Selector] = true
			}
			if p := s.Design.Component; p != "" && !of[p] {
				of[p] = true
				parts[p]++
			}
		}
		if len(out.List) < mostListed {
			place := x.Cause.Place.File
			if x.Cause.Place.Line > 0 {
				place += fmt.Sprintf(":%d", x.Cause.Place.Line)
			}
			out.List = append(out.List, ListedDrift{string(x.Level), string(x.Kind), x.Message, place, x.Mend})
		}
	}
	for _, p := range r.Pairs {
		out.Screens = append(out.Screens, ScreenDrift{p.Screen, p.Design, p.Site, p.Elements, p.Paired, len(differ[p.Screen])})
	}
	for name, n := range parts {
		out.Components = append(out.Components, PartDrift{name, n})
	}
	slices.SortFunc(out.Components, func(a, b PartDrift) int {
		if a.Count != b.Count {
			return b.Count - a.Count
		}
		if a.Name < b.Name {
			return -1
		}
		return 1
	})
	return out
}
