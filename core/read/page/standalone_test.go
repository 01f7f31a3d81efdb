package page

import (
	"strings"
	"testing"

	"archetyp/core/markup"
)

// TestStandalone writes inline drawings as files: styles become attributes, what they use comes along.
func TestStandalone(t *testing.T) {
	const head = `<!doctype html><style>
		.icon { fill: var(--tide); width: 24px; height: 2em; font-size: 10px }
		:root { --tide: #0b4f6c } .pier path { stroke: currentColor; opacity: .5 } nav { color: rgb(1, 2, 3) }
		.turned { transform: rotate(45deg) } symbol path { stroke-width: 3px } #wave path { fill: inherit }
		</style><svg hidden><symbol id=anchor viewBox="0 0 8 8"><path d="M1 1" class=s /><use href="#dot"/></symbol><circle id=dot r=1 />
		<linearGradient id=sea><stop offset=0 style="stop-color: red"/></linearGradient></svg>`
	for _, c := range []struct{ name, body, want string }{
		{"a class", `<svg class=icon id=x><path d="M0 0"/></svg>`,
			`<svg xmlns="http://www.w3.org/2000/svg" id="x" font-size="10px" width="24" height="20" fill="#0b4f6c"><path d="M0 0"/></svg>`},
		{"the colour around it", `<nav><svg class=pier id=x><path d="M0 0" opacity=".9"/></svg></nav>`,
			`<svg xmlns="http://www.w3.org/2000/svg" id="x" color="#010203"><path d="M0 0" opacity="0.5" stroke="currentColor"/></svg>`},
		{"no colour where none is used", `<nav><svg id=x><path d="M0 0" fill="#fff"/></svg></nav>`,
			`<svg xmlns="http://www.w3.org/2000/svg" id="x"><path d="M0 0" fill="#fff"/></svg>`},
		{"a symbol and what it uses", `<svg id=x><use href="#anchor"/></svg>`,
			`<svg xmlns="http://www.w3.org/2000/svg" id="x"><defs><symbol id="anchor" viewBox="0 0 8 8"><path d="M1 1" stroke-width="3px"/><use href="#dot"/></symbol><circle id="dot" r="1"/></defs><use href="#anchor"/></svg>`},
		{"a gradient elsewhere", `<svg id=x><rect fill="url(#sea)"/></svg>`,
			`<svg xmlns="http://www.w3.org/2000/svg" id="x"><defs><linearGradient id="sea"><stop offset="0" stop-color="#ff0000"/></linearGradient></defs><rect fill="url(#sea)"/></svg>`},
		{"a transform of a rule", `<svg id=x><g class=turned><path d="M0 0"/></g></svg>`,
			`<svg xmlns="http://www.w3.org/2000/svg" id="x"><g style="transform: matrix(0.707107, 0.707107, -0.707107, 0.707107, 0, 0)"><path d="M0 0"/></g></svg>`},
		{"what is inherited stays so", `<svg id=wave fill=red><path d="M0 0"/></svg>`,
			`<svg xmlns="http://www.w3.org/2000/svg" id="wave" fill="red"><path d="M0 0"/></svg>`},
		{"scripts and foreign content", `<svg id=x onload="a()"><script>1</script><style>p{}</style><foreignObject><p>words</p></foreignObject><path d="M0 0" onclick="b()"/></svg>`,
			`<svg xmlns="http://www.w3.org/2000/svg" id="x"><path d="M0 0"/></svg>`},
		{"words have the type of the page", `<p style="font: 700 20px Fraunces"><svg id=x><text>Pier &amp; quay</text></svg></p>`,
			`<svg xmlns="http://www.w3.org/2000/svg" id="x" font-family="Fraunces" font-size="20px" font-weight="700"><text>Pier &amp; quay</text></svg>`},
		{"a ring of uses", `<svg id=x><g id=a><use href="#b"/></g></svg><svg><g id=b><use href="#a"/></g></svg>`,
			`<svg xmlns="http://www.w3.org/2000/svg" id="x"><defs><g id="b"><use href="#a"/></g></defs><g id="a"><use href="#b"/></g></svg>`},
	} {
		p, err := Read([]byte(head+c.body), Options{})
		if err != nil {
			t.Fatal(err)
		}
		id := "x"
		if strings.Contains(c.body, "id=wave") {
			id = "wave"
		}
		got := strings.TrimSpace(string(p.standalone(p.byID(id))))
		if got != c.want {
			t.Errorf("%s:\n got %s\nwant %s", c.name, got, c.want)
		}
		if _, err := markup.ParseXML([]byte(got)); err != nil {
			t.Errorf("%s: %v", c.name, err)
		}
	}
}
