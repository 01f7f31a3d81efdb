package job

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"path"
	"slices"
	"strings"
	"sync"

	"archetyp/core/ask"
	"archetyp/core/audit"
	"archetyp/core/design"
	"archetyp/core/diff"
	"archetyp/core/guide"
	"archetyp/core/hint"
	"archetyp/core/text"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/workspace"
)

// CutOptions say what an edition is cut from.
type CutOptions struct {
	Message string
	Screens []string // the only ones that are locked; none for all
	Draft   bool
	Anyway  bool // though checks find errors
}

// CutEdition locks the workspace as it stands, under the next number.
func CutEdition(ctx context.Context, ws *workspace.Workspace, o CutOptions) (*workspace.Edition, error) {
	if strings.TrimSpace(o.Message) == "" {
		return nil, hint.New("an edition needs a message", "For example: archetyp edition cut -m \"As agreed with the harbour office\"")
	}
	commit, err := ws.Commit()
	if err != nil {
		return nil, err
	}
	if files, err := ws.Uncommitted(); err != nil {
		return nil, err
	} else if len(files) > 0 {
		return nil, hint.New(fmt.Sprintf("%d files differ from the last commit, %s first", len(files), files[0]), "Commit them: an edition locks what is committed.")
	}
	s, err := Read(ctx, ws)
	if err != nil {
		return nil, err
	}
	if err := inStep(ctx, ws); err != nil {
		return nil, err
	}
	screens, err := lockedScreens(s, o.Screens)
	if err != nil {
		return nil, err
	}
	if !o.Anyway {
		if err := sound(s, ws); err != nil {
			return nil, err
		}
	}
	list, err := ws.Editions()
	if err != nil {
		return nil, err
	}
	e := workspace.Edition{Number: 1, Message: strings.TrimSpace(o.Message), Commit: commit, Screens: screens, Draft: o.Draft}
	if n := len(list); n > 0 {
		e.Number = list[n-1].Number + 1
	}
	if err := ws.CutEdition(e); err != nil {
		return nil, err
	}
	if list, err = ws.Editions(); err != nil {
		return nil, err
	}
	i := slices.IndexFunc(list, func(x workspace.Edition) bool { return x.Number == e.Number })
	return &list[i], nil
}

// inStep refuses a workspace whose outputs do not follow its sources.
func inStep(ctx context.Context, ws *workspace.Workspace) error {
	r, err := Run(ctx, ws, Options{DryRun: true})
	switch {
	case err != nil:
		return err
	case r.Refused != nil:
		return r.Refused
	case len(r.Unread) > 0:
		return r.Unread[0]
	case len(r.Written)+len(r.Removed) > 0:
		return hint.New(fmt.Sprintf("the workspace is out of step: %d files would change", len(r.Written)+len(r.Removed)), "Run \"archetyp sync\", and commit.")
	}
	return nil
}

// lockedScreens are the screens that an edition names, as they are called: those that were asked for, or, where the
// configuration leaves some out, all others. None is all.
func lockedScreens(s *Snapshot, names []string) ([]string, error) {
	var known, published []string
	for _, d := range s.drawings {
		for _, sc := range d.record.Screens {
			known = append(known, sc.Name)
			if !guide.LeavesOut(s.ws.Config.Screens.LeaveOut, sc.Name) {
				published = append(published, sc.Name)
			}
		}
	}
	for _, n := range names {
		switch {
		case !slices.Contains(known, n):
			return nil, hint.New(fmt.Sprintf("there is no screen %q", n), "The screens are "+strings.Join(published, ", ")+".")
		case !slices.Contains(published, n):
			return nil, hint.New(fmt.Sprintf("the screen %q is left out of what is published", n), "screens: leave-out: in "+workspace.ConfigName+" says so.")
		}
	}
	if len(names) == 0 && len(published) < len(known) {
		return published, nil
	}
	return append([]string{}, names...), nil
}

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

// sound refuses a workspace in which the checks find errors.
func sound(s *Snapshot, ws *workspace.Workspace) error {
	anyway := "Mend it, or cut the edition with --anyway."
	found, err := token.Check(s.Tokens, token.CheckOptions{Names: ws.Config.Tokens.Names, Root: ws.Config.RootPx()})
	if err != nil {
		return err
	}
	for _, f := range found {
		if f.Grave {
			return hint.New("tokens check: "+f.Path+": "+f.Msg, anyway)
		}
	}
	report, err := Audit(s, ws, true)
	if err != nil {
		return err
	}
	for _, f := range report.Findings {
		if f.Level == audit.Error {
			return hint.New("audit: "+f.Message, anyway)
		}
	}
	c, ok, err := ReadTexts(ws)
	if err != nil || !ok {
		return err
	}
	locales := slices.Clone(ws.Config.Text.Locales)
	for _, f := range c.Check(text.CheckOptions{Locales: locales, Pattern: ws.Config.Text.Keys, Case: ws.Config.Text.Case}) {
		if slices.Contains(graveTexts, f.Rule) {
			return hint.New("text check: "+f.Key+": "+f.Msg, anyway)
		}
	}
	return nil
}

// graveTexts are the rules of the check of texts whose findings break what is built; a text that nobody has translated yet
// does not.
var graveTexts = []string{"conflict", "invalid", "lost", "forms"}

// Counted is what an edition holds.
type Counted struct {
	Screens  int `json:"screens"`
	Elements int `json:"elements"`
	Tokens   int `json:"tokens"`
	Texts    int `json:"texts"`
	Assets   int `json:"assets"`
}

// CountAt counts what a revision holds, as its lock says.
func CountAt(ws *workspace.Workspace, revision string) (c Counted, err error) {
	at, err := ws.At(revision)
	if err != nil {
		return c, err
	}
	defer at.Close()
	lock, err := at.ReadLock()
	if err != nil {
		return c, err
	}
	var s Summary
	if len(lock.Summary) > 0 {
		if err := strictly(lock.Summary, &s); err != nil {
			return c, err
		}
	}
	return Counted{s.Screens, s.Elements, s.Tokens, s.Texts, s.Assets}, nil
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
	c.spoken(sides)
	return c, c.drawings(ctx, sides, screens, agreed(ws, sides, [2]string{from, to}))
}

// spoken counts the phases and remarks that differ.
func (c *Comparison) spoken(sides [2]*state) {
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

// state is one side of a comparison.
type state struct {
	ws      *workspace.Workspace
	guest   bool
	sources []string
	tokens  *token.Library
	texts   *text.Catalogue
	reader  func() (*drawingReader, error)
}

func openState(ws *workspace.Workspace, revision string) (s *state, err error) {
	s = &state{ws: ws}
	if revision != "" {
		if s.ws, err = ws.At(workspace.EditionRevision(revision)); err != nil {
			return nil, err
		}
		s.guest = true
	}
	if s.sources, err = s.ws.Sources(); err != nil {
		return s, err
	}
	if s.tokens, err = s.ws.LoadTokens(s.ws.Reader(nil), nil); err != nil {
		return s, err
	}
	s.texts, _, err = ReadTexts(s.ws)
	s.reader = sync.OnceValues(func() (*drawingReader, error) { return plainReader(s.ws) })
	return s, err
}

func (s *state) close() {
	if s.guest {
		s.ws.Close()
	}
}

// document reads a source; nil where the state has none of that name.
func (s *state) document(source string) (*design.Document, error) {
	if !slices.Contains(s.sources, source) {
		return nil, nil
	}
	r, err := s.reader()
	if err != nil {
		return nil, err
	}
	doc, _, err := r.parse(source, false)
	return doc, err
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

// plainReader reads drawings of a workspace in full, and keeps no records.
func plainReader(ws *workspace.Workspace) (*drawingReader, error) {
	in := &inputs{ws: ws, disk: ws.Seen(), hashes: map[string]string{}}
	var err error
	if in.fonts, err = ws.FontFiles(); err != nil {
		return nil, err
	}
	r := &drawingReader{ctx: context.Background(), in: in, marks: ws.Config.SelectedMarks(), texts: TextOptions(ws)}
	return r, r.loadFonts()
}

// EditionSource parts the name of a source in a revision, "edition/3:booking" or "main:design/booking.svg".
func EditionSource(arg string) (revision, source string, ok bool) {
	revision, source, ok = strings.Cut(arg, ":")
	if !ok || revision == "" || source == "" || strings.HasPrefix(source, "//") || len(revision) == 1 {
		return "", "", false
	}
	return workspace.EditionRevision(revision), source, true
}

// SourceAt reads a source of a revision by its path or name.
func SourceAt(ws *workspace.Workspace, revision, name string) (*design.Document, error) {
	s, err := openState(ws, revision)
	if err != nil {
		return nil, err
	}
	defer s.close()
	for _, f := range s.sources {
		base := path.Base(f)
		if f == name || base == name || strings.TrimSuffix(base, path.Ext(base)) == name {
			doc, err := s.document(f)
			if err == nil {
				doc.Name = f
			}
			return doc, err
		}
	}
	return nil, hint.New(fmt.Sprintf("%s has no source %s", revision, name), "It has "+strings.Join(s.sources, ", ")+".")
}

// EditionNamed is an edition by its number, "3" or "edition/3".
func EditionNamed(ws *workspace.Workspace, name string) (*workspace.Edition, error) {
	list, err := ws.Editions()
	if err != nil {
		return nil, err
	}
	for i := range list {
		if workspace.EditionTag(list[i].Number) == workspace.EditionRevision(name) {
			return &list[i], nil
		}
	}
	return nil, hint.New("there is no edition "+name, "\"archetyp edition list\" lists them.")
}

// LastEdition is the tag of the last edition.
func LastEdition(ws *workspace.Workspace) (string, error) {
	list, err := ws.Editions()
	if err != nil {
		return "", err
	}
	if len(list) == 0 {
		return "", hint.New("no edition has been cut", "Name what to compare, for example: archetyp edition compare HEAD")
	}
	return workspace.EditionTag(list[len(list)-1].Number), nil
}

// EditionChanges are the changes that an edition made to a screen.
type EditionChanges struct {
	Edition workspace.Edition
	Changes []diff.Change
}

// ScreenHistory are the editions that changed a screen, the last one first; that it came with the first counts as well.
func ScreenHistory(ctx context.Context, ws *workspace.Workspace, screen string) (out []EditionChanges, err error) {
	list, err := ws.Editions()
	if err != nil {
		return nil, err
	}
	for i := len(list) - 1; i > 0; i-- {
		c, err := CompareStates(ctx, ws, workspace.EditionTag(list[i-1].Number), workspace.EditionTag(list[i].Number), []string{screen})
		if err != nil {
			return nil, err
		}
		if len(c.Screens) > 0 {
			out = append(out, EditionChanges{list[i], c.Screens[0].Changes})
		}
	}
	return out, nil
}
