package emit

import (
	"regexp"
	"strconv"
	"strings"
	"sync"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/token"
)

// Finder finds the token that stands for a value as the facts of a drawing print it. It is the one place for it: code,
// answers and the guide ask here. Kinds are color:text, color:surface, color:border, color:icon, color, radius, space,
// shadow, gradient, fontFamily, and type, whose value is a TypeKey.
type Finder struct {
	byRole, plain map[drawn]string // paths
	set           *token.Set
	held          map[*design.Element][]Holding
	on            func(*design.Screen) *Finder // nil where all screens have the same tokens
}

// drawn is a value as a drawing prints it, and of what kind or for what use.
type drawn struct{ kind, value string }

// Holding is a token that an element goes on having while the drawing shows another value than the token has.
type Holding struct {
	Path  string // of the token
	Shown string // what the drawing shows, as Drawn prints it
}

// Full is the value to ask for where a radius is as large as it can be: the end of a pill.
const Full = "full"

// Found is a token that stands for a value; Behind says that the drawing shows another value than it has.
type Found struct {
	Path   string // "" for none
	Behind bool
}

// NewFinder makes a finder of a set, which may be nil, and of the tokens that elements hold.
func NewFinder(set *token.Set, held map[*design.Element][]Holding) *Finder {
	f := &Finder{byRole: map[drawn]string{}, plain: map[drawn]string{}, set: set, held: held}
	if set == nil {
		return f
	}
	for _, t := range set.Tokens {
		at, key := f.plain, drawnKind(t)
		if t.Type == token.Color && t.Value.Alias != "" {
			at, key = f.byRole, token.Role(t.Path)
		}
		value := Drawn(set, t)
		if t.Full(set) {
			value = Full
		}
		if d := (drawn{key, value}); at[d] == "" {
			at[d] = t.Path
		}
	}
	return f
}

// On has screens answered from other sets than the finder's own: those of the contexts that their widths reach. set is
// nil where the finder's own set holds, and the same pointer for the same contexts.
func (f *Finder) On(set func(*design.Screen) *token.Set) {
	var mu sync.Mutex
	bySet, byScreen := map[*token.Set]*Finder{nil: f}, map[*design.Screen]*Finder{}
	f.on = func(s *design.Screen) *Finder {
		mu.Lock()
		defer mu.Unlock()
		g := byScreen[s]
		if g == nil {
			own := set(s)
			if bySet[own] == nil {
				bySet[own] = NewFinder(own, f.held)
			}
			g = bySet[own]
			byScreen[s] = g
		}
		return g
	}
}

// where is the finder that answers for an element, which may be nil.
func (f *Finder) where(e *design.Element) *Finder {
	if e == nil || e.Screen == nil || f.on == nil {
		return f
	}
	return f.on(e.Screen)
}

// Find is the token of an element's value. Where a colour has names by use (text, surface, border, icon, action), the
// one for the use in question goes before the palette's; where the element holds a token, that goes before all.
func (f *Finder) Find(e *design.Element, kind, value string) Found {
	f = f.where(e)
	if e != nil && len(f.held) > 0 {
		frame, _ := e.Border()
		for _, x := range []*design.Element{e, e.Face(), frame} {
			for _, h := range f.held[x] {
				if h.Shown == value && f.of(h.Path, kind) {
					return Found{h.Path, true}
				}
			}
		}
	}
	if role, ok := strings.CutPrefix(kind, "color:"); ok {
		for _, r := range []string{role, "action"} {
			if p, ok := f.byRole[drawn{r, value}]; ok {
				return Found{Path: p}
			}
		}
		kind = "color"
	}
	return Found{Path: f.plain[drawn{kind, value}]}
}

// of reports whether a token can stand for a kind of value.
func (f *Finder) of(path, kind string) bool {
	t := f.set.Get(path)
	if t == nil {
		return false
	}
	have := drawnKind(t)
	kind, _, _ = strings.Cut(kind, ":")
	return have == kind || t.Type == token.Dimension && have != "radius" && have != "space" &&
		(kind == "radius" || kind == "space")
}

func drawnKind(t *token.Token) string {
	switch t.Type {
	case token.Dimension:
		if use := token.LengthUse(t.Path); use != "" {
			return use
		}
		head, _, _ := strings.Cut(t.Path, ".")
		return head
	case token.Typography:
		return "type"
	}
	return string(t.Type)
}

// Drawn is a token's value as the facts of a drawing print it: lengths in px, gradients with their digits, type as a
// TypeKey.
func Drawn(s *token.Set, t *token.Token) string {
	end := s.Resolve(t)
	p := &cssWriter{set: s, unit: "px", root: s.RootPx(), full: true}
	switch t.Type {
	case token.Typography:
		family, size, weight, spacing, ok := Face(s, t)
		if !ok {
			return ""
		}
		return TypeKey(family, size, weight, spacing)
	case token.Gradient:
		text, _ := p.token(end)
		return rounded(text)
	}
	text, _ := p.token(end)
	return text
}

// Face is what a type token sets words in: its first family, the size and the letter spacing in px; ok is false where it
// lacks one of them.
func Face(s *token.Set, t *token.Token) (family string, size float64, weight int, spacing float64, ok bool) {
	face := s.Resolve(t).Value.Parts
	families, em, heavy, apart := s.ResolvePart(face["fontFamily"]), s.ResolvePart(face["fontSize"]), s.ResolvePart(face["fontWeight"]), s.ResolvePart(face["letterSpacing"])
	if em.Length == nil || heavy.Number == nil || apart.Length == nil {
		return "", 0, 0, 0, false
	}
	if len(families.Words) > 0 {
		family = families.Words[0]
	}
	return family, em.Length.Px(s.RootPx()), int(*heavy.Number), apart.Length.Px(s.RootPx()), true
}

// LineHeight is the line height of a type token where an element stands, in px; 0 for none.
func (f *Finder) LineHeight(e *design.Element, path string) float64 {
	f = f.where(e)
	t := f.set.Get(path)
	if t == nil || t.Type != token.Typography {
		return 0
	}
	face := f.set.Resolve(t).Value.Parts
	size, line := f.set.ResolvePart(face["fontSize"]), f.set.ResolvePart(face["lineHeight"])
	if size.Length == nil || line.Number == nil {
		return 0
	}
	return size.Length.Px(f.set.RootPx()) * *line.Number
}

// TypeKey is what makes a type style: its first family, size in px, weight and letter spacing in px.
func TypeKey(family string, size float64, weight int, spacing float64) string {
	return strings.Join([]string{family, css.Px(size), strconv.Itoa(weight), css.Px(spacing)}, "|")
}

var longNumber = regexp.MustCompile(`([0-9]+\.[0-9]+)(deg|%)`)

// rounded gives a gradient the digits that a drawing's gradient is printed with.
func rounded(gradient string) string {
	return longNumber.ReplaceAllStringFunc(gradient, func(s string) string {
		m := longNumber.FindStringSubmatch(s)
		v, err := strconv.ParseFloat(m[1], 64)
		if err != nil {
			return s
		}
		return css.Num(v, 2) + m[2]
	})
}
