package escape

import (
	"encoding/json"
	"encoding/xml"
	"strings"
	"testing"
	"unicode"

	"archetyp/core/css"
)

// hostile are texts that try to get out of the place they are put.
var hostile = []string{
	"plain words", "", "*/ evil /*", "/* /* */", "*", "/", "**//", "*/*/", "/*/", "a\nb", "a\rb", "a\u2028b", "a\u2029b", "a\u0085b", "a\vb\fc",
	`"; evil; "`, `\`, `\"`, `\\"`, `'`, "`${evil}`", "$evil ${evil}", `\(evil)`, "#{evil}", `\#{evil}`, "##{evil}", "</style><script>", "--> evil <!--", "--", "-", "->",
	"&amp;<b>", "]]>", "\x00\x01\x1b[31m", "\u202eevil\u2069", "half \xff\xfe", "=1+1", "+1", "-1", "@x", "＝1+1", "＋1", "－1", "＠x", "\t=1", "'=1", "../..", "a/b?c#d",
}

func TestNothingGetsOut(t *testing.T) {
	for language, places := range Languages {
		for place, escape := range places {
			for _, s := range hostile {
				out := escape(s)
				fail := func(why string) { t.Errorf("%s, %s: %q becomes %q: %s", language, place, s, out, why) }
				switch place {
				case LineComment:
					if strings.ContainsFunc(out, breaks) {
						fail("a line ends")
					}
				case BlockComment:
					if language == "xml" {
						if strings.Contains("<!-- "+out+" -->", "--"+">") && strings.Contains(out, "--") || strings.HasSuffix(out, "-") {
							fail("the comment ends")
						}
						break
					}
					if whole := "/*" + out + "*/"; strings.Count(whole, "*/") != 1 || strings.Count(whole, "/*") != 1 ||
						strings.ContainsFunc(out, breaks) {
						fail("the comment ends, or another begins")
					}
				case String:
					if !strings.HasPrefix(out, `"`) || !strings.HasSuffix(out, `"`) || ends(out[1:len(out)-1]) ||
						strings.ContainsFunc(out, func(r rune) bool { return r == '\n' || r == '\r' }) {
						fail("the string ends")
					}
				case Cell:
					if out != "" && strings.ContainsAny(out[:1], "=+-@\t\r\n") {
						fail("a formula begins")
					}
					if Uncell(out) != strings.ReplaceAll(s, "\r", "") {
						fail("it does not come back")
					}
				case Inline:
					if strings.ContainsFunc(out, breaks) || strings.Contains(out, "<") || strings.HasPrefix(out, "-") || strings.HasPrefix(out, "+") {
						fail("another block begins, or markup")
					}
					for i, c := range out {
						if strings.ContainsRune("*_`[]|~", c) && (i == 0 || out[i-1] != '\\') {
							fail("a mark of Markdown")
						}
					}
				case Attribute, Text:
					if strings.ContainsAny(out, `<>"'`) {
						fail("markup")
					}
				}
				if place == LineComment && strings.ContainsFunc(out, unicode.IsControl) {
					fail("controls are left")
				}
			}
		}
	}
}

// ends reports whether a quotation mark in a string stands without a backslash before it.
func ends(s string) bool {
	for i := 0; i < len(s); i++ {
		switch s[i] {
		case '\\':
			i++
			if i == len(s) {
				return true
			}
		case '"':
			return true
		}
	}
	return false
}

// TestReadersGetItBack has parsers that are not of this package read what was escaped.
func TestReadersGetItBack(t *testing.T) {
	for _, s := range hostile {
		s = strings.ToValidUTF8(s, "\uFFFD")
		var back string
		if err := json.Unmarshal([]byte(In("json", String, s)), &back); err != nil || back != s {
			t.Errorf("JSON: %q comes back as %q, %v", s, back, err)
		}
		if got := css.Unquote(In("css", String, s)); got != s && !strings.Contains(s, "\x00") {
			t.Errorf("CSS: %q comes back as %q", s, got)
		}
		if got := In("scss", String, s); strings.Contains(strings.ReplaceAll(got, `\#{`, ""), "#{") {
			t.Errorf("SCSS computes in %s", got)
		}
		if got := In("kotlin", String, s); strings.Contains(got, "$") {
			t.Errorf("Kotlin computes in %s", got)
		}
		var x struct {
			A string `xml:"a,attr"`
			T string `xml:",chardata"`
		}
		if err := xml.Unmarshal([]byte(`<x a="`+In("xml", Attribute, s)+`"><!--`+In("xml", BlockComment, s)+`-->`+In("xml",
			Text, s)+`</x>`), &x); err != nil || x.A != xmlChars(s) || x.T != xmlChars(s) {
			t.Errorf("XML: %q comes back as %q and %q, %v", s, x.A, x.T, err)
		}
	}
}

func TestFileName(t *testing.T) {
	for in, want := range map[string]string{"anchor": "anchor", "Way Out": "Way Out", "CON": "CON_", "aux.svg": "aux_.svg",
		"com1": "com1_", "LPT9.tar.gz": "LPT9_.tar.gz",
		"con ": "con_", "console": "console", "dots...": "dots", "blank ": "blank", "...": "_", "": "_", "a:b*c": "a-b-c", "tab\tx": "tab-x", "com¹": "com¹_", "Fähre": "Fähre"} {
		if got := FileName(in); got != want {
			t.Errorf("%q becomes %q, want %q", in, got, want)
		}
	}
	if got := FileName(strings.Repeat("ü", 300)); len(got) > longestName || got != strings.Repeat("ü", 100) {
		t.Errorf("%d bytes are left", len(got))
	}
	if got := FilePath("icons/aux/nul.png"); got != "icons/aux_/nul_.png" {
		t.Error(got)
	}
}
