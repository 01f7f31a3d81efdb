package picture

import (
	"runtime"
	"sync"
	"sync/atomic"

	"archetyp/core/guard"
)

// forkPixels is the size from which a picture is worth several processors.
const forkPixels = 1 << 18

// Rows has work done on all rows of a picture, on all processors where the picture is large: stretches of rows, in any
// order, each once. What becomes of one row must not rest on what becomes of another.
func Rows(width, height int, work func(from, to int)) {
	if height < 1 || width < forkPixels/height {
		work(0, height)
		return
	}
	split(height, max(1, height/(8*runtime.GOMAXPROCS(0))), work)
}

// split has all processors work on n things, a stretch of them at a time.
func split(n, stretch int, work func(from, to int)) {
	var next atomic.Int64
	var all sync.WaitGroup
	var faults guard.Carrier
	for range min(runtime.GOMAXPROCS(0), n) {
		all.Go(func() {
			defer faults.Guard()
			for {
				to := int(next.Add(int64(stretch)))
				if to-stretch >= n {
					return
				}
				work(to-stretch, min(to, n))
			}
		})
	}
	all.Wait()
	faults.Raise()
}
