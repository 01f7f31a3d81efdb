package computed_test

import (
	"strings"
	"testing"

	"archetyp/core/css/computed"
)

// TestSupports holds what @supports answers for declarations against what a browser answered.
func TestSupports(t *testing.T) {
	for want, list := range map[bool]string{
		true: `-webkit-box-reflect:below|-webkit-mask:none|animation-timeline:view()|anchor-name:--a|text-box:trim-both cap alphabetic|view-transition-name:none|height:100dvh
			|display:flow|overflow:overlay|-webkit-appearance:none|-webkit-user-select:none|-webkit-text-stroke:1px red|--a:1|color:var(--a)|color:inherit
			|-webkit-tap-highlight-color:red|-webkit-font-smoothing:antialiased|-webkit-print-color-adjust:exact|-webkit-filter:blur(1px)|-webkit-line-clamp:2|aspect-ratio:1|zoom:2
			|initial-letter:2|interpolate-size:allow-keywords|field-sizing:content|scrollbar-gutter:stable|-webkit-border-radius:1px|-webkit-box-shadow:none|-webkit-transition:none
			|-webkit-flex:1|-webkit-text-size-adjust:none|text-wrap:pretty|corner-shape:squircle|COLOR:Red|display:grid|color:color-mix(in lab, red, red)
			|color:rgb(from red r g b / calc(alpha * 2))|background:-webkit-linear-gradient(red, blue)|margin:1px 2px|inset:0|gap:1em|contain-intrinsic-size:auto 10px`,
		false: `-webkit-touch-callout:none|-webkit-hyphens:none|hanging-punctuation:first|-webkit-overflow-scrolling:touch|-webkit-backdrop-filter:none|font:-apple-system-body
			|position:-webkit-sticky|color:nope|-webkit-marquee:none|-webkit-min-device-pixel-ratio:1|-apple-x:y|leading-trim:both|-moz-appearance:none|-ms-ime-align:auto|display:grid2
			|margin:1px 2px 3px 4px 5px|colour:red|gap:|height:100px 3px|color:rgb(1 2)|text-decoration-skip:ink|color-adjust:exact|font-width:condensed`,
	} {
		for _, d := range strings.Split(list, "|") {
			property, value, _ := strings.Cut(strings.TrimSpace(d), ":")
			if computed.Supports(property, value) != want {
				t.Errorf("%s: %v", d, !want)
			}
		}
	}
}
