package e2e

import (
	"encoding/json"
	"os/exec"
	"strings"
	"testing"
)

// house is every package in the order of the data: each may import those of the lines above its own.
const house = `
core/limit core/guard core/hint core/quoting core/styletext core/geom core/packed core/digest core/threeway demo fonts
browser site serve
core/markup
core/css core/font
core/geom/pathdata core/color core/escape core/paint/picture core/safeyaml
core/css/grammar
core/css/computed
core/design
core/match core/infer/layout core/paint/raster core/paint/svg core/read/ora core/read/svg core/read/page core/token
core/read/capture core/diff core/phase core/remark
core/read core/infer/alike core/infer/role core/paint/pdf core/paint/drawable core/text/message core/token/harvest
core/text core/infer/naming core/revise demo/edits
core/token/emit core/text/exchange core/text/fit
core/code core/code/targets
core/asset core/offer
core/token/absorb core/ask core/audit
core/drift core/lint
core/guide
workspace
job
editor
cli
cmd/archetyp
e2e`

// TestNothingKnowsWhatIsAbove holds that packages import only what lies below them.
func TestNothingKnowsWhatIsAbove(t *testing.T) {
	line := map[string]int{}
	for i, l := range strings.Split(house, "\n") {
		for _, p := range strings.Fields(l) {
			line["archetyp/"+p] = i
		}
	}
	for _, p := range packages(t) {
		at, ok := line[p.ImportPath]
		if !ok {
			t.Errorf("%s has no place in the house", p.ImportPath)
		}
		for _, i := range p.Imports {
			if below, ours := line[i]; ours && below >= at {
				t.Errorf("%s imports %s, which does not lie below it", p.ImportPath, i)
			}
		}
	}
}

// imported is a package with what it imports.
type imported struct {
	ImportPath string
	Imports    []string
}

// packages lists the program's packages.
func packages(t testing.TB) (list []imported) {
	t.Helper()
	out, err := exec.Command("go", "list", "-json=ImportPath,Imports", "archetyp/...").Output()
	if err != nil {
		t.Fatal(err)
	}
	for dec := json.NewDecoder(strings.NewReader(string(out))); dec.More(); {
		var p imported
		if err := dec.Decode(&p); err != nil {
			t.Fatal(err)
		}
		list = append(list, p)
	}
	return list
}

// TestCoreStandsAlone holds that nothing under core/ imports what lies above it, or reaches for files, processes, the
// network, a terminal or flags.
func TestCoreStandsAlone(t *testing.T) {
	n := 0
	for _, p := range packages(t) {
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
			case strings.Contains(i, "cobra") || strings.Contains(i, "pflag") || strings.Contains(i, "lipgloss") ||
				strings.Contains(i, "x/term") || strings.Contains(i, "progressbar"):
				t.Errorf("%s imports %s: core/ knows no terminal", p.ImportPath, i)
			}
		}
	}
	if n < 25 {
		t.Errorf("only %d packages under core/", n)
	}
}

// TestCommandsOnlyPrint holds that the commands compute nothing: they know neither geometry, layout, style nor
// painting.
func TestCommandsOnlyPrint(t *testing.T) {
	for _, p := range packages(t) {
		if p.ImportPath != "archetyp/cli" {
			continue
		}
		for _, i := range p.Imports {
			for _, not := range []string{"geom", "css", "infer/layout", "match", "paint/", "read/"} {
				if strings.HasPrefix(i, "archetyp/core/"+not) {
					t.Errorf("cli imports %s", i)
				}
			}
		}
	}
}
