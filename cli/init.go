package cli

import (
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"sort"
	"strings"

	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) initCmd() *cobra.Command {
	harvest, git, browser := false, false, false
	live, name, follow := "", "", 1
	c := &cobra.Command{
		Use:   "init [DIR]",
		Short: "Begin a workspace around existing drawings; overwrites nothing",
		Long: long(`Begin a workspace around the SVG drawings in a folder: write an archetyp.yaml that lists them
and the fonts beside them. With --harvest the values found in the drawings become tokens, once. With --site the
workspace begins from a live site: its capture is the source, and with --harvest its custom properties become tokens
under their own names, a context for each scheme and width. In a workspace, --git has git merge its token files token
by token.`),
		Example: example("archetyp init", "archetyp init designs --harvest", "archetyp init --git",
			"archetyp init --site http://127.0.0.1:8085/ --harvest"),
		Args: between(0, 1, "a DIR at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			dir := a.dir
			if len(args) == 1 {
				dir = filepath.Join(a.dir, args[0])
				if filepath.IsAbs(args[0]) {
					dir = args[0]
				}
			}
			if live != "" {
				s := job.SiteOf(live, name)
				s.Follow, s.Browser, s.Viewports = follow, browser, []string{"390x844", "1280x800"}
				return a.initSite(dir, s, harvest)
			}
			return a.init(dir, harvest, git)
		},
	}
	c.Flags().BoolVar(&harvest, "harvest", false, "accept every proposed token")
	c.Flags().StringVar(&live, "site", "", "begin from the live site at `ADDRESS`")
	c.Flags().StringVar(&name, "name", "", "with --site: the site's `NAME` (default: its host)")
	c.Flags().IntVar(&follow, "follow", 1, "with --site: read this many `PAGES`")
	c.Flags().BoolVar(&browser, "browser", false, "with --site: look at every page in a browser, too")
	c.Flags().BoolVar(&git, "git", false, "in a workspace: set up git to merge its files")
	return c
}

func (a *app) init(dir string, harvest, git bool) error {
	abs, err := filepath.Abs(dir)
	if err != nil {
		return err
	}
	if info, err := os.Stat(abs); err != nil || !info.IsDir() {
		return fmt.Errorf("%s: there is no such folder", dir)
	}
	config := filepath.Join(dir, workspace.ConfigName)
	if _, err := os.Lstat(filepath.Join(abs, workspace.ConfigName)); err == nil {
		if git {
			return a.initGit(abs, dir)
		}
		return hint.New(config+" is there already: this is a workspace",
			"\"archetyp sync\" brings it in step; \"archetyp tokens harvest --write\" adds tokens; \"archetyp init --git\" "+
				"sets up git to merge its files.")
	}
	drawings, fontDirs, count := survey(abs)
	if len(drawings) == 0 {
		return hint.New(dir+": no SVG drawings in this folder or below it", "Put them there first, or go where they are.")
	}
	ws, err := workspace.Bare(abs)
	if err != nil {
		return err
	}
	defer ws.Close()
	ws.Raw = []byte(configText(filepath.Base(abs), drawings, fontDirs))
	if ws.Config, err = workspace.ParseConfig(ws.Raw, config); err != nil {
		return err
	}
	change := &workspace.Change{}
	change.Put(ws, workspace.Settings, workspace.ConfigName, ws.Raw)
	attributes := false
	if ws.InGit() {
		attributes = putAttributes(ws, change)
	}
	var added []string
	if harvest {
		added, err = a.acceptAll(ws, change)
	} else {
		err = ws.Apply(change)
	}
	if err != nil {
		return err
	}
	result := map[string]any{"config": config, "drawings": count}
	said := []string{config + "  " + plural(count, "drawing", "drawings") + " found"}
	if harvest {
		result["tokens"] = added
		said = append(said, plural(len(added), "token", "tokens")+" accepted")
	}
	if attributes {
		result["attributes"] = filepath.Join(dir, workspace.AttributesName)
		said = append(said, filepath.Join(dir, workspace.AttributesName)+"  token files merge token by token")
	}
	if ws.InGit() {
		a.registerMerge(ws)
	}
	if a.json {
		return a.printJSON(result)
	}
	for _, s := range said {
		a.say("%s\n", s)
	}
	a.say("Next: %s\n", a.term.accent("archetyp sync"))
	return nil
}

// initSite begins a workspace around a live site, and brings it in step.
func (a *app) initSite(dir string, s workspace.Site, harvest bool) error {
	abs, err := filepath.Abs(dir)
	if err != nil {
		return err
	}
	if info, err := os.Stat(abs); err != nil || !info.IsDir() {
		return fmt.Errorf("%s: there is no such folder", dir)
	}
	config := filepath.Join(dir, workspace.ConfigName)
	if _, err := os.Lstat(filepath.Join(abs, workspace.ConfigName)); err == nil {
		return hint.New(config+" is there already: this is a workspace", "Name the site under sites: in it; \"archetyp capture\" reads it.")
	}
	over := a.busy("reading " + s.URL)
	got, err := job.BeginSite(a.ctx, abs, s, harvest, job.CaptureOptions{Browser: s.Browser})
	over()
	if err != nil {
		return err
	}
	a.writes(true)
	ws, _, err := a.open(abs)
	if err != nil {
		return err
	}
	rep, err := job.Run(a.ctx, ws, job.Options{Progress: a.progress()})
	if err != nil {
		return err
	}
	if a.json {
		return a.printJSON(map[string]any{"config": config, "pages": got.Captured.Pages, "tokens": got.Tokens, "plain": got.Plain})
	}
	a.say("%s  %s of %s\n", config, plural(got.Captured.Pages, "page", "pages"), s.URL)
	if harvest {
		a.say("%s under their own names, %d kept as CSS text\n", plural(got.Tokens, "token", "tokens"), got.Plain)
	}
	if !a.quiet {
		a.printSummary(ws, rep)
	}
	return nil
}

// initGit tells git how the files of an existing workspace merge.
func (a *app) initGit(abs, dir string) error {
	a.writes(true)
	ws, _, err := a.open(abs)
	if err != nil {
		return err
	}
	if !ws.InGit() {
		return hint.New(dir+" is in no repository of git", "\"git init\" begins one.")
	}
	change := &workspace.Change{}
	changed := putAttributes(ws, change)
	if err := ws.Apply(change); err != nil {
		return err
	}
	a.registerMerge(ws)
	attributes := filepath.Join(dir, workspace.AttributesName)
	if a.json {
		sources, err := ws.Sources()
		if err != nil {
			return err
		}
		return a.printJSON(map[string]any{"config": filepath.Join(dir, workspace.ConfigName), "drawings": len(sources),
			"attributes": attributes})
	}
	if !changed {
		a.print("%s %s has it already\n", a.term.good("✓"), attributes)
		return nil
	}
	a.say("%s  token files merge token by token\n", attributes)
	return nil
}

// putAttributes adds to .gitattributes what it lacks. It says whether that is anything.
func putAttributes(ws *workspace.Workspace, c *workspace.Change) bool {
	lines := ws.Attributes()
	if len(lines) == 0 {
		return false
	}
	old, _ := ws.ReadFile(workspace.AttributesName) // absent is empty; what cannot be read cannot be written either
	text := string(old)
	if text != "" && !strings.HasSuffix(text, "\n") {
		text += "\n"
	}
	return c.Put(ws, workspace.Settings, workspace.AttributesName, []byte(text+strings.Join(lines, "\n")+"\n"))
}

func (a *app) registerMerge(ws *workspace.Workspace) {
	if err := ws.RegisterMerge(); err != nil {
		a.say("%s %v\n", newTerm(a.err, a.color).warn("warning"), err)
	}
}

// acceptAll makes every proposed token, with other changes, and says which they are.
func (a *app) acceptAll(ws *workspace.Workspace, with *workspace.Change) ([]string, error) {
	reading, err := job.Read(a.ctx, ws)
	if err != nil {
		return nil, err
	}
	written, err := job.Accept(ws, reading, func(string) bool { return true }, with)
	out := []string{}
	for _, w := range written {
		out = append(out, w.Token)
	}
	return out, err
}

// survey finds the folders that hold drawings and fonts, not looking into what is hidden or generated.
func survey(root string) (drawings, fontDirs []string, count int) {
	draw, font := map[string]bool{}, map[string]bool{} // patterns, folders
	_ = filepath.WalkDir(root, func(p string, d fs.DirEntry, err error) error {
		if err != nil {
			return nil // a folder that cannot be read holds nothing for us
		}
		rel, _ := filepath.Rel(root, p)
		if d.IsDir() {
			name := d.Name()
			deep := strings.Count(filepath.ToSlash(rel), "/") > 5
			if rel != "." && (strings.HasPrefix(name, ".") || deep || name == "node_modules" || name == "dist" ||
				name == "guide") {
				return filepath.SkipDir
			}
			return nil
		}
		dir := filepath.ToSlash(filepath.Dir(rel))
		switch strings.ToLower(filepath.Ext(p)) {
		case ".svg", ".ora":
			draw[strings.TrimPrefix(dir+"/*"+strings.ToLower(filepath.Ext(p)), "./")] = true
			count++
		case ".ttf", ".otf":
			font[dir] = true
		}
		return nil
	})
	for d := range draw {
		drawings = append(drawings, d)
	}
	for d := range font {
		fontDirs = append(fontDirs, d+"/")
	}
	sort.Strings(drawings)
	sort.Strings(fontDirs)
	return drawings, fontDirs, count
}

func configText(name string, drawings, fontDirs []string) string {
	var b strings.Builder
	list := func(items []string) {
		for _, i := range items {
			fmt.Fprintf(&b, "  - %q\n", i)
		}
	}
	fmt.Fprintf(&b, "name: %q\nroot: 16px                      # 1rem\nsources:\n", name)
	list(drawings)
	if len(fontDirs) > 0 {
		b.WriteString("fonts:\n")
		list(fontDirs)
	}
	b.WriteString(`scales:
  space: 4px
tokens:
  files: [tokens/*.tokens.json]
outputs:
  - {as: css, to: dist/tokens.css, unit: px}
text: {source: en, keys: "{screen}.{component}.{words}"}
assets: {to: dist/assets}
guide: {to: guide}
`)
	return b.String()
}
