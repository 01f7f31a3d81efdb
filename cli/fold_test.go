package cli

import (
	"bytes"
	"fmt"
	"strings"
	"testing"
)

func TestFoldFiles(t *testing.T) {
	if got := foldFiles([]string{"dist/b.css", "dist/a.css"}); len(got) != 2 || got[0] != (fileLine{"dist/a.css", 1}) {
		t.Error(got)
	}
	var files []string
	for i := range 60 {
		files = append(files, fmt.Sprintf("dist/ios/All.xcassets/icons/i%02d.imageset/i.pdf", i),
			fmt.Sprintf("dist/ios/All.xcassets/icons/i%02d.imageset/Contents.json", i))
	}
	files = append(files, "dist/assets.json")
	got := foldFiles(files)
	if len(got) != 2 || got[0] != (fileLine{"dist/assets.json", 1}) || got[1] != (fileLine{"dist/ios/All.xcassets/icons/",
		120}) {
		t.Error(got)
	}
	files = nil
	for i := range 500 {
		files = append(files, fmt.Sprintf("f%d.png", i))
	}
	if got := foldFiles(files); len(got) != 1 || got[0] != (fileLine{"./", 500}) {
		t.Error(got)
	}
}

func TestLongListsOfWarningsFold(t *testing.T) {
	for n, want := range map[int]int{0: 0, 1: 1, 9: 9, 10: 9, 500: 9} { // one more would take the line that says so
		var b bytes.Buffer
		a := &app{err: &b}
		a.remark("warning", make([]string, n))
		a.printRemarks()
		if got := strings.Count(b.String(), "\n"); got != want {
			t.Errorf("%d lines for %d warnings", got, n)
		}
		b.Reset()
		a.verbose = true
		a.remark("warning", make([]string, n))
		if a.printRemarks(); strings.Count(b.String(), "\n") != n {
			t.Errorf("--verbose: %s", b.String())
		}
	}
}

// TestWarningsComeLast holds that findings stand before warnings, each warning once, and none with --quiet.
func TestWarningsComeLast(t *testing.T) {
	for _, quiet := range []bool{false, true} {
		var b bytes.Buffer
		a := &app{out: &b, err: &b, quiet: quiet}
		a.remark("warning", []string{"a font is missing", "a font is missing"})
		a.print("%s\n", "the finding")
		a.printRemarks()
		want := "the finding\nwarning a font is missing\n"
		if quiet {
			want = "the finding\n"
		}
		if b.String() != want {
			t.Errorf("%q, want %q", b.String(), want)
		}
	}
}
