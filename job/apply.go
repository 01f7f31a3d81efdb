package job

import (
	"bytes"
	"context"
	"errors"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/hint"
	"archetyp/core/markup"
	"archetyp/core/revise"
	"archetyp/core/token/emit"
	"archetyp/core/token/harvest"
	"archetyp/workspace"
)

// Applying are changes of drawings under way: nothing is written before Write.
type Applying struct {
	Drawings []*AppliedDrawing `json:"drawings"`
	Refused  []Refused         `json:"refused"`

	ws     *workspace.Workspace
	fonts  *font.Set
	byName map[string]*AppliedDrawing
}

// AppliedDrawing is a drawing with what changes in it.
type AppliedDrawing struct {
	Source  string       `json:"source"`
	Changes []AppliedOne `json:"changes"`
	Lines   []DiffLine   `json:"diff"`

	was    []byte // as it was read
	now    []byte
	doc    *design.Document
	layers [][]undoEdit
}

// AppliedOne is one change: a token, a key, a name or a mark.
type AppliedOne struct {
	What     string `json:"what"`
	Old      string `json:"old"`
	New      string `json:"new"`
	Elements int    `json:"elements"` // that show it
}

// Refused is a change that a drawing does not allow.
type Refused struct {
	Source string `json:"source"`
	What   string `json:"what"`
	Old    string `json:"old"`
	New    string `json:"new"`
	Reason string `json:"reason"`
}

// DiffLine is a line of a file before and after.
type DiffLine struct {
	Line int    `json:"line"`
	Old  string `json:"old"`
	New  string `json:"new"`
}

// BeginApplying prepares to change drawings of a workspace.
func BeginApplying(ws *workspace.Workspace) (*Applying, error) {
	a := &Applying{Drawings: []*AppliedDrawing{}, Refused: []Refused{}, ws: ws, fonts: &font.Set{}, byName: map[string]*AppliedDrawing{}}
	return a, ws.AddFonts(a.fonts)
}

// drawing is a source, as it is after the changes so far.
func (a *Applying) drawing(source string) (*AppliedDrawing, error) {
	if d := a.byName[source]; d != nil {
		return d, nil
	}
	data, err := a.ws.ReadFile(source)
	if err != nil {
		return nil, err
	}
	doc, err := a.read(source, data)
	if err != nil {
		return nil, err
	}
	d := &AppliedDrawing{Source: source, Changes: []AppliedOne{}, Lines: []DiffLine{}, was: data, now: data, doc: doc}
	a.byName[source] = d
	return d, nil
}

// each calls f for every drawing of the workspace, pages left out; source is the only one, "" for all.
func (a *Applying) each(ctx context.Context, source string, f func(*AppliedDrawing) error) error {
	files, err := a.ws.Sources()
	if err != nil {
		return err
	}
	for _, name := range files {
		if source != "" && name != source {
			continue
		}
		d, err := a.drawing(name)
		if err != nil {
			return err
		}
		if d.doc.Styles != nil {
			continue
		}
		if err := f(d); err != nil {
			return err
		}
		if ctx.Err() != nil {
			return ctx.Err()
		}
	}
	return nil
}

func (a *Applying) read(source string, data []byte) (*design.Document, error) {
	return workspace.ParseDrawing(data, workspace.Drawing{Shown: source, Fonts: a.fonts.Clone(), Marks: a.ws.Config.SelectedMarks(),
		Root: a.ws.Config.RootPx(), Limits: a.ws.Config.Budget(), Load: a.ws.Links(source, nil)})
}

// revised is a drawing as core/revise takes it.
func (a *Applying) revised(d *AppliedDrawing) *revise.Drawing {
	return &revise.Drawing{Name: d.Source, Data: d.now, Doc: d.doc, Read: func(data []byte) (*design.Document, error) { return a.read(d.Source, data) }}
}

// take makes edits of a drawing, and notes what they are for.
func (a *Applying) take(d *AppliedDrawing, edits []markup.Edit, one AppliedOne) error {
	if len(edits) == 0 {
		return nil
	}
	data, err := markup.Rewrite(d.now, edits)
	if err != nil {
		return err
	}
	doc, err := a.read(d.Source, data)
	if err != nil {
		return err
	}
	if len(d.Changes) == 0 {
		a.Drawings = append(a.Drawings, d)
	}
	d.layers = append(d.layers, undone(d.now, edits))
	d.now, d.doc = data, doc
	d.Changes = append(d.Changes, one)
	return nil
}

// refuse notes a change that a drawing does not allow; any other error is one.
func (a *Applying) refuse(source string, one AppliedOne, err error) error {
	var no *revise.Unwritable
	if !errors.As(err, &no) {
		return err
	}
	a.Refused = append(a.Refused, Refused{source, one.What, one.Old, one.New, no.Reason})
	return nil
}

// Tokens puts the values of tokens into drawings that still show what they were before. source is the only drawing to
// change; "" for all.
func (a *Applying) Tokens(ctx context.Context, source string) error {
	s, err := Read(ctx, a.ws)
	if err != nil {
		return err
	}
	for _, w := range s.wanted(source) {
		one := AppliedOne{What: strings.Join(w.tokens, ", "), Old: w.found.Text, New: w.drawn}
		if w.reason != "" {
			if err := a.refuse(w.source, one, &revise.Unwritable{Reason: w.reason}); err != nil {
				return err
			}
			continue
		}
		d, err := a.drawing(w.source)
		if err != nil {
			return err
		}
		for _, v := range w.values {
			v.Elements = w.elements
			one.Old, one.New = v.Old, v.New
			done, err := a.revised(d).SetValue(v)
			if err != nil {
				if err := a.refuse(w.source, one, err); err != nil {
					return err
				}
				continue
			}
			one.Elements = done.Elements
			if err := a.take(d, done.Edits, one); err != nil {
				return err
			}
		}
	}
	return nil
}

// wantedValue is a value that elements of a drawing show and that their tokens no longer have. Tokens that have the same
// value now are one.
type wantedValue struct {
	source   string
	tokens   []string
	found    *harvest.Found
	drawn    string // the value now
	values   []revise.Value
	reason   string // why it cannot be written; "" where it may be
	elements map[int]bool
}

// wanted are the values that drawings should show, in the order they were found; source is the only drawing, "" for all.
func (s *Snapshot) wanted(source string) (out []*wantedValue) {
	type key struct {
		source, drawn string
		found         *harvest.Found
	}
	byKey := map[key]*wantedValue{}
	for _, f := range s.Harvest.Found {
		for i := range f.Uses {
			u := &f.Uses[i]
			if u.Held == "" || source != "" && u.Source != source {
				continue
			}
			k := key{u.Source, emit.Drawn(s.Tokens.Base, s.Tokens.Base.Get(u.Held)), f}
			w := byKey[k]
			if w == nil {
				w = &wantedValue{source: u.Source, found: f, drawn: k.drawn, elements: map[int]bool{}}
				w.values, w.reason = valuesOf(f, s, u.Held)
				byKey[k] = w
				out = append(out, w)
			}
			if !slices.Contains(w.tokens, u.Held) {
				w.tokens = append(w.tokens, u.Held)
			}
			w.elements[u.Index] = true
		}
	}
	return out
}

// valuesOf are the values that change where a drawing is to show what a token has now; reason says why none can.
func valuesOf(f *harvest.Found, s *Snapshot, path string) (out []revise.Value, reason string) {
	set := s.Tokens.Base
	t := set.Get(path)
	drawn := emit.Drawn(set, t)
	switch f.Kind {
	case "color":
		return []revise.Value{{Kind: revise.Colour, Old: f.Text, New: drawn}}, ""
	case "radius":
		return []revise.Value{{Kind: revise.Radius, Old: f.Text, New: drawn}}, ""
	case "type":
		family, size, weight, spacing, ok := emit.Face(set, t)
		if !ok {
			return nil, "the token does not say all of a type style"
		}
		_, oldFamily, oldSize, oldWeight, oldSpacing := f.Drawn()
		add := func(k revise.Kind, old, fresh string) {
			if old != fresh {
				out = append(out, revise.Value{Kind: k, Old: old, New: fresh})
			}
		}
		add(revise.Family, oldFamily, family)
		add(revise.Weight, strconv.Itoa(oldWeight), strconv.Itoa(weight))
		add(revise.Size, css.Px(oldSize), css.Px(size))
		add(revise.Spacing, css.Px(oldSpacing), css.Px(spacing))
		return out, ""
	case "space":
		return nil, "distances follow from where things stand; move them in the drawing"
	}
	return nil, "a " + f.Kind + " is made of several values; change it in the drawing"
}

// Write writes the drawings, all of them or none, and what is needed to undo it. A drawing that changed since it was
// read stops it.
func (a *Applying) Write() error {
	change := &workspace.Change{}
	record := appliedRecord{}
	for _, d := range a.Drawings {
		now, err := a.ws.ReadFile(d.Source)
		if err != nil {
			return err
		}
		if !bytes.Equal(now, d.was) {
			return hint.New(d.Source+" changed while it was read; nothing was written", "Give the command again.")
		}
		change.Put(a.ws, workspace.Drawings, d.Source, d.now)
		record.Files = append(record.Files, appliedFile{d.Source, workspace.Hash(d.was), workspace.Hash(d.now), d.layers})
	}
	if change.Empty() {
		return nil
	}
	if err := remember(a.ws, record); err != nil {
		return err
	}
	return a.ws.Apply(change)
}

// Finish works out the lines that differ.
func (a *Applying) Finish() {
	for _, d := range a.Drawings {
		d.Lines = diffLines(string(d.was), string(d.now))
	}
}

// diffLines are the lines that differ between two texts of as many lines; of others the stretch between the first and
// the last that do.
func diffLines(was, now string) []DiffLine {
	a, b := strings.Split(was, "\n"), strings.Split(now, "\n")
	out := []DiffLine{}
	if len(a) != len(b) {
		from := 0
		for from < min(len(a), len(b)) && a[from] == b[from] {
			from++
		}
		end := 0
		for end < min(len(a), len(b))-from && a[len(a)-1-end] == b[len(b)-1-end] {
			end++
		}
		return append(out, DiffLine{from + 1, strings.Join(a[from:len(a)-end], "\n"), strings.Join(b[from:len(b)-end], "\n")})
	}
	for i := range a {
		if a[i] != b[i] {
			out = append(out, DiffLine{i + 1, a[i], b[i]})
		}
	}
	return out
}

// undone are the edits that take others back, by their places after them.
func undone(src []byte, edits []markup.Edit) []undoEdit {
	edits = slices.Clone(edits)
	slices.SortStableFunc(edits, func(x, y markup.Edit) int { return x.From - y.From })
	out, shift := make([]undoEdit, 0, len(edits)), 0
	for _, e := range edits {
		from := e.From + shift
		out = append(out, undoEdit{from, from + len(e.With), string(src[e.From:e.To])})
		shift += len(e.With) - (e.To - e.From)
	}
	return out
}
