package job

import (
	"fmt"
	"math/rand"
	"os"
	"strconv"
	"strings"
	"testing"

	"archetyp/workspace"
)

// applyWorkspace is a workspace of two small drawings that write their values in every way.
func applyWorkspace(t *testing.T) *workspace.Workspace {
	t.Helper()
	dir := t.TempDir()
	put(t, dir, "archetyp.yaml", "name: W\nsources: [design/*.svg]\nmarks:\n  - {select: \"#pay\", component: button, label: \"Pay & go\"}\n  - {select: text, meaning: a word}\n")
	put(t, dir, "tokens/a.tokens.json", `{"color": {"$type": "color", "sea": {"$value": {"colorSpace": "srgb", "components": [0.0431373, 0.4313725, 0.5607843], "hex": "#0b6e8f"}}, "ink": {"$value": {"colorSpace": "srgb", "components": [0.0627451, 0.1411765, 0.227451], "hex": "#10243a"}}},
  "radius": {"$type": "dimension", "m": {"$value": {"value": 12, "unit": "px"}}}}`)
	put(t, dir, "design/a.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="200" data-screen="A">
<style>.sea { fill: #0b6e8f } .line { stroke: #10243a; fill: none }</style>
<defs><linearGradient id="g"><stop stop-color="#0B6E8F"/><stop offset="1" stop-color="white"/></linearGradient><g id="boat"><path d="M0 0h9v9z" fill="#0b6e8f"/></g></defs>
<rect class="sea" width="90" height="40" rx="12"/><rect id="pay" x="100" width="90" height="40" rx="12" fill="rgb(11, 110, 143)"/>
<rect class="line" y="50" width="90" height="40"/><rect y="100" width="90" height="40" fill="url(#g)"/><use href="#boat" x="100" y="100"/>
<text id="word" x="100" y="70" font-size="14" fill="#10243a">Pier &amp; quay</text></svg>`)
	put(t, dir, "design/b.svg", `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="200" data-screen="B"><g fill="#0b6e8f"><rect width="90" height="40" rx="12"/><circle cx="20" cy="80" r="9"/></g><text x="100" y="70" font-size="14" style="fill:#10243a">Pier &amp; quay</text></svg>`)
	ws := open(t, dir)
	if _, err := Run(t.Context(), ws, Options{}); err != nil {
		t.Fatal(err)
	}
	return ws
}

func drawings(t *testing.T, ws *workspace.Workspace) string {
	t.Helper()
	a, err := ws.ReadFile("design/a.svg")
	b, other := ws.ReadFile("design/b.svg")
	if err != nil || other != nil {
		t.Fatal(err, other)
	}
	return string(a) + string(b)
}

func applied(t *testing.T, ws *workspace.Workspace, f func(*Applying) error) *Applying {
	t.Helper()
	a, err := BeginApplying(ws)
	if err == nil {
		err = f(a)
	}
	if err == nil {
		a.Finish()
		err = a.Write()
	}
	if err != nil {
		t.Fatal(err)
	}
	return a
}

// TestTokensAreApplied gives both drawings the new colour, in the notations that stand there.
func TestTokensAreApplied(t *testing.T) {
	ws := applyWorkspace(t)
	if _, err := SetToken(ws, SetRequest{Token: "color.sea", Value: "#0a6a8a"}); err != nil {
		t.Fatal(err)
	}
	a := applied(t, ws, func(a *Applying) error { return a.Tokens(t.Context(), "") })
	got := drawings(t, ws)
	for _, want := range []string{".sea { fill: #0a6a8a }", `stop-color="#0A6A8A"`, `fill="rgb(10, 106, 138)"`, `<path d="M0 0h9v9z" fill="#0a6a8a"/>`, `<g fill="#0a6a8a">`} {
		if !strings.Contains(got, want) {
			t.Errorf("%s is missing", want)
		}
	}
	if len(a.Refused) > 0 || len(a.Drawings) != 2 || len(a.Drawings[0].Lines) != 3 {
		t.Errorf("%+v %+v", a.Refused, a.Drawings)
	}
}

// TestADrawingThatChangesIsLeftAlone writes nothing where a drawing is other than it was read.
func TestADrawingThatChangesIsLeftAlone(t *testing.T) {
	ws := applyWorkspace(t)
	if _, err := SetToken(ws, SetRequest{Token: "color.sea", Value: "#0a6a8a"}); err != nil {
		t.Fatal(err)
	}
	a, err := BeginApplying(ws)
	if err != nil {
		t.Fatal(err)
	}
	if err := a.Tokens(t.Context(), ""); err != nil {
		t.Fatal(err)
	}
	put(t, ws.Dir, "design/b.svg", "<svg/>")
	if err := a.Write(); err == nil || !strings.Contains(err.Error(), "b.svg changed") {
		t.Error(err)
	}
	if got := drawings(t, ws); strings.Contains(got, "0a6a8a") {
		t.Error(got)
	}
}

// TestSequencesOfChanges makes random changes one after the other and takes them back: nothing is lost on the way.
func TestSequencesOfChanges(t *testing.T) {
	t.Parallel()
	rounds := 60
	if n, err := strconv.Atoi(os.Getenv("ARCHETYP_SEQUENCES")); err == nil {
		rounds = n
	} else if testing.Short() {
		rounds = 6
	}
	for seed := range rounds {
		r := rand.New(rand.NewSource(int64(seed)))
		ws := applyWorkspace(t)
		states := []string{drawings(t, ws)}
		for range 6 {
			var err error
			switch r.Intn(4) {
			case 0:
				_, err = SetToken(ws, SetRequest{Token: []string{"color.sea", "color.ink"}[r.Intn(2)], Value: fmt.Sprintf("#%06x", r.Intn(1<<24))})
			case 1:
				_, err = SetToken(ws, SetRequest{Token: "radius.m", Value: fmt.Sprintf("%dpx", 2+r.Intn(18))})
			}
			if err != nil {
				t.Fatal(err)
			}
			switch r.Intn(3) {
			case 0:
				applied(t, ws, func(a *Applying) error { return a.Marks(t.Context(), "") })
			case 1:
				applied(t, ws, func(a *Applying) error {
					c, err := a.catalogue(t.Context())
					if err != nil {
						return err
					}
					return a.Word(t.Context(), c.Used()[0].Key, fmt.Sprintf("Tide & no. %d", r.Intn(100)))
				})
			default:
				applied(t, ws, func(a *Applying) error { return a.Tokens(t.Context(), "") })
			}
			if now := drawings(t, ws); now != states[len(states)-1] {
				states = append(states, now)
			}
			if _, err := Run(t.Context(), ws, Options{}); err != nil {
				t.Fatal(err)
			}
		}
		for i := len(states) - 2; i >= 0; i-- {
			if _, err := UndoApplied(ws); err != nil {
				t.Fatalf("seed %d: %v", seed, err)
			}
			if drawings(t, ws) != states[i] {
				t.Fatalf("seed %d: step %d is not what it was", seed, i)
			}
		}
		if _, err := UndoApplied(ws); err == nil {
			t.Fatalf("seed %d: there was more to undo", seed)
		}
	}
}
