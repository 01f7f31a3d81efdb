package cli

import (
	"testing"
	"time"
)

func TestTickCountsUntilItIsOver(t *testing.T) {
	for _, spans := range []int{0, 3} {
		seen, ended := make(chan int, 100), 0
		over := tick(time.Millisecond, func(n int) { seen <- n }, func() { ended++ })
		for want := 1; want <= spans; want++ {
			if got := <-seen; got != want {
				t.Errorf("%d after %d spans", got, want)
			}
		}
		over()
		if spans > 0 && ended != 1 {
			t.Errorf("ended %d times", ended)
		}
	}
	over := tick(time.Hour, func(int) { t.Error("an hour passed") }, func() { t.Error("nothing was begun") })
	over()
}

func TestPictureNames(t *testing.T) {
	for out, fine := range map[string]bool{"a.png": true, "A.PNG": true, "-": true, "a.jpg": false, "png": false} {
		if err := pngName(out); (err == nil) != fine {
			t.Errorf("%s: %v", out, err)
		}
	}
}
