package cli

import (
	"fmt"
	"maps"
	"slices"

	"archetyp/core/diff"
	"archetyp/job"
)

// sharedUses lists the components of libraries that the workspace's drawings use.
func (a *app) sharedUses() error {
	ws, err := a.workspaceHere()
	if err != nil {
		return err
	}
	list, unread, err := job.SharedComponents(ws)
	if err != nil {
		return err
	}
	a.warnUnread(unread)
	if a.json {
		return a.printJSON(map[string]any{"libraries": librariesJSON(list)})
	}
	t := a.term
	for _, l := range list {
		a.print("%s  %s\n", t.bold(l.Name), t.dim(l.Where+", "+plural(len(l.Uses), "use", "uses")))
		by := map[string][]diff.Shared{}
		for _, u := range l.Uses {
			by[u.Component] = append(by[u.Component], u)
		}
		var rows [][]string
		for _, name := range slices.Sorted(maps.Keys(by)) {
			differ := 0
			for _, u := range by[name] {
				if len(u.Facts) > 0 || u.Parts {
					differ++
				}
			}
			note := t.good("as in the library")
			if differ > 0 {
				note = t.warn(fmt.Sprintf("%d of them differ", differ))
			}
			rows = append(rows, []string{"  " + name, fmt.Sprintf("%d ×", len(by[name])), note})
			for _, u := range by[name] {
				if len(u.Facts) > 0 || u.Parts {
					rows = append(rows, []string{"", "", t.dim(u.Ours.Screen.Name + ": " + u.Ours.Title() + ": " + u.Difference())})
				}
			}
		}
		a.print("%s", t.table(nil, rows, 1))
	}
	return nil
}

type sharedUseJSON struct {
	Component string            `json:"component"`
	Source    string            `json:"source"`
	Screen    string            `json:"screen"`
	Element   string            `json:"element"`
	Selector  string            `json:"selector"`
	Found     string            `json:"found"`
	Parts     bool              `json:"otherParts"`
	Facts     []diff.FactChange `json:"facts"` // was: in the library; is: here
}

func librariesJSON(list []job.LibraryUse) any {
	out := []map[string]any{}
	for _, l := range list {
		uses := []sharedUseJSON{}
		for _, u := range l.Uses {
			uses = append(uses, sharedUseJSON{u.Component, u.Ours.Screen.Document.Name, u.Ours.Screen.Name, u.Ours.Title(), u.Ours.Selector(), string(u.Why), u.Parts,
				append([]diff.FactChange{}, u.Facts...)})
		}
		out = append(out, map[string]any{"name": l.Name, "from": l.Where, "uses": uses})
	}
	return out
}
