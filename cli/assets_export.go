package cli

import (
	"fmt"
	"strings"

	"archetyp/core/ask"
	"archetyp/core/asset"
	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/hint"
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
		Long: long(`Export the elements marked as assets, in the sets of the configuration; files that would not
change are not touched, and those of assets that are gone are removed, unless somebody edited them. With a
SOURCE, the elements of a SELECTOR (or those marked in it) are exported once, to -o. Of a page or a site: the
pictures, icons and fonts it uses, each as it came, inline drawings as files of their own; --at and --format
draw what is a drawing, and a bitmap stays as it is.`),
		Example: example("archetyp assets export",
			"archetyp assets export components '#tern' -o images/tern.webp --at 1,2 --pad 8",
			"archetyp assets export booking '#from, #to' --join -o route.png --background white",
			"archetyp assets export site/index.html svg -o ferry/ --at 1,2 --format webp"),
		RunE: func(_ *cobra.Command, args []string) error {
			if len(args) == 0 && f.set == "" && f.out == "" {
				if f.join || f.strip || f.at != "" || f.format != "" || f.trim || f.square || f.pad != 0 || f.background != "" ||
					!f.effects || f.quality != 0 {
					return hint.New("flags that describe a picture need a SOURCE",
						"The sets under assets: in "+workspace.ConfigName+" say what marked elements become.")
				}
				return a.exportWorkspace(f)
			}
			return a.exportOnce(f, args)
		},
	}
	a.view.add(c)
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
	defer a.remark("note", rep.Summary.Warnings)
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
	cuts, pictures, ws, err := a.cuts(args, f)
	if err != nil {
		return err
	}
	sets, err := assetSets(ws)
	if err != nil {
		return err
	}
	form := f.form()
	form.Elements = max(len(cuts), len(pictures))
	set, folder, err := form.Target(sets)
	if err != nil {
		return err
	}
	if ws != nil {
		look.Density = ws.Config.Assets.Density
	}
	x := &job.Export{Set: set, Folder: folder, Look: look, Strip: f.strip, Progress: a.progress()}
	if len(args) > 0 {
		x.Of = args[0]
	}
	over := func() {}
	if len(cuts) < fewJobs { // a bar would say nothing
		over = a.busy("painting " + plural(len(cuts), "picture", "pictures"))
	}
	var list []job.Exported
	var notes []string
	if pictures != nil {
		list, notes, err = x.PageFiles(pictures, f.at != "" || f.format != "" || f.set != "")
	} else {
		list, notes, err = x.Files(cuts)
	}
	over()
	if err != nil {
		return err
	}
	if !f.dry {
		files := map[string][]byte{}
		for _, l := range list {
			files[l.File] = l.Data
		}
		if err := a.writeAll(files, args); err != nil {
			return err
		}
	}
	if a.json {
		return a.printJSON(map[string]any{"files": list, "notes": full(notes), "written": !f.dry})
	}
	a.remark("note", notes)
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

// form is what the flags ask for.
func (f *exportFlags) form() *job.ExportForm {
	list := func(s string) []string {
		if s == "" {
			return nil
		}
		return strings.Split(s, ",")
	}
	return &job.ExportForm{Set: f.set, At: list(f.at), Formats: list(f.format), Quality: f.quality, Current: f.current,
		Out: f.out}
}

// printExported lists files; many are summed up by folder.
func (a *app) printExported(list []job.Exported) {
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

// cuts finds what is to be exported: elements, or pictures that a page uses.
func (a *app) cuts(args []string, f *exportFlags) ([]job.Cut, []design.PagePicture, *workspace.Workspace, error) {
	if len(args) == 0 {
		r, ws, err := a.reading(nil)
		if err != nil {
			return nil, nil, nil, err
		}
		docs, err := r.Docs()
		if err != nil {
			return nil, nil, nil, err
		}
		cuts, err := markedCuts(docs, ws)
		return cuts, nil, ws, err
	}
	doc, ws, err := a.source(args[0])
	if err != nil {
		return nil, nil, nil, err
	}
	if len(args) == 1 && doc.Styles != nil {
		return nil, full(job.PagePictures(doc, nil)), ws, nil
	}
	if len(args) == 1 {
		cuts, err := markedCuts(one(doc), ws)
		if err == nil && len(cuts) == 0 {
			err = hint.New(args[0]+": no element is marked as an asset", "Name a SELECTOR, such as :root for the whole drawing.")
		}
		return cuts, nil, ws, err
	}
	var found []*design.Element
	for _, s := range args[1:] {
		list, err := a.chosen(doc, s)
		if err != nil {
			return nil, nil, nil, err
		}
		found = append(found, list...)
	}
	if doc.Styles != nil && !f.join {
		if pictures := job.PagePictures(doc, found); len(pictures) > 0 {
			return nil, pictures, ws, nil
		}
		if err := needsBoxes(doc); err != nil {
			return nil, nil, nil, err
		}
	}
	if f.join {
		cuts, err := job.JoinedCut(found, base(args[0]))
		return cuts, nil, ws, err
	}
	cuts, err := job.CutsOf(doc, found, base(args[0]))
	return cuts, nil, ws, err
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

func markedCuts(docs []*design.Document, ws *workspace.Workspace) ([]job.Cut, error) {
	sets, err := assetSets(ws)
	if err != nil {
		return nil, err
	}
	return job.MarkedCuts(docs, sets)
}

// writeAll writes files, by path from where the command was given; none over the drawing they come from.
func (a *app) writeAll(files map[string][]byte, args []string) error {
	for p := range files {
		if len(args) > 0 && a.sameFile(p, args[0]) {
			return hint.New(p+": that is the drawing itself; nothing was written", "Choose another place with -o.")
		}
	}
	return a.save(files)
}
