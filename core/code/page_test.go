package code_test

import (
	"strings"
	"testing"

	"archetyp/core/code"
	"archetyp/core/design"
	"archetyp/core/read/svg"
)

func page(t *testing.T, content string, o code.Options) *code.Page {
	t.Helper()
	return code.NewPage(code.NewTree(element(t, content), o), o)
}

func flat(s string) string { return strings.Join(strings.Fields(s), " ") }

// TestHTML holds what elements become: what they are in HTML, in the order they are read, with their words.
func TestHTML(t *testing.T) {
	const box = `<rect width="120" height="40" rx="8" fill="#0b6e8f"/>`
	for _, c := range []struct{ name, content, want string }{
		{"a button", `<g id="x" data-label="Pay">` + box + `<text x="60" y="25" text-anchor="middle" fill="#fff">Pay now</text></g>`,
			`<button class="pay" type="button">Pay now</button>`},
		{"a button without words", `<g id="x" data-label="Close button">` + box + `<path d="M54 14L66 26M66 14L54 26" stroke="#fff" stroke-width="2"/></g>`,
			`<button class="close-button" type="button" aria-label="Close button"> <img src="assets/close-button.svg" alt="" width="14" height="14"> </button>`},
		{"a link", `<text id="x" y="20" data-label="More" data-leads-to="Booking; on=click">See times</text>`,
			`<a href="#booking">See times</a>`},
		{"a field with label and hint", `<g id="x" data-label="Name field"><text y="14" font-size="14">Your name</text><rect x=".5" y="24.5" width="239" height="43" fill="#fff" stroke="#abc"/><text x="16" y="52">Ada</text><text y="88" font-size="14">As on your ticket</text></g>`,
			`<div class="name-field"> <label for="your-name">Your name</label> <input class="name-field-textbox" type="text" id="your-name" value="Ada" aria-describedby="as-on-your-ticket"> <p id="as-on-your-ticket">As on your ticket</p> </div>`},
		{"a checkbox", `<g id="x" data-label="Bike checkbox"><rect width="20" height="20" rx="4" fill="#0b6e8f"/><path d="M5 10l4 4 7-8" fill="none" stroke="#fff" stroke-width="2"/><text x="32" y="16">With a bicycle</text></g>`,
			`<label class="bike-checkbox"> <input class="bike-checkbox-2" type="checkbox" checked> <span>With a bicycle</span> </label>`},
		{"several runs", `<text id="x" data-label="Price" y="20">From <tspan font-weight="700">12 €</tspan> a day</text>`,
			`<p>From <span class="price-run">12 €</span> a day</p>`},
		{"signs", `<text id="x" data-label="Note" y="20">Fish &amp; “chips” &lt;now&gt;</text>`, `<p>Fish &amp; “chips” &lt;now&gt;</p>`},
		{"lines that break by themselves", `<g id="x" data-label="Memo"><rect width="300" height="80" fill="#fff"/><text x="16" y="30">The wind turns twice a day, and all</text><text x="16" y="54">the boats have to wait for it.</text></g>`,
			`<div class="memo">The wind turns twice a day, and all the boats have to wait for it.</div>`},
		{"words that are pictures", `<g id="x" data-label="Card">` + box + `<image data-label="Old pier" x="8" y="8" width="24" height="24" href="data:,"/></g>`, `alt="Old pier"`},
	} {
		if got := flat(code.HTML(page(t, c.content, code.Options{}))); !strings.Contains(got, c.want) {
			t.Errorf("%s:\n     %s\nwant %s", c.name, got, c.want)
		}
	}
}

func TestTables(t *testing.T) {
	row := func(y, a, b, c, d string) string {
		return `<text x="10" y="` + y + `" font-weight="` + d + `">` + a + `</text><text x="120" y="` + y + `" font-weight="` + d + `">` + b + `</text><text x="280" y="` + y + `" text-anchor="end" font-weight="` + d + `">` + c + `</text>`
	}
	got := flat(code.HTML(page(t, `<g id="x" data-label="Fares">`+row("20", "To", "From", "Price", "700")+row("60", "Pier", "Quay", "12", "400")+
		row("100", "Rock", "Quay", "14", "400")+`</g>`, code.Options{})))
	for _, want := range []string{`<table class="fares"> <thead> <tr class="fares-row"> <th class="fares-head" scope="col">To</th>`,
		`<tbody> <tr class="fares-row"> <td`, `>Rock</td>`} {
		if !strings.Contains(got, want) {
			t.Errorf("no %s in\n%s", want, got)
		}
	}
	cards := flat(code.HTML(page(t, `<g id="x"><text x="0" y="20">One</text><text x="0" y="60">Two</text><text x="0" y="100">Three</text></g>`, code.Options{})))
	if strings.Contains(cards, "<table") {
		t.Errorf("one column is a table:\n%s", cards)
	}
}

func TestJSX(t *testing.T) {
	p := page(t, `<g id="x" data-label="Memo"><rect width="300" height="80" fill="#fff"/><text data-label="Words" x="16" y="30">{a} &lt; b</text><text x="16" y="60"> c</text></g>`, code.Options{})
	got := flat(code.JSX(p))
	for _, want := range []string{`import "./style.css"; export function Memo() { return (`, `<div className="memo">`,
		`<p>{"{a} < b"}</p>`} {
		if !strings.Contains(got, want) {
			t.Errorf("no %s in\n%s", want, got)
		}
	}
}

func TestKeysInsteadOfWords(t *testing.T) {
	o := code.Options{Words: func(e *design.Element) (string, bool) { return "{t('a')}", e.ID == "x" }}
	if got := flat(code.JSX(page(t, `<text id="x" y="20">Pay</text>`, o))); !strings.Contains(got, "<p>{t('a')}</p>") {
		t.Error(got)
	}
}

func TestLinkedComponents(t *testing.T) {
	o := code.Options{Components: map[string]code.Linked{"button": {File: "src/button.ts", Import: `import "./button";`,
		Use: `<tt-button tone="{tone}" icon="{asset}">{words}</tt-button>`, Values: map[string]map[string]string{"tone": {"main": "primary"}}}}}
	e := element(t, `<g id="x" data-component="button" data-variant="tone=main size=large" data-state="hover"><rect width="90" height="40"/><text x="9" y="26">Pay {x} &amp; go</text></g>`)
	u, ok := o.Usage(e)
	if want := `<tt-button tone="primary" icon="">Pay &#123;x&#125; &amp; go</tt-button>`; !ok || u.Line != want {
		t.Errorf("%s, want %s", u.Line, want)
	}
	if got := strings.Join(u.Lost, " "); got != "size=large state=hover" {
		t.Errorf("lost: %s", got)
	}
	p := page(t, `<g id="x" data-label="Card"><rect width="300" height="200" fill="#fff"/><g data-component="button"><rect x="20" y="20" width="90" height="40"/><text x="30" y="46">Pay</text></g><text x="20" y="120">Words</text></g>`, o)
	if got := flat(code.JSX(p)); !strings.Contains(got, `import "./button";`) || !strings.Contains(got, `<tt-button tone="" icon="">Pay</tt-button>`) {
		t.Error(got)
	}
	if _, ok := o.Usage(element(t, `<g id="x" data-component="card"><rect width="9" height="9"/></g>`)); ok {
		t.Error("a component that is not linked has a usage line")
	}
}

func TestClassesOfTheTeam(t *testing.T) {
	classes, faults := code.ParseClasses(`:root { --gap: 8px; } .row { display: flex; } .gap { gap: var(--gap); } .white { background: #ffffff; color: red; }
.a .b { display: flex; } @media print { .c { display: flex; } } .bad { display flex }`)
	if len(faults) == 0 {
		t.Error("a syntax error is not reported")
	}
	p := page(t, `<g id="x" data-label="Bar"><rect width="64" height="40" fill="#fff"/><rect x="8" y="8" width="20" height="24" fill="red"/><rect x="36" y="8" width="20" height="24" fill="red"/></g>`, code.Options{Classes: classes})
	if got := flat(code.HTML(p)); !strings.Contains(got, `<div class="bar row gap">`) {
		t.Error(got)
	}
	if got := code.Print(p.Rules); strings.Contains(got, "gap:") || !strings.Contains(got, "background: #ffffff") {
		t.Errorf("declarations of classes are repeated, or too many are left out:\n%s", got)
	}
}

func TestNotes(t *testing.T) {
	e := element(t, `<g id="x" data-label="Pay"><rect width="120" height="40"/><text x="60" y="26" text-anchor="middle">Pay */ now</text></g>`)
	if got := code.Print(code.CSS(e, code.Options{Notes: true})); !strings.HasPrefix(got, "/* Pay: button “Pay * / now” */\n.pay {") {
		t.Error(got)
	}
}

func TestAppLanguages(t *testing.T) {
	const form = `<g id="x" data-label="Search"><rect width="300" height="200" fill="#fff"/><g data-label="Name field"><text x="20" y="30" font-size="14">Your name</text><rect x="20.5" y="40.5" width="239" height="43" fill="#fff" stroke="#abc"/><text x="36" y="68">Ada</text></g><g data-component="button"><rect x="20" y="120" width="120" height="40" rx="8" fill="#0b6e8f"/><text x="80" y="145" text-anchor="middle" fill="#fff">Find</text></g></g>`
	o := code.Options{Tokens: func(_ *design.Element, kind, value string) code.Name {
		if kind == "color:surface" && value == "#0b6e8f" {
			return code.Name{Property: "--color-action", Path: "color.action.main"}
		}
		return code.Name{}
	}}
	tree := code.NewTree(element(t, form), o)
	swift, kotlin := flat(code.Swift(tree, o)), flat(code.Compose(tree, o))
	for _, want := range []string{"struct Search: View {", `@State private var yourName = "Ada"`, `TextField("Your name", text: $yourName)`,
		"Button(action: {}) {", ".background(Tokens.colorActionMain, in: RoundedRectangle(cornerRadius: 8))"} {
		if !strings.Contains(swift, want) {
			t.Errorf("Swift has no %s:\n%s", want, swift)
		}
	}
	for _, want := range []string{"fun Search(modifier: Modifier = Modifier) {", `var yourName by remember { mutableStateOf("Ada") }`,
		"BasicTextField(", ".background(Tokens.colorActionMain, RoundedCornerShape(8.dp))", `text = "Find"`} {
		if !strings.Contains(kotlin, want) {
			t.Errorf("Kotlin has no %s:\n%s", want, kotlin)
		}
	}
}

// TestPartsThatGrow holds that a part grows where a wider instance of its component shows it, and only there.
func TestPartsThatGrow(t *testing.T) {
	bar := func(attrs, y, width, track string) string {
		return `<g data-component="bar" ` + attrs + `><rect y="` + y + `" width="` + width + `" height="40" fill="#eee"/><g transform="translate(0 ` + y + `)"><rect data-label="dot" x="10" y="10" width="20" height="20" fill="#123"/><rect data-label="track" x="40" y="10" width="` + track + `" height="20" fill="#456"/></g></g>`
	}
	of := func(other string) string {
		return flat(code.Print(page(t, bar(`id="x" data-label="Bar"`, "0", "200", "150")+other, code.Options{}).Rules))
	}
	if css := of(bar("", "60", "300", "250")); !strings.Contains(css, ".track { height: 20px; flex: 1;") || strings.Contains(css, "150px") {
		t.Errorf("with a wider one:\n%s", css)
	}
	if css := of(bar("", "60", "200", "150")); strings.Contains(css, "flex: 1;") || !strings.Contains(css, "width: 150px") {
		t.Errorf("with one as wide:\n%s", css)
	}
}

// TestHeadingsLeaveNoRankOut holds that the ranks of a screen begin with 1 and follow each other.
func TestHeadingsLeaveNoRankOut(t *testing.T) {
	d := drawing(t, `<text y="30" font-size="14">Most words of this screen are set like these, so that others stand out.</text>
<text y="80" font-size="40">Island</text><text y="130" font-size="20">Sailings</text><text y="170" font-size="24">Prices</text><text y="210" font-size="20">Fares</text>`)
	got := code.HTML(code.NewPage(code.NewTree(d.Screens[0].Root, code.Options{}), code.Options{}))
	for _, want := range []string{"<h1", ">Island</h1>", ">Sailings</h2>", ">Prices</h2>", ">Fares</h3>"} {
		if !strings.Contains(got, want) {
			t.Errorf("no %s in\n%s", want, got)
		}
	}
	if !strings.Contains(got, "<main") || !strings.Contains(got, "<title>") {
		t.Errorf("no whole document:\n%s", got)
	}
}

// TestLengthsFollowTheWidth holds how gaps and widths of two drawings of one screen are judged.
func TestLengthsFollowTheWidth(t *testing.T) {
	at := func(width, half, end, gap string) *code.Tree {
		d, err := svg.Read("t.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="`+width+`" height="200"><g id="bar"><rect id="ground" width="`+width+`" height="60" fill="#eee"/><g id="half"><rect id="box" x="0" width="`+half+`" height="60" fill="#fff"/><text id="a" x="10" y="34">One</text></g><rect id="end" x="`+end+`" width="20" height="60"/></g><g id="list"><rect id="one" y="100" width="40" height="20"/><rect id="two" y="`+gap+`" width="40" height="20"/></g></svg>`), svg.Options{})
		if err != nil {
			t.Fatal(err)
		}
		return code.NewTree(d.Screens[0].Root, code.Options{})
	}
	p := code.NewPages(at("400", "200", "380", "130"), []code.Wider{{Tree: at("800", "400", "780", "130")}}, code.Options{})
	got := ""
	for _, l := range p.Lengths {
		got += l.Selector + " " + l.Property + " " + string(l.Kind) + "; "
	}
	if !strings.Contains(got, ".half width in proportion") || !strings.Contains(got, "gap fixed") {
		t.Error(got)
	}
	if sheet := code.Print(p.Rules); !strings.Contains(sheet, "width: 50%;") || strings.Contains(sheet, " width: 400px") {
		t.Error(sheet)
	}
}

// TestADrawingOfOneShape holds that the barest of drawings is written in every language.
func TestADrawingOfOneShape(t *testing.T) {
	for _, content := range []string{"", `<rect width="800" height="400" fill="red"/>`, `<path d="M1 7V9H15V7z"/>`, `<text y="20">a</text>`, `<g/>`} {
		tree := code.NewTree(drawing(t, content).Screens[0].Root, code.Options{})
		p := code.NewPage(tree, code.Options{})
		for name, got := range map[string]string{"html": code.HTML(p), "jsx": code.JSX(p), "swift": code.Swift(tree, code.Options{}),
			"kotlin": code.Compose(tree, code.Options{})} {
			if got == "" {
				t.Errorf("%s of %s is empty", name, content)
			}
		}
	}
}

// FuzzClasses holds that no style sheet makes reading classes fail, and that pages can be written with what is read.
func FuzzClasses(f *testing.F) {
	f.Add(".row { display: flex; } .gap { gap: var(--a); } :root { --a: var(--b); --b: var(--a); }")
	f.Add(".a{b:c}@media x{.d{e:f}}.é{g:h}.a.b{c:d}")
	f.Fuzz(func(t *testing.T, sheet string) {
		classes, _ := code.ParseClasses(sheet)
		d := drawing(t, `<g id="x"><rect width="64" height="40" fill="#fff"/><rect x="8" y="8" width="20" height="24"/></g>`)
		code.HTML(code.NewPage(code.NewTree(d.Screens[0].Root, code.Options{}), code.Options{Classes: classes}))
	})
}
