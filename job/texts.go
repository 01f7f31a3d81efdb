package job

import (
	"encoding/json"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/match"
	"archetyp/core/text"
	"archetyp/core/text/exchange"
	"archetyp/workspace"
)

const textDir = workspace.TextDir

// catalogueFiles are the names of the catalogue's files, the source language's and keys.json first.
func catalogueFiles(ws *workspace.Workspace) (names, locales []string, err error) {
	cfg := &ws.Config.Text
	names = []string{cfg.Source + ".json", text.KeysFile}
	seen := map[string]bool{cfg.Source: true, "keys": true}
	add := func(l string) {
		if !seen[l] {
			seen[l] = true
			locales, names = append(locales, l), append(names, l+".json")
		}
	}
	for _, l := range cfg.Locales {
		add(l)
	}
	found, err := ws.Glob([]string{textDir + "/*.json"})
	if err != nil {
		return nil, nil, err
	}
	for _, f := range found {
		if l := strings.TrimSuffix(path.Base(f), ".json"); text.CheckLocale(l) {
			add(l)
		}
	}
	return names, locales, nil
}

// readCatalogue reads the catalogue from files in hand, by path from the workspace.
func readCatalogue(ws *workspace.Workspace, files map[string][]byte) (*text.Catalogue, error) {
	return readFiles(ws, files, text.ReadCatalogue)
}

func readFiles(ws *workspace.Workspace, files map[string][]byte, read func(string, []string, map[string][]byte) (*text.Catalogue, error)) (*text.Catalogue, error) {
	names, locales, err := catalogueFiles(ws)
	if err != nil {
		return nil, err
	}
	in := map[string][]byte{}
	for _, n := range names {
		in[n] = files[textDir+"/"+n]
	}
	c, err := read(ws.Config.Text.Source, locales, in)
	var fe *text.FileError
	if errors.As(err, &fe) {
		return nil, &workspace.FileError{File: textDir + "/" + fe.File, Position: fe.Position, Msg: fe.Msg, Hint: "Mend it, or take it from version control."}
	}
	return c, err
}

// ReadTexts reads the catalogue as it lies on disk. ok is false where there is none yet.
func ReadTexts(ws *workspace.Workspace) (c *text.Catalogue, ok bool, err error) {
	return readTexts(ws, text.ReadCatalogue)
}

// ReadTranslations is ReadTexts without the places of the keys: enough to import into.
func ReadTranslations(ws *workspace.Workspace) (c *text.Catalogue, ok bool, err error) {
	return readTexts(ws, text.ReadTranslations)
}

func readTexts(ws *workspace.Workspace, read func(string, []string, map[string][]byte) (*text.Catalogue, error)) (c *text.Catalogue, ok bool, err error) {
	names, _, err := catalogueFiles(ws)
	if err != nil {
		return nil, false, err
	}
	files := map[string][]byte{}
	for _, n := range names {
		p := textDir + "/" + n
		data, err := ws.ReadFile(p)
		switch {
		case err == nil:
			files[p] = data
		case !workspace.Missing(err):
			return nil, false, err
		}
	}
	c, err = readFiles(ws, files, read)
	return c, len(files) > 0, err
}

// WriteTexts writes the catalogue back, and other changes with it: all files as one change. It says which files of the
// catalogue changed.
func WriteTexts(ws *workspace.Workspace, c *text.Catalogue, with ...func(*workspace.Change)) ([]string, error) {
	if c.Placeless {
		return nil, errors.New("a catalogue that was read without places cannot be written") // a fault of the program
	}
	change := textChange(ws, c, c.Locales)
	written := change.Paths()
	for _, more := range with {
		more(change)
	}
	return written, ws.Apply(change)
}

// WriteImported is WriteTexts after an import, which changes words and states of some locales only.
func WriteImported(ws *workspace.Workspace, c *text.Catalogue, locales []string) ([]string, error) {
	if c.StatesChanged {
		whole, _, err := ReadTexts(ws)
		if err != nil {
			return nil, err
		}
		whole.Take(c)
		return WriteTexts(ws, whole)
	}
	change := &workspace.Change{}
	putLocales(ws, change, c, locales)
	return change.Paths(), ws.Apply(change)
}

func textChange(ws *workspace.Workspace, c *text.Catalogue, locales []string) *workspace.Change {
	change := &workspace.Change{}
	change.Put(ws, workspace.Texts, textDir+"/"+c.Locale+".json", c.LocaleJSON(c.Locale))
	change.Put(ws, workspace.Texts, textDir+"/"+text.KeysFile, c.KeysJSON())
	putLocales(ws, change, c, locales)
	return change
}

func putLocales(ws *workspace.Workspace, change *workspace.Change, c *text.Catalogue, locales []string) {
	for _, l := range locales {
		p := textDir + "/" + l + ".json"
		data := c.LocaleJSON(l)
		if !ws.Exists(p) && string(data) == "{}\n" {
			continue // nothing to say, and nothing there
		}
		change.Put(ws, workspace.Texts, p, data)
	}
}

// TextOptions are how texts are collected, as the configuration says.
func TextOptions(ws *workspace.Workspace) text.Options {
	t := &ws.Config.Text
	return text.Options{Locale: t.Source, Locales: t.Locales, Pattern: t.Keys, Case: t.Case, Apart: t.Apart}
}

func (r *run) textOptions() text.Options {
	o := TextOptions(r.ws)
	o.Hidden, o.Tags, o.Screens, o.Unread = r.o.Hidden, r.o.Tags, r.o.Screens, r.unread
	return o
}

// texts collects the words of the drawings into the catalogue of the source language.
func (r *run) texts() error {
	old, err := readCatalogue(r.ws, r.files)
	if err != nil {
		return err
	}
	o := r.textOptions()
	if r.finds == nil {
		for _, d := range r.docs {
			r.finds = append(r.finds, text.Find(d, o))
		}
	}
	if r.texts_, err = text.Gather(r.finds, old, o); err != nil {
		return &workspace.FileError{File: workspace.ConfigName, Msg: "text.keys: " + err.Error()}
	}
	c := r.texts_.Catalogue
	r.report.Summary.Texts = len(c.Used())
	for _, e := range c.Used() {
		r.report.Summary.Folded += len(e.Places) - 1 // repeats under one key
	}
	if err := r.put(workspace.Texts, "the catalogue", r.wordsFile(), c.LocaleJSON(c.Locale)); err != nil {
		return err
	}
	return r.put(workspace.Texts, "the catalogue", keysFile, c.KeysJSON())
}

// textOutputs writes the files for code: one a locale.
func (r *run) textOutputs() error {
	c := r.texts_.Catalogue
	for _, o := range r.ws.Config.Text.Outputs {
		f, _ := exchange.Of(o.As)
		for _, l := range append([]string{c.Locale}, c.Locales...) {
			if l != c.Locale && !strings.Contains(o.To, "{") || text.Pseudo(l) && f.Name != "json" && f.Name != "json-nested" && f.Name != "android" {
				continue
			}
			data, warnings := CodeTexts(c, f, r.ws.Config.Name, l, o.Keys)
			p := TextPath(o.To, l, c.Locale)
			if prev, twice := r.outputs[path.Clean(p)]; twice && string(prev) != string(data) {
				return &workspace.FileError{File: workspace.ConfigName, Msg: fmt.Sprintf("text.outputs: %s would be written twice, with other content", p), Hint: "Put {locale} or {values} into the place, and one output of a kind."}
			}
			if err := r.put(workspace.Generated, "text.outputs", p, data); err != nil {
				return err
			}
			for _, w := range warnings {
				if strings.HasSuffix(w, ".stringsdict") && r.hasOutput("stringsdict") {
					continue
				}
				r.report.Summary.Warnings = append(r.report.Summary.Warnings, p+": "+w)
			}
		}
	}
	return nil
}

func (r *run) hasOutput(as string) bool {
	for _, o := range r.ws.Config.Text.Outputs {
		if o.As == as {
			return true
		}
	}
	return false
}

// CodeTexts are the messages of a locale as code takes them, keys spelled as asked; what is not translated is left out.
func CodeTexts(c *text.Catalogue, f exchange.Format, name, locale, spelling string) ([]byte, []string) {
	d := &exchange.Document{Name: name, Source: c.Locale, Units: c.Units(text.Filter{}, locale)}
	if locale != c.Locale {
		d.Target = locale
	}
	if spelling != "" {
		keys := make([]string, len(d.Units))
		for i := range d.Units {
			keys[i] = d.Units[i].Key
		}
		names := text.Respell(keys, spelling)
		for i := range d.Units {
			d.Units[i].Key = names[keys[i]]
		}
	}
	return f.Write(d, exchange.Options{})
}

// TextPath is where a locale's file goes: {locale} stands for the locale, {values} for Android's folder of it.
func TextPath(to, locale, source string) string {
	return strings.NewReplacer("{locale}", locale, "{values}", exchange.AndroidFolder(locale, source)).Replace(to)
}

// Collected is the outcome of collecting texts.
type Collected struct {
	Collection *text.Collection // nil where nothing had changed
	Counts     map[text.Happening]int
	Keys       int
	Written    []string
	Unchanged  bool
	Unread     []error // drawings that could not be read; their texts stay as they were
}

// textCache is what the last collecting saw, kept in the cache: a hash of all it read and wrote.
type textCache struct {
	Program string                 `json:"program"`
	Seen    string                 `json:"seen"`
	Drawn   string                 `json:"drawn"` // the same of the drawings alone, and what they are read with
	Counts  map[text.Happening]int `json:"counts"`
	Keys    int                    `json:"keys"`
}

const textCacheFile = "texts.json"

// Collect collects the texts of the drawings into the catalogue, and does nothing else. Where nothing changed since
// the last time, nothing is read in full.
func Collect(ws *workspace.Workspace, o Options) (*Collected, error) {
	release, err := ws.Hold(o.how())
	if err != nil {
		return nil, err
	}
	defer release()
	r := newRun(ws, o)
	if err := r.inputs(); err != nil {
		return nil, err
	}
	var cache textCache
	if data, ok := ws.Cached(textCacheFile); ok && !o.Hidden && len(o.Tags)+len(o.Screens) == 0 && json.Unmarshal(data, &cache) == nil &&
		cache.Program == Program && cache.Seen == r.textsSeen() {
		r.disk.Save()
		return &Collected{Counts: cache.Counts, Keys: cache.Keys, Unchanged: true}, nil
	}
	if err := r.load(); err != nil {
		return nil, err
	}
	if err := r.readTexts(); err != nil {
		return nil, err
	}
	if err := r.knownScreens(); err != nil {
		return nil, err
	}
	out := &Collected{Collection: r.texts_, Unread: r.report.Unread, Counts: map[text.Happening]int{}, Keys: len(r.texts_.Catalogue.Used())}
	for _, e := range r.texts_.Events {
		out.Counts[e.What]++
	}
	change := textChange(ws, r.texts_.Catalogue, nil)
	out.Written = change.Paths()
	if o.DryRun {
		return out, nil
	}
	if err := ws.Apply(change); err != nil {
		return nil, err
	}
	for _, p := range []string{r.wordsFile(), keysFile} {
		r.keep(p, r.outputs[p])
	}
	if len(r.unread)+len(o.Screens) > 0 {
		return out, nil // the next one looks again
	}
	data, err := json.Marshal(textCache{Program, r.textsSeen(), r.drawingsSeen(), out.Counts, out.Keys})
	if err == nil {
		ws.Cache(textCacheFile, data)
	}
	return out, nil
}

// knownScreens refuses screens to collect that no drawing has.
func (r *run) knownScreens() error {
	var names []string
	for _, f := range r.finds {
		names = append(names, f.Screens()...)
	}
	for _, want := range r.o.Screens {
		if !slices.ContainsFunc(names, func(s string) bool { return strings.EqualFold(s, want) }) {
			return &workspace.FileError{Msg: fmt.Sprintf("no drawing has a screen %q", want), Hint: "Screens here: " + strings.Join(names, ", ") + "."}
		}
	}
	return nil
}

// readTexts reads the drawings for their texts alone, side by side, and collects. No drawing is kept.
func (r *run) readTexts() error {
	if err := r.loadFonts(); err != nil {
		return err
	}
	o, marks, root := r.textOptions(), r.ws.Config.SelectedMarks(), r.ws.Config.RootPx()
	r.finds = make([]*text.Finds, len(r.sources))
	errs := make([]error, len(r.sources))
	_ = Side(len(r.sources), func(i int) error {
		p := r.sources[i]
		doc, err := workspace.ParseDrawing(r.files[p], workspace.Drawing{Shown: p, Fonts: r.fonts.Clone(), Marks: marks, Root: root, Limits: r.ws.Config.Budget(), Load: r.ws.Links(p, nil), Facts: true})
		if errs[i] = err; err == nil {
			r.finds[i] = text.Find(doc, o)
		}
		return nil
	})
	if err := r.setAside(errs); err != nil {
		return err
	}
	r.finds = slices.DeleteFunc(r.finds, func(f *text.Finds) bool { return f == nil })
	return r.texts()
}

// textsSeen is a hash of all that a collection depends on and has written.
func (r *run) textsSeen() string {
	return r.seen(func(p string) bool { return !r.tokenInputs[p] })
}

// drawingsSeen is a hash of the drawings, and of fonts and configuration: what places, words and room follow from.
func (r *run) drawingsSeen() string {
	return r.seen(func(p string) bool { return !r.tokenInputs[p] && !workspace.IsCatalogue(p) })
}

func (r *run) seen(counts func(p string) bool) string {
	var b strings.Builder
	for _, p := range sortedKeys(r.hashes) {
		if counts(p) {
			b.WriteString(p + "\x00" + r.hashes[p] + "\x00")
		}
	}
	return workspace.Hash([]byte(b.String()))
}

// Texts is the catalogue as the drawings have it now, with the drawings where they had to be read. Nothing is written.
func Texts(ws *workspace.Workspace) (*text.Catalogue, error) {
	r := newRun(ws, Options{DryRun: true})
	if err := r.inputs(); err != nil {
		return nil, err
	}
	if err := r.load(); err != nil {
		return nil, err
	}
	var cache textCache
	if data, ok := ws.Cached(textCacheFile); ok && json.Unmarshal(data, &cache) == nil && cache.Program == Program && cache.Drawn == r.drawingsSeen() && r.hashes[keysFile] != "" && r.hashes[r.wordsFile()] != "" {
		return readCatalogue(ws, r.files)
	}
	if err := r.readTexts(); err != nil {
		return nil, err
	}
	return r.texts_.Catalogue, nil
}

func jsonOf(v any) (json.RawMessage, error) {
	data, err := json.Marshal(v)
	return data, err
}

func lockedElement(e *design.Element) workspace.LockedElement {
	return workspace.LockedElement{Identity: match.Of(e), Facts: factsHash(e)}
}
