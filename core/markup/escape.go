package markup

import "strings"

var (
	textEscaper = strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;")
	attrEscaper = strings.NewReplacer("&", "&amp;", "<", "&lt;", `"`, "&quot;", "\n", "&#10;", "\t", "&#9;", "\r", "&#13;")
)

// EscapeText makes s fit to stand between tags.
func EscapeText(s string) string { return textEscaper.Replace(s) }

// EscapeAttr makes s fit to stand in a double-quoted attribute.
func EscapeAttr(s string) string { return attrEscaper.Replace(s) }
