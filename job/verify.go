package job

import (
	"context"
	"image"
	"math"
	"os"
	"path/filepath"

	"archetyp/browser"
	"archetyp/core/code"
	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/diff"
	"archetyp/core/geom"
	"archetyp/core/infer/layout"
	"archetyp/core/paint/raster"
	"archetyp/workspace"
)

// Verified is how code looks in a browser, held against the drawing.
type Verified struct {
	Likeness  float64     `json:"likeness"`  // 0–1: the mean over its elements
	Tolerance int         `json:"tolerance"` // 0–255 on each channel: what counts as alike
	Elements  int         `json:"elements"`
	Width     int         `json:"width"`             // px of the window
	Worst     *Compared   `json:"worst,omitempty"`   // the least like element
	Shifted   *Shift      `json:"shifted,omitempty"` // the one that stands furthest from its place
	Shifts    []Shift     `json:"shifts"`            // all that do not stand in their place
	Free      []code.Free `json:"free"`              // what stands free of the flow
	Each      []Compared  `json:"each"`
	Wider     []*Verified `json:"wider,omitempty"` // in the windows of wider drawings

	Difference *image.RGBA `json:"-"` // the drawing, pale, with the pixels that differ in red
	Code       *image.RGBA `json:"-"` // what the browser shows
}

// Compared is an element, and how like it is.
type Compared struct {
	Element  string  `json:"element"` // selector
	Likeness float64 `json:"likeness"`
}

// Shift is an element, and how many px it stands from where it is drawn.
type Shift struct {
	Element string  `json:"element"` // selector
	X       float64 `json:"x"`
	Y       float64 `json:"y"`
}

// Verify draws a page in a browser and holds it against the drawing it was written from. Pixels are alike within a
// tolerance (0–255).
func Verify(ctx context.Context, p *code.Page, doc *design.Document, ws *workspace.Workspace, tolerance int) (*Verified, error) {
	nodes := p.Number()
	files, err := CodeFolder(p, "index.html", []byte(code.HTMLDocument(p)), doc, ws, true)
	if err != nil {
		return nil, err
	}
	dir, err := os.MkdirTemp("", "archetyp-verify-")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	for name, data := range files {
		file := filepath.Join(dir, filepath.FromSlash(name))
		if err := os.MkdirAll(filepath.Dir(file), 0o755); err != nil {
			return nil, err
		}
		if err := os.WriteFile(file, data, 0o644); err != nil {
			return nil, err
		}
	}
	b, err := browser.Open(ctx)
	if err != nil {
		return nil, err
	}
	defer b.Close()
	address := "file://" + filepath.ToSlash(filepath.Join(dir, "index.html"))
	v, err := verify(b, address, p.Tree, viewOf(p), nodes, tolerance)
	if err != nil {
		return nil, err
	}
	v.Free = append(v.Free, p.Free...)
	for _, w := range p.Widths {
		as := make([]*code.Node, len(nodes))
		for i, n := range nodes {
			as[i] = w.Node[n]
		}
		more, err := verify(b, address, w.Tree, w.Tree.Root.Cell.Box, as, tolerance)
		if err != nil {
			return nil, err
		}
		v.Wider = append(v.Wider, more)
	}
	return v, nil
}

// verify holds what a browser shows of a page against a drawing. Nodes are those of the page's numbered elements in that
// drawing; nil for what it does not have.
func verify(b *browser.Browser, address string, t *code.Tree, view geom.Rect, nodes []*code.Node, tolerance int) (*Verified,
	error) {
	if err := b.Show(address, int(view.W), int(view.H), 1); err != nil {
		return nil, err
	}
	shown, err := b.Picture()
	if err != nil {
		return nil, err
	}
	drawn, err := paintOf(t, view)
	if err != nil {
		return nil, err
	}
	v := &Verified{Tolerance: tolerance, Width: int(view.W), Free: []code.Free{}, Each: []Compared{}, Shifts: []Shift{}, Code: shown,
		Difference: diff.Picture(drawn, shown, tolerance)}
	plain := diff.Plain(drawn)
	for _, n := range nodes {
		if n == nil {
			continue
		}
		e := n.Element()
		if e == nil || n.Cell.Leaf() && n.Picture == nil && !n.Cell.Words() && e.Kind == design.Group {
			continue
		}
		box := e.Painted.Value
		if n.Cell.Words() || n.Picture != nil {
			box = n.Cell.Box
		}
		r := pixels(box.Move(-view.X, -view.Y))
		like, ok := diff.Likeness(drawn, shown, r, plain, tolerance)
		if !ok {
			continue
		}
		c := Compared{e.Selector(), like}
		v.Each = append(v.Each, c)
		v.Likeness += like
		if v.Worst == nil || like < v.Worst.Likeness {
			v.Worst = &c
		}
	}
	if v.Elements = len(v.Each); v.Elements > 0 {
		v.Likeness /= float64(v.Elements)
	}
	return v, v.places(b, view, nodes)
}

// viewOf is what is compared, in px of the screen: a screen, or an element with all it paints.
func viewOf(p *code.Page) geom.Rect {
	box, air := p.Tree.Root.Cell.Box, p.Air()
	return geom.Rect{X: box.X - air[3], Y: box.Y - air[0], W: math.Ceil(box.W + air[1] + air[3]),
		H: math.Ceil(box.H + air[0] + air[2])}
}

// paintOf paints what a page was written from, on white.
func paintOf(t *code.Tree, view geom.Rect) (*image.RGBA, error) {
	e := t.Root.Element()
	paint := e.Screen.Picture()
	if !t.Whole {
		paint = design.Alone(e)
	}
	return raster.Render(paint, raster.Options{View: view, Density: 1, Background: &color.White})
}

// pixels are the whole pixels that a box touches.
func pixels(r geom.Rect) image.Rectangle {
	r = design.WholePixels(r)
	return image.Rect(int(r.X), int(r.Y), int(r.Right()), int(r.Bottom()))
}

// placed asks for the boxes of numbered elements: of their words where they hold nothing else.
const placed = `[...document.querySelectorAll('[data-n]')].map(e => {
  let r = e.getBoundingClientRect();
  if (!e.children.length && e.textContent.trim() && e.tagName != 'TEXTAREA') {
    const range = document.createRange(); range.selectNodeContents(e); r = range.getBoundingClientRect();
  }
  return [+e.dataset.n, r.x, r.y, r.width, r.height];
})`

// places finds the element that stands furthest from where it is drawn.
func (v *Verified) places(b *browser.Browser, view geom.Rect, nodes []*code.Node) error {
	list, err := browser.Ask[[][5]float64](b, placed)
	if err != nil {
		return err
	}
	far := 0.0
	for _, at := range list {
		n := nodes[int(at[0])]
		if n == nil {
			continue
		}
		e := n.Element()
		if e == nil || !e.Matrix.Upright() || n.Alone || n.Cell.Words() && e.Words == nil {
			continue
		}
		box := n.Cell.Box
		if n.Cell.Words() {
			if n.Value != "" { // a control's box
				continue
			}
			box = e.Geometry.Value
			box.Y = layout.LetterTop(e)
		}
		s := Shift{e.Selector(), round1(at[1] + view.X - box.X), round1(at[2] + view.Y - box.Y)}
		d := math.Hypot(s.X, s.Y)
		if d > 0.5 {
			v.Shifts = append(v.Shifts, s)
		}
		if d > far {
			far, v.Shifted = d, &s
		}
	}
	return nil
}

func round1(v float64) float64 { return math.Round(v*10) / 10 }
