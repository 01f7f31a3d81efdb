package css

import (
	"bytes"
	"mime"
	"strings"

	"golang.org/x/text/encoding/htmlindex"
)

// Decode decodes a style sheet to text. The encoding comes from its byte order mark, the charset the server sent, or @charset.
// https://www.w3.org/TR/css-syntax-3/#input-byte-stream
func Decode(data []byte, contentType string) string {
	if rest, ok := bytes.CutPrefix(data, []byte("\xef\xbb\xbf")); ok {
		return strings.ToValidUTF8(string(rest), "\uFFFD")
	}
	name := ""
	if _, params, err := mime.ParseMediaType(contentType); err == nil {
		name = params["charset"]
	}
	if rest, ok := bytes.CutPrefix(data, []byte(`@charset "`)); ok && name == "" {
		if i := bytes.IndexByte(rest, '"'); i > 0 && i < 64 {
			name = string(rest[:i])
		}
	}
	if enc, err := htmlindex.Get(name); err == nil && !strings.EqualFold(name, "utf-8") && !strings.HasPrefix(strings.ToLower(name), "utf-16") {
		if out, err := enc.NewDecoder().Bytes(data); err == nil {
			return string(out)
		}
	}
	return strings.ToValidUTF8(string(data), "\uFFFD")
}
