package layout_test

import (
	"fmt"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/infer/layout"
	"archetyp/core/read/svg"
)

func draw(t testing.TB, body string) *design.Document {
	t.Helper()
	doc, err := svg.Read("pier.svg",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200">`+body+`</svg>`), svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	return doc
}

func TestNeighbours(t *testing.T) {
	doc := draw(t, `<rect id="up" x="50" y="0" width="20" height="10"/><rect id="it" x="40" y="40" width="40" height="20"/><rect id="right" x="88" y="30" width="20" height="40"/>
		<rect id="further" x="120" y="40" width="20" height="20"/><rect id="corner" x="90" y="90" width="20" height="20"/><rect id="hidden" x="40" y="62" width="9" height="9" display="none"/>
		<rect id="under" x="0" y="70.5" width="300" height="4"/>`)
	all := doc.All()
	var got []string
	for _, n := range layout.Neighbours(all[1], func(e *design.Element) geom.Rect { return e.Geometry.Value }) {
		got = append(got, fmt.Sprintf("%s %s %g", n.Side, n.Element.ID, n.Gap))
	}
	if want := "top up 30, right right 8, bottom under 10.5"; strings.Join(got, ", ") != want {
		t.Errorf("%v, want %s", got, want)
	}
}

func TestAmong(t *testing.T) {
	doc := draw(t, `<g><rect id="a" width="10" height="10"/></g><g><rect id="b" x="18" width="10" height="10"/></g><rect id="c" x="40" width="10" height="10"/><rect id="d" x="3" y="50" width="10" height="10"/>`)
	var boxes []*design.Element
	for _, e := range doc.All() {
		if e.Kind == design.Box {
			boxes = append(boxes, e)
		}
	}
	l, ok := layout.Among(boxes[:3])
	if !ok || l.Kind != layout.Row || fmt.Sprint(l.Gaps) != "[8 12]" {
		t.Errorf("%+v %t", l, ok)
	}
	if _, even := layout.Even(l.Gaps); even {
		t.Error("8 and 12 are not even")
	}
	if _, ok := layout.Among(boxes); ok {
		t.Error("a row with one thing far below it is none")
	}
	if _, ok := layout.Among(boxes[:1]); ok {
		t.Error("one thing stands in no row")
	}
}

// BenchmarkFacts shows that cost grows with the number of things in a group: what each asks of it is worked out once.
func BenchmarkFacts(b *testing.B) {
	for _, n := range []int{1000, 10000} {
		var body strings.Builder
		body.WriteString(`<rect width="300" height="200" fill="#fff"/>`)
		for i := range n {
			fmt.Fprintf(&body, `<text x="%d" y="%d" font-size="4">pier %d</text>`, i%20*10, i/20%40*5, i)
		}
		all := draw(b, body.String()).All()
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			for b.Loop() {
				var f layout.Finder
				for _, e := range all {
					f.Facts(e)
				}
			}
		})
	}
}

func BenchmarkOf(b *testing.B) {
	doc := draw(b, `<g><rect width="100" height="40" fill="#eee"/><rect x="12" y="12" width="16" height="16"/><text x="36" y="25" font-size="14">Pier</text><rect x="72" y="12" width="16" height="16"/></g>`)
	group := doc.Screens[0].Root.Children[0]
	b.ReportAllocs()
	for b.Loop() {
		layout.Of(group)
	}
}
