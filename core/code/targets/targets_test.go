package targets_test

import (
	"strings"
	"testing"

	"archetyp/core/code/targets"
)

func TestForTargets(t *testing.T) {
	got, err := targets.For(".a {\n  user-select: none;\n}\n", []string{"safari14"})
	if err != nil || !strings.Contains(got, "-webkit-user-select: none;") {
		t.Error(got, err)
	}
	for _, bad := range []string{"netscape4", "safari", "14", ""} {
		if _, err := targets.For(".a{}", []string{bad}); err == nil {
			t.Errorf("%q is taken for a browser", bad)
		}
	}
}
