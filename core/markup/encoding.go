package markup

import (
	"bytes"
	"fmt"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding/htmlindex"
	"golang.org/x/text/encoding/unicode"
)

func toUTF8(src []byte) ([]byte, error) {
	fail := func(msg string) error { return &Error{Position: Position{1, 1}, Msg: msg} }
	switch {
	case bytes.HasPrefix(src, []byte("\xef\xbb\xbf")):
		src = append([]byte("   "), src[3:]...) // same length, so that places in the file stay true
	case bytes.HasPrefix(src, []byte("\xff\xfe")), bytes.HasPrefix(src, []byte("\xfe\xff")):
		out, err := unicode.UTF16(unicode.BigEndian, unicode.ExpectBOM).NewDecoder().Bytes(src)
		if err != nil {
			return nil, fail("the file begins like UTF-16 but is not; save it as UTF-8")
		}
		return out, nil
	default:
		if name := declaredEncoding(src); name != "" && !strings.EqualFold(name, "utf-8") && !strings.EqualFold(name,
			"us-ascii") {
			enc, err := htmlindex.Get(name)
			if err != nil {
				return nil, fail(fmt.Sprintf("the encoding %q is not known; save the file as UTF-8", name))
			}
			out, err := enc.NewDecoder().Bytes(src)
			if err != nil {
				return nil, fail(fmt.Sprintf("the file is not in the encoding %q it declares; save it as UTF-8", name))
			}
			return out, nil
		}
	}
	if i := bytes.IndexByte(src, 0); i >= 0 {
		return nil, &Error{Position: Lines(src).Position(i), Msg: "a NUL byte: this is not an XML file"}
	}
	if !utf8.Valid(src) {
		i := 0
		for i < len(src) {
			r, n := utf8.DecodeRune(src[i:])
			if r == utf8.RuneError && n <= 1 {
				break
			}
			i += n
		}
		return nil, &Error{Position: Lines(src).Position(i), Msg: "not valid UTF-8; save the file as UTF-8"}
	}
	return src, nil
}

func declaredEncoding(src []byte) string {
	if !bytes.HasPrefix(src, []byte("<?xml")) {
		return ""
	}
	end := bytes.Index(src, []byte("?>"))
	if end < 0 || end > 200 {
		return ""
	}
	_, rest, ok := strings.Cut(string(src[:end]), "encoding")
	if !ok {
		return ""
	}
	rest = strings.TrimLeft(rest, " =\t\r\n")
	if rest == "" || (rest[0] != '"' && rest[0] != '\'') {
		return ""
	}
	name, _, _ := strings.Cut(rest[1:], rest[:1])
	return name
}

// Recoded reports whether the bytes of a file are not the UTF-8 text that is parsed, so that places in the one are not
// places in the other.
func Recoded(src []byte) bool {
	if bytes.HasPrefix(src, []byte("\xff\xfe")) || bytes.HasPrefix(src, []byte("\xfe\xff")) {
		return true
	}
	name := declaredEncoding(src)
	return name != "" && !strings.EqualFold(name, "utf-8") && !strings.EqualFold(name, "us-ascii")
}
