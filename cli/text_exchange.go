package cli

import (
	"errors"
	"fmt"
	"path/filepath"
	"strings"

	"archetyp/core/guard"
	"archetyp/core/markup"
	"archetyp/core/text"
	"archetyp/core/text/exchange"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
	"golang.org/x/sync/errgroup"
)

func (a *app) exportCmd() *cobra.Command {
	f := &textFilter{}
	as, out, plurals := "xliff", "", "protected"
	var locales []string
	c := &cobra.Command{
		Use:   "export",
		Short: "Write the catalogue for translators or code",
		Long: long(`Write the catalogue for translators or for code, to stdout or to a file: all texts, or those of a screen, tag or state.
With several locales, -o is a folder, or a name with {locale}. The forms:

` + formList() + `  html        a page a screen for translators: pictures with numbered places, beside the keys (-o is a folder)
`),
		Example: example("archetyp text export --as xliff --locale de -o texts.de.xlf", "archetyp text export --as po --locale de,fi --only initial,outdated -o out",
			"archetyp text export --as android --locale de", "archetyp text export --as html --locale de -o for-translators"),
		Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			form, ok := exchange.Of(as)
			if !ok && as != "html" {
				return hint(fmt.Sprintf("--as %q is not known", as), "Choose one of "+strings.Join(exchange.Names(), ", ")+", html.")
			}
			if plurals != "protected" && plurals != "units" {
				return hint(fmt.Sprintf("--plurals %q is not known", plurals), "Choose protected or units.")
			}
			ws, c, err := a.texts()
			if err != nil {
				return err
			}
			for _, l := range locales {
				if err := a.locale(c, l, true); err != nil {
					return err
				}
			}
			if as == "html" {
				return a.exportPages(ws, c, f, locales, out)
			}
			return a.export(ws, c, f, form, locales, out, exchange.Options{PluralUnits: plurals == "units"})
		},
	}
	f.flags(c)
	c.Flags().StringSliceVar(&f.states, "only", nil, "only texts in these `STATES` (initial, outdated, translated, reviewed, final)")
	c.Flags().StringVar(&as, "as", "xliff", "the `FORM` to write")
	c.Flags().StringVarP(&out, "output", "o", "", "the `FILE` or folder to write (default: stdout)")
	c.Flags().StringSliceVar(&locales, "locale", nil, "the `LOCALES` to translate to (default: the source language alone)")
	c.Flags().StringVar(&plurals, "plurals", "protected", "in XLIFF 2.1, messages with plurals as one unit (protected), or one a form (`units`)")
	return c
}

func formList() string {
	var b strings.Builder
	for _, f := range exchange.Formats {
		fmt.Fprintf(&b, "  %-11s %s\n", f.Name, f.About)
	}
	return b.String()
}

func (a *app) export(ws *workspace.Workspace, c *text.Catalogue, f *textFilter, form exchange.Format, locales []string, out string, o exchange.Options) error {
	if len(locales) == 0 {
		locales = []string{""}
	}
	if len(locales) > 1 && (out == "" || out == "-") {
		return hint("several locales do not go to stdout", "Name a folder with -o, or a file with {locale}.")
	}
	if form.Name == "tmx" && out != "" && len(locales) > 1 && filepath.Ext(out) == ".tmx" && !strings.Contains(out, "{") {
		return a.exportMemory(ws, c, f, locales, out)
	}
	var rows []map[string]any
	var said []string
	files := map[string][]byte{}
	for _, l := range locales {
		filter, err := f.filter(c, l)
		if err != nil {
			return err
		}
		d := &exchange.Document{Name: ws.Config.Name, Source: c.Locale, Units: c.Units(filter, l)}
		if l != c.Locale {
			d.Target = l
		}
		data, warnings := form.Write(d, o)
		a.tellAll("warning", warnings)
		to := outputName(out, l, c.Locale, form, len(locales) > 1)
		if to == "" {
			if err := a.document(data); err != nil {
				return err
			}
			continue
		}
		files[to] = data
		rows = append(rows, map[string]any{"file": to, "locale": l, "units": len(d.Units), "bytes": len(data)})
		said = append(said, fmt.Sprintf("%s  %s, %s", to, plural(len(d.Units), "text", "texts"), size(len(data))))
	}
	if err := a.save(files); err != nil {
		return err
	}
	if !a.json {
		for _, s := range said {
			a.say("%s\n", s)
		}
	}
	if a.json && rows != nil {
		return a.printJSON(map[string]any{"files": rows})
	}
	return nil
}

// outputName is where a locale's file goes; "" for stdout.
func outputName(out, locale, source string, form exchange.Format, several bool) string {
	if out == "" || out == "-" {
		return ""
	}
	if locale == "" {
		locale = source
	}
	if strings.Contains(out, "{") {
		return job.TextPath(out, locale, source)
	}
	if !several && filepath.Ext(out) != "" {
		return out
	}
	if form.Name == "android" {
		return filepath.Join(out, exchange.AndroidFolder(locale, source), "strings.xml")
	}
	return filepath.Join(out, locale+form.Ext)
}

// exportMemory writes all locales into one translation memory.
func (a *app) exportMemory(ws *workspace.Workspace, c *text.Catalogue, f *textFilter, locales []string, out string) error {
	m := &exchange.Memory{Source: c.Locale}
	filter, err := f.filter(c, "")
	if err != nil {
		return err
	}
	for _, e := range c.Pick(filter) {
		one := exchange.MemoryEntry{Key: e.Key, Note: e.Note, Words: map[string]string{c.Locale: e.Words}}
		for _, l := range locales {
			if t := e.In[l]; t != nil && t.Words != "" && t.Of == "" {
				one.Words[l] = t.Words
			}
		}
		if len(one.Words) > 1 {
			m.Entries = append(m.Entries, one)
		}
	}
	data := exchange.WriteMemory(m)
	if err := a.save(map[string][]byte{out: data}); err != nil {
		return err
	}
	a.say("%s  %s, %s\n", out, plural(len(m.Entries), "text", "texts"), size(len(data)))
	return nil
}

func (a *app) importCmd() *cobra.Command {
	locale, as, dry, over := "", "", false, false
	c := &cobra.Command{
		Use:   "import FILE…",
		Short: "Take translations back from files",
		Long: long(`Take translations back from files; their form is recognised. Texts are found by key, else by their words, with a
warning. Where the source words changed since the export, the translation is taken as outdated; where both sides changed,
ours stays and the three values are shown. Reviewed and final texts are not overwritten unless --over is given. A file with
a fault changes nothing.`),
		Example: example("archetyp text import texts.de.xlf --dry-run", "archetyp text import dist/text/de.json", "archetyp text import dist/android/res/values-pl/strings.xml"),
		Args:    cobra.MinimumNArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			a.writes(!dry)
			// the files are read beside the catalogue
			files := make([]exchangeFile, len(args))
			var g errgroup.Group
			for i, p := range args {
				g.Go(func() (err error) {
					defer guard.Catch(&err, "reading "+p)
					files[i], err = a.readExchange(p, as, locale)
					return err
				})
			}
			ws, c, err := a.textsBy(job.ReadTranslations)
			if err == nil {
				err = a.locale(c, locale, false)
			}
			if ferr := g.Wait(); err == nil {
				err = ferr
			}
			if err != nil {
				return err
			}
			var results []importedFile
			var into []string
			for i := range files {
				r, err := a.importFile(c, &files[i], locale, over)
				if err != nil {
					return err
				}
				results = append(results, *r)
				into = append(into, r.Locale)
			}
			var written []string
			if !dry {
				if written, err = job.WriteImported(ws, c, into); err != nil {
					return err
				}
			}
			return a.printImport(results, full(written), dry)
		},
	}
	c.Flags().StringVar(&locale, "locale", "", "the `LOCALE` of the words, where the file does not say")
	c.Flags().StringVar(&as, "as", "", "the `FORM` of the files, where it is not recognised")
	c.Flags().BoolVar(&dry, "dry-run", false, "only say what would happen")
	c.Flags().BoolVar(&over, "over", false, "overwrite reviewed and final texts, and those changed here since the export")
	return c
}

// fileError gives a fault in a file its name.
func fileError(err error, name string) error {
	var me *markup.Error
	if errors.As(err, &me) {
		return &workspace.FileError{File: name, Position: me.Position, Msg: me.Msg, Hint: "Nothing was changed."}
	}
	return err
}

type importedFile struct {
	File   string         `json:"file"`
	Form   string         `json:"form"`
	Locale string         `json:"locale"`
	Counts map[string]int `json:"counts"`
	Texts  []text.Arrived `json:"texts"`
}

// exchangeFile is a file that came back, read.
type exchangeFile struct {
	path string
	form exchange.Format
	doc  *exchange.Document
}

func (a *app) readExchange(p, as, locale string) (f exchangeFile, err error) {
	f.path = p
	data, err := workspace.ReadFile(a.path(p), p)
	if err != nil {
		return f, err
	}
	ok := false
	if f.form, ok = exchange.Recognise(p, data); as != "" {
		if f.form, ok = exchange.Of(as); !ok {
			return f, hint(fmt.Sprintf("--as %q is not known", as), "Choose one of "+strings.Join(exchange.Names(), ", ")+".")
		}
	}
	if !ok {
		return f, &workspace.FileError{File: p, Msg: "the form of the file is not recognised", Hint: "Say which it is with --as: " + strings.Join(exchange.Names(), ", ") + "."}
	}
	if f.doc, err = f.form.Read(data, exchange.Options{Locale: locale, Words: true}); err != nil {
		return f, fileError(err, p)
	}
	return f, nil
}

func (a *app) importFile(c *text.Catalogue, f *exchangeFile, locale string, over bool) (*importedFile, error) {
	p, form, d := f.path, f.form, f.doc
	if locale == "" {
		locale = d.Target
	}
	if locale == "" {
		locale = localeOf(p, c)
	}
	if locale == "" || locale == c.Locale {
		return nil, &workspace.FileError{File: p, Msg: "the file does not say which language it is in", Hint: "Name it with --locale" + localesHint(c) + "."}
	}
	if err := a.locale(c, locale, true); err != nil {
		return nil, err
	}
	out := &importedFile{File: p, Form: form.Name, Locale: locale, Counts: map[string]int{}}
	out.Texts = c.Import(d.Units, text.ImportOptions{Locale: locale, Over: over, Key: keyFinder(c, form)})
	for _, t := range out.Texts {
		out.Counts[string(t.What)]++
	}
	return out, nil
}

// keyFinder finds entries by key, and for code that cannot spell keys by the name they have there.
func keyFinder(c *text.Catalogue, form exchange.Format) func(string) *text.Entry {
	if form.Name != "android" {
		return nil
	}
	var keys []string
	for _, e := range c.Used() {
		keys = append(keys, e.Key)
	}
	byName := map[string]*text.Entry{}
	for k, name := range exchange.CodeNames(keys) {
		byName[name] = c.Get(k)
	}
	return func(name string) *text.Entry {
		if e := byName[name]; e != nil {
			return e
		}
		return c.Get(name)
	}
}

// localeOf is the locale a file's name or folder says: de.json, texts.de.xlf, values-de/strings.xml, de.lproj.
func localeOf(p string, c *text.Catalogue) string {
	name := base(p)
	parts := append(strings.FieldsFunc(name, func(r rune) bool { return r == '.' || r == '_' }), name, filepath.Base(filepath.Dir(p)))
	for i := len(parts) - 1; i >= 0; i-- {
		part := strings.TrimSuffix(parts[i], ".lproj")
		for _, l := range c.Locales {
			if strings.EqualFold(part, l) || part == exchange.AndroidFolder(l, c.Locale) {
				return l
			}
		}
	}
	return ""
}

func (a *app) printImport(results []importedFile, written []string, dry bool) error {
	if a.json {
		return a.printJSON(map[string]any{"files": results, "dryRun": dry, "written": written})
	}
	if a.quiet {
		return nil
	}
	t := a.term
	const most = 12
	for _, r := range results {
		a.print("%s  %s\n", t.bold(r.File), t.dim(r.Form+", "+r.Locale))
		var rows [][]string
		shown := map[text.Arrival]int{}
		for _, x := range r.Texts {
			if x.What == text.Same && x.Why == "" || x.What == text.Nothing {
				continue
			}
			if shown[x.What]++; shown[x.What] > most && !a.verbose {
				continue
			}
			mark := t.good(string(x.What))
			if x.What != text.Taken {
				mark = t.warn(string(x.What))
			}
			say := quoteShort(x.Theirs, 50)
			if x.What == text.Taken && x.Ours != "" {
				say = quoteShort(x.Ours, 30) + " → " + say
			}
			rows = append(rows, []string{"  " + mark, x.Key, say, t.dim(x.Why)})
			if x.What == text.Conflict || x.What == text.Protected {
				for _, v := range [][2]string{{"exported", x.Base}, {"here", x.Ours}, {"there", x.Theirs}} {
					if v[1] != "" {
						rows = append(rows, []string{"", t.dim("  " + v[0]), quoteShort(v[1], 60), ""})
					}
				}
			}
		}
		a.print("%s", t.table(nil, rows))
		var counts []string
		for _, w := range text.Arrivals {
			if n := r.Counts[string(w)]; n > 0 {
				counts = append(counts, fmt.Sprintf("%d %s", n, w))
			}
		}
		a.print("  %s\n", strings.Join(counts, ", "))
	}
	if dry {
		a.print("%s\n", t.dim("nothing was written: --dry-run"))
	}
	return nil
}

func (a *app) fillCmd() *cobra.Command {
	var memories, locales []string
	f := &textFilter{}
	atLeast, dry := 100, false
	c := &cobra.Command{
		Use:   "fill",
		Short: "Fill in translations from a memory",
		Long: long(`Fill in what locales lack from translation memories (TMX, or XLIFF and PO that came back): the same words under the same
key first, then the same words, then words that are alike. What scores below --at-least is only proposed.`),
		Example: example("archetyp text fill --memory memory/ferry.tmx", "archetyp text fill --memory memory/ferry.tmx --locale fi --at-least 80"),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			a.writes(!dry)
			ws, c, err := a.texts()
			if err != nil {
				return err
			}
			if len(memories) == 0 {
				return hint("no memory is given", "Name a TMX file with --memory.")
			}
			if atLeast < text.Least || atLeast > 100 {
				return hint(fmt.Sprintf("--at-least %d is no score", atLeast), fmt.Sprintf("Scores go from %d to 100.", text.Least))
			}
			if locales, err = a.someLocales(c, locales); err != nil {
				return err
			}
			filled := map[string][]text.Filled{}
			for _, l := range locales {
				filter, err := f.filter(c, l)
				if err != nil {
					return err
				}
				memory, err := a.memory(c, memories, l)
				if err != nil {
					return err
				}
				filled[l] = c.Fill(memory, l, atLeast, filter)
			}
			var written []string
			if !dry {
				if written, err = a.writeTexts(ws, c); err != nil {
					return err
				}
			}
			return a.printFilled(locales, filled, full(written), dry)
		},
	}
	f.flags(c)
	c.Flags().StringSliceVar(&memories, "memory", nil, "the memory `FILES`")
	c.Flags().StringSliceVar(&locales, "locale", nil, "only these `LOCALES`")
	c.Flags().IntVar(&atLeast, "at-least", 100, "the `SCORE` from which a match is put in; below it is proposed")
	c.Flags().BoolVar(&dry, "dry-run", false, "only say what would happen")
	return c
}

// memory reads translation memories for a locale.
func (a *app) memory(c *text.Catalogue, files []string, locale string) ([]text.Remembered, error) {
	var out []text.Remembered
	for _, p := range files {
		data, err := workspace.ReadFile(a.path(p), p)
		if err != nil {
			return nil, err
		}
		form, ok := exchange.Recognise(p, data)
		switch {
		case ok && form.Name == "tmx":
			m, err := exchange.ReadMemory(data)
			if err != nil {
				return nil, fileError(err, p)
			}
			out = append(out, m.Remembered(c.Locale, locale)...)
		case ok && !form.Code:
			d, err := form.Read(data, exchange.Options{})
			if err != nil {
				return nil, fileError(err, p)
			}
			if text.Language(d.Target) != text.Language(locale) {
				continue
			}
			for _, u := range d.Units {
				if u.Target != "" {
					out = append(out, text.Remembered{Key: u.Key, Source: u.Source, Target: u.Target})
				}
			}
		default:
			return nil, &workspace.FileError{File: p, Msg: "no translation memory", Hint: "TMX, XLIFF, PO and CSV are read."}
		}
	}
	return out, nil
}

func (a *app) printFilled(locales []string, filled map[string][]text.Filled, written []string, dry bool) error {
	if a.json {
		out := map[string][]text.Filled{}
		for _, l := range locales {
			out[l] = append([]text.Filled{}, filled[l]...)
		}
		return a.printJSON(map[string]any{"locales": out, "dryRun": dry, "written": written})
	}
	t := a.term
	for _, l := range locales {
		done := 0
		var rows [][]string
		for _, f := range filled[l] {
			mark := t.dim("proposed")
			if f.Done {
				mark = t.good("filled")
				done++
			}
			from := ""
			if f.Score < 100 {
				from = t.dim("from " + quoteShort(f.From, 40))
			}
			rows = append(rows, []string{"  " + mark, fmt.Sprintf("%d %%", f.Score), f.Key, quoteShort(f.Target, 50), from})
		}
		a.print("%s  %d filled, %d proposed\n%s", t.bold(l), done, len(filled[l])-done, t.table(nil, rows, 1))
	}
	if dry {
		a.print("%s\n", t.dim("nothing was written: --dry-run"))
	}
	return nil
}
