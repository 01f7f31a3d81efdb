package cli

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"archetyp/core/ask"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/hint"
	"archetyp/core/limit"
	"archetyp/fonts"
	"archetyp/job"
	"archetyp/workspace"
)

// source reads a SOURCE argument: a path, or the name of a source of the workspace. Fonts come from the workspace,
// then from the machine: these commands only answer.
func (a *app) source(arg string) (*design.Document, *workspace.Workspace, error) {
	v, err := a.view.view()
	if err != nil {
		return nil, nil, err
	}
	if job.IsAddress(arg) {
		return a.address(arg, v, nil)
	}
	if revision, name, ok := job.EditionSource(arg); ok {
		if _, err := os.Stat(a.path(arg)); err != nil { // and no file is called so
			return a.sourceAt(revision, name)
		}
	}
	path := arg
	if info, err := os.Stat(a.path(arg)); err == nil && info.IsDir() { // the folder of a capture
		if _, err := os.Stat(filepath.Join(a.path(arg), "capture.json")); err == nil {
			arg = filepath.Join(arg, "capture.json")
			path = arg
		}
	}
	if !filepath.IsAbs(path) {
		path = filepath.Join(a.dir, path)
	}
	near := filepath.Dir(path)
	if _, err := os.Stat(near); err != nil {
		near = a.dir
	}
	ws, found, err := a.open(near)
	if err != nil {
		return nil, nil, err
	}
	if !found {
		if ws, found, err = a.open(a.dir); err != nil {
			return nil, nil, err
		}
	}
	set := font.NewSet(&fonts.Machine{})
	var marks []design.SelectedMarks
	root := 16.0
	var limits limit.Limits
	if found {
		if s, ok := ws.Config.Site(arg); ok {
			captured := filepath.Join(ws.Dir, filepath.FromSlash(job.CaptureFolder(s.Name)), "capture.json")
			if _, err := os.Stat(captured); err != nil || v.Browser && !s.Browser {
				headers, err := s.Secrets()
				if err != nil {
					return nil, nil, err
				}
				return a.address(s.URL, v, headers)
			}
			path, arg = captured, job.CaptureFolder(s.Name)+"/capture.json"
		}
		if path, err = a.sourcePath(ws, arg, path); err != nil {
			return nil, nil, err
		}
		if err := ws.AddFonts(set); err != nil {
			return nil, nil, err
		}
		marks, root, limits = ws.Config.SelectedMarks(), ws.Config.RootPx(), ws.Config.Budget()
	}
	shown := arg
	if here, err := filepath.Abs(a.dir); err == nil && !filepath.IsAbs(arg) {
		if full, err := filepath.Abs(path); err == nil {
			if rel, err := filepath.Rel(here, full); err == nil {
				shown = rel
			}
		}
	}
	data, err := workspace.ReadFile(path, shown)
	if err != nil {
		return nil, nil, err
	}
	drawing := workspace.Drawing{Shown: shown, Fonts: set, Marks: marks, Root: root,
		Limits: limits, Load: links(ws, path), View: job.FileView(path, v)}
	doc, err := job.ReadSource(a.ctx, path, data, v, drawing)
	if err != nil {
		return nil, nil, err
	}
	a.warnings(doc)
	return doc, ws, nil
}

// sourceAt reads a source as it was in a revision.
func (a *app) sourceAt(revision, name string) (*design.Document, *workspace.Workspace, error) {
	ws, err := a.workspaceHere()
	if err != nil {
		return nil, nil, err
	}
	doc, err := job.SourceAt(ws, revision, name)
	if err != nil {
		return nil, nil, err
	}
	a.warnings(doc)
	return doc, ws, nil
}

// address reads a live page.
func (a *app) address(arg string, v job.View, headers map[string]string) (*design.Document, *workspace.Workspace, error) {
	ws, found, err := a.open(a.dir)
	if err != nil {
		return nil, nil, err
	}
	d := workspace.Drawing{}
	if found {
		d.Marks, d.Root, d.Limits = ws.Config.SelectedMarks(), ws.Config.RootPx(), ws.Config.Budget()
	}
	doc, err := job.ReadAddress(a.ctx, arg, v, d, headers)
	if err != nil {
		return nil, nil, err
	}
	a.warnings(doc)
	return doc, ws, nil
}

// links reads what a drawing links to: from the workspace it lies in, else from its own folder.
func links(ws *workspace.Workspace, path string) workspace.Load {
	if ws != nil {
		abs, err := filepath.Abs(path)
		if rel, ok := ws.Rel(abs); err == nil && ok {
			return ws.Links(rel, nil)
		}
	}
	return workspace.LinksBeside(filepath.Dir(path))
}

// sourcePath finds a source of the workspace by its file name, with or without ending.
func (a *app) sourcePath(ws *workspace.Workspace, arg, path string) (string, error) {
	if _, err := os.Stat(path); err == nil {
		return path, nil
	}
	files, err := ws.Sources()
	if err != nil {
		return "", err
	}
	var names []string
	for _, f := range files {
		base := filepath.Base(f)
		name := strings.TrimSuffix(base, filepath.Ext(base))
		names = append(names, name)
		if f == filepath.ToSlash(arg) || base == arg || name == arg {
			return filepath.Join(ws.Dir, filepath.FromSlash(f)), nil
		}
	}
	msg := fmt.Sprintf("%s: there is no such file, and no source of that name", arg)
	if len(names) == 0 {
		return "", errors.New(msg)
	}
	return "", hint.New(msg, "Sources here: "+strings.Join(names, ", ")+".")
}

// screen finds a screen by its name; the first where none is given.
func (a *app) screen(doc *design.Document, name string) (*design.Screen, error) {
	if name == "" {
		return doc.Screens[0], nil
	}
	var names []string
	for _, s := range doc.Screens {
		if strings.EqualFold(s.Name, name) {
			return s, nil
		}
		names = append(names, s.Name)
	}
	return nil, hint.New(fmt.Sprintf("%s has no screen %q", doc.Name, name), "Screens here: "+strings.Join(names,
		", ")+".")
}

func (a *app) warnings(doc *design.Document) {
	var list []string
	for _, w := range doc.Warnings {
		list = append(list, fmt.Sprintf("%s:%d:%d: %s", doc.Name, w.Position.Line, w.Position.Column, w.Msg))
	}
	a.remark("warning", list)
}

// selectorError points at the fault in a selector; other errors stay as they are.
func selectorError(err error) error {
	var se *ask.SelectorError
	if errors.As(err, &se) {
		return hint.New(se.Error(), se.Selector+"\n      "+strings.Repeat(" ", len([]rune(se.Selector[:se.Offset])))+"^")
	}
	return err
}

// query lists the elements a selector means; none is an error. What is no selector, or matches nothing, is taken for a
// name.
func (a *app) query(doc *design.Document, arg string) ([]*design.Element, error) {
	found, named, err := ask.Elements(doc, arg)
	switch {
	case err != nil:
		return nil, selectorError(err)
	case len(found) == 0:
		return nil, hint.New(fmt.Sprintf("%s: nothing matches the selector %s, and no element has that name", doc.Name, arg),
			a.suggest(doc, arg))
	case !named:
		return found, nil
	case len(found) == 1:
		a.say("%q is taken as a name: %s\n", arg, found[0].Selector())
		return found, nil
	}
	var list []string
	for i, e := range found {
		if i == mostNamed {
			list = append(list, fmt.Sprintf("and %d more", len(found)-i))
			break
		}
		list = append(list, "'"+e.Selector()+"'")
	}
	return nil, hint.New(fmt.Sprintf("%s: %d elements are called %q", doc.Name, len(found), arg),
		"Choose one: "+strings.Join(list, ", ")+".")
}

// mostNamed is how many elements of one name are listed to choose from.
const mostNamed = 8

// suggest names the id nearest to one that was not found.
func (a *app) suggest(doc *design.Document, arg string) string {
	if near := hint.Nearest(arg, ask.Names(doc, arg)); near != "" {
		return "Did you mean " + near + "? \"archetyp outline " + doc.Name + "\" lists what there is."
	}
	return "\"archetyp outline " + doc.Name + "\" lists what there is."
}
