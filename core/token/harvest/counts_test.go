package harvest

import (
	"testing"

	"archetyp/core/token"
)

// What Counts says of every token is what Uses lists of it.
func TestCountsAreTheUses(t *testing.T) {
	ink := &token.Token{Path: "color.ink.900", Type: token.Color}
	text := &token.Token{Path: "color.text.default", Type: token.Color, Value: token.Value{Alias: "color.ink.900"}}
	border := &token.Token{Path: "color.border.default", Type: token.Color, Value: token.Value{Alias: "color.ink.900"}}
	gap := &token.Token{Path: "space.2", Type: token.Dimension}
	set := token.NewSet([]*token.Token{ink, text, border, gap})
	h := &Harvest{Found: []*Found{
		{Type: token.Color, Token: "color.ink.900", Uses: []Use{
			{Site: &Site{Source: "a.svg"}, Property: "text"}, {Site: &Site{Source: "b.svg"},
				Property: "border"}, {Site: &Site{Source: "a.svg"}, Property: "fill"},
		}},
		{Type: token.Color, Uses: []Use{{Site: &Site{Source: "b.svg"}, Property: "text", Held: "color.text.default"},
			{Site: &Site{Source: "b.svg"}, Property: "text"}}},
		{Type: token.Dimension, Token: "space.2", Uses: []Use{{Site: &Site{Source: "a.svg"}, Property: "padding"}}},
	}}
	counts := h.Counts(set)
	for _, tok := range set.Tokens {
		want := map[string]int{}
		for _, u := range h.Uses(set, tok) {
			want[u.Source]++
		}
		got := counts[tok.Path]
		if len(got) != len(want) || got["a.svg"] != want["a.svg"] || got["b.svg"] != want["b.svg"] {
			t.Errorf("%s: %v, want %v", tok.Path, got, want)
		}
	}
	if n := counts["color.text.default"]; n["a.svg"] != 1 || n["b.svg"] != 1 {
		t.Errorf("color.text.default is used %v", n)
	}
}
