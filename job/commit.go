package job

import (
	"fmt"
	"path"
	"sort"
	"strings"

	"archetyp/workspace"
)

// commit compares what was made with what lies on disk, and writes the difference as one change. A dry run only says
// what would be written.
func (s *Snapshot) commit(a *artefacts, o Options, report *Report) error {
	sort.Strings(report.Summary.Warnings)
	change := &workspace.Change{}
	var edited, foreign []string
	for _, p := range a.made() {
		f := a.files[p]
		if !change.Put(s.ws, f.kind, p, f.data) || f.kind != workspace.Generated {
			continue
		}
		data, err := s.ws.ReadFile(p)
		switch h := workspace.Hash(data); {
		case err != nil || h == s.lock.Outputs[p] || h == s.lock.Absorbed[p]:
		case s.lock.Outputs[p] == "":
			foreign = append(foreign, p)
		default:
			edited = append(edited, p)
		}
	}
	s.removals(a, change, report)
	report.Written = a.stale()
	for _, p := range change.Paths() {
		if p != workspace.LockName {
			report.Written = append(report.Written, p)
		}
	}
	sort.Strings(report.Written)
	report.Removed = change.Removed()
	refused := s.refusal(a, foreign, edited)
	if o.DryRun {
		report.Refused = refused
		for _, p := range foreign {
			report.Changes = append(report.Changes, p+" was not written by archetyp; sync will not replace it")
		}
		for _, p := range edited {
			report.Changes = append(report.Changes, p+" was edited by hand since it was written")
		}
		return nil
	}
	if refused != nil && !o.Overwrite {
		return refused
	}
	return s.ws.Apply(change)
}

// refusal is why nothing may be written: files in the way that archetyp did not write, or that somebody edited.
func (s *Snapshot) refusal(a *artefacts, foreign, edited []string) *workspace.FileError {
	switch {
	case len(foreign) > 0:
		return &workspace.FileError{File: foreign[0],
			Msg: fmt.Sprintf("this file was not written by archetyp, and %s would replace it%s; nothing was written",
				a.files[foreign[0]].maker, more(len(foreign)-1)), Hint: "Move it away, choose another place in " +
				workspace.ConfigName + ", or replace it with --overwrite."}
	case len(edited) > 0:
		return &workspace.FileError{File: edited[0],
			Msg:  fmt.Sprintf("edited by hand since it was written%s; nothing was written", more(len(edited)-1)),
			Hint: s.editHint(edited[0])}
	}
	return nil
}

// editHint says what can be done about a generated file that was edited.
func (s *Snapshot) editHint(file string) string {
	if out, _, err := outputOf(s.ws, file); err == nil && out.To != "" && path.Clean(out.To) == file {
		return fmt.Sprintf("\"archetyp tokens absorb %s\" takes the edits into the tokens; --overwrite throws them away.",
			file)
	}
	return "Make the edit in the token file or drawing it comes from. --overwrite throws the hand edits away."
}

// removals takes away what is no longer made, unless somebody edited it, or it has become something else.
func (s *Snapshot) removals(a *artefacts, change *workspace.Change, report *Report) {
	if len(s.unread) > 0 { // what was made of them stays
		return
	}
	for _, p := range sortedKeys(s.lock.Outputs) {
		if a.files[p] != nil || a.kept[p] != "" || s.ws.Protected(p) != "" {
			continue
		}
		if data, err := s.ws.ReadFile(p); err == nil {
			if workspace.Hash(data) == s.lock.Outputs[p] {
				change.Remove(workspace.Generated, p)
			} else {
				report.Summary.Warnings = append(report.Summary.Warnings, p+": no longer made, but edited by hand; kept")
			}
		}
	}
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

// narrow leaves only the files of one kind to write, and the lock with the inputs of the last whole run, so that the
// next one does the rest.
func (s *Snapshot) narrow(a *artefacts, ours func(p string) bool) error {
	lock := *s.lock
	lock.Outputs = map[string]string{}
	for p, h := range s.lock.Outputs {
		if !ours(p) || a.kept[p] != "" {
			lock.Outputs[p] = h
		}
	}
	for p, f := range a.files {
		if !ours(p) {
			delete(a.files, p)
		} else if !f.stale {
			lock.Outputs[p] = workspace.Hash(f.data)
		}
	}
	for p := range s.lock.Outputs {
		if !ours(p) {
			delete(s.lock.Outputs, p) // not to be removed now
		}
	}
	data, err := lock.JSON()
	if err != nil {
		return err
	}
	return a.put(workspace.Memory, "the lock", workspace.LockName, data)
}

// oursOnly says which files are of the one kind that a run is about.
func oursOnly(ws *workspace.Workspace, only string, a *artefacts, x *exports) func(p string) bool {
	if only == "assets" { // they may lie beside others
		return func(p string) bool { return a.files[p] != nil || x.files[p] }
	}
	folder := strings.TrimSuffix(path.Clean(ws.Config.Guide.To), "/") + "/"
	return func(p string) bool { return strings.HasPrefix(p, folder) }
}
