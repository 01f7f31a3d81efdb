package svg

import (
	"fmt"
	"runtime"
	"strings"
	"testing"
)

// wide is a drawing big enough to be read side by side, with faults that are worth a warning here and there.
func wide(n int) string {
	var b strings.Builder
	b.WriteString(`<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400"><g id="all">`)
	for i := range n {
		fmt.Fprintf(&b, `<g transform="translate(%d 0)"><rect id="r%d" width="9" height="%d" fill="#%06x"/><text y="20" font-family="Nowhere %d">Pier %d</text></g>`, i%7, i, i%5+1, i, i%3, i)
		if i%500 == 7 {
			fmt.Fprintf(&b, `<use href="#missing%d"/>`, i)
		}
	}
	b.WriteString(`</g></svg>`)
	return b.String()
}

func told(t *testing.T, src string) string {
	doc, err := Read("wide.svg", []byte(src), Options{})
	if err != nil {
		t.Fatal(err)
	}
	var b strings.Builder
	fmt.Fprintln(&b, doc.Warnings, doc.Fonts, len(doc.Screens[0].Paint.Children[0].Children[0].Children))
	for _, e := range doc.All() {
		fmt.Fprintln(&b, e.Path, e.Selector(), e.Parent.Name, e.Facts())
	}
	return b.String()
}

func TestReadingSideBySideGivesTheSame(t *testing.T) {
	src := wide(3000)
	if len(src) < 2*forkBytes {
		t.Fatal("the drawing is too small to be read side by side")
	}
	defer runtime.GOMAXPROCS(runtime.GOMAXPROCS(1))
	one := told(t, src)
	runtime.GOMAXPROCS(4)
	if many := told(t, src); many != one {
		t.Error("four processors read something else than one")
	}
	if strings.Count(one, "which is not in the file") != 6 || strings.Count(one, "is missing; its text is measured") != 3 {
		t.Errorf("warnings: %s", one[:min(len(one), 3000)])
	}
}

func BenchmarkReadWide(b *testing.B) {
	for _, n := range []int{1000, 10000, 30000} {
		src := []byte(wide(n))
		b.Run(fmt.Sprint(3*n), func(b *testing.B) {
			b.ReportAllocs()
			b.SetBytes(int64(len(src)))
			for b.Loop() {
				if _, err := Read("wide.svg", src, Options{}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
