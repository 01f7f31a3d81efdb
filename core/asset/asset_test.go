package asset

import (
	"bytes"
	"image/color"
	"image/png"
	"strings"
	"testing"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/read/svg"
)

func drawing(t testing.TB, content string) []*design.Document {
	t.Helper()
	d, err := svg.Read("t.svg",
		[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400"><rect width="400" height="400" fill="#eee"/>`+content+`</svg>`), svg.Options{})
	if err != nil {
		t.Fatal(err)
	}
	return []*design.Document{d}
}

func TestCollect(t *testing.T) {
	for _, c := range []struct{ name, content, want, fault string }{
		{"marked", `<rect data-asset="icons/a" width="9" height="9"/><rect width="9" height="9"/>`, "icons/a", ""},
		{"by name", `<rect data-asset="b" width="9" height="9"/><rect data-asset="a" width="9" height="9"/>`, "a b", ""},
		{"twice", `<rect data-asset="a" width="9" height="9"/><rect data-asset="A" width="9" height="9"/>`, "a",
			"is marked at t.svg:1 too"},
		{"out of the folder", `<rect data-asset="../a" width="9" height="9"/>`, "", "no name"},
		{"from the root", `<rect data-asset="/etc/a" width="9" height="9"/>`, "", "no name"},
		{"a folder alone", `<rect data-asset="icons/" width="9" height="9"/>`, "", "data-label"},
		{"odd letters", `<rect data-asset="a:b" width="9" height="9"/>`, "", "no name"},
		{"backslash", `<rect data-asset="icons\a" width="9" height="9"/>`, "icons/a", ""},
		{"unknown format", `<rect data-asset="a" data-formats="bmp" width="9" height="9"/>`, "", `format "bmp"`},
		{"hidden", `<rect data-asset="a" display="none" width="9" height="9"/>`, "", "paints nothing"},
		{"empty", `<g data-asset="a"/>`, "", "paints nothing"},
	} {
		list, faults := Collect(drawing(t, c.content), BuiltIn())
		var names []string
		for _, a := range list {
			names = append(names, a.Name)
		}
		if strings.Join(names, " ") != c.want || c.fault == "" && len(faults) > 0 || c.fault != "" &&
			(len(faults) != 1 || !strings.Contains(faults[0], c.fault) || !strings.HasPrefix(faults[0], "t.svg:1:")) {
			t.Errorf("%s: %v, faults %q", c.name, names, faults)
		}
	}
}

func export(t testing.TB, content string) map[string]File {
	t.Helper()
	list, faults := Collect(drawing(t, content), BuiltIn())
	if len(faults) > 0 || len(list) != 1 {
		t.Fatalf("%v %v", list, faults)
	}
	sets := BuiltIn()
	names := map[string]Names{}
	for _, s := range sets {
		names[s.Name], _ = s.Fit([]string{list[0].Name})
	}
	made, err := Make(list[0], sets, names, Look{})
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]File{}
	for _, f := range made.Files {
		if f.Set == "web" {
			out[strings.TrimPrefix(f.Path, "web/")] = f
		}
	}
	return out
}

func TestExport(t *testing.T) {
	files := export(t, `<g transform="translate(100 50)"><rect data-asset="pics/box" x=".5" width="20" height="10" rx="4" fill="red"/></g>`)
	for name, size := range map[string][2]int{"pics/box.svg": {21, 10}, "pics/box.png": {21, 10},
		"pics/box@2x.png": {42, 20}, "pics/box@3x.png": {63, 30}} {
		f, ok := files[name]
		if !ok || f.Width != size[0] || f.Height != size[1] {
			t.Errorf("%s: %v, %d × %d", name, ok, f.Width, f.Height)
		}
	}
	img, err := png.Decode(bytes.NewReader(files["pics/box@2x.png"].Data))
	if err != nil {
		t.Fatal(err)
	}
	if _, _, _, a := img.At(0, 0).RGBA(); a != 0 {
		t.Error("the corner is not clear: what lies under the asset was painted too")
	}
	if got := color.NRGBAModel.Convert(img.At(20, 10)); got != (color.NRGBA{255, 0, 0, 255}) {
		t.Errorf("the middle is %v", got)
	}
	if s := string(files["pics/box.svg"].Data); !strings.Contains(s, `viewBox="0 0 21 10"`) ||
		strings.Contains(s, "data-asset") {
		t.Error(s)
	}
}

func TestExportKeepsTheShadowWhole(t *testing.T) {
	files := export(t, `<filter id="f" x="-1" y="-1" width="3" height="3"><feDropShadow dx="0" dy="10" stdDeviation="5"/></filter><rect data-asset="a" x="100" y="100" width="50" height="50" filter="url(#f)"/>`)
	if f := files["a.png"]; f.Width != 80 || f.Height != 80 {
		t.Errorf("%d × %d, want room for the shadow: 80 × 80", f.Width, f.Height)
	}
}

func TestFormats(t *testing.T) {
	files := export(t, `<rect data-asset="a" data-formats="svg" width="9" height="9"/>`)
	if len(files) != 1 || files["a.svg"].Data == nil {
		t.Errorf("%v", files)
	}
}

func TestExportedSVGReadsAlone(t *testing.T) {
	files := export(t, `<style>.i{stroke:var(--c);fill:none;--c:teal}</style><symbol id="s" viewBox="0 0 24 24"><path d="M4 4l16 16"/></symbol><use class="i" href="#s" data-asset="a" x="50" y="60" width="48" height="48"/>`)
	d, err := svg.Read("a.svg", files["a.svg"].Data, svg.Options{})
	if err != nil || len(d.Warnings) > 0 {
		t.Fatalf("%v %v\n%s", err, d, files["a.svg"].Data)
	}
	if !strings.Contains(string(files["a.svg"].Data), `stroke="teal"`) {
		t.Errorf("the colour is not resolved: %s", files["a.svg"].Data)
	}
}

// TestWholeDrawingsAreNamedAfterTheirFile has one mark for a folder of icons.
func TestWholeDrawingsAreNamedAfterTheirFile(t *testing.T) {
	root, err := css.ParseSelector(":root")
	if err != nil {
		t.Fatal(err)
	}
	marks := design.ForFile([]design.SelectedMarks{{Select: root, Marks: design.Marks{Asset: "{file}/{name}"}}},
		"design/quay.svg")
	for attrs, want := range map[string]string{"": "quay/quay", `aria-label="pier"`: "quay/pier",
		`id="landing"`: "quay/landing"} {
		d, err := svg.Read("design/quay.svg",
			[]byte(`<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9" `+attrs+`><path d="M1 1h7v7z"/></svg>`), svg.Options{Marks: marks})
		if err != nil {
			t.Fatal(err)
		}
		list, faults := Collect([]*design.Document{d}, BuiltIn())
		if len(list) != 1 || list[0].Name != want || len(faults) > 0 {
			t.Errorf("%s: %v %v", attrs, list, faults)
		}
	}
}
