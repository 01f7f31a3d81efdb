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

// pageSelectors are selectors of every kind that needs no layout, for the page harbour.html.
func pageSelectors() (out []string) {
	simple := strings.Fields(`* html body p P em li section h1 h2 linearGradient lineargradient stop rect tern-card option
		#p1 #P1 .card .CARD .wide .card.wide .\31st .\000031st .-dash .--dd .é日 #l1.item li.item.on
		[data-tone] [data-tone=sea] [data-tone="sea"] [data-tone='SEA'] [data-n~=b] [data-n~="a"] [data-n*=b] [data-n^=a] [data-n$=c] [data-tone^=""] [data-tone*=""] [lang|=de] [lang|=en] [hreflang|=de]
		[type=text] [type=TEXT] [type="Text"] [data-upper] [data-Upper] [data-x=A\:b] [data-x=a\:b] [title*=quo] [title='quo\"te'] [rel~=external] [href] [href=""] [class] [id^=l] [id$='1'] [disabled] [open] [contenteditable] [xlink\:href] [*|href] [|href] [*|xlink] [aria-label=Main]
		:root :empty :first-child :last-child :only-child :first-of-type :last-of-type :only-of-type :nth-child(1) :nth-child(2n) :nth-child(2n+1) :nth-child(odd) :nth-child(even) :nth-child(-n+3) :nth-child(n+2) :nth-child(3n-1) :nth-child(-2n+5) :nth-child(+3n) :nth-child(0n+2) :nth-child(n) :nth-child(-n)
		:nth-child(0) :nth-child(-1) :nth-last-child(1) :nth-last-child(2n) :nth-last-child(-n+2) :nth-of-type(2) :nth-of-type(odd) :nth-last-of-type(2) :nth-last-of-type(2n+1) :any-link :link :visited :local-link :target :scope :hover :active :focus :focus-visible :focus-within :enabled :disabled :read-only :read-write :placeholder-shown :default :checked :indeterminate
		:valid :invalid :in-range :out-of-range :required :optional :user-valid :user-invalid :autofill :defined :open :modal :popover-open :fullscreen :picture-in-picture :playing :paused :muted :buffering :seeking :stalled :volume-locked :blank :target-within :past :future :current :host :has-slotted :active-view-transition
		:lang(en) :lang(de) :lang(de-AT) :lang(DE) :lang("de") :lang(de,fr) :lang('*-AT') :lang("*") :lang("") :dir(ltr) :dir(rtl) :dir(LTR) :dir(auto) :is(p) :is() :where() :where(p,li) :not(p) :not(:not(li)) :-webkit-any(p,li) :-webkit-any-link :-webkit-autofill :-webkit-full-screen :-moz-any(p) :matches(p) :-o-x :-ms-fullscreen ::before ::-webkit-x ::-moz-x :before`)
	for _, s := range simple {
		out = append(out, strings.ReplaceAll(s, `\ i]`, " i]"))
	}
	out = append(out, "[data-tone=SEA i]", "[data-tone=SEA I]", "[data-tone=sea s]", "[type=TEXT s]", "[type=text s]", "[type='TEXT' i]", "[data-tone=\"sea\"i]", "[ data-tone = sea ]", "[data-tone=1a]", "[data-tone=]", "[=a]", "[data-tone==sea]", "[data-tone!=sea]",
		":nth-child(2 of .item)", ":nth-child(odd of .on)", ":nth-child(1 of li.on, p)", ":nth-last-child(1 of .on)", ":nth-child(n+2 of :not(.on))", ":nth-child(2 of)", ":nth-of-type(2 of p)", ":nth-child(1 of #l2)", ":nth-child( 2N + 1 )", ":nth-child(2n + )", ":nth-child(2 n)", ":nth-child(+ 2n)", ":nth-child(n-1)", ":nth-child(n -1)", ":nth-child(n- 1)", ":nth-child(2n- 1)", ":nth-child(--n)", ":nth-child(foo)", ":nth-child()",
		"section p", "section > p", "h2 + p", "h2 ~ p", "p + p", "li ~ li", "li + li.on", "main section li.on", "main > section > ul > li", "ul li li", "ul > li > ul > li.on", "section:has(ul) h2", "h2 + p + p", "h2 ~ p ~ p", "body p:not(.lead):not([lang])", "* > * > li", "header nav > a[href]", "svg stop", "svg > g .on", "a rect", "section>p", "section  >  p", "section\n>\np", "section/**/p", "section /**/ > /**/ p", "section+section", "li~li~li",
		":has(> p)", ":has(> h2 + p)", ":has(+ section)", ":has(~ section)", "section:has(.on)", "section:not(:has(ul))", "li:has(ul)", "li:has(+ .on)", "li:has(~ .on)", ":has(:checked)", "form:has(:invalid)", "fieldset:has(> legend)", "main:has(> section > ul > li.on)", "p:has(em, strong)", ":has(:has(p))", ":has()", ":has(,)", ":has(:nope)", ":has(p, :nope)", "body:has(#tc1 > span)", "ul:has(> li:nth-child(5))", ":has(> :first-child)", "a:has(> rect)", "li:has(+ li + li)", "*:has(+ #s2 li)", "h2:has(+ p ~ p)",
		":is(p, li).lead", ":is(section, nav) > a", ":is(.card .on, #l1)", ":is(p, :nope)", ":is(:nope)", ":where(.card) p", ":where(#s1) .lead", ":is(#s1, .x) .lead", ":is(p, #zz)", ":where(p, #zz)", ":not(#zz, p)", ":not(p, :nope)", ":not()", ":not(,)", ":is(p,)", ":is(,p)", ":is(p p, em)", ":is(:is(p, .x), #q) em", ":not(:is(p, li, div, option, input))", ":is(h1, h2):not(:first-child)", ":not(:root, body, head, head *)", ":is(::before, p)", ":is(> p)", ":not(> p)", "p:is(.lead, .last)", ":where(:not(p, #a)) > em", ":is(section > *):not(h2)",
		"input:not([type])", "input:enabled:not(:read-only)", "input[type=checkbox]:checked", "input:not(:checked)", "option:checked", "option:disabled", "option:default", "button:default", "input:default", "fieldset:disabled", "fieldset :disabled", "#fs2 :enabled", "form:valid", "form:invalid", "fieldset:invalid", "textarea:read-only", "textarea:placeholder-shown", "select:required:invalid", "details[open] > summary", "details:open", "dialog:open", "progress:indeterminate", "input:indeterminate", "output:read-only", "b:read-write", "input:optional:valid",
		"a:link.active", "a:not(:link)", "a:any-link:not([target])", ":root > body", ":root:has(body)", ":scope > body", "html:lang(en) p", "p:lang(de):lang(de-AT)", "span:dir(ltr)", "#rtl :dir(rtl)", "*|*", "*|p", "|p", "svg|rect", "*|*:not(p)", "*|rect", "p|*", "p,li", "p , li", ",p", "p,", "p,,li", "p > ", "> p", "p >> em", "p ++ p", "p || em", "p & em", "..a", "#", ".", "##a", "#1a", ".1a", "p.", "p#", "p:", "p::", "p:::before", "p:not", "p:nth-child", "p()", "a{}", "p;", "@p", "'p'", "\\p", "\\70", "\\000070 ", "\\70 .lead", "#\\70 1", ".le\\61 d", "p\\.lead", "[class~='le\\61 d']", "[\\63lass]", "é日", "p:First-Child", "P:NOT(.LEAD)", "p.LEAD", "p:not(.lead):is(#p2)", "li:nth-child(2):nth-last-child(4)", "::slotted(p)", "::part(x)", "::highlight(x)", "::cue", "::marker", "p::before", "p::first-line", "p::before:hover", "p::before p", "::before::after", "p::nope", "p:before", "::file-selector-button", "::backdrop", "::placeholder", "::selection", "::-webkit-scrollbar", "tern-card:defined", "tern-card:not(:defined)", ":defined:not(html *)", "td:nth-child(2)", "tr:last-child td", "tbody > tr", "table > tr", ":state(x)", ":host(p)", ":host-context(p)", ":host", ":heading", ":nth-col(1)", ":current(p)")
	seen := map[string]bool{}
	var list []string
	for _, s := range out {
		if !seen[s] {
			seen[s] = true
			list = append(list, s)
		}
	}
	return list
}

// askSelectors has the browser say which elements each selector means, and whether a specificity is that of the
// selector: a rule of that specificity wins over it when it comes later, and not when it comes before.
const askSelectors = `(() => {
  const list = %s, specs = %s;
  return list.map((s, i) => {
    let ids;
    try { ids = [...document.querySelectorAll(s)].map(e => e.id); } catch (e) { return 'none'; }
    let spec = '';
    if (ids.length && specs[i]) {
      const [a, b, c] = specs[i], rival = ':is(*, ' + ('#z'.repeat(a) + '.z'.repeat(b) + ' z'.repeat(c) || '*') + ')', e = document.getElementById(ids[0]);
      const st = document.createElement('style');
      document.head.append(st);
      const wins = text => { st.textContent = text; return getComputedStyle(e).getPropertyValue('--z'); };
      if (wins(s + '{--z:s}' + rival + '{--z:r}') !== 'r') spec = ' more';
      if (wins(rival + '{--z:r}' + s + '{--z:s}') !== 's') spec = ' less';
      st.remove();
    }
    return ids.join(' ') + spec;
  });
})()`

// TestPageSelectorsAgreeWithChromium holds matched elements and specificity of selectors on a page against a browser.
func TestPageSelectorsAgreeWithChromium(t *testing.T) {
	t.Parallel()
	ctx := chromium(t)
	file, err := filepath.Abs("testdata/harbour.html")
	if err != nil {
		t.Fatal(err)
	}
	open(t, ctx, file, 800, 600, 1)
	selectors := pageSelectors()
	if len(selectors) < 300 {
		t.Fatalf("only %d selectors", len(selectors))
	}
	doc, err := markup.ParseHTML([]byte(read(t, file)), "", nil)
	if err != nil {
		t.Fatal(err)
	}
	ours, specs := make([]string, len(selectors)), make([]*css.Specificity, len(selectors))
	for i, s := range selectors {
		ours[i] = "none"
		sel, err := css.ParseSelector(s)
		if err != nil {
			continue
		}
		if len(sel.Complex) == 1 {
			specs[i] = &sel.Complex[0].Spec
		}
		var ids []string
		match := css.NewMatcher(nil, nil)
		doc.Root.Walk(func(n *markup.Node) bool {
			if n.Kind == markup.Element && match.Matches(sel, n) {
				ids = append(ids, n.ID())
			}
			return true
		})
		ours[i] = strings.Join(ids, " ")
	}
	theirs, err := chromedp.Run(ctx, chromedp.Evaluate[[]string](fmt.Sprintf(askSelectors, jsonText(t, selectors), jsonText(t, specs))))
	if err != nil {
		t.Fatal(err)
	}
	wrong := 0
	for i, s := range selectors {
		if ours[i] != theirs[i] {
			wrong++
			if len(ours[i]) > 150 {
				t.Error(onlyIn(ours[i], theirs[i]), onlyIn(theirs[i], ours[i]))
			}
			t.Errorf("%q %v\n  ours   %.200s\n  theirs %.200s", s, specs[i], ours[i], theirs[i])
		}
	}
	t.Logf("%d selectors, %d of them otherwise", len(selectors), wrong)
}

// onlyIn are the words of one list that another lacks.
func onlyIn(a, b string) (out []string) {
	for _, w := range strings.Fields(a) {
		if !strings.Contains(" "+b+" ", " "+w+" ") {
			out = append(out, w)
		}
	}
	return out
}
