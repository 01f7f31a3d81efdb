package cli

import (
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"sort"
	"strings"

	"archetyp/sync"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) initCmd() *cobra.Command {
	harvest := false
	c := &cobra.Command{
		Use:   "init [DIR]",
		Short: "Begin a workspace around existing drawings; overwrites nothing",
		Long: long(`Begin a workspace around the SVG drawings in a folder: write an archetyp.yaml that lists them and the fonts beside them.
With --harvest the values found in the drawings become tokens, once.`),
		Example: example("archetyp init", "archetyp init designs --harvest"),
		Args:    between(0, 1, "a DIR at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			dir := a.dir
			if len(args) == 1 {
				dir = filepath.Join(a.dir, args[0])
				if filepath.IsAbs(args[0]) {
					dir = args[0]
				}
			}
			return a.init(dir, harvest)
		},
	}
	c.Flags().BoolVar(&harvest, "harvest", false, "accept every proposed token")
	return c
}

func (a *app) init(dir string, harvest bool) error {
	abs, err := filepath.Abs(dir)
	if err != nil {
		return err
	}
	if info, err := os.Stat(abs); err != nil || !info.IsDir() {
		return fmt.Errorf("%s: there is no such folder", dir)
	}
	path := filepath.Join(abs, workspace.ConfigName)
	if _, err := os.Stat(path); err == nil {
		return hint(filepath.Join(dir, workspace.ConfigName)+" is there already: this is a workspace", "\"archetyp sync\" brings it in step; \"archetyp tokens harvest --write\" adds tokens.")
	}
	drawings, fontDirs, count := survey(abs)
	if len(drawings) == 0 {
		return hint(dir+": no SVG drawings in this folder or below it", "Put them there first, or go where they are.")
	}
	cfg := configText(filepath.Base(abs), drawings, fontDirs)
	if err := workspace.WriteFile(path, []byte(cfg)); err != nil {
		return err
	}
	result := map[string]any{"config": filepath.Join(dir, workspace.ConfigName), "drawings": count}
	if !a.json {
		a.say("%s  %s found\n", filepath.Join(dir, workspace.ConfigName), plural(count, "drawing", "drawings"))
	}
	if harvest {
		ws, _, err := workspace.Find(abs)
		if err == nil {
			var added []string
			if added, err = a.writeTokens(ws, func(string) bool { return true }); err == nil {
				result["tokens"] = added
				if !a.json {
					a.say("%s accepted\n", plural(len(added), "token", "tokens"))
				}
			}
		}
		if err != nil {
			os.Remove(path) // all or nothing
			return err
		}
	}
	if err := a.gitAttributes(abs, dir, result); err != nil {
		return err
	}
	if a.json {
		return a.printJSON(result)
	}
	a.say("Next: %s\n", a.term.accent("archetyp sync"))
	return nil
}

// gitAttributes says in .gitattributes how files merge, where there is git, and tells this clone's git.
func (a *app) gitAttributes(abs, dir string, result map[string]any) error {
	ws, ok, err := workspace.Find(abs)
	if err != nil || !ok || !ws.InGit() {
		return err
	}
	lines := ws.Attributes()
	path := filepath.Join(abs, workspace.AttributesName)
	old, err := os.ReadFile(path)
	if err != nil && !os.IsNotExist(err) {
		return err
	}
	text := string(old)
	if text != "" && !strings.HasSuffix(text, "\n") {
		text += "\n"
	}
	if len(lines) > 0 {
		if err := workspace.WriteFile(path, []byte(text+strings.Join(lines, "\n")+"\n")); err != nil {
			return err
		}
		result["attributes"] = filepath.Join(dir, workspace.AttributesName)
		if !a.json {
			a.say("%s  token files merge token by token\n", filepath.Join(dir, workspace.AttributesName))
		}
	}
	if err := ws.RegisterMerge(); err != nil {
		a.say("%s %v\n", newTerm(a.err, a.color).warn("warning"), err)
	}
	return nil
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
			if rel != "." && (strings.HasPrefix(name, ".") || deep || name == "node_modules" || name == "dist" || name == "guide") {
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

// writeTokens adds the accepted proposals to the workspace's token file and says which they are.
func (a *app) writeTokens(ws *workspace.Workspace, accept func(string) bool) ([]string, error) {
	reading, err := sync.Read(ws)
	if err != nil {
		return nil, err
	}
	written, err := sync.Accept(ws, reading, accept)
	out := []string{}
	for _, w := range written {
		out = append(out, w.Token)
	}
	return out, err
}
