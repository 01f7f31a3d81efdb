package page_test

import (
	"errors"
	"fmt"
	"strings"
	"testing"
	"time"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/markup"
	"archetyp/core/read/page"
)

// readPage reads a page with sheets beside it, by name.
func readPage(t testing.TB, html string, m css.Medium, sheets map[string]string) *page.Page {
	t.Helper()
	if m.Width == 0 {
		m.Width, m.Height = 1280, 800
	}
	p, err := page.Read([]byte(html), page.Options{Name: "page.html", URL: "http://ferry.example/dir/page.html", Medium: m, Load: func(address string) (page.Loaded, error) {
		text, ok := sheets[strings.TrimPrefix(address, "http://ferry.example/")]
		if !ok {
			return page.Loaded{}, errors.New("it is not there")
		}
		return page.Loaded{Data: []byte(text), ContentType: "text/css"}, nil
	}})
	if err != nil {
		t.Fatal(err)
	}
	return p
}

// of is a computed value of the first element of a selector.
func of(t testing.TB, p *page.Page, selector, property string) string {
	t.Helper()
	sel, err := css.ParseSelector(selector)
	if err != nil {
		t.Fatal(err)
	}
	nodes := p.Nodes(sel)
	if len(nodes) == 0 {
		t.Fatalf("nothing matches %s", selector)
	}
	v, _ := p.Computed(nodes[0], property)
	return v
}

// TestComputed holds computed values of one element: `p`, in a body, under a style sheet.
func TestComputed(t *testing.T) {
	for _, c := range []struct{ sheet, property, want string }{
		{"p{color:teal}", "color", "rgb(0, 128, 128)"},
		{"body{color:teal}", "color", "rgb(0, 128, 128)"},
		{"p{margin:1em 2em}", "margin-right", "32px"},
		{"p{margin:1em 2em}", "margin", "16px 32px"},
		{"html{font-size:62.5%} p{font-size:1.6rem}", "font-size", "16px"},
		{"body{font-size:20px} p{font-size:1.5em}", "font-size", "30px"},
		{"body{font-size:20px} p{font-size:smaller}", "font-size", "16.6667px"},
		{"p{font:italic 700 20px/1.5 Georgia, 'Times New Roman', serif}", "font-family", `Georgia, "Times New Roman", serif`},
		{"p{font:italic 700 20px/1.5 Georgia}", "line-height", "30px"},
		{"p{line-height:150%;font-size:10px}", "line-height", "15px"},
		{"p{font-weight:bold} p{font-weight:bolder}", "font-weight", "700"},
		{"body{font-weight:300} p{font-weight:bolder}", "font-weight", "400"},
		{"p{width:calc(100% - 2rem)}", "width", "calc(100% - 32px)"},
		{"p{width:min(50vw, 400px)}", "width", "400px"},
		{"p{padding:clamp(8px, 1vw, 20px)}", "padding-top", "12.8px"},
		{"p{width:round(17px, 5px);height:mod(17px,5px)}", "width", "15px"},
		{"p{height:mod(17px,5px)}", "height", "2px"},
		{"p{rotate:atan2(1, 1)}", "rotate", "45deg"},
		{"p{opacity:calc(1 / 3)}", "opacity", "0.333333"},
		{"p{border:thin solid}", "border-top-width", "1px"},
		{"p{border:1.9px solid}", "border-left-width", "1px"},
		{"p{border:3px}", "border-left-width", "0px"},
		{"p{border-color:red}", "border-color", "rgb(255, 0, 0)"},
		{"p{border-radius:1px 2px / 3px}", "border-top-right-radius", "2px 3px"},
		{"p{box-shadow:inset 0 1px 2px #0008, 1em 0 red}", "box-shadow", "rgba(0, 0, 0, 0.533) 0px 1px 2px 0px inset, rgb(255, 0, 0) 16px 0px 0px 0px"},
		{"p{color:#123;box-shadow:0 0 1px}", "box-shadow", "rgb(17, 34, 51) 0px 0px 1px 0px"},
		{"p{background:url(a.png) right 10px top / cover no-repeat, #fff}", "background-position-x", "calc(100% - 10px), 0%"},
		{"p{background:url(a.png) center/50% no-repeat}", "background-image", `url("http://ferry.example/dir/a.png")`},
		{"p{background:linear-gradient(to bottom, red, blue 50%)}", "background-image", "linear-gradient(rgb(255, 0, 0), rgb(0, 0, 255) 50%)"},
		{"p{transition:opacity .2s ease-in 100ms, color 1s}", "transition-delay", "0.1s, 0s"},
		{"p{animation:spin 1s linear infinite}", "animation-name", "spin"},
		{"p{flex:1}", "flex-basis", "0%"},
		{"p{grid-area:1 / 2}", "grid-column-start", "2"},
		{"p{grid:'a b' 40px 'c d' / 1fr 2fr}", "grid-template-rows", "40px auto"},
		{"p{transform:rotate(90deg) scale(2)}", "transform", "matrix(0, 2, -2, 0, 0, 0)"},
		{"p{transform:translateX(50%)}", "transform", "translatex(50%)"},
		{"p{filter:blur(.5em) drop-shadow(0 1px 2px red)}", "filter", "blur(8px) drop-shadow(rgb(255, 0, 0) 0px 1px 2px)"},
		{"p{margin-inline:auto 1px}", "margin-right", "1px"},
		{"p{margin-inline-start:9px;direction:rtl}", "margin-right", "9px"},
		{"p{inline-size:9px;writing-mode:vertical-rl}", "height", "9px"},
		{"p{float:left;display:inline}", "display", "block"},
		{"p{overflow-x:hidden}", "overflow-y", "auto"},
		{"p{white-space:pre-line}", "white-space-collapse", "preserve-breaks"},
		{"p{text-decoration:underline dotted red}", "text-decoration-style", "dotted"},
		{"p{all:unset}", "display", "inline"},
		{"p{list-style:none}", "list-style-type", "none"},
		{"p{font-variant:small-caps tabular-nums}", "font-variant-caps", "small-caps"},
		// custom properties
		{":root{--a:teal} p{color:var(--a)}", "color", "rgb(0, 128, 128)"},
		{"p{color:var(--none, teal)}", "color", "rgb(0, 128, 128)"},
		{"p{--a:var(--b);--b:var(--a);color:var(--a, teal)}", "color", "rgb(0, 128, 128)"},
		{"body{color:red} p{color:blue;color:var(--none)}", "color", "rgb(255, 0, 0)"},
		{":root{--s:1px solid} p{border:var(--s) red}", "border-top-color", "rgb(255, 0, 0)"},
		{":root{--n:4} p{padding:calc(var(--n) * 2px)}", "padding-left", "8px"},
		{"p{--x: a  b ;}", "--x", "a  b"},
		{"@property --w{syntax:'<length>';inherits:false;initial-value:3px} body{--w:9px} p{width:var(--w)}", "width", "3px"},
		{"@property --w{syntax:'<length>';inherits:true;initial-value:3px} p{--w:1em}", "--w", "16px"},
		{"p{padding:env(safe-area-inset-top, 9px)}", "padding-top", "0px"},
		{"p{margin:0;margin:var(--x) 1px}", "margin-top", "0px"},
		// colours
		{"p{color:hsl(180 100% 25%)}", "color", "rgb(0, 128, 128)"},
		{"p{color:rgb(0 128 128 / 50%)}", "color", "rgba(0, 128, 128, 0.5)"},
		{"p{color:oklch(0.7 0.1 200)}", "color", "oklch(0.7 0.1 200)"},
		{"p{color:color-mix(in srgb, red, blue)}", "color", "color(srgb 0.5 0 0.5)"},
		{"p{color:color-mix(in oklch, red 25%, blue)}", "color", "oklch(0.495999 0.299332 295.347)"},
		{"p{color:rgb(from teal r g b / 0.5)}", "color", "color(srgb 0 0.501961 0.501961 / 0.5)"},
		{"p{color:oklch(from red calc(l / 2) c h)}", "color", "oklch(0.313978 0.257683 29.2339)"},
		{"p{color:light-dark(red, blue)}", "color", "rgb(255, 0, 0)"},
		{"p{color:teal;border-color:currentcolor}", "border-top-color", "rgb(0, 128, 128)"},
		{"p{color:CanvasText}", "color", "rgb(0, 0, 0)"},
		// the cascade
		{"p{color:red} .c{color:blue}", "color", "rgb(0, 0, 255)"},
		{"p{color:red!important} .c{color:blue}", "color", "rgb(255, 0, 0)"},
		{"@layer a{p{color:red!important}} p{color:blue!important}", "color", "rgb(255, 0, 0)"},
		{"p{display:revert}", "display", "block"},
		{"@layer a{p{color:red}} @layer b{p{color:revert-layer}}", "color", "rgb(255, 0, 0)"},
		{"@scope (body){p{color:red}} @scope (.no){p{color:blue}}", "color", "rgb(255, 0, 0)"},
		{"@scope (html) to (body){p{color:red}}", "color", "rgb(0, 0, 0)"},
		{"@scope (html){p{color:red}} @scope (body){:scope > p{color:lime}}", "color", "rgb(0, 255, 0)"},
		{"body{p{color:red;&.c{color:lime}}}", "color", "rgb(0, 255, 0)"},
		{"@container (min-width:1px){p{color:red}}", "color", "rgb(0, 0, 0)"},
		{"@media (prefers-color-scheme:dark){p{color:red}}", "color", "rgb(0, 0, 0)"},
		{"@supports (display:grid) and (not (foo:bar)){p{color:red}}", "color", "rgb(255, 0, 0)"},
		{"p{color:teal;color:nope;color:rgb(1,2)}", "color", "rgb(0, 128, 128)"},
		{"p{*zoom:1;filter:progid:X(a=1);width:10px\\9}", "width", "auto"},
	} {
		p := readPage(t, "<!doctype html><style>"+c.sheet+"</style><p class=c>x", css.Medium{}, nil)
		if got := of(t, p, "p", c.property); got != c.want {
			t.Errorf("%s\n  %s: %q, not %q", c.sheet, c.property, got, c.want)
		}
	}
}

// TestSchemes holds that a page answers for the scheme and the window it is looked at in.
func TestSchemes(t *testing.T) {
	html := "<!doctype html><style>:root{color-scheme:light dark} p{color:light-dark(red,blue)} @media (prefers-color-scheme:dark){p{background:#111}} @media (width>=600px){p{margin:9px}}</style><p>x"
	light := readPage(t, html, css.Medium{Width: 390, Height: 844}, nil)
	dark := readPage(t, html, css.Medium{Width: 1280, Height: 800, Dark: true}, nil)
	for _, c := range []struct {
		p                *page.Page
		color, back, gap string
	}{{light, "rgb(255, 0, 0)", "rgba(0, 0, 0, 0)", "16px"}, {dark, "rgb(0, 0, 255)", "rgb(17, 17, 17)", "9px"}} {
		if a, b, m := of(t, c.p, "p", "color"), of(t, c.p, "p", "background-color"), of(t, c.p, "p", "margin-top"); a != c.color || b != c.back || m != c.gap {
			t.Error(a, b, m)
		}
	}
}

// TestSheets holds where style comes from: links, imports with conditions, layers of imports, base, media.
func TestSheets(t *testing.T) {
	sheets := map[string]string{
		"css/a.css": `@layer low, high; @import "b.css" layer(high); @import url(c.css) layer(low) screen; @import "d.css" print; @import "e.css" supports(display: grid); p{border-top-color:red}`,
		"css/b.css": "p{color:red;margin:1px;background:url(x.png)}", "css/c.css": "p{color:blue;margin:2px;padding:3px}", "css/d.css": "p{opacity:0}", "css/e.css": "p{z-index:5}",
		"css/loop.css": `@import "loop2.css"; p{order:1}`, "css/loop2.css": `@import "loop.css"; p{order:2}`,
	}
	p := readPage(t, `<!doctype html><base href="/css/"><link rel=stylesheet href=a.css><link rel=stylesheet href=loop.css><link rel=stylesheet href=none.css>
		<link rel="alternate stylesheet" title=x href=d.css><link rel=stylesheet media=print href=d.css><style media="(max-width: 9px)">p{opacity:0}</style><style type="text/x">p{opacity:0}</style><p>x`, css.Medium{}, sheets)
	for prop, want := range map[string]string{"color": "rgb(255, 0, 0)", "margin-top": "1px", "padding-top": "3px", "opacity": "1", "z-index": "5", "order": "1",
		"background-image": `url("http://ferry.example/css/x.png")`, "border-top-color": "rgb(255, 0, 0)"} {
		if got := of(t, p, "p", prop); got != want {
			t.Errorf("%s: %q, not %q", prop, got, want)
		}
	}
	var all []string
	for _, w := range p.Warnings {
		all = append(all, w.Msg)
	}
	text := strings.Join(all, "\n")
	if !strings.Contains(text, "imports itself") || !strings.Contains(text, "none.css was not read") || len(all) != 2 {
		t.Error(text)
	}
}

// TestShadowRoots holds that a declared shadow root has its own sheets, and inherits from its host.
func TestShadowRoots(t *testing.T) {
	p := readPage(t, `<!doctype html><style>span{color:red} div{font-size:20px}</style><div><template shadowrootmode=open><style>span{margin:3px}</style><span>in</span></template></div><span>out</span>`, css.Medium{}, nil)
	var inner *markup.Node
	p.Markup.Root.Walk(func(n *markup.Node) bool {
		if n.Shadow != nil {
			inner = n.Shadow.Elements()[1]
		}
		return true
	})
	for prop, want := range map[string]string{"color": "rgb(0, 0, 0)", "margin-top": "3px", "font-size": "20px"} {
		if got, _ := p.Computed(inner, prop); got != want {
			t.Errorf("%s: %q, not %q", prop, got, want)
		}
	}
	if got := of(t, p, "span", "color"); got != "rgb(255, 0, 0)" {
		t.Error(got)
	}
}

// TestWhy holds which declaration wins and why others do not.
func TestWhy(t *testing.T) {
	p := readPage(t, "<!doctype html><style>\n:root{--c:teal}\n#i{color:var(--c)}\n.c{color:red}\np{color:lime}\n@layer l{p.c.c{color:blue}}\n.c{color:no}\n</style><p id=i class=c>x <b>y", css.Medium{}, nil)
	sel, _ := css.ParseSelector("p")
	n := p.Nodes(sel)[0]
	var got []string
	for _, d := range p.Why(n, "color") {
		got = append(got, fmt.Sprintf("%s{%s} %d %s", d.Selector, d.Value, d.Place.Line, d.Lost))
	}
	want := "#i{var(--c)} 3 |.c{red} 4 (0,1,0) is less specific than (1,0,0)|p{lime} 5 (0,0,1) is less specific than (1,0,0)|p.c.c{blue} 6 its layer gives way|.c{no} 7 the property takes no such value"
	if s := strings.Join(got, "|"); s != want {
		t.Errorf("\n%s\nnot\n%s", s, want)
	}
	vars := p.Why(n, "color")[0].Vars
	if len(vars) != 1 || vars[0].Prop != "--c" || vars[0].Element != "html" || vars[0].Place.Line != 2 {
		t.Errorf("%+v", vars)
	}
	b := n.Elements()[0]
	if d := p.Why(b, "color"); len(d) == 0 || d[0].Element != "#i" {
		t.Errorf("inherited: %+v", d)
	}
	if rules := p.Rules(n); rules[0].Selector != "#i" || rules[1].Selector != ".c" || rules[0].Specificity != [3]int{1, 0, 0} {
		t.Errorf("%+v", rules)
	}
}

// TestDocument holds what becomes of a page: its elements, texts with inline markup, pictures, marks.
func TestDocument(t *testing.T) {
	p := readPage(t, `<!doctype html><title>Ferry</title><style>.btn{background:#0b6e8f;padding:8px} .gone{display:none}</style><main><h1>Island  <em>timetable</em></h1>
		<a class=btn href=/ data-component=button>Book</a><img src=a.png alt="A boat"><div>loose <p>block</p></div><p class=gone>no</p><ul><li>One<br>two</li></ul></main>`, css.Medium{}, nil)
	doc := p.Document("page.html", page.DocumentOptions{})
	var got []string
	for _, e := range doc.All() {
		s := string(e.Kind) + " " + e.Shape
		if e.Words != nil {
			s += "=" + strings.ReplaceAll(e.Words.Words, "\n", "/")
		}
		if e.Hidden {
			s += " hidden"
		}
		got = append(got, s)
	}
	want := "text title=Ferry|group main|text h1=Island timetable|group em|text a=Book|image img|group div|text #text=loose|text p=block|text p=no hidden|group ul|text li=One/two|box br"
	if s := strings.Join(got, "|"); s != want {
		t.Errorf("\n%s\nnot\n%s", s, want)
	}
	if doc.Screens[0].Name != "Ferry" || !doc.Boxless {
		t.Errorf("%+v", doc.Screens[0])
	}
	sel, _ := css.ParseSelector(".btn")
	e := doc.Query(sel)[0]
	if e.Marks.Component != "button" || e.Selector() != "html > body:nth-child(2) > main:nth-child(1) > a:nth-child(2)" {
		t.Error(e.Marks, e.Selector())
	}
	facts := map[string]design.FactLine{}
	for _, f := range e.Facts() {
		facts[f.Name] = f
	}
	if f := facts["background-color"]; f.Value != "#0b6e8f" || f.From != "rule .btn, page.html:1" {
		t.Errorf("%+v", f)
	}
	if f := facts["padding"]; f.Value != "8px" {
		t.Errorf("%+v", facts)
	}
	if s := p.Declared(e.Node); len(s) != 2 || s[0].Prop != "padding" || s[1].Value != "#0b6e8f" {
		t.Errorf("%+v", s)
	}
}

// TestHostilePages holds that each is read in bounded time, or refused with one clear error.
func TestHostilePages(t *testing.T) {
	for _, c := range []struct{ name, html, want string }{
		{"10 MB of nested elements", strings.Repeat("<div>", 2<<20), "more than"},
		{"too deep", strings.Repeat("<div>", 600), "more than 512 elements inside one another"},
		{"a selector of 50 MB", "<style>" + strings.Repeat("a ", 25<<20) + "{color:red}</style><p>x", "too long and was left out"},
		{"many rules for many elements", "<style>" + strings.Repeat("p:has(~ p) p{color:red}", 2000) + "</style>" + strings.Repeat("<p>x</p>", 3000), ""},
		{"variables that double", "<style>p{--a0:xxxxxxxxxxxxxxxx;" + doubling(40) + "color:var(--a40)}</style><p>x", ""},
		{"brackets without end", "<style>p{color:" + strings.Repeat("calc(", 5000) + "}</style><p style='margin:" + strings.Repeat("min(", 3000) + "'>x", ""},
		{"nested rules", "<style>" + strings.Repeat("p{&:not(.a),", 40) + "</style><p>x", ""},
		{"no element", "\x00\x01\x02", ""},
		{"wrong bytes", "<p>\xff\xfe\xfd</p>", ""},
		{"a long list", "<style>p{transition:" + strings.Repeat("color 1s,", 20000) + "opacity 1s}</style><p>x", ""},
	} {
		if testing.Short() && len(c.html) > 1<<20 {
			continue
		}
		start := time.Now()
		p, err := page.Read([]byte(c.html), page.Options{Name: "x.html", Medium: css.Medium{Width: 800, Height: 600}})
		said := ""
		if err != nil {
			said = err.Error()
		} else {
			for _, w := range p.Warnings {
				said += w.Msg + "\n"
			}
			p.Document("x.html", page.DocumentOptions{})
		}
		if !strings.Contains(said, c.want) {
			t.Errorf("%s: %.200s", c.name, said)
		}
		if took := time.Since(start); took > 2*time.Minute {
			t.Errorf("%s: it took %s", c.name, took)
		} else {
			t.Logf("%s: %s", c.name, took)
		}
	}
}

func doubling(n int) string {
	var b strings.Builder
	for i := range n {
		fmt.Fprintf(&b, "--a%d:var(--a%d) var(--a%d);", i+1, i, i)
	}
	return b.String()
}

func TestEncodings(t *testing.T) {
	for _, c := range []struct{ html, kind, want string }{
		{"<meta charset=iso-8859-1><p>caf\xe9", "", "café"},
		{"<p>caf\xe9", "text/html; charset=windows-1252", "café"},
		{"\xef\xbb\xbf<p>café", "", "café"},
		{"<p>café", "", "café"},
		{"<meta charset=shift_jis><p>\x83t\x83F\x83\x8a\x81[", "", "フェリー"},
	} {
		p, err := page.Read([]byte(c.html), page.Options{ContentType: c.kind})
		if err != nil {
			t.Error(err)
			continue
		}
		if got := strings.TrimSpace(p.Markup.Root.TextContent()); got != c.want {
			t.Errorf("%q: %q, not %q", c.html, got, c.want)
		}
	}
}

// TestPlaces holds that elements know where they stand in the file, whatever the parser moves.
func TestPlaces(t *testing.T) {
	html := "<!doctype html>\n<title>x</title>\n<table>\n<tr><td id=a>1\n<b id=b>moved\n</table>\n<p id=c\n class=x>y"
	p := readPage(t, html, css.Medium{}, nil)
	p.Markup.Root.Walk(func(n *markup.Node) bool {
		if id := n.ID(); id != "" && !strings.Contains(html[n.Offset:n.End], "id="+id) {
			t.Errorf("#%s: %q", id, html[n.Offset:n.End])
		}
		return true
	})
}

func TestLinks(t *testing.T) {
	l := page.LinksOf([]byte(`<link rel=canonical href=/x><a href="b.html#top">b</a><a href=b.html>b</a><a href=mailto:x@y>m</a><a href="//other.example/">o</a><a href=f.zip download>f</a>`), "", "http://ferry.example/dir/a.html")
	if l.Canonical != "http://ferry.example/x" || strings.Join(l.Pages, " ") != "http://ferry.example/dir/b.html http://other.example/" {
		t.Errorf("%+v", l)
	}
	p := readPage(t, `<style>p{background:url(bg.png)} @font-face{font-family:F;src:url(f.woff2)}</style><img src=a.png srcset="a.png 1x, a2.png 2x"><link rel=icon href=i.svg><p style="background:url('c.png')">`, css.Medium{}, nil)
	if s := strings.Join(p.Needs(), " "); s != "http://ferry.example/dir/i.svg http://ferry.example/dir/a.png http://ferry.example/dir/a2.png http://ferry.example/dir/c.png http://ferry.example/dir/bg.png http://ferry.example/dir/f.woff2" &&
		s != "http://ferry.example/dir/a.png http://ferry.example/dir/a2.png http://ferry.example/dir/i.svg http://ferry.example/dir/c.png http://ferry.example/dir/bg.png http://ferry.example/dir/f.woff2" {
		t.Error(s)
	}
}

func FuzzRead(f *testing.F) {
	for _, s := range []string{"<p>x", "<!doctype html><style>p{color:var(--a,red)}</style><p style='margin:1em'>x", "<table><tr><td>", "<svg><circle r=1 /></svg>", "<div><template shadowrootmode=open><style>:host{color:red}</style><p>x</template></div>",
		"<div><template shadowrootmode=open>x<p>y</p></template></div>",
		"<style>@layer a{p{all:revert-layer}}@scope (p) to (b){b{color:red}}</style><p><b>x", "<body bgcolor=red text=#123 link=blue><font size=+3><a href=x>y"} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		p, err := page.Read(data, page.Options{Name: "x", Medium: css.Medium{Width: 800, Height: 600}})
		if err != nil {
			return
		}
		for _, e := range p.Document("x", page.DocumentOptions{}).All() {
			e.Facts()
			if e.Node.Kind == markup.Element {
				p.Computed(e.Node, "color")
			}
		}
	})
}
