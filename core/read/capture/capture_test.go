package capture_test

import (
	"errors"
	"fmt"
	"io/fs"
	"strings"
	"testing"

	"archetyp/core/css"
	"archetyp/core/geom"
	"archetyp/core/markup"
	"archetyp/core/read/capture"
)

const pageText = `<!doctype html><html lang=en><title>Piers</title><link rel=stylesheet href=site.css><body><h1>Skerry Point</h1><p class=gone>x</p>`

// files is a capture of one page with a sheet.
func files(more string) map[string]string {
	return map[string]string{
		"capture.json": `{"capture": 1, "site": "ferry", "address": "http://ferry.example/", "pages": [{"address": "http://ferry.example/", "file": "pages/index.html", "title": "Piers"` + more + `}],
  "files": {"http://ferry.example/": {"file": "pages/index.html"}, "http://ferry.example/site.css": {"file": "sheets/site.css", "type": "text/css"}}}`,
		"pages/index.html": pageText,
		"sheets/site.css":  "h1 { color: teal } @media (prefers-color-scheme: dark) { h1 { color: white } }",
	}
}

func loading(all map[string]string) func(string) ([]byte, error) {
	return func(p string) ([]byte, error) {
		if text, ok := all[p]; ok {
			return []byte(text), nil
		}
		return nil, fmt.Errorf("%s: %w", p, fs.ErrNotExist)
	}
}

// TestRead reads a capture back: its pages are screens, with the styles of the sheets that were captured.
func TestRead(t *testing.T) {
	all := files("")
	if !capture.Is([]byte(all["capture.json"])) || capture.Is([]byte(pageText)) || capture.Is([]byte(`{"tokens": {}}`)) {
		t.Error("a capture is not told from other files")
	}
	for dark, want := range map[bool]string{false: "rgb(0, 128, 128)", true: "rgb(255, 255, 255)"} {
		d, err := capture.Read("ferry", []byte(all["capture.json"]), capture.Options{Load: loading(all), Medium: css.Medium{Width: 800, Height: 600, Dark: dark}})
		if err != nil {
			t.Fatal(err)
		}
		if len(d.Screens) != 1 || d.Screens[0].Name != "Piers" || d.Format != "capture" {
			t.Fatalf("%+v", d.Screens)
		}
		found := false
		for _, e := range d.Screens[0].Elements {
			if e.Node != nil && e.Node.Local == "h1" {
				found = true
				if got, _ := d.Screens[0].Document.Styles.Computed(e.Node, "color"); got != want {
					t.Errorf("dark %v: %s", dark, got)
				}
			}
		}
		if !found {
			t.Error("the heading is missing")
		}
	}
}

// TestBoxes reads the boxes that a browser gave, by the numbers in the page.
func TestBoxes(t *testing.T) {
	all := files(`, "views": [{"width": 390, "height": 844, "file": "views/a.html", "boxes": "views/a.json", "picture": "views/a.png"}]`)
	all["views/a.html"] = strings.NewReplacer("<body>", `<body archetyp-box=0>`, "<h1>", `<h1 archetyp-box=1>`).Replace(pageText)
	all["views/a.json"] = `{"width": 390, "height": 900, "boxes": [[0, 0, 390, 900], [16, 20.5, 358, 37]]}`
	d, err := capture.Read("ferry", []byte(all["capture.json"]), capture.Options{Load: loading(all), Medium: css.Medium{Width: 390, Height: 844}})
	if err != nil {
		t.Fatal(err)
	}
	s := d.Screens[0]
	if s.Box.H != 900 || s.Document.Boxless {
		t.Errorf("%+v", s.Box)
	}
	for _, e := range s.Elements {
		if e.Node != nil && e.Node.Local == "h1" && (e.Layout.Value != (geom.Rect{X: 16, Y: 20.5, W: 358, H: 37})) {
			t.Errorf("%+v", e.Layout)
		}
	}
	all["views/a.json"] = `{"width": 3`
	var bad *markup.Error
	if _, err := capture.Read("ferry", []byte(all["capture.json"]), capture.Options{Load: loading(all), Medium: css.Medium{Width: 390, Height: 844}}); !errors.As(err, &bad) {
		t.Errorf("boxes that end too soon: %v", err)
	}
}

// TestBroken holds the errors of captures that are none.
func TestBroken(t *testing.T) {
	for text, want := range map[string]string{
		`{"capture": 1, "pages": [`:                        "no capture",
		`{"capture": 2, "pages": [{}]}`:                    "version 2",
		`{"capture": 1, "pages": []}`:                      "no page",
		`{"capture": 1, "pages": 3}`:                       "no capture",
		`{"capture": 1, "pages": [{"file": "gone.html"}]}`: "gone.html",
	} {
		_, err := capture.Read("ferry", []byte(text), capture.Options{Load: loading(nil)})
		if err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v", text, err)
		}
	}
}

// FuzzRead reads captures whose files are whatever they are.
func FuzzRead(f *testing.F) {
	all := files(`, "views": [{"width": 390, "height": 844, "file": "views/a.html", "boxes": "views/a.json"}]`)
	f.Add(all["capture.json"], pageText, `{"width": 3, "height": 4, "boxes": [[1, 2, 3, 4], [1], [], [1, 2, 3, 4, 1, 0, 0, 1, 5, 6]]}`)
	f.Add(`{"capture": 1, "pages": [{"file": "../../x"}]}`, "", "")
	f.Fuzz(func(t *testing.T, text, html, boxes string) {
		d, err := capture.Read("x", []byte(text), capture.Options{Load: func(p string) ([]byte, error) {
			if strings.HasSuffix(p, ".json") {
				return []byte(boxes), nil
			}
			return []byte(html), nil
		}})
		if err == nil && d == nil {
			t.Error("neither a document nor an error")
		}
	})
}
