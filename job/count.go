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
	s, err := newSnapshot(ws)
	if err != nil {
		return nil, nil, err
	}
	if s.in.same(s.lock) {
		return s.lock.TokensNow()[t.Path].Counts, nil, nil
	}
	s, err = read(ctx, s.in, Options{})
	if err != nil {
		return nil, nil, err
	}
	return s.Harvest.Counts(s.Tokens.Base)[t.Path], s.Unread, nil
}
