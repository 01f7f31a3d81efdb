package job

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"path"
	"strings"
	"time"

	"archetyp/core/hint"
	"archetyp/core/phase"
	"archetyp/core/remark"
	"archetyp/core/text"
	"archetyp/core/token"
	"archetyp/workspace"
)

// ShareOptions say how work is shared.
type ShareOptions struct {
	Remote  string        // "" for the one that the branch follows
	Branch  string        // to push to; "" for the one that the branch follows
	Message string        // commits what differs; "" to refuse where something does
	Wait    time.Duration // how long the remote may say nothing; 0 for the usual
	Anyway  bool          // push though conflicts are left
}

// Shared is what came and went.
type Shared struct {
	Remote, Branch string
	Resumed        bool // a pull that had been stopped was ended
	Committed      bool // what differed was committed
	Came, Went     []workspace.CommitInfo
	Merged         bool // both sides had changed
	Conflicts      []Unsettled
	Kept           []string     // files that one side changed and the other removed, in words
	Renumbered     []Renumbered // editions that two people had cut under one number
	Editions       []int        // pushed
	Pushed         bool
	Before, After  string // commits, before and after a pull
	Stale          error  // why outputs could not be made anew; nil where they were
}

// Unsettled is something that two people changed at the same time. Both versions are there; one is to be chosen.
type Unsettled struct {
	File   string `json:"file"`
	What   string `json:"what"`
	Ours   string `json:"ours,omitempty"`
	Theirs string `json:"theirs,omitempty"`
	Settle string `json:"settle"` // how
}

// Renumbered is an edition that got another number.
type Renumbered struct {
	Was, Is int
	Message string
}

// TheirsExt is behind the name of a file that could not be merged, for the version of the other side.
const TheirsExt = ".theirs"

// Pull brings what others pushed: it fetches, merges by token, by text, by phase and by remark, makes the outputs anew,
// and moves the branch there. Either all of it happens or nothing.
func Pull(ctx context.Context, ws *workspace.Workspace, o ShareOptions) (*Shared, error) {
	r, done, s, err := beginSharing(ctx, ws, &o)
	if err != nil {
		return s, err
	}
	defer done()
	if err := r.Fetch(ctx); err != nil {
		return s, err
	}
	return s, pull(ctx, ws, r, s)
}

// beginSharing holds the workspace, ends a pull that was stopped, and has nothing uncommitted left.
func beginSharing(ctx context.Context, ws *workspace.Workspace, o *ShareOptions) (r *workspace.Repo, done func(), s *Shared, err error) {
	s = &Shared{}
	release, err := ws.Hold(workspace.Writing)
	if err != nil {
		return nil, nil, s, err
	}
	defer func() {
		if err != nil {
			release()
		}
	}()
	if r, err = ws.Repo(o.Remote); err != nil {
		return nil, nil, s, err
	}
	if o.Wait > 0 {
		r.Wait = o.Wait
	}
	s.Remote, s.Branch = r.Remote, r.TheirBranch()
	if s.Resumed, err = r.Resume(); err != nil {
		return nil, nil, s, err
	}
	if list := ws.Unmerged(); len(list) > 0 {
		return nil, nil, s, hint.New("git is in the middle of a merge: "+list[0], "End it with \"git commit\", or give it up with \"git merge --abort\".")
	}
	if o.Message != "" { // what is committed is in step
		if _, err := Run(ctx, ws, Options{}); err != nil {
			return nil, nil, s, err
		}
	}
	files, err := ws.Uncommitted()
	switch {
	case err != nil:
		return nil, nil, s, err
	case len(files) > 0 && o.Message == "":
		return nil, nil, s, hint.New(fmt.Sprintf("%s not committed, %s first", counted(len(files), "file is", "files are"), files[0]),
			"Commit them, or have them committed: -m \"what changed\"")
	case len(files) > 0:
		if err := ws.CommitAll(o.Message); err != nil {
			return nil, nil, s, err
		}
		s.Committed = true
	}
	return r, func() {
		r.Close()
		release()
	}, s, nil
}

func counted(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
}

// pull merges what was fetched.
func pull(ctx context.Context, ws *workspace.Workspace, r *workspace.Repo, s *Shared) error {
	renumbered, err := r.SettleEditions()
	if err != nil {
		return err
	}
	for _, x := range renumbered {
		s.Renumbered = append(s.Renumbered, Renumbered{x.Was, x.Is, x.Message})
	}
	head, theirs := r.Commit("HEAD"), r.Commit(r.Theirs)
	if s.Before == "" {
		s.Before = head
	}
	s.After = head
	if theirs == "" || theirs == head {
		return nil
	}
	if head == "" {
		return hint.New("there is no commit here yet", "Commit the workspace first, or clone the repository.")
	}
	base := r.Base(head, theirs)
	if base == theirs {
		return nil
	}
	came, err := r.Between(head, theirs)
	if err != nil {
		return err
	}
	s.Came = append(came, s.Came...)
	target := theirs
	if base != head {
		m := &mergeRun{ws: ws, r: r, s: s, base: base, ours: head, theirs: theirs}
		if target, err = m.commit(ctx); err != nil {
			return err
		}
		s.Merged = true
	}
	if err := r.Adopt(head, target); err != nil {
		return err
	}
	s.After = target
	return nil
}

// Push shares the work of this clone: it brings outputs in step, merges what others pushed before, and pushes the branch
// with its editions. Nothing is ever overwritten there.
func Push(ctx context.Context, ws *workspace.Workspace, o ShareOptions) (*Shared, error) {
	r, done, s, err := beginSharing(ctx, ws, &o)
	if err != nil {
		return s, err
	}
	defer done()
	if err := inStep(ctx, ws); err != nil {
		return s, err
	}
	for try := 0; ; try++ {
		if err := r.Fetch(ctx); err != nil {
			return s, err
		}
		if err := pull(ctx, ws, r, s); err != nil {
			return s, err
		}
		if len(s.Conflicts) == 0 {
			if s.Conflicts, err = Unsettleds(ws); err != nil {
				return s, err
			}
		}
		if len(s.Conflicts) > 0 && !o.Anyway {
			return s, nil
		}
		branch := o.Branch
		if branch == "" {
			branch = r.TheirBranch()
		}
		if s.Editions, err = r.NewEditions(); err != nil {
			return s, err
		}
		head := r.Commit("HEAD")
		there := r.Commit("refs/remotes/" + r.Remote + "/" + branch)
		if there == head && len(s.Editions) == 0 {
			return s, nil
		}
		went := there
		if went == "" {
			went = r.Commit(r.Theirs)
		}
		if went != "" {
			if s.Went, err = r.Between(went, head); err != nil {
				return s, err
			}
		}
		err = r.Push(ctx, head, branch, s.Editions)
		if errors.Is(err, workspace.ErrRace) && try < 20 {
			continue
		}
		if err == nil {
			s.Pushed, s.Branch = true, branch
			if r.Commit(r.Theirs) == "" || o.Branch != "" {
				err = r.Follow(branch)
			}
		}
		return s, err
	}
}

// Unsettleds lists the conflicts that are left in the workspace.
func Unsettleds(ws *workspace.Workspace) (out []Unsettled, err error) {
	lib, err := ws.ReadTokens(nil)
	if err != nil {
		return nil, err
	}
	for _, c := range lib.Base.Conflicts() {
		file := "tokens"
		if t := lib.Base.Get(c.Path); t != nil {
			file = t.File
		}
		out = append(out, tokenConflict(file, c))
	}
	c, ok, err := ReadTexts(ws)
	if err != nil {
		return nil, err
	}
	if ok {
		for _, f := range c.Check(text.CheckOptions{Only: []string{"conflict"}}) {
			out = append(out, Unsettled{File: workspace.TextDir + "/" + f.Locale + ".json", What: f.Key, Ours: f.Msg, Settle: settleText(f.Key, f.Locale, c.Locale)})
		}
	}
	book, err := readBook(ws)
	if err != nil {
		return nil, err
	}
	for _, k := range book.Keys() {
		for _, x := range book.Entries[k].Or {
			out = append(out, phaseConflict(k, book.Entries[k].Said, x))
		}
	}
	left, err := ws.Glob([]string{"**/*" + TheirsExt})
	for _, f := range left {
		out = append(out, fileConflict(strings.TrimSuffix(f, TheirsExt)))
	}
	return out, err
}

func tokenConflict(file string, c token.Conflict) Unsettled {
	what := c.Path
	if c.Property != "" {
		what += " " + c.Property
	}
	return Unsettled{file, what, c.Ours, c.Theirs, "archetyp tokens set " + c.Path + " VALUE"}
}

func settleText(key, locale, source string) string {
	if locale == source {
		return "archetyp text set " + key + " WORDS"
	}
	return "archetyp text set " + key + " WORDS --locale " + locale
}

func phaseConflict(key string, ours, theirs phase.Said) Unsettled {
	return Unsettled{phase.FileName, key, ours.Phase + " by " + ours.By, theirs.Phase + " by " + theirs.By, "archetyp phase set SOURCE SELECTOR PHASE"}
}

func fileConflict(file string) Unsettled {
	return Unsettled{File: file, What: "the file", Ours: file, Theirs: file + TheirsExt,
		Settle: "take what you want of " + file + TheirsExt + ", and remove it"}
}

// mergeRun is a merge of two commits.
type mergeRun struct {
	ws                 *workspace.Workspace
	r                  *workspace.Repo
	s                  *Shared
	base, ours, theirs string
	files              [3]map[string]workspace.Blob
	edit               workspace.Edit
}

// commit makes the commit that both sides become, with the outputs made anew.
func (m *mergeRun) commit(ctx context.Context) (string, error) {
	merged, err := m.r.MergeTrees(m.ours, m.theirs)
	if err != nil {
		return "", err
	}
	for i, c := range []string{m.base, m.ours, m.theirs} {
		if m.files[i], err = m.r.Files(c); err != nil {
			return "", err
		}
	}
	m.edit = workspace.Edit{}
	made, err := m.generated()
	if err != nil {
		return "", err
	}
	if err := m.settle(merged, made); err != nil {
		return "", err
	}
	if err := m.special(made); err != nil {
		return "", err
	}
	tree, err := m.r.Edited(merged.Tree, m.edit)
	if err != nil {
		return "", err
	}
	message := fmt.Sprintf("Merge %s of %s", m.r.TheirBranch(), m.r.Remote)
	commit, err := m.r.CommitTree(tree, message, m.ours, m.theirs)
	if err != nil {
		return "", err
	}
	files, err := remade(ctx, m.ws, commit)
	if err != nil { // the merge stands; somebody has to look at the sources first
		m.s.Stale = err
		return commit, nil
	}
	if len(files) == 0 {
		return commit, nil
	}
	again := workspace.Edit{}
	for p, data := range files {
		again[m.r.Prefix+p] = data
	}
	if tree, err = m.r.Edited(tree, again); err != nil {
		return "", err
	}
	return m.r.CommitTree(tree, message, m.ours, m.theirs)
}

// generated are the files that either side's last sync made, by path in the repository.
func (m *mergeRun) generated() (map[string]bool, error) {
	out := map[string]bool{m.r.Prefix + workspace.LockName: true}
	for _, c := range []string{m.ours, m.theirs} {
		at, err := m.ws.At(c)
		if err != nil {
			return nil, err
		}
		lock, err := at.ReadLock()
		at.Close()
		if err != nil {
			continue // it is made anew
		}
		for p := range lock.Outputs {
			if !workspace.IsCatalogue(p) && !workspace.IsSpoken(p) {
				out[m.r.Prefix+p] = true
			}
		}
	}
	return out, nil
}

// settle decides about the files that git could not merge: what is made anew keeps our side, and of all others our side
// stays with theirs beside it. What only one side still has is kept.
func (m *mergeRun) settle(merged *workspace.Merged, made map[string]bool) error {
	for _, p := range sortedKeys(merged.Unmerged) {
		b := merged.Unmerged[p]
		ours, theirs := b[1], b[2]
		kept := ours
		if kept.Object == "" {
			kept = theirs
		}
		if kept.Mode == "160000" || kept.Mode == "120000" {
			return hint.New("both sides changed "+p+", which is no ordinary file", "Merge it with git: git merge "+m.theirs[:12])
		}
		data, err := m.r.Contents(kept)
		if err != nil {
			return err
		}
		if kept.Object == "" { // renamed in two ways: git has both names beside it
			m.edit[p] = nil
			continue
		}
		m.edit[p] = data
		in, inside := m.r.Inside(p)
		switch {
		case made[p] || inside && m.kind(in) != nil:
		case theirs.Object == "":
			m.s.Kept = append(m.s.Kept, p+": changed here, removed there; it stays")
		case ours.Object == "":
			m.s.Kept = append(m.s.Kept, p+": removed here, changed there; it is there again")
		default:
			other, err := m.r.Contents(theirs)
			if err != nil {
				return err
			}
			m.edit[p+TheirsExt] = other
			m.s.Conflicts = append(m.s.Conflicts, fileConflict(p))
		}
	}
	return nil
}

// mergeFile merges three versions of a file by what stands in it.
type mergeFile func(file string, base, ours, theirs []byte) ([]byte, []Unsettled, error)

// kind is how a file of the workspace is merged by what stands in it; nil for line by line.
func (m *mergeRun) kind(file string) mergeFile {
	switch {
	case strings.HasSuffix(file, ".tokens.json"):
		return func(file string, base, ours, theirs []byte) ([]byte, []Unsettled, error) {
			out, list, err := token.ThreeWay(base, ours, theirs, file)
			var left []Unsettled
			for _, c := range list {
				left = append(left, tokenConflict(file, c))
			}
			return out, left, err
		}
	case file == phase.FileName:
		return func(_ string, base, ours, theirs []byte) ([]byte, []Unsettled, error) {
			out, list, err := phase.Merge(base, ours, theirs)
			var left []Unsettled
			for _, c := range list {
				left = append(left, phaseConflict(c.Key, c.Ours, c.Theirs))
			}
			return out, left, err
		}
	case workspace.IsSpoken(file) && remarkFile(file):
		return func(file string, base, ours, theirs []byte) ([]byte, []Unsettled, error) {
			out, _, err := remark.Merge(strings.TrimSuffix(path.Base(file), ".md"), base, ours, theirs)
			return out, nil, err // both versions of a text stand in the thread
		}
	case workspace.IsCatalogue(file):
		return keepOurs // the catalogue is merged as a whole
	}
	return nil
}

func keepOurs(_ string, _, ours, _ []byte) ([]byte, []Unsettled, error) { return ours, nil, nil }

// special merges the files that both sides changed by what stands in them.
func (m *mergeRun) special(made map[string]bool) error {
	texts := false
	for _, p := range sortedKeys(m.files[1]) {
		in, inside := m.r.Inside(p)
		if !inside {
			continue
		}
		if b := m.files[0][p]; made[p] && m.files[1][p] != b && m.files[2][p] != b { // one side whole, until it is made anew
			data, err := m.r.Contents(m.files[1][p])
			if err != nil {
				return err
			}
			m.edit[p] = data
			continue
		}
		merge := m.kind(in)
		base, ours, theirs := m.files[0][p], m.files[1][p], m.files[2][p]
		if merge == nil || ours == theirs || ours == base || theirs == base || theirs.Object == "" {
			texts = texts || workspace.IsCatalogue(in) && ours != theirs
			continue
		}
		if workspace.IsCatalogue(in) {
			texts = true
			continue
		}
		var data [3][]byte
		for i, b := range []workspace.Blob{base, ours, theirs} {
			var err error
			if data[i], err = m.r.Contents(b); err != nil {
				return err
			}
		}
		out, left, err := merge(in, data[0], data[1], data[2])
		if err != nil { // one side does not parse: both stay
			m.edit[p], m.edit[p+TheirsExt] = data[1], data[2]
			m.s.Conflicts = append(m.s.Conflicts, fileConflict(in))
			continue
		}
		m.edit[p] = out
		m.s.Conflicts = append(m.s.Conflicts, left...)
	}
	if texts {
		return m.texts()
	}
	return nil
}

// texts merges the catalogue as a whole: words and what is known of keys belong together.
func (m *mergeRun) texts() error {
	var sides [3]*text.Catalogue
	for i, c := range []string{m.base, m.ours, m.theirs} {
		at, err := m.ws.At(c)
		if err != nil {
			return err
		}
		sides[i], _, err = ReadTexts(at)
		at.Close()
		if err != nil {
			return err
		}
	}
	out, clashes := text.Merge(sides[0], sides[1], sides[2])
	for _, c := range clashes {
		m.s.Conflicts = append(m.s.Conflicts, Unsettled{workspace.TextDir + "/" + c.Locale + ".json", c.Key, c.Ours, c.Theirs, settleText(c.Key, c.Locale, out.Locale)})
	}
	put := func(name string, data []byte) {
		p := m.r.Prefix + workspace.TextDir + "/" + name
		if m.files[1][p].Object != "" || m.files[2][p].Object != "" || string(data) != "{}\n" {
			m.edit[p] = data
		}
	}
	put(text.KeysFile, out.KeysJSON())
	for _, l := range append([]string{out.Locale}, out.Locales...) {
		put(l+".json", out.LocaleJSON(l))
	}
	return nil
}

// remade are the artefacts of a commit that differ from what lies in it: files by path in the workspace, nil for those
// that are no longer made.
func remade(ctx context.Context, ws *workspace.Workspace, commit string) (map[string][]byte, error) {
	at, err := ws.At(commit)
	if err != nil {
		return nil, err
	}
	defer at.Close()
	at.Borrow()
	in, err := findInputs(at)
	if err != nil {
		return nil, err
	}
	s, err := read(ctx, in, Options{Strict: true})
	if err != nil {
		return nil, err
	}
	a := newArtefacts()
	report := &Report{}
	if _, err := s.make(ctx, a, Options{}, report); err != nil {
		return nil, err
	}
	out := map[string][]byte{}
	for p, f := range a.files {
		if data, err := at.ReadFile(p); err != nil || !bytes.Equal(data, f.data) {
			out[p] = f.data
		}
	}
	for p := range s.lock.Outputs {
		if a.files[p] == nil && a.kept[p] == "" && !workspace.IsSpoken(p) && at.Protected(p) == "" && at.Exists(p) {
			out[p] = nil
		}
	}
	return out, nil
}
