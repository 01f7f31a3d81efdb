package safeyaml_test

import (
	"strings"
	"testing"

	"archetyp/core/safeyaml"
)

func TestDecode(t *testing.T) {
	var got struct {
		Name string   `yaml:"name"`
		List []string `yaml:"list"`
	}
	if err := safeyaml.Decode([]byte("name: a # and why\nlist: [x, y]\n"), 1<<10, &got); err != nil || got.Name != "a" || len(got.List) != 2 {
		t.Errorf("%v %+v", err, got)
	}
	if err := safeyaml.Decode(nil, 1<<10, &got); err != nil {
		t.Errorf("an empty file: %v", err)
	}
	for content, want := range map[string]string{
		"name: [":                      "1:7",
		"name: a\ncolour: b":           "2:1",
		"name: {a: b}":                 "1:",
		strings.Repeat("a", 2<<10):     "more than 1 kB",
		strings.Repeat("[", 100):       "too deep",
		strings.Repeat("- ", 100):      "too deep",
		strings.Repeat(" ", 300) + "a": "indented further",
		"a: &a x\nb: [" + strings.Repeat("*a,", 100) + "]": "more aliases",
		"a: b\n---\nc: d": "more than one YAML document",
	} {
		err := safeyaml.Decode([]byte(content), 1<<10, &got)
		if err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%.20q: %v, want %q", content, err, want)
		}
	}
}

func FuzzDecode(f *testing.F) {
	f.Add([]byte("a: {b: [c, 'd', \"e\"]}\n"))
	f.Fuzz(func(_ *testing.T, data []byte) {
		var v any
		_ = safeyaml.Decode(data, 1<<16, &v) // it ends, and does not panic
	})
}
