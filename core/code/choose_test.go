package code_test

import (
	"strings"
	"testing"

	"archetyp/core/code"
	"archetyp/core/css"
	"archetyp/core/design"
)

// buttons are four instances of one component: two variants, at rest and under the pointer.
const buttons = `<g data-component="button" data-variant="tone=main" data-state="default"><rect width="90" height="40" fill="#0b6e8f"/><text x="45" y="26" text-anchor="middle" fill="#fff">Pay</text></g>
<g data-component="button" data-variant="tone=main" data-state="hover"><rect x="100" width="90" height="40" fill="#085570"/><text x="145" y="26" text-anchor="middle" fill="#fff">Pay</text></g>
<g data-component="button" data-variant="tone=quiet" data-state="default"><rect y="60" width="90" height="40" fill="#fff"/><text x="45" y="86" text-anchor="middle">Pay</text></g>
<g data-component="button" data-variant="tone=quiet" data-state="hover"><rect x="100" y="60" width="90" height="40" fill="#eee"/><text x="145" y="86" text-anchor="middle">Pay</text></g>`

func matching(t *testing.T, selector string) []*design.Element {
	t.Helper()
	d := drawing(t, buttons)
	sel, err := css.ParseSelector(selector)
	if err != nil {
		t.Fatal(err)
	}
	return d.Query(sel)
}

// TestBaseIsWhatIsShared holds that the first rule of instances has the variant and the state that all of them have,
// and that another selector takes its place in every rule.
func TestBaseIsWhatIsShared(t *testing.T) {
	for _, c := range []struct{ selector, want, called string }{
		{"[data-component=button]",
			".button|.button.main|.button.quiet|.button.main:hover|.button.quiet:hover",
			".pay|.pay.main|.pay.quiet|.pay.main:hover|.pay.quiet:hover"},
		{"[data-variant='tone=main']", ".button.main|.button.main:hover", ".pay|.pay:hover"},
		{"[data-state=hover]", ".button:hover|.button.main:hover|.button.quiet:hover",
			".pay:hover|.pay.main:hover|.pay.quiet:hover"},
		{"[data-variant='tone=main'][data-state=hover]", ".button.main:hover", ".pay"},
	} {
		found := matching(t, c.selector)
		blocks := code.Rules(found, code.Options{})
		called, err := code.Called(blocks, found, ".pay")
		if err != nil {
			t.Fatal(err)
		}
		if got := selectors(blocks); got != c.want {
			t.Errorf("%s:\n%s\nwant\n%s", c.selector, got, c.want)
		}
		if got := selectors(called); got != c.called {
			t.Errorf("%s, called .pay:\n%s\nwant\n%s", c.selector, got, c.called)
		}
	}
}

func selectors(blocks []code.Block) string {
	var s []string
	for _, b := range blocks {
		s = append(s, b.Selector)
	}
	return strings.Join(s, "|")
}

func TestChoose(t *testing.T) {
	e := element(t, `<g id="x" data-label="Card" style="transition:opacity 1s"><rect width="90" height="40" rx="4" fill="#fff" stroke="#000"/>`+
		`<text x="45" y="26" text-anchor="middle" font-family="Go">a</text></g>`)
	for _, c := range []struct{ only, except, want string }{
		{"colour", "", ".card { background: #ffffff; color: #000000; }"},
		{"border,corners", "", ".card { border-radius: 4.5px; border: 1px solid #000000; }"},
		{"motion", "", ".card { transition: opacity 1s; }"},
		{"shadow", "", ""},
		{"", "size,layout,colour,motion,text", ".card { border-radius: 4.5px; border: 1px solid #000000; }"},
	} {
		choice, err := code.Choose(words(c.only), words(c.except))
		if err != nil {
			t.Fatal(err)
		}
		blocks := code.Rules([]*design.Element{e}, code.Options{Groups: choice})
		if got := strings.Join(strings.Fields(code.Print(blocks)), " "); got != c.want {
			t.Errorf("only %q, except %q:\n%s\nwant\n%s", c.only, c.except, got, c.want)
		}
	}
	if _, err := code.Choose([]string{"text"}, []string{"size"}); err == nil {
		t.Error("only and except together")
	}
	if _, err := code.Choose([]string{"colours"}, nil); err == nil ||
		err.Error() != `"colours" is no group of properties` {
		t.Error(err)
	}
}

func words(s string) []string {
	return strings.FieldsFunc(s, func(r rune) bool { return r == ',' })
}

// TestInstancesDifferInWhatWasChosen holds that unlike instances are named with chosen groups, too, if they differ there.
func TestInstancesDifferInWhatWasChosen(t *testing.T) {
	var found []*design.Element
	for _, e := range drawing(t, `<g data-component="tag"><rect width="80" height="24" fill="#fff"/><text x="8" y="18">a</text></g>`+
		`<g data-component="tag"><rect y="40" width="80" height="24" fill="#eee"/><text x="8" y="58">a</text></g>`).All() {
		if e.Marks.Component != "" {
			found = append(found, e)
		}
	}
	for group, differ := range map[string]bool{"colour": true, "text": false} {
		choice, err := code.Choose([]string{group}, nil)
		if err != nil {
			t.Fatal(err)
		}
		got := code.Print(code.Rules(found, code.Options{Groups: choice}))
		if strings.Contains(got, "another instance differs, and nothing marks it: background:#eeeeee */") != differ {
			t.Errorf("%s:\n%s", group, got)
		}
	}
}

func TestUnitsOfCode(t *testing.T) {
	e := element(t, `<rect id="x" data-label="Card 12px" width="100" height="50" rx="8" fill="#fff"/>`)
	u, err := design.ParseUnit("rem", 10)
	if err != nil {
		t.Fatal(err)
	}
	want := ".card-12px { width: 10rem; height: 5rem; border-radius: 0.8rem; background: #ffffff; }"
	if got := one(code.CSS(e, code.Options{Unit: u})); got != want {
		t.Errorf("%s\nwant\n%s", got, want)
	}
	for value, want := range map[string]string{`"Face 12px", serif`: `"Face 12px", serif`,
		"0 -5px 2.5px #000": "0 -0.5rem 0.25rem #000",
		"var(--a-12px)":     "var(--a-12px)", "calc(100% - 20px)": "calc(100% - 2rem)", "url(a-12px.png)": "url(a-12px.png)"} {
		if got := u.Lengths(value); got != want {
			t.Errorf("%s in rem: %s, want %s", value, got, want)
		}
	}
}

func TestFormsOfSelectors(t *testing.T) {
	b := []code.Block{{Selector: ".button.main:hover .text,\n.button.main:hover .note"}}
	want := `[class*="button"][class*="main"]:hover [class*="text"],` + "\n" +
		`[class*="button"][class*="main"]:hover [class*="note"]`
	if got := code.OfFragment.Of(b)[0].Selector; got != want {
		t.Errorf("%s\nwant\n%s", got, want)
	}
	for name, want := range map[string]string{"pay": ".pay", ".form .pay": ".form .pay", "#pay": "#pay", "a{": "", "": "",
		"a,b":        "",
		"pay button": "pay button"} {
		if got, err := code.ParseName(name); got != want || (err == nil) != (want != "") {
			t.Errorf("%q: %q, %v", name, got, err)
		}
	}
}
