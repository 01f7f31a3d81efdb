package match

import (
	"strings"
	"testing"

	"archetyp/core/limit"
	"archetyp/core/markup"
)

func tree(t testing.TB, html string) *markup.Node {
	t.Helper()
	d, err := markup.ParseHTML([]byte(html), "", limit.New(limit.Limits{}))
	if err != nil {
		t.Fatal(err)
	}
	return d.Root
}

// TestTrees pairs versions of a page: each element is written as NAME=ITS PARTNER by data-n, in the order of the new one.
func TestTrees(t *testing.T) {
	for name, c := range map[string]struct{ was, is, want string }{
		"renamed classes":      {`<div data-n=a class=x><p data-n=b class=y>One</p><p data-n=c>Two</p></div>`, `<div data-n=a class=q><p data-n=b class=r>One</p><p data-n=c>Two</p></div>`, "a=a b=b c=c"},
		"a wrapper":            {`<main data-n=m><section data-n=s><p data-n=a>One</p></section><p data-n=b>Two</p></main>`, `<main data-n=m><div data-n=w><section data-n=s><p data-n=a>One</p></section><p data-n=b>Two</p></div></main>`, "m=m w= s=s a=a b=b"},
		"a wrapper less":       {`<main data-n=m><div data-n=w><p data-n=a>One</p><p data-n=b>Two</p></div></main>`, `<main data-n=m><p data-n=a>One</p><p data-n=b>Two</p></main>`, "m=m a=a b=b"},
		"another word":         {`<ul data-n=u><li data-n=a>First thing</li><li data-n=b>Second thing</li></ul>`, `<ul data-n=u><li data-n=a>First thing</li><li data-n=b>Other matter</li></ul>`, "u=u a=a b=b"},
		"one gone among alike": {`<ul data-n=u><li data-n=a>Ferry</li><li data-n=b>Pier</li><li data-n=c>Island</li></ul>`, `<ul data-n=u><li data-n=a>Ferry</li><li data-n=c>Island</li></ul>`, "u=u a=a c=c"},
		"swapped":              {`<div data-n=d><p data-n=a>One</p><p data-n=b>Two</p></div>`, `<div data-n=d><p data-n=b>Two</p><p data-n=a>One</p></div>`, "d=d b=b a=a"},
		"by id":                {`<div data-n=d><input data-n=x id=from><input data-n=y id=to></div>`, `<div data-n=d><input data-n=y id=to><input data-n=x id=from></div>`, "d=d y=y x=x"},
		"moved elsewhere":      {`<header data-n=h><b data-n=x>Sale</b></header><main data-n=m><p data-n=p>Words</p></main>`, `<header data-n=h></header><main data-n=m><p data-n=p>Words</p><b data-n=x>Sale</b></main>`, "h=h m=m p=p x=x"},
	} {
		partner := map[*markup.Node]string{}
		// the labels are for the test alone: both sides are paired without them
		old, new := tree(t, c.was), tree(t, c.is)
		label := map[*markup.Node]string{}
		for _, root := range []*markup.Node{old, new} {
			root.Walk(func(n *markup.Node) bool {
				if n.Kind == markup.Element {
					label[n] = n.AttrOr("data-n", "")
					var left []markup.Attr
					for _, a := range n.Attrs {
						if a.Name != "data-n" {
							left = append(left, a)
						}
					}
					n.Attrs = left
				}
				return true
			})
		}
		for _, p := range Trees(old, new) {
			partner[p.New] = label[p.Old]
		}
		var got []string
		new.Walk(func(n *markup.Node) bool {
			if label[n] != "" {
				got = append(got, label[n]+"="+partner[n])
			}
			return true
		})
		if s := strings.Join(got, " "); s != c.want {
			t.Errorf("%s: %s, want %s", name, s, c.want)
		}
	}
}

// TestTreesOfManyElements holds that long lists and deep pages are paired in reasonable time.
func TestTreesOfManyElements(t *testing.T) {
	list := strings.Repeat("<li>x</li>", 20_000)
	if n := len(Trees(tree(t, "<ul>"+list+"</ul>"), tree(t, "<ul>"+list+"<li>y</li></ul>"))); n < 20_000 {
		t.Errorf("%d pairs", n)
	}
	deep := strings.Repeat("<div>", 400)
	if n := len(Trees(tree(t, deep+"one"), tree(t, deep+"two"))); n < 400 {
		t.Errorf("%d pairs", n)
	}
}
