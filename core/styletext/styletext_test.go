package styletext

import (
	"fmt"
	"math/rand/v2"
	"reflect"
	"strings"
	"testing"
)

// names are the kinds of places as the cases spell them.
var names = map[Kind]string{Nothing: "nothing", Selector: "selector", Property: "property", Value: "value", Class: "class", Attribute: "attribute", Text: "text"}

func TestWhatStandsAtAPlace(t *testing.T) {
	for _, c := range []struct{ lang, text, want string }{
		{"css", ".a { padding-inline: | }", `value padding-inline ""`},
		{"css", ".a { padding-inline:| }", `value padding-inline ""`},
		{"css", ".a {\n  padding-inline: |\n  color: red;\n}", `value padding-inline ""`},
		{"css", ".a {\n  padding-inline: |\n}", `value padding-inline ""`},
		{"css", ".a {\n  padding: 4px va|r(--x);\n}", `value padding "var" index 1`},
		{"css", ".a { color: var(--co|l) }", `value color "--col" in var`},
		{"css", ".a { background: url(media/qu|ay.jpg) }", `value background "media/quay.jpg" in url`},
		{"css", `.a { background: url("media/qu|ay.jpg") }`, `value background "media/quay.jpg" in url`},
		{"css", ".a { col| }", `property col "col"`},
		{"css", ".a { col|\n  margin: 0 }", `property col "col"`},
		{"css", ".a { color: red; | }", `property  ""`},
		{"css", ".a { | color: red }", `property  ""`},
		{"css", ".b|tn:hover, .c { }", `selector  ".btn"`},
		{"css", "@media (width > 3px) { .b|tn { } }", `selector  ".btn"`},
		{"css", "@media (width > 3px) { | }", `nothing  ""`},
		{"css", ".a { /* pad| */ }", `nothing  ""`},
		{"css", "|", `nothing  ""`},
		{"css", ".b|", `selector .b ".b"`},
		{"css", ".a { .b| }", `selector .b ".b"`},
		{"scss", ".a { // pad|\n}", `nothing  ""`},
		{"scss", ".a { &:hover { color: | } }", `value color ""`},
		{"scss", "$gap: |;", `value $gap ""`},
		{"css", "a:hover { color: blu| }", `value color "blu"`},
		{"html", `<p style="color: |">x</p>`, `value color ""`},
		{"html", `<p class="one tw|o">x</p>`, `class class "two"`},
		{"html", `<img alt="qu|ay">`, `attribute alt "quay"`},
		{"html", `<p>Lorem ip|sum</p>`, `text  "Lorem ipsum" in p`},
		{"html", `<p>|</p>`, `text  "" in p`},
		{"html", `<style>.a { color: | }</style>`, `value color ""`},
		{"html", `<script>if (a < b) { "color: |" }</script>`, `nothing  ""`},
		{"component", `<style lang="scss">.a { // x` + "\n" + `color: | }</style>`, `value color ""`},
		{"jsx", `const a = <p style={{paddingInline: "|"}}>x</p>`, `value padding-inline ""`},
		{"jsx", `const a = <p style={{color: "r|ed", top: 3}}>x</p>`, `value color "red"`},
		{"jsx", `const a = <p style={{col|}}>x</p>`, `property col "col"`},
		{"jsx", `return <p className="on|e">don't</p>`, `class className "one"`},
		{"jsx", `return <p>don't {n > 1 ? <b>bo|ats</b> : 'x'}</p>`, `text  "boats" in b`},
		{"jsx", "const a = css`color: |;`", `value color ""`},
		{"jsx", "const B = styled.button`\n  &:hover { color: | }\n`", `value color ""`},
		{"jsx", "return <style>{`.a { color: | }`}</style>", `value color ""`},
		{"jsx", "const f = <T,>(x: T) => `color: |`", `nothing  ""`},
		{"script", "const f = <T>(x: T) => css`color: |`", `value color ""`},
	} {
		at := strings.IndexByte(c.text, '|')
		text := c.text[:at] + c.text[at+1:]
		p := Read(text, Language(c.lang)).At(at)
		got := fmt.Sprintf("%s %s %q", names[p.Kind], p.Name, text[p.From:p.To])
		if p.Index > 0 {
			got += fmt.Sprint(" index ", p.Index)
		}
		if in := p.Function + p.Tag; in != "" && p.Kind != Class && p.Kind != Attribute {
			got += " in " + in
		}
		if got != c.want {
			t.Errorf("%s: %s\n got %s\nwant %s", c.lang, c.text, got, c.want)
		}
	}
}

func TestDeclarationsOfASheet(t *testing.T) {
	c := Read(`@import "x.css";
.a, .b:not(.c) { color: red; background: url(data:image/png;base64,AA==) no-repeat;
  .d { margin: 0 } padding: 1px }
@media (min-width: 3px) { .e { --x: {a:b}; top: 1px!important } }
.f { left: rgb(1 2 3; right: 2px }
`, CSS)
	var got []string
	for i := range c.Decls {
		d := &c.Decls[i]
		sel := ""
		if r := c.RuleOf(d); r != nil {
			sel = r.Selector
		}
		got = append(got, sel+" "+d.Property+"="+d.Value)
	}
	want := []string{".a, .b:not(.c) color=red", ".a, .b:not(.c) background=url(data:image/png;base64,AA==) no-repeat", ".d margin=0",
		".a, .b:not(.c) padding=1px", ".e --x={a:b}", ".e top=1px!important", ".f left=rgb(1 2 3", ".f right=2px"}
	if fmt.Sprint(got) != fmt.Sprint(want) {
		t.Errorf("got\n%s\nwant\n%s", strings.Join(got, "\n"), strings.Join(want, "\n"))
	}
}

func TestNamesOfStyleObjects(t *testing.T) {
	for camel, kebab := range map[string]string{"paddingInline": "padding-inline", "WebkitMask": "-webkit-mask", "--x": "--x", "top": "top"} {
		if got := Kebab(camel); got != kebab {
			t.Errorf("Kebab(%q) = %q, want %q", camel, got, kebab)
		}
		if got := Camel(kebab); got != camel {
			t.Errorf("Camel(%q) = %q, want %q", kebab, got, camel)
		}
	}
}

func FuzzRead(f *testing.F) {
	for _, s := range []string{".a { b: url(", "<p style='a:b'>{", "`${`${", "<style>@media{", "a{{{}}}", "const a = <p style={{a: `", "css`${{`", "\"\n'", "<a>{<a>{<a>{", "--x:{", "a{b:\n\n\nc:d"} {
		for _, l := range []string{"css", "scss", "html", "component", "jsx", "script"} {
			f.Add(s, l, 3)
		}
	}
	f.Fuzz(func(t *testing.T, text, lang string, at int) {
		if len(text) > 1<<16 {
			return
		}
		c := Read(text, Language(lang))
		for _, d := range c.Decls {
			if d.From < 0 || d.To < d.From || d.End < d.To || d.End > len(text) || d.Colon >= 0 && d.ValueAt > d.End {
				t.Errorf("%q: %+v", text, d)
			}
		}
		for _, r := range c.Rules {
			if r.Close < r.Open || r.Close > len(text) {
				t.Errorf("%q: %+v", text, r)
			}
		}
		p := c.At(max(0, min(at, len(text))))
		_ = text[p.From:p.To] + text[p.Whole[0]:p.Whole[1]]
	})
}

// TestEditsReadAsTheWhole holds that what is read again after an edit is what the whole text holds.
func TestEditsReadAsTheWhole(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 5))
	pieces := []string{"a", " ", ";", ":", "{", "}", "\n", "/*", "*/", "\"", "(", ")", "color: red;", ".x { top: 1px }", "//", "@media x {", "--y: {a}", "é"}
	spliced, count := 0, 6000
	if testing.Short() {
		count = 600
	}
	for _, l := range []Language{CSS, SCSS} {
		text := strings.Repeat(".a, .b:hover {\n  color: red;\n  .c { margin: 0 }\n  background: url(x;y)\n}\n/* x */\n@media (a) { .d { top: 0 } }\n", 20)
		c := Read(text, l)
		for i := range count {
			if i%40 == 0 {
				text = strings.Repeat(".a, .b:hover {\n  color: red;\n  .c { margin: 0 }\n  background: url(x;y)\n}\n/* x */\n@media (a) { .d { top: 0 } }\n", 20)
				c = Read(text, l)
			}
			from := random.IntN(len(text) + 1)
			to := min(len(text), from+random.IntN(4))
			with := ""
			for range random.IntN(3) {
				with += pieces[random.IntN(len(pieces))]
			}
			text = text[:from] + with + text[to:]
			if c.spliced(text, from, to, len(with)) != nil {
				spliced++
			}
			c = c.Edited(text, from, to, len(with))
			if want := Read(text, l); !reflect.DeepEqual(c.Rules, want.Rules) || !reflect.DeepEqual(c.Decls, want.Decls) {
				t.Fatalf("%s, edit %d, %d..%d by %q in %q:\n got %+v %+v\nwant %+v %+v", l, i, from, to, with, text, c.Rules, c.Decls, want.Rules, want.Decls)
			}
		}
	}
	if spliced < count/3 {
		t.Errorf("only %d edits were read in part", spliced)
	}
}

func BenchmarkRead(b *testing.B) {
	text := strings.Repeat(".rule {\n  color: var(--color-a);\n  padding: 12px 13px;\n  background: #123456;\n}\n", 4000)
	b.Run("whole", func(b *testing.B) {
		b.SetBytes(int64(len(text)))
		for b.Loop() {
			Read(text, CSS)
		}
	})
	b.Run("after an edit", func(b *testing.B) {
		c := Read(text, CSS)
		at := strings.Index(text[len(text)/2:], "12px") + len(text)/2
		edited := text[:at] + "1" + text[at:]
		for b.Loop() {
			c.Edited(edited, at, at, 1)
		}
	})
}
