package sync

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"runtime"
	"sort"
	"strings"

	"archetyp/core/emit"
	"archetyp/core/token"
	"archetyp/workspace"

	"golang.org/x/sync/errgroup"
)

// tokens reads the token files, harvests the drawings' values, and where told adds the proposals to the files.
func (r *run) tokens() error {
	lib, err := r.ws.ReadTokens(r.files)
	if err != nil {
		return err
	}
	r.lib, r.set = lib, lib.Base
	for _, w := range lib.Warnings() {
		r.report.Summary.Warnings = append(r.report.Summary.Warnings, w.Error())
	}
	cfg := &r.ws.Config
	r.harvest = token.Collect(r.docs, r.set, token.Scales{Space: cfg.SpaceStep(), Type: cfg.TypeScale()})
	s := &r.report.Summary
	s.Tokens, s.Proposals = len(r.set.Tokens), r.harvest.Proposals()
	for _, f := range r.harvest.Found {
		if !f.Notable() {
			continue
		}
		msg := f.Text + " is almost " + f.Near
		if f.Off != "" {
			msg = fmt.Sprintf("%s is off the scale, nearest is %s", f.Text, f.Off)
		}
		s.Look = append(s.Look, fmt.Sprintf("%s (%s)", msg, where(f.Uses)))
	}
	return nil
}

// where words the uses of a value: the first, and how many more.
func where(uses []token.Use) string {
	u := uses[0]
	s := u.Screen + ": " + u.Element
	if n := len(uses) - 1; n > 0 {
		s += fmt.Sprintf(" and %d more", n)
	}
	return s
}

// emit writes the outputs of the configuration.
func (r *run) emit() error {
	if len(r.set.Tokens) == 0 {
		return nil
	}
	outputs := r.ws.Config.Outputs
	made := make([][]emit.File, len(outputs))
	warned := make([][]emit.Warning, len(outputs))
	errs := make([]error, len(outputs))
	var g errgroup.Group
	g.SetLimit(runtime.NumCPU())
	for i, o := range outputs {
		g.Go(func() error {
			made[i], warned[i], errs[i] = r.output(o, r.lib)
			return nil
		})
	}
	_ = g.Wait() // errors stand by index, so that the same one is told every time
	for i, o := range outputs {
		if errs[i] != nil {
			return errs[i]
		}
		for _, w := range warned[i] {
			r.report.Summary.Warnings = append(r.report.Summary.Warnings, o.To+": "+w.String())
		}
		for _, f := range made[i] {
			r.put(path.Join(o.To, f.Path), []byte(f.Text))
		}
	}
	return nil
}

// output is what an output of the configuration makes of tokens.
func (r *run) output(o workspace.Output, lib *token.Library) ([]emit.File, []emit.Warning, error) {
	options, err := r.ws.EmitOptions(o, r.ws.Reader(r.files))
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

// newLock puts together the lock of this run.
func (r *run) newLock() error {
	summary, err := jsonOf(r.report.Summary)
	if err != nil {
		return err
	}
	l := &workspace.Lock{Program: Program, Inputs: r.hashes, Linked: r.links, Outputs: map[string]string{}, Summary: summary,
		Elements: map[string][]workspace.LockedElement{}}
	for p, data := range r.outputs {
		l.Outputs[p] = workspace.Hash(data)
		if _, input := l.Inputs[p]; input || strings.HasPrefix(p, "text/") {
			l.Inputs[p] = l.Outputs[p] // it is read again next time
		}
	}
	index := map[string]string{}
	for _, d := range r.docs {
		for i, e := range d.All() {
			l.Elements[d.Name] = append(l.Elements[d.Name], lockedElement(e))
			index[d.Name+"\x00"+e.Screen.Name+"\x00"+e.Path] = fmt.Sprintf("%s#%d", d.Name, i)
		}
	}
	uses := map[string][]string{}
	for _, f := range r.harvest.Found {
		for _, u := range f.Uses {
			if f.Token != "" {
				uses[f.Token] = append(uses[f.Token], index[u.Source+"\x00"+u.Screen+"\x00"+u.Element])
			}
		}
	}
	for p, list := range uses {
		sort.Strings(list)
		uses[p] = compact(list)
	}
	l.SetTokens(r.lib, uses)
	data, err := l.JSON()
	if err != nil {
		return err
	}
	r.put(workspace.LockName, data)
	return nil
}

func compact(list []string) []string {
	var out []string
	for i, s := range list {
		if i == 0 || s != list[i-1] {
			out = append(out, s)
		}
	}
	return out
}

// Accept adds the accepted proposals of a reading to the workspace's token file, and lists what it added.
func Accept(ws *workspace.Workspace, reading *Reading, accept func(path string) bool) ([]string, error) {
	add := reading.Harvest.Tokens(accept, reading.Tokens.Base)
	if len(add) == 0 {
		return []string{}, nil
	}
	file, err := ws.TokenFile(reading.Tokens)
	if err != nil {
		return nil, err
	}
	old, err := os.ReadFile(ws.Path(file))
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return nil, &workspace.FileError{File: file, Msg: err.Error()}
	}
	data, err := token.Add(old, file, add)
	if err != nil {
		return nil, &workspace.FileError{File: file, Msg: err.Error()}
	}
	var out []string
	for _, t := range add {
		out = append(out, t.Path)
	}
	return out, ws.Apply(&workspace.Change{Write: map[string][]byte{file: data}})
}
