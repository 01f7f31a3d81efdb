package cli

import (
	"errors"
	"os"
	"path/filepath"
	"time"

	"archetyp/core/hint"
	"archetyp/workspace"
)

// open finds the workspace around a folder and takes part in its lock until the command ends. Each is opened once.
func (a *app) open(dir string) (*workspace.Workspace, bool, error) {
	abs, err := filepath.Abs(dir)
	if err != nil {
		return nil, false, err
	}
	if ws, known := a.opened[abs]; known {
		return ws, ws != nil, nil
	}
	ws, ok, err := workspace.Open(abs, a.how, a.options())
	if err != nil {
		return nil, false, err
	}
	if ok {
		for _, other := range a.opened {
			if other != nil && other.Dir == ws.Dir { // found from another folder of it
				ws.Close()
				a.opened[abs] = other
				return other, true, nil
			}
		}
		a.recovered(ws)
	}
	if a.opened == nil {
		a.opened = map[string]*workspace.Workspace{}
	}
	a.opened[abs] = ws
	return ws, ok, nil
}

func (a *app) options() workspace.Options {
	wait := a.wait
	if wait == 0 {
		wait = -1
	}
	return workspace.Options{Wait: wait, Command: a.command, Waiting: func(holder string) {
		if holder == "" {
			holder = "other commands that read the workspace"
		}
		a.say("waiting for %s …\n", holder)
	}}
}

// recovered says what became of writes that were stopped.
func (a *app) recovered(ws *workspace.Workspace) {
	for _, r := range ws.Recovered {
		a.say("%s %s\n", newTerm(a.err, a.color).warn("recovered"), r)
	}
	ws.Recovered = nil
}

// close gives back every lock.
func (a *app) close() {
	for dir, ws := range a.opened {
		if ws != nil {
			ws.Close()
		}
		delete(a.opened, dir)
	}
}

// workspaceHere opens the workspace around the working folder.
func (a *app) workspaceHere() (*workspace.Workspace, error) {
	ws, ok, err := a.open(a.dir)
	if err != nil {
		return nil, err
	}
	if !ok {
		return nil, hint.New("there is no workspace here: no "+workspace.ConfigName+" in this folder or above it",
			"\"archetyp init\" begins one; \"archetyp demo\" shows one.")
	}
	return ws, nil
}

// save writes files that were named with -o, all of them or none, by path from where the command works.
func (a *app) save(files map[string][]byte) error {
	a.close() // nothing more is read
	abs := map[string][]byte{}
	for name, data := range files {
		abs[a.path(name)] = data
	}
	err := workspace.Save(abs, a.options())
	var fe *workspace.FileError
	if errors.As(err, &fe) && len(files) == 1 {
		for name := range files {
			fe.File = name
		}
	}
	return err
}

// sameFile reports whether two paths are of one file.
func (a *app) sameFile(one, other string) bool {
	x, err1 := os.Stat(a.path(one))
	y, err2 := os.Stat(a.path(other))
	return err1 == nil && err2 == nil && os.SameFile(x, y)
}

// mostWait is the longest that --wait takes.
const mostWait = 24 * time.Hour
