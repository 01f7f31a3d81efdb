package css_test

import (
	"fmt"
	"strings"
	"testing"

	"archetyp/core/css"
	"archetyp/core/markup"
)

// ids are the ids of the elements of a page that a selector means.
func ids(t testing.TB, body, selector string) string {
	t.Helper()
	doc, err := markup.ParseHTML([]byte("<!doctype html><body>"+body), "text/html; charset=utf-8", nil)
	if err != nil {
		t.Fatal(err)
	}
	sel, err := css.ParseSelector(selector)
	if err != nil {
		t.Fatal(err)
	}
	m := css.NewMatcher(nil, nil)
	var out []string
	doc.Root.Walk(func(n *markup.Node) bool {
		if n.Kind == markup.Element && n.ID() != "" && m.Matches(sel, n) {
			out = append(out, n.ID())
		}
		return true
	})
	return strings.Join(out, " ")
}

// TestControls holds what pseudo-classes mean of the controls of forms before anybody touches them.
// https://html.spec.whatwg.org/multipage/semantics-other.html#pseudo-classes
func TestControls(t *testing.T) {
	for _, c := range []struct{ body, selector, want string }{
		{`<input type=checkbox id=a checked><input type=checkbox id=b><input id=c checked>`, ":checked", "a"},
		{`<input type=radio name=n id=a checked><input type=radio name=n id=b checked>`, ":checked", "b"},
		{`<input type=radio id=a checked><input type=radio id=b checked>`, ":checked", "a b"},
		{`<form><input type=radio name=n id=a checked></form><form><input type=radio name=n id=b checked></form>`, ":checked", "a b"},
		{`<input type=radio name=n id=a><input type=radio name=n id=b><input type=radio name=m id=c checked>`, ":indeterminate", "a b"},
		{`<progress id=a></progress><progress id=b value=1></progress><input type=checkbox id=c>`, ":indeterminate", "a"},
		{`<select><option id=a><option id=b></select>`, ":checked", "a"},
		{`<select><option id=a disabled><option id=b></select>`, ":checked", "b"},
		{`<select><option id=a selected><option id=b selected></select>`, ":checked", "b"},
		{`<select multiple><option id=a selected><option id=b selected><option id=c></select>`, ":checked", "a b"},
		{`<select size=3><option id=a><option id=b></select>`, ":checked", ""},
		{`<select><optgroup disabled><option id=a></optgroup><option id=b></select>`, ":checked", "b"},
		{`<select required id=a><option value=""></select><select required id=b><option>x</select>`, ":invalid", "a"},
		{`<fieldset disabled><legend><input id=a></legend><input id=b></fieldset><input id=c>`, ":disabled", "b"},
		{`<select disabled id=s><option id=a></select><option id=b disabled>`, ":disabled", "s a b"},
		{`<input id=a required><input id=b required value=x><input id=c>`, ":invalid", "a"},
		{`<input type=radio name=n required id=a><input type=radio name=n id=b checked>`, ":invalid", ""},
		{`<input type=number min=3 value=2 id=a><input type=number min=3 value=4 id=b>`, ":out-of-range", "a"},
		{`<input type=email value=x id=a><input type=email value=x@y id=b>`, ":invalid", "a"},
		{`<input id=a placeholder=x><input id=b placeholder=x value=y><textarea id=c placeholder=x></textarea>`, ":placeholder-shown", "a c"},
		{`<input id=a readonly><input id=b><div id=c contenteditable></div><p id=d>`, ":read-write", "b c"},
		{`<form><button id=a type=button></button><button id=b></button><input type=submit id=c></form>`, ":default", "b"},
		{`<form id=f><input id=a required></form><form id=g><input id=b></form>`, "form:invalid", "f"},
	} {
		if got := ids(t, c.body, c.selector); got != c.want {
			t.Errorf("%s %s: %q, not %q", c.selector, c.body, got, c.want)
		}
	}
}

// BenchmarkRadioButtons asks each of many radio buttons and options whether it is checked: ten times as many should
// cost about ten times.
func BenchmarkRadioButtons(b *testing.B) {
	for _, n := range []int{1000, 10000} {
		var body strings.Builder
		for i := range n {
			fmt.Fprintf(&body, "<input type=radio name=g%d id=r%d checked>", i%7, i)
		}
		body.WriteString("<select>" + strings.Repeat("<option id=o>", n) + "</select>")
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			for b.Loop() {
				ids(b, body.String(), ":checked, :indeterminate")
			}
		})
	}
}
