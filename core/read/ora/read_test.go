package ora

import (
	"archive/zip"
	"bytes"
	"encoding/binary"
	"fmt"
	"hash/crc32"
	"image"
	"image/color"
	"image/png"
	"os"
	"strings"
	"testing"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// pack makes an archive of names and contents, mimetype first.
func pack(t testing.TB, files ...string) []byte {
	t.Helper()
	var buf bytes.Buffer
	z := zip.NewWriter(&buf)
	for i := 0; i < len(files); i += 2 {
		w, err := z.Create(files[i])
		if err == nil {
			_, err = w.Write([]byte(files[i+1]))
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return buf.Bytes()
}

const mime = "image/openraster"

// square is a PNG of one colour.
func square(w, h int, c color.NRGBA) string {
	img := image.NewNRGBA(image.Rect(0, 0, w, h))
	for i := 0; i < len(img.Pix); i += 4 {
		copy(img.Pix[i:], []uint8{c.R, c.G, c.B, c.A})
	}
	var buf bytes.Buffer
	_ = png.Encode(&buf, img)
	return buf.String()
}

var sea = color.NRGBA{11, 110, 143, 255}

func stackOf(layers string) string {
	return `<?xml version="1.0"?>` + "\n" + `<image w="100" h="80"><stack>` + layers + `</stack></image>`
}

func TestStacksAndEffects(t *testing.T) {
	doc, err := Read("quay.ora", pack(t, "mimetype", mime, "stack.xml", stackOf(`
		<layer name="Roof" src="data/a.png" x="10" y="5" opacity="0.5" composite-op="svg:multiply"/>
		<stack name="House" x="20" y="10" opacity="0.25" visibility="hidden"><layer name="Wall" src="data/a.png" x="1" y="2"/></stack>
		<stack name="Shed" x="50" y="30"><layer src="data/a.png" name="Layer 1" composite-op="svg:dst-in"/><layer src="data/b.png"/></stack>`),
		"data/a.png", square(8, 6, sea), "data/b.png", square(4, 4, color.NRGBA{})), Options{})
	if err != nil {
		t.Fatal(err)
	}
	s := doc.Screens[0]
	var got []string
	for _, e := range s.Elements {
		got = append(got, fmt.Sprintf("%s|%s|%v|%t", e.Path, e.Kind, e.Geometry.Value, e.Hidden))
	}
	want := []string{"Shed|group|{50 30 8 6}|false", "Shed/image 1|image|{50 30 0 0}|true",
		"Shed/box 1|box|{50 30 8 6}|false",
		"House|group|{21 12 8 6}|true", "House/Wall|box|{21 12 8 6}|true", "Roof|box|{10 5 8 6}|false"}
	if strings.Join(got, "\n") != strings.Join(want, "\n") {
		t.Errorf("got\n%s\nwanted\n%s", strings.Join(got, "\n"), strings.Join(want, "\n"))
	}
	roof := s.Elements[5]
	if roof.Opacity.Value != 0.5 || roof.Blend.Value != "multiply" || roof.Opacity.Origin != design.Stated {
		t.Errorf("roof: %v %v", roof.Opacity, roof.Blend)
	}
	if len(s.Root.Paint.Children) != 2 {
		t.Error("what is hidden is not painted")
	}
	if len(doc.Warnings) != 1 || !strings.Contains(doc.Warnings[0].Msg, `"svg:dst-in"`) {
		t.Errorf("warnings %v", doc.Warnings)
	}
	sel, _ := css.ParseSelector(`stack[name=House] > layer`)
	if found := doc.Query(sel); len(found) != 1 || found[0].Name != "Wall" {
		t.Errorf("a selector means %v", found)
	}
}

func TestMergedPicture(t *testing.T) {
	files := []string{"mimetype", mime, "stack.xml", stackOf(""), "mergedimage.png", square(100, 80, sea)}
	doc, err := Read("quay.ora", pack(t, files...), Options{})
	if err != nil || doc.Screens[0].Merged == nil || doc.Screens[0].Merged.BitmapBox != (geom.Rect{W: 100, H: 80}) {
		t.Fatalf("%v, %v", err, doc)
	}
	files[5] = square(10, 8, sea)
	doc, err = Read("quay.ora", pack(t, files...), Options{})
	if err != nil || doc.Screens[0].Merged != nil || len(doc.Warnings) != 1 {
		t.Error("a merged picture of another size is left out, with a warning")
	}
}

// lying is a PNG whose header says another size than its pixels have.
func lying(w, h uint32) string {
	data := []byte(square(8, 8, sea))
	binary.BigEndian.PutUint32(data[16:], w)
	binary.BigEndian.PutUint32(data[20:], h)
	binary.BigEndian.PutUint32(data[29:], crc32.ChecksumIEEE(data[12:29]))
	return string(data)
}

func TestHostileFilesGiveOneError(t *testing.T) {
	good := square(8, 8, sea)
	layer := func(attrs string) string { return stackOf(`<layer name="a" ` + attrs + `/>`) }
	with := func(stack, pic string) []byte {
		return pack(t, "mimetype", mime, "stack.xml", stack, "data/a.png", pic)
	}
	whole := with(layer(`src="data/a.png"`), good)
	broken := bytes.Clone(whole)
	copy(broken[bytes.LastIndex(broken, []byte("PK\x01\x02"))+42:], "\xff\xff\xff\x7f") // offset of the last file
	var deep strings.Builder
	for range 200 {
		deep.WriteString("<stack>")
	}
	deep.WriteString(strings.Repeat("</stack>", 200))
	for name, c := range map[string]struct {
		data []byte
		want string
	}{
		"no archive":            {[]byte("PK\x03\x04 and nothing more"), "zip archive cannot be read"},
		"cut off":               {whole[:len(whole)/2], "may be cut off"},
		"wrong offsets":         {broken, "cannot be unpacked"},
		"another kind of zip":   {pack(t, "mimetype", "application/zip"), "its mimetype is not"},
		"no mimetype":           {pack(t, "stack.xml", stackOf("")), "its mimetype is not"},
		"no stack":              {pack(t, "mimetype", mime), "lacks stack.xml"},
		"stack is no XML":       {pack(t, "mimetype", mime, "stack.xml", "<image"), "in stack.xml: "},
		"stack is something":    {pack(t, "mimetype", mime, "stack.xml", "<page/>"), "<page>, not <image>"},
		"no size":               {pack(t, "mimetype", mime, "stack.xml", "<image h='4'/>"), "lacks w"},
		"huge canvas":           {pack(t, "mimetype", mime, "stack.xml", "<image w='999999' h='4'/>"), "out of bounds"},
		"leads out":             {with(layer(`src="../a.png"`), good), "leads out of the archive"},
		"leads to the root":     {with(layer(`src="/etc/passwd"`), good), "leads out of the archive"},
		"a name that leads out": {pack(t, "mimetype", mime, "../x", "y", "stack.xml", stackOf("")), "outside itself"},
		"missing picture":       {with(layer(`src="data/b.png"`), good), "lacks data/b.png"},
		"no source":             {with(layer(""), good), "without src"},
		"offset is no number":   {with(layer(`src="data/a.png" x="ten"`), good), `x="ten"`},
		"offset out of bounds":  {with(layer(`src="data/a.png" y="99999999999"`), good), "y="},
		"opacity":               {with(layer(`src="data/a.png" opacity="2"`), good), "opacity"},
		"no picture":            {with(layer(`src="data/a.png"`), "hello"), "is no PNG picture"},
		"lies, larger":          {with(layer(`src="data/a.png"`), lying(60, 60)), "is damaged"},
		"lies, enormous":        {with(layer(`src="data/a.png"`), lying(60000, 60000)), "50,000,000 pixels"},
		"cut off picture":       {with(layer(`src="data/a.png"`), good[:len(good)-20]), "is damaged"},
		"bomb in the stack": {pack(t, "mimetype", mime, "stack.xml", strings.Repeat(" ", maxStack+1)),
			"unfolds into more than 4 MB"},
		"stacks in stacks": {pack(t, "mimetype", mime, "stack.xml", stackOf(deep.String())), "64 stacks"},
		"twice":            {pack(t, "mimetype", mime, "a", "", "a", ""), "twice"},
	} {
		doc, err := Read("x.ora", c.data, Options{})
		if err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v, wanted an error with %q", name, err, c.want)
		}
		if _, ok := err.(*markup.Error); !ok || doc != nil {
			t.Errorf("%s: %T, %v", name, err, doc)
		}
	}
}

func TestManyLargeLayersAreRefused(t *testing.T) {
	pic := lying(6000, 6000) // each is allowed, all together are not
	_, err := Read("x.ora", pack(t, "mimetype", mime, "stack.xml", stackOf(strings.Repeat(`<layer src="a.png"/>`, 5)),
		"a.png", pic), Options{})
	if err == nil || !strings.Contains(err.Error(), "50,000,000 pixels") {
		t.Error(err)
	}
}

func FuzzRead(f *testing.F) {
	f.Add(stackOf(`<layer src="a.png" x="3" y="-4" opacity=".5"/><stack><layer src="a.png"/></stack>`), square(8, 8, sea))
	f.Add(stackOf(`<layer src="a.png" composite-op="svg:plus"/>`), lying(4, 4))
	f.Add(string(pack(f, "mimetype", mime, "stack.xml", stackOf(`<layer src="a.png"/>`), "a.png", square(12, 9, sea),
		"mergedimage.png", square(100, 80, sea))), "")
	f.Fuzz(func(t *testing.T, stack, pic string) {
		for _, data := range [][]byte{[]byte(stack), pack(t, "mimetype", mime, "stack.xml", stack, "a.png", pic)} {
			doc, err := Read("x.ora", data, Options{})
			if err != nil {
				continue
			}
			for _, e := range doc.All() {
				e.Facts()
			}
		}
	})
}

func BenchmarkRead(b *testing.B) {
	data, err := os.ReadFile("../../../demo/files/design/poster.ora")
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		if _, err := Read("poster.ora", data, Options{}); err != nil {
			b.Fatal(err)
		}
	}
}
