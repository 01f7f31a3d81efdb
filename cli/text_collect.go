package cli

import (
	"fmt"
	"sort"
	"strings"

	"archetyp/core/text"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) collectCmd() *cobra.Command {
	list, hidden := false, false
	var tags, screens []string
	c := &cobra.Command{
		Use:   "collect [SOURCE]",
		Short: "Collect texts into the catalogue: keys by pattern, repeats folded",
		Long: long(`Collect the texts of the drawings into the catalogue of the source language: keys by the pattern of the
configuration or by marks, the same words under one key. Keys stay with their places when layers are renamed
or moved and words change a little. Nothing is deleted: what left the drawings is marked unused. --screen
collects those of some screens, and leaves the others as they are. With a SOURCE, its texts are only listed.`),
		Example: example("archetyp text collect --list", "archetyp text collect --screen Booking",
			"archetyp text collect design/booking.svg"),
		Args: between(0, 1, "a SOURCE at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			a.writes(len(args) == 0)
			if len(args) == 1 {
				return a.collectOne(args[0], hidden)
			}
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			// a list wants every text, so nothing is skipped
			got, err := job.Collect(a.ctx, ws, job.Options{Hidden: hidden, Tags: tags, Screens: screens, Progress: a.progress()})
			if err != nil {
				return err
			}
			if got.Unchanged && (list || a.json) {
				r, err := job.Read(a.ctx, ws)
				if err != nil {
					return err
				}
				return a.printCollection(r.Texts, list)
			}
			if got.Unchanged {
				a.print("%s nothing has changed: %s\n", a.term.good("✓"), plural(got.Keys, "key", "keys"))
				return nil
			}
			if err := a.printCollection(got.Collection, list); err != nil {
				return err
			}
			return unread(got.Unread)
		},
	}
	c.Flags().BoolVar(&list, "list", false, "list every text, line by line")
	c.Flags().BoolVar(&hidden, "hidden", false, "collect hidden texts too")
	c.Flags().StringSliceVar(&screens, "screen", nil,
		"collect the texts of these screens, by `NAME`, and leave the others as they are")
	c.Flags().StringSliceVar(&tags, "tag", nil, "give these `TAGS` to every text found; they stay")
	return c
}

// collectOne lists the texts of one source, with the keys the workspace has.
func (a *app) collectOne(source string, hidden bool) error {
	doc, ws, err := a.source(source)
	if err != nil {
		return err
	}
	d := workspace.Default("").Text
	o := text.Options{Locale: d.Source, Pattern: d.Keys}
	var old *text.Catalogue
	if ws != nil {
		o = job.TextOptions(ws)
		if old, _, err = job.ReadTexts(ws); err != nil {
			return err
		}
	}
	o.Hidden = hidden
	got, err := text.Collect(one(doc), old, o)
	if err != nil {
		return err
	}
	events := got.Events[:0:0]
	for _, e := range got.Events {
		if e.What != text.Gone { // of other sources
			events = append(events, e)
		}
	}
	got.Events = events
	return a.printCollection(got, true)
}

var happenings = map[text.Happening]string{
	text.New: "new keys", text.ByKey: "their keys were known, by mark or place", text.ByWords: "a key that exists has " +
		"the same words",
	text.Changed: "other words than before", text.Folded: "repeats, under a key found before", text.Gone: "keys that no drawing has any more",
	text.Skipped: "not collected"}

func (a *app) printCollection(c *text.Collection, list bool) error {
	if a.json {
		counts := map[string]int{}
		for _, k := range text.Happenings {
			counts[string(k)] = c.Count(k)
		}
		events := c.Events
		if events == nil {
			events = []text.Event{}
		}
		return a.printJSON(map[string]any{"keys": len(c.Catalogue.Entries), "counts": counts, "events": events})
	}
	if a.quiet {
		return nil
	}
	t := a.term
	if list {
		var rows [][]string
		for _, e := range c.Events {
			why := e.Why
			if e.Was != "" {
				why = "was " + quoteShort(e.Was, 40)
			}
			what := string(e.What)
			switch e.What {
			case text.New, text.Changed:
				what = t.good(what)
			case text.Skipped, text.Gone:
				what = t.dim(what)
			}
			rows = append(rows, []string{what, e.Key, quoteShort(e.Words, 44), t.dim(why)})
		}
		a.print("%s", t.table(nil, rows))
	}
	var rows [][]string
	found := 0
	for _, k := range text.Happenings {
		if n := c.Count(k); n > 0 {
			about := happenings[k]
			if k == text.Skipped {
				about = skippedWhy(c)
			}
			rows = append(rows, []string{fmt.Sprint(n), string(k), t.dim(about)})
			if k != text.Gone {
				found += n
			}
		}
	}
	a.print("%s found, %s\n%s", plural(found, "text", "texts"), plural(len(c.Catalogue.Used()), "key", "keys"),
		t.table(nil, rows, 0))
	return nil
}

// skippedWhy counts the reasons why texts were not collected, the commonest first.
func skippedWhy(c *text.Collection) string {
	counts := map[string]int{}
	for _, e := range c.Events {
		if e.What == text.Skipped {
			why, _, _ := strings.Cut(e.Why, " gives the key ") // which differ
			counts[why]++
		}
	}
	var reasons []string
	for why := range counts {
		reasons = append(reasons, why)
	}
	sort.Slice(reasons, func(i, j int) bool {
		if a, b := counts[reasons[i]], counts[reasons[j]]; a != b {
			return a > b
		}
		return reasons[i] < reasons[j]
	})
	for i, why := range reasons {
		reasons[i] = fmt.Sprintf("%d %s", counts[why], why)
	}
	return strings.Join(reasons, ", ")
}
