package job

import (
	"context"
	"os"
	"path/filepath"
	"time"

	"archetyp/workspace"
)

// often is how often a site that is no folder is looked at again.
const often = time.Second

// WatchSite calls again whenever files below the folder of a site, or below dir, change, until the context ends. A site
// that is no folder or file, as a development server, is looked at once a second.
func WatchSite(ctx context.Context, site, dir string, again func(context.Context) error) error {
	changed := make(chan error)
	folder := site
	info, err := os.Stat(site)
	if err == nil && !info.IsDir() {
		folder = filepath.Dir(site)
	}
	folders := []string{dir}
	if err == nil {
		if rel, err := filepath.Rel(dir, folder); err != nil || !filepath.IsLocal(rel) {
			folders = append(folders, folder)
		}
	}
	ctx, stop := context.WithCancel(ctx)
	defer stop()
	for _, f := range folders {
		w, err := workspace.Watch(f)
		if err != nil {
			return err
		}
		defer w.Close()
		go func() {
			for {
				_, err := w.Next(ctx)
				select {
				case changed <- err:
				case <-ctx.Done():
				}
				if err != nil {
					return
				}
			}
		}()
	}
	var tick <-chan time.Time
	if err != nil {
		t := time.NewTicker(often)
		defer t.Stop()
		tick = t.C
	}
	for {
		select {
		case <-ctx.Done():
			return nil
		case err := <-changed:
			if err != nil {
				return ended(ctx, err)
			}
		case <-tick:
		}
		if err := again(ctx); err != nil {
			return err
		}
	}
}
