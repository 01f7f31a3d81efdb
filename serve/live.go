package serve

import (
	"bytes"
	"compress/gzip"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"maps"
	"mime"
	"net/http"
	"net/http/httputil"
	"net/url"
	"path"
	"slices"
	"strings"
	"sync"

	"github.com/andybalholm/brotli"

	"archetyp/core/hint"
)

// Live shows a site through this machine's own address, with a script added to its pages: style sheets that are edited
// take effect in open pages at once. Nothing of the site is changed; what passes through is not kept.
type Live struct {
	Secret string // who sends unsaved texts has to know it

	proxy *httputil.ReverseProxy // of a site elsewhere; nil for a folder
	files fs.FS                  // of a folder
	root  string                 // its path, as style sheets are named
	fonts fs.FS                  // where /fonts/ is, if not in there; nil for nowhere
	ask   LiveAnswers

	mu     sync.Mutex
	sheets map[string]*liveSheet // by the path of the file
	count  int
	pages  map[chan []byte]struct{}
}

// LiveAnswers answers what pages ask about their elements.
type LiveAnswers interface {
	// Element is what rules of the site say of an element of a page, and what the design does; it becomes the focused one.
	Element(ctx context.Context, q LiveQuestion) (any, error)
	// Picture is the screen of the design that a page was built from, as a PNG.
	Picture(ctx context.Context, page string, width float64) ([]byte, error)
}

// LiveQuestion asks about an element of a page.
type LiveQuestion struct {
	Page     string  // path of its address
	Selector string  // of the element
	Width    float64 // of the window, px
}

// liveAt is where the script's own addresses begin.
const liveAt = "/-archetyp/"

// liveSheet is a style sheet that people edit.
type liveSheet struct {
	now []byte          // its text while it is edited; nil as long as it is not
	had map[string]bool // sums of the texts that the file had, by which a site is known to send it as it is
}

func newLive(ask LiveAnswers) *Live {
	return &Live{Secret: rand.Text(), ask: ask, sheets: map[string]*liveSheet{}, pages: map[chan []byte]struct{}{}}
}

// NewLiveFolder shows a folder of files. root is its path; fonts has /fonts/ where the folder has none.
func NewLiveFolder(files, fonts fs.FS, root string, ask LiveAnswers) *Live {
	l := newLive(ask)
	l.files, l.fonts, l.root = files, fonts, root
	return l
}

// NewLiveSite shows the site at an address.
func NewLiveSite(address string, ask LiveAnswers) (*Live, error) {
	l := newLive(ask)
	target, err := url.Parse(address)
	if err != nil || target.Scheme != "http" && target.Scheme != "https" || target.Host == "" {
		return nil, hint.New(address+" is no address of a site", "For example: archetyp live http://127.0.0.1:3000/")
	}
	l.proxy = &httputil.ReverseProxy{
		Rewrite: func(r *httputil.ProxyRequest) {
			r.SetURL(&url.URL{Scheme: target.Scheme, Host: target.Host})
			r.Out.Host = target.Host
			if o := r.Out.Header.Get("Origin"); o != "" {
				r.Out.Header.Set("Origin", target.Scheme+"://"+target.Host)
			}
			if ref, err := url.Parse(r.Out.Header.Get("Referer")); err == nil && ref.Host != "" {
				ref.Scheme, ref.Host = target.Scheme, target.Host
				r.Out.Header.Set("Referer", ref.String())
			}
			r.Out.Header.Del("If-None-Match") // what is added is not in what was kept
			r.Out.Header.Del("If-Modified-Since")
		},
		ModifyResponse: func(r *http.Response) error { return l.through(r, target) },
		ErrorHandler: func(w http.ResponseWriter, _ *http.Request, err error) {
			http.Error(w, "the site at "+target.Host+" does not answer: "+err.Error(), http.StatusBadGateway)
		},
	}
	return l, nil
}

// Serve listens on one of this machine's own addresses until the context ends.
func (l *Live) Serve(ctx context.Context, address string, started func(at string)) error {
	return listen(ctx, l, address, false, started)
}

// ServeHTTP answers one request.
func (l *Live) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if !isHere(r.Host) { // another site may have given it a name of its own
		http.Error(w, "this site is shown to this machine alone; ask for it as localhost", http.StatusForbidden)
		return
	}
	if name, ok := strings.CutPrefix(r.URL.Path, liveAt); ok {
		l.own(w, r, name)
		return
	}
	if l.proxy != nil {
		l.proxy.ServeHTTP(w, r)
		return
	}
	l.file(w, r)
}

// file answers with a file of the folder.
func (l *Live) file(w http.ResponseWriter, r *http.Request) {
	if r.Method != http.MethodGet && r.Method != http.MethodHead {
		http.Error(w, "only reading is possible", http.StatusMethodNotAllowed)
		return
	}
	name := strings.TrimPrefix(path.Clean("/"+r.URL.Path), "/")
	if name == "" {
		name = "."
	}
	if info, err := fs.Stat(l.files, name); err == nil && info.IsDir() {
		name = path.Join(name, "index.html")
	}
	w.Header().Set("Cache-Control", "no-store")
	if text := l.typed(path.Join(l.root, name)); text != nil {
		w.Header().Set("Content-Type", "text/css; charset=utf-8")
		_, _ = w.Write(text)
		return
	}
	if _, err := fs.Stat(l.files, name); err != nil && l.fonts != nil && strings.HasPrefix(name, "fonts/") {
		http.ServeFileFS(w, r, l.fonts, name)
		return
	}
	if !strings.HasSuffix(name, ".html") && !strings.HasSuffix(name, ".htm") {
		http.ServeFileFS(w, r, l.files, name)
		return
	}
	data, err := fs.ReadFile(l.files, name)
	if err != nil {
		http.NotFound(w, r)
		return
	}
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	_, _ = w.Write(withLive(data))
}

// mostPage is how large a page or a style sheet may be that is changed on its way.
const mostPage = 32 << 20

// through adds the script to a page on its way, and puts what is edited in the place of a style sheet.
func (l *Live) through(r *http.Response, target *url.URL) error {
	for i, c := range r.Header.Values("Set-Cookie") {
		r.Header["Set-Cookie"][i] = hereCookie(c)
	}
	if to, err := url.Parse(r.Header.Get("Location")); err == nil && to.Host == target.Host {
		to.Scheme, to.Host = "", ""
		r.Header.Set("Location", to.String())
	}
	r.Header.Del("Strict-Transport-Security")
	kind, _, _ := mime.ParseMediaType(r.Header.Get("Content-Type"))
	if kind != "text/css" && kind != "text/html" && kind != "application/xhtml+xml" {
		return nil
	}
	r.Header.Set("Cache-Control", "no-store")
	if p := r.Header.Get("Content-Security-Policy"); p != "" && kind != "text/css" {
		r.Header.Set("Content-Security-Policy", admitting(p))
	}
	if r.Request.Method == http.MethodHead || r.StatusCode != http.StatusOK && kind == "text/css" || r.StatusCode == http.StatusNotModified || r.StatusCode == http.StatusNoContent {
		return nil
	}
	data, ok, err := unpacked(r)
	if err != nil || !ok {
		return err
	}
	if kind == "text/css" {
		data = l.asEdited(r.Request.URL.Path, data)
	} else {
		data = withLive(data)
	}
	r.Body = io.NopCloser(bytes.NewReader(data))
	r.ContentLength = int64(len(data))
	r.Header.Set("Content-Length", fmt.Sprint(len(data)))
	r.Header.Del("Content-Encoding")
	r.Header.Del("ETag")
	return nil
}

// unpacked is the body of an answer; ok is false for a coding that is left as it is.
func unpacked(r *http.Response) (data []byte, ok bool, err error) {
	var body io.Reader = r.Body
	switch strings.ToLower(r.Header.Get("Content-Encoding")) {
	case "":
	case "gzip":
		if body, err = gzip.NewReader(body); err != nil {
			return nil, false, err
		}
	case "br":
		body = brotli.NewReader(body)
	default:
		return nil, false, nil
	}
	if data, err = io.ReadAll(io.LimitReader(body, mostPage+1)); err != nil {
		return nil, false, err
	}
	if len(data) > mostPage {
		return nil, false, errors.New("it is larger than 32 MB")
	}
	return data, true, r.Body.Close()
}

// hereCookie is a cookie that this machine's address may set: without a domain, and without asking for https.
func hereCookie(c string) string {
	parts := strings.Split(c, ";")
	out := parts[:1]
	for _, p := range parts[1:] {
		name, _, _ := strings.Cut(strings.ToLower(strings.TrimSpace(p)), "=")
		if name != "domain" && name != "secure" && !(name == "samesite" && strings.Contains(strings.ToLower(p), "none")) {
			out = append(out, p)
		}
	}
	return strings.Join(out, ";")
}

// admitting is a policy that lets the script of this address run and ask it.
func admitting(policy string) string {
	var out []string
	for _, d := range strings.Split(policy, ";") {
		words := strings.Fields(d)
		if len(words) == 0 {
			continue
		}
		switch strings.ToLower(words[0]) {
		case "script-src", "script-src-elem", "connect-src", "default-src", "img-src", "style-src", "style-src-elem":
			var kept []string
			for _, w := range words {
				if w != "'none'" && w != "'strict-dynamic'" {
					kept = append(kept, w)
				}
			}
			words = append(kept, "'self'")
		case "upgrade-insecure-requests", "require-trusted-types-for":
			continue
		}
		out = append(out, strings.Join(words, " "))
	}
	return strings.Join(out, "; ")
}

// withLive is a page with the script at the beginning of its head.
func withLive(page []byte) []byte {
	tag := []byte(`<script src="` + liveAt + `live.js"></script>`)
	lower := bytes.ToLower(page)
	at := 0
	for _, open := range []string{"<head", "<html", "<!doctype"} {
		i := bytes.Index(lower, []byte(open))
		if i < 0 || open == "<head" && bytes.HasPrefix(lower[i:], []byte("<header")) {
			continue
		}
		if end := bytes.IndexByte(lower[i:], '>'); end >= 0 {
			at = i + end + 1
			break
		}
	}
	return append(append(append(make([]byte, 0, len(page)+len(tag)), page[:at]...), tag...), page[at:]...)
}

// own answers what the script asks for, and what an editor sends.
func (l *Live) own(w http.ResponseWriter, r *http.Request, name string) {
	w.Header().Set("Cache-Control", "no-store")
	w.Header().Set("X-Content-Type-Options", "nosniff")
	origin := r.Header.Get("Origin")
	if origin != "" && !sameOrigin(origin, r) {
		http.Error(w, "only the pages of this site ask here", http.StatusForbidden)
		return
	}
	switch {
	case r.Method == http.MethodGet && name == "live.js":
		data, err := files.ReadFile("files/live.js")
		if err != nil {
			http.NotFound(w, r)
			return
		}
		w.Header().Set("Content-Type", "text/javascript; charset=utf-8")
		_, _ = w.Write(data)
	case r.Method == http.MethodGet && name == "events":
		l.events(w, r)
	case r.Method == http.MethodGet && name == "picture":
		var width float64
		_, _ = fmt.Sscan(r.URL.Query().Get("width"), &width)
		data, err := l.ask.Picture(r.Context(), r.URL.Query().Get("page"), width)
		if err != nil {
			http.Error(w, err.Error(), http.StatusNotFound)
			return
		}
		w.Header().Set("Content-Type", "image/png")
		_, _ = w.Write(data)
	case r.Method == http.MethodPost && name == "element" && r.Header.Get("Content-Type") == "application/json":
		var q LiveQuestion
		if err := json.NewDecoder(http.MaxBytesReader(w, r.Body, mostRequested)).Decode(&q); err != nil {
			http.Error(w, "no question", http.StatusBadRequest)
			return
		}
		answer, err := l.ask.Element(r.Context(), q)
		if err != nil {
			answer = map[string]string{"error": err.Error()}
		}
		w.Header().Set("Content-Type", "application/json")
		_ = json.NewEncoder(w).Encode(answer)
	case r.Method == http.MethodPost && (name == "buffer" || name == "caret"):
		l.fromEditor(w, r, name)
	default:
		http.NotFound(w, r)
	}
}

// mostSheet is how long an unsaved style sheet may be.
const mostSheet = 8 << 20

// fromEditor takes the text of an unsaved style sheet, or the selector of the rule that the caret is in.
func (l *Live) fromEditor(w http.ResponseWriter, r *http.Request, name string) {
	if subtle.ConstantTimeCompare([]byte(r.Header.Get("X-Archetyp-Secret")), []byte(l.Secret)) != 1 {
		http.Error(w, "only the editor server of this workspace writes here", http.StatusForbidden)
		return
	}
	var b struct {
		Path, Text, Selector string
		Closed               bool
	}
	if err := json.NewDecoder(http.MaxBytesReader(w, r.Body, mostSheet)).Decode(&b); err != nil {
		http.Error(w, "no text", http.StatusBadRequest)
		return
	}
	switch {
	case name == "caret":
		l.send(map[string]any{"outline": b.Selector})
	case b.Closed:
		l.Forget(b.Path)
	default:
		l.Typed(b.Path, []byte(b.Text))
	}
	w.WriteHeader(http.StatusNoContent)
}

// Known notes the text of a style sheet as it lies on disk. file is its path with forward slashes.
func (l *Live) Known(file string, text []byte) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.of(file).had[textSum(text)] = true
}

// of is a style sheet by its path.
func (l *Live) of(file string) *liveSheet {
	if l.sheets[file] == nil {
		l.sheets[file] = &liveSheet{had: map[string]bool{}}
	}
	return l.sheets[file]
}

// textSum sums up a text, line endings and a byte order mark aside.
func textSum(text []byte) string {
	text = bytes.ReplaceAll(bytes.TrimPrefix(text, []byte("\xef\xbb\xbf")), []byte("\r\n"), []byte("\n"))
	sum := sha256.Sum256(bytes.TrimSpace(text))
	return string(sum[:])
}

// Saved has a style sheet that was saved take effect in open pages.
func (l *Live) Saved(file string, text []byte) {
	l.Known(file, text)
	l.Typed(file, text)
}

// Typed has a style sheet take effect that is not saved yet.
func (l *Live) Typed(file string, text []byte) {
	l.mu.Lock()
	s := l.of(file)
	same := s.now != nil && bytes.Equal(s.now, text)
	s.now = text
	l.mu.Unlock()
	if !same {
		l.sheet(file)
	}
}

// Forget takes back what was not saved of a style sheet.
func (l *Live) Forget(file string) {
	l.mu.Lock()
	s := l.of(file)
	had := s.now != nil
	s.now = nil
	l.mu.Unlock()
	if had {
		l.sheet(file)
	}
}

// typed is the text of a style sheet that is edited; nil for none.
func (l *Live) typed(file string) []byte {
	l.mu.Lock()
	defer l.mu.Unlock()
	if s := l.sheets[file]; s != nil {
		return s.now
	}
	return nil
}

// asEdited is a style sheet of a site as it is edited: the text of the file whose path ends most as the address does, where
// the site sends that file as it is. What a tool made of the file stays: the site makes it anew.
func (l *Live) asEdited(address string, sent []byte) []byte {
	l.mu.Lock()
	defer l.mu.Unlock()
	var best *liveSheet
	most := 0
	for _, file := range slices.Sorted(maps.Keys(l.sheets)) {
		if n := sameEnd(file, address); n > most {
			best, most = l.sheets[file], n
		}
	}
	if best == nil || best.now == nil || len(best.had) > 0 && !best.had[textSum(sent)] {
		return sent
	}
	return best.now
}

func (l *Live) sheet(file string) {
	l.mu.Lock()
	l.count++
	n := l.count
	l.mu.Unlock()
	l.send(map[string]any{"sheet": file, "n": n})
}

// sameEnd is how many names two paths have in common at their ends.
func sameEnd(a, b string) (n int) {
	x, y := strings.Split(strings.Trim(a, "/"), "/"), strings.Split(strings.Trim(b, "/"), "/")
	for n < len(x) && n < len(y) && x[len(x)-1-n] == y[len(y)-1-n] {
		n++
	}
	return n
}

// send sends open pages an event.
func (l *Live) send(event any) {
	data, err := json.Marshal(event)
	if err != nil {
		return
	}
	l.mu.Lock()
	defer l.mu.Unlock()
	for p := range l.pages {
		select {
		case p <- data:
		default: // it is behind, and gets the next
		}
	}
}

// events is the stream of what happens, for one page.
func (l *Live) events(w http.ResponseWriter, r *http.Request) {
	flusher, ok := w.(http.Flusher)
	if !ok {
		http.Error(w, "no stream", http.StatusInternalServerError)
		return
	}
	mine := make(chan []byte, 32)
	l.mu.Lock()
	l.pages[mine] = struct{}{}
	l.mu.Unlock()
	defer func() {
		l.mu.Lock()
		delete(l.pages, mine)
		l.mu.Unlock()
	}()
	w.Header().Set("Content-Type", "text/event-stream")
	_, _ = io.WriteString(w, ": \n\n")
	flusher.Flush()
	for {
		select {
		case <-r.Context().Done():
			return
		case data := <-mine:
			_, _ = fmt.Fprintf(w, "data: %s\n\n", data)
			flusher.Flush()
		}
	}
}
