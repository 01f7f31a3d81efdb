package css

import "strings"

// IsPresentationAttribute reports whether an attribute of SVG stands for the property of its name.
// https://www.w3.org/TR/SVG2/styling.html#PresentationAttributes
func IsPresentationAttribute(name string) bool { return presentation[name] }

var presentation = func() map[string]bool {
	m := map[string]bool{}
	for _, n := range strings.Fields(`alignment-baseline baseline-shift clip-path clip-rule color color-interpolation color-interpolation-filters cursor direction display
		dominant-baseline fill fill-opacity fill-rule filter flood-color flood-opacity font-family font-size font-size-adjust font-stretch font-style font-variant font-weight
		image-rendering letter-spacing lighting-color marker-end marker-mid marker-start mask mask-type opacity overflow paint-order pointer-events shape-rendering stop-color
		stop-opacity stroke stroke-dasharray stroke-dashoffset stroke-linecap stroke-linejoin stroke-miterlimit stroke-opacity stroke-width text-anchor text-decoration
		text-overflow text-rendering transform-origin unicode-bidi vector-effect visibility white-space word-spacing writing-mode`) {
		m[n] = true
	}
	return m
}()
