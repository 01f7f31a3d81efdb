package job

import (
	"archetyp/core/token"
	"archetyp/workspace"
)

// CountUses counts the uses of a token by source, and lists the drawings that cannot be read. Where no input has changed
// since the last sync, the lock knows the answer.
func CountUses(ws *workspace.Workspace, t *token.Token) (counts map[string]int, unread []error, err error) {
	r := newRun(ws, Options{DryRun: true})
	if err := r.inputs(); err != nil {
		return nil, nil, err
	}
	if r.sameInputs() {
		if err := r.wholeLock(); err != nil {
			return nil, nil, err
		}
		return r.lock.TokensNow()[t.Path].Counts, nil, nil
	}
	reading, err := Read(ws)
	if err != nil {
		return nil, nil, err
	}
	return reading.Harvest.Counts(reading.Tokens.Base)[t.Path], reading.Report.Unread, nil
}
