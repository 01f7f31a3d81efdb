package cli

import (
	"context"
	"fmt"
	"maps"
	"net"
	"net/url"
	"os"
	"slices"
	"strconv"

	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/serve"
	"archetyp/workspace"

	"github.com/spf13/cobra"
	"golang.org/x/sync/errgroup"
)

func (a *app) guideServeCmd() *cobra.Command {
	var f serveFlags
	c := &cobra.Command{
		Use:   "serve",
		Short: "Serve the style guide on this machine, until interrupted",
		Long: long(`Build the style guide and serve it to this machine alone, until Ctrl+C. The outputs are served beside it
under their own paths, and the tokens as /tokens.css and /tokens.json, so that a development server can link to them.
With --watch, saving a source syncs at once and reloads the open pages it affects. With --edit, too, and the pages
can change token values, mark elements and set the focused element; git shows what was changed. With --remarks, readers
write remarks and replies in the pages: they become files, and with --commit commits under their names. With --site,
pages lay the page that was built from their screen over it. Other machines are
served with --listen and a --secret, a word in the link: whoever has the link can read, and with --edit or
--remarks change, and anybody on the way can read it, since it is no https.`),
		Example: example("archetyp guide serve", "archetyp guide serve --watch --port 0", "archetyp guide serve --edit", "archetyp guide serve --remarks --commit",
			"archetyp guide serve --listen 0.0.0.0 --secret harbour-seal-42"),
		Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			if err := f.check(); err != nil {
				return err
			}
			return a.serveGuide(&f)
		},
	}
	c.Flags().IntVar(&f.port, "port", 8086, "the port to listen on; 0 for any that is free")
	c.Flags().BoolVar(&f.watch, "watch", false, "sync when a source changes, and reload open pages")
	c.Flags().BoolVar(&f.edit, "edit", false, "let pages change tokens, marks and the focused element; includes --watch")
	c.Flags().BoolVar(&f.remarks, "remarks", false, "let readers write remarks in the pages; includes --watch")
	c.Flags().BoolVar(&f.commit, "commit", false, "with --remarks: commit each remark under the reader's name")
	c.Flags().StringVar(&f.site, "site", "", "let pages lay the `SITE` over their screens, as a browser shows it")
	c.Flags().StringVar(&f.listen, "listen", "127.0.0.1", "listen at `ADDRESS`, for other machines, too; needs --secret")
	c.Flags().StringVar(&f.secret, "secret", "", "serve only those who have `WORD` in their link")
	return c
}

// guideEdit is a change that a page asks for.
type guideEdit = func(ctx context.Context, ws *workspace.Workspace, request []byte) (any, error)

// serveFlags are the flags of guide serve.
type serveFlags struct {
	port        int
	watch, edit bool

	remarks, commit bool
	listen, secret  string
	site            string
}

// leastSecret is the length of a secret from which guessing it takes too long.
const leastSecret = 8

func (f *serveFlags) check() error {
	f.watch = f.watch || f.edit || f.remarks
	switch {
	case f.commit && !f.remarks:
		return hint.New("--commit belongs to --remarks", "For example: archetyp guide serve --remarks --commit")
	case f.port < 0 || f.port > 1<<16-1:
		return hint.New("--port "+strconv.Itoa(f.port)+" is no port", "From 1 to 65535, or 0 for any that is free.")
	case !serve.IsOwn(f.listen) && f.secret == "":
		return hint.New("--listen "+f.listen+" serves other machines, which needs a --secret", "For example: archetyp guide serve --listen "+f.listen+" --secret harbour-seal-42")
	case f.secret != "" && len(f.secret) < leastSecret:
		return hint.New("--secret is too short to be one", "Take at least "+strconv.Itoa(leastSecret)+" letters.")
	}
	return nil
}

// serveGuide serves the guide as it is built, or with watch as it is built again and again.
func (a *app) serveGuide(f *serveFlags) error {
	a.writes(true)
	ws, err := a.workspaceHere()
	if err != nil {
		return err
	}
	root, err := os.OpenRoot(ws.Dir)
	if err != nil {
		return err
	}
	defer root.Close()
	if !f.watch {
		if _, err := job.Run(a.ctx, ws, job.Options{Only: "guide", Progress: a.progress()}); err != nil {
			return err
		}
	}
	g := serve.NewGuide(root.FS(), ws.Config.Guide.To, f.watch)
	g.Secret(f.secret)
	var scripts []string
	may := map[string]guideEdit{}
	if f.edit {
		scripts = append(scripts, serve.EditScript)
		maps.Copy(may, job.GuideEdits)
	}
	if f.remarks {
		scripts = append(scripts, serve.RemarkScript)
		maps.Copy(may, job.GuideRemarks(f.commit))
	}
	if f.site != "" {
		scripts = append(scripts, serve.SiteScript)
		may["site"] = job.GuideSite(f.site)
	}
	if len(may) > 0 {
		g.Edit(a.guideEdits(ws.Dir, may), scripts...)
	}
	if err := a.serveOutputs(g); err != nil {
		return err
	}
	a.close()
	if !serve.IsOwn(f.listen) {
		a.say("%s other machines are served: whoever has the link reads the guide and the outputs, without encryption\n",
			newTerm(a.err, a.color).warn("warning:"))
	}
	ctx, stop := a.untilInterrupted()
	defer stop()
	both, ctx := errgroup.WithContext(ctx)
	both.Go(func() error {
		return g.Serve(ctx, net.JoinHostPort(f.listen, strconv.Itoa(f.port)), func(at string) {
			if f.secret != "" {
				at += "?secret=" + url.QueryEscape(f.secret)
			}
			a.say("The style guide is at %s until you press Ctrl+C.\n", at)
		})
	})
	if f.watch {
		both.Go(func() error { return a.watchGuide(ctx, g) })
	}
	return both.Wait()
}

// serveOutputs sets the outputs that the server offers, from the lock.
func (a *app) serveOutputs(g *serve.Guide) error {
	ws, err := a.workspaceHere()
	if err != nil {
		return err
	}
	outputs, err := job.Served(ws)
	if err == nil {
		g.Outputs(outputs)
	}
	return err
}

// watchGuide syncs on every change and makes open pages reload.
func (a *app) watchGuide(ctx context.Context, g *serve.Guide) error {
	return a.watch(ctx, func(string) {}, func(r *job.Watched) {
		if r.Report != nil {
			if err := a.serveOutputs(g); err != nil {
				a.printError(err)
			}
			a.close()
			g.Changed(slices.Concat(r.Report.Written, r.Report.Removed))
		}
		a.printWatched(r)
	})
}

// guideEdits answers the requests of pages for changes: each opens the workspace for as long as it takes.
func (a *app) guideEdits(dir string, may map[string]guideEdit) serve.Edits {
	return func(ctx context.Context, name string, request []byte) (any, error) {
		edit, ok := may[name]
		if !ok {
			return nil, fmt.Errorf("there is no change %q", name)
		}
		ws, _, err := workspace.Open(dir, a.how, a.options())
		if err != nil {
			return nil, err
		}
		defer ws.Close()
		return edit(ctx, ws, request)
	}
}
