package workspace

import (
	"strings"
	"testing"
)

// TestSites reads what a configuration says of live sites.
func TestSites(t *testing.T) {
	cfg, err := ParseConfig([]byte(`sites:
  - {name: ferry, url: "https://ferry.example/", viewports: [390x844, 1280X800], schemes: [dark], follow: 20, hosts: [cdn.ferry.example], steps: [{click: "#menu"}, {wait: 300ms}, {wait: .ready}]}
  - {name: plain, url: "http://127.0.0.1:8085/"}
`), "archetyp.yaml")
	if err != nil {
		t.Fatal(err)
	}
	s := cfg.Sites[0]
	if w := s.Windows(); len(w) != 2 || w[0].String() != "390x844" || w[1] != (Viewport{1280, 800}) {
		t.Errorf("%v", w)
	}
	if d := s.Dark(); len(d) != 1 || !d[0] {
		t.Errorf("%v", d)
	}
	if w, d := cfg.Sites[1].Windows(), cfg.Sites[1].Dark(); len(w) != 1 || w[0] != (Viewport{1280, 800}) || len(d) != 2 || d[0] || !d[1] {
		t.Errorf("%v %v", w, d)
	}
}

// TestWrongSites holds what is said of sites that cannot be read.
func TestWrongSites(t *testing.T) {
	for text, want := range map[string]string{
		`{name: "a b", url: "http://x/"}`:                               "is no name",
		`{name: a, url: "ftp://x/"}`:                                    "begins with http:// or https://",
		`{name: a, url: "x"}`:                                           "is no address",
		`{name: a, url: "http://x/"}, {name: a, url: "http://y/"}`:      "there twice",
		`{name: a, url: "http://x/", follow: -1}`:                       "a number of pages",
		`{name: a, url: "http://x/", viewports: [wide]}`:                "no viewport",
		`{name: a, url: "http://x/", viewports: [1e9x3]}`:               "no viewport",
		`{name: a, url: "http://x/", schemes: [sepia]}`:                 "light and dark",
		`{name: a, url: "http://x/", headers: {"a b": c}}`:              "no header",
		`{name: a, url: "http://x/", steps: [{click: "#a", wait: 1s}]}`: "either click or wait",
		`{name: a, url: "http://x/", steps: [{click: ">>"}]}`:           "sites: a",
		`{name: a, url: "http://x/", steps: [{wait: ">>"}]}`:            "sites: a",
	} {
		_, err := ParseConfig([]byte("sites: ["+text+"]\n"), "archetyp.yaml")
		if err == nil || !strings.Contains(err.Error(), want) || !strings.Contains(err.Error(), "archetyp.yaml") {
			t.Errorf("%s: %v", text, err)
		}
	}
}

// TestSecrets takes headers and the password from the environment, and says which name is missing.
func TestSecrets(t *testing.T) {
	t.Setenv("FERRY_KEY", "k3y")
	t.Setenv("FERRY_LOGIN", "ada:boat")
	got, err := Site{Name: "a", Headers: map[string]string{"X-Key": "env:FERRY_KEY", "X-Plain": "yes"}, Auth: "env:FERRY_LOGIN"}.Secrets()
	if err != nil || got["X-Key"] != "k3y" || got["X-Plain"] != "yes" || got["Authorization"] != "Basic YWRhOmJvYXQ=" {
		t.Errorf("%v %v", got, err)
	}
	for _, s := range []Site{{Name: "a", Headers: map[string]string{"X-Key": "env:FERRY_NOT_SET"}}, {Name: "a", Auth: "env:FERRY_NOT_SET"}} {
		if _, err := s.Secrets(); err == nil || !strings.Contains(err.Error(), "FERRY_NOT_SET") {
			t.Errorf("%v", err)
		}
	}
}
