package quoting

import (
	"encoding/json"
	"fmt"
	"strconv"
	"testing"
)

func TestQuote(t *testing.T) {
	octal := func(rest string) (string, int) {
		if c := rest[0]; c < 0x20 || c >= 0x80 {
			return fmt.Sprintf(`\%03o`, c), 1
		}
		return "", 0
	}
	none := func(string) (string, int) { return "", 0 }
	for _, c := range []struct {
		in, want string
		rare     func(string) (string, int)
	}{
		{"", `""`, none},
		{`the "quay" \ pier`, `"the \"quay\" \\ pier"`, none},
		{"Ähre\xff", "\"Ähre\uFFFD\"", none},
		{"a\nb", `"a\012b"`, octal},
		{"\xff\"", `"\377\""`, octal},
	} {
		if got := Quote(c.in, c.rare); got != c.want {
			t.Errorf("%q: %s, want %s", c.in, got, c.want)
		}
	}
}

func FuzzAppendJSON(f *testing.F) {
	f.Add("a \"b\"\n\xff")
	f.Fuzz(func(t *testing.T, s string) {
		var got string
		if err := json.Unmarshal(AppendJSON(nil, s), &got); err != nil {
			t.Errorf("%s: %v", strconv.Quote(s), err)
		}
	})
}
