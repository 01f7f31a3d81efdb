package job

import (
	"bytes"
	"io/fs"
	"path"
	"path/filepath"
	"sort"
	"strings"

	"archetyp/core/text/exchange"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/workspace"
)

// CodeUse is a place in code that names a token.
type CodeUse struct {
	File   string // from the folder looked through, with forward slashes
	Line   int
	Column int
	Name   string // as it stands there
	Token  string // path
	Text   string // of the line
	offset int
}

// maxCode is the largest file of code that is looked through, in bytes.
const maxCode = 4 << 20

// CodeNames are what tokens are called in code, in the languages the workspace writes.
func CodeNames(ws *workspace.Workspace, set *token.Set) map[string]string {
	out := map[string]string{}
	for _, t := range set.Tokens {
		for _, n := range codeNames(ws, t.Path) {
			out[n] = t.Path
			if t.Type == token.Typography && strings.ContainsAny(n[:1], "-$") {
				out[n+"-letter-spacing"] = t.Path
			}
		}
	}
	return out
}

// codeNames are the names of one token, in the order of the outputs.
func codeNames(ws *workspace.Workspace, token string) []string {
	var out []string
	for _, o := range ws.Config.Outputs {
		if n := emit.Name(o.As, token, o.Prefix); n != "" {
			out = append(out, n)
		}
	}
	return append(out, emit.Property(token, ""))
}

// CodeUses looks a folder through for names of tokens, leaving out what sync generates, version control and installed
// packages.
func CodeUses(ws *workspace.Workspace, dir string, names map[string]string) ([]CodeUse, error) {
	generated, err := generatedFiles(ws)
	if err != nil {
		return nil, err
	}
	if dir, err = filepath.Abs(dir); err != nil {
		return nil, err
	}
	captures := ws.Path(workspace.CaptureDir) + string(filepath.Separator)
	var out []CodeUse
	wanted := func(file string) bool { return !generated[file] && !strings.HasPrefix(file, captures) }
	err = walkCode(ws, dir, wanted, func(file string, data []byte) error {
		rel, err := filepath.Rel(dir, file)
		out = append(out, usesIn(data, filepath.ToSlash(rel), names)...)
		return err
	})
	sort.SliceStable(out, func(i, j int) bool { return out[i].File < out[j].File })
	return out, err
}

// walkCode reads the text files below a folder that are wanted, those of the workspace as it has them, and leaves out
// folders that begin with a dot and installed packages. Paths are absolute.
func walkCode(ws *workspace.Workspace, dir string, wanted func(file string) bool, visit func(file string, data []byte) error) error {
	dir, err := filepath.Abs(dir)
	if err != nil {
		return err
	}
	return filepath.WalkDir(dir, func(p string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		if d.IsDir() {
			if n := d.Name(); p != dir && (strings.HasPrefix(n, ".") || n == "node_modules") {
				return filepath.SkipDir
			}
			return nil
		}
		info, err := d.Info()
		if err != nil || !info.Mode().IsRegular() || info.Size() > maxCode || !wanted(p) {
			return err
		}
		read := func() ([]byte, error) { return workspace.ReadFile(p, p) }
		if rel, ok := ws.Rel(p); ok {
			read = func() ([]byte, error) { return ws.ReadFile(rel) }
		}
		data, err := read()
		if err != nil || bytes.IndexByte(data[:min(len(data), 8000)], 0) >= 0 {
			return err
		}
		return visit(p, data)
	})
}

// generatedFiles are those that say nothing about use: what sync writes, tokens, the configuration and the lock.
func generatedFiles(ws *workspace.Workspace) (map[string]bool, error) {
	lock, err := ws.ReadLock()
	if err != nil {
		return nil, err
	}
	out := map[string]bool{ws.Path(workspace.ConfigName): true, ws.Path(workspace.LockName): true}
	for p := range lock.Outputs {
		out[ws.Path(p)] = true
	}
	files, err := ws.TokenFiles()
	for _, f := range append(files, ws.Resolver()) {
		out[ws.Path(f)] = true
	}
	return out, err
}

func nameByte(c byte) bool {
	return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || c == '-' || c == '_' || c == '$' ||
		c >= 0x80
}

// usesIn finds whole names: runs of letters, digits, dashes and underscores; and, in quotes, paths with dots.
func usesIn(data []byte, file string, names map[string]string) []CodeUse {
	var out []CodeUse
	line, start := 1, 0
	put := func(from, to int, path string) {
		end := bytes.IndexByte(data[from:], '\n')
		if end < 0 {
			end = len(data) - from
		}
		out = append(out, CodeUse{file, line, from - start + 1, string(data[from:to]), path,
			strings.TrimSpace(string(data[start : from+end])), from})
	}
	for i := 0; i < len(data); {
		c := data[i]
		if c == '\n' {
			line, start = line+1, i+1
		}
		if !nameByte(c) {
			i++
			continue
		}
		k := i
		for k < len(data) && nameByte(data[k]) {
			k++
		}
		if path, ok := names[string(data[i:k])]; ok {
			put(i, k, path)
		} else if k < len(data) && data[k] == '.' && i > 0 && (data[i-1] == '"' || data[i-1] == '\'' || data[i-1] == '`') {
			e := k
			for e < len(data) && (nameByte(data[e]) || data[e] == '.') {
				e++
			}
			if path, ok := names[string(data[i:e])]; ok && e < len(data) && data[e] == data[i-1] {
				put(i, e, path)
				k = e
			}
		}
		i = k
	}
	return out
}

// RenameInCode puts the new names of renamed tokens into the code below a folder of the workspace, as part of a change.
// It says where.
func RenameInCode(ws *workspace.Workspace, c *workspace.Change, dir string, renamed map[string]string,
	before *token.Set) ([]CodeUse, error) {
	names := map[string]string{} // old name → new name
	all := CodeNames(ws, before)
	with := map[string]string{}
	for name, path := range all {
		if to, ok := renamed[path]; ok {
			names[name] = path
			with[name] = renameName(ws, name, path, to)
		}
	}
	return replaceUses(ws, c, dir, names, with)
}

// RenameKeyInCode puts the new key of a text into the code below a folder of the workspace, as each language writes it,
// as part of a change. It says where.
func RenameKeyInCode(ws *workspace.Workspace, c *workspace.Change, dir, from, to string) ([]CodeUse, error) {
	with := map[string]string{from: to, exchange.CodeName(from): exchange.CodeName(to)}
	names := map[string]string{}
	for n := range with {
		names[n] = from
	}
	return replaceUses(ws, c, dir, names, with)
}

// replaceUses puts other names where names stand in code.
func replaceUses(ws *workspace.Workspace, c *workspace.Change, dir string, names, with map[string]string) ([]CodeUse,
	error) {
	from, ok := ws.Rel(dir)
	if !ok {
		return nil, &workspace.FileError{File: dir, Msg: "lies outside the workspace",
			Hint: "Nothing was changed. Only code inside the workspace is changed with it."}
	}
	uses, err := CodeUses(ws, dir, names)
	if err != nil {
		return nil, err
	}
	files := map[string][]byte{}
	for i := len(uses) - 1; i >= 0; i-- { // from behind, so that places in front stay
		u := uses[i]
		data, ok := files[u.File]
		if !ok {
			if data, err = ws.ReadFile(path.Join(from, u.File)); err != nil {
				return nil, err
			}
		}
		if end := u.offset + len(u.Name); end > len(data) || string(data[u.offset:end]) != u.Name {
			return nil, &workspace.FileError{File: path.Join(from, u.File), Msg: "was changed while the command was running",
				Hint: "Nothing was written. Run the command again."}
		}
		files[u.File] = append(data[:u.offset:u.offset], append([]byte(with[u.Name]), data[u.offset+len(u.Name):]...)...)
	}
	for name, data := range files {
		c.Put(ws, workspace.Code, path.Join(from, name), data)
	}
	return uses, nil
}

// renameName is what a name becomes in its language.
func renameName(ws *workspace.Workspace, name, from, to string) string {
	olds, news := codeNames(ws, from), codeNames(ws, to)
	for i, old := range olds {
		if rest, ok := strings.CutPrefix(name, old); ok && (rest == "" || rest == "-letter-spacing") {
			return news[i] + rest
		}
	}
	return name
}
