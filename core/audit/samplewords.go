package audit

import (
	"regexp"

	"archetyp/core/design"
)

var sampleWords = Rule{Name: "sample-words", Group: "words", Level: Note,
	What:  "amounts, dates, addresses and numbers that are samples and are marked as no message",
	Why:   "a translator gets “3 passengers” and code gets no plural",
	check: checkSampleWords,
}

var sample = regexp.MustCompile(`(?i)[€$£¥]\s?\d|\d\s?[€$£¥]|\b\d{1,2}:\d{2}\b|\b\d{1,2}[./]\d{1,2}[./]\d{2,4}\b|\b\d{4}-\d{2}-\d{2}\b|\S+@\S+\.\w+|\+\d[\d ()-]{6,}|\b\d+ \pL{3,}`)

func checkSampleWords(c *checker) {
	c.screens(func(s *design.Screen) {
		if s.Document.Styles != nil {
			return
		}
		var found []*design.Element
		texts(s, func(e *design.Element, words string) {
			if e.Marks.Message == "" && sample.MatchString(words) {
				found = append(found, e)
			}
		})
		switch len(found) {
		case 0:
		case 1:
			c.find(found, "Say which message it is a sample of: data-message=\"{price} each\".", "“%s” is a sample of a message", clip(found[0].Words.Words))
		default:
			c.find(found, "Say which messages they are samples of: data-message=\"{price} each\".", "%d texts hold samples, such as “%s”", len(found), clip(found[0].Words.Words))
		}
	})
}
