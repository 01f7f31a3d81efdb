package e2e

import (
	"encoding/json"
	"regexp"
	"strconv"
	"strings"
	"testing"
)

func jsonText(t testing.TB, v any) string {
	t.Helper()
	data, err := json.Marshal(v)
	if err != nil {
		t.Fatal(err)
	}
	return string(data)
}

func count(list []string, s string) int {
	n := 0
	for _, l := range list {
		if l == s {
			n++
		}
	}
	return n
}

var rgbFunction = regexp.MustCompile(`^rgba?\(([0-9.]+), ([0-9.]+), ([0-9.]+)(?:, ([0-9.]+))?\)$`)

// sameFill compares our CSS value with the browser's computed one. Opacity, which the browser keeps apart, is left
// out; a gradient of ours stands for its url().
func sameFill(ours, theirs string) bool {
	if theirs == "none" {
		return ours == ""
	}
	if strings.HasPrefix(theirs, "url(") {
		return strings.Contains(ours, "gradient(")
	}
	m := rgbFunction.FindStringSubmatch(theirs)
	if m == nil {
		return false
	}
	want := ""
	for _, v := range m[1:4] {
		n, _ := strconv.Atoi(v)
		want += string("0123456789abcdef"[n>>4]) + string("0123456789abcdef"[n&15])
	}
	if rest, ok := strings.CutPrefix(ours, "rgb("); ok { // translucent
		f := strings.Fields(strings.TrimSuffix(rest, ")"))
		return len(f) >= 3 && f[0] == m[1] && f[1] == m[2] && f[2] == m[3]
	}
	return len(ours) >= 7 && ours[1:7] == want
}
