package job

import (
	"fmt"
	"slices"
	"strings"

	"archetyp/core/audit"
	"archetyp/core/design"
	"archetyp/core/drift"
	"archetyp/core/hint"
	"archetyp/core/match"
	"archetyp/workspace"
)

// DriftOptions say what is held against what.
type DriftOptions struct {
	Site       string             // as SiteReader.Pages takes it
	Design     string             // an earlier state of the site, likewise; "" for drawings
	Drawings   []*design.Document // what the site was built from, where Design is ""
	Base       drift.View         // how pages are looked at first
	OneView    bool               // and only so, not what style sheets say of other widths, schemes and states
	Tolerances drift.Tolerances
	Levels     map[drift.Kind]audit.Level
	Pairs      []workspace.DriftPair
	Reasons    bool // every pair of elements is wanted
	Progress   func(stage string, done, of int)
}

// Drifted is what came of it.
type Drifted struct {
	*drift.Report
	Coverage *drift.Coverage `json:"coverage,omitempty"` // nil where there are no tokens
	Unpaired []string        `json:"unpaired"`           // screens that no page was built from
}

// Drift holds a site against a design.
func Drift(r *SiteReader, o DriftOptions) (*Drifted, error) {
	pages, err := r.Pages(o.Site)
	if err != nil {
		return nil, err
	}
	in := drift.In{Tolerances: o.Tolerances, Levels: o.Levels, Reasons: o.Reasons, Likeness: pictureLikeness}
	if in.Tokens, err = DriftTokens(r.WS); err != nil {
		return nil, err
	}
	out := &Drifted{Unpaired: []string{}}
	if o.Design != "" {
		before, err := r.Pages(o.Design)
		if err != nil {
			return nil, err
		}
		if in.Pages, err = samePages(before, pages, &o); err != nil {
			return nil, err
		}
	} else if out.Unpaired, err = builtPages(&in, pages, &o); err != nil {
		return nil, err
	}
	if out.Report, err = drift.Run(in); err != nil {
		return nil, err
	}
	if in.Tokens != nil {
		out.Coverage = coverage(&in)
	}
	return out, nil
}

// looker looks at pages, each way once.
type looker struct{ memo[*design.Document] }

func (l *looker) look(p *SitePage, v drift.View) (*design.Document, error) {
	return l.get(fmt.Sprint(p.File, v), func() (*design.Document, error) { return p.read(v) })
}

// builtPages pairs the screens of drawings with the pages that were built from them, and what is left of screens that show
// components with all pages. unpaired are the names of the others.
func builtPages(in *drift.In, pages []SitePage, o *DriftOptions) (unpaired []string, err error) {
	l := &looker{}
	unpaired = []string{}
	docs := make([]*design.Document, len(pages))
	if err := Progress(o.Progress, "reading pages", len(pages), func(i int) (err error) {
		docs[i], err = l.look(&pages[i], o.Base)
		return err
	}); err != nil {
		return nil, err
	}
	type pairing struct {
		screen *design.Screen
		page   int
		why    match.Reason
	}
	var list []pairing
	for _, d := range o.Drawings {
		for _, s := range d.Screens {
			i, why, err := pageOf(s, pages, docs, o.Pairs)
			switch {
			case err != nil:
				return nil, err
			case i >= 0:
				list = append(list, pairing{s, i, why})
			case hasComponents(s):
				in.Sheets = append(in.Sheets, drift.Sheet{Screen: s, View: o.Base, Pages: func(state string) ([]*design.Document, error) {
					v := o.Base
					v.State = state
					out := make([]*design.Document, len(pages))
					err := Progress(nil, "", len(pages), func(i int) (err error) {
						out[i], err = l.look(&pages[i], v)
						return err
					})
					return out, err
				}})
			default:
				unpaired = append(unpaired, s.Name)
			}
		}
	}
	if len(list) == 0 && len(in.Sheets) == 0 {
		return nil, hint.New("no screen of the design is a page of "+o.Site, "Screens and pages are paired by name and by words; drift: pairs: in the configuration pairs them by hand.")
	}
	in.Drawings = make([]drift.DrawingPair, len(list))
	err = Progress(o.Progress, "looking", len(list), func(i int) error {
		p := list[i]
		v := drift.View{Width: p.screen.Box.W, Height: p.screen.Box.H, Dark: o.Base.Dark}
		if v.Width == o.Base.Width {
			v.Height = o.Base.Height
		}
		doc, err := l.look(&pages[p.page], v)
		if err != nil {
			return err
		}
		in.Drawings[i] = drift.DrawingPair{View: v, Screen: p.screen, Page: doc, Why: p.why}
		in.Drawings[i].Hand, err = byHand(p.screen, doc, &pages[p.page], o.Pairs)
		return err
	})
	return unpaired, err
}

// hasComponents reports whether a screen shows components: several, as a sheet of them does.
func hasComponents(s *design.Screen) bool {
	n := 0
	for _, e := range s.Elements {
		if e.Marks.Component != "" {
			n++
		}
	}
	const several = 3
	return n >= several
}

// Why a screen and a page are a pair.
const (
	pairedByName  match.Reason = "same name"
	pairedBySize  match.Reason = "same name, at another width"
	pairedByWords match.Reason = "same words"
)

// pageOf finds the page that was built from a screen: by hand, by name, by the name without what says its width, or by
// its words. −1 for none.
func pageOf(s *design.Screen, pages []SitePage, docs []*design.Document, byHand []workspace.DriftPair) (int, match.Reason, error) {
	for _, h := range byHand {
		if h.Element != "" || !strings.EqualFold(h.Screen, s.Name) {
			continue
		}
		for i := range pages {
			if strings.TrimPrefix(h.Page, "/") == pages[i].Name || h.Page == pages[i].File {
				return i, match.ByHand, nil
			}
		}
		return 0, "", hint.New(fmt.Sprintf("drift: pairs: the site has no page %s for the screen %s", h.Page, h.Screen), "Pages: "+names(pages)+".")
	}
	named := func(fits func(page string) bool) int {
		for i, d := range docs {
			if len(d.Screens) > 0 && fits(strings.ToLower(d.Screens[0].Name)) {
				return i
			}
		}
		return -1
	}
	name := strings.ToLower(s.Name)
	if i := named(func(page string) bool { return page == name }); i >= 0 {
		return i, pairedByName, nil
	}
	if i := named(func(page string) bool {
		rest, ok := strings.CutPrefix(name, page)
		return ok && page != "" && strings.ContainsAny(rest[:1], " ,-(/")
	}); i >= 0 {
		return i, pairedBySize, nil
	}
	words := wordsOn(s.Root)
	best, most := -1, 0.0
	for i, d := range docs {
		if share := shared(words, wordsOn(d.Screens[0].Root)); share > most {
			best, most = i, share
		}
	}
	const enough = 0.4
	if most >= enough {
		return best, pairedByWords, nil
	}
	return -1, "", nil
}

// wordsOn are the texts of a screen, each with how often it stands there.
func wordsOn(root *design.Element) map[string]int {
	out := map[string]int{}
	root.Walk(func(e *design.Element) {
		if e.Words != nil && !e.Hidden {
			if w := strings.ToLower(strings.Join(strings.Fields(e.Words.Words), " ")); w != "" {
				out[w]++
			}
		}
	})
	return out
}

// shared is the share of a screen's texts that a page has, 0–1.
func shared(a, b map[string]int) float64 {
	all, both := 0, 0
	for w, n := range a {
		all += n
		both += min(n, b[w])
	}
	if all < 3 { // too few to tell
		return 0
	}
	return float64(both) / float64(all)
}

// byHand are the elements of a screen and a page that the configuration pairs.
func byHand(s *design.Screen, page *design.Document, on *SitePage, pairs []workspace.DriftPair) (map[*design.Element]*design.Element, error) {
	out := map[*design.Element]*design.Element{}
	for _, h := range pairs {
		if h.Element == "" || h.Screen != "" && !strings.EqualFold(h.Screen, s.Name) || h.Page != "" && strings.TrimPrefix(h.Page, "/") != on.Name {
			continue
		}
		drawn, err := selected(s.Document, h.Element)
		if err != nil {
			return nil, err
		}
		built, err := selected(page, h.Site)
		if err != nil {
			return nil, err
		}
		drawn = slices.DeleteFunc(drawn, func(e *design.Element) bool { return e.Screen != s })
		for i := range min(len(drawn), len(built)) {
			out[drawn[i]] = built[i]
		}
	}
	return out, nil
}

// samePages pairs the pages of two states of a site by their names, and reads them in all views.
func samePages(before, now []SitePage, o *DriftOptions) ([]drift.PagePair, error) {
	type both struct{ was, is *SitePage }
	var list []both
	for i := range now {
		k := slices.IndexFunc(before, func(p SitePage) bool { return p.Name == now[i].Name })
		if k < 0 && len(now) == 1 && len(before) == 1 {
			k = 0
		}
		if k >= 0 {
			list = append(list, both{&before[k], &now[i]})
		}
	}
	if len(list) == 0 {
		return nil, hint.New("no page is in both "+o.Design+" and "+o.Site, "Pages are the same by their paths: "+names(before)+"; "+names(now)+".")
	}
	out := make([]drift.PagePair, len(list))
	err := Progress(o.Progress, "reading pages", len(list), func(i int) (err error) {
		out[i], err = readPair(list[i].was, list[i].is, o)
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
	if o.OneView {
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
