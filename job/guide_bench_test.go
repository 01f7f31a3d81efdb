package job

import (
	"os"
	"strings"
	"testing"

	"archetyp/core/guide"
	"archetyp/core/paint/picture"
	"archetyp/core/paint/raster"
)

// BenchmarkGuide makes the guide of 200 drawings: its pages and their data, its pictures, and beside these the same
// pictures as they were packed for sending.
func BenchmarkGuide(b *testing.B) {
	dir := menus(b, 200)
	ws := open(b, dir)
	s, err := Read(b.Context(), ws)
	if err != nil {
		b.Fatal(err)
	}
	if _, err := s.Docs(); err != nil {
		b.Fatal(err)
	}
	make := func(b *testing.B, pictures bool) {
		for b.Loop() {
			in, err := s.guideInput(&guideCache{}, &guideCache{Keys: map[string]string{}, Holds: map[string]held{}})
			if err != nil {
				b.Fatal(err)
			}
			files, err := guide.Files(in)
			if err != nil {
				b.Fatal(err)
			}
			err = Parallel(len(files), func(i int) error {
				if strings.HasPrefix(files[i].Path, "img/") != pictures {
					return nil
				}
				_, err := files[i].Make()
				return err
			})
			if err != nil {
				b.Fatal(err)
			}
		}
	}
	b.Run("pages", func(b *testing.B) { make(b, false) })
	b.Run("pictures", func(b *testing.B) { make(b, true) })
	b.Run("pictures packed small", func(b *testing.B) {
		docs, err := s.Docs()
		if err != nil {
			b.Fatal(err)
		}
		for b.Loop() {
			err := Parallel(len(docs), func(i int) error {
				screen := docs[i].Screens[0]
				img, err := raster.Render(screen.Picture(), raster.Options{View: screen.Box, Density: 2})
				if err == nil {
					picture.PNG(img)
				}
				return err
			})
			if err != nil {
				b.Fatal(err)
			}
		}
	})
}

// BenchmarkGuideOfOneChange syncs 200 drawings of which one changed since, and as many of which none did.
func BenchmarkGuideOfOneChange(b *testing.B) {
	dir := menus(b, 200)
	run := func(b *testing.B) {
		ws := open(b, dir)
		defer ws.Close()
		if _, err := Run(b.Context(), ws, Options{Only: "guide"}); err != nil {
			b.Fatal(err)
		}
	}
	run(b)
	file := ""
	entries, err := os.ReadDir(dir + "/design")
	if err != nil {
		b.Fatal(err)
	}
	file = dir + "/design/" + entries[0].Name()
	data, err := os.ReadFile(file)
	if err != nil {
		b.Fatal(err)
	}
	b.Run("one changed", func(b *testing.B) {
		for i := 0; b.Loop(); i++ {
			if err := os.WriteFile(file, append(data, strings.Repeat("\n", i%7+1)...), 0o644); err != nil {
				b.Fatal(err)
			}
			run(b)
		}
	})
	b.Run("none changed", func(b *testing.B) {
		for b.Loop() {
			run(b)
		}
	})
}
