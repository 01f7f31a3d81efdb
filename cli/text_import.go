package cli

import (
	"errors"
	"fmt"
	"path/filepath"
	"strings"

	"archetyp/core/guard"
	"archetyp/core/hint"
	"archetyp/core/markup"
	"archetyp/core/text"
	"archetyp/core/text/exchange"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
	"golang.org/x/sync/errgroup"
)

func (a *app) importCmd() *cobra.Command {
	locale, as, dry, over := "", "", false, false
	c := &cobra.Command{
		Use:   "import FILE…",
		Short: "Take translations back from files",
		Long: long(`Take translations back from files; their form is recognised. Texts are found by key, else by
their words, with a warning. Where the source words changed since the export, the translation is taken as
outdated; where both sides changed, ours stays and the three values are shown. Reviewed and final texts are
not overwritten unless --over is given. A file with a fault changes nothing.`),
		Example: example("archetyp text import texts.de.xlf --dry-run", "archetyp text import dist/text/de.json",
			"archetyp text import dist/android/res/values-pl/strings.xml"),
		Args: cobra.MinimumNArgs(1),
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
			return f, hint.New(fmt.Sprintf("--as %q is not known", as), "Choose one of "+strings.Join(exchange.Names(),
				", ")+".")
		}
	}
	if !ok {
		return f, &workspace.FileError{File: p, Msg: "the form of the file is not recognised",
			Hint: "Say which it is with --as: " + strings.Join(exchange.Names(), ", ") + "."}
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
		return nil, &workspace.FileError{File: p, Msg: "the file does not say which language it is in",
			Hint: "Name it with --locale" + localesHint(c) + "."}
	}
	if err := a.locale(c, locale, true); err != nil {
		return nil, err
	}
	out := &importedFile{File: p, Form: form.Name, Locale: locale, Counts: map[string]int{}}
	out.Texts = c.Import(d.Units, text.ImportOptions{Locale: locale, Over: over, Key: form.Finder(c)})
	for _, t := range out.Texts {
		out.Counts[string(t.What)]++
	}
	return out, nil
}

// localeOf is the locale a file's name or folder says: de.json, texts.de.xlf, values-de/strings.xml, de.lproj.
func localeOf(p string, c *text.Catalogue) string {
	name := base(p)
	parts := append(strings.FieldsFunc(name, func(r rune) bool { return r == '.' || r == '_' }), name,
		filepath.Base(filepath.Dir(p)))
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
