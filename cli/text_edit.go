package cli

import (
	"fmt"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/text"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) textSetCmd() *cobra.Command {
	var locale, state, note, meaning string
	var tags, untags []string
	var apply bool
	c := &cobra.Command{
		Use:   "set KEY [WORDS]",
		Short: "Give a key words in a locale, a state, a note for translators or tags",
		Long: long(`Give a key words in a locale, say how far they are, leave a note for translators, or tag it. In
the source language, WORDS may turn what the design says into a message with arguments: "3 of 12" is a sample
of "{taken} of {all}". With --apply, WORDS of the source language go into every drawing that shows the key.`),
		Example: example(`archetyp text set booking.on-board "An Bord" --locale de`,
			`archetyp text set booking.on-board --locale de --state reviewed`,
			`archetyp text set timetable.day-picker.sat-14-june "{weekday}, {day} June"`, `archetyp text set booking.bicycle --note "A bicycle taken on board" --tag extras`),
		Args: between(1, 2, "a KEY and its WORDS"),
		RunE: func(cmd *cobra.Command, args []string) error {
			a.writes(true)
			ws, c, e, err := a.textEntry(args[0])
			if err != nil {
				return err
			}
			if locale == "" {
				locale = c.Locale
			}
			if err := a.locale(c, locale, true); err != nil {
				return err
			}
			if apply {
				if locale != c.Locale || len(args) < 2 || state+note+meaning != "" || len(tags)+len(untags) > 0 {
					return hint.New("--apply writes WORDS of the source language into the drawings, and nothing else", "For example: archetyp text set booking.bicycle Bike --apply")
				}
				return a.applyWord(ws, e.Key, args[1])
			}
			was, wasState := c.Of(e, locale)
			if err := a.setText(c, e, args, locale, state); err != nil {
				return err
			}
			if cmd.Flags().Changed("note") {
				e.Note = note
			}
			if cmd.Flags().Changed("meaning") {
				e.Meaning = meaning
			}
			e.Tag(tags, untags)
			if len(args) == 1 && state == "" && !cmd.Flags().Changed("note") && !cmd.Flags().Changed("meaning") &&
				len(tags)+len(untags) == 0 {
				return hint.New("nothing to set is given", "Give WORDS, --state, --note, --meaning, --tag or --untag.")
			}
			written, err := a.writeTexts(ws, c)
			if err != nil {
				return err
			}
			now, nowState := c.Of(e, locale)
			return a.printText(setJSON{e.Key, locale, now, was, nowState, written}, wasState)
		},
	}
	c.Flags().StringVar(&locale, "locale", "", "the `LOCALE` of the words (default: the source language)")
	c.Flags().StringVar(&state, "state", "", "how far they are: initial, translated, reviewed or final")
	c.Flags().BoolVar(&apply, "apply", false, "write the words into the drawings")
	c.Flags().StringVar(&note, "note", "", "a `NOTE` for translators")
	c.Flags().StringVar(&meaning, "meaning", "", "what is meant, where the words alone do not say")
	c.Flags().StringSliceVar(&tags, "tag", nil, "`TAGS` to give")
	c.Flags().StringSliceVar(&untags, "untag", nil, "`TAGS` to take away")
	return c
}

// setJSON is a text that was set.
type setJSON struct {
	Key     string     `json:"key"`
	Locale  string     `json:"locale"`
	New     string     `json:"new"`
	Old     string     `json:"old"`
	State   text.State `json:"state"`
	Written []string   `json:"written"`
}

func (a *app) printText(s setJSON, was text.State) error {
	if a.json {
		return a.printJSON(s)
	}
	switch {
	case len(s.Written) == 0:
		a.say("%s has this already; nothing was written\n", s.Key)
	case s.Old != s.New:
		a.print("%s %s  %s %s → %s\n", a.term.accent("~"), s.Key, a.term.dim(s.Locale), quoteShort(s.Old, 60),
			quoteShort(s.New, 60))
	case was != s.State:
		a.print("%s %s  %s %s → %s\n", a.term.accent("~"), s.Key, a.term.dim(s.Locale), was, s.State)
	default:
		a.print("%s %s\n", a.term.accent("~"), s.Key)
	}
	return nil
}

func (a *app) setText(c *text.Catalogue, e *text.Entry, args []string, locale, state string) error {
	s := text.State(state)
	if state != "" && s != text.Initial && s != text.Translated && s != text.Reviewed && s != text.Final {
		return hint.New(fmt.Sprintf("the state %q cannot be set", state),
			"The states are initial, translated, reviewed, final; outdated is what the program says.")
	}
	if len(args) == 2 {
		return textError(c.Set(e, locale, args[1], s))
	}
	if state == "" {
		return nil
	}
	if locale == c.Locale {
		return hint.New("the source language has no state", "Name a locale with --locale"+localesHint(c)+".")
	}
	return textError(c.SetState(e, locale, s))
}

func (a *app) textRenameCmd() *cobra.Command {
	in := ""
	c := &cobra.Command{
		Use:   "rename KEY NEW",
		Short: "Give a text another key; its words, translations and places stay",
		Long: long("Give a text another key. It keeps its words, translations and places; the old key is remembered, " +
			"so that files that\ncome back with it still find it. With --in its uses in code follow."),
		Example: example("archetyp text rename booking.bicycle booking.extras.bike"),
		Args:    exactly("a KEY", "a NEW key"),
		RunE: func(_ *cobra.Command, args []string) error {
			a.writes(true)
			ws, c, e, err := a.textEntry(args[0])
			if err != nil {
				return err
			}
			old := e.Key
			if err := c.Rename(args[0], args[1]); err != nil {
				return textError(err)
			}
			var uses []job.CodeUse
			code := &workspace.Change{}
			if in != "" {
				dir, err := a.codeFolder("--in", in)
				if err != nil {
					return err
				}
				if uses, err = job.RenameKeyInCode(ws, code, dir, old, args[1]); err != nil {
					return err
				}
			}
			written, err := a.writeTexts(ws, c, code.Into)
			if err != nil {
				return err
			}
			if a.json {
				return a.printJSON(map[string]any{"old": old, "new": args[1], "uses": len(uses), "files": filesOf(uses),
					"written": written})
			}
			a.print("%s %s → %s\n", a.term.accent("~"), old, args[1])
			for _, u := range uses {
				a.print("  %s:%d:%d  %s\n", u.File, u.Line, u.Column, a.term.dim(clip(u.Text, 80)))
			}
			return nil
		},
	}
	c.Flags().StringVar(&in, "in", "", "rename its uses in the code of this `DIR`, too")
	return c
}

// filesOf are the files of uses, each once, in order.
func filesOf(uses []job.CodeUse) []string {
	out := []string{}
	for _, u := range uses { // in order of files
		if len(out) == 0 || out[len(out)-1] != u.File {
			out = append(out, u.File)
		}
	}
	return out
}

func (a *app) textSplitCmd() *cobra.Command {
	return &cobra.Command{
		Use:   "split KEY [WHERE]",
		Short: "Give some places of a key a key of their own",
		Long: long(`Give the places of a key that are WHERE (a screen, a component, a selector or an element) a key
of their own, with the translations there are; without WHERE, every screen and component but the first. They
stay apart from then on.`),
		Example: example("archetyp text split components.badge.cancelled Timetable"),
		Args:    between(1, 2, "a KEY and WHERE"),
		RunE: func(_ *cobra.Command, args []string) error {
			a.writes(true)
			ws, c, err := a.texts()
			if err != nil {
				return err
			}
			where := ""
			if len(args) == 2 {
				where = args[1]
			}
			t := ws.Config.Text
			parts, err := c.Split(args[0], where, t.Keys, t.Case)
			if err != nil {
				return textError(err)
			}
			written, err := a.writeTexts(ws, c)
			if err != nil {
				return err
			}
			var keys []string
			for _, e := range parts {
				keys = append(keys, e.Key)
			}
			if a.json {
				return a.printJSON(map[string]any{"key": args[0], "apart": full(keys), "written": written})
			}
			for _, e := range parts {
				a.print("%s %s  %s\n", a.term.good("+"), e.Key,
					a.term.dim(plural(len(e.Places), "place", "places")+" on "+strings.Join(e.Screens(), ", ")))
			}
			return nil
		},
	}
}

func (a *app) textJoinCmd() *cobra.Command {
	return &cobra.Command{
		Use:   "join KEY OTHER",
		Short: "Make two keys with the same words one",
		Long: long("Make two keys with the same words one: KEY stays and gets the places of OTHER. Translations that " +
			"only\nOTHER has are kept; those that differ are listed."),
		Example: example("archetyp text join components.badge.cancelled timetable.badge.cancelled"),
		Args:    exactly("a KEY", "the OTHER key"),
		RunE: func(_ *cobra.Command, args []string) error {
			a.writes(true)
			ws, c, err := a.texts()
			if err != nil {
				return err
			}
			lost, err := c.Join(args[0], args[1])
			if err != nil {
				return textError(err)
			}
			written, err := a.writeTexts(ws, c)
			if err != nil {
				return err
			}
			if a.json {
				return a.printJSON(map[string]any{"key": args[0], "joined": args[1], "lost": full(lost), "written": written})
			}
			a.print("%s %s  %s\n", a.term.accent("~"), args[0], a.term.dim("with the places of "+args[1]))
			for _, l := range lost {
				a.print("  %s %s\n", a.term.warn("not kept"), l)
			}
			return nil
		},
	}
}

func (a *app) textCheckCmd() *cobra.Command {
	var locales, only []string
	c := &cobra.Command{
		Use:   "check",
		Short: "Check the catalogue: missing, outdated, lost arguments, signs that differ",
		Long: long(`Check the catalogue and its translations. The rules:

` + ruleList()),
		Example: example("archetyp text check", "archetyp text check --locale de --rule missing,outdated"),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			ws, c, err := a.texts()
			if err != nil {
				return err
			}
			if locales, err = a.someLocales(c, locales); err != nil {
				return err
			}
			for _, r := range only {
				known := false
				for _, k := range text.Rules {
					known = known || k[0] == r
				}
				if !known {
					return hint.New(fmt.Sprintf("there is no rule %q", r), "\"archetyp text check --help\" lists them.")
				}
			}
			found := c.Check(text.CheckOptions{Locales: locales, Pattern: ws.Config.Text.Keys, Case: ws.Config.Text.Case,
				Only: only})
			return a.printTextFindings(c, found, len(locales))
		},
	}
	c.Flags().StringSliceVar(&locales, "locale", nil, "check only these `LOCALES`")
	c.Flags().StringSliceVar(&only, "rule", nil, "only these `RULES`")
	return c
}

func ruleList() string {
	var b strings.Builder
	for _, r := range text.Rules {
		fmt.Fprintf(&b, "  %-10s %s\n", r[0], r[1])
	}
	return strings.TrimRight(b.String(), "\n") + "\n"
}

func (a *app) printTextFindings(c *text.Catalogue, found []text.Finding, locales int) error {
	if a.json {
		list := found
		if list == nil {
			list = []text.Finding{}
		}
		if err := a.printJSON(map[string]any{"keys": len(c.Used()), "findings": list}); err != nil {
			return err
		}
	} else {
		t := a.term
		const most = 12
		for i := 0; i < len(found); {
			j := i
			for j < len(found) && found[j].Rule == found[i].Rule {
				j++
			}
			a.print("%s  %s\n", t.warn(found[i].Rule), t.dim(plural(j-i, "finding", "findings")))
			var rows [][]string
			for k, f := range found[i:j] {
				if k == most && !a.verbose {
					rows = append(rows, []string{t.dim(fmt.Sprintf("  … %d more; --verbose shows them", j-i-most)), "", ""})
					break
				}
				rows = append(rows, []string{"  " + f.Key, t.dim(f.Locale), f.Msg})
			}
			a.print("%s", t.table(nil, rows))
			i = j
		}
		if len(found) == 0 && !a.quiet {
			a.print("%s %s in %s: nothing to find fault with\n", t.good("✓"), plural(len(c.Used()), "key", "keys"),
				plural(locales+1, "language", "languages"))
		}
	}
	if len(found) > 0 {
		return foundError{}
	}
	return nil
}
