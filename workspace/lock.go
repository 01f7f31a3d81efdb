package workspace

import (
	"bytes"
	"encoding/json"
	"errors"
	"io/fs"
	"os"

	"archetyp/core/match"
)

// LockName is the file that holds what the last sync saw and wrote.
const LockName = "archetyp.lock"

// Lock is what the last sync saw and wrote. It is committed; it holds nothing of the machine or the time.
type Lock struct {
	Version  int                        `json:"version"`
	Program  string                     `json:"program"`
	Inputs   map[string]string          `json:"inputs"`           // path → hash of what was read
	Linked   map[string]string          `json:"linked,omitempty"` // path → hash of what the sources link to
	Outputs  map[string]string          `json:"outputs"`          // path → hash of what was written
	Summary  json.RawMessage            `json:"summary"`          // what the sync had to say, kept for when nothing changed
	Tokens   map[string]LockedToken     `json:"tokens"`
	Elements map[string][]LockedElement `json:"elements"` // by source
}

// LockedToken is a token's value and the elements that used it.
type LockedToken struct {
	Value string   `json:"value"`
	Uses  []string `json:"uses,omitempty"` // source#index into its elements
}

// LockedElement is an element as it was: who it is, and a hash of its facts.
type LockedElement struct {
	match.Identity
	Facts string `json:"facts"`
}

// lockVersion changes when the lock's form does; a lock of another form counts as none.
const lockVersion = 1

// ReadLock reads the lock; an absent or older one is empty. A damaged one is an error.
func (w *Workspace) ReadLock() (*Lock, error) {
	empty := &Lock{Version: lockVersion}
	data, err := os.ReadFile(w.Path(LockName))
	if errors.Is(err, fs.ErrNotExist) {
		return empty, nil
	}
	if err != nil {
		return nil, &FileError{File: LockName, Msg: reason(err)}
	}
	var l Lock
	if err := json.Unmarshal(data, &l); err != nil {
		return nil, &FileError{File: LockName, Msg: "damaged: " + err.Error(), Hint: "Take it from version control, or remove it and run sync: everything is then made anew."}
	}
	if l.Version != lockVersion {
		return empty, nil
	}
	return &l, nil
}

// JSON writes the lock: one line an entry, sorted, so that it merges well and never differs by chance.
func (l *Lock) JSON() ([]byte, error) {
	l.Version = lockVersion
	var b bytes.Buffer
	enc := json.NewEncoder(&b)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", " ")
	if err := enc.Encode(l); err != nil {
		return nil, err
	}
	return b.Bytes(), nil
}
