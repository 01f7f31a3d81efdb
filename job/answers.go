package job

import (
	"context"
	"sync"

	"archetyp/core/code"
	"archetyp/core/design"
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

	disk        *workspace.Workspace
	elements    func() []Placed
	byName      func() map[string][]Placed
	texts       func() (*text.Catalogue, error)
	held        func() *holder
	annotations func() map[string][]string // phases and remarks by element
	names       func() Names               // of drawings in which no element holds a token that has another value now

	judged lint.Memory
	mu     sync.Mutex
	docs   map[string]func() (*design.Document, error)
}

// ReadAnswers reads the workspace in a folder, with the contents of some files replaced: what an editor has not saved. It
// is nil where the folder is no workspace. Nothing has to be closed: the last question may come whenever.
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
	a.byName = sync.OnceValue(func() map[string][]Placed { return named(a.elements()) })
	a.annotations = sync.OnceValue(a.readAnnotations)
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

// Sources are the drawings of the workspace.
func (a *Answers) Sources() ([]string, error) { return a.WS.Sources() }

// Document is a source, read when it is first asked for.
func (a *Answers) Document(ctx context.Context, source string) (*design.Document, error) {
	if err := ctx.Err(); err != nil {
		return nil, err
	}
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
	r, err := plainReader(a.WS)
	if err != nil {
		return nil, err
	}
	doc, _, err := r.parse(source, false)
	return doc, err
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

// Lint is what code is judged by. known are the custom properties that other code declares; nil if unknown.
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

// CodeUses are the places in the code of the workspace that name a token, with the contents of some files replaced. The
// token files are left out.
func (a *Answers) CodeUses(path string, buffers map[string][]byte) ([]CodeUse, error) {
	ws, err := a.disk.Over(buffers)
	if err != nil {
		return nil, err
	}
	names := map[string]string{}
	for name, p := range CodeNames(ws, a.Desk.Library.Base) {
		if p == path {
			names[name] = p
		}
	}
	return CodeUses(ws, ws.Dir, names)
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
