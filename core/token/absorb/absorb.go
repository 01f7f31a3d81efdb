// Package absorb takes edits of generated files back into tokens. In go what an output said when it was written, what
// it says now and the tokens as they are; out come the edits of tokens that would make it say so, and where both sides
// changed, conflicts.
package absorb

import (
	"fmt"
	"math"
	"strings"

	"archetyp/core/markup"
	"archetyp/core/token"
	"archetyp/core/token/emit"
)

// Declaration is a value in a generated file.
type Declaration struct {
	Where string // how its context is reached there; "" for where nothing is chosen
	Name  string // as the language writes it
	Text  string // the value as CSS
	markup.Position
}

// Language reads one kind of generated file.
type Language struct {
	Read func(data []byte, file string) ([]Declaration, error)
	// name is what a token is called there, refs how one is referred to, and where what contexts are called.
	name  func(path string, o emit.Options) string
	refs  func(text string) (name string, ok bool)
	where func(lib *token.Library, c token.Context, o emit.Options) []string
	// literal reports whether the language knows no references.
	literal bool
}

// Languages are those that can be read back, by the name of their output.
var Languages = map[string]Language{"css": cssFile, "scss": scssFile, "json": jsonFile}

// Edit is a change of one token in one context.
type Edit struct {
	Kind    string // changed, added, removed
	Path    string
	Context string // "scheme.dark"; "" where nothing is chosen
	Name    string // in the generated file
	Old     string // what the file said when it was written, as CSS
	New     string // what it says now
	Tokens  string // what the tokens say now, where that is a third thing: then both sides have changed
	Type    token.Type
	Value   token.Value
	Own     token.Own
	markup.Position
}

// Conflict reports whether the tokens were changed, too, and otherwise.
func (e *Edit) Conflict() bool { return e.Tokens != "" }

// Plan is what there is to take back.
type Plan struct {
	Edits []*Edit
	// Left is what was edited and cannot be taken back, with why.
	Left []Left
}

// Left is an edit that no token can say.
type Left struct {
	Name, Where, Text, Why string
	markup.Position
}

// Input is what a plan is made of.
type Input struct {
	Language Language
	Options  emit.Options
	Written  []Declaration  // what the output said when it was written; nil where that is not known
	Now      []Declaration  // what the file says
	Fresh    []Declaration  // what the output would say now
	Library  *token.Library // the tokens now
	Base     []string       // conditions that hold where nothing is chosen, beside the root
	File     string
}

type key struct{ where, name string }

func index(list []Declaration) (map[key]*Declaration, []key) {
	out := make(map[key]*Declaration, len(list))
	var order []key
	for i := range list {
		k := key{list[i].Where, list[i].Name}
		if _, twice := out[k]; !twice {
			order = append(order, k)
		}
		out[k] = &list[i] // the last one counts, as in CSS
	}
	return out, order
}

// Make compares the three readings and plans the edits.
func Make(in *Input) *Plan {
	p := &planner{in: in, plan: &Plan{}, done: map[editAt]*Edit{}}
	p.paths = map[string]target{}
	for _, set := range in.sets() {
		for _, t := range set.Tokens {
			n := in.Language.name(t.Path, in.Options)
			p.paths[n] = target{t.Path, false}
			if t.Type == token.Typography {
				p.paths[n+"-letter-spacing"] = target{t.Path, true}
			}
		}
	}
	for _, w := range in.Base {
		for _, list := range [][]Declaration{in.Written, in.Now, in.Fresh} {
			for i := range list {
				if list[i].Where == w {
					list[i].Where = ""
				}
			}
		}
	}
	p.contexts = map[string]*token.Context{}
	for i := range in.Library.Contexts {
		c := &in.Library.Contexts[i]
		for _, w := range in.Language.where(in.Library, *c, in.Options) {
			p.contexts[w] = c
		}
	}
	written, wrote := index(in.Written)
	now, order := index(in.Now)
	fresh, _ := index(in.Fresh)
	for _, k := range order {
		d := now[k]
		w, f := written[k], fresh[k]
		if w != nil && p.same(w.Text, d.Text) || w == nil && f != nil && p.same(f.Text, d.Text) {
			continue
		}
		if _, known := p.paths[k.name]; known {
			p.changed(d, w, f)
		} else {
			p.fresh = append(p.fresh, d)
		}
	}
	p.additions()
	for _, k := range wrote {
		if now[k] == nil && fresh[k] != nil {
			p.removed(written[k], fresh[k])
		}
	}
	return p.plan
}

func (in *Input) sets() []*token.Set {
	out := []*token.Set{in.Library.Base}
	for _, c := range in.Library.Contexts {
		if !c.Default {
			out = append(out, c.Set)
		}
	}
	return out
}

// target is the token that a name stands for; spacing says it is the letter spacing that goes with typography.
type target struct {
	path    string
	spacing bool
}

type planner struct {
	in       *Input
	plan     *Plan
	paths    map[string]target
	contexts map[string]*token.Context
	done     map[editAt]*Edit
	fresh    []*Declaration // of names that stand for no token yet
	groups   map[string]string
	// announced are the paths of tokens about to be added.
	announced map[string]bool
	begun     map[string]bool // groups that they lie in
}

// same reports whether two texts mean the same value.
func (p *planner) same(a, b string) bool {
	clean := func(s string) string {
		s = strings.Join(strings.Fields(s), " ")
		if strings.HasPrefix(s, "#") { // a colour; names are told apart by letter case
			s = strings.ToLower(s)
		}
		return s
	}
	return a == b || clean(a) == clean(b)
}

func (p *planner) leave(d *Declaration, why string) {
	p.plan.Left = append(p.plan.Left, Left{d.Name, d.Where, d.Text, why, d.Position})
}

// set is the tokens that hold where a declaration stands; ok is false where no single context does.
func (p *planner) set(where string) (set *token.Set, context string, ok bool) {
	if where == "" {
		return p.in.Library.Base, "", true
	}
	c := p.contexts[where]
	switch {
	case c == nil:
		return nil, "", false
	case c.Default: // the same as where nothing is chosen
		return c.Set, "", true
	}
	return c.Set, c.Key(), true
}

func (p *planner) reader(set *token.Set) *values {
	root := p.in.Options.Root
	if root == 0 {
		root = 16
	}
	return &values{set: set, root: root, refs: func(text string) (string, bool) {
		name, ok := p.in.Language.refs(text)
		if !ok {
			return "", false
		}
		t, known := p.paths[name]
		return t.path, known && !t.spacing
	}}
}

func text(d *Declaration) string {
	if d == nil {
		return ""
	}
	return d.Text
}

// changed plans the edit of a declaration that says something new.
func (p *planner) changed(d, written, fresh *Declaration) {
	set, context, ok := p.set(d.Where)
	if !ok {
		p.leave(d, "it stands where no single context holds; make the edit in the token file")
		return
	}
	to, kind := p.paths[d.Name], "changed"
	t := set.Get(to.path)
	if t == nil {
		p.leave(d, "the token does not hold here")
		return
	}
	if p.announced[to.path] { // about to be added where nothing is chosen; here it has another value
		kind = "added"
	}
	r := p.reader(set)
	e := p.done[editAt{context, to.path}]
	if e == nil {
		e = &Edit{Kind: kind, Path: to.path, Context: context, Type: t.Type, Value: t.Value, Own: t.Own}
	}
	var err error
	if to.spacing {
		err = p.spacing(r, e, t, d.Text)
	} else {
		err = p.value(r, e, t, d.Text)
	}
	if err != nil {
		p.leave(d, err.Error())
		return
	}
	if e.Name == "" && sameValue(e, t) {
		return // the same value, written otherwise
	}
	e.Name, e.Position, e.Old, e.New = d.Name, d.Position, text(written), d.Text
	if f := text(fresh); fresh != nil && (written == nil || !p.same(f, text(written))) && !p.same(f, d.Text) {
		e.Tokens = f
	}
	p.put(context, e, d)
}

// editAt is what an edit is about.
type editAt struct{ context, path string }

// put adds an edit; a token edited in two places of one context has to say the same in both.
func (p *planner) put(context string, e *Edit, d *Declaration) {
	k := editAt{context, e.Path}
	if old := p.done[k]; old != nil {
		if old != e && old.Value.JSON() != e.Value.JSON() {
			p.leave(d, fmt.Sprintf("line %d says %s for the same token", old.Line, old.New))
		}
		return
	}
	p.done[k] = e
	p.plan.Edits = append(p.plan.Edits, e)
}

func sameValue(e *Edit, t *token.Token) bool {
	return e.Value.JSON() == t.Value.JSON() && e.Own.Equal(t.Own)
}

// value reads a token's new value. Where it is typography, the letter spacing stays.
func (p *planner) value(r *values, e *Edit, t *token.Token, text string) error {
	end := r.set.Resolve(t)
	got, err := r.read(text, t.Type, end.Value)
	if err != nil {
		return err
	}
	if t.Type == token.Typography && got.Value.Alias == "" {
		was := e.Value
		if was.Alias != "" {
			was = end.Value
		}
		got.Value.Parts["letterSpacing"] = was.Parts["letterSpacing"]
		keep(&got.Own, e.Own, "letterSpacing")
	}
	if t.Type == token.Gradient && t.Value.Alias == "" {
		settle(got.Value, t.Value)
	}
	if t.Value.Alias == "" {
		got.Value = p.keepAliases(r.set, got.Value, t.Value)
	}
	e.Value, e.Own = got.Value, got.Own
	return nil
}

// settle leaves stops where they were, as far as the four decimals of the file can tell.
func settle(now, was token.Value) {
	for i, s := range now.List {
		if i < len(was.List) {
			a, b := s.Parts["position"].Number, was.List[i].Parts["position"].Number
			if a != nil && (b == nil || math.Abs(*a-*b) < 2e-6) {
				s.Parts["position"] = was.List[i].Parts["position"]
			}
		}
	}
}

func keep(to *token.Own, from token.Own, part string) {
	if w, ok := from.Written[part]; ok {
		written(to, part, w)
	}
}

// keepAliases leaves references in a composite value alone where the output writes out what they come to: some
// languages know no references, and no output refers to tokens it does not hold.
func (p *planner) keepAliases(set *token.Set, now, was token.Value) token.Value {
	if was.Alias != "" && now.Alias == "" {
		if (p.in.Language.literal || !p.in.Options.Includes(was.Alias)) && set.ResolvePart(was).JSON() == now.JSON() {
			return was
		}
		return now
	}
	for name, part := range now.Parts {
		now.Parts[name] = p.keepAliases(set, part, was.Parts[name])
	}
	for i, item := range now.List {
		now.List[i] = p.keepAliases(set, item, likeList(was, i))
	}
	return now
}

func (p *planner) spacing(r *values, e *Edit, t *token.Token, text string) error {
	base := e.Value
	if base.Alias != "" {
		if name, ok := p.in.Language.refs(strings.Replace(text, "-letter-spacing", "", 1)); ok &&
			p.paths[name].path == base.Alias {
			return nil // it goes along with the alias
		}
		base = r.set.ResolvePart(base)
	}
	out := token.Value{Parts: map[string]token.Value{}}
	for k, v := range base.Parts {
		out.Parts[k] = v
	}
	own := token.Own{Written: map[string]string{}}
	for k, v := range e.Own.Written {
		own.Written[k] = v
	}
	if err := r.spacing(out, &own, text, out.Parts["letterSpacing"]); err != nil {
		return err
	}
	e.Value, e.Own = out, own
	return nil
}

// additions plans tokens for the names that stand for none yet: those that refer to others behind them.
func (p *planner) additions() {
	left := p.fresh
	for len(left) > 0 {
		var again []*Declaration
		for _, d := range left {
			if _, known := p.paths[d.Name]; known {
				p.changed(d, nil, nil)
			} else if !p.added(d) {
				again = append(again, d)
			}
		}
		if len(again) == len(left) {
			break
		}
		left = again
	}
	for _, d := range left {
		if _, known := p.paths[d.Name]; !known {
			p.leave(d, p.unread(d))
		}
	}
}

// unread says why a new name's value cannot be a token.
func (p *planner) unread(d *Declaration) string {
	if _, _, ok := p.set(d.Where); !ok {
		return fmt.Sprintf("edits within %s belong to no context; --where treats them as if they stood everywhere", d.Where)
	}
	for _, f := range []string{"calc(", "clamp(", "min(", "max(", "env(", "color-mix("} {
		if strings.Contains(d.Text, f) {
			return f + ") is worked out by browsers; the token format has no place for it"
		}
	}
	if i := strings.Index(d.Text, "var("); i >= 0 {
		name, _, _ := strings.Cut(strings.TrimPrefix(d.Text[i:], "var("), ")")
		if _, known := p.paths[strings.TrimSpace(name)]; !known {
			return fmt.Sprintf("it refers to %s, which is no token", name)
		}
	}
	return "the type of this value is not clear"
}

// added plans the token of a new name; false where its value cannot be read, or not yet.
func (p *planner) added(d *Declaration) bool {
	set, context, ok := p.set(d.Where)
	if !ok {
		return false
	}
	r := p.reader(set)
	got, ok := r.infer(d.Name, d.Text)
	if !ok {
		return false
	}
	path := p.propose(d.Name)
	if !named(path) {
		return false
	}
	if n := r.neighbour(path, got.Type); n.Length != nil { // 1.5rem among pixels is written in pixels
		if again, err := r.read(d.Text, got.Type, n); err == nil {
			got = again
		}
	}
	p.paths[d.Name] = target{path, false}
	if got.Type == token.Typography {
		p.paths[d.Name+"-letter-spacing"] = target{path, true}
	}
	e := &Edit{Kind: "added", Path: path, Context: context, Name: d.Name, New: d.Text, Type: got.Type, Value: got.Value,
		Own: got.Own, Position: d.Position}
	p.put(context, e, d)
	if p.announced == nil {
		p.announced, p.begun = map[string]bool{}, map[string]bool{}
	}
	p.announced[path] = true
	for g := parent(path); g != ""; g = parent(g) {
		p.begun[g] = true
	}
	for _, s := range p.in.sets() {
		s.Announce(&token.Token{Path: path, Type: got.Type, Value: got.Value, Own: got.Own})
	}
	return true
}

// removed plans the removal of a token whose declaration is gone.
func (p *planner) removed(written, fresh *Declaration) {
	to, known := p.paths[written.Name]
	_, context, ok := p.set(written.Where)
	if !known || !ok || to.spacing || context == "" && written.Where != "" {
		return
	}
	if p.done[editAt{context, to.path}] != nil {
		return
	}
	e := &Edit{Kind: "removed", Path: to.path, Context: context, Name: written.Name, Old: written.Text,
		Position: written.Position}
	if !p.same(fresh.Text, written.Text) {
		e.Tokens = fresh.Text
	}
	p.done[editAt{context, to.path}] = e
	p.plan.Edits = append(p.plan.Edits, e)
}
