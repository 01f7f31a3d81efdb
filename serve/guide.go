package serve

import (
	"bytes"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io/fs"
	"net"
	"net/http"
	"net/url"
	"path"
	"strings"
	"sync"
	"time"
)

//go:embed files
var files embed.FS

// policy lets a page load what lies here and nothing else, and run the guide's own scripts alone: whatever a drawing or
// a token file says, none of it runs. The guide paints swatches with style attributes. https://www.w3.org/TR/CSP3/
const policy = "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self'; " +
	"connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"

// Guide serves the style guide of a workspace, and the outputs beside it under their own paths.
type Guide struct {
	files  fs.FS
	folder string // of the guide
	boot   string // names this server, for pages that outlive it
	live   bool
	secret string   // who asks has to know it; "" for anybody on this machine
	edit   Edits    // nil where pages may only be read
	forms  []string // scripts of the pages that ask for changes

	mu      sync.Mutex
	outputs map[string]string          // addresses → paths, of what is served beside the guide
	pages   map[chan []string]struct{} // those that wait for changes
}

// NewGuide serves the guide in a folder of a workspace's files. With live, open pages reload after Changed.
func NewGuide(workspace fs.FS, folder string, live bool) *Guide {
	return &Guide{files: workspace, folder: path.Clean(folder), live: live, boot: rand.Text(), pages: map[chan []string]struct{}{}}
}

// Edits answers a request of a page for a change, by name.
type Edits func(ctx context.Context, name string, request []byte) (any, error)

// Secret has the guide served to other machines too, to those who know a word.
func (g *Guide) Secret(word string) { g.secret = word }

// The scripts by which pages ask for changes.
const (
	EditScript   = "edit.js"    // of tokens, marks and the focused element
	RemarkScript = "remarks.js" // of remarks
	SiteScript   = "site.js"    // of the site over a screen

	askScript = "ask.js" // which both need
)

// Edit lets pages ask for changes, by some of the scripts.
func (g *Guide) Edit(answer Edits, scripts ...string) {
	g.edit, g.forms = answer, append([]string{askScript}, scripts...)
}

// Outputs sets the files that are served beside the guide, by address without the first slash.
func (g *Guide) Outputs(paths map[string]string) {
	g.mu.Lock()
	g.outputs = paths
	g.mu.Unlock()
}

// Changed sends open pages the workspace paths that were written or removed.
func (g *Guide) Changed(paths []string) {
	var at []string
	for _, p := range paths {
		if inner, ok := strings.CutPrefix(p, g.folder+"/"); ok {
			p = inner
		}
		at = append(at, "/"+p)
	}
	g.mu.Lock()
	defer g.mu.Unlock()
	for page := range g.pages {
		select {
		case page <- at:
		default: // it has not read the last ones, and loads again for those
		}
	}
}

// Serve listens on an address until the context ends: one of this machine's own, or with a secret any. It calls started
// with the address.
func (g *Guide) Serve(ctx context.Context, address string, started func(at string)) error {
	return listen(ctx, g, address, g.secret != "", started)
}

// ServeHTTP answers one request.
func (g *Guide) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	h := w.Header()
	h.Set("Content-Security-Policy", policy)
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "no-referrer")
	h.Set("Cache-Control", "no-cache")
	h.Set("Vary", "Origin")
	if !g.admits(w, r) {
		return
	}
	name := strings.TrimPrefix(path.Clean("/"+r.URL.Path), "/")
	if r.Method == http.MethodPost && g.edit != nil {
		g.change(w, r, name)
		return
	}
	if r.Method != http.MethodGet && r.Method != http.MethodHead {
		h.Set("Allow", "GET, HEAD")
		http.Error(w, "only reading is possible", http.StatusMethodNotAllowed)
		return
	}
	switch name {
	case "-/changes":
		g.changes(w, r)
	case "favicon.ico": // which browsers ask for by themselves
		w.WriteHeader(http.StatusNoContent)
	case "-/changes.js", "-/" + askScript, "-/" + EditScript, "-/" + RemarkScript, "-/" + SiteScript:
		data, err := files.ReadFile("files/" + path.Base(name))
		g.send(w, r, name, data, err)
	default:
		g.file(w, r, name)
	}
}

// file sends a file of the guide, or an output.
func (g *Guide) file(w http.ResponseWriter, r *http.Request, name string) {
	g.mu.Lock()
	at, ok := g.outputs[name]
	g.mu.Unlock()
	if !ok {
		at = path.Join(g.folder, name)
		if info, err := fs.Stat(g.files, at); err == nil && info.IsDir() {
			if name != "" && !strings.HasSuffix(r.URL.Path, "/") { // links of a page are relative to its folder
				http.Redirect(w, r, "/"+name+"/", http.StatusMovedPermanently)
				return
			}
			at = path.Join(at, "index.html")
		}
	}
	data, err := fs.ReadFile(g.files, at)
	if err == nil && !ok && path.Ext(at) == ".html" {
		if g.live {
			data = withScript(data, "changes.js")
		}
		for _, script := range g.forms {
			data = withScript(data, script)
		}
	}
	g.send(w, r, at, data, err)
}

// withScript is a page with one of the server's own scripts.
func withScript(page []byte, name string) []byte {
	i := bytes.LastIndex(page, []byte("</body>"))
	if i < 0 {
		return page
	}
	return bytes.Join([][]byte{page[:i], []byte(`<script src="/-/` + name + `" defer></script>` + "\n"), page[i:]}, nil)
}

// send sends bytes with a tag of their own, so that who has them is not sent them again.
func (g *Guide) send(w http.ResponseWriter, r *http.Request, name string, data []byte, err error) {
	if err != nil {
		http.Error(w, "there is no such page", http.StatusNotFound)
		return
	}
	sum := sha256.Sum256(data)
	w.Header().Set("ETag", `"`+hex.EncodeToString(sum[:12])+`"`)
	w.Header().Set("Content-Type", typeOf(name))
	http.ServeContent(w, r, "", time.Time{}, bytes.NewReader(data))
}

// typeOf is the media type of a file. What code is written in is plain text.
func typeOf(name string) string {
	switch path.Ext(name) {
	case ".html":
		return "text/html; charset=utf-8"
	case ".css":
		return "text/css; charset=utf-8"
	case ".js":
		return "text/javascript; charset=utf-8"
	case ".json":
		return "application/json"
	case ".svg":
		return "image/svg+xml"
	case ".png":
		return "image/png"
	case ".jpg", ".jpeg":
		return "image/jpeg"
	case ".webp":
		return "image/webp"
	case ".pdf":
		return "application/pdf"
	case ".ttf", ".otf", ".woff", ".woff2":
		return "font/" + path.Ext(name)[1:]
	}
	return "text/plain; charset=utf-8"
}

// alive is the interval of keep-alive comments.
const alive = 20 * time.Second

// changes streams written paths to a page, as server-sent events. https://html.spec.whatwg.org/multipage/server-sent-events.html
func (g *Guide) changes(w http.ResponseWriter, r *http.Request) {
	w.Header().Set("Content-Type", "text/event-stream")
	if r.Method == http.MethodHead {
		return
	}
	written := make(chan []string, 16)
	g.mu.Lock()
	g.pages[written] = struct{}{}
	g.mu.Unlock()
	defer func() {
		g.mu.Lock()
		delete(g.pages, written)
		g.mu.Unlock()
	}()
	out := http.NewResponseController(w)
	fmt.Fprintf(w, "retry: 500\nevent: server\ndata: %s\n\n", g.boot)
	beat := time.NewTicker(alive)
	defer beat.Stop()
	for out.Flush() == nil {
		select {
		case <-r.Context().Done():
			return
		case <-beat.C:
			fmt.Fprint(w, ": here\n\n")
		case paths := <-written:
			list, err := json.Marshal(paths)
			if err != nil {
				return
			}
			fmt.Fprintf(w, "event: written\ndata: %s\n\n", list)
		}
	}
}

// isHere reports whether a host, with or without a port, is this machine by one of its own names.
func isHere(host string) bool {
	if name, _, err := net.SplitHostPort(host); err == nil {
		host = name
	}
	host = strings.TrimSuffix(strings.TrimPrefix(host, "["), "]")
	ip := net.ParseIP(host)
	return strings.EqualFold(host, "localhost") || ip != nil && ip.IsLoopback()
}

// isOwnOrigin reports whether a page comes from this machine, such as from a development server.
func isOwnOrigin(origin string) bool {
	u, err := url.Parse(origin)
	return err == nil && isHere(u.Host)
}
