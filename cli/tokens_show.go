package cli

import (
	"fmt"
	"sort"
	"strings"

	"archetyp/core/color"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/job"

	"github.com/spf13/cobra"
)

func (a *app) tokensShowCmd() *cobra.Command {
	return &cobra.Command{
		Use:   "show TOKEN",
		Short: "Show all of one token: where its value comes from, contexts, uses, contrast",
		Long: long("Show all that is known of a token: the chain of aliases, its value in every context, who uses it, " +
			"and a colour's contrast."),
		Example: example("archetyp tokens show color.text.default"),
		Args:    exactly("a TOKEN"),
		RunE: func(_ *cobra.Command, args []string) error {
			ws, err := a.workspaceHere()
			if err != nil {
				return err
			}
			lib, err := ws.ReadTokens(nil)
			if err != nil {
				return err
			}
			t, err := job.Known(lib, args[0])
			if err != nil {
				return err
			}
			uses, unread, err := job.CountUses(a.ctx, ws, t)
			if err != nil {
				return err
			}
			a.warnUnread(unread)
			a.warn(lib.Warnings())
			return a.showToken(lib, t, uses, ws.Config.Property(t.Path))
		},
	}
}

type shownContext struct {
	Context string   `json:"context"` // "" where nothing is chosen
	Value   string   `json:"value"`
	Chain   []string `json:"chain"` // from the token to the one that has the value
	File    string   `json:"file"`
	Line    int      `json:"line"`
}

type shownToken struct {
	tokenJSON
	Property string             `json:"property"`
	In       []shownContext     `json:"in"`
	UsedBy   []string           `json:"usedBy"` // tokens that point to it
	Elements map[string]int     `json:"elements,omitempty"`
	Contrast map[string]float64 `json:"contrast,omitempty"` // on white, on black
}

func (a *app) showToken(lib *token.Library, t *token.Token, uses map[string]int, property string) error {
	out := describe(lib, t)
	out.Property, out.Elements = property, uses
	if a.json {
		return a.printJSON(out)
	}
	a.printToken(t, out)
	return nil
}

// describe is all that token files say of a token.
func describe(lib *token.Library, t *token.Token) *shownToken {
	out := &shownToken{tokenJSON: listed(lib, t), UsedBy: []string{}}
	show := func(s *token.Set, key string) {
		o := s.Get(t.Path)
		if o == nil {
			return
		}
		c := shownContext{Context: key, Value: emit.Literal(s, o), File: o.File, Line: o.Position().Line}
		for _, x := range s.Chain(o) {
			c.Chain = append(c.Chain, x.Path)
		}
		out.In = append(out.In, c)
	}
	show(lib.Base, "")
	for _, c := range lib.Contexts {
		if o := c.Set.Get(t.Path); !c.Default && o != nil && (!token.Same(o, lib.Base.Get(t.Path)) ||
			emit.Literal(c.Set, o) != out.Value) {
			show(c.Set, c.Key())
		}
	}
	for _, u := range lib.Base.Users()[t.Path] {
		out.UsedBy = append(out.UsedBy, u.Path)
	}
	if c := lib.Base.Resolve(t).Value.Color; c != nil {
		out.Contrast = map[string]float64{"white": round2(color.Contrast(*c, color.White)),
			"black": round2(color.Contrast(*c, color.Black))}
	}
	return out
}

func (a *app) printToken(t *token.Token, out *shownToken) {
	tm := a.term
	a.print("%s  %s\n", tm.bold(t.Path), tm.accent(string(t.Type)))
	if t.Description != "" {
		a.print("%s\n", t.Description)
	}
	if t.Deprecated != "" {
		a.print("%s\n", tm.warn("deprecated"+strings.TrimSuffix(": "+t.Deprecated, ": deprecated")))
	}
	var rows [][]string
	for _, c := range out.In {
		name := c.Context
		if name == "" {
			name = "value"
		}
		rows = append(rows, []string{"  " + tm.dim(name), tm.swatchOf(c.Value) + c.Value,
			strings.TrimPrefix(strings.Join(c.Chain[1:], " → "), " ")})
		rows[len(rows)-1] = append(rows[len(rows)-1], tm.dim(fmt.Sprintf("%s:%d", c.File, c.Line)))
		if len(c.Chain) > 1 {
			rows[len(rows)-1][2] = tm.dim("→ ") + rows[len(rows)-1][2]
		}
	}
	a.print("%s", tm.table(nil, rows))
	rows = [][]string{{"  " + tm.dim("in CSS"), out.Property}}
	if out.Contrast != nil {
		rows = append(rows, []string{"  " + tm.dim("contrast"), fmt.Sprintf("%.2f on white, %.2f on black",
			out.Contrast["white"], out.Contrast["black"])})
	}
	if len(out.UsedBy) > 0 {
		rows = append(rows, []string{"  " + tm.dim("tokens that point here"), someOf(out.UsedBy, 6)})
	}
	if uses := out.Elements; uses != nil {
		n, sources := 0, []string{}
		for s := range uses {
			n += uses[s]
			sources = append(sources, s)
		}
		sort.Strings(sources)
		text := "none with this value"
		if n > 0 {
			text = fmt.Sprintf("%s with this value: %s", plural(n, "element", "elements"), someOf(sources, 4))
		}
		rows = append(rows, []string{"  " + tm.dim("drawings"), text})
	}
	a.print("%s", tm.table(nil, rows))
}

func round2(v float64) float64 { return float64(int(v*100+0.5)) / 100 }

// someOf lists the first of many.
func someOf(list []string, most int) string {
	if len(list) <= most {
		return strings.Join(list, ", ")
	}
	return fmt.Sprintf("%s and %d more", strings.Join(list[:most], ", "), len(list)-most)
}
