package demo_test

import (
	"regexp"
	"strings"
	"testing"

	"archetyp/demo"
)

// The demo's drawings are for reading: their ids are plain words.
func TestPlainIDs(t *testing.T) {
	files, err := demo.Files()
	if err != nil {
		t.Fatal(err)
	}
	plain := regexp.MustCompile(`^[a-z][a-z0-9]*(-[a-z0-9]+)*$`)
	ids := 0
	for name, data := range files {
		if !strings.HasSuffix(name, ".svg") {
			continue
		}
		for _, m := range regexp.MustCompile(`\sid="([^"]*)"`).FindAllStringSubmatch(string(data), -1) {
			if ids++; !plain.MatchString(m[1]) {
				t.Errorf("%s: %q", name, m[1])
			}
		}
	}
	if ids < 50 {
		t.Errorf("%d ids", ids)
	}
}
