// Package demo is the demo workspace: a made-up island ferry line, Tern & Tide. Its drawings have honest flaws for
// the program to find.
package demo

import (
	"embed"
	"io/fs"
	"strings"
)

//go:embed files
var files embed.FS

// Files are the demo's files by path from its folder, with forward slashes.
func Files() (map[string][]byte, error) {
	out := map[string][]byte{}
	err := fs.WalkDir(files, "files", func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		data, err := files.ReadFile(p)
		out[strings.TrimPrefix(p, "files/")] = data
		return err
	})
	return out, err
}

// FS are the demo's files as a file system.
func FS() (fs.FS, error) { return fs.Sub(files, "files") }
