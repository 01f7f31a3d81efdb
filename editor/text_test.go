package editor

import (
	"math/rand/v2"
	"strings"
	"testing"
	"unicode/utf16"
)

func TestPlacesInATextAndBack(t *testing.T) {
	const s = "aé€𝄞\r\nb\rc\n\nd"
	text := newText(s)
	for _, c := range []struct {
		line, at int
		e        encoding
		want     string // what the text begins with there
	}{
		{0, 0, utf16Units, "aé"}, {0, 2, utf16Units, "€𝄞"}, {0, 3, utf16Units, "𝄞\r"}, {0, 5, utf16Units, "\r\nb"},
		{0, 4, utf16Units, "𝄞\r"}, // within a character is its beginning
		{0, 3, utf8Units, "€𝄞"}, {0, 6, utf8Units, "𝄞\r"}, {0, 10, utf8Units, "\r\nb"}, {0, 4, utf32Units, "\r\nb"},
		{0, 99, utf16Units, "\r\nb"}, {1, 0, utf16Units, "b\r"}, {2, 0, utf16Units, "c\n"}, {3, 0, utf16Units, "\nd"}, {3, 5, utf16Units, "\nd"},
		{4, 0, utf16Units, "d"}, {4, 1, utf16Units, ""}, {9, 0, utf16Units, ""}, {-1, 3, utf16Units, "aé"},
	} {
		if got := s[text.offset(position{c.line, c.at}, c.e):]; !strings.HasPrefix(got, c.want) || c.want == "" && got != "" {
			t.Errorf("%d:%d in %s: %q, want %q", c.line, c.at, c.e, got, c.want)
		}
	}
	for _, e := range []encoding{utf8Units, utf16Units, utf32Units} {
		for i := range s {
			if s[i] == '\n' && i > 0 && s[i-1] == '\r' { // within the end of a line
				continue
			}
			if got := text.offset(text.position(i, e), e); got != i {
				t.Errorf("byte %d in %s comes back as %d", i, e, got)
			}
		}
	}
}

// TestEditsKeepBothSidesAlike holds 10,000 random edits against a text that is kept as UTF-16, as editors do.
func TestEditsKeepBothSidesAlike(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	pieces := []string{"a", "\n", "\r\n", "\r", "𝄞", "é", "€", " ", "{", "👩‍👧"}
	other := utf16.Encode([]rune("one\r\ntwo\n"))
	text := newText(string(utf16.Decode(other)))
	at := func(n int) position { // of a unit of UTF-16
		p := position{}
		for i := 0; i < n; i++ {
			if other[i] == '\n' || other[i] == '\r' && (i+1 == len(other) || other[i+1] != '\n') {
				p = position{p.Line + 1, 0}
				continue
			}
			p.Character++
		}
		return p
	}
	whole := func(n int) int { // not within a character, nor within the end of a line
		for n > 0 && n < len(other) && (other[n]&0xFC00 == 0xDC00 || other[n] == '\n' && other[n-1] == '\r') {
			n--
		}
		return n
	}
	count := 10000
	if testing.Short() {
		count = 1000
	}
	for i := range count {
		n := random.IntN(len(other) + 1)
		from, to := whole(n), whole(min(len(other), n+random.IntN(8)))
		if len(other) > 2000 {
			to = whole(min(len(other), from+500))
		}
		with := ""
		for range random.IntN(4) {
			with += pieces[random.IntN(len(pieces))]
		}
		r := lspRange{at(from), at(to)}
		text = text.change(contentChange{&r, with}, utf16Units)
		other = append(append(append([]uint16{}, other[:from]...), utf16.Encode([]rune(with))...), other[to:]...)
		if want := string(utf16.Decode(other)); text.string != want {
			t.Fatalf("after edit %d:\n got %q\nwant %q", i, text.string, want)
		}
	}
}

func TestDifferencesMakeOneTextTheOther(t *testing.T) {
	for _, c := range [][2]string{{"", ""}, {"a", "b"}, {"a\nb\nc\n", "a\nx\nc\n"}, {"a\nb\n", "a\nb\nc\n"}, {"é", "è"}, {"𝄞x", "𝄢x"}, {"aé", "aè"},
		{"one two\nthree", "one 2\nthree four"}, {"aaa", "aa"}} {
		old := newText(c[0])
		now := old
		edits := differences(old, c[1], utf16Units)
		for i := len(edits) - 1; i >= 0; i-- {
			now = now.change(contentChange{&edits[i].Range, edits[i].NewText}, utf16Units)
		}
		if now.string != c[1] {
			t.Errorf("%q to %q: %+v gives %q", c[0], c[1], edits, now.string)
		}
	}
}

func TestAddressesOfFiles(t *testing.T) {
	for _, file := range []string{"/a/b.css", "/a b/ü#?.css", "/%41/x"} {
		if got := pathOf(uriOf(file)); got != file {
			t.Errorf("%s comes back as %s", file, got)
		}
	}
	for _, uri := range []string{"", "untitled:1", "http://x/y", "file:%", "zip:///a"} {
		if got := pathOf(uri); got != "" {
			t.Errorf("%s is the file %s", uri, got)
		}
	}
}

func FuzzStream(f *testing.F) {
	for _, s := range []string{"Content-Length: 2\r\n\r\n{}", "Content-Length: 99\r\n\r\n{", "Content-Length: -1\r\n\r\n", "x\r\n\r\n", "\r\n\r\n", "content-length:4\nContent-Type: x\r\n\r\nnull",
		"Content-Length: 99999999999\r\n\r\n{}"} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		var out strings.Builder
		s := newStream(strings.NewReader(string(data)), &out, nil)
		for range len(data) + 2 {
			var v map[string]any
			if s.ReadObject(&v) != nil {
				return
			}
		}
		t.Error("the stream never ends")
	})
}
