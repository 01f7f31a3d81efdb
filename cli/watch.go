package cli

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"os/signal"
	"strings"
	"syscall"
	"time"

	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) watchCmd() *cobra.Command {
	return &cobra.Command{
		Use:   "watch",
		Short: "Sync whenever a source changes, until interrupted",
		Long: long(`Sync, and again whenever a drawing, a token file, a translation or the configuration changes, until Ctrl+C. A
sync starts once files stop changing. An error is printed once and does not end the command. Other commands can
write in between. With --json, each sync prints one line.`),
		Example: example("archetyp watch"),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			ctx, stop := a.untilInterrupted()
			defer stop()
			return a.watch(ctx, func(dir string) {
				a.say("Watching %s until you press Ctrl+C.\n", dir)
			}, a.printWatched)
		},
	}
}

// untilInterrupted is a context that Ctrl+C ends.
func (a *app) untilInterrupted() (context.Context, context.CancelFunc) {
	return signal.NotifyContext(a.ctx, os.Interrupt, syscall.SIGTERM)
}

// watch syncs whenever the workspace changes. It calls started with the folder, and report after each sync.
func (a *app) watch(ctx context.Context, started func(dir string), report func(*job.Watched)) error {
	ws, err := a.workspaceHere()
	if err != nil {
		return err
	}
	dir := ws.Dir
	a.close()
	a.writes(true)
	w, err := workspace.Watch(dir)
	if err != nil {
		return err
	}
	defer w.Close()
	started(dir)
	return job.Watch(ctx, w, func() (*workspace.Workspace, error) {
		ws, ok, err := workspace.Open(dir, a.how, a.options())
		switch {
		case err != nil:
			return nil, err
		case !ok:
			return nil, hint.New("the workspace in "+dir+" is gone", "Watching goes on once its "+workspace.ConfigName+" is back.")
		}
		a.recovered(ws)
		return ws, nil
	}, job.Options{}, report)
}

// watchedJSON is a line of "watch --json".
type watchedJSON struct {
	Changed []string  `json:"changed"`
	Seconds float64   `json:"seconds"`
	Error   string    `json:"error,omitempty"`
	Sync    *syncJSON `json:"sync,omitempty"`
}

// printWatched prints what changed and which files the sync wrote.
func (a *app) printWatched(r *job.Watched) {
	if a.json {
		line := watchedJSON{Changed: append([]string{}, r.Changed...), Seconds: r.Took.Seconds()}
		if r.Err != nil {
			line.Error = r.Err.Error()
		}
		if r.Report != nil {
			s := reportJSON(r.Report)
			line.Sync = &s
		}
		_ = json.NewEncoder(a.out).Encode(line)
		return
	}
	if r.Err != nil {
		a.printError(r.Err)
	}
	if r.Report == nil || a.quiet {
		return
	}
	t, rep := a.term, r.Report
	a.print("%s %s %s\n", t.dim(time.Now().Format(time.TimeOnly)), changedWords(r), t.dim(fmt.Sprintf("%.1f s", r.Took.Seconds())))
	a.printFiles("  "+t.good("written"), rep.Written)
	a.printFiles("  "+t.warn("removed"), rep.Removed)
}

// changedWords names the files that changed, or the state when nothing was written.
func changedWords(r *job.Watched) string {
	switch wrote := len(r.Report.Written)+len(r.Report.Removed) > 0; {
	case !wrote && len(r.Report.Unread) > 0:
		return "the others are in step"
	case !wrote:
		return "everything is in step"
	case len(r.Changed) == 0:
		return "brought in step"
	case len(r.Changed) > 3:
		return fmt.Sprintf("%d files changed", len(r.Changed))
	}
	return strings.Join(r.Changed, ", ") + " changed"
}
