package drift

import (
	"strings"

	"archetyp/core/css"
)

// Pairing is a pair of elements on a screen.
type Pairing struct {
	Screen string `json:"screen"`
	Design Ref    `json:"design"`
	Site   Ref    `json:"site"`
	Why    string `json:"why"`
}

// Pairings are the pairs of elements that a selector means, in the drawing or on the page, or that have a name or words.
func Pairings(r *Report, element string) (out []Pairing) {
	sel, err := css.ParseSelector(element)
	m := css.NewMatcher(nil, nil)
	for i := range r.Pairs {
		for _, x := range r.Pairs[i].Matched {
			fits := strings.EqualFold(x.Design.Element, element) || strings.EqualFold(x.Site.Element, element)
			if err == nil {
				fits = fits || x.DesignNode != nil && m.Matches(sel, x.DesignNode) || x.SiteNode != nil && m.Matches(sel, x.SiteNode)
			}
			if fits {
				out = append(out, Pairing{r.Pairs[i].Screen, x.Design, x.Site, string(x.Why)})
			}
		}
	}
	return out
}
