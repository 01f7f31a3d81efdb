package offer

import (
	"strings"
	"testing"

	"archetyp/core/design"
	"archetyp/core/token"
	"archetyp/core/token/emit"
)

// desk is made of a token file.
func desk(t testing.TB, json string) *Desk {
	t.Helper()
	set := token.Resolve(token.Parse([]byte(json), "t.json"))
	if err := set.Err(); err != nil {
		t.Fatal(err)
	}
	set.SetRoot(16)
	return &Desk{Library: token.Plain(set), Property: func(p string) string { return emit.Property(p, "") }, Unit: design.Unit{Name: "rem", Root: 16}}
}

// own is what an element would have that is declared so.
func own(decls ...string) *Own {
	w := &Own{Element: &design.Element{Name: "Quay", Screen: &design.Screen{}}, named: map[string]string{}, raw: map[string]string{}}
	for _, d := range decls {
		prop, value, _ := strings.Cut(d, ": ")
		decl := design.Declaration{Prop: prop, Value: value}
		w.Decls = append(w.Decls, decl)
		spread(w.named, decl)
		spread(w.raw, decl)
	}
	return w
}

func TestWhatAnElementHasForAProperty(t *testing.T) {
	w := own("padding: 1px 2px 3px", "border: 1px solid red", "border-radius: 4px", "gap: 8px", "background: var(--b)", "font: 600 16px/1.5 Hanken, serif", "margin: 5px")
	for property, want := range map[string]string{
		"padding": "1px 2px 3px", "padding-left": "2px", "padding-inline": "2px", "padding-block": "1px 3px", "padding-block-end": "3px", "padding-inline-start": "2px",
		"border-color": "red", "border-top": "", "border-left-width": "1px", "border-inline-width": "1px", "border-block-start-color": "red",
		"border-start-end-radius": "4px", "border-top-left-radius": "4px", "row-gap": "8px", "background-color": "var(--b)",
		"font-size": "16px", "font-weight": "600", "line-height": "1.5", "font-family": "Hanken, serif", "margin-block": "5px", "inset": "", "color": "",
	} {
		if got, _, _ := w.Of(property); got != want {
			t.Errorf("%s: %q, want %q", property, got, want)
		}
	}
}

func TestWhatARuleLacks(t *testing.T) {
	w := own("padding: 1px", "border: 1px solid red", "background: red", "font: x", "color: red")
	for have, want := range map[string]string{
		"": "padding border background font color", "padding-inline": "border background font color", "background-color": "padding border font color",
		"border-top-color": "padding background font color", "border-radius": "padding border background font color", "font-size": "padding border background color",
		"color": "padding border background font",
	} {
		var got []string
		for _, d := range w.Missing([]string{have}) {
			got = append(got, d.Prop)
		}
		if s := strings.Join(got, " "); s != want {
			t.Errorf("with %s: %s, want %s", have, s, want)
		}
	}
}

func TestTheBestComesFirst(t *testing.T) {
	d := desk(t, `{"space": {"$type": "dimension", "s": {"$value": {"value": 8, "unit": "px"}}, "m": {"$value": {"value": 16, "unit": "px"}}, "l": {"$value": {"value": 24, "unit": "px"}}},
	 "radius": {"$type": "dimension", "s": {"$value": {"value": 15, "unit": "px"}}},
	 "color": {"$type": "color", "sea": {"$value": "#0b6e8f"}, "foam": {"$value": "#f5f8fa"}, "text": {"sea": {"$value": "{color.sea}"}}},
	 "speed": {"$type": "duration", "slow": {"$value": {"value": 400, "unit": "ms"}}}}`)
	for _, c := range []struct {
		q    Query
		want string
	}{
		{Query{Property: "padding"}, "--space-s --space-m --space-l"},
		{Query{Property: "padding", Word: "15px", Typed: "15px"}, "--space-m --space-s --space-l"},
		{Query{Property: "padding", Word: "1.4rem", Typed: "1.4rem"}, "--space-l --space-m --space-s"},
		{Query{Property: "padding", Focused: []*Own{own("padding: 24px")}}, "24px --space-l --space-m --space-s"},
		{Query{Property: "padding", Part: true, Focused: []*Own{own("padding: 24px 8px")}}, "--space-l --space-m --space-s"},
		{Query{Property: "color", Word: "#0b6e90", Typed: "#0b6e90"}, "--color-text-sea --color-sea --color-foam"},
		{Query{Property: "color", Typed: "foam"}, "--color-foam"},
		{Query{Property: "color", Typed: "var(--sea-te"}, "--color-text-sea"},
		{Query{Property: "--own", Function: "var", Typed: "--sp"}, "--space-s --space-m --space-l --speed-slow"},
		{Query{Property: "transition-delay"}, "--speed-slow"},
		{Query{Property: "padding", Function: "calc"}, ""},
		{Query{Property: "display"}, ""},
	} {
		items, more := d.Values(c.q)
		var got []string
		for _, it := range items {
			got = append(got, it.Label)
		}
		if s := strings.Join(got, " "); s != c.want || more {
			t.Errorf("%+v: %s, want %s", c.q, s, c.want)
		}
	}
	many := `{"space": {"$type": "dimension"`
	for i := range 3000 {
		many += `, "n` + strings.Repeat("x", i%7) + string(rune('a'+i%26)) + strings.Repeat("y", i/26) + `": {"$value": {"value": ` + strings.Repeat("1", 1+i%5) + `, "unit": "px"}}`
	}
	if items, more := desk(t, many+"}}").Values(Query{Property: "padding"}); len(items) != Most || !more {
		t.Errorf("of 3000: %d, more %v", len(items), more)
	}
}

func TestContrasts(t *testing.T) {
	d := desk(t, `{"color": {"$type": "color", "sea": {"$value": "#0b6e8f"}}}`)
	for _, c := range [][3]string{{"#fff", "var(--color-sea)", "Contrast of text to background 5.77:1, AA"}, {"#fff", "#fff", "Contrast of text to background 1:1, below AA"}, {"x", "#fff", ""}, {"#fff", "", ""}} {
		if got := d.Contrasts(c[0], c[1]); got != c[2] {
			t.Errorf("%s on %s: %q, want %q", c[0], c[1], got, c[2])
		}
	}
}
