package e2e

import (
	"strings"
	"testing"

	"archetyp/core/ask"
	"archetyp/core/code"
	"archetyp/core/design"
	"archetyp/core/read/svg"
	"archetyp/core/token/emit"
)

// TestSpecAndCodeAgree holds the values of code against the facts of the same elements, over all that the demo draws.
func TestSpecAndCodeAgree(t *testing.T) {
	t.Parallel()
	names := map[string]string{"background": "fill", "color": "fill", "border-radius": "border-radius", "font-size": "font-size",
		"font-weight": "font-weight", "letter-spacing": "letter-spacing", "opacity": "opacity", "box-shadow": "shadow"}
	checked := 0
	for _, s := range []string{"booking", "timetable", "components"} {
		d, err := svg.Read(s, []byte(read(t, demoFiles(t), "design", s+".svg")), svg.Options{})
		if err != nil {
			t.Fatal(err)
		}
		speller := &ask.Speller{Tokens: emit.NewFinder(nil, nil)}
		for _, e := range d.All() {
			if e.Hidden || e.Kind == design.Group || e.Kind == design.Path {
				continue
			}
			facts := map[string]string{}
			for _, f := range speller.Spec(e).Facts {
				facts[f.Name] += f.Value + " "
			}
			for _, decl := range code.Own([]*design.Element{e}, code.Options{})[0].Declarations {
				name, known := names[decl.Prop]
				if !known || strings.Contains(decl.Value, "gradient(") || decl.Value == "50%" || decl.Value == "16px" || decl.Value == "400" {
					continue
				}
				checked++
				if !strings.Contains(facts[name], decl.Value) && !strings.Contains(facts["clip-path"], "round "+decl.Value) {
					t.Errorf("%s %s: code says %s: %s, spec %q", s, e.Selector(), decl.Prop, decl.Value, facts[name])
				}
			}
		}
	}
	if checked < 200 {
		t.Errorf("only %d values were compared", checked)
	}
}
