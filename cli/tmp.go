package cli

import (
	"archetyp/core/design"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

type tokenNames struct{}

func (tokenNames) of(f design.FactLine) string             { return "" }
func (tokenNames) property(kind, value string) string      { return "" }
func (a *app) tokenNames(ws *workspace.Workspace) (tokenNames, error) { return tokenNames{}, nil }
func x(s string) *cobra.Command                            { return &cobra.Command{Use: s} }
func (a *app) initCmd() *cobra.Command                     { return x("init") }
func (a *app) demoCmd() *cobra.Command                     { return x("demo") }
func (a *app) syncCmd() *cobra.Command                     { return x("sync") }
func (a *app) statusCmd() *cobra.Command                   { return x("status") }
func (a *app) tokensCmd() *cobra.Command                   { return x("tokens") }
func (a *app) textCmd() *cobra.Command                     { return x("text") }
func (a *app) assetsCmd() *cobra.Command                   { return x("assets") }
func (a *app) guideCmd() *cobra.Command                    { return x("guide") }
