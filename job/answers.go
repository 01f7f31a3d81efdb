package job

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"
	"sync"

	"archetyp/core/asset"
	"archetyp/core/code"
	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/core/lint"
	"archetyp/core/offer"
	"archetyp/core/text"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/workspace"
)

// Answers is a workspace as it is read for one question after another, as by an editor: the tokens at once, all else
// when it is first asked for. It never changes, and may be used side by side; a workspace that changed is read anew.
type Answers struct {
	WS   *workspace.Workspace
	Desk *offer.Desk
	Lock *workspace.Lock

	disk     *workspace.Workspace
	elements func() []Placed
	texts    func() (*text.Catalogue, error)
	held     func() *holder
	names    func() Names // of drawings in which no element holds a token that has another value now

	judged lint.Memory
	mu     sync.Mutex
	docs   map[string]func() (*design.Document, error)
}

// Placed is an element as the last sync remembers it.
type Placed struct {
	Source    string
	Index     int // among the elements of the source
	ID        string
	Path      string // names from the screen down
	Component string
	Variant   []string // values
	State     string
}

// ReadAnswers reads the workspace in a folder, with the contents of some files replaced: what an editor has not saved.
func ReadAnswers(dir string, buffers map[string][]byte) (*Answers, error) {
	disk, ok, err := workspace.Find(dir)
	if err != nil || !ok {
		return nil, err
	}
	a := &Answers{WS: disk, disk: disk, docs: map[string]func() (*design.Document, error){}}
	if len(buffers) > 0 {
		if a.WS, err = disk.Over(buffers); err != nil {
			return nil, err
		}
	}
	release, err := disk.Hold(workspace.Reading)
	if err != nil {
		return nil, err
	}
	defer release()
	defer disk.LetGo()
	var lib *token.Library
	err = together(func() (err error) {
		lib, err = a.WS.ReadTokens(nil)
		return err
	}, func() (err error) {
		a.Lock, err = disk.ReadLock()
		return err
	})
	if err != nil {
		return nil, err
	}
	a.Desk, err = a.desk(lib)
	a.elements = sync.OnceValue(a.placed)
	a.held = sync.OnceValue(func() *holder { return newHolder(a.Lock, lib.Base) })
	a.names = sync.OnceValue(func() Names { return a.named(nil) })
	a.texts = sync.OnceValues(func() (*text.Catalogue, error) {
		c, _, err := ReadTexts(a.WS)
		return c, err
	})
	return a, err
}

// desk is what offers are made from.
func (a *Answers) desk(lib *token.Library) (*offer.Desk, error) {
	cfg := &a.WS.Config
	name := "px"
	for _, o := range cfg.Outputs {
		if o.As == "css" && o.Unit != "" {
			name = o.Unit
			break
		}
	}
	unit, err := design.ParseUnit(name, cfg.RootPx())
	if err != nil {
		return nil, err
	}
	uses := a.Lock.TokensNow()
	return &offer.Desk{Library: lib, Property: cfg.Property, Unit: unit,
		Uses: func(path string) int { return len(uses[path].Uses) }}, nil
}

// Prepare reads what nearly every question needs, on all cores.
func (a *Answers) Prepare() {
	_ = together(func() error {
		a.Desk.Entries()
		return nil
	}, func() error {
		a.names()
		return nil
	}, func() error {
		a.held()
		return nil
	})
}

// named finds names of tokens; held are the tokens that elements of one drawing hold.
func (a *Answers) named(held map[*design.Element][]emit.Holding) Names {
	set := a.Desk.Library.Base
	n := Names{ws: a.WS, set: set, Finder: emit.NewFinder(set, held)}
	n.reach(a.Desk.Library)
	return n
}

// namesIn finds names of tokens in a drawing.
func (a *Answers) namesIn(doc *design.Document) Names {
	h := a.held()
	if len(h.bySource[doc.Name]) == 0 {
		return a.names()
	}
	return a.named(h.of(doc.Name, doc, then(a.Lock, doc.Name, false, doc)))
}

// placed lists the elements of the last sync.
func (a *Answers) placed() (out []Placed) {
	for _, source := range sortedKeys(a.Lock.Elements) {
		for i, e := range a.Lock.Elements[source].List() {
			p := Placed{Source: source, Index: i, ID: e.ID, Path: e.Path}
			if mark, ok := strings.CutPrefix(e.Mark, "component "); ok {
				parts := strings.Split(mark, " ")
				p.Component = parts[0]
				for _, v := range parts[1:] {
					if _, value, ok := strings.Cut(v, "="); ok {
						p.Variant = append(p.Variant, value)
					} else if v != "" {
						p.State = v
					}
				}
			}
			out = append(out, p)
		}
	}
	return out
}

// Elements are the elements of all drawings, as the last sync saw them.
func (a *Answers) Elements() []Placed { return a.elements() }

// Sources are the drawings of the workspace.
func (a *Answers) Sources() ([]string, error) { return a.WS.Sources() }

// Document is a source, read when it is first asked for.
func (a *Answers) Document(ctx context.Context, source string) (*design.Document, error) {
	a.mu.Lock()
	read, ok := a.docs[source]
	if !ok {
		read = sync.OnceValues(func() (*design.Document, error) { return a.read(source) })
		a.docs[source] = read
	}
	a.mu.Unlock()
	return read()
}

// read reads a source with the fonts and marks of the workspace. It is not given up halfway, since others may wait for
// it, too.
func (a *Answers) read(source string) (*design.Document, error) {
	in := &inputs{ws: a.WS, disk: a.WS.Seen(), hashes: map[string]string{}}
	var err error
	if in.fonts, err = a.WS.FontFiles(); err != nil {
		return nil, err
	}
	r := &drawingReader{ctx: context.Background(), in: in, marks: a.WS.Config.SelectedMarks(), texts: TextOptions(a.WS)}
	if err := r.loadFonts(); err != nil {
		return nil, err
	}
	doc, _, err := r.parse(source, false)
	return doc, err
}

// Find is the element of a drawing that a Placed was, as the drawing is now; nil where it is gone.
func (a *Answers) Find(ctx context.Context, p Placed) *design.Element {
	doc, err := a.Document(ctx, p.Source)
	if err != nil {
		return nil
	}
	all := doc.All()
	if p.Index < len(all) && all[p.Index].Path == p.Path && all[p.Index].ID == p.ID {
		return all[p.Index]
	}
	for _, e := range all {
		if p.ID != "" && e.ID == p.ID || p.ID == "" && e.Path == p.Path {
			return e
		}
	}
	return nil
}

// Focused are the elements that a person works on, as they are now, and the source they stand in.
func (a *Answers) Focused(ctx context.Context, f Focus) ([]*design.Element, error) {
	doc, err := a.Document(ctx, f.Source)
	if err != nil {
		return nil, err
	}
	return selected(doc, f.Selector)
}

// Focus is the focused element; ok is false for none.
func (a *Answers) Focus() (Focus, bool) { return Focused(a.disk) }

// Own is what an element's declarations say, as code of the workspace writes them.
func (a *Answers) Own(e *design.Element, language string) (*offer.Own, error) {
	o, err := a.Code(e, language)
	if err != nil {
		return nil, err
	}
	return offer.OwnOf(e, o), nil
}

// Code is how code of the workspace is written for an element.
func (a *Answers) Code(e *design.Element, language string) (o code.Options, err error) {
	doc := e.Screen.Document
	o = code.Options{Tokens: a.namesIn(doc).Code, Unit: a.Desk.Unit, Components: linkedComponents(a.WS)}
	c, err := a.texts()
	if err != nil || c == nil {
		return o, err
	}
	keys := keysIn(c, doc.Name)
	o.Keys = func(e *design.Element) string { return keys[e.Selector()] }
	if form := wordsForm(a.WS.Config.Code.Text, language); form != "" {
		o.Words = wordsAs(form, keys)
	}
	return o, nil
}

// Texts are the catalogue; nil for none.
func (a *Answers) Texts() (*text.Catalogue, error) { return a.texts() }

// Lint is what code is judged by. known are the custom properties that other code declares; nil where nobody knows.
func (a *Answers) Lint(known map[string]bool) *lint.In {
	cfg := &a.WS.Config
	return &lint.In{Desk: a.Desk, Scales: token.Scales{Space: cfg.SpaceStep(), Type: cfg.TypeScale()},
		Levels: cfg.Editor.Levels(), Known: known, Memory: &a.judged}
}

// Generated reports whether a file is written by sync.
func (a *Answers) Generated(file string) bool { return a.Lock.Outputs[file] != "" }

// AsWritten reports whether a generated file is as it was written.
func (a *Answers) AsWritten(file string, data []byte) bool {
	return a.Lock.Outputs[file] == workspace.Hash(data)
}

// Sited are the elements that the drawings use a token for: at most so many, of how many.
func (a *Answers) Sited(path string, most int) (list []Placed, of int) {
	uses := a.Lock.TokensNow()[path].Uses
	bySource := map[string][]Placed{}
	for _, u := range uses {
		if len(list) == most {
			break
		}
		source, i, ok := splitUse(u)
		if !ok {
			continue
		}
		if bySource[source] == nil {
			for _, p := range a.Elements() {
				if p.Source == source {
					bySource[source] = append(bySource[source], p)
				}
			}
		}
		if i < len(bySource[source]) {
			list = append(list, bySource[source][i])
		}
	}
	return list, len(uses)
}

// Called are the elements that a class or an id of code may mean: with that id, of that component, or last in their path
// by that name. The components come first, those without a state before all.
func (a *Answers) Called(name string) (out []Placed) {
	var later []Placed
	for _, p := range a.Elements() {
		last := p.Path[strings.LastIndexByte(p.Path, '/')+1:]
		switch slug := design.Slug(name); {
		case p.Component != "" && p.Component == name:
			out = append(out, p)
		case p.ID == name || slug != "" && design.Slug(last) == slug:
			later = append(later, p)
		}
	}
	slices.SortStableFunc(out, func(a, b Placed) int { return len(a.State) - len(b.State) })
	return append(out, later...)
}

// Classes are the classes of the workspace's components and the utility classes of its outputs, with what each is.
func (a *Answers) Classes() map[string]string {
	out := map[string]string{}
	for _, p := range a.Elements() {
		if p.Component == "" {
			continue
		}
		out[design.Slug(p.Component)] = "component"
		for _, v := range p.Variant {
			if s := design.Slug(v); s != "" && out[s] == "" {
				out[s] = "variant of " + p.Component
			}
		}
	}
	for _, o := range a.WS.Config.Outputs {
		if o.As != "css-classes" {
			continue
		}
		for _, e := range a.Desk.Entries() {
			if e.Kind == offer.Type || e.Kind == offer.Shadow || e.Kind == offer.Gradient {
				out[strings.TrimPrefix(emit.Property(e.Path, o.Prefix), "--")] = a.Desk.Text(e)
			}
		}
	}
	return out
}

// NewPicture makes a picture of elements. One that is a box comes as that box, for a rule that has its shadow; to is its path, whose extension says the format and in which "@2x" before
// that says the density.
func (a *Answers) NewPicture(found []*design.Element, to string) (*Exported, error) {
	name := strings.TrimSuffix(path.Base(to), path.Ext(to))
	f := ExportForm{Elements: 1}
	if i := strings.LastIndexByte(name, '@'); i > 0 && strings.HasSuffix(name, "x") {
		f.At, name = []string{name[i+1:]}, name[:i]
	}
	f.Out = path.Join(path.Dir(to), name+path.Ext(to))
	sets, err := a.WS.Config.AssetSets()
	if err != nil {
		return nil, err
	}
	set, folder, err := f.Target(sets)
	if err != nil {
		return nil, err
	}
	doc := found[0].Screen.Document
	cuts, err := JoinedCut(found, name)
	if len(found) == 1 {
		cuts, err = CutsOf(doc, found, name)
	}
	if err != nil {
		return nil, err
	}
	files, _, err := (&Export{Set: set, Folder: folder, Of: doc.Name, Look: asset.Look{BorderBox: true}}).Files(cuts)
	if err != nil {
		return nil, err
	}
	if len(files) != 1 {
		return nil, hint.New(fmt.Sprintf("%s would be %d files", to, len(files)), "Name one file.")
	}
	return &files[0], nil
}

// Declared are the custom properties that code of the workspace declares, outputs among it.
func (a *Answers) Declared() (map[string]bool, error) {
	out := map[string]bool{}
	for _, p := range a.Desk.Library.Base.Properties() {
		out[p.Name] = true
	}
	err := walkCode(a.WS.Dir, func(file string) bool { return styled[path.Ext(file)] }, func(_ string, data []byte) error {
		declaredIn(data, out)
		return nil
	})
	return out, err
}

// styled are the kinds of files in which custom properties are declared.
var styled = map[string]bool{".css": true, ".scss": true, ".less": true, ".pcss": true, ".html": true, ".htm": true, ".vue": true, ".svelte": true,
	".astro": true, ".jsx": true, ".tsx": true, ".js": true, ".ts": true}

// declaredIn notes the custom properties that a text declares: names with a colon behind them, or in @property.
func declaredIn(data []byte, into map[string]bool) {
	for i := 0; i+2 < len(data); {
		n := bytes.Index(data[i:], []byte("--"))
		if n < 0 {
			return
		}
		from := i + n
		for i = from; i < len(data) && nameByte(data[i]); i++ {
		}
		end := i
		for i < len(data) && (data[i] == ' ' || data[i] == '"' || data[i] == '\'') {
			i++
		}
		if i < len(data) && (data[i] == ':' || data[i] == ',' && data[max(0, from-1)] != '(') ||
			bytes.HasSuffix(data[:from], []byte("@property ")) {
			into[string(data[from:end])] = true
		}
		i = max(i, from+2)
	}
}

// Components are the components of the drawings and those the team has in code, by name.
func (a *Answers) Components() map[string]bool {
	out := map[string]bool{}
	for name := range a.WS.Config.Components {
		out[name] = true
	}
	for _, p := range a.Elements() {
		if p.Component != "" {
			out[p.Component] = true
		}
	}
	return out
}

// Pictures are the assets that the last sync wrote for the web, by path.
func (a *Answers) Pictures() (out []string) {
	for _, file := range sortedKeys(a.Lock.Outputs) {
		switch path.Ext(file) {
		case ".svg", ".png", ".webp", ".jpg":
			if !strings.HasPrefix(file, a.WS.Config.Guide.To+"/") && !strings.Contains(file, "/res/") && !strings.Contains(file, ".xcassets/") {
				out = append(out, file)
			}
		}
	}
	return out
}

// CodeUses are the places in the code of the workspace that name a token. The token files are left out.
func (a *Answers) CodeUses(path string) ([]CodeUse, error) {
	names := map[string]string{}
	for name, p := range CodeNames(a.WS, a.Desk.Library.Base) {
		if p == path {
			names[name] = p
		}
	}
	return CodeUses(a.WS, a.WS.Dir, names)
}

// TextFiles are the files of the catalogue, that of the source language first.
func (a *Answers) TextFiles() []string {
	source := textDir + "/" + a.WS.Config.Text.Source + ".json"
	out := []string{source}
	names, _, err := catalogueFiles(a.WS)
	if err != nil {
		return out
	}
	for _, n := range names {
		if f := textDir + "/" + n; f != source && n != "keys.json" {
			out = append(out, f)
		}
	}
	return out
}

// Fault is what is wrong at a place of a file.
type Fault struct {
	Line, Column int
	Msg          string
	Warning      bool
}

// Faults are what is wrong with a token file or the configuration of a workspace, with the contents of some files
// replaced.
func Faults(dir string, buffers map[string][]byte, file string) (out []Fault) {
	disk, ok, err := workspace.Find(dir)
	if err == nil && ok {
		var ws *workspace.Workspace
		defer disk.Close()
		if ws, err = disk.Over(buffers); err == nil {
			var lib *token.Library
			if lib, err = ws.LoadTokens(ws.Reader(nil), nil); err == nil {
				for _, list := range []struct {
					faults  []token.Error
					warning bool
				}{{lib.Faults(), false}, {lib.Warnings(), true}} {
					for _, e := range list.faults {
						if e.File == file {
							out = append(out, Fault{e.Line, e.Column, e.Msg, list.warning})
						}
					}
				}
				return out
			}
		}
	}
	var fe *workspace.FileError
	if errors.As(err, &fe) && fe.File == file {
		msg := fe.Msg
		if fe.Hint != "" {
			msg += "\n" + fe.Hint
		}
		out = append(out, Fault{max(fe.Line, 1), max(fe.Column, 1), msg, false})
	}
	return out
}
