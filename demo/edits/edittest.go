// Package edits makes the edits that designers make to drawings, at random or one by one, for tests of what has to
// follow them.
package edits

import (
	"fmt"
	"math/rand/v2"
	"regexp"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/markup"
	"archetyp/core/read"
	"archetyp/demo"
)

// Drawings are those of the demo.
func Drawings(t testing.TB) map[string]string {
	t.Helper()
	files, err := demo.Files()
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]string{}
	for name, data := range files {
		if strings.HasPrefix(name, "design/") && strings.HasSuffix(name, ".svg") {
			out[name] = string(data)
		}
	}
	return out
}

// Parsed reads a drawing.
func Parsed(t testing.TB, svg string) *design.Document {
	t.Helper()
	d, err := read.Document("x.svg", []byte(svg), read.Options{Fonts: font.NewSet(nil), Root: 16})
	if err != nil {
		t.Fatalf("%v\n%s", err, svg)
	}
	return d
}

// Edit is a change to one element of a drawing's text. Make reports false where the element does not allow it.
type Edit struct {
	Kind string
	Make func(r *rand.Rand, svg string, n *markup.Node) (string, bool)
}

// tagged puts text behind the name of an element's tag.
func tagged(svg string, n *markup.Node, text string) string {
	at := n.Offset + 1 + len(n.Name)
	return svg[:at] + text + svg[at:]
}

var (
	fill  = regexp.MustCompile(`\bfill="#[0-9a-f]{6}"`)
	idOf  = regexp.MustCompile(`\bid="([^"]*)"`)
	wordy = regexp.MustCompile(`^<text[^>]*>([^<]{3,})</text>$`)
)

func head(svg string, n *markup.Node) (from, to int) {
	return n.Offset, n.Offset + strings.IndexByte(svg[n.Offset:], '>') + 1
}

// All are the edits, by what they do.
var All = []Edit{
	{"moved", func(r *rand.Rand, svg string, n *markup.Node) (string, bool) {
		from, to := head(svg, n)
		by := fmt.Sprintf("translate(%d %d)", 3+r.IntN(20), 2+r.IntN(9))
		if i := strings.Index(svg[from:to], ` transform="`); i >= 0 {
			at := from + i + len(` transform="`)
			return svg[:at] + by + " " + svg[at:], true
		}
		return tagged(svg, n, ` transform="`+by+`"`), true
	}},
	{"restyled", func(r *rand.Rand, svg string, n *markup.Node) (string, bool) {
		from, to := head(svg, n)
		loc := fill.FindStringIndex(svg[from:to])
		if loc == nil || n.Local == "g" {
			return "", false
		}
		return svg[:from+loc[0]] + fmt.Sprintf(`fill="#%06x"`, r.IntN(1<<24)) + svg[from+loc[1]:], true
	}},
	{"reworded", func(_ *rand.Rand, svg string, n *markup.Node) (string, bool) {
		m := wordy.FindStringSubmatchIndex(svg[n.Offset:n.End])
		if m == nil {
			return "", false
		}
		return svg[:n.Offset+m[2]] + "Other words here" + svg[n.Offset+m[3]:], true
	}},
	{"renamed", func(r *rand.Rand, svg string, n *markup.Node) (string, bool) {
		from, to := head(svg, n)
		m := idOf.FindStringSubmatchIndex(svg[from:to])
		if m == nil || strings.Contains(svg[from:to], "data-label") || strings.Count(svg, "#"+svg[from+m[2]:from+m[3]]) > 0 {
			return "", false
		}
		return svg[:from+m[2]] + fmt.Sprintf("other-%d", r.IntN(1000)) + svg[from+m[3]:], true
	}},
	{"regrouped", func(_ *rand.Rand, svg string, n *markup.Node) (string, bool) {
		return svg[:n.Offset] + "<g>" + svg[n.Offset:n.End] + "</g>" + svg[n.End:], true
	}},
	{"removed", func(_ *rand.Rand, svg string, n *markup.Node) (string, bool) {
		return svg[:n.Offset] + svg[n.End:], true
	}},
	{"added", func(_ *rand.Rand, svg string, n *markup.Node) (string, bool) {
		copied := idOf.ReplaceAllString(svg[n.Offset:n.End], "")
		return svg[:n.End] + `<g transform="translate(13 17)">` + copied + "</g>" + svg[n.End:], true
	}},
}

// Same is the element that an element is after an edit of one of them; nil where the edit took it away.
func Same(before, now *design.Document, was, edited *design.Element, kind string) *design.Element {
	old, new := before.All(), now.All()
	at := position(old, was)
	from, size := position(old, edited), 0
	edited.Walk(func(*design.Element) { size++ })
	switch kind {
	case "removed":
		if at >= from && at < from+size {
			return nil
		}
		if at >= from+size {
			at -= size
		}
	case "added": // behind it, in a group of its own
		if at >= from+size {
			at += len(new) - len(old)
		}
	case "regrouped": // in a group of its own, which is an element or not
		if at >= from {
			at += len(new) - len(old)
		}
	}
	if at < 0 || at >= len(new) {
		return nil
	}
	return new[at]
}

func position(list []*design.Element, e *design.Element) int {
	for i, x := range list {
		if x == e {
			return i
		}
	}
	return -1
}
