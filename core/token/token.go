// Package token reads, resolves, edits, harvests and names design tokens in the Design Tokens Format. Files come in
// as bytes, a Set of tokens with typed values comes out; edits change the bytes in place.
// https://www.designtokens.org/tr/2025.10/format/
package token

import (
	"fmt"
	"sort"
	"strings"

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
	Words   []string // fontFamily; strokeStyle as a keyword
	Bezier  *[4]float64
	Parts   map[string]Value // of a composite: typography, border, transition, one shadow, strokeStyle
	List    []Value          // shadow layers, or gradient stops (Parts color, position)
	Boolean *bool            // inset
}

// Token is one token as it stands in a file.
type Token struct {
	Path        string // names joined with dots
	Type        Type
	Value       Value
	Description string
	Deprecated  bool
	Angle       *float64 // of a gradient, in degrees as CSS counts, from our extension
	Radial      bool     // a radial gradient, from our extension
	File        string
	Position    markup.Position
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

// Set is the tokens of a workspace, in file order.
type Set struct {
	Tokens   []*Token
	Warnings []Error
	byPath   map[string]*Token
}

// Get finds a token by path.
func (s *Set) Get(path string) *Token { return s.byPath[path] }

// Merge joins the tokens of several files. A path that stands in two files is an error.
func Merge(files ...[]*Token) (*Set, error) {
	s := &Set{byPath: map[string]*Token{}}
	for _, f := range files {
		for _, t := range f {
			if old := s.byPath[t.Path]; old != nil {
				return nil, &Error{t.File, t.Position, t.Path, fmt.Sprintf("this token stands in %s:%d too", old.File, old.Position.Line)}
			}
			s.byPath[t.Path] = t
			s.Tokens = append(s.Tokens, t)
		}
	}
	return s, s.check()
}

// check resolves every alias: what it points to must be there, be of the same type, and not lead back.
func (s *Set) check() error {
	for _, t := range s.Tokens {
		if err := s.checkValue(t, t.Value, t.Type); err != nil {
			return err
		}
		if t.Type == "" {
			end, err := s.Resolve(t)
			if err != nil {
				return err
			}
			t.Type = end.Type
		}
	}
	return nil
}

func (s *Set) checkValue(t *Token, v Value, want Type) error {
	fail := func(format string, args ...any) error {
		return &Error{t.File, t.Position, t.Path, fmt.Sprintf(format, args...)}
	}
	if v.Alias != "" {
		end, err := s.follow(v.Alias, t)
		if err != nil {
			return err
		}
		if want != "" && end.Type != "" && end.Type != want {
			return fail("{%s} is a %s, where a %s is wanted", v.Alias, end.Type, want)
		}
	}
	for _, p := range sortedParts(v.Parts) {
		if err := s.checkValue(t, v.Parts[p], ""); err != nil {
			return err
		}
	}
	for _, p := range v.List {
		if err := s.checkValue(t, p, ""); err != nil {
			return err
		}
	}
	return nil
}

func sortedParts(m map[string]Value) []string {
	var out []string
	for k := range m {
		out = append(out, k)
	}
	sort.Strings(out)
	return out
}

// follow goes along aliases from a path to the token that has a value.
func (s *Set) follow(path string, from *Token) (*Token, error) {
	var chain []string
	for {
		for _, c := range chain {
			if c == path {
				return nil, &Error{from.File, from.Position, from.Path, "the alias leads back to itself: " + strings.Join(append(chain, path), " → ")}
			}
		}
		chain = append(chain, path)
		t := s.byPath[path]
		if t == nil {
			return nil, &Error{from.File, from.Position, from.Path, fmt.Sprintf("there is no token {%s}", path)}
		}
		if t.Value.Alias == "" {
			return t, nil
		}
		path = t.Value.Alias
	}
}

// Resolve follows a token's aliases to the token that has the value.
func (s *Set) Resolve(t *Token) (*Token, error) {
	if t.Value.Alias == "" {
		return t, nil
	}
	return s.follow(t.Value.Alias, t)
}

// ResolvePart follows the aliases of a value.
func (s *Set) ResolvePart(v Value) Value {
	for i := 0; v.Alias != "" && i < 100; i++ {
		t := s.byPath[v.Alias]
		if t == nil {
			return Value{}
		}
		v = t.Value
	}
	return v
}
