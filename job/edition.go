package job

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"archetyp/core/audit"
	"archetyp/core/diff"
	"archetyp/core/guide"
	"archetyp/core/hint"
	"archetyp/core/text"
	"archetyp/core/token"
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
			return nil, hint.New(fmt.Sprintf("the screen %q is left out", n), "See screens: leave-out: in "+workspace.ConfigName+".")
		}
	}
	if len(names) == 0 && len(published) < len(known) {
		return published, nil
	}
	return append([]string{}, names...), nil
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
