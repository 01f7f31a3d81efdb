package markup

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"archetyp/core/limit"
)

func TestParseXML(t *testing.T) {
	for _, c := range []struct{ in, want string }{
		{`<a/>`, `<a/>`},
		{`<a></a>`, `<a/>`},
		{`<?xml version="1.0"?><!-- x --><a b="c"/>`, `<a b="c"/>`},
		{"<a\n  b = 'c'\n/>", `<a b="c"/>`},
		{`<a>one<b/>two</a>`, `<a>one<b/>two</a>`},
		{`<a>&lt;&amp;&gt;&quot;&apos;&#65;&#x42;</a>`, `<a>&lt;&amp;&gt;"'AB</a>`},
		{`<a b="&lt;&quot;"/>`, `<a b="&lt;&quot;"/>`},
		{`<a><![CDATA[<b>&amp;]]></a>`, `<a>&lt;b&gt;&amp;amp;</a>`},
		{`<!DOCTYPE svg [<!ENTITY ns "urn:x"> <!ENTITY two "&ns;2">]><a b="&two;">&ns;</a>`, `<a b="urn:x2">urn:x</a>`},
		{`<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd"><a/>`, `<a/>`},
		{"\xef\xbb\xbf<a/>", `<a/>`},
		{`<a><!-- <b> --><?pi <c> ?></a>`, `<a/>`},
		{`<x:a xmlns:x="u"><x:b/></x:a>`, `<x:a xmlns:x="u"><x:b/></x:a>`},
		{"<a>\n</a>\n\n", "<a>\n</a>"},
		{`<a b=">"/>`, `<a b=">"/>`},
		{`<ä ö="ü">ß</ä>`, `<ä ö="ü">ß</ä>`},
		{`<a b="1&#10;2"/>`, `<a b="1&#10;2"/>`},
	} {
		d, err := ParseXML([]byte(c.in))
		if err != nil {
			t.Errorf("%s: %v", c.in, err)
			continue
		}
		if got := Print(d.Root); got != c.want {
			t.Errorf("%s\n  is %s\nwant %s", c.in, got, c.want)
		}
	}
}

func TestParseXMLRefuses(t *testing.T) {
	deep := strings.Repeat("<a>", MaxDepth+1) + strings.Repeat("</a>", MaxDepth+1)
	bomb := `<!DOCTYPE a [<!ENTITY a "aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa">`
	for i := 0; i < 9; i++ {
		bomb += fmt.Sprintf(`<!ENTITY %c "%s">`, 'b'+i, strings.Repeat(fmt.Sprintf("&%c;", 'a'+i), 10))
	}
	bomb += `]><x>&j;</x>`
	for _, c := range []struct {
		name, in     string
		line, column int
		msg          string
	}{
		{"empty", "", 1, 1, "not XML"},
		{"words", "hello", 1, 1, "not an XML file"},
		{"cut off in a tag", "<a>\n<b x=", 2, 4, "no quoted value"},
		{"cut off in an attribute", "<a>\n<b x=\"1", 2, 4, "never ends"},
		{"cut off after a name", "<a>\n<b", 2, 3, "cut off"},
		{"cut off in the content", "<a>\n<b>", 2, 4, "cut off"},
		{"cut off in a comment", "<a><!-- x", 1, 4, "never ends"},
		{"cut off in CDATA", "<a><![CDATA[ x", 1, 4, "never ends"},
		{"wrong end", "<a><b></a></b>", 1, 7, "</b> is wanted"},
		{"end without start", "</a>", 1, 1, "closes nothing"},
		{"two roots", "<a/><b/>", 1, 5, "second element"},
		{"text behind", "<a/>x", 1, 5, "outside"},
		{"attribute twice", `<a b="1" b="2"/>`, 1, 10, "twice"},
		{"no quotes", `<a b=1/>`, 1, 4, "no quoted value"},
		{"no value", `<a b/>`, 1, 4, "no quoted value"},
		{"less-than in a value", `<a b="<"/>`, 1, 4, "&lt;"},
		{"bare ampersand", "<a>\n x & y</a>", 2, 4, "&amp;"},
		{"unknown entity", "<a>&nbsp;</a>", 1, 4, "not declared"},
		{"no character", "<a>&#0;</a>", 1, 4, "no character"},
		{"bad element name", "<1a/>", 1, 1, "no element name"},
		{"bad attribute name", `<a 1b="x"/>`, 1, 4, "no attribute name"},
		{"not UTF-8", "<a>\n\xff</a>", 2, 1, "UTF-8"},
		{"NUL", "<a>\x00</a>", 1, 4, "NUL"},
		{"too deep", deep, 1, 3*MaxDepth + 1, "inside one another"},
		{"entity bomb", bomb, 1, 0, "entities"},
		{"cyclic entity with markup", `<!DOCTYPE a [<!ENTITY a "<b>&a;</b>">]><a>&a;</a>`, 1, 43, "cyclic"},
		{"entity that is not closed", `<!DOCTYPE a [<!ENTITY a "<b>">]><a>&a;</a>`, 1, 36, "not closed"},
		{"entity that closes its holder", `<!DOCTYPE a [<!ENTITY a "</a>">]><a>&a;</a>`, 1, 37, "closes nothing"},
		{"entity of broken markup", `<!DOCTYPE a [<!ENTITY a "<b c>x</b>">]><a>
 &a;</a>`, 2, 2, "no quoted value"},
		{"cyclic entity", `<!DOCTYPE a [<!ENTITY a "&b;"><!ENTITY b "&a;">]><a>&a;</a>`, 1, 53, "cyclic"},
		{"unknown encoding", `<?xml version="1.0" encoding="nonsense"?><a/>`, 1, 1, "encoding"},
	} {
		_, err := ParseXML([]byte(c.in))
		e, ok := err.(*Error)
		if !ok {
			t.Errorf("%s: %v, want an error with a place", c.name, err)
			continue
		}
		if e.Line != c.line || c.column != 0 && e.Column != c.column || !strings.Contains(e.Msg, c.msg) {
			t.Errorf("%s: %v, want %d:%d …%s…", c.name, e, c.line, c.column, c.msg)
		}
	}
}

func TestEncodings(t *testing.T) {
	utf16 := []byte{0xff, 0xfe}
	for _, r := range `<a b="é"/>` {
		utf16 = append(utf16, byte(r), byte(r>>8))
	}
	for name, in := range map[string][]byte{
		"utf-16":  utf16,
		"latin-1": []byte("<?xml version='1.0' encoding='ISO-8859-1'?><a b=\"\xe9\"/>"),
		"utf-8":   []byte(`<?xml version="1.0" encoding="UTF-8"?><a b="é"/>`),
	} {
		d, err := ParseXML(in)
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		if v := d.Root.AttrOr("b", ""); v != "é" {
			t.Errorf("%s: %q", name, v)
		}
	}
}

func TestPositions(t *testing.T) {
	src := "<svg>\n  <g>\n    é<rect a=\"1\"\n      b=\"2\"/>\n  </g>\n</svg>"
	d, err := ParseXML([]byte(src))
	if err != nil {
		t.Fatal(err)
	}
	want := map[string]Position{"svg": {1, 1}, "g": {2, 3}, "rect": {3, 6}}
	d.Root.Walk(func(n *Node) bool {
		if n.Kind == Element {
			if got := d.Position(n.Offset); got != want[n.Local] {
				t.Errorf("%s stands at %v, want %v", n.Local, got, want[n.Local])
			}
			if !strings.HasPrefix(src[n.Offset:], "<"+n.Local) {
				t.Errorf("the bytes of %s begin with %q", n.Local, src[n.Offset:n.Offset+4])
			}
			if !strings.HasSuffix(src[:n.End], ">") {
				t.Errorf("the bytes of %s end with %q", n.Local, src[n.End-4:n.End])
			}
		}
		return true
	})
}

func TestNamespaces(t *testing.T) {
	d, err := ParseXML([]byte(`<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" xmlns:i="urn:i">
		<use xlink:href="#a" i:label="L" xml:space="preserve" label="plain"/><i:thing/><g xmlns=""><h/></g></svg>`))
	if err != nil {
		t.Fatal(err)
	}
	use := d.Root.Elements()[0]
	if use.Href() != "#a" || !use.Is("use") {
		t.Errorf("use: %q %v", use.Href(), use.Is("use"))
	}
	if v, _ := use.AttrNS("urn:i", "label"); v != "L" {
		t.Errorf("i:label is %q", v)
	}
	if v, _ := use.Attr("label"); v != "plain" {
		t.Errorf("label is %q", v)
	}
	if v, _ := use.AttrNS(XML, "space"); v != "preserve" {
		t.Errorf("xml:space is %q", v)
	}
	if n := d.Root.Elements()[1]; n.Space != "urn:i" || n.Local != "thing" {
		t.Errorf("%q %q", n.Space, n.Local)
	}
	if n := d.Root.Elements()[2].Elements()[0]; n.Space != "" {
		t.Errorf("h is in %q", n.Space)
	}
}

func TestNodeHelpers(t *testing.T) {
	d, err := ParseXML([]byte(`<a id="x">one <b>two</b> three</a>`))
	if err != nil {
		t.Fatal(err)
	}
	if got := d.Root.TextContent(); got != "one two three" {
		t.Errorf("text: %q", got)
	}
	if d.Root.ID() != "x" || d.Root.AttrOr("none", "or") != "or" {
		t.Error("attributes")
	}
	d.Root.SetAttr("id", "y")
	d.Root.SetAttr("new", "z")
	if got := Print(d.Root); got != `<a id="y" new="z">one <b>two</b> three</a>` {
		t.Errorf("%s", got)
	}
	b := d.Root.Elements()[0]
	if b.Parent != d.Root || b.Index != 1 {
		t.Errorf("b: index %d", b.Index)
	}
}

func FuzzParseXML(f *testing.F) {
	for _, s := range []string{`<a b="c">d<e/></a>`, `<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>`,
		`<?xml encoding="utf-16"?><a/>`, "\xff\xfe<\x00", `<a><![CDATA[x]]></a>`,
		`<!DOCTYPE a [<!ENTITY b "">]><a>&b;</a>`} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		d, err := ParseXML(data)
		if err != nil {
			if e, ok := err.(*Error); !ok || e.Line < 1 || e.Column < 1 {
				t.Fatalf("an error without a place: %v", err)
			}
			return
		}
		again, err := ParseXML([]byte(Print(d.Root)))
		if err != nil {
			t.Fatalf("what is printed does not read back: %v\n%s", err, Print(d.Root))
		}
		if Print(again.Root) != Print(d.Root) {
			t.Fatalf("printing is not stable:\n%s\n%s", Print(d.Root), Print(again.Root))
		}
	})
}

func BenchmarkParseXML(b *testing.B) {
	src := []byte("<svg>" +
		strings.Repeat(`<g class="row"><rect x="1" y="2" width="30" height="40" fill="#0b6e8f"/><text x="1">words</text></g>`,
			1000) + "</svg>")
	b.SetBytes(int64(len(src)))
	b.ReportAllocs()
	for b.Loop() {
		if _, err := ParseXML(src); err != nil {
			b.Fatal(err)
		}
	}
}

func TestPositionsOnOneLongLine(t *testing.T) {
	src := []byte("ab\n" + strings.Repeat("é", 3*stride) + "x\nend")
	x := Lines(src)
	for _, c := range []struct{ offset, line, column int }{{0, 1, 1}, {3, 2, 1}, {5, 2, 2}, {3 + 2*stride, 2, stride + 1},
		{3 + 6*stride, 2, 3*stride + 1}, {5 + 6*stride, 3, 1}, {1 << 30, 3, 4}} {
		if p := x.Position(c.offset); p.Line != c.line || p.Column != c.column {
			t.Errorf("offset %d: %v, wanted %d:%d", c.offset, p, c.line, c.column)
		}
	}
}

// What an entity stands for is read where it is named, elements too; all of it has the reference's place.
func TestEntitiesHoldMarkup(t *testing.T) {
	doc, err := ParseXML([]byte(`<!DOCTYPE svg [<!ENTITY dot "<circle r='2'/>"><!ENTITY two "&dot; and <g>&dot;</g>"><!ENTITY name "pier">]>
<svg xmlns="http://www.w3.org/2000/svg"><text id="&name;">a &name; &two; <b/></text></svg>`))
	if err != nil {
		t.Fatal(err)
	}
	text := doc.Root.Children[0]
	var got []string
	var walk func(n *Node)
	walk = func(n *Node) {
		for _, c := range n.Children {
			if c.Kind == Text {
				got = append(got, c.Data)
				continue
			}
			got = append(got, "<"+c.Local+">"+c.Space[len(c.Space)-3:])
			if at := doc.Position(c.Offset); c.Local != "b" && (at.Line != 2 || at.Column != 68) {
				t.Errorf("%s at %v", c.Local, at)
			}
			walk(c)
		}
	}
	walk(text)
	if s := strings.Join(got, "|"); s != "a pier |<circle>svg| and |<g>svg|<circle>svg| |<b>svg" || text.ID() != "pier" {
		t.Errorf("%s (id %s)", s, text.ID())
	}
	bomb := `<!DOCTYPE a [<!ENTITY a "<b/><b/><b/><b/>"><!ENTITY c "&a;&a;&a;&a;">]><a>` + strings.Repeat("&c;", 100) +
		`</a>`
	if _, err := ParseXMLWithin([]byte(bomb), limit.On(context.Background(),
		limit.Limits{limit.Elements: 500})); err == nil || !strings.Contains(err.Error(), "500") {
		t.Errorf("more elements than may be: %v", err)
	}
}
