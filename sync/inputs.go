package sync

import (
	"errors"
	"io/fs"
	"os"
	"path"

	"archetyp/core/font"
	"archetyp/core/text"
	"archetyp/workspace"
)

// inputs finds and reads all that a run depends on, and the lock of the last one.
func (r *run) inputs() (err error) {
	cfg := &r.ws.Config
	if r.lock, err = r.ws.ReadLockHead(); err != nil {
		return err
	}
	r.files, r.hashes = map[string][]byte{}, map[string]string{}
	r.keep(workspace.ConfigName, r.ws.Raw)
	if r.sources, err = r.ws.Glob(cfg.Sources); err != nil {
		return err
	}
	if len(r.sources) == 0 {
		return &workspace.FileError{File: workspace.ConfigName, Msg: "no source matches", Hint: "List your drawings under sources:, for example design/*.svg."}
	}
	tokens, err := r.ws.TokenFiles()
	if err != nil {
		return err
	}
	if res := r.ws.Resolver(); res != "" {
		tokens = append(tokens, res)
	}
	for _, o := range cfg.Outputs {
		if o.Template != "" {
			tokens = append(tokens, o.Template)
		}
	}
	for _, p := range append(append([]string(nil), r.sources...), tokens...) {
		data, err := workspace.ReadFile(r.ws.Path(p), p)
		if err != nil {
			return err
		}
		r.keep(p, data)
	}
	texts, _, err := catalogueFiles(r.ws)
	if err != nil {
		return err
	}
	for _, n := range texts {
		p := textDir + "/" + n
		data, err := os.ReadFile(r.ws.Path(p))
		if err == nil {
			r.keep(p, data)
		} else if !errors.Is(err, fs.ErrNotExist) {
			return &workspace.FileError{File: p, Msg: err.Error()}
		}
	}
	return r.readFonts()
}

// wholeLock reads the rest of the lock, once something has changed.
func (r *run) wholeLock() (err error) {
	r.lock, err = r.ws.ReadLock()
	return err
}

func (r *run) keep(p string, data []byte) {
	r.files[p] = data
	r.hashes[p] = workspace.Hash(data)
}

const keysFile = textDir + "/" + text.KeysFile

func (r *run) wordsFile() string { return path.Join(textDir, r.ws.Config.Text.Source+".json") }

// readFonts reads the workspace's fonts; the machine's play no part in what is written.
func (r *run) readFonts() error {
	files, err := r.ws.FontFiles()
	if err != nil {
		return err
	}
	for _, f := range files {
		data, err := workspace.ReadFile(r.ws.Path(f), f)
		if err != nil {
			return err
		}
		r.keep(f, data)
	}
	r.report.Summary.Fonts = len(files)
	return nil
}

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

// unchanged says that all inputs are those of the last run, and all that it wrote lies there still.
func (r *run) unchanged() bool {
	l := r.lock
	if l.Program != Program || len(l.Inputs) != len(r.hashes) || len(l.Summary) == 0 {
		return false
	}
	for p, h := range r.hashes {
		if l.Inputs[p] != h {
			return false
		}
	}
	for p, h := range l.Linked {
		data, err := os.ReadFile(r.ws.Path(p))
		if err != nil || workspace.Hash(data) != h {
			return false
		}
	}
	for p, h := range l.Outputs {
		data, err := os.ReadFile(r.ws.Path(p))
		if err != nil || workspace.Hash(data) != h {
			return false
		}
	}
	return true
}
