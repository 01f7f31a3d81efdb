package cli

import (
	"fmt"
	"testing"
)

func TestFoldFiles(t *testing.T) {
	if got := foldFiles([]string{"dist/b.css", "dist/a.css"}); len(got) != 2 || got[0] != (fileLine{"dist/a.css", 1}) {
		t.Error(got)
	}
	var files []string
	for i := range 60 {
		files = append(files, fmt.Sprintf("dist/ios/All.xcassets/icons/i%02d.imageset/i.pdf", i), fmt.Sprintf("dist/ios/All.xcassets/icons/i%02d.imageset/Contents.json", i))
	}
	files = append(files, "dist/assets.json")
	got := foldFiles(files)
	if len(got) != 2 || got[0] != (fileLine{"dist/assets.json", 1}) || got[1] != (fileLine{"dist/ios/All.xcassets/icons/", 120}) {
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
