package job

import (
	"context"
	"encoding/json"
	"maps"
	"slices"
	"strings"

	"archetyp/core/phase"
	"archetyp/core/remark"
	"archetyp/workspace"
)

// lookedFile keeps what the person at this machine has seen of the workspace. It is never committed.
const lookedFile = "looked.json"

// Looked is what a person has seen.
type Looked struct {
	Commit  string            `json:"commit"`  // of the drawings; "" outside of git
	Sources map[string]string `json:"sources"` // hashes of drawings, token files and texts
	Phases  map[string]string `json:"phases"`  // hashes of the entries, by key
	Entries map[string]bool   `json:"entries"` // of remarks, by id
}

// LastLook is what the person saw last; ok is false for nothing yet.
func LastLook(ws *workspace.Workspace) (l Looked, ok bool) {
	data, ok := ws.Cached(lookedFile)
	return l, ok && json.Unmarshal(data, &l) == nil
}

// Look is what there is to see now.
func Look(ws *workspace.Workspace) (Looked, error) {
	l := Looked{Sources: map[string]string{}, Phases: map[string]string{}, Entries: map[string]bool{}}
	l.Commit, _ = ws.Commit() // "" for none
	sources, err := ws.Sources()
	if err != nil {
		return l, err
	}
	tokens, err := ws.TokenFiles()
	if err != nil {
		return l, err
	}
	texts, err := ws.Glob([]string{textDir + "/*.json"})
	if err != nil {
		return l, err
	}
	disk := ws.Seen()
	for _, s := range slices.Concat(sources, tokens, texts) {
		if h, err := disk.Hash(s); err == nil {
			l.Sources[s] = h
		}
	}
	disk.Save()
	book, err := readBook(ws)
	if err != nil {
		return l, err
	}
	for k, e := range book.Entries {
		l.Phases[k] = statementKey(&e.Statement)
	}
	threads, err := readThreads(ws)
	if err != nil {
		return l, err
	}
	for _, t := range threads {
		for _, e := range t.Entries {
			l.Entries[e.ID] = true
		}
	}
	return l, nil
}

func statementKey(s *phase.Statement) string {
	return strings.Join([]string{s.Phase, s.By, s.On, s.Why}, "\x00")
}

// Saw remembers that the person has seen what there is.
func Saw(ws *workspace.Workspace) error {
	l, err := Look(ws)
	if err != nil {
		return err
	}
	data, err := json.Marshal(l)
	if err == nil {
		ws.Cache(lookedFile, data)
	}
	return err
}

// UnseenSince is the revision to compare with for what the person has not seen yet: what they saw last, else the last
// edition, else the last commit.
func UnseenSince(ws *workspace.Workspace) (string, error) {
	if l, ok := LastLook(ws); ok && l.Commit != "" {
		return l.Commit, nil
	}
	if tag, err := LastEdition(ws); err == nil {
		return tag, nil
	}
	return ws.Commit()
}

// Inbox is what concerns a person.
type Inbox struct {
	Me      workspace.Person
	First   bool          // nothing was seen before
	Remarks []InboxRemark // open ones that name the person, and unseen words in threads where they wrote
	Changed *Comparison   // drawings, tokens and texts since the last look; nil for none, and outside of git
	Sources []string      // drawings that changed, where git does not know how
	Phases  []Phased      // set since the last look
	Dropped []string      // keys of phases dropped since
	Unread  []error
}

// InboxRemark is a remark with what is new in it.
type InboxRemark struct {
	Remark
	New []remark.Entry // unseen, and not one's own
}

// Empty reports whether nothing concerns the person.
func (in *Inbox) Empty() bool {
	return len(in.Remarks)+len(in.Phases)+len(in.Dropped)+len(in.Sources) == 0 && (in.Changed == nil || in.Changed.Empty())
}

// ReadInbox gathers what concerns a person; "" is the one at this machine.
func ReadInbox(ctx context.Context, ws *workspace.Workspace, who string) (*Inbox, error) {
	in := &Inbox{Me: ws.Me()}
	if who != "" {
		in.Me = ws.PersonNamed(who)
	}
	last, ok := LastLook(ws)
	in.First = !ok
	all, unread, err := Remarks(ctx, ws, RemarkFilter{})
	if err != nil {
		return nil, err
	}
	in.Unread = unread
	for _, r := range all {
		x := InboxRemark{Remark: r}
		mine := slices.ContainsFunc(r.For, in.Me.Is)
		for _, e := range r.Entries {
			own := ws.PersonNamed(e.By)
			if in.Me.Is(e.By) || slices.ContainsFunc(own.Handles, in.Me.Is) {
				mine = true
			} else if !last.Entries[e.ID] {
				x.New = append(x.New, e)
			}
		}
		named := slices.ContainsFunc(r.For, in.Me.Is)
		if mine && len(x.New) > 0 || named && !r.Closed() {
			in.Remarks = append(in.Remarks, x)
		}
	}
	now, err := Look(ws)
	if err != nil || in.First {
		return in, err
	}
	if err := in.phases(ctx, ws, &last, &now); err != nil {
		return nil, err
	}
	return in, in.changes(ctx, ws, &last, &now)
}

// phases finds the phases set or dropped since the last look.
func (in *Inbox) phases(ctx context.Context, ws *workspace.Workspace, last, now *Looked) error {
	list, _, err := Phases(ctx, ws, PhaseFilter{}, false)
	if err != nil {
		return err
	}
	for _, p := range list {
		if last.Phases[p.Key] != now.Phases[p.Key] {
			in.Phases = append(in.Phases, p)
		}
	}
	for _, k := range sortedKeys(last.Phases) {
		if now.Phases[k] == "" {
			in.Dropped = append(in.Dropped, k)
		}
	}
	return nil
}

// changes finds the drawings, tokens and texts that changed since the last look.
func (in *Inbox) changes(ctx context.Context, ws *workspace.Workspace, last, now *Looked) error {
	if maps.Equal(last.Sources, now.Sources) {
		return nil
	}
	if last.Commit != "" {
		cmp, err := CompareStates(ctx, ws, last.Commit, "", nil)
		if err == nil {
			cmp.Phases, cmp.Remarks = 0, 0 // they are listed
			if !cmp.Empty() {
				in.Changed = cmp
			}
			return nil
		}
		if ctx.Err() != nil {
			return err
		}
	}
	for _, s := range sortedKeys(now.Sources) {
		if last.Sources[s] != now.Sources[s] {
			in.Sources = append(in.Sources, s)
		}
	}
	return nil
}
