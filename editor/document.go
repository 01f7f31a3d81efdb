package editor

import (
	"context"
	"maps"
	"net/url"
	"path/filepath"
	"runtime"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"archetyp/core/styletext"
)

// document is a text that is open, in one version. It never changes.
type document struct {
	uri, file string // the file on disk; "" for none
	id        string // of the language, as the client calls it
	version   int
	text      *text
	code      func() *styletext.Code // nil where it holds no styles
	have      atomic.Pointer[styletext.Code]
}

func newDocument(uri, id string, version int, t *text) *document {
	d := &document{uri: uri, file: pathOf(uri), id: id, version: version, text: t}
	if l, ok := styletext.LanguageOf(id, d.file); ok {
		d.reads(func() *styletext.Code { return styletext.Read(t.string, l) })
	}
	return d
}

// reads has the styles of a document read when they are first asked for.
func (d *document) reads(read func() *styletext.Code) {
	d.code = sync.OnceValue(func() *styletext.Code {
		c := read()
		d.have.Store(c)
		return c
	})
}

// changed is the document in its next version. What was read of it before is read again only around the change.
func (d *document) changed(changes []contentChange, version int, e encoding) *document {
	t := d.text
	for _, c := range changes {
		t = t.change(c, e)
	}
	next := newDocument(d.uri, d.id, version, t)
	if before := d.have.Load(); before != nil && len(changes) == 1 && changes[0].Range != nil {
		from, to := d.text.bytes(*changes[0].Range, e)
		next.reads(func() *styletext.Code { return before.Edited(t.string, from, to, len(changes[0].Text)) })
	}
	return next
}

// pathOf is the file of an address; "" for one that is none.
func pathOf(uri string) string {
	u, err := url.Parse(uri)
	if err != nil || u.Scheme != "file" {
		return ""
	}
	p := u.Path
	if runtime.GOOS == "windows" {
		p = strings.TrimPrefix(p, "/")
	}
	return filepath.FromSlash(p)
}

// uriOf is the address of a file.
func uriOf(file string) string {
	p := filepath.ToSlash(file)
	if !strings.HasPrefix(p, "/") {
		p = "/" + p
	}
	return (&url.URL{Scheme: "file", Path: p}).String()
}

// put replaces a document; nil takes it away.
func (s *Server) put(uri string, d *document) {
	s.mu.Lock()
	defer s.mu.Unlock()
	docs := maps.Clone(s.docs)
	if d == nil {
		delete(docs, uri)
	} else {
		docs[uri] = d
	}
	s.docs = docs
}

// didOpen notes a text that was opened.
func didOpen(_ context.Context, c *call, p *struct {
	TextDocument textDocumentItem `json:"textDocument"`
}) (any, error) {
	d := newDocument(p.TextDocument.URI, p.TextDocument.LanguageID, p.TextDocument.Version, newText(p.TextDocument.Text))
	c.put(d.uri, d)
	c.changed(d)
	return nil, nil
}

// didChange changes an open text, one edit after another.
func didChange(_ context.Context, c *call, p *struct {
	TextDocument   textDocument    `json:"textDocument"`
	ContentChanges []contentChange `json:"contentChanges"`
}) (any, error) {
	d := c.docs[p.TextDocument.URI]
	if d == nil {
		return nil, nil
	}
	c.idleSince.Reset(pause)
	version := d.version + 1
	if p.TextDocument.Version != nil {
		version = *p.TextDocument.Version
	}
	d = d.changed(p.ContentChanges, version, c.client.encoding)
	c.put(d.uri, d)
	c.changed(d)
	c.toLive(d, false)
	return nil, nil
}

// didClose forgets a text; the file on disk counts again.
func didClose(_ context.Context, c *call, p *documentParams) (any, error) {
	d := c.docs[p.TextDocument.URI]
	if d == nil {
		return nil, nil
	}
	c.put(d.uri, nil)
	c.toLive(d, true)
	_ = c.conn.Notify(c.ctx, "textDocument/publishDiagnostics", publishDiagnostics{URI: d.uri, Diagnostics: []diagnostic{}})
	if isInput(d.file) {
		c.work.Go(func() {
			if sp := c.spaceOf(d.file); sp != nil {
				sp.stale()
			}
		})
	}
	return nil, nil
}

// didSave brings in step what a renaming left to the saving.
func didSave(_ context.Context, c *call, p *documentParams) (any, error) {
	c.work.Go(func() {
		if sp := c.spaceOf(pathOf(p.TextDocument.URI)); sp != nil {
			sp.stale()
			sp.finishRename()
		}
	})
	return nil, nil
}

// filesChanged has the workspaces read anew whose files changed.
func filesChanged(_ context.Context, c *call, p *struct {
	Changes []struct {
		URI string `json:"uri"`
	} `json:"changes"`
}) (any, error) {
	c.work.Go(func() {
		seen := map[*space]bool{}
		for _, ch := range p.Changes {
			if sp := c.spaceOf(pathOf(ch.URI)); sp != nil && !seen[sp] {
				seen[sp] = true
				sp.stale()
				sp.finishRename()
			}
		}
	})
	return nil, nil
}

// changed looks a text over, and has its workspace read anew where it is one of its inputs.
func (s *Server) changed(d *document) {
	s.work.Go(func() {
		sp := s.spaceOf(d.file)
		if sp == nil {
			return
		}
		if isInput(d.file) {
			sp.stale()
		}
		time.Sleep(courtesy)
		s.idle(mostCourtesy)
		sp.publish(d)
	})
}

// Whoever types waits for what is offered, not for what is found: a text is looked over when the requests that came with
// the keystroke are answered.
const (
	courtesy     = 3 * time.Millisecond
	mostCourtesy = 15 * time.Millisecond
)

// declared are the custom properties that a document declares.
func (d *document) declared() (out []string) {
	code := d.code()
	for i := range code.Decls {
		if p := code.Decls[i].Property; strings.HasPrefix(p, "--") {
			out = append(out, p)
		}
	}
	return out
}
