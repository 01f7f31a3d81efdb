package job

import (
	"path"
	"strings"

	"archetyp/workspace"
)

// Served are the outputs of a workspace by the address they are served under, beside the guide: each under its own
// path, and the first of its kind as tokens.css and tokens.json.
func Served(ws *workspace.Workspace) (map[string]string, error) {
	lock, err := ws.ReadLock()
	if err != nil {
		return nil, err
	}
	out := map[string]string{}
	for p := range lock.Outputs {
		if !strings.HasPrefix(p, path.Clean(ws.Config.Guide.To)+"/") {
			out[p] = p
		}
	}
	for _, o := range ws.Config.Outputs {
		name := "tokens." + o.As
		if _, taken := out[name]; !taken && (o.As == "css" || o.As == "json") {
			out[name] = path.Clean(o.To)
		}
	}
	return out, nil
}
