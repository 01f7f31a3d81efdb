package audit

import (
	"runtime"
	"sync"
	"sync/atomic"
)

// parallel calls f for 0 to n−1 on all cores.
func parallel(n int, f func(i int)) {
	var next atomic.Int64
	var wait sync.WaitGroup
	for range min(n, runtime.GOMAXPROCS(0)) {
		wait.Go(func() {
			for i := int(next.Add(1)) - 1; i < n; i = int(next.Add(1)) - 1 {
				f(i)
			}
		})
	}
	wait.Wait()
}
