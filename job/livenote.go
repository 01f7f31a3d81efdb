package job

import (
	"archetyp/workspace"
	"bytes"
	"context"
	"encoding/json"
	"io/fs"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"time"
)

// LiveNote says where a site is shown while it is edited, and how an editor server writes to it.
type LiveNote struct {
	Address string `json:"address"`
	Secret  string `json:"secret"`
}

// liveFile keeps it in the cache, for this person alone.
const liveFile = "live.json"

// LiveAt notes in a workspace where a site is shown; nil for nowhere any more.
func LiveAt(dir string, n *LiveNote) {
	ws, ok, err := workspace.Find(dir)
	if err != nil || !ok {
		return
	}
	var data []byte
	if n != nil {
		if data, err = json.Marshal(n); err != nil {
			return
		}
	}
	ws.CacheSecret(liveFile, data)
}

// mostStyles is how many style sheets of a folder are read when a site is shown.
const mostStyles = 2000

// StyleSheets reads the style sheets in a folder and below, by their paths with forward slashes.
func StyleSheets(dir string, found func(file string, text []byte)) {
	n := 0
	_ = filepath.WalkDir(dir, func(p string, e fs.DirEntry, err error) error {
		switch {
		case err != nil:
			return nil // what cannot be read is not edited either
		case e.IsDir() && p != dir && (strings.HasPrefix(e.Name(), ".") || e.Name() == "node_modules"):
			return filepath.SkipDir
		case e.IsDir() || !strings.EqualFold(filepath.Ext(p), ".css"):
			return nil
		}
		if n++; n > mostStyles {
			return filepath.SkipAll
		}
		if data, err := os.ReadFile(p); err == nil {
			found(filepath.ToSlash(p), data)
		}
		return nil
	})
}

// LiveEditor sends what is typed to the place where a site is shown. It does nothing where none is.
type LiveEditor struct {
	Dir string // of the workspace

	read   time.Time
	note   *LiveNote
	client http.Client
}

// at is where a site is shown now; nil for nowhere.
func (l *LiveEditor) at() *LiveNote {
	const fresh = time.Second
	if time.Since(l.read) < fresh {
		return l.note
	}
	l.read, l.note = time.Now(), nil
	ws, ok, err := workspace.Find(l.Dir)
	if err != nil || !ok {
		return nil
	}
	data, _ := ws.Cached(liveFile)
	var n LiveNote
	if json.Unmarshal(data, &n) == nil && n.Address != "" {
		l.note = &n
	}
	return l.note
}

// Buffer sends the text of a style sheet that is not saved; closed takes it back.
func (l *LiveEditor) Buffer(ctx context.Context, path, text string, closed bool) {
	l.send(ctx, "buffer", map[string]any{"path": path, "text": text, "closed": closed})
}

// Caret sends the selector of the rule that the caret is in; "" for none.
func (l *LiveEditor) Caret(ctx context.Context, selector string) {
	l.send(ctx, "caret", map[string]any{"selector": selector})
}

func (l *LiveEditor) send(ctx context.Context, what string, body map[string]any) {
	n := l.at()
	if n == nil {
		return
	}
	data, err := json.Marshal(body)
	if err != nil {
		return
	}
	ctx, stop := context.WithTimeout(ctx, time.Second)
	defer stop()
	r, err := http.NewRequestWithContext(ctx, http.MethodPost, n.Address+"-archetyp/"+what, bytes.NewReader(data))
	if err != nil {
		return
	}
	r.Header.Set("Content-Type", "application/json")
	r.Header.Set("X-Archetyp-Secret", n.Secret)
	if res, err := l.client.Do(r); err == nil {
		_ = res.Body.Close()
	}
}
