package e2e

import (
	"archetyp/core/diff"
	"encoding/base64"
	"fmt"
	"image"
	"image/draw"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// part is a feature of a drawing of 64 × 64 px: definitions, and what is drawn. What is drawn by an effect holds %s,
// which stands for what it works on.
type part struct{ name, defs, body string }

// things are what can be drawn.
func things(t testing.TB) []part {
	font := func(file, family string) string {
		data, err := os.ReadFile(filepath.Join("../demo/files/fonts", file))
		if err != nil {
			t.Fatal(err)
		}
		return fmt.Sprintf(`<style>@font-face{font-family:%s;src:url(data:font/ttf;base64,%s)}</style>`, family,
			base64.StdEncoding.EncodeToString(data))
	}
	latin, hebrew := font("HankenGrotesk-SemiBold.ttf", "Ferry"), font("NotoSansHebrew-Bold.ttf", "Quay")
	words := func(style, s string) string {
		return `<text x="4" y="40" font-family="Ferry, Quay" font-size="26" font-weight="600" text-rendering="geometricPrecision" fill="#123" ` + style + `>` + s + `</text>`
	}
	stops := `<stop stop-color="#0b6e8f"/><stop offset=".6" stop-color="#ffd98a"/><stop offset="1" stop-color="#e4572e" stop-opacity=".6"/>`
	corner := `<path d="M8 52L32 10L56 52" fill="none" stroke="#0b6e8f" stroke-width="9" %s/>`
	gradient := func(kind, attrs string) part {
		return part{kind + " " + attrs, `<` + kind + ` id="g" ` + attrs + `>` + stops + `</` + kind + `>`,
			`<rect x="4" y="4" width="56" height="56" fill="url(#g)"/>`}
	}
	picture := `data:image/png;base64,` + base64.StdEncoding.EncodeToString(quayPNG(t))
	return []part{
		{"miter", "", fmt.Sprintf(corner, `stroke-miterlimit="8"`)},
		{"miter limit", "", fmt.Sprintf(corner, `stroke-miterlimit="1"`)},
		{"round joins, round caps", "", fmt.Sprintf(corner, `stroke-linejoin="round" stroke-linecap="round"`)},
		{"bevels, square caps", "", fmt.Sprintf(corner, `stroke-linejoin="bevel" stroke-linecap="square"`)},
		{"dashes", "", fmt.Sprintf(corner, `stroke-dasharray="12 5 3" stroke-dashoffset="4"`)},
		{"round dashes", "",
			`<circle cx="32" cy="32" r="22" fill="none" stroke="#e4572e" stroke-width="6" stroke-dasharray="0 11" stroke-linecap="round"/>`},
		{"curved stroke", "", `<path d="M6 50C6 -20 58 90 58 14" fill="none" stroke="#123" stroke-width="7"/>`},
		{"even-odd", "", `<path fill-rule="evenodd" fill="#0b6e8f" d="M32 4L50 60L4 24H60L14 60Z"/>`},
		{"abutting", "", `<g fill="#0b6e8f" transform="rotate(17 32 32)"><path d="M10 10H32.3V54H10Z"/><path d="M32.3 10H54V54H32.3Z"/></g>`},
		{"rounded", "", `<rect x="6.5" y="10.25" width="50" height="40" rx="14" ry="9" fill="#ffd98a" stroke="#123" stroke-width="3"/>`},
		{"turned ellipse", "", `<ellipse cx="32" cy="32" rx="28" ry="12" transform="rotate(30 32 32)" fill="#e4572e"/>`},
		gradient("linearGradient", `x2=".4"`), gradient("linearGradient",
			`x2=".3" y2=".2" spreadMethod="reflect"`), gradient("linearGradient", `x2=".25" spreadMethod="repeat"`),
		gradient("radialGradient", `r=".6"`), gradient("radialGradient",
			`r=".3" spreadMethod="reflect"`), gradient("radialGradient", `r=".3" spreadMethod="repeat"`),
		gradient("radialGradient", `fx=".3" fy=".25"`), gradient("radialGradient",
			`gradientTransform="rotate(20) skewX(20)"`),
		{"stroked with a gradient", `<linearGradient id="g">` + stops + `</linearGradient>`,
			`<circle cx="32" cy="32" r="22" fill="none" stroke="url(#g)" stroke-width="10"/>`},
		{"pattern", `<pattern id="p" width="12" height="10" patternUnits="userSpaceOnUse"><rect width="12" height="10" fill="#ffd98a"/><circle cx="6" cy="5" r="3.500" fill="#0b6e8f"/></pattern>`, `<rect x="4" y="4" width="56" height="56" fill="url(#p)"/>`},
		{"turned pattern", `<pattern id="p" width=".2" height=".2" patternTransform="rotate(30)"><path d="M0 0h6v6z" fill="#e4572e"/></pattern>`, `<circle cx="32" cy="32" r="28" fill="url(#p)"/>`},
		{"bitmap made smaller", "", `<image href="` + picture + `" x="4" y="4" width="30" height="30"/>`},
		{"bitmap made larger", "", `<image href="` + picture + `" x="2" y="2" width="60" height="60"/>`},
		{"sliced bitmap", "", `<image href="` + picture +
			`" x="4" y="14" width="56" height="30" preserveAspectRatio="xMidYMid slice"/>`},
		{"kerning", latin, words("", "AVAT")}, {"ligatures", latin, words("", "ffi")}, {"from right to left", hebrew,
			words("", "מעבורת")},
		{"fallback", latin + hebrew, words("", "Aשל")}, {"stroked words", latin,
			words(`stroke="#e4572e" stroke-width="3" paint-order="stroke"`, "Tide")},
		{"letter spacing", latin, words(`letter-spacing="4"`, "Ter")},
		{"non-scaling stroke", "",
			`<rect x="3" y="3" width="12" height="14" transform="scale(4 3)" fill="none" stroke="#123" stroke-width="5" vector-effect="non-scaling-stroke"/>`},
		{"markers", `<marker id="m" markerWidth="4" markerHeight="4" refX="2" refY="2" orient="auto"><path d="M0 0L4 2L0 4Z" fill="#e4572e"/></marker>`, `<path d="M10 50L30 16L54 46" fill="none" stroke="#0b6e8f" stroke-width="3" marker-start="url(#m)" marker-mid="url(#m)" marker-end="url(#m)"/>`},
	}
}

// effects are what can be done to a drawing.
func effects() []part {
	filter := func(name, steps string) part {
		return part{name, `<filter id="f" x="-.1" y="-.1" width="1.2" height="1.2">` + steps + `</filter>`,
			`<g filter="url(#f)">%s</g>`}
	}
	inSRGB := func(name, steps string) part {
		p := filter(name, steps)
		p.name, p.defs = p.name+" in sRGB", strings.Replace(p.defs, `<filter `, `<filter color-interpolation-filters="sRGB" `,
			1)
		return p
	}
	blend := func(mode string) part {
		return part{mode, "", `<rect x="0" y="20" width="64" height="30" fill="#3d9bb3"/><g style="mix-blend-mode:` + mode +
			`">%s</g>`}
	}
	light := func(kind, attrs, source string) string {
		return `<feGaussianBlur in="SourceAlpha" stdDeviation="2"/><fe` + kind + `Lighting surfaceScale="5" ` + attrs +
			` lighting-color="#ffd98a">` + source + `</fe` + kind + `Lighting>`
	}
	list := []part{
		{"clip", `<clipPath id="c"><circle cx="34" cy="30" r="22"/></clipPath>`, `<g clip-path="url(#c)">%s</g>`},
		{"clip of two", `<clipPath id="c"><rect x="4" y="4" width="30" height="40"/><circle cx="42" cy="42" r="16"/></clipPath>`, `<g clip-path="url(#c)">%s</g>`},
		{"clipped clip", `<clipPath id="d"><rect width="40" height="64"/></clipPath><clipPath id="c" clip-path="url(#d)"><circle cx="34" cy="30" r="24"/></clipPath>`, `<g clip-path="url(#c)">%s</g>`},
		{"even-odd clip", `<clipPath id="c"><path clip-rule="evenodd" d="M4 4H60V60H4ZM18 18H46V46H18Z"/></clipPath>`,
			`<g clip-path="url(#c)">%s</g>`},
		{"mask by luminance",
			`<mask id="k"><rect width="64" height="64" fill="#888"/><circle cx="30" cy="30" r="20" fill="#fff"/></mask>`, `<g mask="url(#k)">%s</g>`},
		{"mask by alpha", `<mask id="k" style="mask-type:alpha"><circle cx="30" cy="30" r="24" fill="#000" fill-opacity=".7"/></mask>`, `<g mask="url(#k)">%s</g>`},
		{"group opacity", "", `<g opacity=".55"><rect x="20" y="20" width="30" height="36" fill="#0b6e8f"/>%s</g>`},
		filter("blur", `<feGaussianBlur stdDeviation="3"/>`), inSRGB("blur two ways",
			`<feGaussianBlur stdDeviation="5 1"/>`), filter("small blur", `<feGaussianBlur stdDeviation=".7"/>`),
		filter("offset", `<feOffset dx="6" dy="-3.500"/>`), filter("flood",
			`<feFlood flood-color="#e4572e" flood-opacity=".5" x="10" y="10" width="40" height="40"/>`),
		filter("merge", `<feOffset dx="5" dy="5" result="o"/><feMerge><feMergeNode in="o"/><feMergeNode in="SourceGraphic"/></feMerge>`),
		filter("blend", `<feFlood flood-color="#0b6e8f"/><feBlend in="SourceGraphic" mode="multiply"/>`), inSRGB("blend",
			`<feFlood flood-color="#ffd98a"/><feBlend in="SourceGraphic" mode="screen"/>`),
		filter("matrix", `<feColorMatrix values=".3 .6 .1 0 0 .2 .5 .3 0 .1 .1 .2 .7 0 0 0 0 0 .8 0"/>`), inSRGB("saturate",
			`<feColorMatrix type="saturate" values=".2"/>`),
		filter("hue", `<feColorMatrix type="hueRotate" values="90"/>`), filter("luminance to alpha",
			`<feColorMatrix type="luminanceToAlpha"/>`),
		inSRGB("transfer", `<feComponentTransfer><feFuncR type="table" tableValues="0 .8 1"/><feFuncG type="gamma" amplitude="1" exponent="2" offset="0"/><feFuncB type="discrete" tableValues="0 .5 1"/><feFuncA type="linear" slope=".8" intercept="0"/></feComponentTransfer>`),
		filter("dilate", `<feMorphology operator="dilate" radius="2"/>`), filter("erode", `<feMorphology radius="1"/>`),
		filter("drop shadow", `<feDropShadow dx="3" dy="4" stdDeviation="2" flood-color="#10243a" flood-opacity=".6"/>`),
		filter("tile", `<feOffset x="4" y="4" width="22" height="18" result="a"/><feTile in="a"/>`),
		{"image of an element",
			`<circle id="dot" cx="24" cy="24" r="14" fill="#e4572e"/><filter id="f" filterUnits="userSpaceOnUse" x="0" y="0" width="64" height="64"><feImage href="#dot" result="i"/><feComposite in="i" in2="SourceGraphic" operator="over"/></filter>`, `<g filter="url(#f)">%s</g>`},
		inSRGB("turbulence", `<feTurbulence baseFrequency=".06" numOctaves="3" seed="4"/>`), inSRGB("fractal noise",
			`<feTurbulence type="fractalNoise" baseFrequency=".04 .09" numOctaves="2"/>`),
		inSRGB("displacement",
			`<feFlood flood-color="#c08040" x="0" y="0" width="32" height="64" result="m"/><feDisplacementMap in="SourceGraphic" in2="m" scale="14" xChannelSelector="R" yChannelSelector="G"/>`),
		filter("diffuse, distant", light("Diffuse", `diffuseConstant="1"`, `<feDistantLight azimuth="225" elevation="40"/>`)),
		filter("diffuse, point", light("Diffuse", `diffuseConstant="1.2"`, `<fePointLight x="20" y="10" z="30"/>`)),
		filter("specular, spot", light("Specular", `specularConstant="1.5" specularExponent="12"`,
			`<feSpotLight x="10" y="10" z="40" pointsAtX="40" pointsAtY="40" pointsAtZ="0" specularExponent="2"/>`)),
		inSRGB("sharpen", `<feConvolveMatrix order="3" kernelMatrix="0 -1 0 -1 5 -1 0 -1 0" preserveAlpha="true"/>`),
		inSRGB("emboss", `<feConvolveMatrix order="3" kernelMatrix="2 0 0 0 1 0 0 0 -2" divisor="1"/>`),
		{"css blur", "", `<g style="filter:blur(2px) sepia(60%%)">%s</g>`},
		{"css colours", "", `<g style="filter:brightness(1.2) contrast(80%%) hue-rotate(40deg) invert(20%%)">%s</g>`},
	}
	for _, op := range []string{"over", "in", "out", "atop", "xor", "lighter"} {
		list = append(list, filter("composite "+op,
			`<feFlood flood-color="#ffd98a" x="8" y="8" width="34" height="34" result="b"/><feComposite in="SourceGraphic" in2="b" operator="`+op+`"/>`))
	}
	list = append(list, inSRGB("arithmetic",
		`<feFlood flood-color="#ffd98a" x="8" y="8" width="34" height="34" result="b"/><feComposite in="SourceGraphic" in2="b" operator="arithmetic" k1=".2" k2=".6" k3=".3" k4="0"/>`))
	for _, m := range strings.Fields("multiply screen overlay darken lighten color-dodge color-burn hard-light " +
		"soft-light difference exclusion hue saturation color luminosity") {
		list = append(list, blend(m))
	}
	return list
}

// quayPNG is a small picture with fine and coarse structure.
func quayPNG(t testing.TB) []byte {
	t.Helper()
	dir := t.TempDir()
	file := write(t, dir, "quay.svg",
		`<svg xmlns="http://www.w3.org/2000/svg" width="48" height="48"><rect width="48" height="48" fill="#cfe6ef"/><path d="M0 34q6-6 12 0t12 0 12 0 12 0v14H0z" fill="#0b6e8f"/><path d="M8 24h30l-6 9H14z" fill="#e4572e"/><path d="M20 12h10v12H20z" fill="#10243a" fill-opacity=".8"/></svg>`)
	out := filepath.Join(dir, "quay.png")
	must(t, dir, "render", file, "-o", out, "--quiet")
	return []byte(read(t, out))
}

type drawing struct{ name, svg string }

// featureDrawings are the features alone, and in pairs.
func featureDrawings(t testing.TB) []drawing {
	shapes := things(t)
	var list []drawing
	add := func(name, defs, body string) {
		list = append(list, drawing{name, `<svg xmlns="http://www.w3.org/2000/svg" width="64" height="64"><defs>` + defs +
			`</defs>` + body + `</svg>`})
	}
	plain := `<rect x="12" y="12" width="30" height="30" fill="#e4572e"/><circle cx="40" cy="40" r="14" fill="#0b6e8f" fill-opacity=".8"/>`
	for _, s := range shapes {
		add(s.name, s.defs, s.body)
	}
	for i, e := range effects() {
		add(e.name, e.defs, fmt.Sprintf(e.body, plain))
		for k := range 2 { // with two of the things, so that each thing meets several effects
			s := shapes[(i*2+k*7)%len(shapes)]
			add(e.name+" of "+s.name, e.defs+s.defs, fmt.Sprintf(e.body, s.body))
		}
	}
	return list
}

// TestFeaturesLookLikeChromiums paints a drawing for each feature of SVG that the painter knows, alone and in pairs,
// and holds each against Chromium's picture of it.
func TestFeaturesLookLikeChromiums(t *testing.T) {
	t.Parallel()
	ctx := chromium(t)
	dir := t.TempDir()
	list := featureDrawings(t)
	if len(list) < 150 {
		t.Fatalf("only %d drawings", len(list))
	}
	const side, columns, density = 64, 16, 2
	rows := (len(list) + columns - 1) / columns
	ours := image.NewRGBA(image.Rect(0, 0, side*columns*density, side*rows*density))
	draw.Draw(ours, ours.Rect, image.White, image.Point{}, draw.Src)
	var page strings.Builder
	page.WriteString(`<!doctype html><body style="margin:0;background:#fff">`)
	for i, d := range list {
		file := write(t, dir, fmt.Sprintf("%03d.svg", i), d.svg)
		fmt.Fprintf(&page, `<img src="%s" style="position:absolute;left:%dpx;top:%dpx">`, filepath.Base(file), i%columns*side,
			i/columns*side)
		out := filepath.Join(dir, "o.png")
		must(t, dir, "assets", "export", file, ":root", "-o", out, "--at", fmt.Sprint(density), "--quiet")
		made, _ := filepath.Glob(filepath.Join(dir, "o*.png"))
		for _, m := range made {
			at := image.Pt(i%columns*side*density, i/columns*side*density)
			draw.Draw(ours, image.Rectangle{Min: at, Max: at.Add(image.Pt(side*density, side*density))},
				decode(t, []byte(read(t, m))), image.Point{}, draw.Over)
		}
	}
	open(t, ctx, write(t, dir, "page.html", page.String()), side*columns, int64(side*rows), density)
	theirs := onWhite(shoot(t, ctx))
	if keep := os.Getenv("ARCHETYP_KEEP"); keep != "" {
		savePair(t, keep, "features", ours, theirs)
	}
	sum, worst, name := 0.0, 1.0, ""
	for i, d := range list {
		x, y := i%columns*side*density, i/columns*side*density
		l, ok := diff.Likeness(ours, theirs, image.Rect(x, y, x+side*density, y+side*density), white, 32)
		if !ok {
			l = 1
		}
		sum += l
		if l < 0.97 {
			t.Logf("%5.1f %%  %03d %s", l*100, i, d.name)
		}
		if l < worst {
			worst, name = l, d.name
		}
	}
	mean := sum / float64(len(list))
	t.Logf("%d drawings are alike in %.2f %% of their pixels within 32/255; worst: %s, %.1f %%", len(list), mean*100, name,
		worst*100)
	if mean < 0.97 {
		t.Errorf("only %.2f %%", mean*100)
	}
}
