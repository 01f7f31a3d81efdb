package workspace

import (
	"errors"
	"strings"
	"testing"
)

func TestTextConfig(t *testing.T) {
	cfg, err := ParseConfig([]byte(`name: Ferry
text:
  source: en-GB
  locales: [de, pt-BR, en-x-pseudo]
  keys: none
  case: camel
  apart: [component, room]
  fonts: {he: Noto Sans Hebrew, ar: [Amiri, Noto Naskh Arabic]}
  outputs:
    - {as: json, to: "dist/{locale}.json"}
marks:
  - {select: "#a", message: "{n} of {all}", meaning: "seats"}
`), "archetyp.yaml")
	if err != nil {
		t.Fatal(err)
	}
	c := cfg.Text
	if c.Source != "en-GB" || len(c.Locales) != 3 || c.Keys != "none" || c.Case != "camel" || len(c.Apart) != 2 ||
		c.Fonts["he"][0] != "Noto Sans Hebrew" || len(c.Fonts["ar"]) != 2 || c.Outputs[0].To != "dist/{locale}.json" {
		t.Errorf("%+v", c)
	}
	if m := cfg.SelectedMarks()[0].Marks; m.Message != "{n} of {all}" || m.Meaning != "seats" {
		t.Errorf("%+v", m)
	}
}

func TestTextConfigRefused(t *testing.T) {
	for _, c := range []struct{ text, want string }{
		{"text: {keys: fixed}", "archetyp.yaml:1:14: text.keys: the key pattern"},
		{"text: {keys: '{nonsense}'}", "{nonsense}"},
		{"text: {case: shouting}", `text.case: "shouting" is not known`},
		{"text: {apart: [colour]}", `text.apart: "colour"`},
		{"text: {locales: [not/one]}", `"not/one" is no locale`},
		{"text: {source: keys}", "is no locale"},
		{"text: {outputs: [{as: xliff, to: a}]}", "is no form for code"},
		{"text: {outputs: [{as: json, to: ../a}]}", "no place inside the workspace"},
		{"text: {outputs: [{as: json, too: a}]}", `the key "too" is not known under text.outputs`},
		{"text: {locale: [de]}", `the key "locale" is not known under text`},
	} {
		_, err := ParseConfig([]byte(c.text), "archetyp.yaml")
		var fe *FileError
		if !errors.As(err, &fe) || !strings.Contains(err.Error(), c.want) || fe.Line == 0 {
			t.Errorf("%s: %v, want %s", c.text, err, c.want)
		}
	}
}

func bare(t testing.TB, dir string) *Workspace {
	t.Helper()
	w, err := Bare(dir)
	if err != nil {
		t.Fatal(err)
	}
	return w
}

func TestTheCacheIsAHelpOnly(t *testing.T) {
	ws := bare(t, t.TempDir())
	if _, ok := ws.Cached("x.json"); ok {
		t.Error("something is cached already")
	}
	ws.Cache("x.json", []byte("1"))
	if data, ok := ws.Cached("x.json"); !ok || string(data) != "1" {
		t.Errorf("%q", data)
	}
	if data, ok := ws.Cached(".gitignore"); !ok || string(data) != "*\n" {
		t.Error("git is not told to pass over it")
	}
	bare(t, "/proc").Cache("x.json", []byte("1")) // says nothing
}
