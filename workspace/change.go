package workspace

import (
	"bytes"
	"fmt"
	"slices"
	"sort"

	"github.com/cespare/xxhash/v2"
)

// Hash is the content hash used in the lock: whether a file is as it was. It guards against accidents, not against
// people who want two files to be taken for one.
func Hash(data []byte) string {
	return fmt.Sprintf("%016x-%x", xxhash.Sum64(data), len(data))
}

// Kind is what a file is to the workspace. It decides where it may stand, and how carefully it is written.
type Kind int

// Generated files follow from others and can be made again; all others belong to people.
const (
	Generated   Kind = iota // outputs, assets, pages of the guide
	Memory                  // archetyp.lock: what the last sync saw and wrote
	Tokens                  // token files
	Texts                   // the catalogue
	Code                    // the team's own code
	Settings                // archetyp.yaml, .gitattributes; a new workspace as a whole
	Named                   // what a person named with -o
	Drawings                // sources
	Captures                // readings of live sites
	Annotations             // phases and remarks
	Pulled                  // any file, as a commit has it
)

// owned reports whether people lose something with such a file: it is on the disk before the write counts as done.
func (k Kind) owned() bool { return k != Generated && k != Named && k != Captures }

// Change is a set of files to write and remove together, by path from the workspace with forward slashes.
type Change struct {
	files map[string]changed
}

type changed struct {
	kind   Kind
	data   []byte
	remove bool
}

// Empty reports whether there is nothing to do.
func (c *Change) Empty() bool { return len(c.files) == 0 }

// Put adds a file unless it is there already with these very bytes. It says whether it did.
func (c *Change) Put(ws *Workspace, kind Kind, path string, data []byte) bool {
	if old, err := ws.ReadFile(path); err == nil && bytes.Equal(old, data) {
		return false
	}
	c.add(path, changed{kind: kind, data: data})
	return true
}

// Remove adds a file to take away.
func (c *Change) Remove(kind Kind, path string) { c.add(path, changed{kind: kind, remove: true}) }

func (c *Change) add(path string, f changed) {
	if c.files == nil {
		c.files = map[string]changed{}
	}
	c.files[path] = f
}

// Into adds all of a change to another.
func (c *Change) Into(other *Change) {
	for p, f := range c.files {
		other.add(p, f)
	}
}

// Data is what would be written to a path; nil for nothing.
func (c *Change) Data(path string) []byte { return c.files[path].data }

// Paths lists what would be written, in order.
func (c *Change) Paths() []string { return c.list(false) }

// Removed lists what would be taken away, in order.
func (c *Change) Removed() []string { return c.list(true) }

func (c *Change) list(removed bool) []string {
	var out []string
	for p, f := range c.files {
		if f.remove == removed {
			out = append(out, p)
		}
	}
	sort.Strings(out)
	return out
}

// all lists every path, in order.
func (c *Change) all() []string {
	out := append(c.list(false), c.list(true)...)
	slices.Sort(out)
	return out
}
