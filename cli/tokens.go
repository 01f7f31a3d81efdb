package cli

import (
	"cmp"
	"path/filepath"

	"archetyp/core/ask"
	"archetyp/core/design"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/job"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) tokensCmd() *cobra.Command {
	c := &cobra.Command{
		Use:   "tokens",
		Short: "Work on design tokens: harvest, list, change, check, write, and take back",
		Long: long("Work on the token files: harvest values from drawings, list, change and check tokens, write them " +
			"as code, and take edits of that code back."),
		Example: example("archetyp tokens harvest"),
		Args:    cobra.NoArgs,
		RunE:    func(c *cobra.Command, _ []string) error { return c.Help() },
	}
	c.AddCommand(a.harvestCmd(), a.tokensListCmd(), a.tokensShowCmd(), a.tokensSetCmd(), a.tokensUpstreamCmd(), a.tokensRenameCmd(),
		a.tokensRemoveCmd(), a.rampCmd(), a.whereCmd(),
		a.tokensCheckCmd(), a.tokensEmitCmd(), a.absorbCmd(), a.tokensMergeCmd(), a.tokensCompareCmd())
	return c
}

// library reads the tokens of the workspace here, and tells their warnings.
func (a *app) library() (*workspace.Workspace, *token.Library, error) {
	ws, err := a.workspaceHere()
	if err != nil {
		return nil, nil, err
	}
	lib, err := ws.ReadTokens(nil)
	if err != nil {
		return nil, nil, err
	}
	a.warn(lib.Warnings())
	return ws, lib, nil
}

// libraryAt reads the tokens of a revision; "" is the workspace as it is.
func (a *app) libraryAt(revision string) (*token.Library, error) {
	if revision == "" {
		_, lib, err := a.library()
		return lib, err
	}
	ws, err := a.workspaceHere()
	if err != nil {
		return nil, err
	}
	return ws.TokensAt(workspace.EditionRevision(revision))
}

// warn tells warnings about token files.
func (a *app) warn(list []token.Error) {
	var said []string
	for _, w := range list {
		said = append(said, w.Error())
	}
	a.remarkAll("warning", said)
}

// reading reads the one source named, or all of the workspace.
func (a *app) reading(args []string) (*job.Snapshot, *workspace.Workspace, error) {
	if len(args) == 0 {
		ws, err := a.workspaceHere()
		if err != nil {
			return nil, nil, err
		}
		r, err := job.Read(a.ctx, ws)
		if err == nil {
			a.warnUnread(r.Unread)
		}
		return r, ws, err
	}
	doc, ws, err := a.source(args[0])
	if err != nil {
		return nil, nil, err
	}
	r, err := job.ReadOne(ws, doc, a.inWorkspace(ws, doc))
	return r, ws, err
}

// inWorkspace is the path of a drawing from its workspace; "" for none.
func (a *app) inWorkspace(ws *workspace.Workspace, doc *design.Document) string {
	if ws == nil {
		return ""
	}
	abs, err := filepath.Abs(a.path(doc.Name))
	if err != nil {
		return ""
	}
	shown, _ := ws.Rel(abs)
	return shown
}

// tokenNames answers which token a value is.
type tokenNames struct{ job.Names }

// tokenNames reads the tokens of a workspace, as they stand to a drawing; none has none.
func (a *app) tokenNames(ws *workspace.Workspace, doc *design.Document) (tokenNames, error) {
	n, err := job.Named(ws, doc, a.inWorkspace(ws, doc))
	return tokenNames{n}, err
}

// say names a token, and its value where the drawing shows another.
func (n tokenNames) say(f emit.Found) string { return cmp.Or(ask.Note(n.Tokens(), f), f.Path) }
