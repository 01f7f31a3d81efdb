package workspace

import (
	"archetyp/core/hint"
	"bufio"
	"errors"
	"fmt"
	"io"
	"os/exec"
	"path"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode/utf8"
)

// revision is the files of a workspace as they were in a git revision, without a checkout: one listing, and one git
// that hands out contents.
type revision struct {
	rev   string
	blobs map[string]string // path → object name
	names []string          // in order

	mu   sync.Mutex
	git  *exec.Cmd // nil once closed
	ask  io.WriteCloser
	hear *bufio.Reader
}

// revision opens a revision that git knows.
func (w *Workspace) revision(rev string) (*revision, error) {
	if strings.HasPrefix(rev, "-") {
		return nil, fmt.Errorf("%q is no revision", rev)
	}
	commit, err := w.git("rev-parse", "--verify", "--quiet", rev+"^{commit}")
	if err != nil {
		var missing *hint.MissingError
		if errors.As(err, &missing) {
			return nil, err
		}
		return nil, fmt.Errorf("%q is no file, no folder and no revision that git knows", rev)
	}
	list, err := w.git("ls-tree", "-r", "-z", strings.TrimSpace(string(commit)), "./")
	if err != nil {
		return nil, err
	}
	r := &revision{rev: rev, blobs: map[string]string{}}
	for entry := range strings.SplitSeq(string(list), "\x00") {
		about, name, ok := strings.Cut(entry, "\t")
		f := strings.Fields(about)
		if !ok || len(f) != 3 || f[1] != "blob" || f[0] == "120000" || !utf8.ValidString(name) {
			continue // links, and other repositories
		}
		r.blobs[name] = f[2]
		r.names = append(r.names, name)
	}
	slices.Sort(r.names)
	return r, r.start(w.gitCommand("cat-file", "--batch"))
}

// start runs the git that hands out contents.
func (r *revision) start(c *exec.Cmd) (err error) {
	r.git = c
	if r.ask, err = r.git.StdinPipe(); err != nil {
		return err
	}
	out, err := r.git.StdoutPipe()
	if err != nil {
		return err
	}
	r.hear = bufio.NewReaderSize(out, 1<<16)
	return r.git.Start()
}

// Close ends git.
func (r *revision) Close() error {
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.git == nil {
		return nil
	}
	r.ask.Close()
	err := r.git.Wait()
	r.git = nil
	return err
}

func (r *revision) Read(name string) ([]byte, error) {
	name = path.Clean(name)
	blob, ok := r.blobs[name]
	if !ok {
		return nil, &FileError{File: r.rev + ":" + name, Msg: "there is no such file", gone: true}
	}
	data, err := r.blob(blob)
	if err != nil {
		return nil, &FileError{File: r.rev + ":" + name, Msg: "git cannot read it: " + err.Error()}
	}
	return data, nil
}

// blob asks git for an object: a line "name type size", its bytes, and a line feed.
func (r *revision) blob(object string) ([]byte, error) {
	r.mu.Lock()
	defer r.mu.Unlock()
	if r.git == nil {
		return nil, errors.New("the revision is closed")
	}
	if _, err := io.WriteString(r.ask, object+"\n"); err != nil {
		return nil, err
	}
	head, err := r.hear.ReadString('\n')
	if err != nil {
		return nil, err
	}
	f := strings.Fields(head)
	if len(f) != 3 {
		return nil, errors.New(strings.TrimSpace(head))
	}
	size, err := strconv.ParseInt(f[2], 10, 64)
	if err != nil {
		return nil, err
	}
	if size > MaxFile {
		_, err := io.CopyN(io.Discard, r.hear, size+1)
		return nil, errors.Join(fmt.Errorf("%d MB; files over %d MB are not read", size>>20, MaxFile>>20), err)
	}
	data := make([]byte, size+1)
	if _, err := io.ReadFull(r.hear, data); err != nil {
		return nil, err
	}
	return data[:size], nil
}

func (r *revision) Stamp(name string) (string, error) {
	data, err := r.Read(name)
	return Hash(data), err
}

func (r *revision) Glob(pattern, _ string) ([]string, error) { return among(r.names, pattern), nil }
