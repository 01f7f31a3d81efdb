// Package design is the one document model that every reader fills and everything else reads: screens of elements
// with their facts, and beside them the paint tree, which holds whatever a painter needs. Facts are what people ask
// for; they point to the paint they come from and never replace it.
//
// All lengths are CSS pixels of the screen, y downwards, angles in degrees clockwise, shares 0–1.
package design

import (
	"sync/atomic"

	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// Document is one source as read.
type Document struct {
	Name     string // path as the user gave it, with forward slashes
	Format   string // "svg"
	Screens  []*Screen
	Fonts    []FontUse
	Warnings []Warning
	Markup   *markup.Document
	Styles   Styles // of a page; nil for a drawing
	Boxless  bool   // nothing has a box: a page that was read without a browser
}

// Warning is something to know about a source that did not stop the reading.
type Warning struct {
	Position markup.Position `json:"position"`
	Msg      string          `json:"message"`
}

// FontUse is a font family a document asks for, and what it got.
type FontUse struct {
	Family string `json:"family"`
	Weight int    `json:"weight"`
	Italic bool   `json:"italic,omitempty"`
	File   string `json:"file,omitempty"` // where the face came from; empty for the fallback
	Found  bool   `json:"found"`
}

// Screen is one drawing area.
type Screen struct {
	Name     string
	Box      geom.Rect // place in the drawing, and size; elements count from its corner
	Root     *Element
	Elements []*Element // all below Root, in paint order
	Paint    *PaintNode // in screen pixels
	Merged   *PaintNode // the picture of the whole that the source brings along; nil for none
	Document *Document
	In       string // the file its markup stands in, where that is not the document's: of a capture, a page
}

// File is the file that the markup of a screen stands in.
func (s *Screen) File() string {
	if s.In != "" {
		return s.In
	}
	return s.Document.Name
}

// Kind is what an element is.
type Kind string

// The kinds of element.
const (
	Box   Kind = "box"   // a rectangle, rounded or not, circles and ellipses included
	Text  Kind = "text"  // words
	Path  Kind = "path"  // any other outline
	Image Kind = "image" // a bitmap
	Group Kind = "group" // holds others
)

// Origin says how a fact is known.
type Origin string

// Stated in the file, derived from it by geometry, or estimated with an error.
const (
	Stated    Origin = "stated"
	Derived   Origin = "derived"
	Estimated Origin = "estimated"
)

// Fact is a value and how it is known. Set is false where there is nothing to say.
type Fact[T any] struct {
	Value  T
	Origin Origin
	Error  float64 // ±, in the unit of the value; only when estimated
	From   string  // the statement it comes from: "fill attribute", "rule .button rect, line 12"
	Set    bool
}

// State makes a stated fact.
func State[T any](v T, from string) Fact[T] { return Fact[T]{v, Stated, 0, from, true} }

// Derive makes a derived fact.
func Derive[T any](v T, from string) Fact[T] { return Fact[T]{v, Derived, 0, from, true} }

// Native is what an element is to its format, beside what it shows.
type Native string

// The kinds of native elements; most are none of them.
const (
	Instance Native = "instance" // a drawing that is defined elsewhere, used here
	Viewport Native = "viewport" // a drawing of its own within the drawing, with its own box
	Embedded Native = "embedded" // another language: words and pictures of a page
	Outline  Native = "outline"  // a path that is no basic shape
)

// Element is one thing on a screen.
type Element struct {
	Kind     Kind
	Shape    string // native form, as its format calls it
	Native   Native
	Name     string // as design.md says: label, foreign label, title, id; empty for none
	ID       string
	Path     string // names from the screen down, "Card/Pay button"; unique in the document
	Node     *markup.Node
	Position markup.Position
	Screen   *Screen
	Parent   *Element
	Children []*Element
	Marks    Marks
	Hidden   bool // display none, visibility hidden, or no opacity
	Casts    bool // it paints nothing but a shadow, which is that of what lies over it

	Matrix   geom.Matrix     // element space → screen
	Geometry Fact[geom.Rect] // tight box of the shape; of the glyph cells for text
	Painted  Fact[geom.Rect] // of all it paints: stroke, shadow, ink of glyphs
	Layout   Fact[geom.Rect] // the CSS border box that would make it

	Fills   []Fact[Paint] // lowest first
	Strokes []Fact[Stroke]
	Radii   Fact[Radii]
	Form    Fact[geom.FormKind] // what a path turns out to be, where it is a simple form
	Shadows []Fact[Shadow]
	Blur    Fact[float64] // standard deviation, px
	Opacity Fact[float64] // 0–1
	Blend   Fact[string]  // CSS blend mode
	Words   *TextFacts
	Bitmap  Fact[Bitmap]
	Stated  []Declaration     // CSS that a picture cannot show: variables, layout intent, motion
	Styled  func() []FactLine // what style sheets of a page declare of it; nil in a drawing

	Paint *PaintNode

	ground atomic.Int32 // place of the background among the children, plus 2; 0 while nobody has asked
}

// Oval reports whether the element is a circle or an ellipse, whatever way it is written.
func (e *Element) Oval() bool {
	return e.Shape == "circle" || e.Shape == "ellipse" || e.Form.Value == geom.FormCircle || e.Form.Value == geom.FormOval
}

// Declaration is a property and its value as written.
type Declaration struct {
	Prop  string `json:"property"`
	Value string `json:"value"`
}

// Radii are the corner radii in px: top left, top right, bottom right, bottom left; horizontal and vertical.
type Radii struct{ X, Y [4]float64 }

// Uniform reports whether all corners are the same quarter circle.
func (r Radii) Uniform() bool {
	for i := range r.X {
		if r.X[i] != r.X[0] || r.Y[i] != r.X[0] {
			return false
		}
	}
	return true
}

// Zero reports whether all corners are square.
func (r Radii) Zero() bool { return r == Radii{} }

// PaintKind tells paints apart.
type PaintKind string

// The kinds of paint.
const (
	Solid   PaintKind = "solid"
	Linear  PaintKind = "linear"
	Radial  PaintKind = "radial"
	Pattern PaintKind = "pattern"
	Picture PaintKind = "picture" // pixels of a bitmap
)

// Paint is what a fill or stroke is filled with. Opacity (fill-opacity) is already in the colours of Solid; for the
// others it is kept beside.
type Paint struct {
	Kind     PaintKind
	Color    color.Color // of Solid
	Gradient *Gradient
	Tile     *Tile
	Opacity  float64
}

// Gradient is a linear or radial gradient. Its points are in gradient space, which Matrix takes to element space.
type Gradient struct {
	P0, P1 geom.Point // linear: start and end; radial: focal point and centre
	R0, R1 float64    // radial: focal and outer radius
	Matrix geom.Matrix
	Stops  []Stop
	Spread string // pad, reflect, repeat
	Shares bool   // its lengths are stated as shares of the painted box (gradientUnits="objectBoundingBox")
	ID     string
}

// Stop is a colour at a share (0–1) of a gradient's line.
type Stop struct {
	Offset float64
	Color  color.Color
}

// Stroke is a line along an outline.
type Stroke struct {
	Paint  Paint
	Width  float64 // px on screen
	Dashes []float64
	Offset float64
	Cap    string // butt, round, square
	Join   string // miter, round, bevel
	Miter  float64
	Align  StrokeAlign
	Shown  float64 // px of the width that show: half of it where the rest is cut off
	Frame  bool    // it is the stroke of a frame that lies over a background
}

// StrokeAlign is where a stroke lies by its outline. https://www.w3.org/TR/fill-stroke-3/#stroke-align
type StrokeAlign string

// The places of a stroke.
const (
	Centred StrokeAlign = "center"
	Inside  StrokeAlign = "inset"
	Outside StrokeAlign = "outset"
)

// Out is how many px the stroke reaches beyond the outline.
func (s Stroke) Out() float64 {
	switch s.Align {
	case Inside:
		return 0
	case Outside:
		return s.Shown
	}
	return s.Width / 2
}

// Shadow is a drop shadow, or an inner one, as CSS box-shadow says it. Lengths in px; Blur is CSS's blur radius:
// twice the standard deviation.
type Shadow struct {
	X, Y, Blur, Spread float64
	Color              color.Color
	Inset              bool
}

// Bitmap is an embedded or linked picture.
type Bitmap struct {
	Href          string // as written; data addresses shortened
	Width, Height int    // pixels it really has; 0 where it could not be read
}

// TextFacts are the words of a text element and how they are set. Those of the first run stand for the whole; Runs
// has each.
type TextFacts struct {
	Words      string // lines joined by \n
	Family     Fact[string]
	Used       string  // family of the face it was measured with
	Missing    bool    // that face stands in for a family that is not there, or for any
	Ascent     float64 // that face's, above the baseline, of one em; 0 where it is not known
	Descent    float64 // (likewise) below
	Normal     float64 // that face's own line height, of one em
	Size       Fact[float64]
	Weight     Fact[int]
	Italic     Fact[bool]
	LineHeight Fact[float64] // px
	Spacing    Fact[float64] // letter spacing, px
	Align      Fact[string]  // left, center, right
	Case       Fact[string]  // none, uppercase …
	Decoration Fact[string]  // none, underline …
	Runs       []Run
	Lines      []Line
}

// Run is a stretch of words set alike.
type Run struct {
	Words  string
	Family string
	Size   float64 // px
	Weight int
	Italic bool
	Fill   Paint
	Line   int // which of the lines it stands on
	Node   *markup.Node
}

// Line is one line of a text: its words, where its baseline begins, and its advance width, in screen px.
type Line struct {
	Words    string
	Baseline geom.Point
	Width    float64
}

// Styles answers what style sheets say of the elements of a page.
type Styles interface {
	// Nodes are the elements of the page that a selector means, those without a place on a screen among them.
	Nodes(sel *css.Selector) []*markup.Node
	// Computed is the computed value of a property as browsers print it; ok is false for one that is not known.
	Computed(n *markup.Node, property string) (value string, ok bool)
	// Differs reports whether a value is neither the initial one nor, where it is inherited, that of the element around it.
	Differs(n *markup.Node, property string) bool
	// Properties are all longhands, and the custom properties in force for an element.
	Properties(n *markup.Node) []string
	// Rules are the rules that mean an element, the one that wins first.
	Rules(n *markup.Node) []StyleRule
	// Pictures are the pictures, icons and fonts that the page uses.
	Pictures() []PagePicture
	// Declared are the declarations that win for an element itself, as they are written.
	Declared(n *markup.Node) []Declaration
	// States are rules that mean an element only in a state: the selector is that of the state alone (":hover").
	States(n *markup.Node) []StyleRule
	// Sheets are the style sheets, in order, whatever their medium.
	Sheets() []StyleSheet
	// Why are the declarations of a property, the one that wins first.
	Why(n *markup.Node, property string) []StyleDeclaration
	// Set are the longhands that the page declares for an element itself.
	Set(n *markup.Node) []string
	// Same is equal for elements that have the same computed style, and nil where that is not known.
	Same(n *markup.Node) any
	// Parts are the pseudo-elements of an element that rules of the page mean, as nodes with a name such as "::before".
	Parts(n *markup.Node) []*markup.Node
}

// PagePicture is a picture, icon or font that a page uses.
type PagePicture struct {
	Kind    string       `json:"kind"`              // image, inline, icon, background, mask, font …
	Name    string       `json:"name"`              // what its file is called, without an extension
	Address string       `json:"address,omitempty"` // none for an inline one
	By      string       `json:"by"`                // the element, rule or font family
	Place   StylePlace   `json:"place"`
	Asks    string       `json:"asks,omitempty"`   // what markup says of it: 2x, 640w, 32x32
	Format  string       `json:"format,omitempty"` // svg, png, jpeg, gif, webp; none where it could not be read
	Width   float64      `json:"width,omitempty"`  // its own size, in px of its own
	Height  float64      `json:"height,omitempty"`
	Shown   float64      `json:"shown,omitempty"`   // the width at which markup shows it, in CSS px
	Density float64      `json:"density,omitempty"` // px of its own in one CSS px, of a bitmap
	Missing string       `json:"missing,omitempty"` // why it could not be loaded
	Node    *markup.Node `json:"-"`                 // the element that shows it; nil for a rule
	Data    []byte       `json:"-"`                 // the file as it came; of an inline one an SVG file that looks the same
}

// StyleSheet is a style sheet of a page as it came.
type StyleSheet struct {
	Name string
	Text string
	Line int // of its first line in the page, for one that stands in a page; else 1
}

// StyleRule is a rule that means an element.
type StyleRule struct {
	Selector     string        `json:"selector"`
	Specificity  [3]int        `json:"specificity"`
	Within       []string      `json:"within,omitempty"` // the at-rules around it
	Place        StylePlace    `json:"place"`
	Declarations []Declaration `json:"declarations"`
}

// StylePlace is where something stands in a style sheet.
type StylePlace struct {
	File   string `json:"file"`
	Line   int    `json:"line,omitempty"`
	Column int    `json:"column,omitempty"`
}

// StyleDeclaration is a declaration of a property, and what became of it.
type StyleDeclaration struct {
	Declaration
	Important bool               `json:"important,omitempty"`
	Kind      string             `json:"kind"` // rule, style attribute, attribute, browser
	Selector  string             `json:"selector,omitempty"`
	Within    []string           `json:"within,omitempty"`
	Place     StylePlace         `json:"place"`
	Element   string             `json:"element"` // the one it is declared on
	Lost      string             `json:"lost,omitempty"`
	Vars      []StyleDeclaration `json:"variables,omitempty"` // custom properties that its value uses
}
