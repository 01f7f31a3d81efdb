package cli

import (
	"os"

	"archetyp/core/hint"
	"archetyp/editor"

	"github.com/spf13/cobra"
	xterm "golang.org/x/term"
)

func (a *app) editorCmd() *cobra.Command {
	c := &cobra.Command{
		Use:   "editor",
		Short: "Offer the design's values in any editor, as a language server",
		Long: long(`Speak the Language Server Protocol 3.17 on standard input and output, for an editor to start. While you type
CSS, HTML, JSX or token files it completes values of the focused element, tokens, words and pictures, says what a
value is and who uses it, finds values that are a token, and renames tokens everywhere. It changes no file but by
what you choose. docs/editors.md has set-ups for editors. Status 1 is an exit without a shutdown before it, too.`),
		Example: example("archetyp editor", "nvim -c \"lua vim.lsp.start({name = 'archetyp', cmd = {'archetyp', 'editor'}})\" site/css/site.css"),
		Args:    cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			if f, ok := a.in.(*os.File); ok && xterm.IsTerminal(int(f.Fd())) {
				return hint.New("editor speaks to an editor, not to a terminal", "docs/editors.md says how an editor starts it.")
			}
			ctx, stop := a.untilInterrupted()
			defer stop()
			status, err := editor.Serve(ctx, a.in, a.out, a.err)
			if err == nil && status != 0 {
				return foundError{}
			}
			return err
		},
	}
	c.Flags().Bool("stdio", true, "speak on standard input and output, which it always does")
	_ = c.Flags().MarkHidden("stdio") // some clients pass it to every server
	return c
}
