// Package token reads, resolves, edits, harvests and names design tokens in the Design Tokens Format. Files come in
// as bytes (Parse), a Set of tokens with typed values comes out (Resolve, or a Resolver's contexts); edits change the
// bytes in place.
// https://www.designtokens.org/tr/2025.10/format/
package token

import (
	"fmt"
	"sort"
	"strings"
	"sync/atomic"

	"archetyp/core/color"
	"archetyp/core/markup"
)

// Type is a token type of the format.
type Type string

// The types of 2025.10.
const (
	Color       Type = "color"
	Dimension   Type = "dimension"
	FontFamily  Type = "fontFamily"
	FontWeight  Type = "fontWeight"
	Duration    Type = "duration"
	CubicBezier Type = "cubicBezier"
	Number      Type = "number"
	StrokeStyle Type = "strokeStyle"
	Border      Type = "border"
	Transition  Type = "transition"
	Shadow      Type = "shadow"
	Gradient    Type = "gradient"
	Typography  Type = "typography"
)

// Types are all types, in the order of the format.
var Types = []Type{Color, Dimension, FontFamily, FontWeight, Duration, CubicBezier, Number, StrokeStyle, Border,
	Transition, Shadow, Gradient, Typography}

func known(t Type) bool {
	for _, k := range Types {
		if t == k {
			return true
		}
	}
	return false
}

// Length is a dimension or a duration: a number and its unit (px, rem; ms, s).
type Length struct {
	Value float64
	Unit  string
}

// Value is a token's value, or a part of a composite one: an alias to another token, or exactly one of the others.
type Value struct {
	Alias   string // path of another token, "color.sea.600"
	Color   *color.Color
	Length  *Length
	Number  *float64 // number; fontWeight too, names turned into numbers
	Words   []string // fontFamily; strokeStyle as a keyword; lineCap
	Bezier  *[4]float64
	Parts   map[string]Value // of a composite: typography, border, transition, one shadow, one gradient stop, strokeStyle
	List    []Value          // shadow layers, gradient stops, dashes, or font families where one is an alias
	Boolean *bool            // inset
	Hex     string           // of a colour: the fallback its file states for screens that cannot show it; "" for none
}

// Aliases calls f for every alias in the value, in a fixed order.
func (v Value) Aliases(f func(path string)) {
	if v.Alias != "" {
		f(v.Alias)
	}
	if v.Parts != nil {
		for _, k := range partOrder {
			if p, ok := v.Parts[k]; ok {
				p.Aliases(f)
			}
		}
	}
	for _, p := range v.List {
		p.Aliases(f)
	}
}

// Own is what our key under $extensions holds: what the format has no place for.
type Own struct {
	Angle *float64 // of a linear or conic gradient, in degrees as CSS counts
	Kind  string   // of a gradient: radial or conic; "" for linear
	Shape string   // of a radial gradient, as CSS: "circle at 20% 30%"
	// CSS text by part ("" for the whole value) for units the format lacks: {"letterSpacing": "0.02em"}
	Written map[string]string
}

// Token is one token of a set.
type Token struct {
	Path        string // names joined with dots
	Type        Type
	Value       Value
	Description string
	Deprecated  string // "" for no; else why, "deprecated" where no reason is given
	Own         Own
	File        string
	node        *node  // as it stands in its file
	inherited   bool   // the type is that of a group, not stated by the token
	end         *Token // where its aliases lead, in the set it was made for; nil for not known
}

// Position is where the token's name stands in its file.
func (t *Token) Position() markup.Position {
	if t.node == nil {
		return markup.Position{Line: 1, Column: 1}
	}
	return t.node.file.at(t.node.at)
}

// Same reports whether two tokens say the same, aliases not followed; that both stand at one place is soon seen.
func Same(t, o *Token) bool {
	if t == o || t == nil || o == nil {
		return t == o
	}
	if t.node != nil && t.node == o.node && !t.node.pointed {
		return true
	}
	return t.Type == o.Type && t.Value.JSON() == o.Value.JSON() && t.Own.Equal(o.Own)
}

// Error is a fault in a token file.
type Error struct {
	File string
	markup.Position
	Path string // of the token, where one is concerned
	Msg  string
}

func (e *Error) Error() string {
	s := fmt.Sprintf("%s:%d:%d: ", e.File, e.Line, e.Column)
	if e.Path != "" {
		s += e.Path + ": "
	}
	return s + e.Msg
}

// Set is the tokens of a workspace in one context, in file order.
type Set struct {
	Tokens   []*Token
	Warnings []Error
	Faults   []Error // tokens with a fault are left out of Tokens
	byPath   map[string]*Token
	root     *node
	files    []*File
	loose    bool                                // aliases may lead out of the set
	base     *Set                                // the set this one differs from in a few tokens; nil for none
	spans    map[*node]span                      // where the tokens of a group lie in Tokens
	fresh    []*Token                            // those that were not taken over from base
	users    atomic.Pointer[map[string][]*Token] // known once somebody asked
	rootPx   float64                             // of 1rem; 0 for the usual
}

// span is where the tokens of a group lie, and what they took over from the groups around.
type span struct {
	from, to int
	path     string
	typ      Type
	old      string
}

// Err is the first fault, or nil.
func (s *Set) Err() error {
	if len(s.Faults) == 0 {
		return nil
	}
	return &s.Faults[0]
}

// Get finds a token by path; nil for none.
func (s *Set) Get(path string) *Token {
	if s == nil {
		return nil
	}
	if t := s.byPath[path]; t != nil || s.base == nil {
		return t
	}
	return s.base.byPath[path]
}

// NewSet makes a set of tokens that stand in no file.
func NewSet(tokens []*Token) *Set {
	s := &Set{Tokens: tokens, byPath: make(map[string]*Token, len(tokens))}
	for _, t := range tokens {
		s.byPath[t.Path] = t
	}
	return s
}

// Announce makes a token known to the set that is about to be added to a file.
func (s *Set) Announce(t *Token) {
	s.byPath[t.Path] = t
	s.Tokens = append(s.Tokens, t)
	s.users.Store(nil)
}

// HasGroup reports whether any token lies within a path.
func (s *Set) HasGroup(path string) bool {
	n := s.root
	for _, name := range strings.Split(path, ".") {
		if n == nil || n.token {
			return false
		}
		n = n.kid(name)
	}
	return n != nil && !n.token && len(n.kids) > 0
}

// Resolve follows a token's aliases to the token that has the value. Sets without faults have no broken alias; in
// others the last token that could be reached is given.
func (s *Set) Resolve(t *Token) *Token {
	if t.end != nil && s.base == nil {
		return t.end
	}
	for i := 0; t.Value.Alias != "" && i <= len(s.Tokens); i++ {
		next := s.Get(t.Value.Alias)
		if next == nil {
			return t
		}
		t = next
	}
	return t
}

// Chain is a token and those its aliases lead over, to the one that has the value.
func (s *Set) Chain(t *Token) []*Token {
	out := []*Token{t}
	for t.Value.Alias != "" && len(out) <= len(s.Tokens) {
		if t = s.Get(t.Value.Alias); t == nil {
			break
		}
		out = append(out, t)
	}
	return out
}

// ResolvePart follows the aliases of a value.
func (s *Set) ResolvePart(v Value) Value {
	for i := 0; v.Alias != "" && i <= len(s.Tokens); i++ {
		t := s.Get(v.Alias)
		if t == nil {
			return Value{}
		}
		v = t.Value
	}
	return v
}

// Users lists by path the tokens whose values point to each token, whole or in a part.
func (s *Set) Users() map[string][]*Token {
	if known := s.users.Load(); known != nil {
		return *known
	}
	out := make(map[string][]*Token, len(s.Tokens))
	for _, t := range s.Tokens {
		t.Value.Aliases(func(path string) {
			if l := out[path]; len(l) == 0 || l[len(l)-1] != t {
				out[path] = append(l, t)
			}
		})
	}
	s.users.Store(&out)
	return out
}

func sortedParts(m map[string]Value) []string {
	var out []string
	for k := range m {
		out = append(out, k)
	}
	sort.Strings(out)
	return out
}
