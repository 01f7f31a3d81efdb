package emit_test

import (
	"fmt"
	"runtime"
	"strings"
	"testing"

	"archetyp/core/token"
	"archetyp/core/token/emit"

	"golang.org/x/sync/errgroup"
)

// manyTokens is a palette of n/5 colours, four names for each pointing to one another, and a resolver with four
// contexts of which three change a tenth of the palette.
func manyTokens(n int) (resolver string, files map[string]string) {
	q := n / 5
	file := func(write func(b *strings.Builder)) string {
		var b strings.Builder
		b.WriteString("{\n")
		write(&b)
		return strings.TrimSuffix(strings.TrimSuffix(b.String(), "\n"), ",") + "\n}\n"
	}
	group := func(b *strings.Builder, name string, step int, value func(i int) string) {
		fmt.Fprintf(b, "  %q: {\n", name)
		for i := 0; i < q; i += 50 {
			fmt.Fprintf(b, "    \"g%d\": {\n", i/50)
			for k := i; k < min(q, i+50); k += step {
				comma := ","
				if k+step >= min(q, i+50) {
					comma = ""
				}
				fmt.Fprintf(b, "      \"c%d\": {\"$type\": \"color\", \"$value\": %s}%s\n", k-i, value(k), comma)
			}
			b.WriteString("    }" + map[bool]string{true: ","}[i+50 < q] + "\n")
		}
		b.WriteString("  },\n")
	}
	color := func(seed int) func(i int) string {
		return func(i int) string {
			return fmt.Sprintf(`{"colorSpace": "srgb", "components": [%.6f, %.6f, %.6f]}`, float64((i+seed)%256)/255,
				float64(i*7%256)/255, float64(i/3%256)/255)
		}
	}
	files = map[string]string{"base.json": file(func(b *strings.Builder) {
		group(b, "palette", 1, color(0))
		last := "palette"
		for l := 1; l <= 4; l++ {
			to := last
			last = fmt.Sprintf("level%d", l)
			group(b, last, 1, func(i int) string { return fmt.Sprintf("\"{%s.g%d.c%d}\"", to, i/50, i%50) })
		}
	})}
	for i, c := range []string{"dark", "dim", "bright"} {
		files[c+".json"] = file(func(b *strings.Builder) { group(b, "palette", 10, color(i*40+20)) })
	}
	return `{"version": "2025.10", "modifiers": {"scheme": {"contexts": {"light": [], "dark": [{"$ref": "dark.json"}], "dim": [{"$ref": "dim.json"}], "bright": [{"$ref": "bright.json"}]}, "default": "light"}},
		"resolutionOrder": [{"type": "set", "name": "base", "sources": [{"$ref": "base.json"}]}, {"$ref": "#/modifiers/scheme"}]}`, files
}

func readMany(b *testing.B, n int) *token.Library {
	res, files := manyTokens(n)
	return readFiles(b, n, res, files)
}

func readFiles(b *testing.B, n int, res string, files map[string]string) *token.Library {
	lib := token.ParseResolver([]byte(res), "r.json", func(p string) ([]byte, error) {
		return []byte(files[p]),
			nil
	}).Library()
	if err := lib.Err(); err != nil {
		b.Fatal(err)
	}
	if len(lib.Base.Tokens) != n {
		b.Fatal(len(lib.Base.Tokens))
	}
	return lib
}

func BenchmarkRead(b *testing.B) {
	for _, n := range []int{1000, 10000, 100000} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			res, files := manyTokens(n)
			b.ReportAllocs()
			for b.Loop() {
				readFiles(b, n, res, files)
			}
		})
	}
}

func BenchmarkLanguages(b *testing.B) {
	lib := readMany(b, 10000)
	for _, l := range emit.Languages {
		b.Run(l.Name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if _, _, err := l.Write(lib, emit.Options{Name: "Many", Unit: "rem",
					Template: "{{range .Tokens}}{{.Path}} {{.Value}}\n{{end}}"}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

func BenchmarkCheck(b *testing.B) {
	lib := readMany(b, 10000)
	used := map[string]bool{}
	for _, t := range lib.Base.Tokens {
		used[t.Path] = true
	}
	b.ReportAllocs()
	for b.Loop() {
		if _, err := token.Check(lib, token.CheckOptions{Used: used, Names: "[a-z0-9]+"}); err != nil {
			b.Fatal(err)
		}
	}
}

// BenchmarkAll is the whole of what sync does with tokens: read the files, and write every output, on all processors.
func BenchmarkAll(b *testing.B) {
	for _, n := range []int{1000, 10000, 100000} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			res, files := manyTokens(n)
			b.ReportAllocs()
			for b.Loop() {
				lib := readFiles(b, n, res, files)
				var g errgroup.Group
				g.SetLimit(runtime.NumCPU())
				for _, l := range emit.Languages {
					if l.Name != "template" {
						g.Go(func() error {
							_, _, err := l.Write(lib, emit.Options{Name: "Many", Unit: "rem"})
							return err
						})
					}
				}
				if err := g.Wait(); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
