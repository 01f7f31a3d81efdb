package e2e

import (
	"encoding/json"
	"os/exec"
	"strings"
	"testing"
)

// TestCoreStandsAlone holds that nothing under core/ imports what lies above it, or reaches for files, processes, the
// network, a terminal or flags.
func TestCoreStandsAlone(t *testing.T) {
	out, err := exec.Command("go", "list", "-json=ImportPath,Imports", "archetyp/...").Output()
	if err != nil {
		t.Fatal(err)
	}
	dec := json.NewDecoder(strings.NewReader(string(out)))
	n := 0
	for dec.More() {
		var p struct {
			ImportPath string
			Imports    []string
		}
		if err := dec.Decode(&p); err != nil {
			t.Fatal(err)
		}
		if !strings.HasPrefix(p.ImportPath, "archetyp/core/") {
			continue
		}
		n++
		for _, i := range p.Imports {
			inner := strings.HasPrefix(i, "archetyp/")
			switch {
			case inner && !strings.HasPrefix(i, "archetyp/core/"):
				t.Errorf("%s imports %s, which lies above it", p.ImportPath, i)
			case i == "os" || strings.HasPrefix(i, "os/") || i == "net" || i == "net/http" || i == "flag" || i == "syscall":
				t.Errorf("%s imports %s: core/ only computes", p.ImportPath, i)
			case strings.Contains(i, "cobra") || strings.Contains(i, "pflag") || strings.Contains(i, "lipgloss") || strings.Contains(i, "x/term") || strings.Contains(i, "progressbar"):
				t.Errorf("%s imports %s: core/ knows no terminal", p.ImportPath, i)
			}
		}
	}
	if n < 15 {
		t.Errorf("only %d packages under core/", n)
	}
}
