package token

import (
	"errors"
	"sort"
	"strings"
	"testing"
)

// tides is a library of two modifiers whose contexts meet in one token.
func tides(t testing.TB) *Library {
	t.Helper()
	files := map[string]string{
		"base.json": `{"color": {"$type": "color", "sea": {"$value": {"colorSpace": "srgb", "components": [0, 0, 1]}}, "link": {"$value": "{color.sea}"}, "sand": {"$value": {"colorSpace": "srgb", "components": [1, 1, 0]}}},
			"size": {"$type": "dimension", "m": {"$value": {"value": 16, "unit": "px"}}, "gap": {"$value": "{size.m}"}}, "plain": {"n": {"$type": "number", "$value": 1}}}`,
		"dark.json":    `{"color": {"sea": {"$type": "color", "$value": {"colorSpace": "srgb", "components": [0, 1, 1]}}}, "size": {"m": {"$type": "dimension", "$value": {"value": 17, "unit": "px"}}}}`,
		"compact.json": `{"size": {"m": {"$type": "dimension", "$value": {"value": 12, "unit": "px"}}}, "new": {"$type": "number", "$value": 2}}`,
	}
	lib := ParseResolver([]byte(`{"version": "2025.10", "modifiers": {"scheme": {"contexts": {"light": [], "dark": [{"$ref": "dark.json"}]}, "default": "light"},
		"density": {"contexts": {"cosy": [], "compact": [{"$ref": "compact.json"}]}}},
		"resolutionOrder": [{"type": "set", "name": "b", "sources": [{"$ref": "base.json"}]}, {"$ref": "#/modifiers/scheme"}, {"$ref": "#/modifiers/density"}]}`), "r.json",
		func(p string) ([]byte, error) {
			if s, ok := files[p]; ok {
				return []byte(s), nil
			}
			return nil, errors.New("there is no such file")
		}).Library()
	if err := lib.Err(); err != nil {
		t.Fatal(err)
	}
	return lib
}

func value(s *Set, path string) string {
	t := s.Get(path)
	if t == nil {
		return "(none)"
	}
	return s.Resolve(t).Value.JSON()
}

func TestContextsAreLaidOver(t *testing.T) {
	lib := tides(t)
	var keys []string
	for _, c := range lib.Contexts {
		k := c.Key()
		if c.Default {
			k += "*"
		}
		keys = append(keys, k)
	}
	if got := strings.Join(keys, " "); got != "scheme.light* scheme.dark density.cosy* density.compact" {
		t.Errorf("%s", got)
	}
	for _, c := range []struct {
		in               Input
		sea, link, gap   string
		size, plain, new string
	}{
		{nil, "[0, 0, 1]", "[0, 0, 1]", "16", "16", "1", "(none)"},
		{Input{"scheme": "dark"}, "[0, 1, 1]", "[0, 1, 1]", "17", "17", "1", "(none)"},
		{Input{"density": "compact"}, "[0, 0, 1]", "[0, 0, 1]", "12", "12", "1", "2"},
		{Input{"scheme": "dark", "density": "compact"}, "[0, 1, 1]", "[0, 1, 1]", "12", "12", "1", "2"},
		{Input{"scheme": "light", "density": "cosy"}, "[0, 0, 1]", "[0, 0, 1]", "16", "16", "1", "(none)"},
	} {
		s := lib.Set(c.in)
		for path, want := range map[string]string{"color.sea": c.sea, "color.link": c.link, "size.gap": c.gap,
			"size.m": c.size, "plain.n": c.plain, "new": c.new} {
			if got := value(s, path); !strings.Contains(got, want) {
				t.Errorf("%v: %s is %s, want %s", c.in, path, got, want)
			}
		}
	}
	if lib.Set(Input{"scheme": "dim"}) != nil || lib.Set(Input{"brand": "a"}) != nil {
		t.Error("a choice that there is not gives tokens")
	}
	if c, ok := lib.Context("scheme.dark"); !ok || lib.ContextFile(c) != "dark.json" || lib.File() != "base.json" {
		t.Error("the files are not those they stand in")
	}
}

// TestSharedGroupsAreTheSameTokens holds that a context takes over what it does not change, and that the order of
// tokens is that of the files in every context.
func TestSharedGroupsAreTheSameTokens(t *testing.T) {
	lib := tides(t)
	dark, _ := lib.Context("scheme.dark")
	if dark.Set.Get("plain.n") != lib.Base.Get("plain.n") {
		t.Error("a group that nothing changes is read again")
	}
	var a, b []string
	for _, tok := range lib.Base.Tokens {
		a = append(a, tok.Path)
	}
	for _, tok := range dark.Set.Tokens {
		b = append(b, tok.Path)
	}
	if strings.Join(a, " ") != strings.Join(b, " ") {
		t.Errorf("%v\n%v", a, b)
	}
}

func TestChanged(t *testing.T) {
	lib := tides(t)
	for key, want := range map[string]string{
		"scheme.dark":     "own color.sea size.m; again color.sea color.link size.m size.gap",
		"density.compact": "own new size.m; again size.m size.gap new",
	} {
		c, _ := lib.Context(key)
		ch := lib.Changed(c)
		var own, again []string
		for p := range ch.Own {
			own = append(own, p)
		}
		sort.Strings(own)
		for _, tok := range ch.Tokens {
			again = append(again, tok.Path)
		}
		if got := "own " + strings.Join(own, " ") + "; again " + strings.Join(again, " "); got != want {
			t.Errorf("%s: %s\nwant %s", key, got, want)
		}
		if lib.Changed(c) != ch {
			t.Error("it is worked out twice")
		}
	}
}

// TestRecall holds that what a lock keeps of a library says the same in every combination of contexts.
func TestRecall(t *testing.T) {
	lib := tides(t)
	var base []Remembered
	for _, tok := range lib.Base.Tokens {
		base = append(base, Remember(tok))
	}
	contexts := map[string][]Remembered{}
	for _, c := range lib.Contexts {
		if c.Default {
			continue
		}
		for p := range lib.Changed(c).Own {
			contexts[c.Key()] = append(contexts[c.Key()], Remember(c.Set.Get(p)))
		}
	}
	back := Recall(lib.Modifiers(), base, contexts)
	for _, in := range []Input{nil, {"scheme": "dark"}, {"density": "compact"}, {"scheme": "dark", "density": "compact"}} {
		was, is := lib.Set(in), back.Set(in)
		for _, tok := range was.Tokens {
			if value(was, tok.Path) != value(is, tok.Path) || is.Get(tok.Path).Type != tok.Type {
				t.Errorf("%v: %s was %s, and comes back as %s", in, tok.Path, value(was, tok.Path), value(is, tok.Path))
			}
		}
		if len(was.Tokens) != len(is.Tokens) {
			t.Errorf("%v: %d tokens came back of %d", in, len(is.Tokens), len(was.Tokens))
		}
	}
	if n := len(Recall(nil, []Remembered{{"a", Number, "{", ""}, {"b", Number, `"x"`, ""}}, nil).Base.Tokens); n != 0 {
		t.Errorf("%d broken tokens come back", n)
	}
}

func TestWrittenAgrees(t *testing.T) {
	typography := `{"fontFamily": "Go", "fontSize": {"value": 15, "unit": "px"}, "fontWeight": 400, "letterSpacing": {"value": 0.3, "unit": "px"}, "lineHeight": 1.4667}`
	for _, c := range []struct {
		part, text string
		want       bool
	}{
		{"letterSpacing", "0.02em", true},
		{"letterSpacing", "0.03em", false},
		{"lineHeight", "22px", true},
		{"lineHeight", "24px", false},
		{"lineHeight", "nonsense", false},
		{"fontSize", "15px", false},
	} {
		s := Resolve(Parse([]byte(`{"t": {"$type": "typography", "$value": `+typography+`, "$extensions": {"archetyp": {"written": {"`+c.part+`": "`+c.text+`"}}}}}`), "t.json"))
		if got := WrittenAgrees(s, s.Get("t"), c.part, 16); got != c.want {
			t.Errorf("%s %s: %t", c.part, c.text, got)
		}
	}
}
