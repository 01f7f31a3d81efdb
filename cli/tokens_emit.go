package cli

import (
	"fmt"
	"path/filepath"
	"slices"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/token/emit"
	"archetyp/workspace"

	"github.com/spf13/cobra"
)

func (a *app) tokensEmitCmd() *cobra.Command {
	o, out := workspace.Output{As: "css", Unit: "px"}, ""
	var languages strings.Builder
	for _, l := range emit.Languages {
		fmt.Fprintf(&languages, "\n  %-12s %s", l.Name, l.About)
	}
	c := &cobra.Command{
		Use:   "emit",
		Short: "Write the tokens as code to stdout or a file",
		Long: long(`Write the tokens of the workspace as code, to stdout, a file, or for several files a folder; sync writes those of the
configuration. The languages:
` + languages.String()),
		Example: example("archetyp tokens emit --as css --unit rem",
			"archetyp tokens emit --as android -o res --only color,space"),
		Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			lang, ok := emit.Of(o.As)
			if !ok {
				return hint.New(fmt.Sprintf("--as %q is not known", o.As), "Known: "+strings.Join(emit.Names(), ", ")+".")
			}
			if o.Unit != "px" && o.Unit != "rem" {
				return hint.New(fmt.Sprintf("--unit %q is not known", o.Unit), "Choose px or rem.")
			}
			if forms := workspace.Forms[o.As]; o.Form != "" && !slices.Contains(forms, o.Form) {
				return hint.New(fmt.Sprintf("--form %q is not known for %s", o.Form, o.As),
					"json and ts: nested or flat; css-classes: class or fragment.")
			}
			if o.As == "template" && o.Template == "" {
				return hint.New("--as template needs --template FILE", "docs/outputs.md says what a template is given.")
			}
			ws, lib, err := a.library()
			if err != nil {
				return err
			}
			options, err := ws.EmitOptions(o, func(p string) ([]byte, error) { return workspace.ReadFile(a.path(p), p) })
			if err != nil {
				return err
			}
			files, warnings, err := lang.Write(lib, options)
			if err != nil {
				return err
			}
			var said []string
			for _, w := range warnings {
				said = append(said, fmt.Sprintf("%s: %s", o.As, w))
			}
			a.remarkAll("warning", said)
			return a.writeEmitted(files, out)
		},
	}
	f := c.Flags()
	f.StringVar(&o.As, "as", "css", "the `LANGUAGE` to write")
	f.StringVarP(&out, "output", "o", "", "the `FILE` or folder to write (default: stdout)")
	f.StringVar(&o.Unit, "unit", "px", "the `UNIT` of dimensions: px or rem")
	f.StringVar(&o.Prefix, "prefix", "", "a `WORD` before every name")
	f.StringSliceVar(&o.Only, "only", nil, "write only these `GROUPS` and tokens")
	f.StringVar(&o.Form, "form", "", "the `FORM`: nested or flat (json, ts); class or fragment (css-classes)")
	f.StringVar(&o.Package, "package", "", "the `PACKAGE` of Kotlin")
	f.StringVar(&o.Template, "template", "", "the `FILE` of a Go text/template")
	return c
}

// writeEmitted writes generated files: one to stdout or a file, several into a folder or one after another.
func (a *app) writeEmitted(files []emit.File, out string) error {
	if len(files) == 1 && files[0].Path == "" {
		return a.writeText(out, files[0].Text)
	}
	for i, f := range files {
		if out == "" || out == "-" {
			if i > 0 {
				a.print("\n")
			}
			a.print("%s\n", a.term.dim("# "+f.Path))
			if err := a.document([]byte(f.Text)); err != nil {
				return err
			}
			continue
		}
		if err := a.writeText(filepath.Join(out, filepath.FromSlash(f.Path)), f.Text); err != nil {
			return err
		}
	}
	return nil
}
