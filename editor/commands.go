package editor

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"

	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/job"
	"archetyp/workspace"
)

// The commands that clients may run.
const (
	makePicture  = "archetyp.makePicture"
	focusElement = "archetyp.focus"
	showElement  = "archetyp.show"
	digestText   = "archetyp.digest"
)

var commands = map[string]func(ctx context.Context, c *call, args []json.RawMessage) (any, error){
	makePicture: runPicture, focusElement: runFocus, showElement: runShow, digestText: runDigest,
}

func commandNames() []string { return []string{makePicture, focusElement, showElement, digestText} }

// execute runs a command.
func execute(ctx context.Context, c *call, p *struct {
	Command   string            `json:"command"`
	Arguments []json.RawMessage `json:"arguments"`
}) (any, error) {
	run, ok := commands[p.Command]
	if !ok {
		return nil, hint.New("there is no command "+p.Command, "")
	}
	result, err := run(ctx, c, p.Arguments)
	if err != nil {
		c.message(messageError, err.Error())
	}
	return result, err
}

// focusRequest names an element of the last sync.
type focusRequest struct {
	URI    string `json:"uri"`
	Source string `json:"source"`
	Index  int    `json:"index"`
}

// element is the element that a request names.
func (c *call) element(ctx context.Context, args []json.RawMessage) (*space, *job.Answers, *design.Element, error) {
	var q focusRequest
	if len(args) != 1 || json.Unmarshal(args[0], &q) != nil {
		return nil, nil, nil, hint.New("the command needs an element", "It is meant for actions and lenses.")
	}
	sp := c.spaceOf(pathOf(q.URI))
	if sp == nil {
		return nil, nil, nil, fmt.Errorf("there is no workspace around %s", q.URI)
	}
	a := sp.now(ctx)
	if a == nil {
		return nil, nil, nil, fmt.Errorf("the workspace cannot be read")
	}
	for _, p := range a.Elements() {
		if p.Source == q.Source && p.Index == q.Index {
			if e := a.Find(ctx, p); e != nil {
				return sp, a, e, nil
			}
		}
	}
	return nil, nil, nil, fmt.Errorf("%s has no such element any more; sync, and try again", q.Source)
}

// runFocus makes an element the focused one.
func runFocus(ctx context.Context, c *call, args []json.RawMessage) (any, error) {
	sp, a, e, err := c.element(ctx, args)
	if err != nil {
		return nil, err
	}
	ws, ok, err := workspace.Find(sp.dir)
	if err != nil || !ok {
		return nil, err
	}
	defer ws.Close()
	f, err := job.FocusOn(ws, e.Screen.Document.Name, []*design.Element{e})
	if err == nil {
		sp.sayFocus(a, f)
	}
	return f, err
}

// runShow opens the drawing at an element.
func runShow(ctx context.Context, c *call, args []json.RawMessage) (any, error) {
	sp, _, e, err := c.element(ctx, args)
	if err != nil {
		return nil, err
	}
	at := c.placeOf(sp, e)
	if !c.client.showDocument {
		c.message(messageInfo, fmt.Sprintf("%s: %s, line %d", e.Title(), e.Screen.File(), e.Position.Line))
		return at, nil
	}
	c.work.Go(func() {
		_ = c.conn.Call(c.ctx, "window/showDocument", map[string]any{"uri": at.URI, "takeFocus": true, "selection": at.Range}, nil)
	})
	return at, nil
}

// runDigest answers the SHA-256 of a document as it is known here, so that a client can see whether both have the same
// text.
func runDigest(_ context.Context, c *call, args []json.RawMessage) (any, error) {
	var uri string
	if len(args) != 1 || json.Unmarshal(args[0], &uri) != nil || c.docs[uri] == nil {
		return nil, hint.New(digestText+" needs the URI of an open document", "")
	}
	sum := sha256.Sum256([]byte(c.docs[uri].text.string))
	return hex.EncodeToString(sum[:]), nil
}
