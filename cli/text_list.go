package cli

import (
	"fmt"
	"strings"

	"archetyp/core/text"
	"archetyp/core/text/fit"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) textListCmd() *cobra.Command {
	f := &textFilter{}
	locale, unused, long_ := "", false, false
	c := &cobra.Command{
		Use:   "list [KEY]",
		Short: "List the keys with their words, and how far each locale is",
		Long: long("List the keys of the catalogue with their words and the state of each locale: all, or those under " +
			"a KEY."),
		Example: example("archetyp text list --screen Booking", "archetyp text list --locale de --state initial,outdated",
			"archetyp text list --locale fi --too-long"),
		Args: between(0, 1, "a KEY at most"),
		RunE: func(_ *cobra.Command, args []string) error {
			ws, c, err := a.texts()
			if err != nil {
				return err
			}
			if err := a.locale(c, locale, long_); err != nil {
				return err
			}
			filter, err := f.filter(c, locale)
			if err != nil {
				return err
			}
			filter.Unused = unused
			if len(args) == 1 {
				filter.Key = args[0]
			}
			list := c.Pick(filter)
			if long_ {
				over, err := a.overflowing(ws, c, locale)
				if err != nil {
					return err
				}
				kept := list[:0:0]
				for _, e := range list {
					if over[e.Key] {
						kept = append(kept, e)
					}
				}
				list = kept
			}
			return a.printTexts(c, list, locale)
		},
	}
	f.flags(c)
	c.Flags().StringSliceVar(&f.states, "state", nil,
		"only those in these `STATES` (initial, outdated, translated, reviewed, final)")
	c.Flags().StringVar(&locale, "locale", "", "show the words of this `LOCALE`")
	c.Flags().BoolVar(&unused, "unused", false, "those that no drawing has any more")
	c.Flags().BoolVar(&long_, "too-long", false, "only those that do not fit in --locale")
	return c
}

type entryJSON struct {
	Key      string                     `json:"key"`
	Words    string                     `json:"words"`
	Said     string                     `json:"said,omitempty"`
	Meaning  string                     `json:"meaning,omitempty"`
	Note     string                     `json:"note,omitempty"`
	Tags     []string                   `json:"tags"`
	Marked   bool                       `json:"marked"`
	Given    bool                       `json:"given"`
	Apart    bool                       `json:"apart"`
	Formerly []string                   `json:"formerly"`
	Unused   bool                       `json:"unused"`
	Limit    int                        `json:"limit"`
	Places   []text.Place               `json:"places"`
	Locales  map[string]translationJSON `json:"locales"`
}

type translationJSON struct {
	Words string     `json:"words"`
	State text.State `json:"state"`
	Of    string     `json:"of,omitempty"`
	Score int        `json:"score,omitempty"`
}

func textJSON(c *text.Catalogue, e *text.Entry) entryJSON {
	out := entryJSON{Key: e.Key, Words: e.Words, Said: e.Said, Meaning: e.Meaning, Note: e.Note, Tags: full(e.Tags),
		Marked: e.Marked, Given: e.Given,
		Apart: e.Apart, Formerly: full(e.Formerly), Unused: e.Unused, Limit: e.Limit(c.Locale), Places: e.Places, Locales: map[string]translationJSON{}}
	if out.Places == nil {
		out.Places = []text.Place{}
	}
	for _, l := range c.Locales {
		words, state := c.Of(e, l)
		t := translationJSON{Words: words, State: state}
		if one := e.In[l]; one != nil {
			t.Of, t.Score = one.Of, one.Score
		}
		out.Locales[l] = t
	}
	return out
}

// stateSigns show a state in one letter.
var stateSigns = map[text.State]string{text.Initial: "·", text.Outdated: "!", text.Translated: "t", text.Reviewed: "r",
	text.Final: "f"}

func (a *app) sign(s text.State) string {
	switch s {
	case text.Initial:
		return a.term.dim(stateSigns[s])
	case text.Outdated:
		return a.term.warn(stateSigns[s])
	}
	return a.term.good(stateSigns[s])
}

func (a *app) printTexts(c *text.Catalogue, list []*text.Entry, locale string) error {
	if a.json {
		out := []entryJSON{}
		for _, e := range list {
			out = append(out, textJSON(c, e))
		}
		return a.printJSON(map[string]any{"source": c.Locale, "locales": full(c.Locales), "texts": out})
	}
	t := a.term
	if len(list) == 0 {
		a.print("no such texts\n")
		return nil
	}
	var rows [][]string
	for _, e := range list {
		row := []string{t.accent(e.Key), quoteShort(e.Words, 40)}
		if locale != "" && locale != c.Locale {
			words, state := c.Of(e, locale)
			row = append(row, a.sign(state), quoteShort(words, 44))
		} else {
			states := ""
			for _, l := range c.Locales {
				_, s := c.Of(e, l)
				states += a.sign(s) + " "
			}
			row = append(row, states)
		}
		n := len(e.Places)
		where := t.dim(strings.Join(e.Screens(), ", "))
		if n > len(e.Screens()) {
			where += t.dim(fmt.Sprintf(" ×%d", n))
		}
		if e.Unused {
			where = t.dim("unused")
		}
		rows = append(rows, append(row, where))
	}
	header := []string{"key", c.Locale, strings.Join(c.Locales, " "), "on"}
	if locale != "" && locale != c.Locale {
		header = []string{"key", c.Locale, "", locale, "on"}
	}
	a.print("%s", t.table(header, rows))
	a.print("%s  %s\n", plural(len(list), "key", "keys"), t.dim("· none  ! outdated  t translated  r reviewed  f final"))
	return nil
}

func (a *app) textShowCmd() *cobra.Command {
	return &cobra.Command{
		Use:   "show KEY",
		Short: "Show all that is known of a key: words, states, places, room",
		Long: long("Show all that is known of a key: its words in every locale and their states, where it stands,\nhow " +
			"it is set, and the room it has."),
		Example: example("archetyp text show booking.pay"),
		Args:    exactly("a KEY"),
		RunE: func(_ *cobra.Command, args []string) error {
			_, c, e, err := a.textEntry(args[0])
			if err != nil {
				return err
			}
			if a.json {
				return a.printJSON(textJSON(c, e))
			}
			a.printEntry(c, e)
			return nil
		},
	}
}

func (a *app) printEntry(c *text.Catalogue, e *text.Entry) {
	t := a.term
	about := []string{}
	for _, w := range []struct {
		on  bool
		say string
	}{{e.Unused, "unused"}, {e.Marked, "by a mark"}, {e.Given, "by hand"}, {e.Apart, "kept apart"}} {
		if w.on {
			about = append(about, w.say)
		}
	}
	a.print("%s  %s\n", t.bold(e.Key), t.dim(strings.Join(about, ", ")))
	rows := [][]string{{t.dim(c.Locale), "", quoteShort(e.Words, 200)}}
	if e.Said != "" {
		rows = append(rows, []string{t.dim("design"), "", quoteShort(e.Said, 200)})
	}
	for _, l := range c.Locales {
		words, state := c.Of(e, l)
		note := ""
		if tr := e.In[l]; tr != nil && tr.Of != "" {
			note = t.warn("of " + quoteShort(tr.Of, 60))
		} else if tr != nil && tr.Score > 0 {
			note = t.dim(fmt.Sprintf("from memory, %d %%", tr.Score))
		}
		rows = append(rows, []string{t.dim(l), string(state), quoteShort(words, 200) + " " + note})
	}
	for _, line := range [][2]string{{"meaning", e.Meaning}, {"note", e.Note}, {"tags", strings.Join(e.Tags, ", ")},
		{"formerly", strings.Join(e.Formerly, ", ")}} {
		if line[1] != "" {
			rows = append(rows, []string{t.dim(line[0]), "", line[1]})
		}
	}
	if n := e.Limit(c.Locale); n > 0 {
		rows = append(rows, []string{t.dim("limit"), "", fmt.Sprintf("about %d letters", n)})
	}
	a.print("%s", t.table(nil, rows))
	rows = nil
	for _, p := range e.Places {
		room, set := "", ""
		if p.Room != nil {
			room = p.Room.String() + t.dim(", to the "+p.Room.By)
		}
		if p.Font != nil {
			set = fmt.Sprintf("%s %g px %d", p.Font.Family, p.Font.Size, p.Font.Weight)
		}
		what := p.Element
		if p.Attribute != "" {
			what += " @" + p.Attribute
		}
		rows = append(rows, []string{"  " + p.Screen, what, t.dim(set), room})
	}
	a.print("%s", t.table(nil, rows))
}

// overflowing are the keys whose words leave their room in a locale.
func (a *app) overflowing(ws *workspace.Workspace, c *text.Catalogue, locale string) (map[string]bool, error) {
	m, err := a.measurer(ws)
	if err != nil {
		return nil, err
	}
	out := map[string]bool{}
	for _, v := range fit.Review(c, []string{locale}, m) {
		if v.Fit == fit.Overflows || v.Fit == fit.Lines {
			out[v.Key] = true
		}
	}
	return out, nil
}
