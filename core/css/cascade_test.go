package css

import (
	"fmt"
	"strings"
	"testing"

	"archetyp/core/limit"
	"archetyp/core/markup"
)

// fillOf cascades the sheets for the element with an id, and gives its fill.
func fillOf(t testing.TB, doc *markup.Document, id string, sheets ...string) string {
	t.Helper()
	var parsed []*Sheet
	for _, s := range sheets {
		parsed = append(parsed, ParseSheet(s, Medium{Width: 400, Height: 800}))
	}
	fill, _, _ := styleOf(doc, NewCascade(doc.Root, parsed, noHints, nil), id).Get("fill")
	return fill
}

// TestLayersAcrossSheets: layers of one name are one layer in all sheets, those without a name never are.
func TestLayersAcrossSheets(t *testing.T) {
	doc := parseTree(t)
	for _, c := range []struct{ first, second, want string }{
		{"@layer x,y;", "@layer y{#a1{fill:y}} @layer x{#a1{fill:x}}", "y"},
		{"@layer x{#a1{fill:x}}", "@layer y{#a1{fill:y}} @layer x{#a1#a1{fill:xx}}", "y"},
		{"@layer{#a1{fill:one}}", "@layer{#a1{fill:two}}", "two"},
		{"@layer x{#a1{fill:x!important}}", "#a1{fill:none!important}", "x"},
		{"@layer x.y{#a1{fill:y}}", "@layer x{@layer z{#a1{fill:z}}}", "z"},
		{"#a1{fill:plain}", "@layer x{#a1#a1#a1{fill:x}}", "plain"},
	} {
		if got := fillOf(t, doc, "a1", c.first, c.second); got != c.want {
			t.Errorf("%s and %s: %q, want %q", c.first, c.second, got, c.want)
		}
	}
}

// TestTagsOfHTMLKnowNoCase: in a page DIV means <div>; in XML it means nothing.
func TestTagsOfHTMLKnowNoCase(t *testing.T) {
	doc := parseTree(t)
	doc.Root.Walk(func(n *markup.Node) bool {
		n.HTML, n.Lax = n.ID() == "a1", n.ID() == "a1"
		return true
	})
	for id, want := range map[string]string{"a1": "red", "b1": ""} {
		if got := fillOf(t, doc, id, "RECT{fill:red}"); got != want {
			t.Errorf("#%s: %q, want %q", id, got, want)
		}
	}
}

// TestNestingHasAnEnd: selectors that double with every level are left out before they grow.
func TestNestingHasAnEnd(t *testing.T) {
	const levels = 30
	s := ParseSheet(strings.Repeat("a,b{& &,& &{", levels)+"fill:red"+strings.Repeat("}}", levels), Medium{})
	if len(s.Skipped) == 0 || len(s.Rules) > 0 {
		t.Errorf("%d rules, skipped %v", len(s.Rules), s.Skipped)
	}
	if s = ParseSheet(strings.Repeat("a{", 500)+"fill:red"+strings.Repeat("}", 500), Medium{}); len(s.Rules) > 0 {
		t.Error("500 levels are kept")
	}
}

// TestHostileSheets: what costs more the more there is of it is cut off, and the rest still holds.
func TestHostileSheets(t *testing.T) {
	const many = 100_000
	for name, sheet := range map[string]string{
		"layers in a row":      "@layer " + strings.Repeat("x,", many) + "y;",
		"layers of many names": "@layer " + numbered("x%d,", many) + "y;",
		"layers in layers":     "@layer " + strings.Repeat("x.", many) + "y;",
		"brackets":             "@supports " + strings.Repeat("(", many) + strings.Repeat(")", many) + "{a{fill:red}}",
		"brackets of media":    "@media " + strings.Repeat("(", many) + strings.Repeat(")", many) + "{a{fill:red}}",
		"long selectors":       strings.Repeat("a,", 4000) + "b{" + strings.Repeat("c{fill:red}", many) + "}",
		"declarations":         "a{" + strings.Repeat("x y z;", many) + "}",
		"rules in a rule":      "g{" + strings.Repeat("&:hover{fill:blue}", many) + "}",
	} {
		if got := fillOf(t, parseTree(t), "a1", sheet+" #a1{fill:lime}"); got != "lime" {
			t.Errorf("%s: the rule behind gives %q", name, got)
		}
	}
}

func numbered(format string, n int) string {
	var b strings.Builder
	for i := range n {
		fmt.Fprintf(&b, format, i)
	}
	return b.String()
}

// page is a page-like tree of many elements: lists of entries with classes.
func page(n int) *markup.Document {
	var b strings.Builder
	b.WriteString(`<svg xmlns="http://www.w3.org/2000/svg">`)
	for i := 0; i < n; i += 10 {
		fmt.Fprintf(&b, `<g class="card c%d"><g class="head"><text class="title t%d">x</text></g><g class="body"><rect class="row odd"/><rect class="row"/><rect class="row odd last"/><text>y</text></g><g class="foot u%d"><path/></g></g>`, i%700, i%300, i%90)
	}
	b.WriteString(`</svg>`)
	d, err := markup.ParseXMLWithin([]byte(b.String()), limit.New(limit.Limits{}))
	if err != nil {
		panic(err)
	}
	return d
}

// sheetOf is a style sheet of many rules as frameworks write them.
func sheetOf(rules int) string {
	var b strings.Builder
	for i := 0; i < rules; i += 6 {
		fmt.Fprintf(&b, ".c%[1]d{fill:red;--x:%[1]d} .card .t%[1]d:hover{fill:blue} .card>.head~.u%[1]d{stroke:red} "+
			".c%[1]d .row:nth-child(2n+1){opacity:.5} text.t%[1]d,rect.u%[1]d{color:red;font-size:14px} .u%[1]d:not(.head) "+
			"path{stroke-width:%[1]d}\n", i)
	}
	return b.String()
}

func BenchmarkCascade(b *testing.B) {
	for _, n := range []struct{ elements, rules int }{{5000, 4000}, {50000, 4000}, {5000, 40000}} {
		doc, sheet := page(n.elements), ParseSheet(sheetOf(n.rules), Medium{Width: 1280, Height: 800})
		b.Run(fmt.Sprintf("%d elements %d rules", n.elements, n.rules), func(b *testing.B) {
			for b.Loop() {
				c := NewCascade(doc.Root, []*Sheet{sheet}, noHints, nil)
				var walk func(n *markup.Node, parent *Style)
				walk = func(n *markup.Node, parent *Style) {
					if n.Kind == markup.Element {
						s := c.Style(n, parent)
						for _, k := range n.Children {
							walk(k, s)
						}
					}
				}
				walk(doc.Root, nil)
			}
		})
	}
}

// BenchmarkSiblings matches rules that look back over many siblings.
func BenchmarkSiblings(b *testing.B) {
	for _, n := range []int{800, 8000, 80000} {
		doc, err := markup.ParseXMLWithin([]byte(`<svg xmlns="http://www.w3.org/2000/svg"><g>`+strings.Repeat("<rect/>",
			n)+`</g></svg>`), limit.New(limit.Limits{}))
		if err != nil {
			b.Fatal(err)
		}
		sheet := ParseSheet("circle ~ rect{fill:red} rect.x ~ rect{fill:blue} rect:nth-last-child(3n) ~ rect{fill:lime}",
			Medium{})
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			for b.Loop() {
				c := NewCascade(doc.Root, []*Sheet{sheet}, noHints, nil)
				for _, n := range doc.Root.Children[0].Children {
					c.Style(n, nil)
				}
			}
		})
	}
}
