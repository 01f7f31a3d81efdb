package lint

import (
	"fmt"
	"strings"
	"testing"

	"archetyp/core/audit"
	"archetyp/core/design"
	"archetyp/core/offer"
	"archetyp/core/styletext"
	"archetyp/core/token"
	"archetyp/core/token/emit"
)

// desk is made of a token file.
func desk(t testing.TB, json string) *offer.Desk {
	t.Helper()
	set := token.Resolve(token.Parse([]byte(json), "t.json"))
	if err := set.Err(); err != nil {
		t.Fatal(err)
	}
	set.SetRoot(16)
	return &offer.Desk{Library: token.Plain(set), Property: func(p string) string { return emit.Property(p, "") }, Unit: design.Unit{Name: "px", Root: 16}}
}

const tokens = `{
 "color": {"$type": "color", "tide": {"$value": "#0b6e8f"}, "ink": {"$value": "#10243a"}, "text": {"plain": {"$value": "{color.ink}"}},
  "old": {"$value": "{color.tide}", "$deprecated": "use tide"}},
 "spacing": {"$type": "dimension", "m": {"$value": {"value": 16, "unit": "px"}}},
 "borderRadius": {"$type": "dimension", "m": {"$value": {"value": 12, "unit": "px"}}},
 "speed": {"$type": "duration", "$value": {"value": 200, "unit": "ms"}}
}`

func TestFindings(t *testing.T) {
	d := desk(t, tokens)
	for _, c := range []struct{ text, want string }{
		{"color: #10243A", "raw-value --color-text-plain"},
		{"fill: rgb(16 36 58)", "raw-value --color-ink"},
		{"border: 1px solid #0b6e8f", "raw-value --color-tide"},
		{"padding: 0 16px", "raw-value --spacing-m"},
		{"border-radius: 12px", "raw-value --borderRadius-m"},
		{"transition-duration: 200ms", "raw-value --speed"},
		{"background: linear-gradient(red, #0b6e8f)", "raw-value --color-tide"},
		{"color: #0b6e90", "almost-token --color-tide"},
		{"gap: 15px", "off-scale 16px"},
		{"gap: 0.9rem", "off-scale 1rem"},
		{"color: var(--color-old)", "deprecated-token --color-tide"},
		{"color: var(--color-tyde)", "unknown-property --color-tide"},
		{"color: var(--none, red)", "unknown-property "},
		{"--x: #10243a; color: var(--x)", ""},
		{"gap: 2px; margin: -13px", ""},
		{"content: \"#10243a\"", ""},
		{"grid-area: red", ""},
	} {
		in := &In{Desk: d, Scales: token.Scales{Space: 4}, Known: map[string]bool{}, Memory: &Memory{}}
		for range 2 { // from memory, too
			var got []string
			for _, f := range in.Check(styletext.Read(".x { "+c.text+" }", styletext.CSS)) {
				got = append(got, f.Rule+" "+strings.TrimSuffix(strings.TrimPrefix(f.Replace, "var("), ")"))
			}
			if s := strings.Join(got, "; "); s != c.want {
				t.Errorf("%s: %s, want %s", c.text, s, c.want)
			}
		}
	}
}

func TestLevelsOfRules(t *testing.T) {
	in := &In{Desk: desk(t, tokens), Levels: map[string]audit.Level{"raw-value": audit.Off, "almost-token": audit.Error}}
	found := in.Check(styletext.Read(".x { color: #10243a; fill: #0b6e90; top: var(--none) }", styletext.CSS))
	if got := fmt.Sprintf("%d %s", len(found), found[0].Level); got != "1 error" {
		t.Errorf("got %s: %+v", got, found)
	}
}
