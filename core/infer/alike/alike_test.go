package alike_test

import (
	"fmt"
	"strings"
	"testing"

	"archetyp/core/infer/alike"
	"archetyp/core/read/svg"
)

func find(t testing.TB, body string) []alike.Set {
	t.Helper()
	doc, err := svg.Read("x.svg",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="900" height="600">`+body+`</svg>`), svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	return alike.Find(doc.All())
}

func button(x int, more, fill, size, words string) string {
	return fmt.Sprintf(`<g %s><rect x="%d" width="%d" height="40" rx="8" fill="%s"/><text x="%d" y="25" font-size="%s">%s</text></g>`, more, x, 60+8*len(words), fill, x+20, size, words)
}

func TestButtonsNobodyMarked(t *testing.T) {
	sets := find(t, button(0, `id="a"`, "#0b6e8f", "16", "Book")+button(200, `id="b"`, "#0b6e8f", "16",
		"See times")+button(400, `id="c"`, "#0b6e8f", "17", "Pay")+
		`<g id="other"><rect y="100" width="300" height="200" fill="#fff" stroke="#000"/><text y="130" font-size="31">Title</text></g>`)
	if len(sets) != 1 || len(sets[0].Instances) != 3 {
		t.Fatalf("%+v", sets)
	}
	for i, in := range sets[0].Instances {
		if i < 2 && len(in.Differs) != 0 {
			t.Errorf("%s differs: %+v", in.Element.ID, in.Differs)
		}
	}
	want := alike.Difference{Where: "text 2", Fact: "font-size", Value: "17px", Others: "16px"}
	if d := sets[0].Instances[2].Differs; len(d) != 1 || d[0] != want {
		t.Errorf("%+v", d)
	}
}

func TestNotAlike(t *testing.T) {
	for name, body := range map[string]string{
		"another structure": button(0, "", "#000", "16", "A") +
			`<g><rect width="60" height="40" rx="8"/><text>A</text><circle r="3"/></g>`,
		"hardly a fact alike": button(0, "", "#0b6e8f", "16", "A") +
			`<g><rect y="90" width="300" height="300" fill="#fff" stroke="#111"/><text y="99" font-size="31" font-weight="700" fill="#fff">B</text></g>`,
		"too little to tell": `<g><path d="M0 0h3v9z"/></g><g><path d="M0 0h3v9z"/></g>`,
		"hidden":             button(0, "", "#000", "16", "A") + button(0, `display="none"`, "#000", "16", "A"),
	} {
		if sets := find(t, body); len(sets) != 0 {
			t.Errorf("%s: %d sets, %+v", name, len(sets), sets[0])
		}
	}
}

func TestPartsOfInstances(t *testing.T) {
	row := func(y int) string {
		return fmt.Sprintf(`<g transform="translate(0 %d)"><rect width="300" height="90" fill="#fff"/><g><path d="M0 0h9v9z"/><circle cx="30" cy="20" r="9" fill="#e4572e"/></g></g>`, y)
	}
	if sets := find(t, row(0)+row(100)); len(sets) != 1 { // what has no ground of its own is no thing of its own
		t.Errorf("%+v", sets)
	}

	card := func(y int) string {
		return fmt.Sprintf(`<g transform="translate(0 %d)" data-component="card"><rect width="300" height="90" fill="#fff"/><text y="20" font-size="20">Name</text>%s</g>`, y, button(20, "", "#0b6e8f", "14", "Go"))
	}
	sets := find(t, card(0)+card(100)+card(200))
	if len(sets) != 2 || sets[0].Name != "card" || len(sets[0].Instances) != 3 || sets[1].Inside != "card" ||
		len(sets[1].Instances) != 3 {
		t.Errorf("%+v", sets)
	}
	// one stands alone: a set after all
	sets = find(t, card(0)+card(100)+button(0, `transform="translate(0 400)"`, "#0b6e8f", "14", "Go"))
	if len(sets) != 2 || sets[1].Inside != "" {
		t.Errorf("%+v", sets)
	}
}

func BenchmarkFind(b *testing.B) {
	for _, n := range []int{100, 1000, 10000} {
		var body strings.Builder
		for i := range n {
			body.WriteString(button(i, "", "#0b6e8f", fmt.Sprint(12+i%3), "Go"))
		}
		doc, err := svg.Read("x.svg",
			[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9">`+body.String()+`</svg>`), svg.Options{})
		if err != nil {
			b.Fatal(err)
		}
		all := doc.All()
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			for b.Loop() {
				alike.Find(all)
			}
		})
	}
}
