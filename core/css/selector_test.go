package css

import (
	"strings"
	"testing"

	"archetyp/core/markup"
)

const tree = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:x="http://example.org/x" id="root">
  <g id="a" class="card big" data-state="hover">
    <rect id="a1" class="face"/>
    <text id="a2" lang="en-GB">one</text>
    <text id="a3">two</text>
  </g>
  <g id="b" class="card">
    <rect id="b1" x:label="Face" data-formats="svg png"/>
    <circle id="b2" disabled=""/>
    <rect id="b3" class="face"/>
    <g id="b4"><path id="b5"/></g>
  </g>
  <linearGradient id="Mixed"/>
  <g id="c"></g>
  <a id="link" href="#b"><rect id="in-link"/></a>
</svg>`

func parseTree(t testing.TB) *markup.Document {
	t.Helper()
	d, err := markup.ParseXML([]byte(tree))
	if err != nil {
		t.Fatal(err)
	}
	return d
}

func idsMatching(d *markup.Document, sel *Selector, states map[string]bool) string {
	var ids []string
	d.Root.Walk(func(n *markup.Node) bool {
		if n.Kind == markup.Element && sel.MatchesIn(n, states) {
			ids = append(ids, n.ID())
		}
		return true
	})
	return strings.Join(ids, " ")
}

func TestSelectorMatches(t *testing.T) {
	d := parseTree(t)
	for _, c := range []struct{ sel, want string }{
		{"rect", "a1 b1 b3 in-link"},
		{"*", "root a a1 a2 a3 b b1 b2 b3 b4 b5 Mixed c link in-link"},
		{"*|rect", "a1 b1 b3 in-link"},
		{"*|circle", "b2"},
		{"linearGradient", "Mixed"},
		{"lineargradient", ""},
		{"#a1", "a1"},
		{"#a1.face", "a1"},
		{"#a1.other", ""},
		{".face", "a1 b3"},
		{".card.big", "a"},
		{"g.card > rect", "a1 b1 b3"},
		{"svg rect.face", "a1 b3"},
		{"svg > rect", ""},
		{"rect + text", "a2"},
		{"rect ~ text", "a2 a3"},
		{"rect ~ rect", "b3"},
		{"text + text", "a3"},
		{"[data-state]", "a"},
		{"[data-state=hover]", "a"},
		{"[data-state='hover']", "a"},
		{"[data-state=HOVER i]", "a"},
		{"[data-state=HOVER]", ""},
		{"[data-formats~=png]", "b1"},
		{"[data-formats~=pn]", ""},
		{"[lang|=en]", "a2"},
		{"[class^=ca]", "a b"},
		{"[class$=big]", "a"},
		{"[class*=ard]", "a b"},
		{"[class*='']", ""},
		{"[x|label]", "b1"},
		{"[x|label=Face]", "b1"},
		{":root", "root"},
		{"g:first-child", "a"},
		{"a:last-child", "link"},
		{"path:only-child", "b5"},
		{"rect:first-of-type", "a1 b1 in-link"},
		{"rect:last-of-type", "a1 b3 in-link"},
		{"circle:only-of-type", "b2"},
		{"g:nth-child(2)", "b"},
		{"#b > :nth-child(odd)", "b1 b3"},
		{"#b > :nth-child(even)", "b2 b4"},
		{"#b > :nth-child(n+3)", "b3 b4"},
		{"#b > :nth-child(-n+2)", "b1 b2"},
		{"#b > :nth-child(2n+1)", "b1 b3"},
		{"#b > :nth-last-child(1)", "b4"},
		{"#b > rect:nth-of-type(2)", "b3"},
		{"#b > :nth-child(2 of rect)", "b3"},
		{"#b > rect:nth-last-of-type(2)", "b1"},
		{"g:empty", "c"},
		{":not(g, svg, a)", "a1 a2 a3 b1 b2 b3 b5 Mixed in-link"},
		{"g:not(.card)", "b4 c"},
		{":is(#a1, #b2)", "a1 b2"},
		{":where(#a1, .face)", "a1 b3"},
		{"g:has(path)", "b b4"},
		{"g:has(> circle)", "b"},
		{"rect:has(+ text)", "a1"},
		{"rect:has(~ g)", "b1 b3"},
		{":disabled", ""},
		{":link", "link"},
		{"g:hover", ""},
		{"rect::before", ""},
		{"rect, text", "a1 a2 a3 b1 b3 in-link"},
		{"#b\\31 ", "b1"},
		{"#\\61 1", "a1"},
	} {
		sel, err := ParseSelector(c.sel)
		if err != nil {
			t.Errorf("%s: %v", c.sel, err)
			continue
		}
		if got := idsMatching(d, sel, nil); got != c.want {
			t.Errorf("%s matches %q, want %q", c.sel, got, c.want)
		}
	}
}

func TestSelectorInState(t *testing.T) {
	d := parseTree(t)
	sel, err := ParseSelector("g.card:hover > rect")
	if err != nil {
		t.Fatal(err)
	}
	if got := idsMatching(d, sel, map[string]bool{"hover": true}); got != "a1 b1 b3" {
		t.Errorf("with hover in force: %q", got)
	}
}

func TestSelectorErrorsPointAtTheFault(t *testing.T) {
	for _, c := range []struct {
		sel    string
		offset int
		msg    string
	}{
		{"", 0, "wanted"},
		{"  ", 2, "wanted"},
		{"#", 0, "not"},
		{".", 1, "class name"},
		{"a >", 3, "wanted"},
		{"a,,b", 2, "not"},
		{"a b)", 3, "not expected"},
		{"[", 1, "attribute name"},
		{"[a", 2, "wanted"},
		{"[a=]", 3, "wanted"},
		{"[a=b", 4, "]"},
		{":", 1, "pseudo-class"},
		{":unknown", 1, "not known"},
		{":nope(1)", 1, "not known"},
		{":not(", 5, "wanted"},
		{":not(a", 6, ")"},
		{":nth-child(x)", 11, "an+b"},
		{"a::part(", 8, ")"},
		{"a{b}", 1, "not expected"},
		{"1a", 0, "not"},
	} {
		_, err := ParseSelector(c.sel)
		e, ok := err.(*Error)
		if !ok {
			t.Errorf("%q: %v, want an error", c.sel, err)
			continue
		}
		if e.Offset != c.offset || !strings.Contains(e.Msg, c.msg) {
			t.Errorf("%q: %d %q, want %d …%s…", c.sel, e.Offset, e.Msg, c.offset, c.msg)
		}
	}
}

// The examples of https://www.w3.org/TR/selectors-4/#specificity-rules
func TestSpecificity(t *testing.T) {
	for sel, want := range map[string]Specificity{"*": {0, 0, 0}, "li": {0, 0, 1}, "ul li": {0, 0, 2},
		"ul ol+li":       {0, 0, 3},
		"h1 + *[rel=up]": {0, 1, 1}, "ul ol li.red": {0, 1, 3}, "li.red.level": {0, 2, 1}, "#x34y": {1, 0,
			0}, "#s12:not(FOO)": {1, 0, 1},
		":is(em, #foo)": {1, 0, 0}, ":where(em, #foo#bar#baz)": {0, 0, 0}, ".qux:where(em, #foo)": {0, 1,
			0}, ":not(em, strong#foo)": {1, 0, 1}} {
		s, err := ParseSelector(sel)
		if err != nil {
			t.Errorf("%s: %v", sel, err)
			continue
		}
		if got := s.Complex[0].Spec; got != want {
			t.Errorf("%s has %v, want %v", sel, got, want)
		}
	}
}

func TestDeepSelectorsAreRefused(t *testing.T) {
	deep := strings.Repeat(":not(", 200) + "a" + strings.Repeat(")", 200)
	if _, err := ParseSelector(deep); err == nil {
		t.Error("200 levels of :not() are read")
	}
}

func FuzzSelector(f *testing.F) {
	for _, s := range []string{"g.card > rect:not(.a, #b)", "[data-x~='y' i]", ":nth-child(2n+1 of g)", "a:has(+ b)",
		`#\31 a`, "*|*"} {
		f.Add(s)
	}
	d, err := markup.ParseXML([]byte(tree))
	if err != nil {
		f.Fatal(err)
	}
	f.Fuzz(func(t *testing.T, s string) {
		sel, err := ParseSelector(s)
		if err == nil {
			idsMatching(d, sel, nil)
		}
	})
}

func BenchmarkMatch(b *testing.B) {
	d := parseTree(b)
	sel, err := ParseSelector("svg g.card > rect:not(.other)")
	if err != nil {
		b.Fatal(err)
	}
	b.ReportAllocs()
	for b.Loop() {
		idsMatching(d, sel, nil)
	}
}

func TestCheckCondition(t *testing.T) {
	for _, good := range []string{"@media (prefers-color-scheme: dark)", `[data-scheme="dark"]`, ".dark, :root.dark",
		"@supports (display: grid) and (not (display: none))", "@container (width > 40rem)"} {
		if err := CheckCondition(good); err != nil {
			t.Errorf("%s: %v", good, err)
		}
	}
	for _, bad := range []string{"@media screen { } x", "@import url(x)", "@media (a", "@media a)", "@media x; y", "a{",
		"a } b { color: red", "@media /* x", "@media 'a\nb'", "", "@font-face"} {
		if err := CheckCondition(bad); err == nil {
			t.Errorf("%q is taken", bad)
		}
	}
}
