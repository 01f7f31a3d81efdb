package harvest_test

import (
	"encoding/json"
	"testing"

	"archetyp/core/design"
	"archetyp/core/read/svg"
	"archetyp/core/token"
	"archetyp/core/token/harvest"
)

const quay = `<defs><linearGradient id="g"><stop offset="0" stop-color="#0b6e8f"/><stop offset="1" stop-color="#fff" stop-opacity=".5"/></linearGradient></defs>
<rect width="390" height="300" fill="#f5f8fa"/><g id="a"><rect x="20" y="20" width="100" height="40" rx="8" fill="url(#g)" stroke="#0b6e8f"/>
<text x="30" y="46" font-size="14" letter-spacing="1">Pay &quot;now&quot;</text></g><g id="b"><rect x="140" y="20" width="100" height="40" rx="8" fill="#0b6e8f"/>
<text x="150" y="46" font-size="14" letter-spacing="1">Later</text></g>`

// TestValuesAreReadBack holds that a harvest of values read back is the one of the documents.
func TestValuesAreReadBack(t *testing.T) {
	docs := drawing(t, quay)
	data, err := harvest.Find(docs[0]).MarshalBinary()
	if err != nil {
		t.Fatal(err)
	}
	back := &harvest.Values{}
	if err := back.UnmarshalBinary(data); err != nil {
		t.Fatal(err)
	}
	set := token.Resolve()
	again := harvest.Gather([]*harvest.Values{back}, set, token.Scales{}, nil, func() []*design.Document { return docs })
	want, err1 := json.Marshal(harvest.Collect(docs, set, token.Scales{}, nil))
	got, err2 := json.Marshal(again)
	if err1 != nil || err2 != nil || string(got) != string(want) {
		t.Errorf("%s\n%s %v %v", got, want, err1, err2)
	}
	if len(again.Found) < 6 {
		t.Errorf("only %d values", len(again.Found))
	}
}

func FuzzValues(f *testing.F) {
	d, err := svg.Read("t.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400">`+quay+`</svg>`),
		svg.Options{})
	if err != nil {
		f.Fatal(err)
	}
	data, err := harvest.Find(d).MarshalBinary()
	if err != nil {
		f.Fatal(err)
	}
	f.Add(data)
	f.Add(data[:len(data)/2])
	f.Fuzz(func(t *testing.T, data []byte) {
		v := &harvest.Values{}
		if v.UnmarshalBinary(data) == nil {
			harvest.Gather([]*harvest.Values{v}, token.Resolve(), token.Scales{}, nil, func() []*design.Document { return nil })
		}
	})
}
