package drawable

import (
	"encoding/xml"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/read/svg"
)

func read(content string) (*design.Document, error) {
	return svg.Read("t.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg" width="24" height="24">`+content+`</svg>`),
		svg.Options{})
}

func write(t testing.TB, content string) (string, error) {
	t.Helper()
	d, err := read(content)
	if err != nil {
		t.Fatalf("%s: %v", content, err)
	}
	data, err := Write(d.Screens[0].Paint, geom.Rect{W: 24, H: 24}, 1)
	return string(data), err
}

func TestWrite(t *testing.T) {
	for content, want := range map[string][]string{
		`<path d="M4 4h9v9z" fill="#0b6e8f"/>`:                                                         {`android:width="24dp"`, `android:viewportHeight="24"`, `android:pathData="M4 4h9v9z"`, `android:fillColor="#0B6E8F"`},
		`<g transform="translate(2 3)"><path d="M4 4h9v9z"/></g>`:                                      {`android:pathData="M6 7h9v9z"`},
		`<path d="M4 4h9v9z" fill="red" opacity=".5"/>`:                                                {`android:fillColor="#80FF0000"`},
		`<path d="M4 4h9" stroke="red" stroke-width="2" stroke-linecap="round" transform="scale(2)"/>`: {`android:strokeWidth="4"`, `android:strokeLineCap="round"`},
		`<path d="M4 4h9v9H4zM6 6h2v2H6z" fill-rule="evenodd"/>`:                                       {`android:fillType="evenOdd"`},
		// flags apart
		`<circle cx="12" cy="12" r="5"/>`: {`a5 5 0 1 1-5-5 5 5 0 0 1 5 5z`},
		`<clipPath id="c"><path d="M0 0h9v9z"/></clipPath><path d="M4 4h9v9z" clip-path="url(#c)"/>`:                                                 {`<clip-path android:pathData="M0 0h9v9z"/>`},
		`<linearGradient id="g"><stop stop-color="red"/><stop offset="1" stop-opacity=".5"/></linearGradient><path d="M4 4h9v9H4z" fill="url(#g)"/>`: {`<gradient`, `android:startX="4"`, `android:endX="13"`, `#80000000`, `xmlns:aapt`},
	} {
		got, err := write(t, content)
		if err != nil {
			t.Errorf("%s: %v", content, err)
			continue
		}
		for _, w := range want {
			if !strings.Contains(got, w) {
				t.Errorf("%s: no %s in\n%s", content, w, got)
			}
		}
	}
	if _, err := write(t, ``); err == nil || !strings.Contains(err.Error(), "paints nothing") {
		t.Error(err)
	}
}

func FuzzWrite(f *testing.F) {
	f.Add(`<path d="M4 4h9v9z" stroke="red" stroke-dasharray="1 2"/>`)
	f.Add(`<radialGradient id="g"><stop/><stop offset="1"/></radialGradient><circle r="9" fill="url(#g)" clip-path="url(#g)"/>`)
	f.Fuzz(func(t *testing.T, content string) {
		if _, err := read(content); err != nil {
			return // no drawing
		}
		got, err := write(t, content)
		if err != nil {
			return
		}
		if err := xml.Unmarshal([]byte(got), new(struct{})); err != nil || strings.Contains(got, "NaN") {
			t.Fatalf("%v\n%s", err, got)
		}
	})
}
