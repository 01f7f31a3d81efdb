package threeway_test

import (
	"strings"
	"testing"

	"archetyp/core/threeway"
)

func TestValue(t *testing.T) {
	for _, c := range []struct {
		was, ours, theirs, want string
		both                    bool
	}{{"a", "a", "a", "a", false}, {"a", "b", "a", "b", false}, {"a", "a", "b", "b", false}, {"a", "b", "b", "b", false}, {"a", "b", "c", "b", true}} {
		if got, both := threeway.Value(c.was, c.ours, c.theirs); got != c.want || both != c.both {
			t.Errorf("%+v: %s %t", c, got, both)
		}
	}
}

func TestSet(t *testing.T) {
	for _, c := range [][4]string{{"a b", "a b", "a b", "a b"}, {"a b", "b", "a b c", "b c"}, {"", "a", "a", "a"}, {"a", "", "a", ""}, {"", "b a", "a c", "b a c"}} {
		if got := strings.Join(threeway.Set(strings.Fields(c[0]), strings.Fields(c[1]), strings.Fields(c[2])), " "); got != c[3] {
			t.Errorf("%v: %s", c, got)
		}
	}
}
