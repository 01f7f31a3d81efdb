package cli

import (
	"context"
	"os"
	"slices"
	"strconv"

	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/serve"

	"github.com/spf13/cobra"
	"golang.org/x/sync/errgroup"
)

func (a *app) guideServeCmd() *cobra.Command {
	port, watch := 0, false
	c := &cobra.Command{
		Use:   "serve",
		Short: "Serve the style guide on this machine, until interrupted",
		Long: long(`Build the style guide and serve it to this machine alone, until Ctrl+C. The outputs are served beside it
under their own paths, and the tokens as /tokens.css and /tokens.json, so that a development server can link to them.
With --watch, saving a source syncs at once and reloads the open pages it affects.`),
		Example: example("archetyp guide serve", "archetyp guide serve --watch --port 0"),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			if port < 0 || port > 1<<16-1 {
				return hint.New("--port "+strconv.Itoa(port)+" is no port", "From 1 to 65535, or 0 for any that is free.")
			}
			return a.serveGuide(port, watch)
		},
	}
	c.Flags().IntVar(&port, "port", 8086, "the port to listen on; 0 for any that is free")
	c.Flags().BoolVar(&watch, "watch", false, "sync when a source changes, and reload open pages")
	return c
}

// serveGuide serves the guide as it is built, or with watch as it is built again and again.
func (a *app) serveGuide(port int, watch bool) error {
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
	if !watch {
		if _, err := job.Run(a.ctx, ws, job.Options{Only: "guide", Progress: a.progress()}); err != nil {
			return err
		}
	}
	g := serve.NewGuide(root.FS(), ws.Config.Guide.To, watch)
	if err := a.serveOutputs(g); err != nil {
		return err
	}
	a.close()
	ctx, stop := a.untilInterrupted()
	defer stop()
	both, ctx := errgroup.WithContext(ctx)
	both.Go(func() error {
		return g.Serve(ctx, "127.0.0.1:"+strconv.Itoa(port), func(at string) {
			a.say("The style guide is at %s until you press Ctrl+C.\n", at)
		})
	})
	if watch {
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
