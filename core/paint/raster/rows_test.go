package raster_test

import (
	"bytes"
	"runtime"
	"testing"
)

// manners are drawings of 100 × 100 px, each with another loop over the pixels.
var manners = map[string]string{
	"shapes":        `<rect width="100" height="100" fill="#ffd98a"/><path d="M3 5L95 20 40 97Z" fill="#0b6e8f" fill-opacity=".7" stroke="#123" stroke-width="3"/>`,
	"gradients":     `<linearGradient id="l"><stop stop-color="#0b6e8f"/><stop offset="1" stop-color="#e4572e" stop-opacity=".4"/></linearGradient><radialGradient id="r" href="#l"/><rect width="100" height="60" fill="url(#l)"/><circle cx="50" cy="50" r="50" fill="url(#r)"/>`,
	"pattern":       `<pattern id="p" width="12" height="10" patternUnits="userSpaceOnUse" patternTransform="rotate(9)"><circle cx="6" cy="5" r="4" fill="#0b6e8f"/></pattern><rect width="100" height="100" fill="url(#p)"/>`,
	"clip and mask": `<clipPath id="c"><circle cx="50" cy="50" r="48"/><path d="M0 0h50v9z"/></clipPath><mask id="m"><rect width="100" height="100" fill="#999"/><circle cx="30" cy="30" r="25" fill="#fff"/></mask><g clip-path="url(#c)" mask="url(#m)" opacity=".8"><rect width="100" height="100" fill="#e4572e"/><rect width="50" height="99" style="mix-blend-mode:screen" fill="#0b6e8f"/></g>`,
	"shadow":        filters(`<feGaussianBlur in="SourceAlpha" stdDeviation="2"/><feOffset dx="2.3" dy="1.7"/><feColorMatrix values="0 0 0 0 .1 0 0 0 0 .2 0 0 0 0 .3 0 0 0 .5 0"/><feComposite operator="out" in2="SourceAlpha"/><feBlend mode="multiply" in2="SourceGraphic"/>`),
	"little blur":   filters(`<feGaussianBlur stdDeviation=".1 .05"/><feDropShadow dx="3" dy="2" stdDeviation="1" flood-color="#e4572e"/>`),
	"transfer":      filters(`<feComponentTransfer><feFuncR type="table" tableValues="1 0 1"/><feFuncA type="gamma" exponent=".5"/></feComponentTransfer><feMorphology operator="dilate" radius=".2"/>`),
	"noise":         filters(`<feTurbulence baseFrequency=".05" numOctaves="2" result="n"/><feDisplacementMap in="SourceGraphic" in2="n" scale="9" xChannelSelector="R" yChannelSelector="G"/>`),
	"light":         filters(`<feDiffuseLighting surfaceScale="4" lighting-color="#ffd98a"><fePointLight x="20" y="10" z="30"/></feDiffuseLighting><feComposite operator="arithmetic" k1="1" k4=".1" in2="SourceGraphic"/>`),
	"kernel":        filters(`<feConvolveMatrix order="3" kernelMatrix="1 0 -1 2 0 -2 1 0 -1" bias=".3"/><feTile x="5" y="5" width="30" height="40"/>`),
}

func filters(steps string) string {
	return `<filter id="f" x="-.1" y="-.1" width="1.2" height="1.2">` + steps +
		`</filter><g filter="url(#f)"><path d="M20 15L80 30 45 85Z" fill="#0b6e8f"/><circle cx="70" cy="70" r="12" fill="#ffd98a" fill-opacity=".6"/></g>`
}

// TestLargePicturesAreTheSameOnAnyMachine paints pictures that all processors work on, with one and with several.
func TestLargePicturesAreTheSameOnAnyMachine(t *testing.T) {
	defer runtime.GOMAXPROCS(runtime.GOMAXPROCS(0))
	manners["bitmap"] = `<image width="100" height="100" transform="rotate(9 50 50)" href="` + checker(t, 700) + `"/>`
	for name, content := range manners {
		const density = 5.2 // enough pixels for several processors
		runtime.GOMAXPROCS(1)
		alone := paint(t, content, density)
		runtime.GOMAXPROCS(5)
		if together := paint(t, content, density); !bytes.Equal(alone.Pix, together.Pix) {
			t.Errorf("%s: painted differently by several processors", name)
		}
		seen := map[string]bool{}
		for i := 0; i < len(alone.Pix); i += 4 {
			seen[string(alone.Pix[i:i+4])] = true
		}
		if len(seen) < 3 {
			t.Errorf("%s: %d colours: nothing is painted", name, len(seen))
		}
	}
}

// BenchmarkRenderLarge paints one picture of 25 million pixels in each manner.
func BenchmarkRenderLarge(b *testing.B) {
	for name, content := range manners {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				paint(b, content, 50)
			}
			b.ReportMetric(float64(25*b.N)/b.Elapsed().Seconds(), "megapixels/s")
		})
	}
}
