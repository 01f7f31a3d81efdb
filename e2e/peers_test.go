package e2e

import (
	"fmt"
	"math/rand"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"archetyp/core/css"
	"archetyp/core/read/page"
	"archetyp/core/token/harvest"

	"github.com/evanw/esbuild/pkg/api"
	"github.com/tdewolff/parse/v2"
	lexer "github.com/tdewolff/parse/v2/css"
)

// crowd is a page of 5,000 elements with random classes of a sheet, which stands in the page.
func crowd(sheet string) string {
	r := rand.New(rand.NewSource(5))
	classes := regexp.MustCompile(`\.([a-z][a-z0-9-]+)`).FindAllStringSubmatch(sheet, -1)
	class := func() string { return classes[r.Intn(len(classes))][1] }
	var b strings.Builder
	b.WriteString("<!doctype html><meta charset=utf-8><style>" + sheet + "</style><body>")
	for range 5000 / 6 {
		one := class()
		fmt.Fprintf(&b, `<div class="%s %s %s"><ul class="nav %s"><li class="nav-item"><a class="nav-link %s" href="#">x</a></li><li><button class="btn %s">y</button></li></ul></div>`, class(), class(), class(), class(), one, one)
	}
	return b.String()
}

// again is what a browser needs to match a sheet again that is switched off and on, in ms: the median of nine.
const again = `(() => { const sheet = document.querySelector('style').sheet, all = [...document.querySelectorAll('*')], t = [];
  const force = () => all.reduce((n, e) => n + getComputedStyle(e).color.length, 0);
  force();
  for (let i = 0; i < 9; i++) { sheet.disabled = true; force(); const a = performance.now(); sheet.disabled = false; force(); t.push(performance.now() - a); }
  return t.sort((a, b) => a - b)[4] })()`

// BenchmarkPageBesideABrowser reads a page with a framework's whole sheet and computes all styles, and has a browser
// match the sheet again in the same run. Wants ARCHETYP_NODE.
func BenchmarkPageBesideABrowser(b *testing.B) {
	sheet, err := os.ReadFile(filepath.Join(needNode(b), "node_modules/bootstrap/dist/css/bootstrap.css"))
	if err != nil {
		b.Skip(err)
	}
	html := crowd(string(sheet))
	ctx := chromium(b)
	file := filepath.Join(b.TempDir(), "crowd.html")
	if err := os.WriteFile(file, []byte(html), 0o600); err != nil {
		b.Fatal(err)
	}
	open(b, ctx, file, 1280, 800, 1)
	theirs := evaluate[float64](b, ctx, again)
	var took []time.Duration
	for b.Loop() {
		from := time.Now()
		if _, err := page.Read([]byte(html), page.Options{Name: "crowd.html", Medium: css.Medium{Width: 1280, Height: 800}}); err != nil {
			b.Fatal(err)
		}
		took = append(took, time.Since(from))
	}
	slices.Sort(took)
	own := float64(took[len(took)/2].Microseconds()) / 1000
	b.ReportMetric(own, "ms/own")
	b.ReportMetric(theirs, "ms/browser")
	b.ReportMetric(own/theirs, "ratio")
}

// BenchmarkHarvestBesideAMinifier collects the values of a framework's sheet, and has a lexer and a minifier go through
// the same text. Wants ARCHETYP_NODE.
func BenchmarkHarvestBesideAMinifier(b *testing.B) {
	data, err := os.ReadFile(filepath.Join(needNode(b), "node_modules/bootstrap/dist/css/bootstrap.css"))
	if err != nil {
		b.Skip(err)
	}
	text := string(data)
	for _, c := range []struct {
		name string
		run  func()
	}{
		{"harvest", func() { harvest.ReadCode([]harvest.Sheet{{Name: "a.css", Text: text, Line: 1}}) }},
		{"grammar", func() {
			for p := lexer.NewParser(parse.NewInputString(text), false); ; {
				if kind, _, _ := p.Next(); kind == lexer.ErrorGrammar {
					return
				}
				p.Values()
			}
		}},
		{"minifier", func() {
			api.Transform(text, api.TransformOptions{Loader: api.LoaderCSS, MinifyWhitespace: true, MinifySyntax: true})
		}},
	} {
		b.Run(c.name, func(b *testing.B) {
			b.SetBytes(int64(len(text)))
			for b.Loop() {
				c.run()
			}
		})
	}
}
