package job

import (
	"context"

	"archetyp/core/token"
	"archetyp/workspace"
)

// CountUses counts the uses of a token by source, and lists the drawings that cannot be read. Where no input has
// changed since the last sync, the lock knows the answer.
func CountUses(ctx context.Context, ws *workspace.Workspace, t *token.Token) (counts map[string]int, unread []error,
	err error) {
	in, err := findInputs(ws)
	if err != nil {
		return nil, nil, err
	}
	lock, err := ws.ReadLock()
	if err != nil {
		return nil, nil, err
	}
	if in.same(lock) {
		return lock.TokensNow()[t.Path].Counts, nil, nil
	}
	s, err := read(ctx, in, Options{})
	if err != nil {
		return nil, nil, err
	}
	return s.Harvest.Counts(s.Tokens.Base)[t.Path], s.Unread, nil
}
