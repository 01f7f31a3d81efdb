package cli

import (
	"fmt"

	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) captureCmd() *cobra.Command {
	var browser bool
	follow, name := -1, ""
	c := &cobra.Command{
		Use:   "capture [SITE]",
		Short: "Read a live site into captures/, so that later work is offline and repeatable",
		Long: long(`Read a live site into captures/: its pages and what their style needs, as they came, and with
--browser the boxes and the picture of every page in each window and colour scheme. SITE is the name of a site in
archetyp.yaml, or an address; without one, all sites are read. Pages are followed on the same host as robots.txt
allows, a few requests at a time. What has not changed is not fetched again. Nothing is written when the first page
cannot be read.`),
		Example: example("archetyp capture ferry-site", "archetyp capture http://127.0.0.1:8085/ --follow 3 --browser"),
		Args:    between(0, 1, "a SITE at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			a.writes(true)
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			sites, err := sitesFor(ws, args, name)
			if err != nil {
				return err
			}
			var out []*job.Captured
			for _, s := range sites {
				if follow >= 0 {
					s.Follow = follow
				}
				over, bar := func() {}, a.progress()
				if s.Follow < fewJobs {
					over, bar = a.busy("reading "+s.URL), nil
				}
				got, err := job.Capture(a.ctx, ws, s, job.CaptureOptions{Browser: browser, Progress: bar})
				over()
				if err != nil {
					return err
				}
				out = append(out, got)
			}
			return a.printCaptured(out)
		},
	}
	c.Flags().BoolVar(&browser, "browser", false, "look at every page in a browser, too")
	c.Flags().IntVar(&follow, "follow", -1, "read this many `PAGES`, the first among them (default: the site's own)")
	c.Flags().StringVar(&name, "name", "", "of an address: the `NAME` of its folder (default: its host)")
	return c
}

// sitesFor are the sites that are meant: one by its name or address, or all.
func sitesFor(ws *workspace.Workspace, args []string, name string) ([]workspace.Site, error) {
	if len(args) == 0 {
		if len(ws.Config.Sites) == 0 {
			return nil, hint.New("there is no site in archetyp.yaml", "Name one under sites:, or give an address.")
		}
		return ws.Config.Sites, nil
	}
	if s, ok := ws.Config.Site(args[0]); ok {
		return []workspace.Site{s}, nil
	}
	if !job.IsAddress(args[0]) {
		var names []string
		for _, s := range ws.Config.Sites {
			names = append(names, s.Name)
		}
		tip := "An address begins with http:// or https://."
		if near := hint.Nearest(args[0], names); near != "" {
			tip = "Did you mean " + near + "?"
		}
		return nil, hint.New(args[0]+": there is no site of that name", tip)
	}
	return []workspace.Site{job.SiteOf(args[0], name)}, nil
}

func (a *app) printCaptured(list []*job.Captured) error {
	if a.json {
		for _, c := range list {
			c.Changed, c.Gone, c.Failed = full(c.Changed), full(c.Gone), full(c.Failed)
		}
		return a.printJSON(map[string]any{"captures": list})
	}
	for _, c := range list {
		a.print("%s  %s\n", a.term.bold(c.Site), a.term.dim(c.Folder+"/"))
		rows := [][]string{{"  pages", fmt.Sprint(c.Pages)}, {"  sheets, pictures, fonts", fmt.Sprint(c.Files)}}
		if c.Views > 0 {
			rows = append(rows, []string{"  views in a browser", fmt.Sprint(c.Views)})
		}
		changed := "nothing had changed"
		if n := len(c.Changed) + len(c.Gone); n > 0 {
			changed = fmt.Sprintf("%s written, %d removed", plural(len(c.Changed), "file", "files"), len(c.Gone))
		}
		rows = append(rows, []string{"  written", changed})
		a.print("%s", a.term.table(nil, rows))
		for i, f := range c.Failed {
			if i == 12 && !a.verbose {
				a.print("  %s\n", a.term.dim(fmt.Sprintf("… %d more; --verbose shows them", len(c.Failed)-i)))
				break
			}
			a.print("  %s %s  %s\n", a.term.warn("!"), f.URL, a.term.dim(f.Reason))
		}
	}
	return nil
}
