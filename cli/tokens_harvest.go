package cli

import (
	"fmt"
	"path"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/token/harvest"
	"archetyp/job"

	"github.com/spf13/cobra"
)

func (a *app) harvestCmd() *cobra.Command {
	write, ask, as := "", false, ""
	c := &cobra.Command{
		Use:   "harvest [SOURCE]",
		Short: "List the values of drawings with their uses, and the tokens they are or could be",
		Long: long(`List the values found in drawings (colours, type styles, spacing, radii, shadows, gradients)
with their uses, the token each one is or the name proposed for it, near-duplicates and numbers off the scale.
--write accepts the proposals, or with a pattern (--write='color.*') those it matches, into the token files;
--ask asks for each. A value that changed in the drawings since the last sync is offered as the change of its
token; one style in two widths of a screen as the wide form of its token. Of a style sheet, a page or a site:
custom properties with their value in every context, then all declared values with their counts and places,
which of them are variables or tokens already, and which are written out.`),
		Example: example("archetyp tokens harvest", "archetyp tokens harvest --write='color.*'", "archetyp tokens harvest site/css/site.css",
			"archetyp tokens harvest http://127.0.0.1:8085/"),
		Args: between(0, 1, "a SOURCE at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			if as != "" && as != "css" {
				return hint.New("--as "+as+": css is known", "It writes the custom properties of style sheets again, in their contexts.")
			}
			if len(args) == 1 && write == "" && !ask {
				switch c, ok, err := a.codeHarvest(args[0]); {
				case err != nil:
					return err
				case ok && as == "css":
					a.print("%s\n", block(strings.TrimSuffix(c.CSS(), "\n")))
					return nil
				case ok:
					return a.printCodeHarvest(c)
				}
			}
			if as != "" {
				return hint.New("--as css is for a style sheet, a page or a site", "For example: archetyp tokens harvest site/css/site.css --as css")
			}
			a.writes(write != "") // --ask lets others write while it waits
			r, ws, err := a.reading(args)
			if err != nil {
				return err
			}
			if write == "" && !ask {
				return a.printHarvest(r.Harvest)
			}
			if ws == nil {
				return hint.New("--write: there is no workspace here to write tokens into", "\"archetyp init\" begins one.")
			}
			if _, err := path.Match(write, ""); err != nil {
				return fmt.Errorf("--write %q is no pattern", write)
			}
			accept := func(p string) bool {
				ok, _ := path.Match(write, p)
				return ok
			}
			if ask {
				ws.LetGo()
				if accept, err = a.askFor(r.Harvest); err != nil {
					return err
				}
			}
			written, err := job.Accept(ws, r, accept, nil)
			if err != nil {
				return err
			}
			return a.printAccepted(r, written, write)
		},
	}
	c.Flags().StringVar(&write, "write", "", "accept the proposals (whose path matches `GLOB`) into the token file")
	c.Flags().Lookup("write").NoOptDefVal = "*"
	a.view.add(c)
	c.Flags().StringVar(&as, "as", "", "of style sheets: write custom properties again as `FORM`: css")
	c.Flags().BoolVar(&ask, "ask", false, "ask for each proposal, on a terminal")
	return c
}

// askFor asks for each proposal; the answers hold for the tokens that it is built on, too.
func (a *app) askFor(h *harvest.Harvest) (func(path string) bool, error) {
	ask := a.asker()
	if ask == nil {
		return nil, hint.New("--ask: there is nobody to ask, this is no terminal",
			"--write accepts all proposals, --write='color.*' some.")
	}
	yes := map[string]bool{}
	for _, f := range h.Found {
		switch {
		case f.Changes != "":
			yes[f.Changes] = ask(fmt.Sprintf("%s is %s now (%s). Change it?", f.Changes, f.Text, firstUse(f.Uses)))
		case f.Wide() != "":
			yes[f.Wide()] = ask(fmt.Sprintf("%s is %s on wide screens. Add that?", f.Wide(), f.Text))
		case f.Proposed != "":
			yes[f.Proposed] = ask(fmt.Sprintf("%s, %s: %s. Make it the token %s?", f.Text, plural(len(f.Uses), "use", "uses"),
				firstUse(f.Uses), f.Proposed))
		}
	}
	for _, t := range h.Aliases {
		if yes[t.Value.Alias] {
			yes[t.Path] = ask(fmt.Sprintf("%s for %s?", t.Path, t.Value.Alias))
		}
	}
	return func(p string) bool { return yes[p] }, nil
}

// printAccepted says exactly what was written.
func (a *app) printAccepted(r *job.Snapshot, written []job.Accepted, pattern string) error {
	if a.json {
		return a.printJSON(map[string]any{"written": written})
	}
	t := a.term
	for _, w := range written {
		where := w.File
		if w.Context != "" {
			where += ", " + w.Context
		}
		if w.Kind == "added" {
			a.print("%s %s  %s%s  %s\n", t.good("+"), w.Token, t.swatchOf(w.New), clip(w.New, 60), t.dim(where))
		} else {
			a.print("%s %s  %s%s → %s%s  %s\n", t.accent("~"), w.Token, t.swatchOf(w.Old), clip(w.Old, 40), t.swatchOf(w.New),
				clip(w.New, 40), t.dim(where))
		}
	}
	for _, f := range r.Harvest.Found {
		if f.Wide() != "" && job.WideContext(r.Tokens) == "" {
			a.say("%s the wide form of %s needs a resolver with a modifier \"width\" of two contexts; docs/workspace.md "+
				"shows one\n", newTerm(a.err, a.color).warn("left"), f.Wide())
		}
	}
	if len(written) == 0 {
		none := "no proposal to write"
		if pattern != "*" && pattern != "" {
			none += " matches " + pattern
		}
		a.say("%s\n", none)
	} else {
		a.say("%s written. Next: %s\n", plural(len(written), "token", "tokens"), a.term.accent("archetyp sync"))
	}
	return nil
}

type foundJSON struct {
	Kind     string        `json:"kind"`
	Value    string        `json:"value"`
	Token    string        `json:"token,omitempty"`
	Proposed string        `json:"proposed,omitempty"`
	Near     string        `json:"near,omitempty"`
	NearBy   float64       `json:"difference,omitempty"`
	Off      string        `json:"nearestStep,omitempty"`
	Changes  string        `json:"changes,omitempty"` // token whose new value this is
	Behind   string        `json:"behind,omitempty"`  // token that all uses have, which has another value now
	Wide     string        `json:"wideFormOf,omitempty"`
	Uses     []harvest.Use `json:"uses"`
}

func (a *app) printHarvest(h *harvest.Harvest) error {
	if a.json {
		return a.printJSON(harvestJSON(h))
	}
	titles := map[string]string{"color": "Colours", "type": "Type styles", "space": "Spacing", "radius": "Radii",
		"shadow": "Shadows", "gradient": "Gradients"}
	t := a.term
	kind, folded := "", 0
	var rows [][]string
	flush := func() {
		if len(rows) > 0 {
			a.print("\n%s\n%s", t.bold(titles[kind]), t.table([]string{"  value", "uses", "token", "where"}, rows, 1))
		}
		if folded > 0 {
			a.print("  %s\n", t.dim(fmt.Sprintf("and %s once; --verbose shows them", plural(folded, "distance that stands",
				"distances that stand"))))
		}
		rows, folded = nil, 0
	}
	for _, f := range h.Found {
		if f.Kind != kind {
			flush()
			kind = f.Kind
		}
		if f.Kind == "space" && len(f.Uses) == 1 && f.Token == "" && !a.verbose {
			folded++
			continue
		}
		value := f.Text
		if r := []rune(value); len(r) > 56 {
			value = string(r[:55]) + "…"
		}
		rows = append(rows, []string{"  " + t.swatchOf(f.Text) + value, fmt.Sprint(len(f.Uses)), a.tokenOf(f),
			t.dim(firstUse(f.Uses))})
	}
	flush()
	a.printOffers(h)
	return nil
}

func harvestJSON(h *harvest.Harvest) any {
	out := []foundJSON{}
	for _, f := range h.Found {
		out = append(out, foundJSON{f.Kind, f.Text, f.Token, f.Proposed, f.Near, f.NearBy, f.Off, f.Changes, f.Behind,
			f.Wide(), f.Uses})
	}
	aliases := map[string]string{}
	for _, t := range h.Aliases {
		aliases[t.Path] = t.Value.Alias
	}
	return map[string]any{"values": out, "aliases": aliases, "proposals": h.Proposals()}
}

// tokenOf says which token a found value is, or could be.
func (a *app) tokenOf(f *harvest.Found) string {
	t := a.term
	name := f.Token
	if n, path := heldUses(f); n > 0 && name != "" {
		name += t.warn(fmt.Sprintf(" ≠ %d of them are still %s", n, path))
	}
	switch n, of := f.Moved(); {
	case f.Changes != "":
		name = t.accent(fmt.Sprintf("~ %s has changed to this, %d of %d places", f.Changes, n, of))
	case f.Wide() != "":
		name = t.good("+ " + f.Wide() + " on wide screens")
	case f.Behind != "":
		name = t.warn("≠ still shown for " + f.Behind)
	case f.Near != "":
		name = t.warn("~ almost " + f.Near)
	case f.Off != "":
		name = t.warn("~ off the scale, nearest is " + f.Off)
	case f.Proposed != "":
		name = t.good("+ " + f.Proposed)
	case name == "":
		name = t.dim("used once")
	}
	return name
}

// printOffers lists names by use, and what --write would do.
func (a *app) printOffers(h *harvest.Harvest) {
	t := a.term
	if len(h.Aliases) > 0 {
		a.print("\n%s\n", t.bold("Names by use"))
		for _, al := range h.Aliases {
			a.print("  %s %s\n", t.good("+ "+al.Path), t.dim("→ "+al.Value.Alias))
		}
	}
	var offers []string
	if n := h.Proposals(); n > 0 {
		offers = append(offers, plural(n, "value", "values")+" could be tokens")
	}
	if n := h.Changed(); n > 0 {
		offers = append(offers, plural(n, "token has", "tokens have")+" changed in the drawings")
	}
	if len(offers) > 0 {
		a.say("\n%s; --write accepts that.\n", strings.Join(offers, ", "))
	}
}

// heldUses counts the uses that go on having a token which has another value now.
func heldUses(f *harvest.Found) (n int, path string) {
	for _, u := range f.Uses {
		if u.Held != "" {
			n, path = n+1, u.Held
		}
	}
	return n, path
}

func firstUse(uses []harvest.Use) string {
	u := uses[0]
	return u.Screen + ": " + u.Element + " (" + u.Property + ")"
}
