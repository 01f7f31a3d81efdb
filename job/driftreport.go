package job

import (
	"encoding/json"
	"slices"
	"time"

	"archetyp/core/audit"
	"archetyp/core/drift"
	"archetyp/workspace"
)

// Accepted takes the differences out that a baseline accepts on a day.
func (d *Drifted) Accepted(b *audit.Baseline, day string) (known int, gone []audit.Accepted) {
	r := d.Findings()
	known, gone = b.Known(r, day)
	kept := map[string]string{}
	for _, f := range r.Findings {
		kept[f.ID] = f.Message
	}
	d.Differences = slices.DeleteFunc(d.Differences, func(x drift.Difference) bool { _, ok := kept[x.ID]; return !ok })
	for i := range d.Differences {
		d.Differences[i].Message = kept[d.Differences[i].ID]
	}
	d.Report.Accepted = known
	return known, gone
}

// Edits are what would mend the differences in the style sheets of the site, by file.
func (d *Drifted) Edits() map[string][]drift.Edit {
	out := map[string][]drift.Edit{}
	for i := range d.Differences {
		if e := d.Differences[i].Edit; e != nil {
			out[e.File] = append(out[e.File], *e)
		}
	}
	return out
}

// Standing is how far a site is from the design, as the lock remembers it.
func (d *Drifted) Standing(site string) *drift.Standing { return d.Report.Standing(site, d.Coverage) }

// RecordDrift remembers in the lock how far a site is from the design.
func RecordDrift(ws *workspace.Workspace, now *drift.Standing) error {
	lock, err := ws.ReadLock()
	if err != nil {
		return err
	}
	was, _ := json.Marshal(lock.Drift)
	is, _ := json.Marshal(now)
	if string(was) == string(is) {
		return nil
	}
	lock.Drift, lock.Summary = now, nil // the guide shows it: the next sync has something to do
	data, err := lock.JSON()
	if err != nil {
		return err
	}
	change := &workspace.Change{}
	change.Put(ws, workspace.Memory, workspace.LockName, data)
	return ws.Apply(change)
}

// today is the day, as baselines write it.
func today() string { return time.Now().Format(time.DateOnly) }
