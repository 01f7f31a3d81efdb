package cli

import (
	"cmp"
	"fmt"
	"path/filepath"
	"slices"
	"strings"

	"archetyp/core/code"
	"archetyp/core/code/targets"
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
	if f.verify.on {
		o.Components, o.Words = nil, nil // what is drawn is held against the drawing
	}
	tree := code.NewTree(e, o)
	switch f.as {
	case "swift":
		return a.codeText(f, doc, code.Swift(tree, o))
	case "kotlin":
		return a.codeText(f, doc, code.Compose(tree, o))
	}
	tree, wider, err := a.widths(f, tree, e, o)
	if err != nil {
		return err
	}
	page := code.NewPages(tree, wider, o)
	a.remark("warning", page.Missing)
	a.sayLengths(page.Lengths)
	if ws != nil {
		page.Lang = ws.Config.Text.Source
		if o.Words != nil {
			page.Imports = ws.Config.Code.Imports
		}
	}
	if f.verify.on {
		return a.verify(&f.verify, page, doc, ws)
	}
	a.lost(page.Usages)
	text, whole, main := code.HTML(page), code.HTMLDocument(page), "index.html"
	if f.as == "jsx" {
		text = code.JSX(page)
		whole, main = text, page.Tree.ComponentName()+".jsx"
	}
	if f.out == "" {
		if a.json {
			return a.printJSON(map[string]any{"source": doc.Name, "as": f.as, "page": text,
				"rules": append([]code.Block{}, page.Rules...), "free": append([]code.Free{}, page.Free...),
				"components": append([]code.Usage{}, page.Usages...), "lengths": append([]code.Length{}, page.Lengths...)})
		}
		sheet, err := targets.For(code.Print(page.Rules), f.targets)
		if err != nil {
			return err
		}
		return a.document([]byte(text + "\n" + styleSheet(f.as, sheet)))
	}
	files, err := job.CodeFolder(page, main, []byte(whole), doc, ws, false)
	if err != nil {
		return err
	}
	sheet, err := targets.For(string(files["style.css"]), f.targets)
	if err != nil {
		return err
	}
	files["style.css"] = []byte(sheet)
	out := map[string][]byte{}
	for name, data := range files {
		out[filepath.Join(f.out, filepath.FromSlash(name))] = data
	}
	if err := a.save(out); err != nil {
		return err
	}
	a.say("%s  %s, %s\n", filepath.Join(f.out, main), plural(len(files), "file", "files"),
		plural(len(page.Free), "element stands free", "elements stand free"))
	return nil
}

// widths reads the screens of --also, and puts all in the order of their widths.
func (a *app) widths(f *codeFlags, first *code.Tree, of *design.Element, o code.Options) (*code.Tree, []code.Wider, error) {
	if len(f.also) == 0 {
		if f.from != "" {
			return nil, nil, hint.New("--from is for --also", "It says from which width the wider drawing holds.")
		}
		return first, nil, nil
	}
	if of.Parent != nil {
		return nil, nil, hint.New("--also is for whole screens", "Leave out the selector.")
	}
	from, err := code.FromWidth(f.from)
	if err != nil {
		return nil, nil, err
	}
	screens := []*design.Element{of}
	for _, source := range f.also {
		doc, _, err := a.source(source)
		if err != nil {
			return nil, nil, err
		}
		s := doc.Screens[0]
		for _, other := range doc.Screens {
			if other.Name == of.Screen.Name {
				s = other
			}
		}
		screens = append(screens, s.Root)
	}
	slices.SortStableFunc(screens, func(x, y *design.Element) int { return cmp.Compare(x.Screen.Box.W, y.Screen.Box.W) })
	for i, s := range screens[1:] {
		if s.Screen.Box.W == screens[i].Screen.Box.W {
			return nil, nil, hint.New(fmt.Sprintf("two of the screens are %g px wide", s.Screen.Box.W),
				"--also is for the same screen at other widths.")
		}
	}
	if screens[0] != of {
		first = code.NewTree(screens[0], o)
	}
	var wider []code.Wider
	for _, s := range screens[1:] {
		w := code.Wider{Tree: first.Again(s, o)}
		if len(screens) == 2 {
			w.From = from
		}
		wider = append(wider, w)
	}
	return first, wider, nil
}

// sayLengths counts the lengths that are fixed, stepped and in proportion.
func (a *app) sayLengths(list []code.Length) {
	count := map[code.Kept]int{}
	for _, l := range list {
		count[l.Kind]++
	}
	if len(list) > 0 {
		a.say("of %s, %d are fixed, %d stepped, %d in proportion to what holds them; --json lists them\n",
			plural(len(list), "gap and width", "gaps and widths"), count[code.Fixed], count[code.Stepped], count[code.Proportion])
	}
}

// codeText writes code of an app: to stdout, or into a file.
func (a *app) codeText(f *codeFlags, doc *design.Document, text string) error {
	if f.verify.on {
		return hint.New("--verify draws code in a browser, and "+f.as+" is none of its languages", "Verify --as html.")
	}
	if a.json {
		return a.printJSON(map[string]any{"source": doc.Name, "as": f.as, "page": text, "rules": []code.Block{}})
	}
	if f.out != "" {
		return a.writeText(f.out, text)
	}
	return a.document([]byte(text))
}

// styleSheet is the rules of a page behind it: in a style element, or as a comment of what style.css holds.
func styleSheet(language, rules string) string {
	if language == "jsx" {
		return "/* style.css\n\n" + strings.ReplaceAll(rules, "*/", "*\\/") + "*/\n"
	}
	return "<style>\n" + rules + "</style>\n"
}

// usages are how instances of linked components are used.
func (a *app) usages(found []*design.Element, o code.Options) (list []code.Usage) {
	for _, e := range found {
		if u, ok := o.Usage(e); ok {
			list = append(list, u)
		}
	}
	if len(list) < len(found) { // something else is asked for too
		return nil
	}
	return list
}

// printUsages prints how linked components are used, each line once.
func (a *app) printUsages(doc *design.Document, language string, list []code.Usage) error {
	if a.json {
		return a.printJSON(map[string]any{"source": doc.Name, "as": language, "rules": []code.Block{}, "components": list})
	}
	a.lost(list)
	seen := map[string]bool{}
	var lines []string
	for _, u := range list {
		if !seen[u.Line] {
			seen[u.Line] = true
			lines = append(lines, u.Line)
		}
	}
	a.say("%s is linked to %s; --drawn writes what is drawn\n", list[0].Component, list[0].File)
	return a.document([]byte(strings.Join(lines, "\n") + "\n"))
}

// lost warns of values that the templates of linked components have no place for.
func (a *app) lost(list []code.Usage) {
	var said []string
	for _, u := range list {
		for _, v := range u.Lost {
			s := fmt.Sprintf("components.%s: the template has no place for %s", u.Component, v)
			if !slices.Contains(said, s) {
				said = append(said, s)
			}
		}
	}
	a.remark("warning", said)
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
