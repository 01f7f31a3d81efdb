package cli

import (
	"bytes"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"sort"
	"strings"

	"archetyp/core/hint"
	"archetyp/demo"
	"archetyp/job"
	"archetyp/serve"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) demoCmd() *cobra.Command {
	serve, address := false, ""
	c := &cobra.Command{
		Use:   "demo [DIR]",
		Short: "Write a demo workspace, run the whole job on it, and say what to look at",
		Long: long(`Write the demo workspace (the drawings of a made-up ferry line) into a folder, tern-and-tide by
default, run sync on it, and say what was read, what was written, and what to try next. A folder that holds
anything but a demo is refused.`),
		Example: example("archetyp demo", "archetyp demo somewhere/else", "archetyp demo --serve"),
		Args:    between(0, 1, "a DIR at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			dir := "tern-and-tide"
			if len(args) == 1 {
				dir = args[0]
			}
			if serve {
				return a.serveDemo(dir, address)
			}
			return a.demo(dir)
		},
	}
	c.Flags().BoolVar(&serve, "serve", false, "serve the demo's site on this machine until interrupted; the folder is not touched")
	c.Flags().StringVar(&address, "address", "127.0.0.1:8085", "with --serve: the `HOST:PORT` to listen on; only this machine's own")
	return c
}

// serveDemo serves the demo's site: from the folder where it is there, else as the program brings it along.
func (a *app) serveDemo(shown, address string) error {
	dir := shown
	if !filepath.IsAbs(dir) {
		dir = filepath.Join(a.dir, dir)
	}
	var files fs.FS
	if _, err := os.Stat(filepath.Join(dir, "site", "index.html")); err == nil {
		files = os.DirFS(dir)
	} else if files, err = demo.FS(); err != nil {
		return err
	}
	ctx, stop := a.untilInterrupted()
	defer stop()
	return serve.Folder(ctx, files, address, func(at string) {
		a.say("The site of the demo is at %s until you press Ctrl+C.\n", at)
		a.say("In another terminal: archetyp outline %s\n", at)
	})
}

func (a *app) demo(shown string) error {
	dir := shown
	if !filepath.IsAbs(dir) {
		dir = filepath.Join(a.dir, dir)
	}
	files, err := demo.Files()
	if err != nil {
		return err
	}
	if err := onlyDemo(dir, shown, files); err != nil {
		return err
	}
	abs, err := filepath.Abs(dir)
	if err != nil {
		return err
	}
	if err := os.MkdirAll(abs, 0o755); err != nil {
		return fmt.Errorf("%s: the folder cannot be made: %w", shown, err)
	}
	if err := a.writeDemo(abs, files); err != nil {
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
		return a.printJSON(reportJSON(rep))
	}
	if a.quiet {
		return nil
	}
	a.printDemo(shown, ws, rep)
	return nil
}

func (a *app) writeDemo(dir string, files map[string][]byte) error {
	bare, err := workspace.Bare(dir)
	if err != nil {
		return err
	}
	defer bare.Close()
	lock, err := bare.ReadLock()
	if err != nil {
		return err
	}
	change := &workspace.Change{}
	for p, data := range files {
		if lock.Outputs[p] == "" { // what sync made of a file that comes with the demo stays
			change.Put(bare, workspace.Settings, p, data)
		}
	}
	return bare.Apply(change)
}

func (a *app) printDemo(dir string, ws *workspace.Workspace, rep *job.Report) {
	t := a.term
	a.print("%s  %s\n", t.bold(ws.Config.Name), t.dim("a demo workspace in "+dir+"/"))
	if len(rep.Written) == 0 {
		a.print("%s it was there already; nothing had changed\n", t.good("✓"))
		a.printLook(rep)
	} else {
		a.printSummary(ws, rep)
	}
	a.print("\n%s\n", t.bold("Try next"))
	next := [][]string{
		{"  open " + filepath.ToSlash(filepath.Join(dir, ws.Config.Guide.To, "index.html")), t.dim("the style guide")},
		{"  " + t.accent("archetyp -C "+dir+" spec booking '#pay'"), t.dim("all facts of one element")},
		{"  " + t.accent("archetyp -C "+dir+" code components '[data-component=button]'"), t.dim("its CSS, with tokens")},
		{"  " + t.accent("archetyp -C "+dir+" tokens harvest"), t.dim("which values are tokens, and which could be")},
		{"  " + t.accent("archetyp -C "+dir+" text review"), t.dim("which translations do not fit")},
		{"  " + t.accent("archetyp -C "+dir+" tokens check"),
			t.dim("whether tokens are valid, used, and readable in light and dark")},
		{"  " + t.accent("archetyp -C "+dir+" spec site/index.html h1 --why color"), t.dim("which rule of the site wins, and why")},
		{"  " + t.accent("archetyp demo --serve"), t.dim("serves the site, so that capture ferry-site can read it")},
	}
	a.print("%s", t.table(nil, next))
}

// onlyDemo refuses a folder that holds anything but the demo and what was made from it.
func onlyDemo(dir, shown string, files map[string][]byte) error {
	info, err := os.Stat(dir)
	if os.IsNotExist(err) {
		return nil
	}
	if err != nil || !info.IsDir() {
		return hint.New(shown+" is no folder", "Name one that is empty or does not exist yet.")
	}
	made := map[string]bool{workspace.LockName: true}
	if bare, err := workspace.Bare(dir); err == nil {
		if lock, err := bare.ReadLock(); err == nil {
			for p := range lock.Outputs {
				made[p] = true
			}
		}
		bare.Close()
	}
	var strange []string
	err = filepath.WalkDir(dir, func(p string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		rel, _ := filepath.Rel(dir, p)
		rel = filepath.ToSlash(rel)
		if d.IsDir() {
			if rel == ".archetyp" {
				return filepath.SkipDir
			}
			return nil
		}
		if made[rel] {
			return nil
		}
		want, ours := files[rel]
		data, err := workspace.ReadFile(p, rel)
		if !ours || err != nil || !bytes.Equal(data, want) {
			strange = append(strange, rel)
		}
		return nil
	})
	if err != nil {
		return fmt.Errorf("%s: %w", shown, err)
	}
	if len(strange) > 0 {
		sort.Strings(strange)
		return hint.New(fmt.Sprintf("%s holds more than a demo (%s); nothing was written", shown,
			strings.Join(strange[:min(3, len(strange))], ", ")),
			"Name a folder that is empty or does not exist yet.")
	}
	return nil
}
