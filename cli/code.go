package cli

import (
	"fmt"

	"archetyp/core/code"
	"archetyp/core/hint"

	"github.com/spf13/cobra"
)

func (a *app) codeCmd() *cobra.Command {
	as, sizes := "css", false
	c := &cobra.Command{
		Use:   "code SOURCE SELECTOR",
		Short: "Write CSS for elements, without positions, with tokens as var()",
		Long: long(`Write CSS for the elements a selector means: what they look like, without positions, with tokens as var() where
one matches. Sizes are left out where content gives them. Of a component, one rule says what its variants
share, then each variant and state what differs.`),
		Example: example("archetyp code design/booking.svg '#pay'",
			"archetyp code design/components.svg '[data-component=button]'"),
		Args: exactly("a SOURCE", "a SELECTOR"),
		RunE: func(_ *cobra.Command, args []string) error {
			if as != "css" {
				return hint.New(fmt.Sprintf("--as %q is not known", as), "css is.")
			}
			doc, found, names, err := a.find(args[0], args[1])
			if err != nil {
				return err
			}
			blocks := code.Rules(found, code.Options{Tokens: names.Code, Sizes: sizes})
			if a.json {
				return a.printJSON(map[string]any{"source": doc.Name, "as": "css", "rules": blocks})
			}
			return a.document([]byte(code.Print(blocks)))
		},
	}
	c.Flags().BoolVar(&sizes, "size", false, "widths and heights too, where content would give them")
	c.Flags().StringVar(&as, "as", "css", "the `LANGUAGE` to write: css")
	return c
}
