package job

import (
	"bytes"
	"context"
	"encoding/json"
	"net/http"
	"os"
	"path/filepath"
	"time"
)

// LiveNote says where a site is shown while it is edited, and how an editor server writes to it.
type LiveNote struct {
	Address string `json:"address"`
	Secret  string `json:"secret"`
}

// liveFile keeps it, for this person alone.
const liveFile = ".archetyp/live.json"

// LiveAt notes in a workspace where a site is shown; nil for nowhere any more.
func LiveAt(dir string, n *LiveNote) error {
	file := filepath.Join(dir, filepath.FromSlash(liveFile))
	if n == nil {
		return os.Remove(file)
	}
	data, err := json.Marshal(n)
	if err != nil {
		return err
	}
	if err := os.MkdirAll(filepath.Dir(file), 0o755); err != nil {
		return err
	}
	return os.WriteFile(file, data, 0o600)
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
	data, err := os.ReadFile(filepath.Join(l.Dir, filepath.FromSlash(liveFile)))
	if err != nil {
		return nil
	}
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
