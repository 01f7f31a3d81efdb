package e2e

import (
	"strings"
	"testing"
)

// offered is whether labels begin as they are wanted.
func offered(t *testing.T, got []string, want ...string) {
	t.Helper()
	if strings.Join(got, "\n") != strings.Join(want, "\n") {
		t.Errorf("got %q, want %q", got, want)
	}
}

func TestValuesWhileTyping(t *testing.T) {
	dir := demo(t)
	must(t, dir, "focus", "booking", "#pay")
	c := startEditor(t, dir, obj{})
	for _, k := range []string{".pay { border-radius: | }", ".pay { color: | }", ".pay { color: var(| }", ".pay { padding: 13|px }", ".pay { | }", ".pay { background: | }", ".pay { box-shadow: | }", ".pay { font: | }", ".pay{width:|}",
		".pay { font-size: | }", ".pay { line-height: | }", ".a { color: sea| }", ".a { background-image: url(media/quay.|) }"} {
		t.Logf("%s", k)
		for _, it := range c.items("site/css/new.css", k)[:min(6, len(c.items("site/css/new.css", k)))] {
			t.Logf("   %-40s %s", it.Label, it.Detail)
		}
	}
	t.Log(c.hovered("site/css/new.css", ".pay { color: var(--color-te|xt-inverse); background: var(--color-action-default) }"))
	t.Log(c.hovered("site/css/new.css", ".butt|on { color: red }"))
	for _, f := range c.findings("site/css/new.css", ".pay { color: #10243a; padding: 13px; margin: var(--color-sea-610) 16px; background: #0b6e90 }") {
		t.Log(f)
	}
}
