package cli

import (
	"fmt"
	"path/filepath"
	"slices"
	"sort"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/text"
	"archetyp/core/text/message"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) textCmd() *cobra.Command {
	c := &cobra.Command{
		Use:   "text",
		Short: "Collect the words of drawings, translate them, and see whether they fit",
		Long: long(`Collect the words of drawings into a catalogue of keys; give it to translators and code and take
it back; put the translations into the drawings again and measure whether they fit.`),
		Example: example("archetyp text collect --list", "archetyp text export --as xliff --locale de -o texts.de.xlf",
			"archetyp text review"),
		Args: cobra.NoArgs,
		RunE: func(c *cobra.Command, _ []string) error { return c.Help() },
	}
	c.AddCommand(a.collectCmd(), a.textListCmd(), a.textShowCmd(), a.textSetCmd(), a.textRenameCmd(), a.textSplitCmd(),
		a.textJoinCmd(),
		a.textCheckCmd(), a.exportCmd(), a.importCmd(), a.fillCmd(), a.placeCmd(), a.reviewCmd())
	return c
}

// texts reads the catalogue as it was collected last.
func (a *app) texts() (*workspace.Workspace, *text.Catalogue, error) {
	return a.textsBy(job.ReadTexts)
}

func (a *app) textsBy(read func(*workspace.Workspace) (*text.Catalogue, bool, error)) (*workspace.Workspace,
	*text.Catalogue, error) {
	ws, err := a.workspaceHere()
	if err != nil {
		return nil, nil, err
	}
	c, ok, err := read(ws)
	if err != nil {
		return nil, nil, err
	}
	if !ok {
		return nil, nil, hint.New("no texts have been collected yet",
			"\"archetyp text collect\" does it, and so does \"archetyp sync\".")
	}
	return ws, c, nil
}

// textEntry reads the catalogue and finds a key in it.
func (a *app) textEntry(key string) (*workspace.Workspace, *text.Catalogue, *text.Entry, error) {
	ws, c, err := a.texts()
	if err != nil {
		return nil, nil, nil, err
	}
	e, err := c.Need(key)
	return ws, c, e, textError(err)
}

// locale checks a locale that was given.
func (a *app) locale(c *text.Catalogue, locale string, must bool) error {
	switch {
	case locale == "" && must:
		return hint.New("no locale is given", "Name one with --locale"+localesHint(c)+".")
	case locale != "" && !message.CheckLocale(locale):
		return hint.New(fmt.Sprintf("%q is no locale", locale), "Write a language tag such as de or pt-BR"+localesHint(c)+".")
	}
	return nil
}

func localesHint(c *text.Catalogue) string {
	if len(c.Locales) == 0 {
		return ""
	}
	return "; there are " + strings.Join(c.Locales, ", ")
}

// someLocales are those named, or all there are.
func (a *app) someLocales(c *text.Catalogue, named []string) ([]string, error) {
	for _, l := range named {
		if err := a.locale(c, l, true); err != nil {
			return nil, err
		}
	}
	if len(named) > 0 {
		return named, nil
	}
	return c.Locales, nil
}

// textFilter are the flags that pick texts.
type textFilter struct {
	screen, tag string
	states      []string
}

func (f *textFilter) flags(c *cobra.Command) {
	c.Flags().StringVar(&f.screen, "screen", "", "only texts of this `SCREEN`")
	c.Flags().StringVar(&f.tag, "tag", "", "only texts with this `TAG`")
}

// filter checks what was given.
func (f *textFilter) filter(c *text.Catalogue, locale string) (text.Filter, error) {
	out := text.Filter{Screen: f.screen, Tag: f.tag, Locale: locale}
	for _, s := range f.states {
		if !slices.Contains(text.States, text.State(s)) {
			return out, hint.New(fmt.Sprintf("the state %q is not known", s),
				"The states are initial, outdated, translated, reviewed, final.")
		}
		out.States = append(out.States, text.State(s))
	}
	if f.screen != "" {
		screens := map[string]bool{}
		for _, e := range c.Entries {
			for _, s := range e.Screens() {
				screens[s] = true
			}
		}
		found := false
		var names []string
		for s := range screens {
			found = found || strings.EqualFold(s, f.screen)
			names = append(names, s)
		}
		if !found {
			sort.Strings(names)
			return out, hint.New(fmt.Sprintf("no text stands on a screen %q", f.screen),
				"Screens with texts: "+strings.Join(names,
					", ")+".")
		}
	}
	return out, nil
}

// textError is an edit that was refused, with what to do.
func textError(err error) error {
	if e, ok := err.(*text.EditError); ok {
		return hint.New(e.Msg, e.Hint)
	}
	return err
}

// writeTexts writes the catalogue and tells which files changed.
func (a *app) writeTexts(ws *workspace.Workspace, c *text.Catalogue, with ...func(*workspace.Change)) ([]string,
	error) {
	written, err := job.WriteTexts(ws, c, with...)
	if err != nil {
		return nil, err
	}
	if a.verbose {
		for _, p := range written {
			a.say("%s\n", p)
		}
	}
	return full(written), nil
}

// writeText writes a result to stdout, or to a file.
func (a *app) writeText(out, text string) error {
	if out == "" || out == "-" {
		return a.document([]byte(text))
	}
	if err := a.save(map[string][]byte{out: []byte(text)}); err != nil {
		return err
	}
	a.say("%s  %s\n", out, size(len(text)))
	return nil
}

// base is a file's name without folder and ending.
func base(p string) string {
	b := filepath.Base(p)
	return strings.TrimSuffix(b, filepath.Ext(b))
}

// sortedNames are the names of files, in order.
func sortedNames[T any](files map[string]T) []string {
	var out []string
	for n := range files {
		out = append(out, n)
	}
	sort.Strings(out)
	return out
}
