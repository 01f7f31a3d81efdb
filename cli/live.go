package cli

import (
	"context"
	"io/fs"
	"net"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"time"

	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/serve"
	"archetyp/workspace"

	"github.com/spf13/cobra"
	"golang.org/x/sync/errgroup"
)

func (a *app) liveCmd() *cobra.Command {
	port, styles := 8087, ""
	c := &cobra.Command{
		Use:   "live ADDRESS|FOLDER",
		Short: "Show a site while its style sheets are edited, changes at once",
		Long: long(`Show a site at an address of this machine, with a script added to its pages, until Ctrl+C. A style sheet that is saved,
or edited in an editor with the language server, takes effect in the open page without a reload. The elements of the
rule that the caret is in are outlined. Alt and a click on an element shows its rules beside what the design says of it,
and makes it the focused one. Alt+D lays the design over the page. The site itself is not changed; other hosts are
not shown through it, and cookies are passed through and not kept.`),
		Example: example("archetyp live site", "archetyp live http://127.0.0.1:3000/ --styles src"),
		Args:    exactly("an ADDRESS or a FOLDER"),
		RunE: func(_ *cobra.Command, args []string) error {
			if port < 0 || port > 1<<16-1 {
				return hint.New("--port "+strconv.Itoa(port)+" is no port", "From 1 to 65535, or 0 for any that is free.")
			}
			return a.live(args[0], styles, port)
		},
	}
	c.Flags().IntVar(&port, "port", port, "the port to listen on; 0 for any that is free")
	c.Flags().StringVar(&styles, "styles", "", "the `FOLDER` of the style sheets (default: that of the site, else the current one)")
	return c
}

// liveAnswers asks job for the pages.
type liveAnswers struct{ site *job.LiveSite }

func (l liveAnswers) Element(ctx context.Context, q serve.LiveQuestion) (any, error) {
	return l.site.Element(ctx, q.Page, q.Selector, q.Width)
}

func (l liveAnswers) Picture(ctx context.Context, page string, width float64) ([]byte, error) {
	return l.site.Picture(ctx, page, width)
}

func (a *app) live(site, styles string, port int) error {
	ws, found, err := a.open(a.dir)
	if err != nil {
		return err
	}
	dir := ""
	if found {
		dir = ws.Dir
	}
	var files, fonts fs.FS
	watched := a.dir
	if !job.IsAddress(site) {
		root, err := os.OpenRoot(a.path(site))
		if err != nil {
			return hint.New(site+": there is no such folder", "A folder of pages or an address is wanted: archetyp live site")
		}
		defer root.Close()
		files, watched = root.FS(), a.path(site)
		if dir != "" {
			beside, err := os.OpenRoot(dir)
			if err != nil {
				return err
			}
			defer beside.Close()
			fonts = beside.FS()
		}
	}
	if styles != "" {
		watched = a.path(styles)
	}
	if watched, err = filepath.Abs(watched); err != nil {
		return err
	}
	answers := liveAnswers{&job.LiveSite{Reader: &job.SiteReader{Context: a.ctx, WS: ws, Dir: a.dir}, Site: site, Dir: dir}}
	var l *serve.Live
	if files != nil {
		root, err := filepath.Abs(a.path(site))
		if err != nil {
			return err
		}
		l = serve.NewLiveFolder(files, fonts, filepath.ToSlash(root), answers)
	} else if l, err = serve.NewLiveSite(site, answers); err != nil {
		return err
	}
	job.StyleSheets(watched, l.Known)
	watcher, err := workspace.Watch(watched)
	if err != nil {
		return err
	}
	defer watcher.Close()
	watcher.Rest = 8 * time.Millisecond // people look at the page while they save
	a.close()
	ctx, stop := a.untilInterrupted()
	defer stop()
	both, ctx := errgroup.WithContext(ctx)
	both.Go(func() error {
		err := l.Serve(ctx, net.JoinHostPort("127.0.0.1", strconv.Itoa(port)), func(at string) {
			if dir != "" {
				job.LiveAt(dir, &job.LiveNote{Address: at, Secret: l.Secret})
			}
			a.say("The site is at %s until you press Ctrl+C. Alt+click shows rules, Alt+D the design.\n", at)
		})
		if dir != "" {
			job.LiveAt(dir, nil)
		}
		return err
	})
	both.Go(func() error {
		for {
			changed, err := watcher.Next(ctx)
			if err != nil {
				if ctx.Err() != nil {
					return nil
				}
				return err
			}
			for _, p := range changed {
				full := filepath.Join(watched, filepath.FromSlash(p))
				if !strings.HasSuffix(p, ".css") {
					continue
				}
				if data, err := os.ReadFile(full); err == nil {
					l.Saved(filepath.ToSlash(full), data)
				}
			}
		}
	})
	return both.Wait()
}
