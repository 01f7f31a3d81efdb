package job

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"

	"archetyp/core/ask"
	"archetyp/core/design"
	"archetyp/core/diff"
	"archetyp/core/guide"
	"archetyp/core/text"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/workspace"
)

// agreed says which screens two states have in common to be compared: those that an edition locks, without those that
// the configuration leaves out. nil is all.
func agreed(ws *workspace.Workspace, sides [2]*state, revisions [2]string) func(screen string) bool {
	var locked [][]string
	if list, err := ws.Editions(); err == nil {
		for _, r := range revisions {
			for i := range list {
				if r != "" && len(list[i].Screens) > 0 && workspace.EditionTag(list[i].Number) == workspace.EditionRevision(r) {
					locked = append(locked, list[i].Screens)
				}
			}
		}
	}
	return func(screen string) bool {
		for _, s := range sides {
			if guide.LeavesOut(s.ws.Config.Screens.LeaveOut, screen) {
				return false
			}
		}
		for _, l := range locked {
			if !slices.Contains(l, screen) {
				return false
			}
		}
		return true
	}
}

// Comparison is what differs from one state of a workspace to another.
type Comparison struct {
	From, To string
	Screens  []ScreenChanges // those that differ, the most changed first
	Tokens   []token.Change
	Texts    []TextChange
	Assets   []AssetChange
	Phases   int // that were set, changed or dropped
	Remarks  int // that are new, or have new replies
	Libs     [2]*token.Library
	Unread   []error // drawings that could not be read on one side
}

// Empty reports whether nothing differs.
func (c *Comparison) Empty() bool {
	return len(c.Screens)+len(c.Tokens)+len(c.Texts)+len(c.Assets)+c.Phases+c.Remarks == 0
}

// ScreenChanges are the changes of one screen.
type ScreenChanges struct {
	Source, Screen string
	Old, New       *design.Screen // nil on the side that lacks it
	Changes        []diff.Change
}

// TextChange is a message with other words; "" on the side that lacks it.
type TextChange struct {
	Key    string `json:"key"`
	Locale string `json:"locale,omitempty"` // "" for the source language
	Was    string `json:"was"`
	Is     string `json:"is"`
}

// CompareStates compares two states: revisions that git knows, editions by number, or "" for the folder as it is. screens
// are the only ones that are compared; none for all.
func CompareStates(ctx context.Context, ws *workspace.Workspace, from, to string, screens []string) (*Comparison, error) {
	c := &Comparison{From: from, To: to}
	var sides [2]*state
	err := together(func() (err error) {
		sides[0], err = openState(ws, from)
		return err
	}, func() (err error) {
		sides[1], err = openState(ws, to)
		return err
	})
	for _, s := range sides {
		if s != nil {
			defer s.close()
		}
	}
	if err != nil {
		return nil, err
	}
	c.Libs = [2]*token.Library{sides[0].tokens, sides[1].tokens}
	c.Tokens = token.Compare(c.Libs[0], c.Libs[1])
	c.Texts = textChanges(sides[0].texts, sides[1].texts)
	c.annotations(sides)
	return c, c.drawings(ctx, sides, screens, agreed(ws, sides, [2]string{from, to}))
}

// spoken counts the phases and remarks that differ.
func (c *Comparison) annotations(sides [2]*state) {
	var said [2]map[string]string
	for i, s := range sides {
		said[i] = map[string]string{}
		if book, err := readBook(s.ws); err == nil {
			for k, e := range book.Entries {
				said[i]["phase "+k] = fmt.Sprint(e.Phase, e.Why, e.By, e.On, e.Tags, e.Due)
			}
		}
		if threads, err := readThreads(s.ws); err == nil {
			for _, t := range threads {
				said[i]["remark "+t.ID] = fmt.Sprint(t.Kind, t.Entries)
			}
		}
	}
	all := maps.Clone(said[0])
	maps.Copy(all, said[1])
	for k := range all {
		switch {
		case said[0][k] == said[1][k]:
		case strings.HasPrefix(k, "phase "):
			c.Phases++
		default:
			c.Remarks++
		}
	}
}

// drawings compares the drawings, side by side; those whose bytes and marks are the same are not read.
func (c *Comparison) drawings(ctx context.Context, sides [2]*state, screens []string, wanted func(string) bool) error {
	all := slices.Concat(sides[0].sources, sides[1].sources)
	slices.Sort(all)
	all = slices.Compact(all)
	found, assets := make([][]ScreenChanges, len(all)), make([][]AssetChange, len(all))
	faults := make([]error, len(all))
	sameMarks := fmt.Sprint(sides[0].ws.Config.Marks, sides[0].ws.Config.Root) == fmt.Sprint(sides[1].ws.Config.Marks, sides[1].ws.Config.Root)
	err := Parallel(len(all), func(i int) error {
		if err := ctx.Err(); err != nil {
			return err
		}
		if sameMarks && sameFile(sides, all[i]) {
			return nil
		}
		var docs [2]*design.Document
		for k, s := range sides {
			var err error
			if docs[k], err = s.document(all[i]); err != nil {
				faults[i] = err
				return nil
			}
		}
		found[i], assets[i] = sourceChanges(all[i], docs[0], docs[1]), assetChanges(all[i], docs[0], docs[1])
		return nil
	})
	for i := range all {
		if faults[i] != nil {
			c.Unread = append(c.Unread, faults[i])
		}
		c.Assets = append(c.Assets, assets[i]...)
		for _, s := range found[i] {
			if wanted(s.Screen) && (len(screens) == 0 || slices.Contains(screens, s.Screen)) {
				c.Screens = append(c.Screens, s)
			}
		}
	}
	c.nameTokens()
	slices.SortStableFunc(c.Screens, func(a, b ScreenChanges) int { return len(b.Changes) - len(a.Changes) })
	return err
}

// nameTokens finds the tokens that facts were and are.
func (c *Comparison) nameTokens() {
	finders := [2]*emit.Finder{emit.NewFinder(c.Libs[0].Base, nil), emit.NewFinder(c.Libs[1].Base, nil)}
	for i := range c.Screens {
		for k := range c.Screens[i].Changes {
			x := &c.Screens[i].Changes[k]
			for n := range x.Facts {
				f := &x.Facts[n]
				f.WasToken = ask.TokenOf(finders[0], x.Old, design.FactLine{Name: f.Name, Value: f.Was}).Path
				f.IsToken = ask.TokenOf(finders[1], x.New, design.FactLine{Name: f.Name, Value: f.Is}).Path
			}
		}
	}
}

// sameFile reports whether a source has the same bytes in both states.
func sameFile(sides [2]*state, source string) bool {
	a, errA := sides[0].ws.ReadFile(source)
	b, errB := sides[1].ws.ReadFile(source)
	return errA == nil && errB == nil && string(a) == string(b)
}

// sourceChanges are the changes of a drawing by screen. One that came or went is the change of each of its screens.
func sourceChanges(source string, old, new *design.Document) (out []ScreenChanges) {
	var list []diff.Change
	switch {
	case old == nil:
		for _, s := range new.Screens {
			list = append(list, diff.Change{Kind: diff.Added, Screen: s.Name, New: s.Root, Elements: len(s.Elements)})
		}
	case new == nil:
		for _, s := range old.Screens {
			list = append(list, diff.Change{Kind: diff.Removed, Screen: s.Name, Old: s.Root, Elements: len(s.Elements)})
		}
	default:
		list = diff.Documents(old, new)
	}
	for _, c := range list {
		n := len(out)
		if n == 0 || out[n-1].Screen != c.Screen {
			out = append(out, ScreenChanges{Source: source, Screen: c.Screen, Old: screenOf(old, c.Screen, c.Old), New: screenOf(new, c.Screen, c.New)})
			n++
		}
		out[n-1].Changes = append(out[n-1].Changes, c)
	}
	return out
}

// screenOf is the screen of a document that a change is on, by its element or by name; nil for none.
func screenOf(d *design.Document, name string, e *design.Element) *design.Screen {
	if e != nil {
		return e.Screen
	}
	if d != nil {
		for _, s := range d.Screens {
			if s.Name == name {
				return s
			}
		}
	}
	return nil
}

// textChanges are the messages that differ, in the source language and then in each other. Either side may be nil.
func textChanges(old, new *text.Catalogue) (out []TextChange) {
	type at struct{ locale, key string }
	words := func(c *text.Catalogue) map[at]string {
		m := map[at]string{}
		if c == nil {
			return m
		}
		for _, e := range c.Entries {
			m[at{"", e.Key}] = e.Words
			for l, t := range e.In {
				m[at{l, e.Key}] = t.Words
			}
		}
		return m
	}
	was, is := words(old), words(new)
	for k, w := range was {
		if is[k] != w {
			out = append(out, TextChange{k.key, k.locale, w, is[k]})
		}
	}
	for k, w := range is {
		if was[k] == "" && w != "" {
			out = append(out, TextChange{k.key, k.locale, "", w})
		}
	}
	slices.SortFunc(out, func(a, b TextChange) int {
		return cmp.Or(strings.Compare(a.Locale, b.Locale), strings.Compare(a.Key, b.Key))
	})
	return out
}
