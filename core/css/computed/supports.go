package computed

import (
	"strings"

	"archetyp/core/css/grammar"
)

// Supports reports whether browsers take a value for a property, as @supports asks. Of properties that have no place in
// the table but are known to browsers, any value is.
// https://www.w3.org/TR/css-conditional-3/#dfn-support
func Supports(property, value string) bool {
	name := strings.TrimSpace(property)
	if strings.HasPrefix(name, "--") {
		return true
	}
	name, value = strings.ToLower(name), strings.TrimSpace(value)
	if a, ok := aliases[name]; ok {
		name = a
	}
	switch {
	case untabled[name]:
		return value != ""
	case !Known(name):
		return false
	case wideOf(value) != notWide || substitutes(value):
		return true
	}
	parts, err := grammar.Parts(value)
	if err != nil || len(parts) == 0 {
		return false
	}
	if short, ok := shorthands[name]; ok {
		_, ok := short.take(short.names, parts)
		return ok
	}
	return one(name, parts) != nil
}

// untabled are properties that browsers know and that the table leaves out.
var untabled = func() map[string]bool {
	out := map[string]bool{}
	for _, name := range strings.Fields(`-webkit-app-region -webkit-border-after -webkit-border-before -webkit-box-reflect -webkit-logical-height -webkit-logical-width -webkit-mask-box-image
		-webkit-mask-composite -webkit-max-logical-height -webkit-max-logical-width -webkit-min-logical-height -webkit-min-logical-width -webkit-ruby-position
		-webkit-text-combine -webkit-text-orientation anchor-scope animation-range app-region baseline-source buffered-rendering caret-animation caret-shape
		column-height column-wrap contain-intrinsic-block-size contain-intrinsic-height contain-intrinsic-inline-size contain-intrinsic-size
		contain-intrinsic-width corner-shape corner-bottom-left-shape corner-bottom-right-shape corner-top-left-shape corner-top-right-shape interactivity
		interest-delay object-view-box offset overlay page position-area position-try position-try-fallbacks position-try-order position-visibility
		reading-flow reading-order ruby-overhang scroll-initial-target scroll-marker-group scroll-timeline scroll-timeline-axis scroll-timeline-name size
		speak text-box timeline-scope view-timeline view-timeline-axis view-timeline-inset view-timeline-name view-transition-group`) {
		out[name] = true
	}
	return out
}()
