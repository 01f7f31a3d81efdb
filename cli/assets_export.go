package cli

import (
	"fmt"
	"path"
	"path/filepath"
	"strconv"
	"strings"

	"archetyp/core/ask"
	"archetyp/core/asset"
	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

// exportFlags say what becomes of the elements that are exported.
type exportFlags struct {
	set, at, format, out, background string
	join, effects, dry, trim, square bool
	current, overwrite, strip        bool
	pad                              float64
	quality                          int
}

func (a *app) assetsExportCmd() *cobra.Command {
	f := &exportFlags{}
	c := &cobra.Command{
		Use:   "export [SOURCE] [SELECTOR…]",
		Short: "Export marked or chosen elements in every format and density",
		Long: long(`Export the elements marked as assets, in the sets of the configuration; files that would not change are not
touched, and those of assets that are gone are removed, unless somebody edited them. With a SOURCE, the
elements of a SELECTOR (or those marked in it) are exported once, to -o.`),
		Example: example("archetyp assets export",
			"archetyp assets export components '#tern' -o images/tern.webp --at 1,2 --pad 8",
			"archetyp assets export booking '#from, #to' --join -o route.png --background white"),
		RunE: func(_ *cobra.Command, args []string) error {
			if len(args) == 0 && f.set == "" && f.out == "" {
				if f.join || f.strip || f.at != "" || f.format != "" || f.trim || f.square || f.pad != 0 || f.background != "" ||
					!f.effects || f.quality != 0 {
					return hint("flags that describe a picture need a SOURCE",
						"The sets under assets: in "+workspace.ConfigName+" say what marked elements become.")
				}
				return a.exportWorkspace(f)
			}
			return a.exportOnce(f, args)
		},
	}
	fl := c.Flags()
	fl.StringVarP(&f.out, "output", "o", "",
		"the `PLACE` to write to: a folder, or a file, whose name says the format too")
	fl.StringVar(&f.set, "set", "", "the `NAME` of a set: its formats, densities and names")
	fl.StringVar(&f.at, "at", "", "the `DENSITIES`, such as 1,1.5,2")
	fl.StringVar(&f.format, "format", "", "the `FORMATS`: svg, png, webp, jpeg, pdf, vector (default: png)")
	fl.BoolVar(&f.join, "join", false, "one picture of all elements, each where it stands")
	fl.BoolVar(&f.trim, "trim", false, "cut to the pixels that are painted")
	fl.Float64Var(&f.pad, "pad", 0, "add so many `PX` of air on each side")
	fl.BoolVar(&f.square, "square", false, "as high as wide, with the drawing in the middle")
	fl.BoolVar(&f.strip, "strip", false,
		"of what repeats one column or row of pixels, only that one, and the CSS that repeats it")
	fl.StringVar(&f.background, "background", "", "a CSS `COLOUR` to paint on (default: transparent)")
	fl.BoolVar(&f.effects, "with-effects", true,
		"with shadows and blurs, the picture grown so that none is cut off; =false leaves them out")
	fl.BoolVar(&f.current, "current-color", false, "the one colour of a drawing becomes currentColor in SVG")
	fl.IntVar(&f.quality, "quality", 0, "of JPEG, 1 to 100 (default: 85)")
	fl.BoolVar(&f.dry, "dry-run", false, "write nothing; list what would be written")
	fl.BoolVar(&f.overwrite, "overwrite", false, "write over exported files that were edited by hand")
	return c
}

func (a *app) exportWorkspace(f *exportFlags) error {
	a.writes(!f.dry)
	ws, err := a.workspaceHere()
	if err != nil {
		return err
	}
	rep, err := job.Run(a.ctx, ws, job.Options{Only: "assets", DryRun: f.dry, Overwrite: f.overwrite,
		Progress: a.progress()})
	if err != nil {
		return err
	}
	if err := a.printReport(rep, f.dry); err != nil {
		return err
	}
	return unread(rep.Unread)
}

func (a *app) printReport(rep *job.Report, dry bool) error {
	if a.json {
		return a.printJSON(reportJSON(rep))
	}
	defer a.tell("note", rep.Summary.Warnings)
	if a.quiet {
		return nil
	}
	if len(rep.Written)+len(rep.Removed) == 0 {
		a.print("%s %s, %s: nothing had changed; nothing was written\n", a.term.good("✓"), plural(rep.Summary.Assets, "asset",
			"assets"), plural(rep.Summary.AssetFiles, "file", "files"))
		return nil
	}
	written, removed := "written", "removed"
	if dry {
		written, removed = "would be written", "would be removed"
	}
	a.printFiles(a.term.good(written), rep.Written)
	a.printFiles(a.term.warn(removed), rep.Removed)
	a.print("%s, %s in all\n", plural(rep.Summary.Assets, "asset", "assets"), plural(rep.Summary.AssetFiles, "file",
		"files"))
	return nil
}

// exportOnce exports elements of one source, or all marked ones of the workspace, to a place of their own.
func (a *app) exportOnce(f *exportFlags, args []string) error {
	look, err := f.look()
	if err != nil {
		return err
	}
	cuts, ws, err := a.cuts(args, f)
	if err != nil {
		return err
	}
	set, folder, err := f.target(ws, len(cuts))
	if err != nil {
		return err
	}
	if ws != nil {
		look.Density = ws.Config.Assets.Density
	}
	var names []string
	for _, c := range cuts {
		names = append(names, c.name)
	}
	fitted, changed := set.Fit(names)
	files := map[string][]byte{}
	var list []exportedJSON
	notes := changed
	made, repeats := make([]*asset.Made, len(cuts)), make([]func(string) string, len(cuts))
	over := func() {}
	if len(cuts) < fewJobs { // a bar would say nothing
		over = a.busy("painting " + plural(len(cuts), "picture", "pictures"))
	}
	err = job.Progress(a.progress(), "exporting", len(cuts), func(i int) (err error) {
		cut := cuts[i].cut(look)
		if f.strip {
			var ok bool
			if repeats[i], ok, err = cut.Strip(); err != nil {
				return err
			} else if !ok {
				return hint(fmt.Sprintf("%s%s is no strip: neither its columns nor its rows are all alike", named(args),
					cuts[i].name), "\"archetyp assets advise\" lists what is.")
			}
		}
		if made[i], err = asset.MakeCut(&cut, set, fitted[cuts[i].name]); err != nil {
			err = fmt.Errorf("%s%s: %w", named(args), cuts[i].name, err)
		}
		return err
	})
	over()
	if err != nil {
		return err
	}
	for i, c := range cuts {
		notes = append(notes, made[i].Notes...)
		for _, file := range made[i].Files {
			p := path.Join(folder, file.Path)
			files[p] = file.Data
			done := exportedJSON{p, c.name, file.Format, file.Width, file.Height, file.Density, len(file.Data), ""}
			if f.strip {
				done.CSS = repeats[i](path.Base(p))
			}
			list = append(list, done)
		}
	}
	if len(list) == 0 {
		return hint(named(args)+"no file can be made of it: "+strings.Join(notes, "; "), "Choose another --format.")
	}
	if !f.dry {
		if err := a.writeAll(files, args); err != nil {
			return err
		}
	}
	if a.json {
		return a.printJSON(map[string]any{"files": list, "notes": full(notes), "written": !f.dry})
	}
	a.tell("note", notes)
	if a.quiet {
		return nil
	}
	a.printExported(list)
	for _, l := range list {
		if l.CSS != "" {
			a.print("%s\n", l.CSS)
		}
	}
	if f.dry {
		a.print("nothing was written\n")
	}
	return nil
}

// printExported lists files; many are summed up by folder.
func (a *app) printExported(list []exportedJSON) {
	if len(list) > most && !a.verbose {
		var files []string
		bytes := 0
		for _, l := range list {
			files, bytes = append(files, l.File), bytes+l.Bytes
		}
		a.printFiles(a.term.good("exported"), files)
		a.print("%s; %s\n", plural(len(list), "file", "files"), size(bytes))
		return
	}
	var rows [][]string
	for _, l := range list {
		density, pixels := "", ""
		if l.Density > 0 {
			density = num(l.Density) + "x"
		}
		if l.Width > 0 {
			pixels = fmt.Sprintf("%d × %d", l.Width, l.Height)
		}
		rows = append(rows, []string{l.File, density, pixels, size(l.Bytes)})
	}
	a.print("%s", a.term.table(nil, rows, 1, 2, 3))
}

type exportedJSON struct {
	File    string  `json:"file"`
	Asset   string  `json:"asset"`
	Format  string  `json:"format"`
	Width   int     `json:"width"`
	Height  int     `json:"height"`
	Density float64 `json:"density,omitempty"`
	Bytes   int     `json:"bytes"`
	CSS     string  `json:"css,omitempty"` // that repeats a strip
}

func (f *exportFlags) look() (asset.Look, error) {
	l := asset.Look{NoEffects: !f.effects, Trim: f.trim, Pad: f.pad, Square: f.square}
	if f.pad < 0 || f.pad > 4096 {
		return l, fmt.Errorf("--pad %g: 0 to 4096 px are wanted", f.pad)
	}
	if f.background != "" {
		c, err := color.Parse(f.background)
		if err != nil {
			return l, fmt.Errorf("--background: %w", err)
		}
		l.Background = &c
	}
	return l, nil
}

// target is the set that the flags describe, and the folder its files go to.
func (f *exportFlags) target(ws *workspace.Workspace, elements int) (*asset.Set, string, error) {
	set := asset.Set{Name: "export", At: []float64{1}, Formats: []string{"png"}, Files: "{name}{x}.{format}", Quality: 85}
	if f.set != "" {
		sets, err := assetSets(ws)
		if err != nil {
			return nil, "", err
		}
		found := false
		var names []string
		for _, s := range sets {
			names = append(names, s.Name)
			if s.Name == f.set {
				set, found = s, true
			}
		}
		if !found {
			return nil, "", hint(fmt.Sprintf("--set %s: there is no such set", f.set), "There are "+strings.Join(names,
				", ")+".")
		}
		set.To = ""
	}
	if f.at != "" {
		set.At = nil
		for _, w := range strings.Split(f.at, ",") {
			d, err := strconv.ParseFloat(strings.TrimSuffix(strings.TrimSpace(w), "x"), 64)
			if err != nil {
				return nil, "", hint(fmt.Sprintf("--at %s: %q is no density", f.at, w), "For example: --at 1,1.5,2")
			}
			set.At = append(set.At, d)
		}
	}
	if f.format != "" {
		set.Formats = nil
		for _, w := range strings.Split(f.format, ",") {
			name := strings.ToLower(strings.TrimSpace(w))
			if n, ok := asset.FormatOf(name); ok && n != "vector" {
				name = n
			}
			set.Formats = append(set.Formats, name)
		}
	}
	if f.quality != 0 {
		set.Quality = f.quality
	}
	set.Current = set.Current || f.current
	folder := f.out
	if ext := path.Ext(f.out); ext != "" && !strings.HasSuffix(f.out, "/") {
		format, ok := asset.FormatOf(ext)
		if !ok {
			return nil, "", hint(fmt.Sprintf("-o %s: %s is no format that is written", f.out, ext),
				"There are "+strings.Join(asset.FormatNames(), ", ")+"; a folder's name ends in /.")
		}
		if elements > 1 {
			return nil, "", hint(fmt.Sprintf("-o %s: %d elements cannot go into one file", f.out, elements),
				"--join makes one picture of them; -o FOLDER/ gives each its own.")
		}
		if format == "ico" {
			return nil, "", hint("-o "+f.out+": an icon file is made by the set favicon",
				"For example: archetyp assets export SOURCE SELECTOR --set favicon -o "+path.Dir(f.out)+"/")
		}
		folder = path.Dir(filepath.ToSlash(f.out))
		set.Formats = []string{format}
		set.Files = strings.TrimSuffix(path.Base(filepath.ToSlash(f.out)), ext) + "{x}" + ext
		if set.Kind != "favicon" {
			set.Kind = ""
		}
		if strings.ContainsAny(strings.TrimSuffix(set.Files, "{x}"+ext), "{}") {
			return nil, "", fmt.Errorf("-o %s: a file's name has no braces", f.out)
		}
		check := set
		check.Files = "{name}{x}" + ext
		return &set, folder, check.Check()
	}
	return &set, folder, set.Check()
}

// namedCut is an element, or several as one, and what the picture is called.
type namedCut struct {
	name string
	cut  func(asset.Look) asset.Cut
}

// cuts finds what is to be exported.
func (a *app) cuts(args []string, f *exportFlags) ([]namedCut, *workspace.Workspace, error) {
	if len(args) == 0 {
		r, ws, err := a.reading(nil)
		if err != nil {
			return nil, nil, err
		}
		docs, err := r.Docs()
		if err != nil {
			return nil, nil, err
		}
		cuts, err := markedCuts(docs, ws)
		return cuts, ws, err
	}
	doc, ws, err := a.source(args[0])
	if err != nil {
		return nil, nil, err
	}
	if len(args) == 1 {
		cuts, err := markedCuts(one(doc), ws)
		if err == nil && len(cuts) == 0 {
			err = hint(args[0]+": no element is marked as an asset", "Name a SELECTOR, such as :root for the whole drawing.")
		}
		return cuts, ws, err
	}
	var found []*design.Element
	for _, s := range args[1:] {
		list, err := a.chosen(doc, s)
		if err != nil {
			return nil, nil, err
		}
		found = append(found, list...)
	}
	base := strings.TrimSuffix(filepath.Base(args[0]), filepath.Ext(args[0]))
	if f.join {
		for _, e := range found {
			if e.Screen != found[0].Screen {
				return nil, nil, hint("--join: the elements stand on different screens",
					"One picture is made of elements of one screen.")
			}
		}
		return []namedCut{{base, func(l asset.Look) asset.Cut { return asset.Join(found, l) }}}, ws, nil
	}
	var out []namedCut
	seen := map[*design.Element]bool{}
	taken := map[string]int{}
	for _, e := range found {
		if seen[e] {
			continue
		}
		seen[e] = true
		as := &asset.Asset{Name: nameOf(e, base), Element: e, Source: doc.Name, Box: asset.Frame(e)}
		if taken[as.Name]++; taken[as.Name] > 1 {
			as.Name += "-" + strconv.Itoa(taken[as.Name])
		}
		if as.Box.W <= 0 || as.Box.H <= 0 {
			return nil, nil, fmt.Errorf("%s:%d:%d: %s paints nothing", doc.Name, e.Position.Line, e.Position.Column, e.Title())
		}
		out = append(out, namedCut{as.Name, as.Out})
	}
	return out, ws, nil
}

// chosen are the elements of a selector, or the whole screens it means.
func (a *app) chosen(doc *design.Document, text string) ([]*design.Element, error) {
	whole, err := ask.Whole(doc, text)
	if err != nil {
		return nil, selectorError(err)
	}
	var out []*design.Element
	for _, s := range whole {
		out = append(out, s.Root)
	}
	if len(out) > 0 {
		return out, nil
	}
	return a.query(doc, text)
}

// nameOf is what the picture of an element is called: as marked, by its name, or by its drawing's.
func nameOf(e *design.Element, base string) string {
	if n := e.Marks.Asset; n != "" && asset.ValidName(n) {
		return n
	}
	if e.Parent == nil {
		return base
	}
	if s := design.Slug(e.Title()); s != "" {
		return s
	}
	return base
}

// named is the SOURCE among the arguments, for a message.
func named(args []string) string {
	if len(args) == 0 {
		return ""
	}
	return args[0] + ": "
}

func markedCuts(docs []*design.Document, ws *workspace.Workspace) ([]namedCut, error) {
	sets, err := assetSets(ws)
	if err != nil {
		return nil, err
	}
	list, faults := asset.Collect(docs, sets)
	if len(list) == 0 && len(faults) > 0 {
		return nil, fmt.Errorf("%s", faults[0])
	}
	var out []namedCut
	for _, as := range list {
		out = append(out, namedCut{as.Name, as.Out})
	}
	return out, nil
}

// writeAll writes files, by path from where the command was given; none over the drawing they come from.
func (a *app) writeAll(files map[string][]byte, args []string) error {
	for p := range files {
		if len(args) > 0 && a.sameFile(p, args[0]) {
			return hint(p+": that is the drawing itself; nothing was written", "Choose another place with -o.")
		}
	}
	return a.save(files)
}
