package edits

import "strings"

// Texts is what designers do to the words of a drawing and around them: what lies in the drawing before, and what then.
func Texts() (before string, after []Named) {
	const was = `<g id="card"><rect width="200" height="90" fill="#fff"/><text id="a" x="10" y="20">Adults over fifteen</text><text id="b" x="10" y="60">Children under six</text></g>
<g id="foot"><text x="10" y="150">Pay for the trip now</text><text x="10" y="200">Free to change</text></g>`
	swap := func(pairs ...string) string { return strings.NewReplacer(pairs...).Replace(was) }
	return was, []Named{
		{"nothing", was},
		{"an id renamed", swap(`id="a"`, `id="Label"`)},
		{"both ids renamed", swap(`id="a"`, `id="x"`, `id="b"`, `id="y"`)},
		{"ids swapped", swap(`id="a"`, `id="b"`, `id="b"`, `id="a"`)},
		{"ids gone", swap(` id="a"`, ``, ` id="b"`, ``)},
		{"ids given", swap(`<text x="10" y="150"`, `<text id="n" x="10" y="150"`)},
		{"a layer renamed", swap(`id="card"`, `id="Passengers"`)},
		{"both layers renamed", swap(`id="card"`, `id="q"`, `id="foot"`, `id="r"`)},
		{"a layer and the ids renamed", swap(`id="card"`, `id="q"`, `id="a"`, `id="x"`, `id="b"`, `id="y"`)},
		{"moved", swap(`x="10" y="20"`, `x="110" y="320"`)},
		{"all moved", swap(`y="20"`, `y="120"`, `y="60"`, `y="160"`, `y="150"`, `y="250"`, `y="200"`, `y="300"`)},
		{"moved and renamed", swap(`id="a" x="10" y="20"`, `id="z" x="110" y="320"`)},
		{"order changed", swap(`<text id="a" x="10" y="20">Adults over fifteen</text><text id="b" x="10" y="60">Children under six</text>`, `<text id="b" x="10" y="60">Children under six</text><text id="a" x="10" y="20">Adults over fifteen</text>`)},
		{"order of unnamed ones changed",
			swap(`<text x="10" y="150">Pay for the trip now</text><text x="10" y="200">Free to change</text>`,
				`<text x="10" y="200">Free to change</text><text x="10" y="150">Pay for the trip now</text>`)},
		{"in another layer", swap(`<text id="a" x="10" y="20">Adults over fifteen</text>`, ``, `<text x="10" y="150">`,
			`<text id="a" x="10" y="20">Adults over fifteen</text><text x="10" y="150">`)},
		{"an unnamed one in another layer", swap(`<text x="10" y="150">Pay for the trip now</text>`, ``, `<text id="a"`,
			`<text x="10" y="150">Pay for the trip now</text><text id="a"`)},
		{"grouped", swap(`<text id="a" x="10" y="20">Adults over fifteen</text>`,
			`<g id="row"><text id="a" x="10" y="20">Adults over fifteen</text></g>`)},
		{"grouped without an id", swap(`<text x="10" y="150">Pay for the trip now</text>`,
			`<g><text x="10" y="150">Pay for the trip now</text></g>`)},
		{"a new one before", swap(`<text x="10" y="150">`, `<text x="10" y="120">Something new</text><text x="10" y="150">`)},
		{"a word changed", swap("over fifteen", "over sixteen")},
		{"a word added", swap("Pay for the trip now", "Pay for the whole trip now")},
		{"a word taken away", swap("Pay for the trip now", "Pay for the trip")},
		{"a full stop", swap("Free to change", "Free to change.")},
		{"capitals", swap("Free to change", "FREE TO CHANGE")},
		{"a spelling", swap("Children under six", "Chlidren under six")},
		{"a word changed and the id", swap(`id="a"`, `id="x"`, "over fifteen", "over sixteen")},
		{"a word changed and the layer", swap(`id="foot"`, `id="bar"`, "trip now", "trip today")},
		{"a word changed and moved", swap(`y="150">Pay for the trip now`, `y="170">Pay for the trip today`)},
		{"a word changed, moved and the layer", swap(`id="foot"`, `id="bar"`, `y="150">Pay for the trip now`,
			`y="170">Pay for the trip today`)},
		{"all words a little", swap("over fifteen", "over sixteen", "under six", "under seven", "trip now", "trip today",
			"to change", "to rebook")},
		{"other words in the same place", swap("Adults over fifteen", "Grown-ups")},
		{"a bold word", swap("Free to change", `Free to <tspan font-weight="700">change</tspan>`)},
		{"wrapped", swap(`>Free to change<`, `><tspan x="10" y="200">Free to</tspan><tspan x="10" y="220">change</tspan><`)},
		{"a tspan around", swap(`<text x="10" y="200">Free to change`, `<text><tspan x="10" y="200">Free to change</tspan>`)},
		{"another size", swap(`<text x="10" y="200"`, `<text font-size="30" x="10" y="200"`)},
		{"a copy", swap(`</g>
`, `</g><text x="300" y="20">Adults over fifteen</text>
`)},
		{"one gone", swap(`<text x="10" y="200">Free to change</text>`, ``)},
		{"one gone, a new one in its place", swap(`<text id="b" x="10" y="60">Children under six</text>`,
			`<text id="c" x="10" y="60">Bicycles and dogs</text>`)},
		{"two words swapped", swap("Adults over fifteen", "Children under six", "Children under six", "Adults over fifteen")},
		{"the screen renamed", `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400" data-screen="Your trip">` +
			was + `</svg>`},
		{"the screen renamed and a word changed",
			`<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400" data-screen="Your trip">` + swap("trip now",
				"trip today") + `</svg>`},
	}
}

// Named is a drawing with the name of what was done to it: what lies in its root, or all of it where it begins with <svg.
type Named struct{ Name, Drawing string }

// Whole is all of such a drawing.
func (n Named) Whole() string {
	if strings.HasPrefix(n.Drawing, "<svg") {
		return n.Drawing
	}
	return `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400" data-screen="Booking">` + n.Drawing + `</svg>`
}
