package job

import (
	"bytes"
	"context"
	"fmt"
	"path"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/phase"
	"archetyp/core/remark"
	"archetyp/core/text"
	"archetyp/core/token"
	"archetyp/workspace"
)

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
			if !workspace.IsCatalogue(p) && !workspace.IsAnnotation(p) {
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
		case made[p]:
		case theirs.Object == "":
			m.s.Kept = append(m.s.Kept, p+": changed here, removed there; it stays")
		case ours.Object == "":
			m.s.Kept = append(m.s.Kept, p+": removed here, changed there; it is there again")
		case inside && m.kind(in) != nil: // merged by its contents
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
type mergeFile func(file string, base, ours, theirs []byte) ([]byte, []Conflict, error)

// kind is how a file of the workspace is merged by what stands in it; nil for line by line.
func (m *mergeRun) kind(file string) mergeFile {
	switch {
	case strings.HasSuffix(file, ".tokens.json"):
		return func(file string, base, ours, theirs []byte) ([]byte, []Conflict, error) {
			out, list, err := token.ThreeWay(base, ours, theirs, file)
			var left []Conflict
			for _, c := range list {
				left = append(left, tokenConflict(file, c))
			}
			return out, left, err
		}
	case file == phase.FileName:
		return func(_ string, base, ours, theirs []byte) ([]byte, []Conflict, error) {
			out, list, err := phase.Merge(base, ours, theirs)
			var left []Conflict
			for _, c := range list {
				left = append(left, phaseConflict(c.Key, c.Ours, c.Theirs))
			}
			return out, left, err
		}
	case workspace.IsAnnotation(file) && remarkFile(file):
		return func(file string, base, ours, theirs []byte) ([]byte, []Conflict, error) {
			out, _, err := remark.Merge(strings.TrimSuffix(path.Base(file), ".md"), base, ours, theirs)
			return out, nil, err // both versions of a text stand in the thread
		}
	case workspace.IsCatalogue(file):
		return keepOurs // the catalogue is merged as a whole
	}
	return nil
}

func keepOurs(_ string, _, ours, _ []byte) ([]byte, []Conflict, error) { return ours, nil, nil }

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
		m.s.Conflicts = append(m.s.Conflicts, Conflict{workspace.TextDir + "/" + c.Locale + ".json", c.Key, c.Ours, c.Theirs, settleText(c.Key, c.Locale, out.Locale)})
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
		if a.files[p] == nil && a.kept[p] == "" && !workspace.IsAnnotation(p) && at.Protected(p) == "" && at.Exists(p) {
			out[p] = nil
		}
	}
	return out, nil
}
