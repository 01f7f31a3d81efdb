package cli

import (
	"fmt"
	"path/filepath"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/text"
	"archetyp/core/text/exchange"
	"archetyp/core/text/message"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
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
		Example: example("archetyp text export --as xliff --locale de -o texts.de.xlf",
			"archetyp text export --as po --locale de,fi --only initial,outdated -o out",
			"archetyp text export --as android --locale de", "archetyp text export --as html --locale de -o for-translators"),
		Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			form, ok := exchange.Of(as)
			if !ok && as != "html" {
				return hint.New(fmt.Sprintf("--as %q is not known", as), "Choose one of "+strings.Join(exchange.Names(),
					", ")+", html.")
			}
			if plurals != "protected" && plurals != "units" {
				return hint.New(fmt.Sprintf("--plurals %q is not known", plurals), "Choose protected or units.")
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
			x := &textExport{a, ws, c, f, form, out, exchange.Options{PluralUnits: plurals == "units"}}
			return x.run(locales)
		},
	}
	f.flags(c)
	c.Flags().StringSliceVar(&f.states, "only", nil,
		"only texts in these `STATES` (initial, outdated, translated, reviewed, final)")
	c.Flags().StringVar(&as, "as", "xliff", "the `FORM` to write")
	c.Flags().StringVarP(&out, "output", "o", "", "the `FILE` or folder to write (default: stdout)")
	c.Flags().StringSliceVar(&locales, "locale", nil, "the `LOCALES` to translate to (default: the source language alone)")
	c.Flags().StringVar(&plurals, "plurals", "protected",
		"in XLIFF 2.1, messages with plurals as one unit (protected), or one a form (`units`)")
	return c
}

func formList() string {
	var b strings.Builder
	for _, f := range exchange.Formats {
		fmt.Fprintf(&b, "  %-11s %s\n", f.Name, f.About)
	}
	return b.String()
}

// textExport writes texts of a catalogue in a format.
type textExport struct {
	*app
	ws      *workspace.Workspace
	c       *text.Catalogue
	filter  *textFilter
	form    exchange.Format
	out     string // a file or folder; "" for stdout
	options exchange.Options
}

func (x *textExport) run(locales []string) error {
	c, form, out := x.c, x.form, x.out
	if len(locales) == 0 {
		locales = []string{""}
	}
	if len(locales) > 1 && (out == "" || out == "-") {
		return hint.New("several locales do not go to stdout", "Name a folder with -o, or a file with {locale}.")
	}
	if form.Name == "tmx" && out != "" && len(locales) > 1 && filepath.Ext(out) == ".tmx" && !strings.Contains(out, "{") {
		return x.memory(locales)
	}
	var rows []map[string]any
	var said []string
	files := map[string][]byte{}
	for _, l := range locales {
		filter, err := x.filter.filter(c, l)
		if err != nil {
			return err
		}
		d := &exchange.Document{Name: x.ws.Config.Name, Source: c.Locale, Units: c.Units(filter, l)}
		if l != c.Locale {
			d.Target = l
		}
		data, warnings := form.Write(d, x.options)
		x.remarkAll("warning", warnings)
		to := outputName(out, l, c.Locale, form, len(locales) > 1)
		if to == "" {
			if err := x.document(data); err != nil {
				return err
			}
			continue
		}
		files[to] = data
		rows = append(rows, map[string]any{"file": to, "locale": l, "units": len(d.Units), "bytes": len(data)})
		said = append(said, fmt.Sprintf("%s  %s, %s", to, plural(len(d.Units), "text", "texts"), size(len(data))))
	}
	if err := x.save(files); err != nil {
		return err
	}
	if !x.json {
		for _, s := range said {
			x.say("%s\n", s)
		}
	}
	if x.json && rows != nil {
		return x.printJSON(map[string]any{"files": rows})
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

// memory writes all locales into one translation memory.
func (x *textExport) memory(locales []string) error {
	c, out := x.c, x.out
	filter, err := x.filter.filter(c, "")
	if err != nil {
		return err
	}
	m := exchange.MemoryOf(c, c.Pick(filter), locales)
	data := exchange.WriteMemory(m)
	if err := x.save(map[string][]byte{out: data}); err != nil {
		return err
	}
	x.say("%s  %s, %s\n", out, plural(len(m.Entries), "text", "texts"), size(len(data)))
	return nil
}

func (a *app) fillCmd() *cobra.Command {
	var memories, locales []string
	f := &textFilter{}
	atLeast, dry := 100, false
	c := &cobra.Command{
		Use:   "fill",
		Short: "Fill in translations from a memory",
		Long: long(`Fill in what locales lack from translation memories (TMX, or XLIFF and PO that came back): the same words
under the same key first, then the same words, then words that are alike. What scores below --at-least is only
proposed.`),
		Example: example("archetyp text fill --memory memory/ferry.tmx",
			"archetyp text fill --memory memory/ferry.tmx --locale fi --at-least 80"),
		Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			a.writes(!dry)
			ws, c, err := a.texts()
			if err != nil {
				return err
			}
			if len(memories) == 0 {
				return hint.New("no memory is given", "Name a TMX file with --memory.")
			}
			if atLeast < text.Least || atLeast > 100 {
				return hint.New(fmt.Sprintf("--at-least %d is no score", atLeast), fmt.Sprintf("Scores go from %d to 100.",
					text.Least))
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
			if message.Language(d.Target) != message.Language(locale) {
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
