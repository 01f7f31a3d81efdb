package page_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"archetyp/core/css"
	"archetyp/core/read/page"
)

// syntheticSheet is a style sheet of so many rules as frameworks write them.
func syntheticSheet(rules int) string {
	var b strings.Builder
	b.WriteString(":root{--a:#0b6e8f;--gap:8px}*,::before,::after{box-sizing:border-box}")
	for i := range rules {
		switch i % 5 {
		case 0:
			fmt.Fprintf(&b, ".c%d{padding:calc(var(--gap)*%d) 1rem;color:var(--a);border:1px solid rgb(0 0 0/.1)}", i, i%7)
		case 1:
			fmt.Fprintf(&b, ".c%d:hover,.c%d:focus-visible{background-color:hsl(%d 50%% 40%%)}", i, i-1, i%360)
		case 2:
			fmt.Fprintf(&b, ".c%d>.item.c%d{margin:0 auto;font:600 14px/1.5 sans-serif}", i-2, i)
		case 3:
			fmt.Fprintf(&b, "@media (min-width:600px){.c%d{display:flex;gap:%dpx}}", i, i%32)
		case 4:
			fmt.Fprintf(&b, "ul.list .c%d li:nth-child(2n+1) a[href]{text-decoration:none;transition:color .2s ease-in-out}", i)
		}
	}
	return b.String()
}

func syntheticPage(elements, rules int) string {
	var b strings.Builder
	b.WriteString("<!doctype html><style>" + syntheticSheet(rules) + "</style><body>")
	for i := 0; i < elements; i += 5 {
		fmt.Fprintf(&b, `<div class="c%d item"><ul class="list"><li class="c%d"><a href="#" class="c%d">x</a></li><li>y</li></ul></div>`, i*7%rules, i*11%rules, i*13%rules)
	}
	return b.String()
}

func benchmarkRead(b *testing.B, html string) {
	data := []byte(html)
	b.SetBytes(int64(len(data)))
	b.ReportAllocs()
	for b.Loop() {
		if _, err := page.Read(data, page.Options{Name: "x", Medium: css.Medium{Width: 1280, Height: 800}}); err != nil {
			b.Fatal(err)
		}
	}
}

// BenchmarkRead computes the style of every element of pages of several sizes: ten times the rules or the elements
// should cost about ten times.
func BenchmarkRead(b *testing.B) {
	for _, c := range []struct{ elements, rules int }{{5000, 400}, {5000, 4000}, {50000, 4000}} {
		b.Run(fmt.Sprintf("%d_elements_%d_rules", c.elements, c.rules), func(b *testing.B) { benchmarkRead(b, syntheticPage(c.elements, c.rules)) })
	}
	siblings := "<!doctype html><style>li:nth-child(2n+1){color:red}li:has(+ li.x){margin:0}li ~ li.x{padding:1px}</style><ul>" + strings.Repeat("<li>a<li class=x>b", 10000)
	b.Run("20000_siblings_and_has", func(b *testing.B) { benchmarkRead(b, siblings) })
	if file := os.Getenv("ARCHETYP_BENCH_PAGE"); file != "" {
		data, err := os.ReadFile(file)
		if err != nil {
			b.Fatal(err)
		}
		b.Run("given", func(b *testing.B) { benchmarkRead(b, string(data)) })
	}
}
