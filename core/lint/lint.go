// Package lint finds what in code does not agree with the tokens: values that a token has, names that no token has,
// tokens that are to go. Code as it is read and the tokens go in; findings with their places and mends come out. A rule
// is one entry in the table of rules.
package lint

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"sync"

	"archetyp/core/audit"
	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/offer"
	"archetyp/core/styletext"
	"archetyp/core/token"

	lexer "github.com/tdewolff/parse/v2/css"
)

// Rule is one thing that is looked for.
type Rule struct {
	Name  string
	Level audit.Level // where the configuration gives none
	What  string      // for lists of the rules
}

// Rules are all of them.
var Rules = []Rule{
	{"raw-value", audit.Note, "values that are a token"},
	{"almost-token", audit.Warning, "colours that look the same as a token's"},
	{"off-scale", audit.Note, "spaces and sizes of type that stand beside the scale"},
	{"unknown-property", audit.Warning, "custom properties that no token has and no rule declares"},
	{"deprecated-token", audit.Warning, "tokens that are deprecated"},
	{"generated-file", audit.Warning, "edits of a file that is generated, in the editor"},
}

// Named finds a rule; nil for none.
func Named(name string) *Rule {
	if i := slices.IndexFunc(Rules, func(r Rule) bool { return r.Name == name }); i >= 0 {
		return &Rules[i]
	}
	return nil
}

// Finding is a value or a name that a rule found.
type Finding struct {
	Rule     string
	Level    audit.Level
	Msg      string
	From, To int    // bytes of the text
	Replace  string // what to write instead; "" where that is not known
	Title    string // of the replacement
	Token    string // path, where one is concerned
}

// In is what code is judged by.
type In struct {
	Desk   *offer.Desk
	Scales token.Scales
	Levels map[string]audit.Level // by rule, as the configuration says
	Known  map[string]bool        // custom properties that other files declare; nil if unknown
	Also   func() map[string]bool // further ones, asked for where a name is not known; nil for none
	Most   int                    // findings to look for; 0 for all
	Memory *Memory                // of declarations that were judged before; nil for none
}

// Memory is what was found in declarations, so that those that did not change are not judged again. It is good for one
// Desk and one set of levels.
type Memory struct {
	mu    sync.Mutex
	found map[[2]string][]Finding // by property and value; places count from the value's
}

// mostRemembered is how many declarations are remembered.
const mostRemembered = 100_000

func (m *Memory) get(d *styletext.Decl) (list []Finding, ok bool) {
	m.mu.Lock()
	defer m.mu.Unlock()
	list, ok = m.found[[2]string{d.Property, d.Value}]
	return list, ok
}

func (m *Memory) put(d *styletext.Decl, list []Finding) {
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.found == nil || len(m.found) >= mostRemembered {
		m.found = map[[2]string][]Finding{}
	}
	m.found[[2]string{strings.Clone(d.Property), strings.Clone(d.Value)}] = list // not the text they stand in
}

// checker looks one text over.
type checker struct {
	*In
	own   map[string]bool // custom properties that the text declares
	out   []Finding
	loose bool // what was found depends on more than the tokens
}

// Check looks a text over. Findings stand in the order of the text.
func (in *In) Check(c *styletext.Code) []Finding {
	k := &checker{In: in, own: map[string]bool{}}
	for i := range c.Decls {
		if p := c.Decls[i].Property; strings.HasPrefix(p, "--") {
			k.own[p] = true
		}
	}
	for i := range c.Decls {
		if d := &c.Decls[i]; d.Colon >= 0 && d.Value != "" {
			k.remembered(d)
		}
		if in.Most > 0 && len(k.out) >= in.Most {
			break
		}
	}
	slices.SortStableFunc(k.out, func(a, b Finding) int { return cmp.Compare(a.From, b.From) })
	return k.out
}

// Level is how grave a rule is here.
func (in *In) Level(rule string) audit.Level {
	if l, ok := in.Levels[rule]; ok {
		return l
	}
	return Named(rule).Level
}

// find notes a finding; rules that are off find nothing.
func (k *checker) find(f Finding) {
	if f.Level = k.Level(f.Rule); f.Level != audit.Off {
		k.out = append(k.out, f)
	}
}

// remembered looks at one value, or remembers what was found in it.
func (k *checker) remembered(d *styletext.Decl) {
	if k.Memory == nil {
		k.declaration(d)
		return
	}
	list, ok := k.Memory.get(d)
	if !ok {
		at := *d
		at.ValueAt = 0
		one := &checker{In: k.In, own: k.own}
		one.declaration(&at)
		if list = one.out; !one.loose {
			k.Memory.put(d, list)
		}
	}
	for _, f := range list {
		f.From += d.ValueAt
		f.To += d.ValueAt
		k.out = append(k.out, f)
	}
}

// declaration looks at one value.
func (k *checker) declaration(d *styletext.Decl) {
	toks := css.Tokenize(d.Value)
	kinds := offer.KindsFor(d.Property)
	if k.whole(d, kinds) {
		return
	}
	if slices.Contains(kinds, offer.Color) || slices.Contains(kinds, offer.Shadow) {
		for _, at := range color.In(d.Value) {
			k.colour(d, at)
		}
	}
	for i := 0; i < len(toks); i++ {
		switch t := toks[i]; t.Type {
		case lexer.FunctionToken:
			switch end := css.Closing(toks, i); strings.ToLower(t.Data) {
			case "var(":
				k.property(d, toks[i+1:end])
			case "url(":
				i = end
			}
		case lexer.DimensionToken:
			k.length(d, kinds, t)
		}
	}
}

// whole looks for a token that is all of a value: a shadow, a gradient, a type style.
func (k *checker) whole(d *styletext.Decl, kinds []offer.Kind) bool {
	for _, kind := range kinds {
		switch kind {
		case offer.Shadow, offer.Gradient, offer.Type, offer.Border, offer.Transition, offer.Family, offer.Weight, offer.Easing, offer.Time:
		default:
			continue
		}
		if e := k.Desk.Valued(kind, normal(d.Value), d.Property); e != nil {
			k.raw(d, 0, len(d.Value), e)
			return true
		}
	}
	return false
}

// normal is a value with one space between its words.
func normal(v string) string {
	if strings.ContainsAny(v, "\n\t") || strings.Contains(v, "  ") {
		return strings.Join(strings.Fields(v), " ")
	}
	return v
}

// raw notes that a token has a value.
func (k *checker) raw(d *styletext.Decl, from, to int, e *offer.Entry) {
	if strings.HasPrefix(d.Property, "--") || strings.HasPrefix(d.Property, "$") {
		return
	}
	with := "var(" + e.Property + ")"
	k.find(Finding{Rule: "raw-value", From: d.ValueAt + from, To: d.ValueAt + to, Replace: with, Title: "Write " + with, Token: e.Path,
		Msg: fmt.Sprintf("%s is %s", d.Value[from:to], e.Property)})
}

// colour looks at a colour.
func (k *checker) colour(d *styletext.Decl, at color.At) {
	if e := k.Desk.Valued(offer.Color, at.Color.CSS(), d.Property); e != nil {
		k.raw(d, at.From, at.To, e)
		return
	}
	if near := k.Desk.Almost(at.Color); near != nil {
		with := "var(" + near.Property + ")"
		k.find(Finding{Rule: "almost-token", From: d.ValueAt + at.From, To: d.ValueAt + at.To, Replace: with, Title: "Write " + with, Token: near.Path,
			Msg: fmt.Sprintf("%s is almost %s, which is %s", d.Value[at.From:at.To], near.Property, k.Desk.Text(near))})
	}
}

// length looks at a length.
func (k *checker) length(d *styletext.Decl, kinds []offer.Kind, t css.Token) {
	px, ok := k.px(t.Data)
	if !ok || px == 0 || len(kinds) == 0 || kinds[0] == offer.Length { // how large a thing is, is its own affair
		return
	}
	for _, kind := range kinds {
		if kind == offer.Space || kind == offer.Radius || kind == offer.Size || kind == offer.Width {
			if e := k.Desk.Valued(kind, css.Px(px), d.Property); e != nil {
				k.raw(d, t.Offset, t.Offset+len(t.Data), e)
				return
			}
		}
	}
	k.scale(d, kinds, t, px)
}

// scale reports a number that stands beside its scale.
func (k *checker) scale(d *styletext.Decl, kinds []offer.Kind, t css.Token, px float64) {
	step := px
	switch {
	case kinds[0] == offer.Space && k.Scales.Space > 0:
		step = k.Scales.NearestSpace(px)
	case kinds[0] == offer.Size && len(k.Scales.Type) > 0:
		step = k.Scales.NearestType(px)
	}
	if step == px || px < 3 { // hairlines and corrections by a pixel are nobody's steps
		return
	}
	unit := strings.TrimLeft(t.Data, "0123456789.-+")
	with := css.Px(step)
	if unit == "rem" {
		with = css.Num(step/k.Desk.Unit.Root, 4) + "rem"
	}
	k.find(Finding{Rule: "off-scale", From: d.ValueAt + t.Offset, To: d.ValueAt + t.Offset + len(t.Data), Replace: with, Title: "Write " + with,
		Msg: fmt.Sprintf("%s is off the scale; the nearest is %s", t.Data, with)})
}

// px is a length in px; em and the like depend on where they stand.
func (k *checker) px(text string) (float64, bool) {
	l, err := css.ParseLength(text)
	if err != nil {
		return 0, false
	}
	switch l.Unit {
	case "px":
		return l.Value, true
	case "rem":
		return l.Value * k.Desk.Unit.Root, true
	}
	return 0, false
}

// property looks at the name in a var().
func (k *checker) property(d *styletext.Decl, inside []css.Token) {
	i := slices.IndexFunc(inside, func(t css.Token) bool { return strings.HasPrefix(t.Data, "--") })
	if i < 0 {
		return
	}
	name, at := inside[i].Data, d.ValueAt+inside[i].Offset
	if e := k.Desk.Named(name); e != nil {
		if e.Deprecated != "" {
			f := Finding{Rule: "deprecated-token", From: at, To: at + len(name), Token: e.Path, Msg: e.Property + " is deprecated"}
			if e.Deprecated != "deprecated" {
				f.Msg += ": " + e.Deprecated
			}
			if to := k.Desk.Instead(e); to != nil {
				f.Replace, f.Title = to.Property, "Write "+to.Property
			}
			k.find(f)
		}
		return
	}
	k.loose = true // which names there are may change
	if k.own[name] || k.Known == nil || k.Known[name] || len(k.Desk.Entries()) == 0 || k.Also != nil && k.Also()[name] {
		return
	}
	f := Finding{Rule: "unknown-property", From: at, To: at + len(name), Msg: "no token is called " + name}
	if near := k.Desk.Nearest(name); near != "" {
		f.Msg += "; did you mean " + near + "?"
		f.Replace, f.Title = near, "Write "+near
	}
	k.find(f)
}
