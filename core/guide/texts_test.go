package guide

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/read/svg"
	"archetyp/core/text"

	"golang.org/x/net/html"
)

func textDocs(t testing.TB) ([]*design.Document, *text.Catalogue) {
	t.Helper()
	var docs []*design.Document
	for name, content := range map[string]string{"b.svg": `<text x="20" y="90" font-size="16">Second &lt;b></text><text x="20" y="40" font-size="16">First</text><text x="200" y="40" font-size="16">Beside</text>`} {
		d, err := svg.Read(name,
			[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="300" height="120" data-screen="Pier 1">`+content+`</svg>`), svg.Options{})
		if err != nil {
			t.Fatal(err)
		}
		docs = append(docs, d)
	}
	other, err := svg.Read("c.svg",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="300" height="120" data-screen="Pier-1"><text x="20" y="40">First</text><rect width="9" height="9"/></svg>`), svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	empty, err := svg.Read("d.svg",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="300" height="120" data-screen="Empty"/>`), svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	docs = append(docs, other, empty)
	got, err := text.Collect(docs, nil, text.Options{Locale: "en", Locales: []string{"de", "he"}, Pattern: "{words}"})
	if err != nil {
		t.Fatal(err)
	}
	c := got.Catalogue
	if err := c.Set(c.Get("first"), "he", "ראשון", text.Reviewed); err != nil {
		t.Fatal(err)
	}
	c.Get("first").Note, c.Get("first").Meaning = "Keep it <short>", "an order"
	return docs, c
}

func drawingsOf(docs []*design.Document) (out []Drawing) {
	for _, d := range docs {
		out = append(out, Drawing{Name: d.Name, Screens: ScreensOf(d)})
	}
	return out
}

func TestTextScreens(t *testing.T) {
	docs, c := textDocs(t)
	screens := TextScreens(drawingsOf(docs), c, c.Used(), c.Locales)
	var got []string
	for _, s := range screens {
		for _, r := range s.Rows {
			got = append(got, fmt.Sprintf("%s %d %s", s.Page, r.Number, r.Key))
		}
	}
	if s := strings.Join(got,
		", "); s != "pier-1.html 1 first, pier-1.html 2 beside, pier-1.html 3 second-b, pier-1-2.html 1 first" {
		t.Error(s)
	}
	r := screens[0].Rows[0]
	if len(r.Locales) != 2 || r.Locales[1].Words != "ראשון" || !r.Locales[1].RTL || r.Locales[1].State != text.Reviewed ||
		r.Locales[0].State != text.Initial || r.Room == "" {
		t.Errorf("%+v", r)
	}
}

func TestTextPages(t *testing.T) {
	docs, c := textDocs(t)
	p := &TextPages{Name: "Tern & Tide", Source: "en", Screens: TextScreens(drawingsOf(docs), c,
		c.Used(), c.Locales)}
	p.Screens[0].Pictures = []TextPicture{{"en", "img/a.png"}, {"he", "img/b.png"}}
	p.Screens[0].Rows[1].Bad, p.Screens[0].Rows[1].Locales[0].Fault = true, "overflows by 3 px"
	files, err := p.Render()
	if err != nil || len(files) != 3 {
		t.Fatal(err, len(files))
	}
	page := string(files["pier-1.html"])
	for _, want := range []string{"Tern &amp; Tide", `dir="rtl" lang="he">ראשון`, "Second &#39;&lt;&#39;b&gt;",
		"Keep it &lt;short&gt;", "Meaning: an order", `src="img/b.png"`, "overflows by 3 px", `class="bad"`, `href="#t1"`, `id="t3"`} {
		if !strings.Contains(page, want) {
			t.Errorf("%q is not on the page", want)
		}
	}
	if n := strings.Count(page, `class="pin"`); n != 3 {
		t.Errorf("%d places are pointed at in the first picture, want 3", n)
	}
	for name, data := range files {
		if _, err := html.Parse(bytes.NewReader(data)); err != nil {
			t.Errorf("%s: %v", name, err)
		}
	}
	if s := string(files["index.html"]); !strings.Contains(s, `href="pier-1-2.html"`) || strings.Contains(s, "Empty") {
		t.Error(s)
	}
}
