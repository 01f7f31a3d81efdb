package e2e

import (
	"archive/zip"
	"bytes"
	"fmt"
	"image"
	"image/png"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// growing is a reader, a file of a size for it, and the command that reads it.
type growing struct {
	name, file, command string
	base                int
	make                func(n int) string
}

// repeat puts together n copies of a format, %d their numbers.
func repeat(n int, format string) string {
	var b strings.Builder
	for i := range n {
		b.WriteString(strings.ReplaceAll(format, "%d", fmt.Sprint(i)))
	}
	return b.String()
}

func growings() []growing {
	svg := func(format string) func(n int) string {
		return func(n int) string {
			return `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400">` + repeat(n, format) + "</svg>"
		}
	}
	around := func(head, format, tail string) func(n int) string {
		return func(n int) string { return head + repeat(n, format) + tail }
	}
	return []growing{
		{"SVG, elements", "a.svg", "outline a.svg", 5000,
			svg(`<g id="g%d"><rect x="1" width="9" height="9" fill="#0b6e8f"/></g>`)},
		{"SVG, texts", "a.svg", "outline a.svg", 2000, svg(`<text x="1" y="%d">Sails at eight</text>`)},
		{"SVG, chunks of one text", "a.svg", "outline a.svg", 5000, around(`<svg xmlns="http://www.w3.org/2000/svg"><text>`,
			`<tspan x="%d">a</tspan>`, "</text></svg>")},
		{"SVG, path data", "a.svg", "outline a.svg", 50000, around(`<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0`,
			"l1 %d", `"/></svg>`)},
		{"SVG, attributes of one element", "a.svg", "outline a.svg", 25000,
			around(`<svg xmlns="http://www.w3.org/2000/svg"><rect `, `a%d="1" `, "/></svg>")},
		{"SVG, entities", "a.svg", "outline a.svg", 10000, around("<!DOCTYPE svg [", `<!ENTITY e%d "v">`,
			`]><svg xmlns="http://www.w3.org/2000/svg"/>`)},
		{"CSS, rules", "a.svg", "outline a.svg", 10000, around(`<svg xmlns="http://www.w3.org/2000/svg"><style>`,
			".c%d{fill:red}", `</style><rect class="c1"/></svg>`)},
		{"CSS, siblings under rules", "a.svg", "outline a.svg", 4000,
			around(`<svg xmlns="http://www.w3.org/2000/svg"><style>rect:nth-child(2n of rect)~rect:has(+ rect){fill:red}</style>`, `<rect width="9" height="9"/>`, "</svg>")},
		{"OpenRaster, layers", "a.ora", "outline a.ora", 50, openRaster},
		{"HTML text in foreignObject", "a.svg", "outline a.svg", 5000,
			around(`<svg xmlns="http://www.w3.org/2000/svg"><foreignObject width="90" height="90"><div xmlns="http://www.w3.org/1999/xhtml">`, "<span>a </span>", "</div></foreignObject></svg>")},
		{"harvest of values", "a.svg", "tokens harvest a.svg", 4000,
			svg(`<g><rect x="1" width="9" height="9" rx="3" fill="#0b6e8f"/></g>`)},
		{"tokens", "tokens/a.tokens.json", "tokens check", 5000, around(`{"a": {"$type": "number", `,
			`"t%d": {"$value": 1}, `, `"end": {"$value": 1}}}`)},
		{"a chain of aliases", "tokens/a.tokens.json", "tokens check", 5000, func(n int) string {
			var b strings.Builder
			for i := range n {
				fmt.Fprintf(&b, `"t%d": {"$value": "{a.t%d}"}, `, i, i+1)
			}
			return `{"a": {"$type": "number", ` + b.String() + fmt.Sprintf(`"t%d": {"$value": 1}}}`, n)
		}},
		{"edited CSS, taken back", "dist/tokens.css", "tokens absorb dist/tokens.css --dry-run", 2000,
			around(":root {\n", "  --a-t%d: 7px;\n", "}\n")},
		{"catalogue", "text/de.json", "text check", 5000, around("{", `"k%d": "Wort", `, `"end": "x"}`)},
		{"XLIFF 2.1", "x.xlf", "text import x.xlf --locale de --dry-run", 5000,
			around(`<xliff xmlns="urn:oasis:names:tc:xliff:document:2.0" version="2.1" srcLang="en" trgLang="de"><file id="f">`,
				`<unit id="u%d" name="k%d"><segment><source>word</source><target>Wort</target></segment></unit>`, "</file></xliff>")},
		{"XLIFF 2.1, segments of one unit", "x.xlf", "text import x.xlf --locale de --dry-run", 20000,
			around(`<xliff xmlns="urn:oasis:names:tc:xliff:document:2.0" version="2.1" srcLang="en" trgLang="de"><file id="f"><unit id="u">`, `<segment id="s%d"><source>a</source><target>b</target></segment>`, "</unit></file></xliff>")},
		{"XLIFF 1.2", "x.xlf", "text import x.xlf --locale de --dry-run", 5000,
			around(`<xliff xmlns="urn:oasis:names:tc:xliff:document:1.2" version="1.2"><file source-language="en" target-language="de" datatype="plaintext" original="x"><body>`, `<trans-unit id="u%d" resname="k%d"><source>word</source><target>Wort</target></trans-unit>`, "</body></file></xliff>")},
		{"PO", "x.po", "text import x.po --locale de --dry-run", 5000,
			around("msgid \"\"\nmsgstr \"Content-Type: text/plain; charset=UTF-8\\n\"\n\n",
				"msgctxt \"k%d\"\nmsgid \"word\"\nmsgstr \"Wort\"\n\n", "")},
		{"PO, lines of one message", "x.po", "text import x.po --locale de --dry-run", 10000,
			around("msgid \"x\"\nmsgstr \"\"\n", "\"abcdefgh\"\n", "")},
		{"TMX", "x.tmx", "text fill --dry-run --locale de --memory x.tmx", 5000,
			around(`<tmx version="1.4"><header srclang="en" adminlang="en" datatype="plaintext" segtype="block" creationtool="x" creationtoolversion="1" o-tmf="x"/><body>`, `<tu><tuv xml:lang="en"><seg>word %d</seg></tuv><tuv xml:lang="de"><seg>Wort</seg></tuv></tu>`, "</body></tmx>")},
		{"CSV", "x.csv", "text import x.csv --locale de --dry-run", 5000, around("key,source,target\n", "k%d,word,Wort\n",
			"")},
		{"JSON texts", "x.json", "text import x.json --locale de --dry-run", 5000, around("{", `"k%d": "Wort", `,
			`"end": "x"}`)},
		{"Android strings", "strings.xml", "text import strings.xml --locale de --dry-run", 5000,
			around("<resources>", `<string name="k%d">Wort</string>`, "</resources>")},
		{"iOS strings", "x.strings", "text import x.strings --locale de --dry-run", 5000, around("", "\"k%d\" = \"Wort\";\n",
			"")},
	}
}

// openRaster is an archive of n layers.
func openRaster(n int) string {
	var out, pixels bytes.Buffer
	_ = png.Encode(&pixels, image.NewNRGBA(image.Rect(0, 0, 64, 64)))
	z := zip.NewWriter(&out)
	put := func(name string, data []byte) {
		w, err := z.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Store})
		if err == nil {
			_, _ = w.Write(data)
		}
	}
	put("mimetype", []byte("image/openraster"))
	put("stack.xml", []byte(`<image w="64" h="64"><stack>`+repeat(n,
		`<layer name="l%d" src="data/%d.png"/>`)+"</stack></image>"))
	put("mergedimage.png", pixels.Bytes())
	for i := range n {
		put(fmt.Sprintf("data/%d.png", i), pixels.Bytes())
	}
	z.Close()
	return out.String()
}

// BenchmarkGrowth runs the program on files of one, two, four and eight times a size: what it costs grows as they do.
func BenchmarkGrowth(b *testing.B) {
	for _, g := range growings() {
		for _, k := range []int{1, 2, 4, 8} {
			b.Run(fmt.Sprintf("%s/%d", strings.ReplaceAll(g.name, " ", "_"), k), func(b *testing.B) {
				dir := b.TempDir()
				if !strings.HasSuffix(g.file, ".svg") && !strings.HasSuffix(g.file, ".ora") {
					write(b, dir, "archetyp.yaml", "name: x\nsources: []\ntext: {locales: [de]}\n")
					write(b, dir, "text/en.json", `{"k1": "word"}`)
					write(b, dir, "tokens/a.tokens.json",
						`{"a": {"t1": {"$type": "dimension", "$value": {"value": 1, "unit": "px"}}}}`)
				}
				write(b, dir, g.file, g.make(g.base*k))
				peak := 0
				for b.Loop() {
					r, _, most := measured(b, dir, strings.Fields(g.command)...)
					if r.status > 1 && !strings.Contains(r.err, "1 MB") {
						b.Fatal(r.err)
					}
					peak = max(peak, most)
				}
				info, err := os.Stat(filepath.Join(dir, g.file))
				if err != nil {
					b.Fatal(err)
				}
				b.ReportMetric(float64(peak)/1000, "MB")
				b.ReportMetric(float64(info.Size())/1e6, "MB-read")
			})
		}
	}
}
