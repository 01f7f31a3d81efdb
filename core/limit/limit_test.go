package limit

import (
	"context"
	"errors"
	"strings"
	"sync"
	"testing"
	"time"
)

func TestBudget(t *testing.T) {
	b := New(Limits{Elements: 10})
	var wg sync.WaitGroup
	failed := make([]error, 12)
	for i := range failed {
		wg.Add(1)
		go func() {
			defer wg.Done()
			failed[i] = b.Spend(Elements, 1)
		}()
	}
	wg.Wait()
	n := 0
	for _, err := range failed {
		var le *Error
		if err == nil {
			n++
		} else if !errors.As(err, &le) || le.Limit != 10 || !strings.Contains(le.Hint(), "limits: elements:") ||
			!strings.HasPrefix(le.Error(), "more than 10 elements") {
			t.Error(err)
		}
	}
	if n != 10 {
		t.Errorf("%d of 10 were spent", n)
	}
	if err := b.Spend(Letters, 400_000); err != nil {
		t.Error(err)
	}
	if err := b.Spend(Letters, 100_001); err == nil || !strings.Contains(err.Error(), "500,000") {
		t.Errorf("the default does not hold: %v", err)
	}
	var none *Budget
	if none.Spend(Pixels, 1) != nil || none.Spend(Pixels, 1<<40) == nil || none.Limit(Style) == 0 ||
		b.Spend(Style, -1) == nil {
		t.Error("nil, or less than nothing")
	}
}

func TestTimeEnds(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	b := On(ctx, Limits{})
	if err := b.Time(); err != nil {
		t.Error(err)
	}
	cancel()
	if err := b.Time(); !errors.Is(err, context.Canceled) {
		t.Error(err)
	}
	late := New(Limits{})
	late.until = late.until.Add(-time.Hour)
	if err := late.Time(); err == nil || err.Error() != "more than 120 seconds of reading" {
		t.Error(err)
	}
	if (*Budget)(nil).Time() != nil {
		t.Error("nil has no end")
	}
}

func TestParseAmount(t *testing.T) {
	for in, want := range map[string]int64{"1": 1, "250000": 250000, "500k": 500_000, "400M": 400_000_000,
		"2G": 2_000_000_000} {
		if got, err := ParseAmount(in); err != nil || got != want {
			t.Errorf("%s: %d %v", in, got, err)
		}
	}
	for _, in := range []string{"", "0", "-1", "k", "1kk", "1 M", "9999999G", "1.5M", "x"} {
		if got, err := ParseAmount(in); err == nil {
			t.Errorf("%q is %d", in, got)
		}
	}
}
