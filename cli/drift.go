package cli

import (
	"context"
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"archetyp/core/audit"
	"archetyp/core/drift"
	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

// driftFlags say what is compared, and what becomes of the differences.
type driftFlags struct {
	design, as, level, failOn, baseline, reason, until, why string
	only                                                    []string
	accept, fix, write, record, watch, live, one            bool
}

func (a *app) driftCmd() *cobra.Command {
	f := &driftFlags{}
	c := &cobra.Command{
		Use:   "drift [SITE]",
		Short: "Compare a site with what the design says",
		Long: long(`Compare the pages of a site with the screens they were built from: values, words, pictures, order, and what is missing on
either side. SITE is a folder of pages, a page, a capture, an address, or a site of the configuration. Each difference comes
with both values, the rule and line behind it, and the line of CSS that would mend it; what one cause explains is listed
once. --design compares with an earlier state of the site instead of the drawings. --fix prints a patch that mends what can
be mended safely in the style sheets. Differences of the level --fail-on and graver end with status 1.`),
		Example: example("archetyp drift site", "archetyp drift site --only colour,type --as sarif > drift.sarif", "archetyp drift site --fix",
			"archetyp drift site --why '#pay'", "archetyp drift ferry-site --live --baseline drift.json --fail-on error"),
		Args: between(0, 1, "a SITE at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			if err := f.check(); err != nil {
				return err
			}
			if f.watch {
				return a.watchDrift(f, args)
			}
			return a.drift(f, args)
		},
	}
	fl := c.Flags()
	fl.StringVar(&f.design, "design", "", "compare with this earlier `SITE`, page by page")
	fl.StringSliceVar(&f.only, "only", nil, "compare these `KINDS` only, such as colour or words")
	fl.StringVar(&f.level, "level", "note", "list differences of this `LEVEL` and graver ones: error, warning, note")
	fl.StringVar(&f.failOn, "fail-on", "warning", "end with status 1 at differences of this `LEVEL` or graver; never for none")
	fl.StringVar(&f.as, "as", "text", "the `FORM`: text, json, markdown, sarif or junit")
	fl.StringVar(&f.baseline, "baseline", "", "leave out the differences that this `FILE` accepts")
	fl.BoolVar(&f.accept, "accept", false, "write all differences into the baseline")
	fl.StringVar(&f.reason, "reason", "", "why they are accepted, as `TEXT` in the baseline")
	fl.StringVar(&f.until, "until", "", "the last day on which they are accepted, as a `DATE` such as 2027-01-31")
	fl.StringVar(&f.why, "why", "", "explain what the `ELEMENT` was paired with")
	fl.BoolVar(&f.fix, "fix", false, "print a patch of the site's style sheets that mends what can be mended safely")
	fl.BoolVar(&f.write, "write", false, "with --fix: change the style sheets instead")
	fl.BoolVar(&f.record, "record", false, "remember the counts in archetyp.lock, for the trend")
	fl.BoolVar(&f.watch, "watch", false, "compare again whenever the site or the design changes, until interrupted")
	fl.BoolVar(&f.live, "live", false, "read a site of the configuration where it is, not from its capture")
	fl.BoolVar(&f.one, "one-view", false, "with --design: look at one width, scheme and state only")
	a.view.add(c)
	return c
}

// check refuses flags that mean nothing.
func (f *driftFlags) check() error {
	for _, k := range f.only {
		if !slices.Contains(drift.Kinds, drift.Kind(strings.TrimPrefix(k, "drift-"))) {
			var names []string
			for _, k := range drift.Kinds {
				names = append(names, string(k))
			}
			return hint.New("--only "+k+": there is no such kind of difference", "Kinds: "+strings.Join(names, ", ")+".")
		}
	}
	for flag, v := range map[string]string{"level": f.level, "fail-on": f.failOn} {
		if !slices.Contains(audit.Levels[:3], audit.Level(v)) && !(flag == "fail-on" && v == "never") {
			return hint.New(fmt.Sprintf("--%s %s is no level", flag, v), "error, warning and note are.")
		}
	}
	if err := checkUntil(f.until); err != nil {
		return err
	}
	switch {
	case !slices.Contains([]string{"text", "json", "markdown", "sarif", "junit"}, f.as):
		return hint.New("--as "+f.as+" is not known", "text, json, markdown, sarif and junit are.")
	case f.write && !f.fix:
		return hint.New("--write belongs to --fix", "For example: archetyp drift site --fix --write")
	case f.watch && (f.fix || f.accept || f.record):
		return hint.New("--watch only reports", "Run --fix, --accept or --record on their own.")
	}
	return nil
}

// checkUntil refuses what is no date.
func checkUntil(until string) error {
	if until == "" {
		return nil
	}
	if _, err := time.Parse(time.DateOnly, until); err != nil {
		return hint.New("--until "+until+" is no date", "For example: --until 2027-01-31")
	}
	return nil
}

// drifted compares, as the flags and the configuration say.
func (a *app) drifted(f *driftFlags, args []string) (*job.Drifted, *workspace.Workspace, string, error) {
	v, err := a.view.view()
	if err != nil {
		return nil, nil, "", err
	}
	a.writes(f.record)
	ws, found, err := a.open(a.dir)
	if err != nil {
		return nil, nil, "", err
	}
	o := job.DriftOptions{Base: drift.View{Width: v.Width, Height: v.Height, Dark: v.Dark}, Design: f.design, OneView: f.one, Reasons: f.why != "", Progress: a.progress()}
	if len(args) > 0 {
		o.Site = args[0]
	}
	if found {
		c := &ws.Config
		o.Tolerances, o.Levels, o.Pairs = c.DriftTolerances(), c.DriftLevels(), c.Drift.Pairs
		switch {
		case o.Site == "" && c.Drift.Site != "":
			o.Site = c.Drift.Site
		case o.Site == "" && len(c.Sites) > 0:
			o.Site = c.Sites[0].Name
		}
		if f.baseline == "" && !f.accept {
			f.baseline = c.Drift.Baseline
		}
	}
	switch {
	case o.Site == "":
		return nil, nil, "", hint.New("no site to compare", "Name a folder of pages, a capture or an address: archetyp drift site")
	case !found && f.design == "":
		return nil, nil, "", hint.New("there is no workspace here, and no design to compare with", "--design takes an earlier state of the site.")
	case f.design == "":
		r, _, err := a.reading(nil)
		if err != nil {
			return nil, nil, "", err
		}
		if o.Drawings, err = r.Docs(); err != nil {
			return nil, nil, "", err
		}
	}
	over := a.busy("comparing")
	reader := &job.SiteReader{Context: a.ctx, WS: ws, Dir: a.dir, Browser: v.Browser, Live: f.live}
	defer reader.Close()
	r, err := job.Drift(reader, o)
	over()
	if err != nil {
		return nil, nil, "", err
	}
	f.choose(r)
	return r, ws, o.Site, nil
}

// choose leaves out differences that were not asked for.
func (f *driftFlags) choose(r *job.Drifted) {
	r.Differences = slices.DeleteFunc(r.Differences, func(d drift.Difference) bool {
		return !d.Level.Weighs(audit.Level(f.level)) || len(f.only) > 0 && !slices.Contains(f.only, string(d.Kind)) && !slices.Contains(f.only, d.Kind.Rule())
	})
}

func (a *app) drift(f *driftFlags, args []string) error {
	r, ws, site, err := a.drifted(f, args)
	if err != nil {
		return err
	}
	switch {
	case f.why != "":
		return a.printWhyPaired(r, f.why)
	case f.accept:
		return a.acceptDrift(f, r)
	}
	gone, err := a.driftBaseline(f, r)
	if err != nil {
		return err
	}
	if f.fix {
		return a.fixDrift(f, r)
	}
	var before *drift.Standing
	now := r.Standing(site)
	if ws != nil {
		lock, err := ws.ReadLock()
		if err != nil {
			return err
		}
		if before = lock.Drift; before != nil && before.Site != site {
			before = nil
		}
		if f.record {
			if err := job.RecordDrift(ws, now); err != nil {
				return err
			}
		}
	}
	if err := a.printDrift(f, r, gone, before, now); err != nil {
		return err
	}
	for _, d := range r.Differences {
		if f.failOn != "never" && d.Level.Weighs(audit.Level(f.failOn)) {
			return foundError{}
		}
	}
	return nil
}

// driftBaseline takes out what the baseline accepts.
func (a *app) driftBaseline(f *driftFlags, r *job.Drifted) (gone []audit.Accepted, err error) {
	if f.baseline == "" {
		return nil, nil
	}
	b, err := a.readBaseline(f.baseline, "drift")
	if err != nil {
		return nil, err
	}
	_, gone = r.Accepted(b, time.Now().Format(time.DateOnly))
	return gone, nil
}

// readBaseline reads a baseline that has to be there.
func (a *app) readBaseline(file, command string) (*audit.Baseline, error) {
	data, err := os.ReadFile(a.path(file))
	if err != nil {
		return nil, hint.New(file+": there is no such file, or it cannot be read", fmt.Sprintf("\"archetyp %s --baseline %s --accept\" writes it.", command, file))
	}
	return audit.ReadBaseline(data, file)
}

// acceptDrift writes all differences into the baseline.
func (a *app) acceptDrift(f *driftFlags, r *job.Drifted) error {
	if f.baseline == "" {
		return hint.New("--accept needs a baseline to write", "For example: archetyp drift site --baseline drift.json --accept --reason \"as shipped\"")
	}
	var b *audit.Baseline
	if data, err := os.ReadFile(a.path(f.baseline)); err == nil {
		if b, err = audit.ReadBaseline(data, f.baseline); err != nil {
			return err
		}
	}
	data, err := b.Accept(r.Findings(), f.reason, f.until)
	if err != nil {
		return err
	}
	if err := a.save(map[string][]byte{f.baseline: data}); err != nil {
		return err
	}
	a.say("%s accepted in %s\n", plural(len(r.Differences), "difference", "differences"), f.baseline)
	return nil
}

// fixDrift prints a patch that mends differences, or makes the changes.
func (a *app) fixDrift(f *driftFlags, r *job.Drifted) error {
	edits := r.Edits()
	changed := map[string][]byte{}
	made, left := 0, []string{}
	for _, file := range slices.Sorted(maps.Keys(edits)) {
		data, err := os.ReadFile(a.path(file))
		if err != nil {
			left = append(left, file+": it is not a file here, and cannot be changed")
			continue
		}
		text, n, not := drift.Apply(string(data), edits[file])
		left = append(left, not...)
		if n == 0 {
			continue
		}
		made += n
		changed[file] = []byte(text)
		if !f.write {
			if err := a.document([]byte(drift.Patch(filepath.ToSlash(file), string(data), text))); err != nil {
				return err
			}
		}
	}
	a.remark("note", left)
	rest := len(r.Differences) - made
	if !f.write {
		a.say("The patch mends %d of %s; \"archetyp drift … --fix --write\" makes the changes.\n", made, plural(len(r.Differences), "difference", "differences"))
		return nil
	}
	if made > 0 {
		if err := a.save(changed); err != nil {
			return err
		}
	}
	a.say("%s mended in %s; %d left\n", plural(made, "difference", "differences"), plural(len(changed), "file", "files"), rest)
	return nil
}

// watchDrift compares, and again whenever files of the site or the workspace change, or an address gives other pages.
func (a *app) watchDrift(f *driftFlags, args []string) error {
	ctx, stop := a.untilInterrupted()
	defer stop()
	last, first := "", true
	once := func() (string, error) {
		r, _, site, err := a.drifted(f, args)
		a.close()
		a.opened = nil
		if err != nil {
			return site, err
		}
		gone, err := a.driftBaseline(f, r)
		if err != nil {
			return site, err
		}
		state := ""
		for _, d := range r.Differences {
			state += d.ID + d.Message
		}
		if !first && state == last {
			return site, nil
		}
		first, last = false, state
		return site, a.printDrift(f, r, gone, nil, r.Standing(site))
	}
	site, err := once()
	if err != nil {
		return err
	}
	a.say("Watching until you press Ctrl+C.\n")
	return job.WatchSite(ctx, a.path(site), a.dir, func(context.Context) error {
		_, err := once()
		if err != nil {
			a.say("%v\n", err)
		}
		return nil
	})
}
