package token

import "testing"

// What Counts says of every token is what Uses lists of it.
func TestCountsAreTheUses(t *testing.T) {
	ink := &Token{Path: "color.ink.900", Type: Color}
	text := &Token{Path: "color.text.default", Type: Color, Value: Value{Alias: "color.ink.900"}}
	border := &Token{Path: "color.border.default", Type: Color, Value: Value{Alias: "color.ink.900"}}
	gap := &Token{Path: "space.2", Type: Dimension}
	set := NewSet([]*Token{ink, text, border, gap})
	h := &Harvest{Found: []*Found{
		{Type: Color, Token: "color.ink.900", Uses: []Use{
			{Site: &Site{Source: "a.svg"}, Property: "text"}, {Site: &Site{Source: "b.svg"},
				Property: "border"}, {Site: &Site{Source: "a.svg"}, Property: "fill"},
		}},
		{Type: Color, Uses: []Use{{Site: &Site{Source: "b.svg"}, Property: "text", Held: "color.text.default"},
			{Site: &Site{Source: "b.svg"}, Property: "text"}}},
		{Type: Dimension, Token: "space.2", Uses: []Use{{Site: &Site{Source: "a.svg"}, Property: "padding"}}},
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
