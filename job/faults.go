package job

import (
	"errors"

	"archetyp/core/token"
	"archetyp/workspace"
)

// Fault is what is wrong at a place of a file.
type Fault struct {
	Line, Column int
	Msg          string
	Warning      bool
}

// Faults are what is wrong with a token file or the configuration of a workspace, with the contents of some files
// replaced.
func Faults(dir string, buffers map[string][]byte, file string) (out []Fault) {
	disk, ok, err := workspace.Find(dir)
	if err == nil && ok {
		var ws *workspace.Workspace
		defer disk.Close()
		if ws, err = disk.Over(buffers); err == nil {
			var lib *token.Library
			if lib, err = ws.LoadTokens(ws.Reader(nil), nil); err == nil {
				for _, list := range []struct {
					faults  []token.Error
					warning bool
				}{{lib.Faults(), false}, {lib.Warnings(), true}} {
					for _, e := range list.faults {
						if e.File == file {
							out = append(out, Fault{e.Line, e.Column, e.Msg, list.warning})
						}
					}
				}
				return out
			}
		}
	}
	var fe *workspace.FileError
	if errors.As(err, &fe) && fe.File == file {
		msg := fe.Msg
		if fe.Hint != "" {
			msg += "\n" + fe.Hint
		}
		out = append(out, Fault{max(fe.Line, 1), max(fe.Column, 1), msg, false})
	}
	return out
}
