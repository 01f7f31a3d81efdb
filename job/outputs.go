package job

import (
	"fmt"
	"path"

	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/workspace"
)

// makeOutputs makes the outputs of the configuration.
func (s *Snapshot) makeOutputs(a *artefacts) (warnings []string, err error) {
	if len(s.Tokens.Base.Tokens) == 0 {
		return nil, nil
	}
	outputs := s.ws.Config.Outputs
	made := make([][]emit.File, len(outputs))
	warned := make([][]emit.Warning, len(outputs))
	err = Parallel(len(outputs), func(i int) (err error) {
		made[i], warned[i], err = output(s.ws, outputs[i], s.Tokens)
		return err
	})
	if err != nil {
		return nil, err
	}
	for i, o := range outputs {
		for _, w := range warned[i] {
			warnings = append(warnings, o.To+": "+w.String())
		}
		for _, f := range made[i] {
			if err := a.put(workspace.Generated, "the output "+o.To, path.Join(o.To, f.Path), []byte(f.Text)); err != nil {
				return nil, err
			}
		}
	}
	return warnings, nil
}

// output is what an output of the configuration makes of tokens.
func output(ws *workspace.Workspace, o workspace.Output, lib *token.Library) ([]emit.File, []emit.Warning, error) {
	options, err := ws.EmitOptions(o, ws.ReadFile)
	if err != nil {
		return nil, nil, err
	}
	lang, _ := emit.Of(o.As) // known: the configuration was checked
	files, warnings, err := lang.Write(lib, options)
	if err != nil {
		err = fmt.Errorf("%s: %w", o.To, err)
	}
	return files, warnings, err
}
