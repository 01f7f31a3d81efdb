package job

import (
	"runtime"
	"sync"

	"archetyp/core/guard"

	"golang.org/x/sync/errgroup"
)

// Parallel runs jobs on all processors. The error is that of the first that failed, in their order, whichever ended
// first.
func Parallel(n int, do func(i int) error) error {
	errs := make([]error, n)
	var g errgroup.Group
	g.SetLimit(runtime.NumCPU())
	for i := range n {
		g.Go(func() error {
			defer guard.Catch(&errs[i], "")
			errs[i] = do(i)
			return nil
		})
	}
	_ = g.Wait()
	for _, err := range errs {
		if err != nil {
			return err
		}
	}
	return nil
}

// together runs a few jobs side by side.
func together(jobs ...func() error) error {
	return Parallel(len(jobs), func(i int) error { return jobs[i]() })
}

// Progress is Parallel with reports of how far it is.
func Progress(tell func(stage string, done, of int), stage string, n int, job func(i int) error) error {
	if tell == nil {
		return Parallel(n, job)
	}
	var mu sync.Mutex
	done := 0
	return Parallel(n, func(i int) error {
		err := job(i)
		mu.Lock()
		defer mu.Unlock()
		done++
		tell(stage, done, n)
		return err
	})
}
