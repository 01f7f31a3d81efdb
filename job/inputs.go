package job

import (
	"errors"
	"io/fs"
	"path"
	"slices"
	"strings"

	"archetyp/core/font"
	"archetyp/core/text"
	"archetyp/workspace"
)

// inputs finds all that a run depends on, with the hash of each, and the lock of the last run.
func (r *run) inputs() (err error) {
	cfg := &r.ws.Config
	if r.lock, err = r.ws.ReadLockHead(); err != nil {
		return err
	}
	r.disk = r.ws.Seen()
	r.files, r.hashes = map[string][]byte{}, map[string]string{}
	r.keep(workspace.ConfigName, r.ws.Raw)
	if r.sources, err = r.ws.Sources(); err != nil {
		return err
	}
	tokens, err := r.ws.TokenFiles()
	if err != nil {
		return err
	}
	if len(r.sources) == 0 && len(tokens) == 0 { // tokens alone are a workspace
		return &workspace.FileError{File: workspace.ConfigName, Msg: "no source matches, and no token file", Hint: "List your drawings under sources:, for example design/*.svg."}
	}
	if res := r.ws.Resolver(); res != "" {
		tokens = append(tokens, res)
	}
	for _, o := range cfg.Outputs {
		if o.Template != "" {
			tokens = append(tokens, o.Template)
		}
	}
	fonts, err := r.ws.FontFiles()
	if err != nil {
		return err
	}
	r.report.Summary.Fonts = len(fonts)
	r.tokenInputs = map[string]bool{}
	for _, p := range tokens {
		r.tokenInputs[p] = !slices.Contains(r.sources, p)
	}
	if err := r.hashed(slices.Concat(r.sources, tokens, fonts)); err != nil {
		return err
	}
	texts, _, err := catalogueFiles(r.ws)
	if err != nil {
		return err
	}
	for _, n := range texts {
		p := textDir + "/" + n
		h, err := r.disk.Hash(p)
		if err == nil {
			r.hashes[p] = h
		} else if !workspace.Missing(err) {
			return err
		}
	}
	return nil
}

// hashed notes the hashes of inputs.
func (r *run) hashed(paths []string) error {
	hashes := make([]string, len(paths))
	err := Side(len(paths), func(i int) (err error) {
		hashes[i], err = r.disk.Hash(paths[i])
		if errors.Is(err, fs.ErrNotExist) { // with the words of a reader
			_, err = r.ws.ReadFile(paths[i])
		}
		return err
	})
	for i, p := range paths {
		r.hashes[p] = hashes[i]
	}
	return err
}

// load reads the inputs.
func (r *run) load() error {
	paths := sortedKeys(r.hashes)
	data := make([][]byte, len(paths))
	err := Side(len(paths), func(i int) (err error) {
		if paths[i] == workspace.ConfigName {
			data[i] = r.ws.Raw
			return nil
		}
		data[i], err = r.ws.ReadFile(paths[i])
		return err
	})
	if err != nil {
		return err
	}
	for i, p := range paths {
		if strings.HasSuffix(p, ".json") {
			if err := workspace.Conflict(p, data[i]); err != nil {
				return err
			}
		}
		r.keep(p, data[i])
	}
	return nil
}

// wholeLock reads the rest of the lock, once something has changed.
func (r *run) wholeLock() (err error) {
	if r.lock, err = r.ws.ReadLock(); err == nil {
		r.followMoves()
	}
	return err
}

// followMoves finds the drawings that lie elsewhere than at the last sync: with the same bytes, else with the same file
// name, where only one can be meant. What the lock remembers of them goes along.
func (r *run) followMoves() {
	var gone, come []string
	for _, name := range sortedKeys(r.lock.Elements) {
		if _, still := r.hashes[name]; !still {
			gone = append(gone, name)
		}
	}
	for _, name := range r.sources {
		if _, known := r.lock.Elements[name]; !known {
			come = append(come, name)
		}
	}
	for _, same := range []func(was, now string) bool{
		func(was, now string) bool { return r.lock.Inputs[was] == r.hashes[now] },
		func(was, now string) bool { return path.Base(was) == path.Base(now) },
	} {
		for _, was := range gone {
			var found []string
			for _, now := range come {
				if _, taken := r.lock.Elements[now]; !taken && same(was, now) {
					found = append(found, now)
				}
			}
			if _, left := r.lock.Elements[was]; left && len(found) == 1 {
				r.lock.Moved(was, found[0])
				r.report.Changes = append(r.report.Changes, was+" is "+found[0]+" now")
			}
		}
	}
}

func (r *run) keep(p string, data []byte) {
	r.files[p] = data
	r.hashes[p] = workspace.Hash(data)
}

const keysFile = textDir + "/" + text.KeysFile

func (r *run) wordsFile() string { return path.Join(textDir, r.ws.Config.Text.Source+".json") }

// loadFonts parses the fonts that were read.
func (r *run) loadFonts() error {
	files, err := r.ws.FontFiles()
	if err != nil {
		return err
	}
	r.fonts, r.faces = font.NewSet(nil), map[string]*font.Face{}
	for _, f := range files {
		face, err := r.fonts.Add(r.files[f], f)
		if err != nil {
			return workspace.FontError(f, err)
		}
		r.faces[f] = face
	}
	return nil
}

// unchanged reports whether all inputs are those of the last run, and all that it wrote lies there still.
func (r *run) unchanged() bool {
	return r.sameInputs() && r.disk.Intact(r.lock.Outputs)
}

// sameInputs reports whether all inputs, and what they link to, are those of the last run.
func (r *run) sameInputs() bool {
	l := r.lock
	if l.Program != Program || len(l.Inputs) != len(r.hashes) || len(l.Summary) == 0 {
		return false
	}
	for p, h := range r.hashes {
		if l.Inputs[p] != h {
			return false
		}
	}
	return r.disk.Intact(l.Linked)
}
