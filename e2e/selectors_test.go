package e2e

import (
	"fmt"
	"path/filepath"
	"strings"
	"testing"

	"archetyp/core/css"
	"archetyp/core/markup"

	"github.com/chromedp/chromedp"
)

// harbourTree has an element for everything that selectors ask about.
const harbourTree = `<svg xmlns="http://www.w3.org/2000/svg" id="root" class="page" width="90" height="90" lang="en">
<g id="pier" class="dock open" data-berths="12 14 20" data-kind="ferry-slip"><rect id="a" class="berth"/><rect id="b" class="berth taken"/><circle id="c" class="buoy red"/><rect id="d" class="berth"/>
<g id="inner" class="dock"><path id="e"/><path id="f" class="berth taken" data-kind="ferry"/><text id="g">Quay<tspan id="h" class="red">3</tspan></text><circle id="i" class="buoy"/></g></g>
<g id="empty"></g><g id="blank"> </g>
<a id="l" href="#pier"><rect id="m" class="berth" data-Name="Big Boat"/></a>
<linearGradient id="n"><stop id="o"/><stop id="p" class="last"/></linearGradient>
<g id="list" class="list"><rect id="q1"/><rect id="q2"/><circle id="q3"/><rect id="q4" class="buoy"/><circle id="q5"/><rect id="q6"/><rect id="q7"/><circle id="q8" class="red buoy"/><rect id="q9"/></g>
<g id="x:1" class="é日 ui_1 -dash" data-kind="FERRY"/><rect id="z" disabled="disabled" data-empty=""/></svg>`

// someSelectors are simple selectors, joined in several ways, and what else there is.
func someSelectors() []string {
	simple := []string{"*", "rect", "g", "circle", "path", "linearGradient", "lineargradient", "RECT", "#a", "#pier",
		"#x\\:1", ".berth", ".buoy", ".red", ".dock.open", ".open.dock", ".Berth",
		".\\e9日", ".ui_1", ".-dash", "[class]", "[data-kind]", "[data-kind=ferry]", "[data-kind='ferry-slip']", "[data-kind|=ferry]", "[data-berths~='14']", "[data-berths~='1']", "[data-kind^=ferry]",
		"[data-kind$=slip]", "[data-kind*=ry-s]", "[data-kind=ferry i]", "[data-Name]", "[data-name]", "[data-empty]", "[data-empty='']", "[data-empty^='']", "[class~='']", "[id|=x]", "[lang=en]",
		":first-child", ":last-child", ":only-child", ":empty", ":root", ":not(:root)", ":first-of-type", ":last-of-type", ":only-of-type", ":nth-child(2)", ":nth-child(odd)", ":nth-child(even)", ":nth-child(3n+1)",
		":nth-child(-n+3)", ":nth-child(n+7)", ":nth-last-child(2)", ":nth-last-child(2n+1)", ":nth-of-type(2)", ":nth-of-type(2n)", ":nth-last-of-type(3)", ":nth-child(2 of .buoy)", ":nth-child(odd of rect, circle)",
		":nth-last-child(1 of .buoy)", ":nth-child(0)", ":nth-child(-5)", ":nth-child(+3n - 2)", ":is(rect, circle).buoy", ":where(.dock) > rect", ":not(.berth, .buoy)", ":not(g *)", ":is()", ":where()", ":has(> circle)",
		":has(+ circle)", ":has(~ .red)", "g:has(.taken)", "g:not(:has(rect))", ":has(> rect + circle)", "rect:has(+ rect)", ":link", ":any-link", ":hover", ":focus-visible", ":disabled", ":enabled", ":checked",
		":defined", "rect:nth-child(2)", "tspan", "text tspan", "a rect", "svg", "svg *", "svg > *"}
	out := append([]string(nil), simple...)
	for i, s := range []string{"rect", ".berth", ".buoy", "#pier", "g", ":first-child", ".dock", "[data-kind]",
		":not(.berth)", "circle"} {
		for k, o := range []string{"circle", ".taken", "rect", "#inner", ":last-child", ".red"} {
			join := []string{" ", " > ", " + ", " ~ "}
			out = append(out, s+join[(i+k)%4]+o, o+join[(i+k+1)%4]+s)
		}
	}
	for _, s := range []string{"rect", ".berth", "circle"} {
		for _, o := range []string{"circle", ".buoy", "path", "text"} {
			for _, j := range []string{" ", ">", "+", "~"} {
				out = append(out, "g "+s+j+o, s+j+o+" ~ *", ":is("+s+j+o+", #m)")
			}
		}
	}
	return append(out, "rect,circle", "rect , .none", ", rect", "rect,", "rect >", "> rect", "rect >> circle", "rect..a",
		".", "#", "#1", "[", "[a=]", "[a=b c]", "::before", "rect::after", ":nope", ":nth-child()",
		":nth-child(n of)", ":nth-child(2n +)", ":not()", ":has()", ":has(:has(a))", "*|*", "*|rect", "|rect", "svg|rect", "rect*", "a:b:c", "..", "a{}", "/**/rect/**/.berth", "rect/**/.berth", "rect\n>\tcircle", "*.berth", "*#a",
		"a b c d e", "g g circle", "g > g > circle", "svg g rect + rect ~ circle", ":is(g, a) > :where(rect, "+
			"circle):not(.taken)", "[class='dock open']", "[ class = dock ]", "[class=\"dock\"]", ":NOT(.berth)", ":First-Child", ":is(:hover, rect)",
		":is(:nope, rect)", ":not(:nope)", ":where(rect, :nope)", ":lang(en)", ":nth-child(3 of :is(rect))", ".red:not(.buoy)", "circle.red", "circle.red.buoy", "g#pier.dock[data-kind]")
}

// TestSelectorsAgreeWithChromium asks both of every element whether each selector means it.
func TestSelectorsAgreeWithChromium(t *testing.T) {
	t.Parallel()
	ctx := chromium(t)
	dir := t.TempDir()
	write(t, dir, "tree.svg", harbourTree)
	open(t, ctx, filepath.Join(dir, "tree.svg"), 90, 90, 1)
	selectors := someSelectors()
	if len(selectors) < 300 {
		t.Fatalf("only %d selectors", len(selectors))
	}
	theirs, err := chromedp.Run(ctx, chromedp.Evaluate[[]string](fmt.Sprintf(`(%s).map(s => { try {
		return [...document.querySelectorAll('*')].filter(e => e.matches(s)).map(e => e.id).join(' ') } catch (e) { return 'none' } })`, jsonText(t, selectors))))
	if err != nil {
		t.Fatal(err)
	}
	doc, err := markup.ParseXML([]byte(harbourTree))
	if err != nil {
		t.Fatal(err)
	}
	for i, s := range selectors {
		ours := "none"
		if sel, err := css.ParseSelector(s); err == nil {
			var ids []string
			match := css.NewMatcher(nil, nil)
			doc.Root.Walk(func(n *markup.Node) bool {
				if n.Kind == markup.Element && match.Matches(sel, n) {
					ids = append(ids, n.ID())
				}
				return true
			})
			ours = strings.Join(ids, " ")
		}
		if ours != theirs[i] {
			t.Errorf("%q\nmeans  %s\nnot    %s", s, ours, theirs[i])
		}
	}
}

// cascades are style sheets for three rects of the classes a, b and "a b", the last with a style attribute that says
// stroke: teal, inside a <g id="g" class="p">.
var cascades = []string{
	".a{fill:red} .b{fill:blue}", ".b{fill:blue} .a{fill:red}", "rect.a{fill:red} .b{fill:blue}", "#t{fill:red} .a.b{fill:blue}", ".a{fill:red!important} #t{fill:blue}",
	".a{stroke:red}", ".a{stroke:red!important}", ".p{fill:green}", ".p{fill:green} rect{fill:inherit}", ".p{fill:green} rect{fill:initial}", ".p{fill:green} .a{fill:unset}", ".p{--c:orange} .a{fill:var(--c)}", ".a{fill:var(--no, teal)}",
	".a{fill:red; fill:var(--no)}", ".p{fill:lime} .a{fill:var(--no)}",
	// layers
	"@layer x{.a{fill:red}} .a{fill:blue}", ".a{fill:blue} @layer x{.a.a.a{fill:red}}", "@layer x,y; @layer " +
		"y{.a{fill:blue}} @layer x{.a{fill:red}}", "@layer y{.a{fill:blue}} @layer x{.a{fill:red}}",
	"@layer x{.a{fill:red!important}} .a{fill:blue!important}", "@layer x,y; @layer x{.a{fill:red!important}} @layer " +
		"y{.a{fill:blue!important}}", "@layer x{@layer in{.a{fill:red}} .a{fill:blue}}", "@layer x{.a{fill:blue} @layer " +
		"in{.a.a{fill:red}}}",
	"@layer x.in{.a{fill:red}} @layer x{.a{fill:blue}}", "@layer{.a{fill:red}} @layer{.a{fill:blue}}", "@layer x{.a{fill:red}} @layer y{.a{fill:blue}} @layer x{.a{fill:lime}}", "@layer x{.a{stroke:red!important}}", "@layer x{.a{stroke:red}} .a{stroke:blue}",
	"@layer a.b,c; @layer c{.a{fill:red}} @layer a{.a{fill:blue} @layer b{.a{fill:lime}}}",
	// nesting
	".p{.a{fill:red}}", ".p{& .a{fill:red}}", ".p{>.a{fill:red}}", ".a{&.b{fill:red}}", ".a{.b&{fill:red}}", ".a{fill:red; &{fill:blue} fill:lime}", ".a{fill:red; &.b{fill:blue} fill:lime}", ".p{& > .a, & > .b{fill:red}} .b{fill:blue}", ".a,#g{& .b{fill:red}} .p .b{fill:blue}",
	".p{@media (min-width:1px){fill:red; .b{fill:blue}}}", ".p{@layer x{.a{fill:red}} .b{fill:blue}}", ".p{rect{&.a{&.b{fill:red}}}}", "rect{:not(&){fill:red} fill:blue}", ".p{.a{fill:red}.b{fill:blue}}", ".a{color:red;--x:{y};fill:blue}", "& .a{fill:red}", ".p{.a:hover{fill:red} .a{fill:blue}}",
	".p{+ .a{fill:red} .a + &{fill:blue} .a + .b{fill:lime}}", ".p { .a { fill: red } ; fill: blue }", ".p{.nope:bad{fill:red} .b{fill:blue}}", ".p{@supports (fill:red){.a{fill:red}}}", ".a{@media print{fill:red} fill:blue}",
	// conditions
	"@supports (fill:red){.a{fill:red}}", "@supports not (fill:red){.a{fill:red}}", "@supports (fill:red) and (not " +
		"(-ms-x:y)){.a{fill:red}}", "@supports (-ms-x:y) or (fill:red){.a{fill:red}}", "@supports ((fill:red) and " +
		"(-ms-x:y)) or (stroke:red){.a{fill:red}}",
	"@supports selector(:focus-visible){.a{fill:red}}", "@supports selector(:nope){.a{fill:red}}", "@supports not " +
		"selector(a:nope){.a{fill:red}}", "@supports (fill:red) and (fill:red) or (fill:red){.a{fill:red}}", "@supports fill:red{.a{fill:red}}", "@supports (not (-moz-x:y)) and (display:grid){.a{fill:red}}",
	"@supports not (-ms-x:y) and (fill:red){.a{fill:red}}", "@supports NOT (-ms-x:y){.a{fill:red}}", "@supports (fill:red)\nAND (stroke:red){.a{fill:red}}", "@supports (fill:red) and not (-ms-x:y){.a{fill:red}}", "@supports (){.a{fill:red}}",
	"@media screen and not (min-width:95px){.a{fill:red}}", "@media (min-width:1px) and not (min-width:95px){.a{fill:red}}", "@media SCREEN AND (MIN-WIDTH:1px){.a{fill:red}}", "@media screen /* c */ and (color){.a{fill:red}}", "@media not print{.a{fill:red}}", "@media not all{.a{fill:red}}", "@media screen and (min-width:80px){.a{fill:red}}", "@media (min-width:95px){.a{fill:red}}", "@media (width >= 80px){.a{fill:red}}", "@media (80px <= width < 90px){.a{fill:red}}", "@media (80px < width <= 90px){.a{fill:red}}",
	"@media (width = 90px){.a{fill:red}}", "@media (100px > width){.a{fill:red}}", "@media (min-width:95px) or " +
		"(max-width:95px){.a{fill:red}}", "@media not (min-width:95px){.a{fill:red}}", "@media (not (min-width:95px)) and " +
		"(color){.a{fill:red}}", "@media (nope){.a{fill:red}}", "@media not (nope){.a{fill:red}}",
	"@media (nope) or (width){.a{fill:red}}", "@media print, (width){.a{fill:red}}", "@media only screen{.a{fill:red}}", "@media not screen and (min-width:95px){.a{fill:red}}", "@media (min-width:5em) and (max-width:6em){.a{fill:red}}", "@media (orientation:portrait){.a{fill:red}}", "@media (min-aspect-ratio:1/1){.a{fill:red}}",
	"@media (prefers-reduced-motion:no-preference){.a{fill:red}}", "@media (prefers-color-scheme:dark){.a{fill:red}}", "@media (min-resolution:2dppx){.a{fill:red}}", "@media (max-resolution:96dpi){.a{fill:red}}", "@media (width) and (min-width:1px) or (color){.a{fill:red}}", "@media{.a{fill:red}}",
	// what is no CSS
	".a{fill:red} }.b{fill:blue}", ".a{fill:red;;fill}", ".a{fill:red}.b:nope{fill:blue}", ".a,.b:nope{fill:red}", ".a{fill:red", "@nope{.a{fill:red}} .b{fill:blue}", "<!-- .a{fill:red} -->", ".a{fill:red !important;fill:blue}", ".a{;fill:red}", ".a{fill:blue;}}.b{fill:red}",
}

// TestCascadeAgreesWithChromium compares fill and stroke of three elements under each style sheet.
func TestCascadeAgreesWithChromium(t *testing.T) {
	t.Parallel()
	ctx := chromium(t)
	dir := t.TempDir()
	body := func(sheet string) string {
		return `<svg xmlns="http://www.w3.org/2000/svg" width="90" height="90"><style>` + strings.NewReplacer("&", "&amp;",
			"<", "&lt;").Replace(sheet) +
			`</style><g id="g" class="p"><rect id="s" class="a"/><rect id="u" class="b"/><rect id="t" class="a b" style="stroke:teal"/></g></svg>`
	}
	write(t, dir, "cascade.svg", body(""))
	open(t, ctx, filepath.Join(dir, "cascade.svg"), 90, 90, 1)
	theirs, err := chromedp.Run(ctx, chromedp.Evaluate[[]string](fmt.Sprintf(`(%s).map(s => {
		document.querySelector('style').textContent = s;
		return ['s','u','t'].map(id => { const c = getComputedStyle(document.getElementById(id)); return c.fill + '/' + c.stroke }).join(' | ') })`, jsonText(t, cascades))))
	if err != nil {
		t.Fatal(err)
	}
	named := map[string]string{"red": "rgb(255, 0, 0)", "blue": "rgb(0, 0, 255)", "lime": "rgb(0, 255, 0)",
		"green": "rgb(0, 128, 0)", "teal": "rgb(0, 128, 128)", "orange": "rgb(255, 165, 0)"}
	for i, sheet := range cascades {
		doc, err := markup.ParseXML([]byte(body(sheet)))
		if err != nil {
			t.Fatal(sheet, err)
		}
		parsed := css.ParseSheet(sheet, css.Medium{Width: 90, Height: 90})
		cascade := css.NewCascade(doc.Root, []*css.Sheet{parsed}, func(*markup.Node) []css.Decl { return nil }, nil)
		var ours []string
		var walk func(n *markup.Node, parent *css.Style)
		walk = func(n *markup.Node, parent *css.Style) {
			if n.Kind != markup.Element {
				return
			}
			style := cascade.Style(n, parent)
			if n.Local == "rect" {
				value := func(prop, initial string) string {
					if v, _, ok := style.Get(prop); ok {
						return named[v]
					}
					return initial
				}
				ours = append(ours, value("fill", "rgb(0, 0, 0)")+"/"+value("stroke", "none"))
			}
			for _, c := range n.Children {
				walk(c, style)
			}
		}
		walk(doc.Root, nil)
		if got := strings.Join(ours, " | "); got != theirs[i] {
			t.Errorf("%s\ngives  %s\nnot    %s", sheet, got, theirs[i])
		}
	}
}
