package cli

import (
	"path/filepath"

	"archetyp/core/code"
	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/workspace"
)

// codePage writes an element, or a whole screen, as a page: to stdout, or as a folder that runs.
func (a *app) codePage(f *codeFlags, doc *design.Document, ws *workspace.Workspace, selectors []string,
	o code.Options) error {
	e, err := a.subject(f, doc, selectors)
	if err != nil {
		return err
	}
	page := code.NewPage(code.NewTree(e, o), o)
	if ws != nil {
		page.Lang = ws.Config.Text.Source
	}
	if f.verify.on {
		return a.verify(&f.verify, page, doc, ws)
	}
	text := []byte(code.HTML(page))
	if f.out == "" {
		if a.json {
			return a.printJSON(map[string]any{"source": doc.Name, "as": f.as, "page": string(text), "rules": page.Rules,
				"free": append([]code.Free{}, page.Free...)})
		}
		return a.document(append(text, "\n<style>\n"+code.Print(page.Rules)+"</style>\n"...))
	}
	files, err := job.CodeFolder(page, "index.html", []byte(code.HTMLDocument(page)), doc, ws, false)
	if err != nil {
		return err
	}
	out := map[string][]byte{}
	for name, data := range files {
		out[filepath.Join(f.out, filepath.FromSlash(name))] = data
	}
	if err := a.save(out); err != nil {
		return err
	}
	a.say("%s  %s, %s\n", filepath.Join(f.out, "index.html"), plural(len(files), "file", "files"),
		plural(len(page.Free), "element stands free", "elements stand free"))
	return nil
}

// subject is the one element to write: what a selector means, else a screen.
func (a *app) subject(f *codeFlags, doc *design.Document, selectors []string) (*design.Element, error) {
	if len(selectors) == 0 {
		s, err := a.screen(doc, f.screen)
		if err != nil {
			return nil, err
		}
		return s.Root, nil
	}
	found, err := a.queryAll(doc, selectors)
	if err != nil {
		return nil, err
	}
	if len(found) > 1 {
		return nil, hint.New("a page is of one element, and the selectors mean "+plural(len(found), "element", "elements"),
			"Choose one, or leave them out for the whole screen.")
	}
	return found[0], nil
}
