package text_test

import (
	"testing"

	"archetyp/core/text"
)

// TestFindsAreReadBack holds that a collection of texts read back is the one of the documents.
func TestFindsAreReadBack(t *testing.T) {
	o := text.Options{Locale: "en", Pattern: "{words}"}
	d := drawing(t, "a.svg", `<g id="card" data-component="card"><text x="10" y="20">Two <tspan font-weight="700">bold</tspan> words</text>
<text x="10" y="40" data-meaning="an order" data-text="go.now">Go</text><text x="10" y="60">42</text><image href="data:," aria-label="A quay"/></g>`)
	data, err := text.Find(d, o).MarshalBinary()
	if err != nil {
		t.Fatal(err)
	}
	back := &text.Finds{}
	if err := back.UnmarshalBinary(data); err != nil {
		t.Fatal(err)
	}
	got, err1 := text.Gather([]*text.Finds{back}, nil, o)
	want, err2 := text.Gather([]*text.Finds{text.Find(d, o)}, nil, o)
	if err1 != nil || err2 != nil {
		t.Fatal(err1, err2)
	}
	if a, b := string(got.Catalogue.KeysJSON()), string(want.Catalogue.KeysJSON()); a != b || len(a) < 100 {
		t.Errorf("%s\n%s", a, b)
	}
	if len(got.Events) != len(want.Events) {
		t.Errorf("%v\n%v", got.Events, want.Events)
	}
}

func FuzzFinds(f *testing.F) {
	data, err := text.Find(drawing(f, "a.svg",
		`<text x="10" y="20">Two <tspan font-weight="700">bold</tspan> words</text>`),
		text.Options{Locale: "en"}).MarshalBinary()
	if err != nil {
		f.Fatal(err)
	}
	f.Add(data)
	f.Fuzz(func(t *testing.T, data []byte) {
		finds := &text.Finds{}
		if finds.UnmarshalBinary(data) == nil {
			_, _ = text.Gather([]*text.Finds{finds}, nil, text.Options{Locale: "en", Pattern: "{words}"})
		}
	})
}
