package job

import (
	"context"
	"fmt"
	"path"
	"slices"
	"strings"
	"sync"

	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/text"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/core/token/harvest"
	"archetyp/workspace"
)

// Snapshot is what the sources of a workspace say. It never changes, and may be shared between goroutines.
type Snapshot struct {
	Tokens  *token.Library
	Harvest *harvest.Harvest
	Texts   *text.Collection
	Unread  []error  // drawings that could not be read; what is known of them stays
	Moved   []string // drawings that lie elsewhere than at the last sync, in words

	ws       *workspace.Workspace
	in       *inputs
	lock     *workspace.Lock       // of the last sync
	drawings []*drawing            // those that could be read, in the order of the sources
	partly   bool                  // not all sources were opened
	unread   map[string]bool       // sources
	faces    map[string]*font.Face // by file
	names    Names
	holdings string                     // what elements hold that their tokens no longer have
	former   map[string][]harvest.Place // places each token had at the last sync

	keysOnce sync.Once
	keys     map[string]map[string]string // of texts, by source and selector
}

// Read reads a workspace. Drawings that have not changed since they were last read are not read again.
func Read(ctx context.Context, ws *workspace.Workspace) (*Snapshot, error) {
	in, err := findInputs(ws)
	if err != nil {
		return nil, err
	}
	s, err := read(ctx, in, Options{})
	in.disk.Save()
	return s, err
}

// newSnapshot is a snapshot of which nothing is read but the lock.
func newSnapshot(ws *workspace.Workspace) (*Snapshot, error) {
	in, err := findInputs(ws)
	if err != nil {
		return nil, err
	}
	lock, err := ws.ReadLock()
	return &Snapshot{ws: ws, in: in, lock: lock}, err
}

// ReadOne is the values of one drawing, and the tokens they may be. ws is nil for a drawing outside of any workspace;
// shown is the drawing's path from the workspace.
func ReadOne(ws *workspace.Workspace, doc *design.Document, shown string) (*Snapshot, error) {
	s := &Snapshot{ws: ws, drawings: []*drawing{{name: shown, doc: func() (*design.Document, error) { return doc, nil }}}}
	scales, have := token.Scales{Space: 4}, (*token.Set)(nil)
	if ws != nil {
		lib, err := ws.ReadTokens(nil)
		if err != nil {
			return nil, err
		}
		s.Tokens, have = lib, lib.Base
		scales = token.Scales{Space: ws.Config.SpaceStep(), Type: ws.Config.TypeScale()}
	}
	names, err := Named(ws, doc, shown)
	if err != nil {
		return nil, err
	}
	s.names = names
	s.Harvest = harvest.Collect([]*design.Document{doc}, have, scales, names.Held)
	return s, nil
}

// read reads all there is.
func read(ctx context.Context, in *inputs, o Options) (*Snapshot, error) {
	s := &Snapshot{ws: in.ws, in: in}
	var old *text.Catalogue
	err := together(func() (err error) {
		s.lock, err = in.ws.ReadLock()
		return err
	}, func() (err error) {
		old, _, err = ReadTexts(in.ws)
		return err
	}, func() error { return s.readDrawings(ctx, in.sources, o) })
	if err != nil {
		return nil, err
	}
	s.followMoves()
	return s, together(s.readTokens, func() error {
		finds, err := s.finds()
		if err != nil {
			return err
		}
		return s.collect(finds, old, o)
	})
}

// Docs are the drawings, read in full.
func (s *Snapshot) Docs() ([]*design.Document, error) { return docsOf(s.drawings) }

func docsOf(drawings []*drawing) ([]*design.Document, error) {
	docs := make([]*design.Document, len(drawings))
	err := Parallel(len(drawings), func(i int) (err error) {
		docs[i], err = drawings[i].doc()
		return err
	})
	return docs, err
}

// readDrawings opens sources, side by side; results stand in their order.
func (s *Snapshot) readDrawings(ctx context.Context, sources []string, o Options) error {
	r, err := newDrawingReader(ctx, s.in)
	if err != nil {
		return err
	}
	s.faces, r.light = r.faces, o.Only == "assets"
	s.drawings = make([]*drawing, len(sources))
	errs := make([]error, len(sources))
	_ = Progress(o.Progress, "reading", len(sources), func(i int) error {
		s.drawings[i], errs[i] = r.open(sources[i])
		return nil
	})
	if err := s.setAside(sources, errs, o.Strict); err != nil {
		return err
	}
	s.drawings = slices.DeleteFunc(s.drawings, func(d *drawing) bool { return d == nil })
	return nil
}

// setAside notes the sources that could not be read; where no other could be, they are the error of all.
func (s *Snapshot) setAside(sources []string, errs []error, strict bool) error {
	bad := faults(errs)
	if len(bad) == 0 {
		return nil
	}
	if strict || len(bad) == len(s.in.sources) {
		return bad
	}
	s.unread = map[string]bool{}
	for i, err := range errs {
		if err != nil {
			s.unread[sources[i]] = true
		}
	}
	s.Unread = bad
	return nil
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

// joined keeps several errors apart, so that each can be printed.
type joined []error

func (j joined) Error() string {
	var out []string
	for _, e := range j {
		out = append(out, e.Error())
	}
	return strings.Join(out, "\n")
}

func (j joined) Unwrap() []error { return j }

// followMoves finds the drawings that lie elsewhere than at the last sync: with the same bytes, else with the same file
// name, where only one can be meant. What the lock remembers of them goes along.
func (s *Snapshot) followMoves() {
	var gone, come []string
	for _, name := range sortedKeys(s.lock.Elements) {
		if s.in.hashOf(name) == "" {
			gone = append(gone, name)
		}
	}
	for _, name := range s.in.sources {
		if _, known := s.lock.Elements[name]; !known {
			come = append(come, name)
		}
	}
	for _, same := range []func(was, now string) bool{
		func(was, now string) bool { return s.lock.Inputs[was] == s.in.hashOf(now) },
		func(was, now string) bool { return path.Base(was) == path.Base(now) },
	} {
		for _, was := range gone {
			var found []string
			for _, now := range come {
				if _, taken := s.lock.Elements[now]; !taken && same(was, now) {
					found = append(found, now)
				}
			}
			if _, left := s.lock.Elements[was]; left && len(found) == 1 {
				s.lock.Moved(was, found[0])
				s.Moved = append(s.Moved, was+" is "+found[0]+" now")
			}
		}
	}
}

// readTokens reads the token files, and harvests the drawings' values.
func (s *Snapshot) readTokens() (err error) {
	if s.Tokens, err = s.ws.ReadTokens(nil); err != nil {
		return err
	}
	set := s.Tokens.Base
	h := newHolder(s.lock, set)
	values, err := s.values(h)
	if err != nil {
		return err
	}
	cfg := &s.ws.Config
	docs := sync.OnceValues(s.Docs)
	if len(set.Tokens) == 0 { // names by use are looked for in the documents
		if _, err := docs(); err != nil {
			return err
		}
	}
	held := s.names.Held
	if len(h.bySource) == 0 {
		held = nil
	}
	s.Harvest = harvest.Gather(values, set, token.Scales{Space: cfg.SpaceStep(), Type: cfg.TypeScale()}, held,
		func() []*design.Document {
			list, _ := docs() // they were read a moment ago
			return list
		})
	s.former = s.formerPlaces()
	s.Harvest.Shift(s.former, set)
	return nil
}

// values are the values of the drawings. Those whose elements hold tokens that have another value now are found in the
// documents, where these elements are.
func (s *Snapshot) values(h *holder) ([]*harvest.Values, error) {
	values := make([]*harvest.Values, len(s.drawings))
	held := make([]map[*design.Element][]emit.Holding, len(s.drawings))
	err := Parallel(len(s.drawings), func(i int) (err error) {
		d := s.drawings[i]
		if len(h.bySource[d.name]) == 0 {
			values[i], err = d.record.values()
			return err
		}
		doc, err := d.doc()
		if err != nil {
			return err
		}
		values[i], held[i] = harvest.Find(doc), h.of(d.name, doc, s.thenIn(doc))
		return nil
	})
	if err != nil {
		return nil, err
	}
	all := map[*design.Element][]emit.Holding{}
	for _, m := range held {
		for e, list := range m {
			all[e] = list
		}
	}
	s.holdings = fmt.Sprint(h.bySource)
	s.names = Names{emit.NewFinder(s.Tokens.Base, all), s.ws, s.Tokens.Base}
	s.names.reach(s.Tokens)
	return values, nil
}

// thenIn finds the elements of the last sync in a document, by their place in the lock.
func (s *Snapshot) thenIn(d *design.Document) map[int]*design.Element {
	if s.lock.Inputs[d.Name] == "" {
		return nil
	}
	return then(s.lock, d.Name, s.lock.Inputs[d.Name] == s.in.hashOf(d.Name), d)
}

// formerPlaces are the places each token had at the last sync, found again in what was read now. Tokens whose own value
// has changed since are left out: there it was not the drawing that changed.
func (s *Snapshot) formerPlaces() map[string][]harvest.Place {
	out := map[string][]harvest.Place{}
	now := map[string]func(was int) (int, bool){} // by source
	for _, d := range s.drawings {
		if s.lock.Inputs[d.name] != "" {
			now[d.name] = s.nowAt(d)
		}
	}
	for path, t := range s.lock.TokensNow() {
		of := s.Tokens.Base.Get(path)
		if of == nil || of.Value.Alias != "" || of.Value.JSON() != t.Value {
			continue
		}
		for _, u := range t.Uses {
			source, was, ok := splitUse(u)
			if find := now[source]; ok && find != nil {
				if at, still := find(was); still {
					out[path] = append(out[path], harvest.Place{Source: source, Index: at})
				}
			}
		}
	}
	return out
}

// finds are the texts of all drawings.
func (s *Snapshot) finds() ([]*text.Finds, error) {
	out := make([]*text.Finds, len(s.drawings))
	err := Parallel(len(out), func(i int) (err error) {
		out[i], err = s.drawings[i].record.texts()
		return err
	})
	return out, err
}
