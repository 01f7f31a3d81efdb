package asset

import (
	"bytes"
	"encoding/json"
	"image"
	"math"
	"path"

	"archetyp/core/color"
	"archetyp/core/geom"
	"archetyp/core/paint/picture"
	"archetyp/core/paint/raster"
)

// Sizes of a site's icons, pixels: in the icon file; for the home screens of phones, which know no transparency; and
// for web app manifests. https://html.spec.whatwg.org/multipage/links.html#rel-icon https://www.w3.org/TR/appmanifest/
var icoSizes = []int{16, 32, 48}

const touchSize = 180

var manifestSizes = []int{192, 512}

// favicon makes the icons of a site: the drawing in the middle of a square.
func (m *maker) favicon() error {
	c := *m.cut
	side := math.Max(c.Box.W, c.Box.H)
	c.Box = geom.Rect{X: c.Box.X - (side-c.Box.W)/2, Y: c.Box.Y - (side-c.Box.H)/2, W: side, H: side}
	square := *m
	square.cut = &c
	at := func(size int, ground *color.Color) (*image.RGBA, error) {
		if ground == nil {
			ground = m.ground()
		}
		return raster.Render(c.Paint, raster.Options{View: c.Box, Density: float64(size) / side, Background: ground})
	}
	file := func(name, format string, size int, data []byte) {
		m.made.Files = append(m.made.Files, File{path.Join(m.set.To, name), data, m.set.Name, format, size, size, 0})
	}
	var small []*image.RGBA
	for _, size := range icoSizes {
		img, err := at(size, nil)
		if err != nil {
			return err
		}
		small = append(small, img)
	}
	ico, err := picture.ICO(small)
	if err != nil {
		return err
	}
	file("favicon.ico", "ico", icoSizes[len(icoSizes)-1], ico)
	if c.Bitmap == nil {
		data, err := square.vector("svg")
		if err != nil {
			return err
		}
		file("favicon.svg", "svg", whole1(side/c.Density), data)
	}
	ground := m.ground()
	if ground == nil {
		white := color.White
		ground = &white
	}
	padded := c // phones round the corners
	padded.Box = c.Box.Grow(side / 8)
	img, err := raster.Render(padded.Paint, raster.Options{View: padded.Box, Density: touchSize / padded.Box.W,
		Background: ground})
	if err != nil {
		return err
	}
	file("apple-touch-icon.png", "png", touchSize, picture.PNG(img))
	for _, size := range manifestSizes {
		img, err := at(size, nil)
		if err != nil {
			return err
		}
		file("icon-"+num(float64(size))+".png", "png", size, picture.PNG(img))
	}
	return nil
}

// siteManifest makes the web app manifest, and the lines for a page's head.
func (s *Set) siteManifest(site string, files []Record) []File {
	type icon struct {
		Src   string `json:"src"`
		Sizes string `json:"sizes"`
		Type  string `json:"type"`
	}
	var icons []icon
	head, some := "", false
	for _, f := range files {
		if f.Set != s.Name {
			continue
		}
		some = true
		name := path.Base(f.Path)
		size := num(float64(f.Width)) + "x" + num(float64(f.Height))
		switch name {
		case "favicon.ico":
			head += `<link rel="icon" href="/favicon.ico" sizes="32x32">` + "\n"
		case "favicon.svg":
			head += `<link rel="icon" href="/favicon.svg" type="image/svg+xml">` + "\n"
			icons = append(icons, icon{"/" + name, "any", "image/svg+xml"})
		case "apple-touch-icon.png":
			head += `<link rel="apple-touch-icon" href="/apple-touch-icon.png">` + "\n"
		default:
			if f.Format == "png" {
				icons = append(icons, icon{"/" + name, size, "image/png"})
			}
		}
	}
	if !some {
		return nil
	}
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	e.SetIndent("", "  ")
	if err := e.Encode(map[string]any{"name": site, "icons": icons}); err != nil {
		panic(err) // strings alone
	}
	head += `<link rel="manifest" href="/site.webmanifest">` + "\n"
	return []File{{Path: path.Join(s.To, "head.html"), Data: []byte(head), Set: s.Name, Format: "html"},
		{Path: path.Join(s.To, "site.webmanifest"), Data: b.Bytes(), Set: s.Name, Format: "json"}}
}
