package job

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"archetyp/core/design"
	"archetyp/core/diff"
	"archetyp/core/hint"
	"archetyp/core/match"
	"archetyp/core/phase"
	"archetyp/workspace"
)

// Phased is an entry of the phases with the element it is about, as that is now.
type Phased struct {
	Key string
	*phase.Entry
	Source  string          // the drawing it is in now
	Element *design.Element // nil for lost; the root of a screen
	Why     match.Reason    // it was found, or is lost
	Changed bool            // it does not look as it did when the phase was set
	Changes []diff.Change   // how, where the drawing was committed then
	Tickets []string
}

// Where is what it is about: a screen, or an element on one.
func (p *Phased) Where() string {
	if p.Element == nil {
		return lostAt(&p.At)
	}
	if p.At.Whole() {
		return p.Element.Screen.Name
	}
	return p.Element.Screen.Name + ": " + title(p.Element)
}

// PhaseFilter says which entries are wanted; what is empty lets all through.
type PhaseFilter struct {
	Phases, Tags, Screens, Sources []string
	Ticket                         string
	Due                            int
	Changed, Lost                  bool
}

func (f *PhaseFilter) takes(p *Phased) bool {
	screen := p.At.Screen
	if p.Element != nil {
		screen = p.Element.Screen.Name
	}
	return (len(f.Phases) == 0 || slices.Contains(f.Phases, p.Phase)) &&
		(len(f.Tags) == 0 || slices.ContainsFunc(f.Tags, func(t string) bool { return slices.Contains(p.Tags, t) })) &&
		(len(f.Screens) == 0 || slices.Contains(f.Screens, screen)) &&
		(len(f.Sources) == 0 || slices.ContainsFunc(f.Sources, func(n string) bool { return sourceNamed(p.Source, n) })) &&
		(f.Ticket == "" || slices.Contains(p.Tickets, f.Ticket)) && (f.Due == 0 || p.Due == f.Due) &&
		(!f.Changed || p.Changed) && (!f.Lost || p.Element == nil)
}

// readBook reads the phases; a workspace without any has an empty book.
func readBook(ws *workspace.Workspace) (*phase.Book, error) {
	data, err := ws.ReadFile(phase.FileName)
	if err != nil {
		if workspace.Missing(err) {
			return phase.New(), nil
		}
		return nil, err
	}
	if err := workspace.Conflict(phase.FileName, data); err != nil {
		return nil, err
	}
	b, err := phase.Read(data)
	if err != nil {
		return nil, workspace.YAMLError(err, phase.FileName)
	}
	return b, nil
}

// Phases lists the phases, by key. With how, those whose element changed list the changes, taken from git.
func Phases(ctx context.Context, ws *workspace.Workspace, f PhaseFilter, how bool) (list []Phased, unread []error, err error) {
	p, err := newPins(ws)
	if err != nil {
		return nil, nil, err
	}
	list, err = p.phases(ctx, f, how)
	return list, p.Unread, err
}

// phases is Phases with drawings at hand.
func (p *pins) phases(ctx context.Context, f PhaseFilter, how bool) (list []Phased, err error) {
	ws := p.ws
	b, err := readBook(ws)
	if err != nil || len(b.Entries) == 0 {
		return nil, err
	}
	keys, where, err := p.ofBook(b)
	if err != nil {
		return nil, err
	}
	past := map[string]*design.Document{}
	for i, k := range keys {
		x := Phased{Key: k, Entry: b.Entries[k], Source: where[i].Source, Element: where[i].Element, Why: where[i].Why}
		if x.Element != nil && x.Seen != "" {
			x.Changed = p.field.State(x.Element) != x.Seen
		}
		texts := []string{x.Entry.Why, strings.Join(x.Tags, " ")}
		if x.Element != nil {
			texts = append(texts, x.Element.Marks.Behaviour)
		}
		x.Tickets = ws.Config.TicketsIn(texts...)
		if !f.takes(&x) {
			continue
		}
		if how && x.Changed && x.Commit != "" {
			x.Changes = changesSince(ctx, ws, &x, p.docs[x.Source], past)
		}
		list = append(list, x)
	}
	return list, nil
}

// ofBook finds the elements of all entries of a book, by key.
func (p *pins) ofBook(b *phase.Book) (keys []string, where []found, err error) {
	keys = b.Keys()
	anchors := make([]match.Anchor, len(keys))
	for i, k := range keys {
		anchors[i] = b.Entries[k].At
	}
	where, err = p.find(anchors)
	return keys, where, err
}

// changesSince are the changes of an element and of what lies in it since its phase was set; none where git no longer
// has the drawing of then.
func changesSince(ctx context.Context, ws *workspace.Workspace, x *Phased, now *design.Document, past map[string]*design.Document) (out []diff.Change) {
	key := x.Commit + ":" + x.At.Source
	was, known := past[key]
	if !known {
		was, _ = SourceAt(ws, x.Commit, x.At.Source) // nil where it is no more
		past[key] = was
	}
	if was == nil || ctx.Err() != nil {
		return nil
	}
	within := map[*design.Element]bool{}
	x.Element.Walk(func(e *design.Element) { within[e] = true })
	for _, c := range diff.Documents(was, now) {
		inside := c.New != nil && within[c.New]
		if c.New == nil { // of what is gone, what lay in it
			for p := c.Old; p != nil && !inside; p = p.Parent {
				inside = x.At.Whole() && p.Screen.Name == x.Element.Screen.Name || p.ID != "" && p.ID == x.Element.ID
			}
		}
		if inside && !(c.New == x.Element && c.Kind == diff.Moved) {
			out = append(out, c)
		}
	}
	return out
}

// PhaseSetting is the phase to set for elements, with its reason, tags and due edition.
type PhaseSetting struct {
	Phase string
	Why   string
	By    string   // "" for the person at this machine
	Tags  []string // added; those that begin with "-" are taken away
	Due   int      // 0 to leave it as it is
}

// SetPhase says how far the work on elements is, or drops their phases where that is "". It gives the entries as they
// are now.
func SetPhase(ctx context.Context, ws *workspace.Workspace, t Target, o PhaseSetting) ([]Phased, error) {
	if o.Phase != "" {
		if err := phase.Check(o.Phase, ws.Config.PhaseNames()); err != nil {
			return nil, err
		}
	}
	release, err := ws.Hold(workspace.Writing)
	if err != nil {
		return nil, err
	}
	defer release()
	b, err := readBook(ws)
	if err != nil {
		return nil, err
	}
	p, err := newPins(ws)
	if err != nil {
		return nil, err
	}
	anchors, elements, err := p.anchors(pinsOf(t.Source, t.Doc, t.Elements))
	if err != nil {
		return nil, err
	}
	known, err := p.keysOf(b)
	if err != nil {
		return nil, err
	}
	commit := ws.CommitOf(t.Source)
	var out []Phased
	for i, e := range elements {
		key := known[e]
		if o.Phase == "" {
			if key != "" {
				out = append(out, Phased{Key: key, Entry: b.Entries[key], Source: t.Source, Element: e})
				delete(b.Entries, key)
			}
			continue
		}
		entry := b.Entries[key]
		if entry == nil {
			key = b.KeyFor(&anchors[i], title(e))
			entry = &phase.Entry{}
			b.Entries[key] = entry
		}
		if o.By == "" {
			o.By = ws.Me().Name
		}
		entry.Statement = phase.Statement{Phase: o.Phase, Why: o.Why, By: o.By, On: Today(), Seen: p.field.State(e), Commit: commit}
		entry.At, entry.Or = anchors[i], nil
		entry.Tags = tagged(entry.Tags, o.Tags)
		if o.Due != 0 {
			entry.Due = max(o.Due, 0)
		}
		out = append(out, Phased{Key: key, Entry: entry, Source: t.Source, Element: e})
	}
	if o.Phase == "" && len(out) == 0 {
		return nil, hint.New("none of them has a phase", "\"archetyp phase list\" lists those that have.")
	}
	return out, writeBook(ws, b)
}

// DropPhases drops entries by their keys: those of elements that are gone.
func DropPhases(ws *workspace.Workspace, keys []string) error {
	release, err := ws.Hold(workspace.Writing)
	if err != nil {
		return err
	}
	defer release()
	b, err := readBook(ws)
	if err != nil {
		return err
	}
	for _, k := range keys {
		if b.Entries[k] == nil {
			h := "\"archetyp phase list\" lists them."
			if near := hint.Nearest(k, b.Keys()); near != "" {
				h = fmt.Sprintf("Did you mean %q?", near)
			}
			return hint.New(fmt.Sprintf("no phase has the key %q", k), h)
		}
		delete(b.Entries, k)
	}
	return writeBook(ws, b)
}

// keysOf are the keys of a book by the elements they are about, of the drawings that were read.
func (p *pins) keysOf(b *phase.Book) (map[*design.Element]string, error) {
	keys, where, err := p.ofBook(b)
	if err != nil {
		return nil, err
	}
	out := map[*design.Element]string{}
	for i, k := range keys {
		if e := where[i].Element; e != nil && out[e] == "" {
			out[e] = k
		}
	}
	return out, nil
}

func tagged(have, change []string) []string {
	out := slices.Clone(have)
	for _, t := range change {
		if gone, ok := strings.CutPrefix(t, "-"); ok {
			out = slices.DeleteFunc(out, func(x string) bool { return x == gone })
		} else if !slices.Contains(out, t) {
			out = append(out, t)
		}
	}
	slices.Sort(out)
	return out
}

func writeBook(ws *workspace.Workspace, b *phase.Book) error {
	data, err := b.Bytes()
	if err != nil {
		return err
	}
	change := &workspace.Change{}
	if data == nil {
		if ws.Exists(phase.FileName) {
			change.Remove(workspace.Annotations, phase.FileName)
		}
	} else {
		change.Put(ws, workspace.Annotations, phase.FileName, data)
	}
	return ws.Apply(change)
}

// now is the time; tests set it.
var now = time.Now

// Today is the day, as YYYY-MM-DD in UTC.
func Today() string { return now().UTC().Format(time.DateOnly) }

// PhasedElements are the elements that have one of some phases, as a filter of changes knows them.
func PhasedElements(ctx context.Context, ws *workspace.Workspace, phases []string) (map[string]bool, error) {
	list, _, err := Phases(ctx, ws, PhaseFilter{Phases: phases}, false)
	out := map[string]bool{}
	for _, p := range list {
		if p.Element != nil {
			out[elementKey(p.Element)] = true
		}
	}
	return out, err
}
