package job

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"

	"archetyp/core/text"
	"archetyp/core/text/exchange"
	"archetyp/core/text/message"
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
		if l := strings.TrimSuffix(path.Base(f), ".json"); message.CheckLocale(l) {
			add(l)
		}
	}
	return names, locales, nil
}

func readFiles(ws *workspace.Workspace, files map[string][]byte, read func(string, []string,
	map[string][]byte) (*text.Catalogue, error)) (*text.Catalogue, error) {
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
		return nil, &workspace.FileError{File: textDir + "/" + fe.File, Position: fe.Position, Msg: fe.Msg,
			Hint: "Mend it, or take it from version control."}
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

func readTexts(ws *workspace.Workspace, read func(string, []string, map[string][]byte) (*text.Catalogue,
	error)) (c *text.Catalogue, ok bool, err error) {
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

// collect collects the texts that were found into the catalogue of the source language.
func (s *Snapshot) collect(finds []*text.Finds, old *text.Catalogue, o Options) (err error) {
	to := TextOptions(s.ws)
	to.Hidden, to.Tags, to.Screens, to.Unread = o.Hidden, o.Tags, o.Screens, s.unread
	if s.Texts, err = text.Gather(finds, old, to); err != nil {
		return &workspace.FileError{File: workspace.ConfigName, Msg: "text.keys: " + err.Error()}
	}
	return nil
}

// makeTexts makes the files of the catalogue that follow from the drawings.
func (s *Snapshot) makeTexts(a *artefacts) error {
	c := s.Texts.Catalogue
	if err := a.put(workspace.Texts, "the catalogue", wordsFile(s.ws), c.LocaleJSON(c.Locale)); err != nil {
		return err
	}
	return a.put(workspace.Texts, "the catalogue", keysFile, c.KeysJSON())
}

// makeTextOutputs makes the files for code: one a locale.
func (s *Snapshot) makeTextOutputs(a *artefacts) (warnings []string, err error) {
	c, outputs := s.Texts.Catalogue, s.ws.Config.Text.Outputs
	plurals := slices.ContainsFunc(outputs, func(o workspace.TextOutput) bool { return o.As == "stringsdict" })
	for _, o := range outputs {
		f, _ := exchange.Of(o.As)
		for _, l := range append([]string{c.Locale}, c.Locales...) {
			if l != c.Locale && !strings.Contains(o.To, "{") || text.Pseudo(l) && f.Name != "json" && f.Name != "json-nested" &&
				f.Name != "android" {
				continue
			}
			data, lost := CodeTexts(c, f, s.ws.Config.Name, l, o.Keys)
			p := TextPath(o.To, l, c.Locale)
			if prev := a.data(p); prev != nil && string(prev) != string(data) {
				return nil, &workspace.FileError{File: workspace.ConfigName,
					Msg: fmt.Sprintf("text.outputs: %s would be written twice, with other content",
						p), Hint: "Put {locale} or {values} into the place, and one output of a kind."}
			}
			if err := a.put(workspace.Generated, "text.outputs", p, data); err != nil {
				return nil, err
			}
			for _, w := range lost {
				if !plurals || !strings.HasSuffix(w, ".stringsdict") {
					warnings = append(warnings, p+": "+w)
				}
			}
		}
	}
	return warnings, nil
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
func Collect(ctx context.Context, ws *workspace.Workspace, o Options) (*Collected, error) {
	in, done, err := beginRun(ws, o)
	if err != nil {
		return nil, err
	}
	defer done()
	var cache textCache
	if data, ok := ws.Cached(textCacheFile); ok && !o.Hidden && len(o.Tags)+len(o.Screens) == 0 &&
		json.Unmarshal(data, &cache) == nil &&
		cache.Program == Program && cache.Seen == in.ofTexts() {
		return &Collected{Counts: cache.Counts, Keys: cache.Keys, Unchanged: true}, nil
	}
	s := &Snapshot{ws: ws, in: in, lock: &workspace.Lock{}}
	finds, err := s.readTexts(ctx, o)
	if err != nil {
		return nil, err
	}
	if err := knownScreens(finds, o.Screens); err != nil {
		return nil, err
	}
	out := &Collected{Collection: s.Texts, Unread: s.Unread, Counts: map[text.Happening]int{},
		Keys: len(s.Texts.Catalogue.Used())}
	for _, e := range s.Texts.Events {
		out.Counts[e.What]++
	}
	change := textChange(ws, s.Texts.Catalogue, nil)
	out.Written = change.Paths()
	if o.DryRun {
		return out, nil
	}
	if err := ws.Apply(change); err != nil {
		return nil, err
	}
	in.set(wordsFile(ws), workspace.Hash(s.Texts.Catalogue.LocaleJSON(s.Texts.Catalogue.Locale)))
	in.set(keysFile, workspace.Hash(s.Texts.Catalogue.KeysJSON()))
	if len(s.unread)+len(o.Screens) > 0 {
		return out, nil // the next one looks again
	}
	data, err := json.Marshal(textCache{Program, in.ofTexts(), in.ofPlaces(), out.Counts, out.Keys})
	if err == nil {
		ws.Cache(textCacheFile, data)
	}
	return out, nil
}

// knownScreens refuses screens to collect that no drawing has.
func knownScreens(finds []*text.Finds, screens []string) error {
	var names []string
	for _, f := range finds {
		names = append(names, f.Screens()...)
	}
	for _, want := range screens {
		if !slices.ContainsFunc(names, func(s string) bool { return strings.EqualFold(s, want) }) {
			return &workspace.FileError{Msg: fmt.Sprintf("no drawing has a screen %q", want), Hint: "Screens here: " +
				strings.Join(names, ", ") + "."}
		}
	}
	return nil
}

// readTexts finds the texts of all drawings and collects them. Drawings without a record are read for their texts
// alone, side by side; none is kept.
func (s *Snapshot) readTexts(ctx context.Context, o Options) ([]*text.Finds, error) {
	r, err := newDrawingReader(ctx, s.in)
	if err != nil {
		return nil, err
	}
	options := r.texts
	options.Hidden, options.Screens = o.Hidden, o.Screens
	plain := !o.Hidden && len(o.Screens) == 0
	finds := make([]*text.Finds, len(s.in.sources))
	errs := make([]error, len(s.in.sources))
	_ = Progress(o.Progress, "reading", len(finds), func(i int) error {
		name := s.in.sources[i]
		if plain {
			if d := r.recorded(name); d != nil {
				finds[i], errs[i] = d.record.texts()
				return nil
			}
		}
		doc, _, err := r.parse(name, true)
		if errs[i] = err; err == nil {
			finds[i] = text.Find(doc, options)
		}
		return nil
	})
	if err := s.setAside(s.in.sources, errs, o.Strict); err != nil {
		return nil, err
	}
	finds = slices.DeleteFunc(finds, func(f *text.Finds) bool { return f == nil })
	old, _, err := ReadTexts(s.ws)
	if err != nil {
		return nil, err
	}
	return finds, s.collect(finds, old, o)
}

// Texts is the catalogue as the drawings have it now. Nothing is written.
func Texts(ctx context.Context, ws *workspace.Workspace) (*text.Catalogue, error) {
	in, err := findInputs(ws)
	if err != nil {
		return nil, err
	}
	var cache textCache
	if data, ok := ws.Cached(textCacheFile); ok && json.Unmarshal(data, &cache) == nil && cache.Program == Program &&
		cache.Drawn == in.ofPlaces() && in.hashOf(keysFile) != "" && in.hashOf(wordsFile(ws)) != "" {
		c, _, err := ReadTexts(ws)
		return c, err
	}
	s := &Snapshot{ws: ws, in: in, lock: &workspace.Lock{}}
	if _, err := s.readTexts(ctx, Options{}); err != nil {
		return nil, err
	}
	return s.Texts.Catalogue, nil
}
