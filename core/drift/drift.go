// Package drift compares what a design says with what a site does. In go pairs of documents, a drawing or an earlier
// state of a page on one side and a page of the site on the other, out come the differences: each with both values, the
// rule and line of the site that it comes from, how far apart they are, and the line of CSS that would mend it. One cause
// is one difference, whatever it touches.
package drift

import (
	"archetyp/core/audit"
	"archetyp/core/design"
	"archetyp/core/markup"
	"archetyp/core/match"
)

// Kind says what differs. It names a rule in reports.
type Kind string

// The kinds.
const (
	Words   Kind = "words"   // of texts, and of attributes that are read
	Missing Kind = "missing" // the site lacks what the design has
	Extra   Kind = "extra"   // the site has what the design lacks
	Order   Kind = "order"   // elements stand in another order, or elsewhere
	Picture Kind = "picture" // another picture, icon or font
	Colour  Kind = "colour"
	Type    Kind = "type" // family, size, weight, line height, spacing of letters
	Size    Kind = "size"
	Space   Kind = "space" // padding, margin, gaps
	Radius  Kind = "radius"
	Border  Kind = "border"
	Shadow  Kind = "shadow"
	Opacity Kind = "opacity"
	Layout  Kind = "layout" // how things stand: display, position, alignment
	Motion  Kind = "motion" // transitions and animations
	Other   Kind = "other"
)

// Kinds are all of them, in the order in which they are listed.
var Kinds = []Kind{Missing, Words, Picture, Order, Colour, Type, Size, Space, Radius, Border, Shadow, Opacity, Layout, Extra, Motion, Other}

// whats say in a few words what differences of each kind are.
var whats = map[Kind]string{
	Words: "other words than the design has", Missing: "parts of the design that the site lacks", Extra: "parts of the site that the design lacks",
	Order: "elements in another order than in the design", Picture: "other pictures than the design has", Colour: "other colours than the design has",
	Type: "type set otherwise than in the design", Size: "other sizes than in the design", Space: "other spacing than in the design", Radius: "corners of another radius",
	Border: "other borders than in the design", Shadow: "other shadows than in the design", Opacity: "another opacity than in the design",
	Layout: "another arrangement than in the design", Motion: "other motion than in the design", Other: "other values than in the design",
}

// What says in a few words what differences of a kind are.
func (k Kind) What() string { return whats[k] }

// View is a way to look at a page.
type View struct {
	Width  float64 `json:"width"` // of the window, px
	Height float64 `json:"height"`
	Dark   bool    `json:"dark,omitempty"`
	State  string  `json:"state,omitempty"` // a pseudo-class that is in force: "hover"; "" for none
}

// Value is a value on one side.
type Value struct {
	Text     string `json:"text"`               // as CSS, or words; "" for none
	Declared string `json:"declared,omitempty"` // as the style sheet has it, where that is another text
	Token    string `json:"token,omitempty"`    // path of the token that has it
}

// Ref is an element on one side.
type Ref struct {
	Source    string `json:"source"`
	Selector  string `json:"selector,omitempty"`
	Element   string `json:"element,omitempty"`   // what to call it
	Component string `json:"component,omitempty"` // that it is or stands in, in the design
	Line      int    `json:"line,omitempty"`
	Column    int    `json:"column,omitempty"`
}

// Cause is what on the site makes the difference.
type Cause struct {
	Selector string            `json:"selector,omitempty"` // of the rule; "" for an attribute or the markup
	Within   []string          `json:"within,omitempty"`   // the at-rules around it
	Property string            `json:"property,omitempty"` // as it is declared there: perhaps a shorthand, or a custom property
	Value    string            `json:"value,omitempty"`    // as it is declared there
	Place    design.StylePlace `json:"place"`              // of the declaration, else of the rule, else of the element
	Lacking  bool              `json:"lacking,omitempty"`  // nothing there declares what the design has
	Variable string            `json:"variable,omitempty"` // the custom property whose value differs
}

// Spot is a pair of elements that a difference shows at.
type Spot struct {
	Screen string       `json:"screen"`
	View   View         `json:"view"`
	Design Ref          `json:"design"`
	Site   Ref          `json:"site"`
	Why    match.Reason `json:"why,omitempty"` // they are a pair
	Prop   string       `json:"property,omitempty"`
	Was    string       `json:"was,omitempty"` // in the design
	Is     string       `json:"is,omitempty"`  // on the site
}

// Difference is one cause for which the site is not as the design says.
type Difference struct {
	ID       string      `json:"id"` // the same as long as the difference is; a baseline names it
	Kind     Kind        `json:"kind"`
	Level    audit.Level `json:"level"`
	Property string      `json:"property,omitempty"`  // as it is declared
	Longs    []string    `json:"longhands,omitempty"` // the longhands that differ, where the property is a shorthand or a variable
	Message  string      `json:"message"`
	Design   Value       `json:"design"`
	Site     Value       `json:"site"`
	Distance float64     `json:"distance,omitempty"` // how far apart they are
	Unit     string      `json:"unit,omitempty"`     // of the distance: px, OKLab, %
	Cause    Cause       `json:"cause"`
	Mend     string      `json:"mend,omitempty"` // the line of CSS that would mend it
	Spots    []Spot      `json:"spots"`

	// The same declaration is as designed on other elements, so that it cannot just be changed.
	Elsewhere bool `json:"rightElsewhere,omitempty"`

	Edit *Edit `json:"-"` // what would mend it in the site's style sheets; nil where that is not safe
}

// Tolerances are how far two values may be apart to count as the same.
type Tolerances struct {
	Colour float64 // distance in OKLab
	Length float64 // px
	Share  float64 // of opacities and the like, 0–1
}

// Tokens knows the tokens of the workspace.
type Tokens interface {
	// Of is the token of a TokenKind that has a value; "" for none.
	Of(kind, value string) string
	// Property is the custom property of a token.
	Property(token string) string
	// Named is the token of a custom property; "" for none.
	Named(property string) string
	// Value is the value of a token as CSS; "" for one that there is not.
	Value(token string) string
}

// In is what is compared.
type In struct {
	Pages      []PagePair
	Drawings   []DrawingPair
	Sheets     []Sheet
	Tolerances Tolerances
	Levels     map[Kind]audit.Level // where the configuration gives one
	Tokens     Tokens               // nil for none
	Likeness   Likeness             // nil compares no pictures with what is drawn
	Reasons    bool                 // every pair of elements is wanted, with its reason
}

// Likeness says how like a picture of a page is to what an element of a drawing shows, 0–1; ok is false where they cannot be
// compared.
type Likeness func(e *design.Element, picture *design.PagePicture) (share float64, ok bool)

// ViewPair is one view of a page on both sides.
type ViewPair struct {
	View
	Design, Site *design.Document
}

// PagePair is a page and an earlier state of it, which is the design. The views are looked at in their order; the first
// is the plain one.
type PagePair struct {
	Screen string
	Views  []ViewPair
	Bases  [2]string // what addresses begin with on the two sides, so that a copy elsewhere is no difference
}

// Report is the outcome.
type Report struct {
	Differences []Difference `json:"differences"` // the gravest first
	Pairs       []Pair       `json:"pairs"`
	Accepted    int          `json:"accepted"`
}

// Pair says which screen was held against which page.
type Pair struct {
	Screen   string       `json:"screen"`
	Design   string       `json:"design"` // its source
	Site     string       `json:"site"`   // the page
	Views    []View       `json:"views"`
	Why      match.Reason `json:"why"`
	Elements int          `json:"elements"` // of the design
	Paired   int          `json:"paired"`

	Matched []Matched `json:"-"` // the elements
}

// Matched is an element of the design, the one of the page that it is, and why.
type Matched struct {
	Design, Site         Ref
	DesignNode, SiteNode *markup.Node
	Why                  match.Reason
}
