package job

import (
	"fmt"
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/drift"
	"archetyp/core/hint"
)

// DriftOptions say what is held against what.
type DriftOptions struct {
	Site   string // as SiteReader.Pages takes it
	Design string // an earlier state of the site, likewise; "" for the drawings of the workspace
	Base   drift.View
	Views  bool // only the base is looked at, not what style sheets say of other widths, schemes and states
}

// Drift holds a site against a design.
func Drift(r *SiteReader, o DriftOptions) (*drift.Report, error) {
	pages, err := r.Pages(o.Site)
	if err != nil {
		return nil, err
	}
	in := drift.In{}
	if o.Design != "" {
		before, err := r.Pages(o.Design)
		if err != nil {
			return nil, err
		}
		if in.Pages, err = samePages(before, pages, &o); err != nil {
			return nil, err
		}
	}
	return drift.Run(in), nil
}

// samePages pairs the pages of two states of a site by their names, and reads them in all views.
func samePages(before, now []SitePage, o *DriftOptions) ([]drift.PagePair, error) {
	var out []drift.PagePair
	type job struct{ was, is *SitePage }
	var list []job
	for i := range now {
		k := slices.IndexFunc(before, func(p SitePage) bool { return p.Name == now[i].Name })
		if k < 0 && len(now) == 1 && len(before) == 1 {
			k = 0
		}
		if k >= 0 {
			list = append(list, job{&before[k], &now[i]})
		}
	}
	if len(list) == 0 {
		return nil, hint.New("no page is in both "+o.Design+" and "+o.Site, "Pages are the same by their paths: "+names(before)+"; "+names(now)+".")
	}
	out = make([]drift.PagePair, len(list))
	err := Progress(nil, "", len(list), func(i int) error {
		pair, err := readPair(list[i].was, list[i].is, o)
		out[i] = pair
		return err
	})
	return out, err
}

func names(list []SitePage) string {
	var out []string
	for _, p := range list[:min(len(list), 6)] {
		out = append(out, p.Name)
	}
	if len(list) > 6 {
		out = append(out, fmt.Sprintf("and %d others", len(list)-6))
	}
	return strings.Join(out, ", ")
}

// readPair reads two states of a page in the views in which one of them may say something of its own.
func readPair(was, is *SitePage, o *DriftOptions) (drift.PagePair, error) {
	pair := drift.PagePair{Screen: is.Name, Bases: [2]string{was.Base, is.Base}}
	read := func(v drift.View) (drift.ViewPair, error) {
		out := drift.ViewPair{View: v}
		err := together(func() (err error) {
			out.Design, err = was.read(v)
			return err
		}, func() (err error) {
			out.Site, err = is.read(v)
			return err
		})
		return out, err
	}
	first, err := read(o.Base)
	if err != nil {
		return pair, err
	}
	if s := first.Site.Screens; len(s) > 0 && s[0].Name != "" {
		pair.Screen = s[0].Name
	}
	pair.Views = []drift.ViewPair{first}
	if o.Views {
		return pair, nil
	}
	var sheets []design.StyleSheet
	sheets = append(append(sheets, first.Design.Styles.Sheets()...), first.Site.Styles.Sheets()...)
	views := drift.Views(o.Base, sheets)[1:]
	more := make([]drift.ViewPair, len(views))
	err = Progress(nil, "", len(views), func(i int) (err error) {
		more[i], err = read(views[i])
		return err
	})
	pair.Views = append(pair.Views, more...)
	return pair, err
}
