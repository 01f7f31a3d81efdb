package workspace

import (
	"strings"
	"testing"
)

// TestAddMarks writes marks into configurations as people lay them out, and takes them out again.
func TestAddMarks(t *testing.T) {
	edit := []MarkEdit{{Select: "#a", Marks: [][2]string{{"asset", "icons/{name}"}, {"label", `Say "a"`}}}}
	for _, c := range []struct{ name, in, out string }{
		{"no list", "name: W\n", "name: W\nmarks:\n  - {select: \"#a\", asset: \"icons/{name}\", label: \"Say \\\"a\\\"\"}\n"},
		{"no line end", "name: W", "name: W\nmarks:\n  - {select: \"#a\", asset: \"icons/{name}\", label: \"Say \\\"a\\\"\"}\n"},
		{"an empty list", "name: W\nmarks:\nguide: {to: g}\n", "name: W\nmarks:\n  - {select: \"#a\", asset: \"icons/{name}\", label: \"Say \\\"a\\\"\"}\nguide: {to: g}\n"},
		{"behind others", "marks:\n    - {select: b, role: button} # kept\n\n# of the guide\nguide: {to: g}\n",
			"marks:\n    - {select: b, role: button} # kept\n    - {select: \"#a\", asset: \"icons/{name}\", label: \"Say \\\"a\\\"\"}\n\n# of the guide\nguide: {to: g}\n"},
		{"beside its own", "marks:\n  - {select: \"#a\", role: button, asset: old}\n  - {select: b, role: link}\n",
			"marks:\n  - {select: \"#a\", role: \"button\", asset: \"icons/{name}\", label: \"Say \\\"a\\\"\"}\n  - {select: b, role: link}\n"},
		{"behind several lines", "marks:\n- select: \"#a\"\n  role: button\nname: W\n", "marks:\n- select: \"#a\"\n  role: button\n- {select: \"#a\", asset: \"icons/{name}\", label: \"Say \\\"a\\\"\"}\nname: W\n"},
		{"line ends of Windows", "name: W\r\nmarks:\r\n  - {select: b, role: link}\r\n", "name: W\r\nmarks:\r\n  - {select: b, role: link}\r\n  - {select: \"#a\", asset: \"icons/{name}\", label: \"Say \\\"a\\\"\"}\r\n"},
	} {
		out, err := AddMarks([]byte(c.in), edit)
		if err != nil || string(out) != c.out {
			t.Errorf("%s: %q %v\nwant %q", c.name, out, err, c.out)
			continue
		}
		back, n, err := RemoveMarks(out, []MarkEdit{{Select: "#a", Marks: [][2]string{{"asset"}, {"label"}}}})
		if strings.Contains(c.in, "select: \"#a\"\n") {
			if err == nil {
				t.Errorf("%s: several lines were edited", c.name)
			}
			continue
		}
		if err != nil || n != 2 || strings.Contains(string(back), "icons/") {
			t.Errorf("%s: %q %d %v", c.name, back, n, err)
		}
	}
	for in, want := range map[string]string{"marks: [{select: b, role: link}]\n": "no list of lines", "marks: {}\n": "", "name: [\n": ""} {
		if _, err := AddMarks([]byte(in), edit); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v", in, err)
		}
	}
	if _, err := AddMarks([]byte("name: W\n"), []MarkEdit{{Select: "##", Marks: [][2]string{{"asset", "a"}}}}); err == nil {
		t.Error("a selector that is none")
	}
}
