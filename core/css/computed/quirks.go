package computed

import (
	"strings"

	"archetyp/core/css/grammar"
)

// quirky reads lengths without a unit and colours without #, as pages without a doctype may write them; nil for none.
// https://quirks.spec.whatwg.org/
func quirky(name, text string) *Value {
	parts, err := grammar.Parts(text)
	if err != nil || len(parts) != 1 {
		return nil
	}
	switch {
	case parts[0].Kind == grammar.Number && quirkLengths[name]:
		return table().take(id(name), []grammar.Part{{Kind: grammar.Dimension, Num: parts[0].Num, Text: "px"}})
	case strings.HasSuffix(name, "color") && (len(text) == 3 || len(text) == 6):
		return table().read(id(name), "#"+text)
	}
	return nil
}

var quirkLengths = map[string]bool{"border-top-width": true, "border-right-width": true, "border-bottom-width": true, "border-left-width": true, "bottom": true, "top": true,
	"left": true, "right": true, "font-size": true, "height": true, "width": true, "letter-spacing": true, "margin-top": true, "margin-right": true, "margin-bottom": true,
	"margin-left": true, "max-height": true, "max-width": true, "min-height": true, "min-width": true, "padding-top": true, "padding-right": true, "padding-bottom": true,
	"padding-left": true, "text-indent": true, "vertical-align": true, "word-spacing": true}
