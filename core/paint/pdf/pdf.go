// Package pdf writes a paint tree as a page of PDF: shapes stay shapes, gradients gradients, and words words that can
// be searched and copied. Only what the format has no means for (filters) becomes pixels. A design.PaintNode and the
// part of the plane wanted go in, bytes come out.
// https://pdfa.org/resource/iso-32000-2/
package pdf

import (
	"bytes"
	"fmt"
	"strconv"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"

	"github.com/klauspost/compress/zlib"
)

// Options say how large the page is and what it is called.
type Options struct {
	Scale float64 // px of the page for each of the design; 0 means 1. A px is 3/4 of a point
	Title string
}

// pointsPerPx is the size of a CSS px in points, the unit of PDF.
const pointsPerPx = 0.75

// Write makes a page of the part of the plane in view. The same input gives the same bytes.
func Write(root *design.PaintNode, view geom.Rect, o Options) ([]byte, error) {
	k := pointsPerPx
	if o.Scale > 0 {
		k *= o.Scale
	}
	w := &writer{known: map[string]int{}, images: map[any]int{}}
	w.objects = make([]string, 2) // the catalogue and the tree of pages, once the rest is known
	base := geom.Matrix{A: k, D: -k, E: -view.X * k, F: (view.Y + view.H) * k}
	page := w.newContent(base)
	page.op(numbers(base.A, base.B, base.C, base.D, base.E, base.F), "cm")
	page.node(design.Simplify(root, view), geom.Identity)
	if w.failed != nil {
		return nil, w.failed
	}
	content := w.stream("", page.b.Bytes())
	pg := w.object(fmt.Sprintf("<</Type/Page/Parent 2 0 R/MediaBox[0 0 %s "+
		"%s]/Group<</S/Transparency/CS/DeviceRGB>>/Resources%s/Contents %d 0 R>>",
		num(view.W*k), num(view.H*k), page.resources(), content))
	w.objects[0] = "<</Type/Catalog/Pages 2 0 R>>"
	w.objects[1] = fmt.Sprintf("<</Type/Pages/Kids[%d 0 R]/Count 1>>", pg)
	info := w.object("<</Title" + textString(o.Title) + "/Producer" + textString("Archetyp") + ">>")
	return w.file(info), nil
}

// writer collects the objects of a file. An object's number is its place in the list, counted from 1.
type writer struct {
	objects []string
	known   map[string]int // objects by what they say: none is written twice
	images  map[any]int
	fonts   []*fontface
	failed  error
}

func (w *writer) object(s string) int {
	if n, ok := w.known[s]; ok {
		return n
	}
	w.objects = append(w.objects, s)
	w.known[s] = len(w.objects)
	return len(w.objects)
}

// stream adds a compressed stream; entries are those of its dictionary beside length and filter.
func (w *writer) stream(entries string, data []byte) int {
	var b bytes.Buffer
	z := zlib.NewWriter(&b)
	_, _ = z.Write(data) // a buffer takes all
	_ = z.Close()
	return w.object(fmt.Sprintf("<<%s/Filter/FlateDecode/Length %d>>\nstream\n%s\nendstream", entries, b.Len(), b.Bytes()))
}

// file puts the objects one after the other, and a table of where each begins behind them.
func (w *writer) file(info int) []byte {
	w.finishFonts()
	var b bytes.Buffer
	b.WriteString("%PDF-1.7\n%\xc2\xb5\xc2\xb6\n")
	at := make([]int, len(w.objects))
	for i, o := range w.objects {
		at[i] = b.Len()
		fmt.Fprintf(&b, "%d 0 obj\n%s\nendobj\n", i+1, o)
	}
	table := b.Len()
	fmt.Fprintf(&b, "xref\n0 %d\n0000000000 65535 f \n", len(w.objects)+1)
	for _, n := range at {
		fmt.Fprintf(&b, "%010d 00000 n \n", n)
	}
	fmt.Fprintf(&b, "trailer\n<</Size %d/Root 1 0 R/Info %d 0 R>>\nstartxref\n%d\n%%%%EOF\n", len(w.objects)+1, info,
		table)
	return b.Bytes()
}

// num prints a number; PDF knows no exponents.
func num(v float64) string {
	s := strconv.FormatFloat(v, 'f', 5, 64)
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	if s == "-0" || s == "" {
		return "0"
	}
	return s
}

func numbers(v ...float64) string {
	out := make([]string, len(v))
	for i, n := range v {
		out[i] = num(n)
	}
	return strings.Join(out, " ")
}

// textString writes words as UTF-16 in hexadecimal, which needs no escapes.
func textString(s string) string { return "<FEFF" + utf16Hex(s) + ">" }
