package asset

import (
	"encoding/json"
	"path"
	"sort"
	"strings"
)

// An asset catalogue is folders with a Contents.json each.
// https://developer.apple.com/library/archive/documentation/Xcode/Reference/xcode_ref-Asset_Catalog_Format/
type contents struct {
	Images     []contentsImage     `json:"images,omitempty"`
	Info       contentsInfo        `json:"info"`
	Properties *contentsProperties `json:"properties,omitempty"`
}

type contentsInfo struct {
	Author  string `json:"author"`
	Version int    `json:"version"`
}

type contentsImage struct {
	Filename string `json:"filename,omitempty"`
	Idiom    string `json:"idiom"`
	Scale    string `json:"scale,omitempty"`
}

type contentsProperties struct {
	Vectors   bool `json:"preserves-vector-representation,omitempty"`
	Namespace bool `json:"provides-namespace,omitempty"`
}

func (c contents) bytes() []byte {
	c.Info = contentsInfo{Author: "archetyp", Version: 1}
	data, err := json.MarshalIndent(c, "", "  ")
	if err != nil {
		panic(err) // strings and numbers alone
	}
	return append(data, '\n')
}

// imageSet makes the files of an image set: vectors where the drawing can be such without loss, else pixels.
func (m *maker) imageSet(wanted []string) error {
	for _, f := range wanted {
		if !formats[f].pixels && (filtered(m.cut.Paint) || f == "vector") {
			if f != "vector" {
				m.note("has effects that would become pixels in a %s: PNG stands in", strings.ToUpper(f))
			}
			continue
		}
		if err := m.format(f); err != nil {
			return err
		}
		m.contents(!formats[f].pixels)
		return nil
	}
	if err := m.format("png"); err != nil {
		return err
	}
	m.contents(false)
	return nil
}

// contents describes the image set that was made last.
func (m *maker) contents(vectors bool) {
	var c contents
	folder := ""
	for _, f := range m.made.Files {
		if f.Set != m.set.Name {
			continue
		}
		folder = path.Dir(f.Path)
		img := contentsImage{Filename: path.Base(f.Path), Idiom: "universal"}
		if !vectors {
			img.Scale = num(f.Density) + "x"
		}
		c.Images = append(c.Images, img)
	}
	if vectors {
		c.Properties = &contentsProperties{Vectors: true}
	}
	if folder != "" {
		m.made.Files = append(m.made.Files, File{Path: path.Join(folder, "Contents.json"), Data: c.bytes(), Set: m.set.Name,
			Format: "json"})
	}
}

// catalogue makes the descriptions of the folders above the image sets: each gives its name to what it holds, so that
// the same word may stand in two of them.
func (s *Set) catalogue(files []Record) []File {
	var out []File
	seen := map[string]bool{}
	for _, f := range files {
		if f.Set != s.Name || !strings.Contains(f.Path, ".xcassets/") {
			continue
		}
		for dir := path.Dir(path.Dir(f.Path)); strings.Contains(dir, ".xcassets") && !seen[dir]; dir = path.Dir(dir) {
			seen[dir] = true
			var c contents
			if !strings.HasSuffix(dir, ".xcassets") {
				c.Properties = &contentsProperties{Namespace: true}
			}
			out = append(out, File{Path: path.Join(dir, "Contents.json"), Data: c.bytes(), Set: s.Name, Format: "json"})
		}
	}
	sort.Slice(out, func(i, j int) bool { return out[i].Path < out[j].Path })
	return out
}
