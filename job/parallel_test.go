package job

import (
	"errors"
	"testing"
	"time"
)

// TestParallelTellsTheFirstError lets a later job fail before an earlier one: the same error is told every time.
func TestParallelTellsTheFirstError(t *testing.T) {
	early, late := errors.New("early"), errors.New("late")
	for range 20 {
		told, ran := 0, make([]bool, 9)
		err := Progress(func(stage string, done, of int) {
			if stage != "trying" || done != told+1 || of != len(ran) {
				t.Errorf("%s: %d of %d after %d", stage, done, of, told)
			}
			told = done
		}, "trying", len(ran), func(i int) error {
			ran[i] = true
			switch i {
			case 2:
				time.Sleep(time.Millisecond)
				return early
			case 3:
				return late
			}
			return nil
		})
		if err != early || told != len(ran) {
			t.Fatalf("%v; %d told", err, told)
		}
	}
	if err := Parallel(0, nil); err != nil {
		t.Error(err)
	}
}
