package cli

import (
	"fmt"
	"path/filepath"
	"slices"
	"strings"

	"archetyp/core/font"
	"archetyp/core/hint"
	"archetyp/core/text"
	"archetyp/core/text/fit"
	"archetyp/fonts"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

// measurer measures with the workspace's fonts, then the machine's.
func (a *app) measurer(ws *workspace.Workspace) (*fit.Measurer, error) {
	set := font.NewSet(&fonts.Machine{})
	if err := ws.AddFonts(set); err != nil {
		return nil, err
	}
	return job.Measurer(ws, set), nil
}

// placeFlags say where placed texts go, and as what.
type placeFlags struct {
	screen, out, as string
	locales         []string
	sheet           bool
	at              float64
}

func (a *app) placeCmd() *cobra.Command {
	var f placeFlags
	c := &cobra.Command{
		Use:   "place [SCREEN]",
		Short: "Put translated words into the drawings: as SVG, as pictures, or side by side",
		Long: long(`Put the words of locales into the drawings, or into one screen's: texts stay texts with their anchors,
paragraphs wrap again, right-to-left flips what begins at the left. -o is a folder (an SVG a drawing and a PNG
a screen for each locale), or a file for one screen and locale. --sheet lays one screen's locales side by
side. Made-up locales show what breaks before there is a translator: en-x-pseudo (longer, accented) and
ar-x-pseudo (from right to left).`),
		Example: example("archetyp text place Booking --locale fi -o booking.fi.svg",
			"archetyp text place Booking --sheet -o locales.png", "archetyp text place --locale en-x-pseudo -o placed"),
		Args: between(0, 1, "a SCREEN at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			ws, c, err := a.texts()
			if err != nil {
				return err
			}
			if len(args) == 1 {
				f.screen = args[0]
			}
			if err := f.check(); err != nil {
				return err
			}
			if f.locales, err = a.someLocales(c, f.locales); err != nil {
				return err
			}
			if _, err := (&textFilter{screen: f.screen}).filter(c, ""); err != nil {
				return err
			}
			return a.place(ws, c, &f)
		},
	}
	c.Flags().StringVarP(&f.out, "output", "o", "", "the folder or `FILE` to write")
	c.Flags().StringVar(&f.as, "as", "", "only svg or png (default: both into a folder)")
	c.Flags().StringSliceVar(&f.locales, "locale", nil, "the `LOCALES` (default: all)")
	c.Flags().BoolVar(&f.sheet, "sheet", false, "one picture of a screen in all locales")
	c.Flags().Float64Var(&f.at, "at", 1, "the `DENSITY`: output pixels for each design pixel")
	return c
}

func (f *placeFlags) check() error {
	switch {
	case f.out == "":
		return hint.New("-o is missing: where to write", "Name a folder, or a file that ends in .svg or .png.")
	case f.as != "" && f.as != "svg" && f.as != "png":
		return hint.New(fmt.Sprintf("--as %q is not known", f.as), "Choose svg or png.")
	case f.at <= 0 || f.at > 8:
		return hint.New(fmt.Sprintf("--at %g is no density", f.at), "Choose one between 0 and 8.")
	case f.sheet:
		return pngName(f.out)
	}
	return nil
}

func (a *app) place(ws *workspace.Workspace, c *text.Catalogue, f *placeFlags) error {
	m, err := a.measurer(ws)
	if err != nil {
		return err
	}
	locales := f.locales
	if f.sheet {
		locales = append([]string{c.Locale}, locales...)
	}
	placed, skipped, err := job.Place(ws, c, job.Drawings(c, f.screen), locales, m)
	if err != nil {
		return err
	}
	for _, p := range placed {
		for _, s := range p.Skipped {
			skipped = append(skipped, p.Locale+" "+p.Source+": "+s)
		}
	}
	for _, s := range skipped {
		a.say("%s %s\n", newTerm(a.err, a.color).warn("skipped"), s)
	}
	if !f.sheet {
		return a.writePlaced(placed, f)
	}
	s, err := job.Sheet(placed, f.screen, f.at, m.Fonts)
	if err != nil {
		return err
	}
	return a.writePicture(pictureJSON{f.out, s.Width, s.Height, f.at, len(s.PNG)}, s.PNG,
		s.Screen+" in "+plural(s.Locales, "language", "languages"))
}

// writePlaced writes placed drawings: one file, or files into a folder.
func (a *app) writePlaced(placed []*job.PlacedSource, f *placeFlags) error {
	ext := strings.ToLower(filepath.Ext(f.out))
	single := ext == ".svg" || ext == ".png" || f.out == "-"
	if single && len(placed) != 1 {
		return hint.New("one file holds one drawing in one locale", "Name a SCREEN and one --locale, or a folder with -o.")
	}
	form := job.PlacedForm{Screen: f.screen, Density: f.at, SVG: f.as != "png" && ext != ".png",
		PNG: f.as == "png" || f.as == "" && ext != ".svg" && f.out != "-"}
	list, err := form.Files(placed)
	if err != nil {
		return err
	}
	var files []map[string]any
	var lines []string
	made := map[string][]byte{}
	for _, p := range list {
		if f.out == "-" {
			if _, err := a.out.Write(p.Data); err != nil { // a picture, or a drawing that something reads
				return err
			}
			continue
		}
		to := f.out
		if !single {
			to = filepath.Join(f.out, filepath.FromSlash(p.Path))
		}
		made[to] = p.Data
		files = append(files, map[string]any{"file": to, "locale": p.Locale, "source": p.Source, "texts": p.Count})
		lines = append(lines, fmt.Sprintf("%s  %s, %s", to, plural(p.Count, "text", "texts"), size(len(p.Data))))
	}
	if err := a.save(made); err != nil || f.out == "-" {
		return err
	}
	if a.json {
		return a.printJSON(map[string]any{"files": files})
	}
	for _, l := range lines {
		a.say("%s\n", l)
	}
	return nil
}

func (a *app) reviewCmd() *cobra.Command {
	var locales []string
	f := &textFilter{}
	out, all := "", false
	c := &cobra.Command{
		Use:   "review",
		Short: "Measure whether the translations fit, with the real fonts",
		Long: long(`Measure every translation in the room its text has (to the inset of its container, else to the
next sibling, else to the screen's edge), with the real font, size and letter spacing. What overflows, needs
more lines or lacks glyphs is listed, the worst first; the status is 1 when something overflows. With -o,
pages show the offenders framed.`),
		Example: example("archetyp text review", "archetyp text review --locale de --screen Booking --all",
			"archetyp text review --locale de -o review"),
		Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			c, err := job.Texts(a.ctx, ws)
			if err != nil {
				return err
			}
			if locales, err = a.someLocales(c, locales); err != nil {
				return err
			}
			if _, err := f.filter(c, ""); err != nil {
				return err
			}
			m, err := a.measurer(ws)
			if err != nil {
				return err
			}
			var found []fit.Judged
			for _, j := range fit.Review(c, locales, m) {
				e := c.Get(j.Key)
				if (f.screen == "" || strings.EqualFold(j.Place.Screen, f.screen)) &&
					(f.tag == "" || slices.Contains(e.Tags, f.tag)) {
					found = append(found, j)
				}
			}
			if out != "" {
				o := job.PageOptions{Entries: offenders(c, found), Locales: locales, Judged: found}
				if err := a.writePages(ws, c, o, out, m); err != nil {
					return err
				}
			}
			return a.printReview(found, locales, all)
		},
	}
	f.flags(c)
	c.Flags().StringSliceVar(&locales, "locale", nil, "only these `LOCALES` (default: all)")
	c.Flags().StringVarP(&out, "output", "o", "", "a folder for pages with the offenders framed")
	c.Flags().BoolVar(&all, "all", false, "list what fits, too")
	return c
}

// reviewPages writes pages with the places framed whose words do not fit.
// offenders are the entries that do not fit somewhere.
func offenders(c *text.Catalogue, found []fit.Judged) (entries []*text.Entry) {
	bad := map[string]bool{}
	for _, j := range found {
		bad[j.Key] = bad[j.Key] || j.Fit != fit.Fits && j.Fit != fit.Tight
	}
	for _, e := range c.Used() {
		if bad[e.Key] {
			entries = append(entries, e)
		}
	}
	return entries
}

// exportPages writes pages for translators.
func (a *app) exportPages(ws *workspace.Workspace, c *text.Catalogue, f *textFilter, locales []string,
	out string) error {
	if out == "" || out == "-" {
		return hint.New("pages go into a folder", "Name one with -o.")
	}
	filter, err := f.filter(c, "")
	if err != nil {
		return err
	}
	if len(locales) == 1 {
		filter.Locale = locales[0]
	}
	m, err := a.measurer(ws)
	if err != nil {
		return err
	}
	return a.writePages(ws, c, job.PageOptions{Entries: c.Pick(filter), Screen: f.screen, Locales: locales, Keys: true},
		out, m)
}

func (a *app) writePages(ws *workspace.Workspace, c *text.Catalogue, o job.PageOptions, out string,
	m *fit.Measurer) error {
	files, skipped, err := job.Pages(ws, c, o, m)
	if err != nil {
		return err
	}
	for _, s := range skipped {
		a.say("%s %s\n", newTerm(a.err, a.color).warn("skipped"), s)
	}
	names := sortedNames(files)
	pages := 0
	into := map[string][]byte{}
	for _, n := range names {
		into[filepath.Join(out, filepath.FromSlash(n))] = files[n]
		if strings.HasSuffix(n, ".html") {
			pages++
		}
	}
	if err := a.save(into); err != nil {
		return err
	}
	if a.json && o.Judged == nil {
		return a.printJSON(map[string]any{"folder": out, "files": full(names)})
	}
	a.say("%s  %s, %s\n", filepath.Join(out, "index.html"), plural(pages-1, "screen", "screens"),
		plural(len(names)-pages-1, "picture", "pictures"))
	return nil
}

func (a *app) printReview(found []fit.Judged, locales []string, all bool) error {
	counts := map[fit.Verdict]int{}
	for _, j := range found {
		counts[j.Fit]++
	}
	bad := counts[fit.Overflows]+counts[fit.Lines] > 0
	if a.json {
		list := found
		if list == nil {
			list = []fit.Judged{}
		}
		byName := map[string]int{}
		for _, v := range fit.Verdicts {
			byName[string(v)] = counts[v]
		}
		if err := a.printJSON(map[string]any{"locales": full(locales), "counts": byName, "texts": list}); err != nil {
			return err
		}
	} else if !a.quiet {
		a.listReview(found, counts, all)
	}
	if bad {
		return foundError{}
	}
	return nil
}

func (a *app) listReview(found []fit.Judged, counts map[fit.Verdict]int, all bool) {
	t := a.term
	const most = 40
	var rows [][]string
	for _, j := range found {
		if j.Fit == fit.Fits && !all {
			break
		}
		if len(rows) == most && !a.verbose && !all {
			rows = append(rows, []string{t.dim("… more; --verbose shows them")})
			break
		}
		verdict := string(j.Fit)
		switch j.Fit {
		case fit.Overflows, fit.Lines:
			verdict = t.bad(verdict)
		case fit.Glyphs, fit.Tight:
			verdict = t.warn(verdict)
		default:
			verdict = t.good(verdict)
		}
		rows = append(rows, []string{verdict, j.Locale, t.accent(j.Key), quoteShort(j.Words, 36), strings.TrimPrefix(j.Msg(),
			string(j.Fit)+" "), t.dim(j.Place.Screen)})
	}
	if len(rows) > 0 {
		a.print("%s", t.table([]string{"", "", "key", "words", "", "on"}, rows))
	}
	var parts []string
	for _, v := range fit.Verdicts {
		if counts[v] > 0 {
			parts = append(parts, fmt.Sprintf("%d %s", counts[v], map[fit.Verdict]string{fit.Overflows: "overflow",
				fit.Lines: "need more lines", fit.Glyphs: "lack glyphs", fit.Tight: "tight", fit.Fits: "fit"}[v]))
		}
	}
	if len(parts) == 0 {
		parts = []string{"nothing is translated yet"}
	}
	a.print("%s\n", strings.Join(parts, ", "))
}
