package cli

import (
	"fmt"
	"os"
	"time"

	"github.com/schollz/progressbar/v3"
	xterm "golang.org/x/term"
)

// watched reports whether somebody sees how far work is.
func (a *app) watched() bool {
	f, ok := a.err.(*os.File)
	return !a.quiet && !a.json && ok && xterm.IsTerminal(int(f.Fd()))
}

// fewJobs are mostly over before a bar could be read.
const fewJobs = 20

// progress draws a bar for long work, on a terminal only.
func (a *app) progress() func(stage string, done, of int) {
	if !a.watched() {
		return nil
	}
	var bar *progressbar.ProgressBar
	at := ""
	return func(stage string, done, of int) {
		if of < fewJobs {
			return
		}
		if stage != at {
			at = stage
			bar = progressbar.NewOptions(of, progressbar.OptionSetWriter(a.err), progressbar.OptionSetDescription(stage),
				progressbar.OptionSetWidth(24), progressbar.OptionShowCount(), progressbar.OptionShowIts(), progressbar.OptionSetItsString(things[stage]),
				progressbar.OptionClearOnFinish())
		}
		if bar.GetMax() != of { // more pages are found on the way
			bar.ChangeMax(of)
		}
		_ = bar.Set(done)
	}
}

// things are what the stages of long work count.
var things = map[string]string{"reading": "drawings", "exporting": "assets", "painting": "pictures",
	"pages": "pages", "what pages need": "pages", "views": "views"}

// busy says, where work takes longer than a second, what is done and for how long, until it is over.
func (a *app) busy(what string) (over func()) {
	if !a.watched() {
		return func() {}
	}
	return tick(time.Second, func(seconds int) {
		fmt.Fprintf(a.err, "\r\x1b[K%s, %d s", what, seconds)
	}, func() {
		fmt.Fprint(a.err, "\r\x1b[K")
	})
}

// tick calls each with the number of every span that passes until over is called, which calls last if any passed.
func tick(span time.Duration, each func(n int), last func()) (over func()) {
	stop, stopped := make(chan struct{}), make(chan struct{})
	go func() {
		defer close(stopped)
		t := time.NewTicker(span)
		defer t.Stop()
		for n := 0; ; {
			select {
			case <-t.C:
				n++
				each(n)
			case <-stop:
				if n > 0 {
					last()
				}
				return
			}
		}
	}()
	return func() {
		close(stop)
		<-stopped
	}
}
