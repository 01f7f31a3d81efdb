package job

import (
	"fmt"
	"path"
	"sort"
	"sync"

	"archetyp/workspace"
)

// artefacts are the files that follow from a snapshot: what is to lie on disk. What lies there already and would come
// out the same is kept, and need not be made.
type artefacts struct {
	files map[string]*artefact // by path
	kept  map[string]string    // hashes, by path
	mu    sync.Mutex
}

// keep notes a file that lies there already and stays.
func (a *artefacts) keep(p, hash string) {
	a.mu.Lock()
	defer a.mu.Unlock()
	a.kept[path.Clean(p)] = hash
}

// artefact is one file to lie on disk.
type artefact struct {
	kind  workspace.Kind
	maker string // for messages
	data  []byte // nil for one that was not made
	stale bool   // it was not made, and would come out otherwise than what lies there
}

func newArtefacts() *artefacts {
	return &artefacts{files: map[string]*artefact{}, kept: map[string]string{}}
}

// put adds a file. Two makers may not make the same file.
func (a *artefacts) put(kind workspace.Kind, maker, p string, data []byte) error {
	return a.add(p, &artefact{kind: kind, maker: maker, data: data})
}

func (a *artefacts) add(p string, f *artefact) error {
	p = path.Clean(p)
	a.mu.Lock()
	defer a.mu.Unlock()
	if other := a.files[p]; other != nil && other.maker != f.maker {
		return &workspace.FileError{File: p, Msg: fmt.Sprintf("both %s and %s would write this file", other.maker, f.maker),
			Hint: "Give each a place of its own in " + workspace.ConfigName + "."}
	}
	a.files[p] = f
	return nil
}

// data are the bytes of a file that was made; nil for none.
func (a *artefacts) data(p string) []byte {
	a.mu.Lock()
	defer a.mu.Unlock()
	if f := a.files[path.Clean(p)]; f != nil {
		return f.data
	}
	return nil
}

// made lists the files that were made, in order.
func (a *artefacts) made() []string {
	var out []string
	for p, f := range a.files {
		if !f.stale {
			out = append(out, p)
		}
	}
	sort.Strings(out)
	return out
}

// stale lists the files that were not made and would be others, in order.
func (a *artefacts) stale() []string {
	var out []string
	for p, f := range a.files {
		if f.stale {
			out = append(out, p)
		}
	}
	sort.Strings(out)
	return out
}

func sortedKeys[V any](m map[string]V) []string {
	out := make([]string, 0, len(m))
	for k := range m {
		out = append(out, k)
	}
	sort.Strings(out)
	return out
}
