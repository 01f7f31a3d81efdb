package job

import (
	"bytes"
	"path"
	"strings"

	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/workspace"
)

// RenameEverywhere follows a renaming of tokens where the workspace itself names them: in the lock, in "only:" of the
// configuration, and in the var() of drawings. It lists the files that change besides the lock.
func RenameEverywhere(ws *workspace.Workspace, c *workspace.Change, from, to string,
	renamed map[string]string) ([]string, error) {
	var files []string
	if data, ok := workspace.RenameOnly(ws.Raw, from, to); ok {
		c.Put(ws, workspace.Settings, workspace.ConfigName, data)
		files = append(files, workspace.ConfigName)
	}
	names := map[string]string{}
	for was, now := range renamed {
		for _, prefix := range append([]string{""}, prefixes(ws)...) {
			names[emit.Property(was, prefix)] = emit.Property(now, prefix)
		}
	}
	sources, err := ws.Sources()
	if err != nil {
		return nil, err
	}
	for _, p := range sources {
		if strings.HasPrefix(p, "../") || path.Ext(p) != ".svg" {
			continue
		}
		data, err := ws.ReadFile(p)
		if err != nil {
			return nil, err
		}
		if out := renameVars(data, names); !bytes.Equal(out, data) {
			c.Put(ws, workspace.Drawings, p, out)
			files = append(files, p)
		}
	}
	lock, err := ws.ReadLock()
	if err != nil || len(lock.Tokens) == 0 {
		return files, err
	}
	lock.Rename(renamed)
	data, err := lock.JSON()
	if err != nil {
		return nil, err
	}
	c.Put(ws, workspace.Memory, workspace.LockName, data)
	return files, nil
}

// prefixes are those that outputs of CSS have.
func prefixes(ws *workspace.Workspace) (out []string) {
	for _, o := range ws.Config.Outputs {
		if strings.HasPrefix(o.As, "css") && o.Prefix != "" {
			out = append(out, o.Prefix)
		}
	}
	return out
}

// renameVars puts other names into var(--name) and var(--name, …), and changes nothing else.
func renameVars(data []byte, names map[string]string) []byte {
	var out []byte
	for {
		i := bytes.Index(data, []byte("var("))
		if i < 0 {
			return append(out, data...)
		}
		i += len("var(")
		for i < len(data) && (data[i] == ' ' || data[i] == '\t' || data[i] == '\n') {
			i++
		}
		end := i
		for end < len(data) && nameByte(data[end]) {
			end++
		}
		out = append(out, data[:i]...)
		if to, ok := names[string(data[i:end])]; ok {
			out = append(out, to...)
		} else {
			out = append(out, data[i:end]...)
		}
		data = data[end:]
	}
}

// Renamings are the tokens that a renaming of a token or group renames, and what to.
func Renamings(set *token.Set, from, to string) map[string]string {
	out := map[string]string{}
	for _, t := range set.Tokens {
		if t.Path == from || strings.HasPrefix(t.Path, from+".") {
			out[t.Path] = to + strings.TrimPrefix(t.Path, from)
		}
	}
	return out
}
