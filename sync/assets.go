package sync

import (
	"path"
	"runtime"
	"sync"

	"archetyp/core/asset"

	"golang.org/x/sync/errgroup"
)

// assets exports the marked elements, side by side.
func (r *run) assets() error {
	var faults []string
	r.pictures, faults = asset.Collect(r.docs)
	r.report.Summary.Warnings = append(r.report.Summary.Warnings, faults...)
	files := make([][]asset.File, len(r.pictures))
	var g errgroup.Group
	g.SetLimit(runtime.NumCPU())
	var mu sync.Mutex
	done := 0
	for i, a := range r.pictures {
		g.Go(func() (err error) {
			files[i], err = a.Export()
			mu.Lock()
			done++
			r.o.Progress("exporting", done, len(r.pictures))
			mu.Unlock()
			return err
		})
	}
	if err := g.Wait(); err != nil {
		return err
	}
	r.svgs, r.pngs = map[string][]byte{}, map[string][]byte{}
	for i, a := range r.pictures {
		for _, f := range files[i] {
			r.put(path.Join(r.ws.Config.Assets.To, f.Path), f.Data)
			r.report.Summary.AssetFiles++
			switch f.Density {
			case 0:
				r.svgs[a.Name] = f.Data
			case 1:
				r.pngs[a.Name] = f.Data
			}
		}
	}
	r.report.Summary.Assets = len(r.pictures)
	return nil
}
