package cli

import (
	"bytes"
	"encoding/json"
	"testing"
)

func TestPrintJSONIsIndentedLikeTheStandardLibrary(t *testing.T) {
	v := map[string]any{"a": []any{}, "b": map[string]any{}, "c": []any{1.5, "q\"\\", nil, true,
		map[string]any{"d": []int{1, 2}}}, "e<": "{[,:]}"}
	var got, want bytes.Buffer
	if err := (&app{out: &got}).printJSON(v); err != nil {
		t.Fatal(err)
	}
	enc := json.NewEncoder(&want)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	if err := enc.Encode(v); err != nil {
		t.Fatal(err)
	}
	if got.String() != want.String() {
		t.Errorf("got\n%s\nwanted\n%s", got.String(), want.String())
	}
}
