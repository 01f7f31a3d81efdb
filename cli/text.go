package cli

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"

	"archetyp/core/text"
	"archetyp/sync"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) textCmd() *cobra.Command {
	c := &cobra.Command{
		Use:     "text",
		Short:   "Collect the words of drawings and export them",
		Long:    long("Collect the words of drawings into a catalogue of keys, and export them for translators and code."),
		Example: example("archetyp text collect --list"),
		Args:    cobra.NoArgs,
		RunE:    func(c *cobra.Command, _ []string) error { return c.Help() },
	}
	c.AddCommand(a.collectCmd(), a.exportCmd())
	return c
}

func (a *app) collectCmd() *cobra.Command {
	list := false
	c := &cobra.Command{
		Use:   "collect [SOURCE]",
		Short: "Collect texts into the catalogue: keys by pattern, repeats folded",
		Long: long(`Collect the texts of the drawings into the catalogue of the source language: keys by the pattern of the configuration or
by marks, the same words under one key. Nothing is deleted: what left the drawings is marked unused. With a SOURCE, its
texts are only listed.`),
		Example: example("archetyp text collect --list", "archetyp text collect design/booking.svg"),
		Args:    between(0, 1, "a SOURCE at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			if len(args) == 1 {
				doc, ws, err := a.source(args[0])
				if err != nil {
					return err
				}
				pattern := workspace.Default("").Text.Keys
				if ws != nil {
					pattern = ws.Config.Text.Keys
				}
				got, err := text.Collect(one(doc), nil, "en", pattern)
				if err != nil {
					return err
				}
				return a.printCollection(got, true)
			}
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			reading, err := sync.Read(ws)
			if err != nil {
				return err
			}
			if _, err := sync.Run(ws, sync.Options{Only: "texts"}); err != nil {
				return err
			}
			return a.printCollection(reading.Texts, list)
		},
	}
	c.Flags().BoolVar(&list, "list", false, "list every text, line by line")
	return c
}

func (a *app) printCollection(c *text.Collection, list bool) error {
	kinds := []string{"new", "same", "changed", "folded", "unused", "skipped"}
	if a.json {
		counts := map[string]int{}
		for _, k := range kinds {
			counts[k] = c.Count(k)
		}
		return a.printJSON(map[string]any{"keys": len(c.Catalogue.Entries), "counts": counts, "events": c.Events})
	}
	t := a.term
	if list {
		var rows [][]string
		for _, e := range c.Events {
			why := e.Why
			if e.Was != "" {
				why = "was " + quoteShort(e.Was, 40)
			}
			what := e.What
			switch what {
			case "new", "changed":
				what = t.good(what)
			case "skipped", "unused":
				what = t.dim(what)
			}
			rows = append(rows, []string{what, e.Key, quoteShort(e.Words, 44), t.dim(why)})
		}
		a.print("%s", t.table(nil, rows))
	}
	about := map[string]string{"new": "new keys", "same": "as they were", "changed": "with other words than before", "folded": "repeats under a key that exists",
		"unused": "keys that no drawing has any more", "skipped": "not collected (marked so, or no letters)"}
	var rows [][]string
	for _, k := range kinds {
		if n := c.Count(k); n > 0 {
			rows = append(rows, []string{fmt.Sprint(n), k, t.dim(about[k])})
		}
	}
	a.print("%s", t.table(nil, rows, 0))
	return nil
}

func (a *app) exportCmd() *cobra.Command {
	as, out, locale := "xliff", "", ""
	c := &cobra.Command{
		Use:     "export",
		Short:   "Write the catalogue as XLIFF 2.1 or JSON",
		Long:    long("Write the catalogue for translators (XLIFF 2.1) or for code (flat JSON), to stdout or to a file."),
		Example: example("archetyp text export --as xliff --locale de -o texts.de.xlf", "archetyp text export --as json"),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			if as != "xliff" && as != "json" {
				return hint(fmt.Sprintf("--as %q is not known", as), "Choose xliff or json.")
			}
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			c, err := a.catalogue(ws)
			if err != nil {
				return err
			}
			if as == "xliff" {
				return a.writeText(out, c.XLIFF(ws.Config.Name, locale))
			}
			words := map[string]string{}
			for _, e := range c.Entries {
				if !e.Unused {
					words[e.Key] = e.Words
				}
			}
			data, err := json.MarshalIndent(words, "", "  ")
			if err != nil {
				return err
			}
			return a.writeText(out, string(data)+"\n")
		},
	}
	c.Flags().StringVar(&as, "as", "xliff", "the `FORM` to write: xliff or json")
	c.Flags().StringVarP(&out, "output", "o", "", "the `FILE` to write (default: stdout)")
	c.Flags().StringVar(&locale, "locale", "", "the target `LOCALE` of an XLIFF file")
	return c
}

// catalogue reads the texts of a workspace as they were collected last.
func (a *app) catalogue(ws *workspace.Workspace) (*text.Catalogue, error) {
	name := "text/" + ws.Config.Text.Source + ".json"
	words, err := os.ReadFile(ws.Path(name))
	if err != nil {
		return nil, hint("no texts have been collected yet", "\"archetyp text collect\" does it, and so does \"archetyp sync\".")
	}
	keys, err := os.ReadFile(ws.Path("text/keys.json"))
	if err != nil && !os.IsNotExist(err) {
		return nil, err
	}
	c, err := text.ReadCatalogue(ws.Config.Text.Source, words, keys)
	if err != nil {
		return nil, &workspace.FileError{File: name, Msg: err.Error()}
	}
	return c, nil
}

// writeText writes a result to stdout, or to a file.
func (a *app) writeText(out, text string) error {
	if out == "" || out == "-" {
		a.print("%s", text)
		return nil
	}
	path := out
	if !filepath.IsAbs(path) {
		path = filepath.Join(a.dir, path)
	}
	if err := workspace.WriteFile(path, []byte(text)); err != nil {
		return err
	}
	a.say("%s  %s\n", out, size(len(text)))
	return nil
}
