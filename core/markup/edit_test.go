package markup

import "testing"

// TestTagAt finds the parts of start tags, as XML and as HTML have them.
func TestTagAt(t *testing.T) {
	for _, c := range []struct{ in, set, out, gone string }{
		{`<a/>`, "1", `<a x="1"/>`, ""},
		{`<a >`, "1", `<a x="1" >`, ""},
		{`<a x="0" y='2'>`, "1", `<a x="1" y='2'>`, `<a y='2'>`},
		{`<a y='2' x = '0'/>`, `it's`, `<a y='2' x = 'it&#39;s'/>`, `<a y='2'/>`},
		{`<a x=0 y>`, "a b", `<a x="a b" y>`, `<a y>`},
		{`<a x y=1>`, "1", `<a x="1" y=1>`, `<a y=1>`},
		{"<a\n  y=\">\"\n/>", "<", "<a\n  y=\">\" x=\"&lt;\"\n/>", ""},
		{`<a href=b/>`, "1", `<a href=b/ x="1">`, ""},
	} {
		e, ok := SetAttrEdit([]byte(c.in), 0, "x", c.set)
		out, err := Rewrite([]byte(c.in), []Edit{e})
		if !ok || err != nil || string(out) != c.out {
			t.Errorf("%s: %s, not %s (%v)", c.in, out, c.out, err)
		}
		e, ok = RemoveAttrEdit([]byte(c.in), 0, "x")
		if ok != (c.gone != "") {
			t.Errorf("%s: %v", c.in, ok)
		}
		if out, _ := Rewrite([]byte(c.in), []Edit{e}); ok && string(out) != c.gone {
			t.Errorf("%s: %s, not %s", c.in, out, c.gone)
		}
	}
	for _, s := range []string{"", "a", "<", "<>", "<a", `<a x="`, `<a x=`} {
		if _, ok := TagAt([]byte(s), 0); ok {
			t.Errorf("%q is no tag", s)
		}
	}
}

// TestRewrite makes edits in any order, and none in another.
func TestRewrite(t *testing.T) {
	out, err := Rewrite([]byte("abcdef"), []Edit{{From: 4, To: 6, With: "E"}, {From: 0, To: 1, With: "AA"}, {From: 2, To: 2, With: "-"}, {From: 2, To: 2, With: "+"}})
	if string(out) != "AAb-+cdE" || err != nil {
		t.Errorf("%s %v", out, err)
	}
	for _, edits := range [][]Edit{{{From: 0, To: 3}, {From: 2, To: 4}}, {{From: 3, To: 2}}, {{From: 5, To: 7}}} {
		if _, err := Rewrite([]byte("abcdef"), edits); err == nil {
			t.Errorf("%v", edits)
		}
	}
}

// FuzzTagAt stays in the file, whatever is in it.
func FuzzTagAt(f *testing.F) {
	f.Add([]byte(`<a b="c" d='e' f=g h / i>`))
	f.Fuzz(func(t *testing.T, data []byte) {
		tag, ok := TagAt(data, 0)
		if !ok {
			return
		}
		at := tag.Name.To
		for _, a := range tag.Attrs {
			if a.Whole.From < at || a.Whole.To > len(data) || a.Value.From < a.Whole.From || a.Value.To > a.Whole.To || a.Value.From > a.Value.To {
				t.Fatalf("%+v", tag)
			}
			at = a.Whole.To
		}
		if tag.End < at || tag.End >= len(data) {
			t.Fatalf("%+v", tag)
		}
	})
}
