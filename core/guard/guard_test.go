package guard

import (
	"errors"
	"strings"
	"sync"
	"testing"
)

func broken() (err error) {
	defer Catch(&err, "reading a.svg")
	var c Carrier
	var wg sync.WaitGroup
	for range 2 {
		wg.Add(1)
		go func() {
			defer wg.Done()
			defer c.Guard()
			panic("out of luck")
		}()
	}
	wg.Wait()
	c.Raise()
	return nil
}

func TestAPanicBecomesAnError(t *testing.T) {
	err := broken()
	var fe *Error
	if !errors.As(err, &fe) || !strings.Contains(err.Error(), "while reading a.svg: out of luck") ||
		!strings.Contains(string(fe.Stack), "guard_test.go") {
		t.Errorf("%v\n%s", err, fe.Stack)
	}
	fine := func() (err error) {
		defer Catch(&err, "x")
		(&Carrier{}).Raise()
		return nil
	}
	if err := fine(); err != nil {
		t.Error(err)
	}
}
