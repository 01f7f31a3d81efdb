package job

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"fmt"
	"path"
	"slices"
	"strings"
	"time"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/hint"
	"archetyp/core/match"
	"archetyp/core/remark"
	"archetyp/workspace"
)

// Remark is a thread with the element it is about, as that is now.
type Remark struct {
	*remark.Thread
	Source  string          // the drawing it is in now
	Element *design.Element // nil for lost; the root of a screen
	Why     match.Reason    // it was found, or is lost
	Spot    geom.Point      // px on the screen: where it is pinned
	Tickets []string
}

// Where is what a remark is about: a screen, an element on one, or a connection.
func (r *Remark) Where() string {
	if r.Element == nil {
		return lostAt(&r.At)
	}
	where := r.Element.Screen.Name
	if !r.At.Whole() {
		where += ": " + title(r.Element)
	}
	if r.LeadsTo != "" {
		where += " → " + r.LeadsTo
	}
	return where
}

// Short is the end of a remark's name, by which commands know it, too.
func (r *Remark) Short() string { return shortID(r.ID) }

func shortID(id string) string { return id[strings.LastIndexByte(id, '-')+1:] }

// readThreads reads all remarks.
func readThreads(ws *workspace.Workspace) ([]*remark.Thread, error) {
	var out []*remark.Thread
	for _, f := range annotationFiles(ws)[1:] {
		t, err := readThread(ws, f)
		if err != nil {
			return nil, err
		}
		out = append(out, t)
	}
	return out, nil
}

func readThread(ws *workspace.Workspace, file string) (*remark.Thread, error) {
	data, err := ws.ReadFile(file)
	if err != nil {
		return nil, err
	}
	if err := workspace.Conflict(file, data); err != nil {
		return nil, err
	}
	t, err := remark.Read(strings.TrimSuffix(path.Base(file), ".md"), data)
	if err != nil {
		return nil, workspace.YAMLError(err, file)
	}
	return t, nil
}

// RemarkFilter says which remarks are wanted; what is empty lets all through.
type RemarkFilter struct {
	For, By              string // a person
	Kinds, Screens, Tags []string
	State                string // open, closed
	Source, Ticket       string
	Lost                 bool
}

func (f *RemarkFilter) takes(ws *workspace.Workspace, r *Remark) bool {
	screen := r.At.Screen
	if r.Element != nil {
		screen = r.Element.Screen.Name
	}
	if f.For != "" {
		p := ws.PersonNamed(f.For)
		if !slices.ContainsFunc(r.For, p.Is) {
			return false
		}
	}
	if f.By != "" {
		p := ws.PersonNamed(f.By)
		if !slices.ContainsFunc(r.Entries, func(e remark.Entry) bool {
			w := ws.PersonNamed(e.By)
			return p.Is(e.By) || slices.ContainsFunc(w.Handles, p.Is)
		}) {
			return false
		}
	}
	return (len(f.Kinds) == 0 || slices.Contains(f.Kinds, r.Kind)) && (len(f.Screens) == 0 || slices.Contains(f.Screens, screen)) &&
		(len(f.Tags) == 0 || slices.ContainsFunc(f.Tags, func(t string) bool { return slices.Contains(r.Tags, t) })) &&
		(f.State == "" || f.State == "all" || r.State() == f.State) && (f.Source == "" || sourceNamed(r.Source, f.Source)) &&
		(f.Ticket == "" || slices.Contains(r.Tickets, f.Ticket)) && (!f.Lost || r.Element == nil)
}

// Remarks lists remarks, those with the latest entry first.
func Remarks(ctx context.Context, ws *workspace.Workspace, f RemarkFilter) (list []Remark, unread []error, err error) {
	threads, err := readThreads(ws)
	if err != nil || len(threads) == 0 {
		return nil, nil, err
	}
	all, unread, err := placeRemarks(ws, threads)
	for i := range all {
		if f.takes(ws, &all[i]) {
			list = append(list, all[i])
		}
	}
	slices.SortStableFunc(list, func(a, b Remark) int { return b.Last().On.Compare(a.Last().On) })
	return list, unread, err
}

// placeRemarks finds what threads are about.
func placeRemarks(ws *workspace.Workspace, threads []*remark.Thread) ([]Remark, []error, error) {
	p, err := newPins(ws)
	if err != nil {
		return nil, nil, err
	}
	out, err := p.remarks(threads)
	return out, p.Unread, err
}

// remarks is placeRemarks with drawings at hand.
func (p *pins) remarks(threads []*remark.Thread) ([]Remark, error) {
	anchors := make([]match.Anchor, len(threads))
	for i, t := range threads {
		anchors[i] = t.At
	}
	where, err := p.find(anchors)
	if err != nil {
		return nil, err
	}
	out := make([]Remark, len(threads))
	for i, t := range threads {
		r := Remark{Thread: t, Source: where[i].Source, Element: where[i].Element, Why: where[i].Why}
		var texts []string
		for _, e := range t.Entries {
			texts = append(texts, e.Text)
		}
		r.Tickets = p.ws.Config.TicketsIn(texts...)
		if e := r.Element; e != nil {
			b := e.BorderBox()
			r.Spot = geom.Point{X: b.Right(), Y: b.Y}
			if t.At.Whole() {
				r.Spot = geom.Point{X: b.X, Y: b.Y}
			}
			if len(t.Point) == 2 {
				r.Spot = geom.Point{X: b.X + float64(t.Point[0]), Y: b.Y + float64(t.Point[1])}
			}
		}
		out[i] = r
	}
	return out, nil
}

// NewRemark is a remark to be written.
type NewRemark struct {
	Text, Kind string
	By         string    // "" for the person at this machine
	Point      []float64 // px from the corner of the element; none for the element as a whole
	LeadsTo    string    // the connection to that screen
	Tags       []string
}

// AddRemark writes a remark about an element, or a screen.
func AddRemark(ctx context.Context, ws *workspace.Workspace, t Target, n NewRemark) (*Remark, error) {
	if strings.TrimSpace(n.Text) == "" {
		return nil, hint.New("a remark needs words", "For example: archetyp remark add booking '#pay' \"@aino the gap is 12 px in code\"")
	}
	kinds := ws.Config.RemarkKinds()
	if n.Kind == "" {
		n.Kind = kinds[0]
	}
	if !slices.Contains(kinds, n.Kind) {
		h := "There are " + strings.Join(kinds, ", ") + "; remarks: kinds: in " + workspace.ConfigName + " has others."
		if near := hint.Nearest(n.Kind, kinds); near != "" {
			h = fmt.Sprintf("Did you mean %q?", near)
		}
		return nil, hint.New(fmt.Sprintf("there is no kind of remark %q", n.Kind), h)
	}
	if len(t.Elements) != 1 {
		return nil, hint.New(fmt.Sprintf("a remark is about one element, and %d are chosen", len(t.Elements)), "Give a selector that means one of them.")
	}
	if n.LeadsTo != "" && !leadsTo(t.Elements[0], n.LeadsTo) {
		return nil, hint.New(fmt.Sprintf("%s does not lead to %s", title(t.Elements[0]), n.LeadsTo), "\"archetyp outline\" shows what leads where.")
	}
	p, err := newPins(ws)
	if err != nil {
		return nil, err
	}
	anchors, _, err := p.anchors(pinsOf(t.Source, t.Doc, t.Elements))
	if err != nil {
		return nil, err
	}
	if n.By == "" {
		n.By = ws.Me().Name
	}
	th := &remark.Thread{ID: newThreadID(anchors[0].Screen), Kind: n.Kind, Tags: n.Tags, At: anchors[0], LeadsTo: n.LeadsTo}
	for _, v := range n.Point {
		th.Point = append(th.Point, match.Px(v))
	}
	th.Add(remark.Entry{ID: random(3), By: n.By, On: now(), Text: n.Text})
	if err := writeThread(ws, th); err != nil {
		return nil, err
	}
	all, _, err := placeRemarks(ws, []*remark.Thread{th})
	if err != nil {
		return nil, err
	}
	return &all[0], nil
}

// leadsTo reports whether an element, or one in it, leads to a screen.
func leadsTo(e *design.Element, screen string) (ok bool) {
	e.Walk(func(x *design.Element) {
		to, _, _ := strings.Cut(x.Marks.LeadsTo, ";")
		ok = ok || strings.TrimSpace(to) == screen
	})
	return ok
}

// newThreadID is a name that two people at once do not both choose.
func newThreadID(screen string) string {
	return strings.Join(slices.DeleteFunc([]string{Today(), design.Slug(screen), random(3)}, func(s string) bool { return s == "" }), "-")
}

// random is random bytes as letters.
func random(n int) string {
	b := make([]byte, n)
	_, _ = rand.Read(b) // never fails
	return hex.EncodeToString(b)
}

func writeThread(ws *workspace.Workspace, t *remark.Thread) error {
	data, err := t.Bytes()
	if err != nil {
		return err
	}
	change := &workspace.Change{}
	change.Put(ws, workspace.Annotations, remark.Dir+"/"+t.ID+".md", data)
	return ws.Apply(change)
}

// RemarkNamed is a remark by its name, or the end of it.
func RemarkNamed(ws *workspace.Workspace, name string) (*Remark, error) {
	var found []string
	var all []string
	for _, f := range annotationFiles(ws)[1:] {
		id := strings.TrimSuffix(path.Base(f), ".md")
		all = append(all, shortID(id))
		if id == name || shortID(id) == name || f == name {
			found = append(found, f)
		}
	}
	switch {
	case len(found) == 0:
		h := "\"archetyp remark list --state all\" lists them."
		if near := hint.Nearest(name, all); near != "" {
			h = fmt.Sprintf("Did you mean %q?", near)
		}
		return nil, hint.New(fmt.Sprintf("there is no remark %q", name), h)
	case len(found) > 1:
		return nil, hint.New(fmt.Sprintf("%d remarks are called %q", len(found), name), "Give the whole name of one: "+strings.Join(found, ", "))
	}
	t, err := readThread(ws, found[0])
	if err != nil {
		return nil, err
	}
	list, _, err := placeRemarks(ws, []*remark.Thread{t})
	if err != nil {
		return nil, err
	}
	return &list[0], nil
}

// Reply is an entry to be added to a remark.
type Reply struct {
	Text string
	By   string // "" for the person at this machine
	Does string // remark.Closes, remark.Reopens; "" for words alone
}

// ReplyTo adds an entry to a remark.
func ReplyTo(ws *workspace.Workspace, name string, r Reply) (*Remark, error) {
	release, err := ws.Hold(workspace.Writing)
	if err != nil {
		return nil, err
	}
	defer release()
	t, err := RemarkNamed(ws, name)
	if err != nil {
		return nil, err
	}
	switch {
	case r.Does == "" && strings.TrimSpace(r.Text) == "":
		return nil, hint.New("a reply needs words", "For example: archetyp remark reply "+t.Short()+" \"mended\"")
	case r.Does == remark.Closes && t.Closed():
		return nil, hint.New(name+" is closed already", "\"archetyp remark reopen\" opens it.")
	case r.Does == remark.Reopens && !t.Closed():
		return nil, hint.New(name+" is open", "")
	}
	if r.By == "" {
		r.By = ws.Me().Name
	}
	t.Add(remark.Entry{ID: random(3), By: r.By, On: later(now(), t.Last().On), Does: r.Does, Text: r.Text})
	return t, writeThread(ws, t.Thread)
}

// later is a time that is after another: clocks differ, and a reply follows what it replies to.
func later(t, last time.Time) time.Time {
	if t.Truncate(time.Second).After(last) {
		return t
	}
	return last.Add(time.Second)
}
