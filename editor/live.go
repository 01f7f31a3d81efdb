package editor

import (
	"context"
	"path/filepath"
	"regexp"
	"strings"
	"sync"

	"archetyp/job"
)

// lives sends what is typed to the place where a site of the workspace is shown, where one is.
type lives struct {
	mu      sync.Mutex
	editors map[string]*job.LiveEditor // by the folder of the workspace
}

func (l *lives) of(dir string) *job.LiveEditor {
	if l.editors == nil {
		l.editors = map[string]*job.LiveEditor{}
	}
	if l.editors[dir] == nil {
		l.editors[dir] = &job.LiveEditor{Dir: dir}
	}
	return l.editors[dir]
}

// toLive sends the text of a style sheet, the latest only; closed takes it back.
func (s *Server) toLive(d *document, closed bool) {
	if !strings.EqualFold(filepath.Ext(d.file), ".css") {
		return
	}
	s.work.Go(func() {
		sp := s.spaceOf(d.file)
		if sp == nil {
			return
		}
		s.lives.mu.Lock()
		defer s.lives.mu.Unlock()
		if closed || s.current(d) {
			s.lives.of(sp.dir).Buffer(s.ctx, filepath.ToSlash(d.file), d.text.string, closed)
		}
	})
}

// states are what a selector asks for that an element need not be in to be outlined.
var states = regexp.MustCompile(`::?(?:hover|focus(?:-visible|-within)?|active|visited|target|before|after|placeholder|marker|selection|first-line|first-letter)\b`)

// caretAt has the elements outlined that the rule at a place means.
func (c *call) caretAt(o *openFile, offset int) {
	selector, code := "", o.code()
	for i := range code.Rules {
		if r := &code.Rules[i]; r.From <= offset && offset <= r.Close && r.Selector != "" && !r.At() {
			selector = r.Selector // the innermost comes last
		}
	}
	selector = strings.TrimSpace(states.ReplaceAllString(selector, ""))
	sp := o.sp
	c.work.Go(func() {
		c.lives.mu.Lock()
		defer c.lives.mu.Unlock()
		c.lives.of(sp.dir).Caret(c.ctx, selector)
	})
}

// highlight is an occurrence of what stands at a place.
type highlight struct {
	Range lspRange `json:"range"`
}

// highlights are the other places of a custom property in a text. Editors ask for them as the caret moves.
func highlights(ctx context.Context, c *call, p *documentPosition) (any, error) {
	out := []highlight{}
	o := c.open(ctx, p.TextDocument.URI)
	if o == nil || o.code == nil {
		return out, nil
	}
	at := o.text.offset(p.Position, c.client.encoding)
	c.caretAt(o, at)
	from, to := wordAt(o.text.string, at)
	name := o.text.string[from:to]
	if !strings.HasPrefix(name, "--") {
		return out, nil
	}
	for i := 0; ; {
		k := strings.Index(o.text.string[i:], name)
		if k < 0 {
			return out, nil
		}
		i += k
		if f, t := wordAt(o.text.string, i+1); t-f == len(name) {
			out = append(out, highlight{o.text.span(f, t, c.client.encoding)})
		}
		i += len(name)
	}
}

// wordAt is the name at a place of a style sheet.
func wordAt(s string, at int) (from, to int) {
	name := func(b byte) bool {
		return b == '-' || b == '_' || b >= '0' && b <= '9' || b >= 'a' && b <= 'z' || b >= 'A' && b <= 'Z' || b >= 0x80
	}
	from, to = min(at, len(s)), min(at, len(s))
	for from > 0 && name(s[from-1]) {
		from--
	}
	for to < len(s) && name(s[to]) {
		to++
	}
	return from, to
}
