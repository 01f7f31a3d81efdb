package asset

import (
	"bytes"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"math"
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/geom"
)

// made makes the only asset of a drawing in sets.
func made(t testing.TB, content string, look Look, sets ...Set) *Made {
	t.Helper()
	if len(sets) == 0 {
		sets = BuiltIn()
	}
	list, faults := Collect(drawing(t, content), sets)
	if len(faults) > 0 || len(list) != 1 {
		t.Fatalf("%v %v", list, faults)
	}
	names := map[string]Names{}
	for _, s := range sets {
		names[s.Name], _ = s.Fit([]string{list[0].Name})
	}
	m, err := Make(list[0], sets, names, look)
	if err != nil {
		t.Fatal(err)
	}
	return m
}

func paths(m *Made) string {
	var out []string
	for _, f := range m.Files {
		out = append(out, f.Path)
	}
	return strings.Join(out, " ")
}

func TestMakeForEveryTarget(t *testing.T) {
	m := made(t, `<circle data-asset="icons/dot" data-sets="web android ios favicon" cx="12" cy="12" r="10" fill="teal"/>`,
		Look{})
	got := paths(m)
	for _, want := range []string{"web/icons/dot.svg", "web/icons/dot.png", "web/icons/dot@3x.png",
		"android/res/drawable-anydpi-v24/icons_dot.xml", "android/res/drawable-hdpi/icons_dot.png",
		"ios/Assets.xcassets/icons/dot.imageset/dot.pdf", "ios/Assets.xcassets/icons/dot.imageset/Contents.json", "favicon/favicon.ico", "favicon/apple-touch-icon.png", "favicon/icon-512.png"} {
		if !strings.Contains(got+" ", want+" ") {
			t.Errorf("no %s in %s", want, got)
		}
	}
	if len(m.Notes) > 0 {
		t.Errorf("%q", m.Notes)
	}
	for _, f := range m.Files {
		if f.Path == "android/res/drawable-hdpi/icons_dot.png" && (f.Width != 30 || f.Height != 30) {
			t.Errorf("%+v", f.Width)
		}
	}
}

func TestWhatCannotBeAVector(t *testing.T) {
	for why, content := range map[string]string{
		"a filter":                   `<filter id="f"><feGaussianBlur stdDeviation="2"/></filter><rect data-asset="a" width="20" height="20" filter="url(#f)"/>`,
		"a mask":                     `<mask id="m"><rect width="9" height="9" fill="#fff"/></mask><rect data-asset="a" width="20" height="20" mask="url(#m)"/>`,
		"a pattern":                  `<pattern id="p" width="4" height="4" patternUnits="userSpaceOnUse"><rect width="2" height="2"/></pattern><rect data-asset="a" width="20" height="20" fill="url(#p)"/>`,
		"blends by multiply":         `<g data-asset="a"><rect width="20" height="20" fill="red"/><rect width="9" height="9" style="mix-blend-mode:multiply"/></g>`,
		"overlap are see-through":    `<g data-asset="a" opacity=".5"><rect width="20" height="20"/><rect x="9" width="20" height="20"/></g>`,
		"radial gradient is stretch": `<radialGradient id="g"><stop stop-color="red"/><stop offset="1"/></radialGradient><ellipse data-asset="a" cx="20" cy="20" rx="19" ry="9" fill="url(#g)"/>`,
	} {
		m := made(t, content, Look{}, *set(t, "android"))
		if said := strings.Join(m.Notes, "; "); !strings.Contains(said, why) || !strings.Contains(said, "PNG stands in") ||
			strings.Contains(paths(m), ".xml") || len(m.Files) != 5 {
			t.Errorf("%s: %q, %s", why, said, paths(m))
		}
	}
}

func TestContentsHaveTheFieldsOfThePlatform(t *testing.T) {
	m := made(t, `<filter id="f"><feGaussianBlur stdDeviation="1"/></filter><rect data-asset="a" width="20" height="20" filter="url(#f)"/>`, Look{}, *set(t, "ios"))
	var c map[string]any
	for _, f := range m.Files {
		if strings.HasSuffix(f.Path, "Contents.json") {
			if err := json.Unmarshal(f.Data, &c); err != nil {
				t.Fatal(err)
			}
		}
	}
	images := c["images"].([]any)
	if len(c) != 2 || len(images) != 3 || fmt.Sprint(images[1]) != "map[filename:a@2x.png idiom:universal scale:2x]" ||
		fmt.Sprint(c["info"]) != "map[author:archetyp version:1]" {
		t.Errorf("%v", c)
	}
}

func TestLooks(t *testing.T) {
	content := `<g data-asset="a"><rect x="100.5" y="60" width="20" height="10" fill="none"/><rect x="104" y="62" width="8" height="4" fill="red"/></g>`
	for name, c := range map[string]struct {
		look Look
		w, h float64
	}{
		"as it is":     {Look{}, 21, 10},
		"trimmed":      {Look{Trim: true}, 8, 4},
		"with air":     {Look{Trim: true, Pad: 3}, 14, 10},
		"square":       {Look{Trim: true, Square: true, Pad: 1}, 10, 10},
		"drawn double": {Look{Trim: true, Density: 2}, 4, 2},
	} {
		list, _ := Collect(drawing(t, content), BuiltIn())
		cut := list[0].Out(c.look)
		if w, h := cut.Size(); w != c.w || h != c.h {
			t.Errorf("%s: %g × %g, want %g × %g", name, w, h, c.w, c.h)
		}
	}
}

func TestShadows(t *testing.T) {
	content := `<filter id="f" x="-1" y="-1" width="3" height="3"><feDropShadow dx="0" dy="4" stdDeviation="3"/></filter><rect data-asset="a" x="380" y="100" width="30" height="30" filter="url(#f)"/>`
	list, _ := Collect(drawing(t, content), BuiltIn())
	with, without := list[0].Out(Look{}), list[0].Out(Look{NoEffects: true})
	if with.Box.Right() < 418 { // it stands at the edge of its screen, which cuts nothing off
		t.Errorf("the shadow is cut off: %v", with.Box)
	}
	if without.Box.W > 30 || without.Box.H > 30 {
		t.Errorf("without effects: %v", without.Box)
	}
	img, err := with.Render(2, nil)
	if err != nil {
		t.Fatal(err)
	}
	for x := range img.Rect.Dx() { // nothing at the edges: the whole shadow is inside
		for _, y := range []int{0, img.Rect.Dy() - 1} {
			if a := img.RGBAAt(x, y).A; a > 2 {
				t.Fatalf("alpha %d at the edge", a)
			}
		}
	}
}

func TestJoinKeepsPaintOrder(t *testing.T) {
	d := drawing(t, `<rect id="a" width="20" height="20" fill="red"/><rect width="400" height="9" fill="#0f0"/><rect id="b" x="10" y="10" width="20" height="20" fill="blue"/>`)[0]
	var list []*design.Element
	for _, e := range d.All() {
		if e.ID == "b" {
			list = append([]*design.Element{e}, list...)
		} else if e.ID == "a" {
			list = append(list, e)
		}
	}
	cut := Join(list, Look{})
	img, err := cut.Render(1, nil)
	if err != nil || cut.Box != (geom.Rect{W: 30, H: 30}) {
		t.Fatal(err, cut.Box)
	}
	if got := img.RGBAAt(15, 15); got != (color.RGBA{0, 0, 255, 255}) {
		t.Errorf("%v lies on top", got)
	}
	if got := img.RGBAAt(25, 5); got.A != 0 {
		t.Errorf("what was not chosen is painted: %v", got)
	}
}

func photograph(t testing.TB, w, h int, kind string) (uri string, data []byte) {
	t.Helper()
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for i := range img.Pix {
		img.Pix[i] = uint8(i*i/7) | 3*uint8(i%4/3*85)
	}
	var b bytes.Buffer
	var err error
	if kind == "jpeg" {
		err = jpeg.Encode(&b, img, nil)
	} else {
		err = png.Encode(&b, img)
	}
	if err != nil {
		t.Fatal(err)
	}
	return "data:image/" + kind + ";base64," + base64.StdEncoding.EncodeToString(b.Bytes()), b.Bytes()
}

func TestBitmapsStayWhatTheyAre(t *testing.T) {
	for _, kind := range []string{"png", "jpeg"} {
		uri, data := photograph(t, 60, 40, kind)
		m := made(t, `<image data-asset="quay" x="10" y="10" width="30" height="20" href="`+uri+`"/>`, Look{}, *set(t, "web"))
		extension := map[string]string{"png": ".png", "jpeg": ".jpg"}[kind]
		if got := paths(m); got != "web/quay"+extension+" web/quay@2x"+extension {
			t.Errorf("%s: %s", kind, got)
			continue
		}
		if !bytes.Equal(m.Files[1].Data, data) {
			t.Errorf("%s: at 2x it is not the file that came", kind)
		}
		if m.Bitmap != 2 {
			t.Errorf("%s: it is said to have pixels for %gx", kind, m.Bitmap)
		}
		if m.Files[0].Width != 30 {
			t.Errorf("%s: %d pixels at 1x", kind, m.Files[0].Width)
		}
		if said := strings.Join(m.Notes, ""); !strings.Contains(said, "a bitmap of 2 times the size") ||
			!strings.Contains(said, "3x") || !strings.Contains(said, "not scaled up") {
			t.Errorf("%s: %q", kind, said)
		}
	}
}

func TestManifestComesBack(t *testing.T) {
	m := made(t, `<rect data-asset="a" width="9" height="9"/>`, Look{})
	before := &Manifest{From: "x", Inputs: map[string]string{"b.svg": "1", "a.svg": "2"},
		Assets: []Entry{{Name: "a", Source: "a.svg", Element: "#a", From: "y", Names: map[string]string{"android": "a_"},
			Width: 9, Height: 9, Notes: []string{"<&>"}}}}
	for i := range m.Files {
		before.Assets[0].Files = append(before.Assets[0].Files, RecordOf(&m.Files[i], "a"))
	}
	for _, f := range Share(BuiltIn(), "Quay & sons", before.Files()) {
		before.Shared = append(before.Shared, RecordOf(&f, ""))
	}
	data, err := before.JSON()
	if err != nil {
		t.Fatal(err)
	}
	after, err := ReadManifest(data)
	if err != nil {
		t.Fatalf("%v\n%s", err, data)
	}
	again, err := after.JSON()
	if err != nil || !bytes.Equal(data, again) || len(after.Files()) != len(m.Files) || after.Files()[0].Asset != "a" ||
		!strings.Contains(string(data), "<&>") {
		t.Errorf("%v\n%s\n%s", err, data, again)
	}
	for _, bad := range []string{"{", "[]", `{"version":1,"assets":3}`} {
		if _, err := ReadManifest([]byte(bad)); err == nil {
			t.Errorf("%s is a manifest", bad)
		}
	}
	if old, err := ReadManifest([]byte(`{"version":99,"assets":[{"name":"a"}]}`)); err != nil || len(old.Assets) != 0 {
		t.Errorf("%v %v", old, err)
	}
}

func TestSnippets(t *testing.T) {
	uri, _ := photograph(t, 90, 60, "png")
	m := made(t, `<image data-asset="quay" width="30" height="20" href="`+uri+`"/>`, Look{}, *set(t, "web"))
	var records []Record
	for i := range m.Files {
		records = append(records, RecordOf(&m.Files[i], "quay"))
	}
	files := Share([]Set{*set(t, "web")}, "Quay", records)
	if len(files) != 2 || !strings.Contains(string(files[0].Data),
		`--asset-quay: image-set(url("quay.png") 1x type("image/png"), url("quay@2x.png") 2x type("image/png"), url("quay@3x.png") 3x type("image/png"));`) ||
		!strings.Contains(string(files[1].Data),
			`<img src="quay.png" width="30" height="20" alt="" srcset="quay.png 1x, quay@2x.png 2x, quay@3x.png 3x">`) {
		t.Errorf("%v", files)
	}
}

func FuzzReadManifest(f *testing.F) {
	f.Add([]byte(`{"version":1,"from":"x","inputs":{"a.svg":"1"},"assets":[{"name":"a","files":[{"path":"a.png","bytes":1}]}]}`))
	f.Add([]byte("{\"version\":1,\"from\":\"x\xf4\x7f\"}"))
	f.Fuzz(func(t *testing.T, data []byte) {
		m, err := ReadManifest(data)
		if err != nil || m == nil {
			return
		}
		out, err := m.JSON()
		if err != nil {
			t.Fatal(err)
		}
		if _, err := ReadManifest(out); err != nil {
			t.Fatalf("%v\n%s", err, out)
		}
	})
}

func TestFramesOfViewports(t *testing.T) {
	for content, want := range map[string]geom.Rect{
		`<symbol id="s" viewBox="0 0 24 24"><path d="M4 4h3v3H4z"/></symbol><use data-asset="a" href="#s" x="10" y="20" width="24" height="24"/>`: {X: 10, Y: 20, W: 24, H: 24},
		`<svg data-asset="a" x="5" y="5" width="16.01" height="16"><path d="M4 4h3v3H4z"/></svg>`:                                                 {X: 5, Y: 5, W: 16, H: 16},
		`<path data-asset="a" d="M4.2 4h3v3.5h-3z"/>`:                                                                                             {X: 4, Y: 4, W: 4, H: 4},
	} {
		list, faults := Collect(drawing(t, content), BuiltIn())
		if len(list) != 1 || math.Abs(list[0].Box.X-want.X) > 1e-9 || list[0].Box != want {
			t.Errorf("%s: %v %v", content, list, faults)
		}
	}
}

// imageOf is a grey picture of a function of place.
func imageOf(w, h int, at func(x, y int) uint8) image.Image {
	img := image.NewGray(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			img.SetGray(x, y, color.Gray{at(x, y)})
		}
	}
	return img
}
