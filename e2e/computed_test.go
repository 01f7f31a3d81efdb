package e2e

import (
	"encoding/json"
	"fmt"
	"net/url"
	"os"
	"path/filepath"
	"sort"
	"strconv"
	"strings"
	"testing"

	"archetyp/browser"
	"archetyp/core/css"
	styles "archetyp/core/css/computed"
	"archetyp/core/markup"
	"archetyp/core/read/page"
)

// judged are the properties that are compared: none of them depends on the layout.
var judged = strings.Fields(`color background-color background-image background-position-x background-position-y background-size background-repeat background-attachment
	background-origin background-clip background-blend-mode border-top-width border-right-width border-bottom-width border-left-width border-top-style border-right-style
	border-bottom-style border-left-style border-top-color border-right-color border-bottom-color border-left-color border-top-left-radius border-top-right-radius
	border-bottom-right-radius border-bottom-left-radius border-collapse border-image-source border-image-slice box-shadow box-sizing outline-color outline-style outline-width outline-offset
	display position float clear visibility opacity z-index overflow-x overflow-y cursor pointer-events user-select isolation mix-blend-mode filter backdrop-filter clip-path
	font-family font-size font-weight font-style font-stretch font-variant-caps font-variant-numeric font-variant-ligatures font-feature-settings font-kerning line-height letter-spacing word-spacing
	text-align text-decoration-line text-decoration-style text-decoration-color text-decoration-thickness text-transform text-indent text-shadow text-overflow text-rendering text-underline-offset
	white-space-collapse text-wrap-mode text-wrap-style word-break overflow-wrap hyphens tab-size quotes direction unicode-bidi writing-mode vertical-align
	list-style-type list-style-position list-style-image content counter-increment counter-reset caption-side empty-cells table-layout
	flex-direction flex-wrap flex-grow flex-shrink flex-basis order align-content align-items align-self justify-content justify-items justify-self row-gap column-gap
	grid-auto-flow grid-template-areas grid-row-start grid-row-end grid-column-start grid-column-end column-count column-width column-rule-style column-rule-color break-inside
	object-fit resize appearance touch-action scroll-behavior scroll-snap-type scroll-snap-align accent-color caret-color color-scheme will-change contain
	transition-property transition-duration transition-timing-function transition-delay animation-name animation-duration animation-timing-function animation-delay
	animation-iteration-count animation-direction animation-fill-mode transform-style backface-visibility mask-image
	fill fill-opacity fill-rule stroke stroke-width stroke-opacity stroke-linecap stroke-linejoin stroke-dasharray stop-color -webkit-font-smoothing -webkit-tap-highlight-color -webkit-line-clamp`)

// styleOf is what both say of one page in one medium.
type styleOf struct {
	pairs, same int
	reasons     map[string]int // property: theirs | ours
}

// theirs are the computed values of all elements in document order, as a browser without scripts has them.
type theirs struct {
	Words    []string
	Tags     []int
	Values   [][]int
	Parents  []int
	Initial  []int
	Inherits []bool
}

const askStyles = `(() => {
  const props = %s, words = [], at = new Map();
  const word = w => { let i = at.get(w); if (i === undefined) { i = words.length; words.push(w); at.set(w, i); } return i; };
  const all = [...document.querySelectorAll('*')], index = new Map(all.map((e, i) => [e, i]));
  const tags = [], values = [], parents = [];
  for (const e of all) {
    const cs = getComputedStyle(e);
    tags.push(word(e.localName));
    parents.push(e.parentElement ? index.get(e.parentElement) : -1);
    values.push(props.map(p => word(cs.getPropertyValue(p))));
  }
  return JSON.stringify({Words: words, Tags: tags, Values: values, Parents: parents});
})()`

// initialValues are those of the judged properties, as the browser prints them.
func initialValues(t testing.TB, b *browser.Browser) []string {
	t.Helper()
	dir := t.TempDir()
	write(t, dir, "blank.html", "<!doctype html><x-a></x-a>")
	if err := b.Show("file://"+filepath.Join(dir, "blank.html"), 800, 600, 1); err != nil {
		t.Fatal(err)
	}
	out, err := browser.Ask[string](b, fmt.Sprintf(`JSON.stringify((() => { const cs = getComputedStyle(document.querySelector('x-a')); return %s.map(p => cs.getPropertyValue(p)); })())`, jsonText(t, judged)))
	if err != nil {
		t.Fatal(err)
	}
	var list []string
	unmarshal(t, out, &list)
	return list
}

// ownPage reads a file as the program does.
func ownPage(t testing.TB, file string, m css.Medium) *page.Page {
	t.Helper()
	data, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	p, err := page.Read(data, page.Options{Name: file, URL: "file://" + file, Medium: m, Load: loadFile})
	if err != nil {
		t.Fatalf("%s: %v", file, err)
	}
	return p
}

func loadFile(address string) (page.Loaded, error) {
	u, err := url.Parse(address)
	if err != nil {
		return page.Loaded{}, err
	}
	if u.Scheme != "file" {
		return page.Loaded{}, fmt.Errorf("only files are read here")
	}
	data, err := os.ReadFile(u.Path)
	return page.Loaded{Data: data}, err
}

// compareStyles holds a page against the browser.
func compareStyles(t testing.TB, b *browser.Browser, file string, m css.Medium, initial []string) styleOf {
	t.Helper()
	out := styleOf{reasons: map[string]int{}}
	if err := b.Scheme(m.Dark); err != nil {
		t.Fatal(err)
	}
	if err := b.Show("file://"+file, int(m.Width), int(m.Height), 1); err != nil {
		t.Fatal(err)
	}
	text, err := browser.Ask[string](b, fmt.Sprintf(askStyles, jsonText(t, judged)))
	if err != nil {
		t.Fatal(err)
	}
	var they theirs
	if err := json.Unmarshal([]byte(text), &they); err != nil {
		t.Fatal(err)
	}
	ours := ownPage(t, file, m)
	var nodes []*markup.Node
	ours.Markup.Root.Walk(func(n *markup.Node) bool {
		if n.Kind == markup.Element {
			nodes = append(nodes, n)
		}
		return true
	})
	if len(nodes) != len(they.Tags) {
		for i := range min(len(nodes), len(they.Tags)) {
			if !strings.EqualFold(nodes[i].Local, they.Words[they.Tags[i]]) {
				t.Errorf("%s: element %d is %s, and ours %s at %v", file, i, they.Words[they.Tags[i]], nodes[i].Local, ours.Markup.Position(nodes[i].Offset))
				break
			}
		}
		t.Errorf("%s: %d elements, and ours %d", file, len(they.Tags), len(nodes))
		return out
	}
	own := make([][]string, len(nodes))
	for i, n := range nodes {
		s := ours.Style(n)
		own[i] = make([]string, len(judged))
		for k, p := range judged {
			own[i][k], _ = s.Get(p)
		}
	}
	for i := range nodes {
		for k, p := range judged {
			they1 := they.Words[they.Values[i][k]]
			us := own[i][k]
			differs := us != initial[k] || they1 != initial[k]
			if up := they.Parents[i]; styles.Inherited(p) && up >= 0 {
				differs = us != own[up][k] || they1 != they.Words[they.Values[up][k]]
			}
			if !differs {
				continue
			}
			out.pairs++
			if us == they1 {
				out.same++
			} else {
				out.reasons[fmt.Sprintf("%s on <%s>: %q, and ours %q", p, nodes[i].Local, they1, us)]++
			}
		}
	}
	return out
}

// worst lists the differences that stand most often.
func (s styleOf) worst(n int) string {
	var list []string
	for r := range s.reasons {
		list = append(list, r)
	}
	sort.Slice(list, func(i, j int) bool {
		if s.reasons[list[i]] != s.reasons[list[j]] {
			return s.reasons[list[i]] > s.reasons[list[j]]
		}
		return list[i] < list[j]
	})
	var b strings.Builder
	for _, r := range list[:min(n, len(list))] {
		fmt.Fprintf(&b, "\n      %4d× %s", s.reasons[r], r)
	}
	return b.String()
}

// TestComputedStylesAgreeWithChromium holds the computed styles of pages nobody here wrote against a browser's.
func TestComputedStylesAgreeWithChromium(t *testing.T) {
	t.Parallel()
	pages := foreignPages(t)
	b, err := browser.Open(t.Context())
	if err != nil {
		need(t, "chromium", "chromium-browser", "google-chrome")
		t.Fatal(err)
	}
	defer b.Close()
	initial := initialValues(t, b)
	if err := b.Scripts(false); err != nil {
		t.Fatal(err)
	}
	pairs, same := 0, 0
	for _, file := range pages {
		p, s, most := 0, 0, 0
		worst := ""
		for _, m := range windows {
			r := compareStyles(t, b, file, m, initial)
			p, s = p+r.pairs, s+r.same
			if n := r.pairs - r.same; n > most {
				most, worst = n, r.worst(worstShown())
			}
		}
		pairs, same = pairs+p, same+s
		agree := float64(s) / float64(max(1, p))
		t.Logf("%6.2f %% of %7d  %s%s", 100*agree, p, file, worst)
		if agree < 0.98 {
			t.Errorf("%s: %.2f %%", file, 100*agree)
		}
	}
	t.Logf("%.3f %% of %d pairs on %d pages", 100*float64(same)/float64(max(1, pairs)), pairs, len(pages))
	if float64(same) < 0.995*float64(pairs) {
		t.Errorf("%.3f %% of all", 100*float64(same)/float64(pairs))
	}
}

// windows are those in which every page is looked at.
var windows = []css.Medium{{Width: 390, Height: 844}, {Width: 1280, Height: 800, Dark: true}, {Width: 390, Height: 844, Dark: true}, {Width: 1280, Height: 800}}

// documentation is what packages of Debian bring along below /usr/share/doc: haproxy-doc, fwupd-doc, diffutils-doc,
// asciidoctor-doc, docbook-xsl-doc-html and freefem-doc.
var documentation = []string{"haproxy/lua/genindex.html", "haproxy/html/intro.html", "libfwupd/method.Client.self_sign.html", "diffutils/Output-Formats.html", "diffutils/Comparison.html",
	"asciidoctor-doc/html/Asciidoctor/Extensions.html", "asciidoctor-doc/html/Asciidoctor/PreprocessorReader.html", "docbook-xsl-doc-html/doc/fo/general.html",
	"docbook-xsl-doc-html/doc/html/glossary.collection.html", "freefem-doc/freefem/freefem001.html", "freefem-doc/freefem/freefem004.html"}

// foreignPages are pages of packages of Debian, and pages made of the style sheets of CSS frameworks; those that
// ARCHETYP_PAGES names instead: files, or "frameworks" for longer pages of those.
func foreignPages(t testing.TB) (files []string) {
	t.Helper()
	switch list := os.Getenv("ARCHETYP_PAGES"); list {
	case "":
	case "frameworks":
		return frameworkPages(t, 700)
	default:
		return strings.Fields(list)
	}
	for _, f := range documentation {
		f = filepath.Join("/usr/share/doc", f)
		if _, err := os.Stat(f); err != nil {
			lacking(t, "%s is not installed", f)
		}
		files = append(files, f)
	}
	return append(files, frameworkPages(t, 250)...)
}

func worstShown() int {
	if n, err := strconv.Atoi(os.Getenv("ARCHETYP_WORST")); err == nil {
		return n
	}
	return 5
}
