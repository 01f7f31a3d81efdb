package job

import (
	"fmt"
	"maps"
	"path"
	"sort"
	"strings"

	"archetyp/core/design"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/workspace"
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
	r.findTokens()
	r.harvest = token.Collect(r.docs, r.set, token.Scales{Space: cfg.SpaceStep(), Type: cfg.TypeScale()}, r.names.Held)
	r.harvest.Shift(r.formerPlaces(), r.set)
	s := &r.report.Summary
	s.Apart = aparts(r.harvest, r.set)
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
	err := Side(len(outputs), func(i int) (err error) {
		made[i], warned[i], err = r.output(outputs[i], r.lib)
		return err
	})
	if err != nil {
		return err
	}
	for i, o := range outputs {
		for _, w := range warned[i] {
			r.report.Summary.Warnings = append(r.report.Summary.Warnings, o.To+": "+w.String())
		}
		for _, f := range made[i] {
			if err := r.put(workspace.Generated, "the output "+o.To, path.Join(o.To, f.Path), []byte(f.Text)); err != nil {
				return err
			}
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
		if _, input := l.Inputs[p]; input || r.kinds[p] == workspace.Texts {
			l.Inputs[p] = l.Outputs[p] // it is read again next time
		}
	}
	for p, h := range r.kept {
		l.Outputs[p] = h
	}
	r.carryOver(l)
	index := map[string]string{}
	for _, d := range r.docs {
		for i, e := range d.All() {
			l.Elements[d.Name] = append(l.Elements[d.Name], lockedElement(e))
			index[token.Place(d.Name, e.Screen.Name, e.Path)] = fmt.Sprintf("%s#%d", d.Name, i)
		}
	}
	uses, behind := map[string][]string{}, map[string]map[string][]string{}
	put := func(path, shown, at string) {
		if behind[path] == nil {
			behind[path] = map[string][]string{}
		}
		behind[path][shown] = append(behind[path][shown], at)
	}
	for _, f := range r.harvest.Found {
		for i := range f.Uses {
			u := &f.Uses[i]
			at := index[token.Place(u.Source, u.Screen, u.Element)]
			if f.Token != "" {
				uses[f.Token] = append(uses[f.Token], at)
			}
			name, shown := r.names.use(f, u)
			if name.Path != "" && name.Path != f.Token {
				uses[name.Path] = append(uses[name.Path], at)
			}
			if name.Behind {
				put(name.Path, shown, at)
			}
		}
	}
	for path, places := range r.former { // a change that waits for a word keeps its places
		for _, f := range r.harvest.Found {
			if f.Changes != path {
				continue
			}
			for _, p := range places {
				if at, ok := index[p]; ok {
					uses[path] = append(uses[path], at)
				}
			}
		}
	}
	for path, t := range r.lock.TokensNow() { // of drawings that could not be read
		for _, u := range t.Uses {
			if r.isUnread(u) {
				uses[path] = append(uses[path], u)
			}
		}
		for text, list := range t.Behind {
			for _, u := range list {
				if r.isUnread(u) {
					put(path, text, u)
				}
			}
		}
	}
	for p, list := range uses {
		sort.Strings(list)
		uses[p] = compact(list)
	}
	for _, m := range behind {
		for text, list := range m {
			sort.Strings(list)
			m[text] = compact(list)
		}
	}
	l.SetTokens(r.lib, uses, behind, r.harvest.Counts(r.set))
	data, err := l.JSON()
	if err != nil {
		return err
	}
	return r.put(workspace.Memory, "the lock", workspace.LockName, data)
}

// unreadMark makes the hash of a source in the lock another one than it ever has.
const unreadMark = "?"

// isUnread reports whether a use in the lock is of a source that could not be read.
func (r *run) isUnread(use string) bool {
	source, _, _ := strings.Cut(use, "#")
	return r.unread[source]
}

// carryOver keeps in the lock what it knows of sources that could not be read, and of what was made of them. They count as
// changed, so that the next run looks at them again.
func (r *run) carryOver(l *workspace.Lock) {
	if len(r.unread) == 0 {
		return
	}
	l.Inputs = maps.Clone(l.Inputs)
	for source := range r.unread {
		delete(l.Inputs, source)
		if was, ok := r.lock.Inputs[source]; ok {
			l.Inputs[source] = strings.TrimSuffix(was, unreadMark) + unreadMark
			l.Elements[source] = r.lock.Elements[source]
		}
	}
	for p, h := range r.lock.Outputs {
		if _, made := l.Outputs[p]; !made {
			l.Outputs[p] = h
		}
	}
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

// formerPlaces are the places each token had at the last sync, found again in what was read now. Tokens whose own value
// has changed since are left out: there it was not the drawing that changed.
func (r *run) formerPlaces() map[string][]string {
	r.former = map[string][]string{}
	place := map[string]string{} // source#index of the lock → place now
	for _, d := range r.docs {
		for was, e := range r.thenIn(d) {
			place[fmt.Sprintf("%s#%d", d.Name, was)] = token.Place(d.Name, e.Screen.Name, e.Path)
		}
	}
	for path, t := range r.lock.TokensNow() {
		now := r.set.Get(path)
		if now == nil || now.Value.Alias != "" || now.Value.JSON() != t.Value {
			continue
		}
		for _, u := range t.Uses {
			if p, ok := place[u]; ok {
				r.former[path] = append(r.former[path], p)
			}
		}
	}
	return r.former
}

// thenIn finds the elements of the last sync in a document, by their place in the lock.
func (r *run) thenIn(d *design.Document) map[int]*design.Element {
	if r.lock.Inputs[d.Name] == "" {
		return nil
	}
	return then(r.lock, d.Name, r.lock.Inputs[d.Name] == r.hashes[d.Name], d)
}

// findTokens makes what finds the token of a value, all that elements hold included.
func (r *run) findTokens() {
	h := newHolder(r.lock, r.set)
	held := map[*design.Element][]emit.Holding{}
	for _, d := range r.docs {
		for e, list := range h.of(d.Name, d, r.thenIn(d)) {
			held[e] = list
		}
	}
	r.names = Names{emit.NewFinder(r.set, held), r.ws, r.set}
}

// Accepted is a token that was written.
type Accepted struct {
	Kind    string `json:"kind"` // added, changed
	Token   string `json:"token"`
	Context string `json:"context,omitempty"`
	Old     string `json:"old,omitempty"`
	New     string `json:"new"`
	File    string `json:"file"`
}

// Accept writes the accepted proposals of a reading into the token files, and lists what it wrote.
func Accept(ws *workspace.Workspace, reading *Reading, accept func(path string) bool, with *workspace.Change) ([]Accepted, error) {
	edit, err := EditTokens(ws)
	if err != nil {
		return nil, err
	}
	out := []Accepted{}
	have := reading.Tokens.Base
	fresh := reading.Harvest.Tokens(accept, have)
	if len(fresh) > 0 {
		file, err := ws.TokenFile(reading.Tokens)
		if err != nil {
			return nil, err
		}
		ed, err := edit.editor(file)
		if err != nil {
			return nil, err
		}
		if err := ed.Add(fresh); err != nil {
			return nil, err
		}
		all := token.NewSet(append(append([]*token.Token(nil), have.Tokens...), fresh...))
		for _, t := range fresh {
			out = append(out, Accepted{Kind: "added", Token: t.Path, New: emit.Literal(all, t), File: file})
		}
	}
	set := func(f *token.Found, path, context, kind, old string) error {
		t := f.At(path, have)
		file, added, err := edit.Set(t, context)
		if added {
			kind = "added"
		}
		out = append(out, Accepted{kind, path, context, old, f.Text, file})
		return err
	}
	for _, f := range reading.Harvest.Found {
		var err error
		switch {
		case f.Changes != "" && accept(f.Changes):
			err = set(f, f.Changes, "", "changed", emit.Literal(have, have.Get(f.Changes)))
		case f.Wide() != "" && accept(f.Wide()):
			context := WideContext(reading.Tokens)
			if context == "" {
				continue
			}
			err = set(f, f.Wide(), context, "added", "")
		}
		if err != nil {
			return nil, err
		}
	}
	_, err = edit.Apply(with)
	return out, err
}

// WideContext is the context for wide screens: the last of a modifier named after widths; "" for none.
func WideContext(lib *token.Library) string {
	for _, m := range lib.Modifiers() {
		switch strings.ToLower(m.Name) {
		case "width", "viewport", "screen", "size", "breakpoint":
			if n := len(m.Contexts); n > 1 {
				return m.Name + "." + m.Contexts[n-1]
			}
		}
	}
	return ""
}
