package exchange

import (
	"bytes"
	"strings"
	"unicode/utf8"

	"archetyp/core/markup"

	"golang.org/x/text/encoding/htmlindex"
	"golang.org/x/text/encoding/unicode"
)

// utf8Text makes a text file UTF-8: from UTF-16 where a byte order mark says so; otherwise it must be already.
func utf8Text(data []byte) ([]byte, error) {
	switch {
	case bytes.HasPrefix(data, []byte("\xff\xfe")), bytes.HasPrefix(data, []byte("\xfe\xff")):
		out, err := unicode.UTF16(unicode.BigEndian, unicode.ExpectBOM).NewDecoder().Bytes(data)
		if err != nil {
			return nil, fault(1, 1, "the file begins like UTF-16 but is not; save it as UTF-8")
		}
		return out, nil
	case bytes.HasPrefix(data, []byte("\xef\xbb\xbf")):
		data = data[3:]
	}
	if at := notUTF8(data); at >= 0 {
		p := markup.Lines(data).Position(at)
		return nil, fault(p.Line, p.Column, "not valid UTF-8; save the file as UTF-8")
	}
	return data, nil
}

// notUTF8 is where a text is not UTF-8, −1 for nowhere. A NUL is no text either.
func notUTF8(data []byte) int {
	if i := bytes.IndexByte(data, 0); i >= 0 {
		return i
	}
	if utf8.Valid(data) {
		return -1
	}
	for i := 0; i < len(data); {
		r, n := utf8.DecodeRune(data[i:])
		if r == utf8.RuneError && n <= 1 {
			return i
		}
		i += n
	}
	return -1
}

// charset turns a text of a named character set into UTF-8; ok is false for a set nobody knows or bytes not of it.
func charset(data []byte, name string) (out []byte, ok bool) {
	name = strings.ToLower(strings.TrimSpace(name))
	if name == "" || name == "utf-8" || name == "utf8" || name == "charset" || name == "us-ascii" || name == "ascii" {
		return data, notUTF8(data) < 0
	}
	enc, err := htmlindex.Get(name)
	if err != nil {
		return nil, false
	}
	out, err = enc.NewDecoder().Bytes(data)
	return out, err == nil
}
