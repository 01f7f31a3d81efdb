package job

import (
	"fmt"
	"slices"
	"strings"
	"sync"

	"archetyp/core/design"
	"archetyp/core/match"
	"archetyp/workspace"
)

// read parses every source, side by side; results stand in the order of the sources.
func (r *run) read() error {
	if err := r.loadFonts(); err != nil {
		return err
	}
	marks, root := r.ws.Config.SelectedMarks(), r.ws.Config.RootPx()
	r.docs = make([]*design.Document, len(r.sources))
	errs := make([]error, len(r.sources))
	var mu sync.Mutex
	_ = Told(r.o.Progress, "reading", len(r.sources), func(i int) error {
		p := r.sources[i]
		r.docs[i], errs[i] = workspace.ParseDrawing(r.files[p], workspace.Drawing{Shown: p, Fonts: r.fonts.Clone(), Marks: marks, Root: root, Limits: r.ws.Config.Budget(), Load: r.ws.Links(p, r.linked(&mu))})
		return nil
	})
	if err := r.setAside(errs); err != nil {
		return err
	}
	r.docs = slices.DeleteFunc(r.docs, func(d *design.Document) bool { return d == nil })
	r.summarise()
	return nil
}

// setAside notes the sources that could not be read; where no other could be, they are the
// error of all.
func (r *run) setAside(errs []error) error {
	bad := faults(errs)
	if len(bad) == 0 {
		return nil
	}
	if r.o.Strict || len(bad) == len(r.sources) {
		return bad
	}
	r.unread = map[string]bool{}
	for i, err := range errs {
		if err != nil {
			r.unread[r.sources[i]] = true
		}
	}
	r.report.Unread = bad
	return nil
}

// linked notes the files a drawing links to: they are inputs too.
func (r *run) linked(mu *sync.Mutex) func(path string, data []byte) {
	return func(path string, data []byte) {
		mu.Lock()
		defer mu.Unlock()
		if r.links == nil {
			r.links = map[string]string{}
		}
		r.links[path] = workspace.Hash(data)
	}
}

// faults are the errors there are.
func faults(errs []error) joined {
	var bad joined
	for _, err := range errs {
		if err != nil {
			bad = append(bad, err)
		}
	}
	return bad
}

// joined keeps several errors apart, so that each can be told.
type joined []error

func (j joined) Error() string {
	var out []string
	for _, e := range j {
		out = append(out, e.Error())
	}
	return strings.Join(out, "\n")
}

func (j joined) Unwrap() []error { return j }

// summarise counts what was read, and compares it with what the lock remembers.
func (r *run) summarise() {
	s := &r.report.Summary
	s.Sources, s.Warnings = len(r.docs), append(s.Warnings, byCause(r.docs)...)
	for _, d := range r.docs {
		s.Screens += len(d.Screens)
		all := d.All()
		s.Elements += len(all)
		if old, known := r.lock.Elements[d.Name]; known && r.lock.Inputs[d.Name] != r.hashes[d.Name] {
			r.report.Changes = append(r.report.Changes, d.Name+": "+changes(old, all))
		} else if !known && len(r.lock.Elements) > 0 {
			r.report.Changes = append(r.report.Changes, d.Name+": a new source")
		}
	}
	for name := range r.lock.Elements {
		if _, still := r.hashes[name]; !still && !r.unread[name] {
			r.report.Changes = append(r.report.Changes, name+": no longer a source")
		}
	}
}

// byCause are the warnings of drawings, one for each cause: where it first shows, and in how many drawings more.
func byCause(docs []*design.Document) []string {
	first, more := map[string]string{}, map[string]int{}
	var causes []string
	for _, d := range docs {
		for _, w := range d.Warnings {
			if _, known := first[w.Msg]; known {
				more[w.Msg]++
				continue
			}
			first[w.Msg] = fmt.Sprintf("%s:%d:%d", d.Name, w.Position.Line, w.Position.Column)
			causes = append(causes, w.Msg)
		}
	}
	var out []string
	for _, msg := range causes {
		at := first[msg]
		if n := more[msg]; n > 0 {
			at += fmt.Sprintf(" and in %d more", n)
		}
		out = append(out, at+": "+msg)
	}
	return out
}

// matched pairs the elements a lock remembers of a source with those read now.
func matched(old []workspace.LockedElement, now []*design.Element) []match.Pair {
	a, b := make([]match.Identity, len(old)), make([]match.Identity, len(now))
	for i, e := range old {
		a[i] = e.Identity
	}
	for i, e := range now {
		b[i] = match.Of(e)
	}
	return match.Match(a, b)
}

// changes says in words how a source differs from what the lock remembers of it.
func changes(old []workspace.LockedElement, now []*design.Element) string {
	var changed []string
	pairs := matched(old, now)
	for _, p := range pairs {
		if old[p.Old].Facts != factsHash(now[p.New]) && now[p.New].Kind != design.Group {
			changed = append(changed, now[p.New].Path)
		}
	}
	var parts []string
	if n := len(changed); n > 0 {
		list := strings.Join(changed[:min(n, 3)], ", ")
		if n > 3 {
			list += ", …"
		}
		parts = append(parts, fmt.Sprintf("%d changed (%s)", n, list))
	}
	if n := len(now) - len(pairs); n > 0 {
		parts = append(parts, fmt.Sprintf("%d new", n))
	}
	if n := len(old) - len(pairs); n > 0 {
		parts = append(parts, fmt.Sprintf("%d gone", n))
	}
	if len(parts) == 0 {
		return "edited, with the same facts"
	}
	return "elements " + strings.Join(parts, ", ")
}

// factsHash is short for all that is known of an element.
func factsHash(e *design.Element) string {
	var b strings.Builder
	for _, f := range e.Facts() {
		b.WriteString(f.Name + "\x00" + f.Value + "\x00")
	}
	return workspace.Hash([]byte(b.String()))[:12]
}
