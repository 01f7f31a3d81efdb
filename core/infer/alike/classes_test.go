package alike_test

import (
	"strings"
	"testing"

	"archetyp/core/css"
	"archetyp/core/infer/alike"
	"archetyp/core/read/page"
)

// onPage are the sets on a page.
func onPage(t testing.TB, body string) []alike.Set {
	t.Helper()
	p, err := page.Read([]byte("<!doctype html><style>.card { background: #fff; padding: 8px } h2 { font-size: 20px } p { color: #5a6f83 } .pay { color: teal }</style>"+body),
		page.Options{Name: "page.html", Medium: css.Medium{Width: 800, Height: 600}})
	if err != nil {
		t.Fatal(err)
	}
	return alike.Find(p.Document("page", page.DocumentOptions{}).All())
}

// TestOnPages finds structures that repeat on a page, with the classes they share.
func TestOnPages(t *testing.T) {
	sets := onPage(t, `<div class="card wide"><h2>Skerry Point</h2><p>08:15</p></div><a class="card" href="#"><h2>Long Sound</h2><p>09:35</p></a><div class="wide card last"><h2>Quay</h2><p class=pay>10:00</p></div>`)
	if len(sets) != 1 || len(sets[0].Instances) != 3 || strings.Join(sets[0].Classes, " ") != "card" {
		t.Fatalf("%+v", sets)
	}
	if d := sets[0].Instances[2].Differs; len(d) == 0 {
		t.Error("the other colour of the third is not named")
	}
}

// TestOtherClassesAreOtherThings holds that what has no class in common is not one thing, however alike it looks.
func TestOtherClassesAreOtherThings(t *testing.T) {
	for name, body := range map[string]string{
		"other classes":     `<div class="card"><h2>A</h2><p>1</p></div><div class="tile card2"><h2>B</h2><p>2</p></div>`,
		"a class and none":  `<div class="card"><h2>A</h2><p>1</p></div><div><h2>B</h2><p>2</p></div>`,
		"other elements":    `<section><h2>A</h2><p>1</p></section><article><h2>B</h2><p>2</p></article>`,
		"another structure": `<div class="card"><h2>A</h2><p>1</p></div><div class="card"><h2>B</h2><p>2</p><p>3</p></div>`,
	} {
		if sets := onPage(t, body); len(sets) != 0 {
			t.Errorf("%s: %+v", name, sets[0])
		}
	}
}
