package e2e

import (
	"encoding/json"
	"math"
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

func unmarshal(t testing.TB, text string, into any) {
	t.Helper()
	if err := json.Unmarshal([]byte(text), into); err != nil {
		t.Fatal(err)
	}
}

// pxOf is the number at the start of a CSS value.
func pxOf(s string) float64 {
	v, err := strconv.ParseFloat(strings.TrimRight(s, "px%"), 64)
	if err != nil {
		return math.NaN()
	}
	return v
}

func sumOf(list []string) (sum float64) {
	for _, s := range list {
		sum += pxOf(s)
	}
	return sum
}

// sameColour compares our CSS colour, in which the opacity is, with the browser's, which keeps it apart. A gradient or
// pattern of ours stands for a url().
func sameColour(ours, theirs, opacity string) bool {
	if strings.HasPrefix(theirs, "url(") {
		// the kind, where CSS cannot say it
		return strings.Contains(ours, "gradient(") || ours == "linear" || ours == "radial" || ours == "pattern"
	}
	if theirs == "none" {
		return ours == ""
	}
	m := rgbFunction.FindStringSubmatch(theirs)
	if m == nil {
		return false
	}
	alpha := pxOf(opacity)
	if m[4] != "" {
		alpha *= pxOf(m[4])
	}
	var have [4]float64
	if rest, ok := strings.CutPrefix(ours, "rgb("); ok {
		f := strings.FieldsFunc(strings.TrimSuffix(rest, ")"), func(r rune) bool { return r == ' ' || r == '/' })
		for i := range have {
			if have[3] = 1; i < len(f) {
				have[i] = pxOf(f[i])
			}
		}
	} else if strings.HasPrefix(ours, "#") && len(ours) >= 7 {
		have[3] = 1
		for i := 0; 2*i+2 < len(ours); i++ {
			v, _ := strconv.ParseUint(ours[2*i+1:2*i+3], 16, 8)
			if have[i] = float64(v); i == 3 {
				have[3] /= 255
			}
		}
	} else {
		return false
	}
	for i := range 3 {
		if math.Abs(have[i]-pxOf(m[i+1])) > 1.01 {
			return false
		}
	}
	return math.Abs(have[3]-alpha) <= 0.006
}
