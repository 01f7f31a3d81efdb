package job

import (
	"fmt"
	"path"
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/core/match"
	"archetyp/workspace"
)

// pins finds elements that phases and remarks remember, in drawings that are read when they are asked for: those that
// are named, and all of them where one of these is gone.
type pins struct {
	ws      *workspace.Workspace
	sources []string
	docs    map[string]*design.Document
	field   *match.Field
	whole   *match.Field // of all drawings
	open    func() (func(name string) (*design.Document, error), error)
	Unread  []error
}

func newPins(ws *workspace.Workspace) (*pins, error) {
	sources, err := ws.Sources()
	return &pins{ws: ws, sources: sources, docs: map[string]*design.Document{}, open: func() (func(string) (*design.Document, error), error) {
		r, err := plainReader(ws)
		return func(name string) (*design.Document, error) {
			doc, _, err := r.parse(name, false)
			return doc, err
		}, err
	}}, err
}

// pins finds elements in the drawings of a snapshot.
func (s *Snapshot) pins() *pins {
	byName := map[string]*drawing{}
	p := &pins{ws: s.ws, docs: map[string]*design.Document{}}
	for _, d := range s.drawings {
		byName[d.name] = d
		p.sources = append(p.sources, d.name)
	}
	p.open = func() (func(string) (*design.Document, error), error) {
		return func(name string) (*design.Document, error) { return byName[name].doc() }, nil
	}
	return p
}

// read reads drawings, side by side.
func (p *pins) read(names []string) error {
	names = slices.DeleteFunc(slices.Compact(slices.Sorted(slices.Values(names))), func(n string) bool {
		_, known := p.docs[n]
		return known || !slices.Contains(p.sources, n)
	})
	if len(names) == 0 {
		return nil
	}
	open, err := p.open()
	if err != nil {
		return err
	}
	docs, errs := make([]*design.Document, len(names)), make([]error, len(names))
	_ = Parallel(len(names), func(i int) error {
		docs[i], errs[i] = open(names[i])
		return nil
	})
	for i, n := range names {
		if errs[i] != nil {
			p.Unread = append(p.Unread, errs[i])
			continue
		}
		if docs[i].Name != n {
			docs[i].Name = n
		}
		p.docs[n] = docs[i]
	}
	p.field = nil
	return nil
}

// found is where an anchor leads now.
type found struct {
	match.Found
	Source string // of the drawing; "" for lost
}

// find finds the elements of anchors, in their order.
func (p *pins) find(anchors []match.Anchor) ([]found, error) {
	var names []string
	for i := range anchors {
		names = append(names, anchors[i].Source)
	}
	if slices.ContainsFunc(names, func(n string) bool { return !slices.Contains(p.sources, n) }) {
		names = p.sources // it went somewhere else, or away
	}
	if err := p.read(names); err != nil {
		return nil, err
	}
	if p.field == nil {
		var docs []*design.Document
		for _, n := range sortedKeys(p.docs) {
			docs = append(docs, p.docs[n])
		}
		p.field = match.NewField(docs)
	}
	out := make([]found, len(anchors))
	for i := range anchors {
		out[i].Found = p.field.Find(&anchors[i])
		if out[i].Element != nil {
			out[i].Source = out[i].Doc.Name
		}
	}
	return out, nil
}

// pin is an element of a drawing of the workspace, by its place among all elements, as somebody else read the drawing; a
// whole screen by the place of the screen.
type pin struct {
	source string
	screen int
	at     int // −1 for the screen
}

// pinsOf are the pins of elements of a document.
func pinsOf(source string, doc *design.Document, elements []*design.Element) (out []pin) {
	all := doc.All()
	for _, e := range elements {
		p := pin{source, slices.Index(doc.Screens, e.Screen), -1}
		if e != e.Screen.Root {
			p.at = slices.Index(all, e)
		}
		out = append(out, p)
	}
	return out
}

// anchors remember elements, as the workspace's own fonts have them set.
func (p *pins) anchors(list []pin) (out []match.Anchor, elements []*design.Element, err error) {
	for _, x := range list {
		if err := p.read([]string{x.source}); err != nil {
			return nil, nil, err
		}
		doc := p.docs[x.source]
		if doc == nil {
			if len(p.Unread) > 0 {
				return nil, nil, p.Unread[0]
			}
			return nil, nil, hint.New(x.source+" is no source of this workspace", "Its sources are "+strings.Join(p.sources, ", ")+".")
		}
		e := doc.Screens[x.screen].Root
		if x.at >= 0 {
			e = doc.All()[x.at]
		}
		if p.whole == nil {
			p.whole = match.NewField(nil)
		}
		out, elements = append(out, p.whole.Anchor(doc, e)), append(elements, e)
	}
	return out, elements, nil
}

// Target is what a phase or a remark is about: elements of a document, or its screens.
type Target struct {
	Source   string // path in the workspace
	Doc      *design.Document
	Elements []*design.Element
}

// title is what an element is called in a list.
func title(e *design.Element) string {
	if e == e.Screen.Root {
		return e.Screen.Name
	}
	return e.Title()
}

// sourceNamed reports whether a source is the one that a name means: its path, its file name, or that without extension.
func sourceNamed(source, name string) bool {
	base := path.Base(source)
	return source == name || base == name || strings.TrimSuffix(base, path.Ext(base)) == name
}

// lostAt says where a lost anchor was.
func lostAt(a *match.Anchor) string {
	if a.Whole() {
		return fmt.Sprintf("the screen %s of %s", a.Screen, a.Source)
	}
	return fmt.Sprintf("%s on %s", a.Select, a.Screen)
}
