package job

import (
	"context"
	"errors"
	"time"

	"archetyp/workspace"
)

// Watched is the result of one sync of Watch.
type Watched struct {
	Changed []string // paths; none for the first run, and where there were too many
	Report  *Report  // nil where the run failed
	Err     error    // of the run, or of drawings that could not be read
	Took    time.Duration
}

// Watch runs the job, and again whenever something below the watched folder changes, until the context ends. Each run
// opens the workspace anew, so that a changed configuration applies at once and other commands can write in between. It
// calls report for the first run, for each run that wrote something, and when an error appears, changes or is gone.
func Watch(ctx context.Context, w *workspace.Watcher, open func() (*workspace.Workspace, error), o Options, report func(*Watched)) error {
	for failed, first := "", true; ; first = false {
		var changed []string
		if !first {
			var err error
			if changed, err = w.Next(ctx); err != nil {
				return ended(ctx, err)
			}
		}
		began := time.Now()
		rep, err := runOnce(ctx, open, o)
		if ctx.Err() != nil {
			return nil
		}
		wrote := false
		if rep != nil {
			wrote = len(rep.Written)+len(rep.Removed) > 0
			err = errors.Join(rep.Unread...)
		}
		now := ""
		if err != nil {
			now = err.Error()
		}
		if first || wrote || now != failed {
			report(&Watched{changed, rep, err, time.Since(began)})
		}
		failed = now
	}
}

// ended is err, or nil where the context was cancelled on purpose.
func ended(ctx context.Context, err error) error {
	if ctx.Err() != nil {
		return nil
	}
	return err
}

func runOnce(ctx context.Context, open func() (*workspace.Workspace, error), o Options) (*Report, error) {
	ws, err := open()
	if err != nil {
		return nil, err
	}
	defer ws.Close() // others may write until the next run
	return Run(ctx, ws, o)
}
