package e2e

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// change replaces words in a file of a workspace.
func change(t testing.TB, dir, name, old, now string) {
	t.Helper()
	s := read(t, dir, name)
	if !strings.Contains(s, old) {
		t.Fatalf("%s has no %q", name, old)
	}
	write(t, dir, name, strings.ReplaceAll(s, old, now))
}

// A token that changed stays the token of the elements that were drawn with it, and everybody says that they are
// behind.
func TestAnElementKeepsItsTokenWhenTheTokenChanges(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	must(t, dir, "sync")
	if r := must(t, dir, "tokens", "set", "color.action.default", "#0f7d9f"); !strings.Contains(r.err,
		"design/booking.svg in 7 places") || !strings.Contains(r.err, "still drawn with the value before: ") {
		t.Errorf("tokens set says\n%s%s", r.out, r.err)
	}
	behind := "design/booking.svg is behind color.action.default: #0b6e8f shown in 7 places, the token is #0f7d9f"
	all := func() {
		t.Helper()
		says(t, dir, "status", behind)
		says(t, dir, "code booking #pay", "the drawing shows #0b6e8f for --color-action-default",
			"background: var(--color-action-default)")
		says(t, dir, "spec booking #pay", "fill #0b6e8f stated token color.action.default, which is #0f7d9f now")
		says(t, dir, "sample booking 30,776", "#0b6e8f", "color.action.default, which is #0f7d9f now")
		says(t, dir, "tokens where color.action.default", "#pay > rect:nth-child(1) fill")
		says(t, dir, "tokens show color.action.default", "drawings", "design/booking.svg")
	}
	all()
	says(t, dir, "sync", "Drawings and tokens", behind)
	all()
	says(t, dir, "sync", "nothing had changed", behind)
	says(t, dir, "tokens harvest", "#0b6e8f 25 color.sea.600 ≠")
	if page := read(t, dir, "guide/screens/booking.js"); !strings.Contains(page,
		"the drawing shows #0b6e8f for --color-action-default") {
		t.Error("the guide does not say it")
	}
	if r := run(t, dir, "sync", "--check"); r.status != 0 {
		t.Errorf("status %d\n%s%s", r.status, r.out, r.err)
	}
	write(t, dir, "archetyp.yaml", read(t, dir, "archetyp.yaml")+"drawings-behind: error\n")
	must(t, dir, "sync")
	if r := run(t, dir, "sync", "--check"); r.status != 1 || !strings.Contains(r.out, behind) {
		t.Errorf("status %d\n%s%s", r.status, r.out, r.err)
	}
	// The drawings follow.
	for _, f := range []string{"design/boarding-pass.svg", "design/booking.svg", "design/components.svg", "design/timetable.svg", "design/timetable-wide.svg"} {
		s := strings.NewReplacer("#0B6E8F", "#0f7d9f", "#0b6e8f", "#0f7d9f").Replace(read(t, dir, f))
		write(t, dir, f, s)
	}
	if r := must(t, dir, "sync"); strings.Contains(r.out, "booking.svg is behind color.action.default") ||
		strings.Contains(r.out, "components.svg is behind") {
		t.Error(r.out)
	}
	if c := must(t, dir, "code", "booking", "#pay").out; !strings.Contains(c, "background: var(--color-action-default)") ||
		strings.Contains(c, "drawing shows") {
		t.Error(c)
	}
}

// A value that only stands where a token had it before is no new value.
func TestTheValueATokenHadIsNotOfferedAgain(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	must(t, dir, "sync")
	must(t, dir, "tokens", "set", "color.signal.bad", "#b3261e")
	for range 2 {
		says(t, dir, "tokens harvest", "#c2321a 2 ≠ still shown for color.signal.bad")
		before := read(t, dir, "tokens/tern-and-tide.tokens.json")
		must(t, dir, "tokens", "harvest", "--write=color.red*")
		if read(t, dir, "tokens/tern-and-tide.tokens.json") != before {
			t.Fatal("the old value became a token")
		}
		must(t, dir, "sync")
	}
	if r := run(t, dir, "tokens", "check"); strings.Contains(r.out, "color.signal.bad is unused") {
		t.Error(r.out)
	}
}

// A drawing that was recoloured is ahead of its token: that is the news, not a new value.
func TestARecolouredDrawingIsAheadOfItsToken(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	must(t, dir, "sync")
	change(t, dir, "design/components.svg", "#c2321a", "#d13b22")
	says(t, dir, "status",
		"design/components.svg is ahead of color.signal.bad: #d13b22 in 2 of 2 places, the token is #c2321a")
	out := says(t, dir, "sync", "Drawings and tokens", "is ahead of color.signal.bad",
		"and tokens can follow the drawings: archetyp tokens harvest")
	if strings.Contains(out, "6 values could be tokens") {
		t.Error(out)
	}
	says(t, dir, "tokens harvest", "color.signal.bad has changed to this, 2 of 2 places")
	must(t, dir, "tokens", "harvest", "--write=color.signal.*")
	if r := must(t, dir, "sync"); strings.Contains(r.out, "color.signal.bad") {
		t.Error(r.out)
	}
}

// Where sync refuses to write, status does not promise that it will.
func TestStatusKnowsWhatSyncRefuses(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	must(t, dir, "sync")
	css := read(t, dir, "dist/tokens.css")
	write(t, dir, "dist/tokens.css", strings.Replace(strings.Replace(css, "--color-foam: #f5f8fa", "--color-foam: #f4f7f9",
		1), "\n}", "\n  --color-kelp: #123456;\n}", 1))
	if r := must(t, dir, "status"); strings.Contains(r.err, "brings it in step") || !strings.Contains(r.err,
		"will not write over dist/tokens.css") || !strings.Contains(r.err, "tokens absorb dist/tokens.css") {
		t.Error(r.out, r.err)
	}
	if r := run(t, dir, "tokens", "absorb", "dist/tokens.css"); strings.Contains(r.err, "Next:") ||
		!strings.Contains(r.err, "before that is settled") {
		t.Error(r.out, r.err)
	}
}

// After a change that no sync has seen, show and where say the same.
func TestShowAndWhereAgreeAfterAChange(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	must(t, dir, "sync")
	change(t, dir, "design/components.svg", "#c2321a", "#a3270f")
	var shown struct{ Elements map[string]int }
	var where struct{ Elements []any }
	for _, token := range []string{"color.signal.bad", "color.signal.bad-strong"} {
		mustJSON(t, dir, &shown, "tokens", "show", token)
		mustJSON(t, dir, &where, "tokens", "where", token)
		n := 0
		for _, k := range shown.Elements {
			n += k
		}
		if n != len(where.Elements) {
			t.Errorf("%s: show says %d, where %d", token, n, len(where.Elements))
		}
		shown.Elements = nil
	}
}

// The size of 1rem counts wherever a length is compared or shown.
func TestRootIsTheWorkspaces(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write(t, dir, "archetyp.yaml",
		"root: 10px\nsources: ['*.svg']\nscales: {space: 0.8rem, type: [1.4rem, 1.6rem]}\noutputs:\n  - {as: css, to: "+
			"a.css, prefix: one, only: [color]}\n  - {as: css, to: b.css, prefix: two}\n")
	write(t, dir, "tokens/x.tokens.json", `{"space": {"$type": "dimension", "wide": {"$value": {"value": 2, "unit": "rem"}}, "odd": {"$value": {"value": 1.6, "unit": "rem"}}},
		"radius": {"$type": "dimension", "m": {"$value": {"value": 0.8, "unit": "rem"}}}, "color": {"$type": "color", "sea": {"$value": {"colorSpace": "srgb", "components": [0, 0, 1]}}},
		"shadow": {"$type": "shadow", "low": {"$value": {"color": "{color.sea}", "offsetX": {"value": 0, "unit": "px"}, "offsetY": {"value": 0.2, "unit": "rem"}, "blur": {"value": 0.4, "unit": "rem"}, "spread": {"value": 0, "unit": "px"}}}},
		"type": {"body": {"$type": "typography", "$value": {"fontFamily": "Quay", "fontSize": {"value": 1.6, "unit": "rem"}, "fontWeight": 400, "letterSpacing": {"value": 0, "unit": "px"}, "lineHeight": 1.5}}}}`)
	write(t, dir, "pier.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="200"><g id="row"><rect width="200" height="60" rx="8" fill="#0000ff"/><rect x="20" y="20" width="20" height="20"/><rect x="60" y="20" width="20" height="20"/></g>
		<text id="t" y="100" font-family="Quay" font-size="16">Pier</text></svg>`)
	must(t, dir, "sync")
	says(t, dir, "code pier.svg #row", "gap: var(--two-space-wide)", "border-radius: var(--two-radius-m)",
		"background: var(--one-color-sea)")
	says(t, dir, "code pier.svg #t", "font: var(--two-type-body)")
	says(t, dir, "tokens show space.wide", "--two-space-wide")
	says(t, dir, "tokens show color.sea", "--one-color-sea")
	says(t, dir, "tokens harvest", "16px", "type.body", "20px", "off the scale, nearest is 24px", "8px", "radius.m")
	says(t, dir, "tokens check", "20px is off the scale", "the nearest step is 24px")
	page := guideText(t, dir)
	for _, want := range []string{"width: var(--two-space-wide, 20px)", "border-radius: var(--two-radius-m, 8px)",
		"var(--two-type-body, 400 16px/1.5 Quay)", "var(--two-shadow-low, 0 2px 4px", "--two-space-wide", "--one-color-sea"} {
		if !strings.Contains(page, want) {
			t.Errorf("the guide has no %q", want)
		}
	}
	if strings.Contains(page, "width: 32px") {
		t.Error("2rem is drawn as 32 px")
	}
}

// Radial gradients keep their shape, size and centre, from the drawing to CSS, the guide and back.
func TestRadialGradientTokensKeepTheirShape(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	write(t, dir, "archetyp.yaml", "sources: ['*.svg']\noutputs:\n  - {as: css, to: a.css}\n")
	stops := `<stop stop-color="#ffd98a"/><stop offset="1" stop-color="#f2a541"/>`
	write(t, dir, "sun.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="300"><defs><radialGradient id="a">`+stops+`</radialGradient>
		<radialGradient id="b" cx=".25" cy="0" r=".5">`+stops+`</radialGradient><radialGradient id="c" gradientUnits="userSpaceOnUse" cx="0" cy="0" r="1" gradientTransform="translate(50 200) scale(100 40)">`+stops+`</radialGradient></defs>
		<rect id="low" width="200" height="50" fill="url(#a)"/><rect id="corner" y="100" width="200" height="50" fill="url(#b)"/><rect id="wide" y="200" width="200" height="50" fill="url(#c)"/></svg>`)
	must(t, dir, "tokens", "harvest", "--write=gradient.*")
	must(t, dir, "sync")
	css, page := read(t, dir, "a.css"), guideText(t, dir)
	for name, shape := range map[string]string{"low": "closest-side", "corner": "50% 50% at 25% 0%",
		"wide": "100px 40px at 50px 0"} {
		want := "radial-gradient(" + shape + ", #ffd98a 0%, #f2a541 100%)"
		if !strings.Contains(css, "--gradient-"+name+": "+want) || !strings.Contains(page, "background: var(--gradient-"+name+", "+want) {
			t.Errorf("%s: no %s in\n%s", name, want, css)
		}
		says(t, dir, "spec sun.svg #"+name, "fill "+want, "token gradient."+name)
		says(t, dir, "code sun.svg #"+name, "background: var(--gradient-"+name+")")
	}
	write(t, dir, "a.css", strings.Replace(css, "100px 40px at 50px 0", "120px 40px at 50px 0", 1))
	must(t, dir, "tokens", "absorb", "a.css")
	must(t, dir, "sync")
	if got := read(t, dir, "a.css"); !strings.Contains(got, "radial-gradient(120px 40px at 50px 0,") {
		t.Error(got)
	}
	if entries, err := os.ReadDir(filepath.Join(dir, "tokens")); err != nil || len(entries) != 1 {
		t.Error(entries, err)
	}
}

// A token's uses are those of its kind: text on dark grounds is no white box.
func TestUsesAreOfTheTokensKind(t *testing.T) {
	t.Parallel()
	dir := workspaceDemo(t)
	must(t, dir, "sync")
	var inverse, white, raised struct {
		Elements []struct{ Property string }
	}
	mustJSON(t, dir, &inverse, "tokens", "where", "color.text.inverse")
	mustJSON(t, dir, &raised, "tokens", "where", "color.surface.raised")
	mustJSON(t, dir, &white, "tokens", "where", "color.white")
	for _, c := range []struct {
		uses []struct{ Property string }
		want string
	}{{inverse.Elements, "text"}, {raised.Elements, "fill"}} {
		for _, u := range c.uses {
			if u.Property != c.want {
				t.Errorf("a %s among those of %s", u.Property, c.want)
			}
		}
	}
	if n := len(inverse.Elements) + len(raised.Elements); n == 0 || n >= len(white.Elements) {
		t.Errorf("%d + %d of %d", len(inverse.Elements), len(raised.Elements), len(white.Elements))
	}
}
