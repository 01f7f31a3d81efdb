package workspace

import (
	"bufio"
	"bytes"
	"fmt"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"runtime"
	"sort"
	"strconv"
	"strings"
	"sync"
	"time"

	"archetyp/core/guard"
)

// seenFile keeps what files were like when they were last hashed.
const seenFile = "seen"

// Seen remembers the hashes of files, so that those whose size and time have not changed need not be read again. It is
// safe to use side by side.
type Seen struct {
	ws      *Workspace
	mu      sync.Mutex
	files   map[string]look
	dirs    map[string]*os.Root // opened already: one look at a file is one call then
	changed bool
}

// look is what a file was like.
type look struct {
	size, time int64 // the time in ns
	hash       string
}

// settled is how old a file must be for its time to tell it from one that was written a moment later.
const settled = 50 * time.Millisecond

// Seen reads what is remembered.
func (w *Workspace) Seen() *Seen {
	s := &Seen{ws: w, files: map[string]look{}, dirs: map[string]*os.Root{}}
	data, ok := w.Cached(seenFile)
	if !ok {
		return s
	}
	lines := bufio.NewScanner(bytes.NewReader(data))
	lines.Buffer(nil, 1<<20)
	for lines.Scan() {
		f := strings.SplitN(lines.Text(), "\t", 4)
		if len(f) != 4 {
			s.files = map[string]look{} // not ours
			return s
		}
		size, err1 := strconv.ParseInt(f[0], 10, 64)
		at, err2 := strconv.ParseInt(f[1], 10, 64)
		if err1 == nil && err2 == nil {
			s.files[f[3]] = look{size, at, f[2]}
		}
	}
	return s
}

// Hash is the content hash of a file of the workspace.
func (s *Seen) Hash(name string) (string, error) {
	if !s.ws.onDisk() {
		return s.ws.files.Stamp(name)
	}
	info, err := s.stat(name)
	if err != nil {
		return "", err
	}
	now := look{size: info.Size(), time: info.ModTime().UnixNano()}
	s.mu.Lock()
	old, ok := s.files[name]
	s.mu.Unlock()
	if ok && old.size == now.size && old.time == now.time {
		return old.hash, nil
	}
	data, err := s.ws.ReadFile(name)
	if err != nil {
		return "", err
	}
	now.hash = Hash(data)
	s.mu.Lock()
	defer s.mu.Unlock()
	if int64(len(data)) == now.size && time.Since(info.ModTime()) > settled {
		s.files[name] = now
		s.changed = true
	}
	return now.hash, nil
}

// stat describes a file of the workspace, or a source outside.
func (s *Seen) stat(name string) (fs.FileInfo, error) {
	dir, file := path.Split(name)
	dir = path.Clean(dir)
	s.mu.Lock()
	root, known := s.dirs[dir]
	if !known && filepath.IsLocal(filepath.FromSlash(name)) {
		root, _ = s.ws.folder.root.OpenRoot(filepath.FromSlash(dir)) // nil: see below
		s.dirs[dir] = root
	}
	s.mu.Unlock()
	if root != nil {
		if info, err := root.Stat(file); err == nil {
			return info, nil
		}
	}
	if !filepath.IsLocal(filepath.FromSlash(name)) {
		if !s.ws.sourceOutside(name) {
			return nil, &FileError{File: name, Msg: "lies outside the workspace"}
		}
		return os.Stat(s.ws.Path(name))
	}
	return s.ws.folder.stat(name)
}

// Intact reports whether all files are as their hashes say.
func (s *Seen) Intact(files map[string]string) bool {
	type file struct{ path, hash string }
	list := make([]file, 0, len(files))
	for p, h := range files {
		list = append(list, file{p, h})
	}
	n := runtime.NumCPU()
	var wg sync.WaitGroup
	var faults guard.Carrier
	ok := make([]bool, n)
	for k := range n {
		wg.Add(1)
		go func() {
			defer wg.Done()
			defer faults.Guard()
			ok[k] = true
			for i := k; i < len(list) && ok[k]; i += n {
				h, err := s.Hash(list[i].path)
				ok[k] = err == nil && h == list[i].hash
			}
		}()
	}
	wg.Wait()
	faults.Raise()
	for _, o := range ok {
		if !o {
			return false
		}
	}
	return true
}

// Save keeps what was seen for the next time.
func (s *Seen) Save() {
	s.mu.Lock()
	defer s.mu.Unlock()
	for _, root := range s.dirs {
		if root != nil {
			root.Close()
		}
	}
	s.dirs = map[string]*os.Root{}
	if !s.changed {
		return
	}
	paths := make([]string, 0, len(s.files))
	for p := range s.files {
		if !strings.ContainsAny(p, "\t\n") {
			paths = append(paths, p)
		}
	}
	sort.Strings(paths)
	var b bytes.Buffer
	for _, p := range paths {
		f := s.files[p]
		fmt.Fprintf(&b, "%d\t%d\t%s\t%s\n", f.size, f.time, f.hash, p)
	}
	s.ws.Cache(seenFile, b.Bytes())
	s.changed = false
}
