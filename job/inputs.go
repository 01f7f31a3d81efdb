package job

import (
	"encoding/json"
	"errors"
	"io/fs"
	"slices"
	"strings"
	"sync"

	"archetyp/core/text"
	"archetyp/workspace"
)

// inputs are all files that a run depends on, with their hashes. They are read only when asked for.
type inputs struct {
	ws      *workspace.Workspace
	disk    *workspace.Seen
	sources []string        // drawings
	fonts   []string        // font files
	ofToken map[string]bool // that only tokens follow from

	mu     sync.Mutex
	hashes map[string]string // by path
}

// findInputs finds what a run depends on.
func findInputs(ws *workspace.Workspace) (in *inputs, err error) {
	in = &inputs{ws: ws, disk: ws.Seen(), ofToken: map[string]bool{},
		hashes: map[string]string{workspace.ConfigName: workspace.Hash(ws.Raw)}}
	if in.sources, err = ws.Sources(); err != nil {
		return nil, err
	}
	tokens, err := ws.TokenFiles()
	if err != nil {
		return nil, err
	}
	if len(in.sources) == 0 && len(tokens) == 0 { // tokens alone are a workspace
		return nil, &workspace.FileError{File: workspace.ConfigName, Msg: "no source matches, and no token file",
			Hint: "List your drawings under sources:, for example design/*.svg."}
	}
	if res := ws.Resolver(); res != "" {
		tokens = append(tokens, res)
	}
	for _, o := range ws.Config.Outputs {
		if o.Template != "" {
			tokens = append(tokens, o.Template)
		}
	}
	if in.fonts, err = ws.FontFiles(); err != nil {
		return nil, err
	}
	for _, p := range tokens {
		in.ofToken[p] = !slices.Contains(in.sources, p)
	}
	if err := in.hash(slices.Concat(in.sources, tokens, in.fonts)); err != nil {
		return nil, err
	}
	texts, _, err := catalogueFiles(ws)
	if err != nil {
		return nil, err
	}
	optional := annotationFiles(ws)
	for _, n := range texts {
		optional = append(optional, textDir+"/"+n)
	}
	for _, p := range optional {
		h, err := in.disk.Hash(p)
		if err == nil {
			in.hashes[p] = h
		} else if !workspace.Missing(err) {
			return nil, err
		}
	}
	return in, nil
}

// hash notes the hashes of files.
func (in *inputs) hash(paths []string) error {
	hashes := make([]string, len(paths))
	err := Parallel(len(paths), func(i int) (err error) {
		hashes[i], err = in.disk.Hash(paths[i])
		if errors.Is(err, fs.ErrNotExist) { // with the words of a reader
			_, err = in.ws.ReadFile(paths[i])
		}
		return err
	})
	for i, p := range paths {
		in.hashes[p] = hashes[i]
	}
	return err
}

// read reads an input. Its hash is that of the bytes read, even where the file has changed since it was found.
func (in *inputs) read(p string) ([]byte, error) {
	data, err := in.ws.ReadFile(p)
	if err != nil {
		return nil, err
	}
	if strings.HasSuffix(p, ".json") {
		if err := workspace.Conflict(p, data); err != nil {
			return nil, err
		}
	}
	in.set(p, workspace.Hash(data))
	return data, nil
}

func (in *inputs) set(p, hash string) {
	in.mu.Lock()
	defer in.mu.Unlock()
	in.hashes[p] = hash
}

func (in *inputs) hashOf(p string) string {
	in.mu.Lock()
	defer in.mu.Unlock()
	return in.hashes[p]
}

const keysFile = textDir + "/" + text.KeysFile

func wordsFile(ws *workspace.Workspace) string {
	return textDir + "/" + ws.Config.Text.Source + ".json"
}

// same reports whether all inputs, and what they link to, are those that a lock was made from.
func (in *inputs) same(l *workspace.Lock) bool {
	if l.Program != Program || len(l.Inputs) != len(in.hashes) || len(l.Summary) == 0 || string(l.Summary) == "null" {
		return false
	}
	for p, h := range in.hashes {
		if l.Inputs[p] != h {
			return false
		}
	}
	return in.disk.Intact(l.Linked)
}

// digest is a hash of the inputs that count.
func (in *inputs) digest(counts func(p string) bool) string {
	var b strings.Builder
	for _, p := range sortedKeys(in.hashes) {
		if counts(p) {
			b.WriteString(p + "\x00" + in.hashes[p] + "\x00")
		}
	}
	return workspace.Hash([]byte(b.String()))
}

// ofDrawings is a hash of the drawings alone.
func (in *inputs) ofDrawings() string {
	return in.digest(func(p string) bool { return slices.Contains(in.sources, p) })
}

// ofTexts is a hash of all that a collection of texts depends on and writes; ofPlaces is the same without the
// catalogue: what places, words and room follow from.
func (in *inputs) ofTexts() string {
	return in.digest(func(p string) bool { return !in.ofToken[p] && !workspace.IsAnnotation(p) })
}

func (in *inputs) ofPlaces() string {
	return in.digest(func(p string) bool { return !in.ofToken[p] && !workspace.IsAnnotation(p) && !workspace.IsCatalogue(p) })
}

// ofValues is a hash of what tokens are, and what they are called.
func (in *inputs) ofValues() string {
	return in.digest(func(p string) bool { return in.ofToken[p] || p == workspace.ConfigName })
}

// fontHashes are the hashes of the font files, by path.
func (in *inputs) fontHashes() map[string]string {
	out := map[string]string{}
	for _, f := range in.fonts {
		out[f] = in.hashOf(f)
	}
	return out
}

// digestOf is a hash of values, as JSON has them.
func digestOf(values ...any) (string, error) {
	data, err := json.Marshal(values)
	return workspace.Hash(data), err
}
