package job

import (
	"context"
	"fmt"
	"path"
	"strings"

	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/core/remark"
	"archetyp/workspace"
)

// GuideRemarks are what pages of a guide that is served with remarks may ask for, by name. With commit, each remark is
// committed at once, under the reader's name.
func GuideRemarks(commit bool) map[string]func(ctx context.Context, ws *workspace.Workspace, request []byte) (any, error) {
	return map[string]func(ctx context.Context, ws *workspace.Workspace, request []byte) (any, error){
		"remark-kinds": func(_ context.Context, ws *workspace.Workspace, _ []byte) (any, error) {
			return map[string]any{"kinds": ws.Config.RemarkKinds()}, nil
		},
		"remark": func(ctx context.Context, ws *workspace.Workspace, request []byte) (any, error) {
			return guideRemark(ctx, ws, request, commit)
		},
		"reply": func(_ context.Context, ws *workspace.Workspace, request []byte) (any, error) {
			return guideReply(ws, request, commit)
		},
	}
}

// mostRemark is how long the words of a reader may be, in bytes.
const mostRemark = 20_000

// reader is who writes in the guide, as they say themselves.
func reader(by, words string) (string, error) {
	switch {
	case strings.TrimSpace(by) == "":
		return "", hint.New("a remark needs your name", "Write it beside the words.")
	case len(by) > 80:
		return "", hint.New("this name is too long", "80 letters at most.")
	case len(words) > mostRemark:
		return "", hint.New("these words are too many", fmt.Sprintf("%d letters at most.", mostRemark))
	}
	return remark.Name(by), nil
}

func guideRemark(ctx context.Context, ws *workspace.Workspace, request []byte, commit bool) (any, error) {
	var q struct {
		Source, Screen, Selector, Kind, By, Words string
		Point                                     []float64
	}
	if err := strictly(request, &q); err != nil {
		return nil, err
	}
	by, err := reader(q.By, q.Words)
	if err != nil {
		return nil, err
	}
	doc, err := sourceOf(ctx, ws, q.Source)
	if err != nil {
		return nil, err
	}
	t := Target{Source: q.Source, Doc: doc}
	if q.Selector == "" {
		for _, s := range doc.Screens {
			if s.Name == q.Screen {
				t.Elements = []*design.Element{s.Root}
			}
		}
	} else if t.Elements, err = selected(doc, q.Selector); err != nil {
		return nil, err
	}
	r, err := AddRemark(ctx, ws, t, NewRemark{Text: q.Words, Kind: q.Kind, By: by, Point: q.Point})
	if err != nil {
		return nil, err
	}
	file := path.Join(remark.Dir, r.ID+".md")
	return map[string]string{"remark": r.ID, "file": file}, committed(ws, commit, file, by, "Remark on "+r.Where())
}

func guideReply(ws *workspace.Workspace, request []byte, commit bool) (any, error) {
	var q struct{ Remark, By, Words, Does string }
	if err := strictly(request, &q); err != nil {
		return nil, err
	}
	by, err := reader(q.By, q.Words)
	if err != nil {
		return nil, err
	}
	if q.Does != "" && q.Does != remark.Closes && q.Does != remark.Reopens {
		return nil, fmt.Errorf("a reply closes or reopens, or does neither")
	}
	r, err := ReplyTo(ws, q.Remark, Reply{Text: q.Words, By: by, Does: q.Does})
	if err != nil {
		return nil, err
	}
	file := path.Join(remark.Dir, r.ID+".md")
	return map[string]string{"remark": r.ID, "file": file}, committed(ws, commit, file, by, "Reply on "+r.Where())
}

// committed commits the file of a remark under a reader's name.
func committed(ws *workspace.Workspace, commit bool, file, by, message string) error {
	if !commit {
		return nil
	}
	return ws.CommitFile(file, message, by)
}
