// Package job is the whole job: it reads every source of a workspace, harvests values, collects texts, exports
// assets, and makes outputs and guide. Each stage has a file of its own; this one says in which order they run.
package job

import (
	"encoding/json"
	"fmt"
	"path"
	"sort"
	"strings"

	"archetyp/core/asset"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/text"
	"archetyp/core/token"
	"archetyp/workspace"
)

// Program is the version that stands in the lock: another one makes everything anew.
const Program = "0.1.0"

// Options of a run.
type Options struct {
	DryRun    bool                             // write nothing
	Overwrite bool                             // generated files edited by hand too
	Only      string                           // one kind of artefact: assets, guide; "" for all
	Hidden    bool                             // collect hidden texts too
	Tags      []string                         // given to every text collected
	Screens   []string                         // the only ones whose texts are collected; empty for all
	Strict    bool                             // a drawing that cannot be read stops everything
	Progress  func(stage string, done, of int) // may be nil
}

// Summary is what a run has to say; it is kept in the lock for when nothing changed.
type Summary struct {
	Sources    int      `json:"sources"`
	Screens    int      `json:"screens"`
	Elements   int      `json:"elements"`
	Fonts      int      `json:"fonts"`
	Tokens     int      `json:"tokens"`
	Proposals  int      `json:"proposals"`
	Texts      int      `json:"texts"`
	Folded     int      `json:"folded"`
	Assets     int      `json:"assets"`
	AssetFiles int      `json:"assetFiles"`
	GuidePages int      `json:"guidePages"`
	Warnings   []string `json:"warnings,omitempty"`
	Look       []string `json:"look,omitempty"`  // what deserves a look
	Apart      []Apart  `json:"apart,omitempty"` // where a drawing shows another value than its token has
}

// Report is the outcome of a run.
type Report struct {
	Summary  Summary
	Written  []string // files written, or that would be
	Removed  []string
	Changes  []string             // what changed in the sources since the last run, in words
	Unmerged []string             // token, text and lock files that git has not merged
	UpToDate bool                 // nothing had changed: nothing was read in full, nothing written
	Unread   []error              // drawings that could not be read; what was made of them stays
	Refused  *workspace.FileError // of a dry run: why a run would write nothing; nil where it would write
}

// Run does the job.
func Run(ws *workspace.Workspace, o Options) (*Report, error) {
	release, err := ws.Hold(o.how())
	if err != nil {
		return nil, err
	}
	defer release()
	r := newRun(ws, o)
	if err := r.inputs(); err != nil {
		return nil, err
	}
	defer r.disk.Save()
	r.report.Unmerged = ws.Unmerged()
	if o.Only == "" && r.unchanged() {
		r.report.UpToDate = true
		return r.report, json.Unmarshal(r.lock.Summary, &r.report.Summary)
	}
	stages := []func() error{r.wholeLock, r.load, r.read, r.tokens, r.texts, r.textOutputs, r.emit, r.assets, r.guide, r.newLock, r.finish, r.rememberAssets}
	if o.Only == "assets" {
		if r.report.UpToDate = r.assetsUnchanged(); r.report.UpToDate {
			return r.report, nil
		}
		stages = []func() error{r.wholeLock, r.readManifest, r.readChanged, r.assets, r.finish, r.rememberAssets}
	}
	for _, stage := range stages {
		if err := stage(); err != nil {
			return nil, err
		}
	}
	return r.report, nil
}

// how a run takes part in the lock of the workspace.
func (o *Options) how() workspace.How {
	if o.DryRun {
		return workspace.Reading
	}
	return workspace.Writing
}

func newRun(ws *workspace.Workspace, o Options) *run {
	return &run{ws: ws, o: o, report: &Report{}, outputs: map[string][]byte{}, kinds: map[string]workspace.Kind{}, makers: map[string]string{},
		kept: map[string]string{}}
}

// Reading is what a workspace's sources say, without anything written.
type Reading struct {
	Docs    []*design.Document
	Tokens  *token.Library
	Harvest *token.Harvest
	Texts   *text.Collection
	Report  *Report
}

// Read reads a workspace as a run does, and stops there.
func Read(ws *workspace.Workspace) (*Reading, error) {
	r := newRun(ws, Options{DryRun: true})
	for _, stage := range []func() error{r.inputs, r.load, r.wholeLock, r.read, r.tokens, r.texts} {
		if err := stage(); err != nil {
			return nil, err
		}
	}
	return &Reading{r.docs, r.lib, r.harvest, r.texts_, r.report}, nil
}

// run is the state that the stages hand on.
type run struct {
	ws          *workspace.Workspace
	o           Options
	report      *Report
	lock        *workspace.Lock
	disk        *workspace.Seen
	files       map[string][]byte // inputs as read, by path
	hashes      map[string]string
	sources     []string
	tokenInputs map[string]bool // inputs that only tokens follow from
	fonts       *font.Set
	faces       map[string]*font.Face // by file

	docs     []*design.Document
	lib      *token.Library
	names    Names
	unread   map[string]bool // sources that could not be read
	set      *token.Set      // of the default contexts
	harvest  *token.Harvest
	former   map[string][]string // places each token had at the last sync
	texts_   *text.Collection
	finds    []*text.Finds // texts found; nil where they are still to be found in docs
	pictures []*asset.Asset
	manifest *asset.Manifest // of the assets as they will lie on disk
	before   *asset.Manifest // as they lay there
	exported map[string]bool // files of the manifest that lay there
	stale    map[string]bool // sources that must be read for their assets; nil for all

	outputs map[string][]byte         // what is to lie on disk, by path
	kinds   map[string]workspace.Kind // of the outputs
	makers  map[string]string         // what made each, for messages
	kept    map[string]string         // what lies there already and stays, with its hash
	links   map[string]string         // files the drawings link to, with their hashes
}

// finish compares what was made with what lies on disk, and writes the difference as one change.
func (r *run) finish() error {
	s := &r.report.Summary
	sort.Strings(s.Warnings)
	if r.o.Only != "" {
		if err := r.narrow(); err != nil {
			return err
		}
	}
	change := &workspace.Change{}
	var edited, foreign []string
	for _, p := range sortedKeys(r.outputs) {
		if !change.Put(r.ws, r.kinds[p], p, r.outputs[p]) || r.kinds[p] != workspace.Generated {
			continue
		}
		data, err := r.ws.ReadFile(p)
		switch h := workspace.Hash(data); {
		case err != nil || h == r.lock.Outputs[p] || h == r.lock.Absorbed[p]:
		case r.lock.Outputs[p] == "":
			foreign = append(foreign, p)
		default:
			edited = append(edited, p)
		}
	}
	r.removals(change)
	for _, p := range change.Paths() {
		if p != workspace.LockName {
			r.report.Written = append(r.report.Written, p)
		}
	}
	r.report.Removed = change.Removed()
	refused := r.refusal(foreign, edited)
	if r.o.DryRun {
		r.report.Refused = refused
		for _, p := range foreign {
			r.report.Changes = append(r.report.Changes, p+" was not written by archetyp; sync will not replace it")
		}
		for _, p := range edited {
			r.report.Changes = append(r.report.Changes, p+" was edited by hand since it was written")
		}
		return nil
	}
	if refused != nil && !r.o.Overwrite {
		return refused
	}
	return r.ws.Apply(change)
}

// refusal is why nothing may be written: files in the way that archetyp did not write, or that somebody edited.
func (r *run) refusal(foreign, edited []string) *workspace.FileError {
	switch {
	case len(foreign) > 0:
		return &workspace.FileError{File: foreign[0], Msg: fmt.Sprintf("this file was not written by archetyp, and %s would replace it%s; nothing was written",
			r.makers[foreign[0]], more(len(foreign)-1)), Hint: "Move it away, choose another place in " + workspace.ConfigName + ", or replace it with --overwrite."}
	case len(edited) > 0:
		return &workspace.FileError{File: edited[0], Msg: fmt.Sprintf("edited by hand since it was written%s; nothing was written", more(len(edited)-1)),
			Hint: r.editHint(edited[0])}
	}
	return nil
}

// removals takes away what is no longer made, unless somebody edited it, or it has become something else.
func (r *run) removals(change *workspace.Change) {
	if len(r.unread) > 0 { // what was made of them stays
		return
	}
	for _, p := range sortedKeys(r.lock.Outputs) {
		if _, still := r.outputs[p]; still || r.kept[p] != "" || r.ws.Protected(p) != "" {
			continue
		}
		if data, err := r.ws.ReadFile(p); err == nil {
			if workspace.Hash(data) == r.lock.Outputs[p] {
				change.Remove(workspace.Generated, p)
			} else {
				r.report.Summary.Warnings = append(r.report.Summary.Warnings, p+": no longer made, but edited by hand; kept")
			}
		}
	}
}

// editHint says what can be done about a generated file that was edited.
func (r *run) editHint(file string) string {
	if out, _, err := outputOf(r.ws, file); err == nil && out.To != "" && path.Clean(out.To) == file {
		return fmt.Sprintf("\"archetyp tokens absorb %s\" takes the edits into the tokens; --overwrite throws them away.", file)
	}
	return "Make the edit in the token file or drawing it comes from. --overwrite throws the hand edits away."
}

// narrow leaves only one kind of artefact to write. The lock then keeps the inputs of the last whole run, so that the
// next one does the rest.
func (r *run) narrow() error {
	ours := func(p string) bool { return strings.HasPrefix(p, path.Clean(r.ws.Config.Guide.To)+"/") }
	if r.o.Only == "assets" { // they may lie beside others
		made := r.outputs
		ours = func(p string) bool { return made[p] != nil || r.exported[p] }
	}
	lock := *r.lock
	lock.Outputs = map[string]string{}
	for p, h := range r.lock.Outputs {
		if !ours(p) || r.kept[p] != "" {
			lock.Outputs[p] = h
		}
	}
	outputs := map[string][]byte{}
	for p, data := range r.outputs {
		if ours(p) {
			outputs[p] = data
			lock.Outputs[p] = workspace.Hash(data)
		}
	}
	for p := range r.lock.Outputs {
		if !ours(p) {
			delete(r.lock.Outputs, p) // not to be removed now
		}
	}
	r.outputs = outputs
	data, err := lock.JSON()
	if err != nil {
		return err
	}
	return r.put(workspace.Memory, "the lock", workspace.LockName, data)
}

func more(n int) string {
	switch n {
	case 0:
		return ""
	case 1:
		return " (and one more file)"
	}
	return fmt.Sprintf(" (and %d more files)", n)
}

func sortedKeys[V any](m map[string]V) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	sort.Strings(out)
	return out
}

// put adds a file to what is to lie on disk. by says what makes it: two may not make the same file.
func (r *run) put(kind workspace.Kind, by, p string, data []byte) error {
	p = path.Clean(p)
	if other := r.makers[p]; other != "" && other != by {
		return &workspace.FileError{File: p, Msg: fmt.Sprintf("both %s and %s would write this file", other, by), Hint: "Give each a place of its own in " + workspace.ConfigName + "."}
	}
	r.outputs[p], r.kinds[p], r.makers[p] = data, kind, by
	return nil
}
