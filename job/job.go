// Package job is the whole job: it reads every source of a workspace, harvests values, collects texts, exports
// assets, and makes outputs and guide. Each stage has a file of its own; this one says in which order they run.
package job

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"sort"

	"archetyp/core/token/harvest"
	"archetyp/workspace"
)

// Program is the version that stands in the lock: another one makes everything anew.
const Program = "0.2.0"

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
func Run(ctx context.Context, ws *workspace.Workspace, o Options) (*Report, error) {
	in, done, err := beginRun(ws, o)
	if err != nil {
		return nil, err
	}
	defer done()
	head, err := ws.ReadLockHead()
	if err != nil {
		return nil, err
	}
	report := &Report{Unmerged: ws.Unmerged()}
	switch {
	case o.Only == "" && in.same(head) && in.disk.Intact(head.Outputs):
		report.UpToDate = true
		return report, json.Unmarshal(head.Summary, &report.Summary)
	case o.Only == "assets" && in.assetsUnchanged(head, &report.Summary):
		report.UpToDate = true
		return report, nil
	}
	if o.Only == "assets" {
		return report, runAssets(ctx, in, o, report)
	}
	s, err := read(ctx, in, o)
	if err != nil {
		return nil, err
	}
	return report, s.run(ctx, o, report)
}

// run makes everything of a snapshot, and writes it.
func (s *Snapshot) run(ctx context.Context, o Options, report *Report) error {
	a := newArtefacts()
	remember, err := s.make(ctx, a, o, report)
	if err != nil {
		return err
	}
	if err := s.commit(a, o, report); err != nil || o.DryRun {
		return err
	}
	s.forgetRecords()
	return remember()
}

// make makes everything of a snapshot, and the lock; remember keeps what helps the next run, once all is written.
func (s *Snapshot) make(ctx context.Context, a *artefacts, o Options, report *Report) (remember func() error, err error) {
	s.summarise(report)
	var (
		ofTexts, ofTokens []string // warnings
		x                 *exports
		pages             int
		saveGuide         func() error
	)
	err = together(func() error { return s.makeTexts(a) }, func() error { return s.makeAnnotations(a) }, func() (err error) {
		ofTexts, err = s.makeTextOutputs(a)
		return err
	}, func() (err error) {
		ofTokens, err = s.makeOutputs(a)
		return err
	}, func() (err error) {
		if x, err = s.makeAssets(ctx, a, o); err == nil {
			pages, saveGuide, err = s.makeGuide(a, x, o)
		}
		return err
	})
	if err != nil {
		return nil, err
	}
	sum := &report.Summary
	sum.Warnings = slices.Concat(sum.Warnings, ofTexts, ofTokens, x.warnings)
	sum.Assets, sum.AssetFiles, sum.GuidePages = len(x.manifest.Assets), x.count(), pages
	if o.Only != "" {
		err = s.narrow(a, oursOnly(s.ws, o.Only, a, x))
	} else if !o.DryRun {
		err = s.putLock(a, sum)
	}
	return func() error { return errors.Join(saveGuide(), x.remember()) }, err
}

// putLock makes the lock of a whole run.
func (s *Snapshot) putLock(a *artefacts, sum *Summary) error {
	sort.Strings(sum.Warnings)
	lock, err := s.lockOf(a, sum)
	if err != nil {
		return err
	}
	data, err := lock.JSON()
	if err != nil {
		return err
	}
	return a.put(workspace.Memory, "the lock", workspace.LockName, data)
}

// runAssets exports the assets alone.
func runAssets(ctx context.Context, in *inputs, o Options, report *Report) error {
	lock, err := in.ws.ReadLock()
	if err != nil {
		return err
	}
	s := &Snapshot{ws: in.ws, in: in, lock: lock}
	s.followMoves()
	a := newArtefacts()
	last, err := s.lastExports(a)
	if err != nil {
		return err
	}
	names := last.unlike()
	s.partly = len(names) < len(in.sources)
	if err := s.readDrawings(ctx, names, o); err != nil {
		return err
	}
	s.summariseDrawings(report)
	x, err := s.makeAssets(ctx, a, o)
	if err != nil {
		return err
	}
	sum := &report.Summary
	sum.Warnings = append(sum.Warnings, x.warnings...)
	sum.Assets, sum.AssetFiles = len(x.manifest.Assets), x.count()
	if err := s.narrow(a, oursOnly(s.ws, o.Only, a, x)); err != nil {
		return err
	}
	if err := s.commit(a, o, report); err != nil || o.DryRun {
		return err
	}
	return x.remember()
}

// summariseDrawings counts what was read, and compares it with what the lock remembers.
func (s *Snapshot) summariseDrawings(r *Report) {
	sum := &r.Summary
	sum.Sources, sum.Fonts = len(s.drawings), len(s.in.fonts)
	for _, d := range s.drawings {
		sum.Screens += len(d.record.Screens)
		sum.Elements += d.record.count()
	}
	sum.Warnings = append(sum.Warnings, s.warnings()...)
	for _, name := range sortedKeys(s.ws.Config.Components) {
		if f := s.ws.Config.Components[name].File; f != "" && !s.ws.Exists(f) {
			sum.Warnings = append(sum.Warnings, fmt.Sprintf("%s: the component %s names %s, which does not exist", workspace.ConfigName, name, f))
		}
	}
	r.Changes = append(r.Changes, s.changes()...)
	r.Unread = s.Unread
}

// summarise counts what a snapshot holds, and lists what deserves a look.
func (s *Snapshot) summarise(r *Report) {
	s.summariseDrawings(r)
	sum := &r.Summary
	for _, w := range s.Tokens.Warnings() {
		sum.Warnings = append(sum.Warnings, w.Error())
	}
	set := s.Tokens.Base
	sum.Apart = aparts(s.Harvest, set)
	sum.Tokens, sum.Proposals = len(set.Tokens), s.Harvest.Proposals()
	for _, f := range s.Harvest.Found {
		if !f.Notable() {
			continue
		}
		msg := f.Text + " is almost " + f.Near
		if f.Off != "" {
			msg = fmt.Sprintf("%s is off the scale, nearest is %s", f.Text, f.Off)
		}
		sum.Look = append(sum.Look, fmt.Sprintf("%s (%s)", msg, where(f.Uses)))
	}
	used := s.Texts.Catalogue.Used()
	sum.Texts = len(used)
	for _, e := range used {
		sum.Folded += len(e.Places) - 1 // repeats under one key
	}
}

// where words the uses of a value: the first, and how many more.
func where(uses []harvest.Use) string {
	u := uses[0]
	s := u.Screen + ": " + u.Element
	if n := len(uses) - 1; n > 0 {
		s += fmt.Sprintf(" and %d more", n)
	}
	return s
}

// beginRun holds the workspace for a run, and finds what it depends on; done ends the run.
func beginRun(ws *workspace.Workspace, o Options) (in *inputs, done func(), err error) {
	release, err := ws.Hold(o.how())
	if err != nil {
		return nil, nil, err
	}
	if in, err = findInputs(ws); err != nil {
		release()
		return nil, nil, err
	}
	return in, func() {
		in.disk.Save()
		release()
	}, nil
}

// how a run takes part in the lock of the workspace.
func (o *Options) how() workspace.How {
	if o.DryRun {
		return workspace.Reading
	}
	return workspace.Writing
}
