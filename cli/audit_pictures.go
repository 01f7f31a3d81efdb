package cli

import (
	"path"

	"archetyp/core/audit"
	"archetyp/core/design"
	"archetyp/job"
)

// auditPictures writes a picture of each screen on which something was found.
func (a *app) auditPictures(dir string, r *audit.Report, docs []*design.Document) error {
	files, err := job.AuditPictures(r, docs, a.progress())
	if err != nil {
		return err
	}
	out := map[string][]byte{}
	var names []string
	for name, data := range files {
		out[path.Join(dir, name)] = data
		names = append(names, path.Join(dir, name))
	}
	if err := a.save(out); err != nil {
		return err
	}
	if !a.json {
		a.printFiles(a.term.good("written"), names)
	}
	return nil
}
