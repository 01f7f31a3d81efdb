package editor

import (
	"bytes"
	"context"
	"errors"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"

	"archetyp/core/design"
	"archetyp/core/drift"
	"archetyp/core/offer"
	"archetyp/job"
	"archetyp/workspace"
)

// space is a workspace that open texts lie in. What it has last read without a fault is what it answers from.
type space struct {
	s   *Server
	dir string

	begun sync.Once

	mu       sync.Mutex
	answers  *job.Answers                  // nil until the first reading
	reading  chan struct{}                 // closed when the reading under way ends; nil for none
	dirty    bool                          // something changed since it began
	fault    string                        // that was reported last
	focus    job.Focus                     // as last seen
	own      *focused                      // nil until it is asked for
	declared map[string]bool               // custom properties of code; nil until they are known
	looked   time.Time                     // when they were looked for
	renaming *renaming                     // nil for none
	drifts   map[string][]drift.Difference // of the site, by style sheet
}

// focused are the focused elements, as they are read for one state of the workspace.
type focused struct {
	focus    job.Focus
	of       *job.Answers
	elements []*design.Element
	own      map[string][]*offer.Own // by language
	err      error
}

// isInput reports whether a workspace is read from a file of a kind, beside its code.
func isInput(file string) bool {
	switch filepath.Ext(file) {
	case ".json", ".yaml", ".yml", ".svg", ".ora":
		return true
	}
	return false
}

// patience is how long a request waits for a workspace that is being read anew, before it is answered from what was read
// last.
const patience = 150 * time.Millisecond

// spaceOf is the workspace of a file; nil for none.
func (s *Server) spaceOf(file string) *space {
	if file == "" {
		return nil
	}
	dir := filepath.Dir(file)
	for {
		s.mu.Lock()
		sp := s.spaces[dir]
		s.mu.Unlock()
		if sp != nil {
			return sp
		}
		if _, err := os.Stat(filepath.Join(dir, workspace.ConfigName)); err == nil {
			break
		}
		up := filepath.Dir(dir)
		if up == dir {
			return nil
		}
		dir = up
	}
	s.mu.Lock()
	sp := s.spaces[dir]
	if sp == nil {
		sp = &space{s: s, dir: dir}
		s.spaces[dir] = sp
	}
	s.mu.Unlock()
	sp.begin()
	return sp
}

// begin reads a workspace for the first time, and watches it from then on.
func (sp *space) begin() {
	sp.begun.Do(func() {
		sp.stale()
		sp.s.work.Go(sp.watch)
		sp.s.work.Go(sp.watchFocus)
	})
}

// stale has the workspace read anew.
func (sp *space) stale() {
	sp.mu.Lock()
	defer sp.mu.Unlock()
	sp.dirty = true
	if sp.reading == nil {
		sp.reading = make(chan struct{})
		sp.s.work.Go(sp.read)
	}
}

// read reads the workspace until it is as it was when the reading began.
func (sp *space) read() {
	for {
		sp.mu.Lock()
		if !sp.dirty || sp.s.ctx.Err() != nil {
			close(sp.reading)
			sp.reading = nil
			sp.mu.Unlock()
			sp.publishAll()
			sp.findDeclared()
			sp.findDrift()
			return
		}
		sp.dirty = false
		sp.mu.Unlock()
		a, err := sp.load()
		sp.mu.Lock()
		if err == nil && a != nil {
			sp.answers = a
		}
		sp.mu.Unlock()
		sp.report(err)
	}
}

// load reads the workspace as it is, with what the client has open.
func (sp *space) load() (a *job.Answers, err error) {
	defer func() {
		if r := recover(); r != nil {
			sp.s.logf("reading %s: %v", sp.dir, r)
			err = errors.New("the workspace could not be read: an error inside the program")
		}
	}()
	a, err = job.ReadAnswers(sp.dir, sp.buffers())
	if a != nil {
		a.Desk.Pictures = sp.s.call().client.pictures
		a.Prepare()
	}
	return a, err
}

// buffers are the open texts that a workspace is read from and that are not as on disk, by path from it.
func (sp *space) buffers() map[string][]byte {
	out := map[string][]byte{}
	for _, d := range sp.s.call().docs {
		rel, ok := sp.rel(d.file)
		if !ok || !isInput(d.file) {
			continue
		}
		if old, err := os.ReadFile(d.file); err != nil || !bytes.Equal(old, []byte(d.text.string)) {
			out[rel] = []byte(d.text.string)
		}
	}
	return out
}

// rel is the path of a file from the workspace.
func (sp *space) rel(file string) (string, bool) {
	rel, err := filepath.Rel(sp.dir, file)
	return filepath.ToSlash(rel), err == nil && filepath.IsLocal(rel)
}

// report says once what is wrong with the workspace; what was read before goes on being answered from.
func (sp *space) report(err error) {
	msg := ""
	if err != nil {
		msg = err.Error()
	}
	sp.mu.Lock()
	same := msg == sp.fault
	had := sp.answers != nil
	sp.fault = msg
	sp.mu.Unlock()
	if same || msg == "" || sp.s.ctx.Err() != nil {
		return
	}
	if had {
		msg += "\nUntil that is mended, answers are from the workspace as it was before."
	}
	sp.s.message(messageWarning, msg)
}

// now is the workspace as it was last read without a fault, the reading under way waited for a little; nil for one that
// could not be read.
func (sp *space) now(ctx context.Context) *job.Answers {
	sp.mu.Lock()
	a, reading := sp.answers, sp.reading
	sp.mu.Unlock()
	if reading == nil {
		return a
	}
	wait := time.After(patience)
	if a == nil {
		wait = nil // there is nothing else to answer from
	}
	select {
	case <-reading:
	case <-wait:
	case <-ctx.Done():
	}
	sp.mu.Lock()
	defer sp.mu.Unlock()
	return sp.answers
}

// watch has the workspace read anew when its files change on disk.
func (sp *space) watch() {
	w, err := workspace.Watch(sp.dir)
	if err != nil {
		sp.s.logf("%v", err)
		return
	}
	defer w.Close()
	for {
		changed, err := w.Next(sp.s.ctx)
		if err != nil {
			return // the folder is gone, or the server ends
		}
		if changed == nil || slices.ContainsFunc(changed, func(f string) bool { return isInput(f) || f == workspace.LockName || workspace.IsAnnotation(f) }) {
			sp.stale()
		} else {
			sp.findDeclared()
			sp.publishAll()
			sp.findDrift()
		}
		sp.finishRename()
	}
}

// focusPause is how often the focused element is looked for, which the served guide and the command line set, too.
const focusPause = 300 * time.Millisecond

// watchFocus says which element is focused when that changes.
func (sp *space) watchFocus() {
	t := time.NewTicker(focusPause)
	defer t.Stop()
	for {
		if a := sp.now(sp.s.ctx); a != nil {
			if f, ok := a.Focus(); ok {
				sp.sayFocus(a, f)
			}
		}
		select {
		case <-t.C:
		case <-sp.s.ctx.Done():
			return
		}
	}
}

// sayFocus shows the focused element as a status message, each once.
func (sp *space) sayFocus(a *job.Answers, f job.Focus) {
	sp.mu.Lock()
	same := f == sp.focus
	sp.focus = f
	sp.mu.Unlock()
	if same {
		return
	}
	found, err := a.Focused(sp.s.ctx, f)
	if err != nil {
		sp.s.message(messageWarning, "The focused element cannot be read: "+err.Error())
		return
	}
	sp.s.message(messageInfo, "Focused: "+titles(found)+" ("+f.Source+")")
}

func titles(found []*design.Element) string {
	var names []string
	for _, e := range found {
		names = append(names, e.Title())
	}
	return strings.Join(names, ", ")
}

// focused are the focused elements and their declarations as a language writes them; none where nothing is focused, or
// where it is no more.
func (sp *space) focused(ctx context.Context, a *job.Answers, language string) (job.Focus, []*offer.Own) {
	f, ok := a.Focus()
	if !ok {
		return f, nil
	}
	sp.mu.Lock()
	have := sp.own
	sp.mu.Unlock()
	if have == nil || have.focus != f || have.of != a {
		have = &focused{focus: f, of: a, own: map[string][]*offer.Own{}}
		have.elements, have.err = a.Focused(ctx, f)
		sp.mu.Lock()
		sp.own = have
		sp.mu.Unlock()
	}
	if have.err != nil {
		return f, nil
	}
	sp.mu.Lock()
	own, known := have.own[language]
	sp.mu.Unlock()
	if known {
		return f, own
	}
	for _, e := range have.elements[:min(len(have.elements), mostFocused)] {
		if o, err := a.Own(e, language); err == nil {
			own = append(own, o)
		}
	}
	sp.mu.Lock()
	have.own[language] = own
	sp.mu.Unlock()
	return f, own
}

// mostFocused is how many focused elements are offered values of.
const mostFocused = 8

// declaredPause is how long what the code declares is taken to be as it was.
const declaredPause = 2 * time.Second

// findDeclared reads which custom properties the code of the workspace declares.
func (sp *space) findDeclared() {
	a := sp.now(sp.s.ctx)
	sp.mu.Lock()
	lately := time.Since(sp.looked) < declaredPause
	sp.looked = time.Now()
	sp.mu.Unlock()
	if a == nil || lately {
		return
	}
	known, err := a.Declared()
	if err != nil {
		return
	}
	sp.mu.Lock()
	first := sp.declared == nil
	sp.declared = known
	sp.mu.Unlock()
	if first {
		sp.publishAll()
	}
}

// openFile is what is asked at a document: it, its workspace, and what that answers; nil where it lies in none, or the
// document is not open.
type openFile struct {
	*document
	sp *space
	a  *job.Answers
}

// open finds a document and its workspace.
func (c *call) open(ctx context.Context, uri string) *openFile {
	d := c.docs[uri]
	if d == nil {
		return nil
	}
	sp := c.spaceOf(d.file)
	if sp == nil {
		return nil
	}
	a := sp.now(ctx)
	if a == nil {
		return nil
	}
	return &openFile{d, sp, a}
}

// rel is the path of a document from its workspace.
func (o *openFile) rel() string {
	rel, _ := o.sp.rel(o.file)
	return rel
}
