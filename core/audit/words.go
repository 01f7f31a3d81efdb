package audit

import (
	"strings"

	"archetyp/core/design"
)

// texts calls f for the texts of a screen that somebody reads: those that are hidden, no words, or marked as not to be
// translated are left out.
func texts(s *design.Screen, f func(*design.Element, string)) {
	for _, e := range s.Elements {
		if e.Hidden || e.Words == nil || e.Marks.Text == "none" || inPicture(e) || isHead(e) {
			continue
		}
		if words := strings.Join(strings.Fields(e.Words.Words), " "); words != "" {
			f(e, words)
		}
	}
}

// isHead reports whether words are the title or the description of a page, which stand nowhere on it.
func isHead(e *design.Element) bool {
	return e.Screen.Document.Styles != nil && (e.Shape == "title" || e.Shape == "meta") && e.Node != nil && e.Node.HTML
}

// clip is the beginning of a text.
func clip(s string) string {
	r := []rune(s)
	if len(r) <= 48 {
		return s
	}
	return strings.TrimSpace(string(r[:47])) + "…"
}
