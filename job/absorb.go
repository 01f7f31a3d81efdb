package job

import (
	"fmt"
	"path"
	"path/filepath"
	"strings"

	"archetyp/core/token"
	"archetyp/core/token/absorb"
	"archetyp/core/token/emit"
	"archetyp/workspace"
)

// AbsorbOptions say what to do about edits that need a decision.
type AbsorbOptions struct {
	Prefer string                       // where both sides changed: tokens or code; "" leaves it open
	Settle map[string]string            // the same for single tokens, by path
	Accept func(edit *absorb.Edit) bool // whether to make an added token, or remove one; nil for no
	Base   []string                     // conditions of a foreign file that count as holding everywhere
	DryRun bool
}

// Absorbed is what became of a generated file's edits.
type Absorbed struct {
	File    string
	Done    []*absorb.Edit // taken into the tokens
	Dropped []*absorb.Edit // given up for what the tokens say
	Open    []*absorb.Edit // conflicts, and tokens to add or remove, that wait for a word
	Left    []absorb.Left  // edits that no token can say
	Files   []string       // token files written
}

// Complete reports whether nothing of the file is left to take or to decide.
func (a *Absorbed) Complete() bool { return len(a.Open)+len(a.Left) == 0 }

// Absorb takes the edits of a generated file into the token files.
func Absorb(ws *workspace.Workspace, file string, o AbsorbOptions) (*Absorbed, error) {
	lock, err := ws.ReadLock()
	if err != nil {
		return nil, err
	}
	edit, err := EditTokens(ws)
	if err != nil {
		return nil, err
	}
	out, lang, err := outputOf(ws, file)
	if err != nil {
		return nil, err
	}
	data, err := ws.ReadFile(file)
	if err != nil {
		return nil, err
	}
	in, err := (&generated{ws, out, lang, file, data}).compare(lock, edit.Library)
	if err != nil {
		return nil, err
	}
	in.Base = o.Base
	plan := absorb.Make(in)
	a := &Absorbed{File: file, Left: plan.Left}
	for _, e := range plan.Edits {
		a.decide(e, o)
	}
	if o.DryRun {
		return a, nil
	}
	for _, e := range a.Done {
		if err := take(edit, e); err != nil {
			return nil, err
		}
	}
	change := &workspace.Change{}
	if _, ours := lock.Outputs[file]; ours && a.Complete() {
		if lock.Absorbed == nil {
			lock.Absorbed = map[string]string{}
		}
		lock.Absorbed[file] = workspace.Hash(data)
		text, err := lock.JSON()
		if err != nil {
			return nil, err
		}
		change.Put(ws, workspace.Memory, workspace.LockName, text)
	}
	a.Files, err = edit.Apply(change)
	return a, err
}

// decide sorts an edit into what is done, dropped and open.
func (a *Absorbed) decide(e *absorb.Edit, o AbsorbOptions) {
	prefer := o.Prefer
	if p := o.Settle[e.Path]; p != "" {
		prefer = p
	}
	switch {
	case e.Conflict() && prefer == "tokens":
		a.Dropped = append(a.Dropped, e)
	case e.Conflict() && prefer != "code":
		a.Open = append(a.Open, e)
	case e.Kind == "changed" || o.Accept != nil && o.Accept(e):
		a.Done = append(a.Done, e)
	default:
		a.Open = append(a.Open, e)
	}
}

// take makes one edit in the token files.
func take(edit *TokenEdit, e *absorb.Edit) error {
	if e.Kind == "removed" {
		_, err := edit.Remove(e.Path, e.Context)
		return err
	}
	_, _, err := edit.Set(&token.Token{Path: e.Path, Type: e.Type, Value: e.Value, Own: e.Own}, e.Context)
	return err
}

// outputOf finds the output that a file is of; a file that is none is read by its ending.
func outputOf(ws *workspace.Workspace, file string) (workspace.Output, absorb.Language, error) {
	for _, o := range ws.Config.Outputs {
		lang, ok := absorb.Languages[o.As]
		if path.Clean(o.To) != file && !strings.HasPrefix(file, path.Clean(o.To)+"/") {
			continue
		}
		if !ok {
			return o, lang, &workspace.FileError{File: file, Msg: "edits of " + o.As + " outputs cannot be taken back",
				Hint: "Make the edit in the token files; css, scss and json can be taken back."}
		}
		return o, lang, nil
	}
	as := strings.TrimPrefix(filepath.Ext(file), ".")
	lang, ok := absorb.Languages[as]
	if !ok {
		return workspace.Output{}, lang, &workspace.FileError{File: file,
			Msg: "this is no output of the workspace, and no CSS, SCSS or JSON"}
	}
	return workspace.Output{As: as, To: file}, lang, nil
}

// generated is a file of an output, as it is now.
type generated struct {
	ws     *workspace.Workspace
	output workspace.Output
	lang   absorb.Language
	file   string
	data   []byte
}

// compare reads what an output said when it was written, what the file says, and what it would say now.
func (g *generated) compare(lock *workspace.Lock, lib *token.Library) (*absorb.Input, error) {
	o, lang, file := g.output, g.lang, g.file
	options, err := g.ws.EmitOptions(o, g.ws.ReadFile)
	if err != nil {
		return nil, err
	}
	in := &absorb.Input{Language: lang, Options: options, Library: lib, File: file}
	if in.Now, err = lang.Read(g.data, file); err != nil {
		return nil, err
	}
	say := func(lib *token.Library) ([]absorb.Declaration, error) {
		files, _, err := output(g.ws, o, lib)
		if err != nil {
			return nil, err
		}
		for _, f := range files {
			if path.Join(path.Clean(o.To), f.Path) == file {
				return readBack(lang, f, file)
			}
		}
		return nil, fmt.Errorf("%s: the output makes no such file any more", file)
	}
	if len(lib.Base.Tokens) > 0 {
		if in.Fresh, err = say(lib); err != nil {
			return nil, err
		}
	}
	if _, wrote := lock.Outputs[file]; wrote {
		if in.Written, err = say(lock.Library()); err != nil {
			return nil, err
		}
	}
	return in, nil
}

// readBack reads a file that was just made; one without anything in it says nothing.
func readBack(lang absorb.Language, f emit.File, file string) ([]absorb.Declaration, error) {
	list, err := lang.Read([]byte(f.Text), file)
	if err != nil {
		return nil, nil
	}
	return list, nil
}

// EditedOutputs lists the generated files that somebody edited since they were written.
func EditedOutputs(ws *workspace.Workspace) ([]string, error) {
	lock, err := ws.ReadLock()
	if err != nil {
		return nil, err
	}
	var out []string
	for _, p := range sortedKeys(lock.Outputs) {
		if ws.Protected(p) != "" { // the catalogue is made and edited
			continue
		}
		data, err := ws.ReadFile(p)
		if h := workspace.Hash(data); err == nil && h != lock.Outputs[p] && h != lock.Absorbed[p] {
			out = append(out, p)
		}
	}
	return out, nil
}

// CanAbsorb reports whether a generated file's edits can be taken back.
func CanAbsorb(ws *workspace.Workspace, file string) bool {
	for _, o := range ws.Config.Outputs {
		if _, ok := absorb.Languages[o.As]; ok && path.Clean(o.To) == file {
			return true
		}
	}
	return false
}
