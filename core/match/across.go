package match

import (
	"cmp"
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/markup"
)

// Why an element of a drawing and one of a page are the same thing.
const (
	ByHand     Reason = "paired in the configuration"
	ByKey      Reason = "same text key"
	ByAsset    Reason = "same asset"
	ByWords    Reason = "same words"
	ByClass    Reason = "its class is the component's name"
	ByHolding  Reason = "it holds the same words"
	ByRole     Reason = "same role, in the same container"
	ByGround   Reason = "it is the ground of the screen"
	ByPrompt   Reason = "what the empty field asks for"
	ByNameThat Reason = "same name"
)

// Across is an element of a drawing and the one of a page that it became.
type Across struct {
	Drawn *design.Element
	Page  *design.Element // the element; of a prompt, its field
	Part  string          // the pseudo-element that shows it: "placeholder"; "" for the element itself
	Why   Reason
}

// AcrossOptions say what is known of pairs.
type AcrossOptions struct {
	Hand  map[*design.Element]*design.Element // pairs that were made by hand
	Whole bool                                // the roots are a screen and a page, so that the ground of one is that of the other
}

// AcrossTrees pairs the elements of a drawing with those of a page that was built from it, which has another structure:
// by hand, by mark, by words in their order, then containers by what they hold, and pictures by name or by their order in
// a container. No element of the drawing has two partners; one of the page may be several of the drawing: a badge is a
// box and its words.
func AcrossTrees(drawn, page *design.Element, o AcrossOptions) []Across {
	a := &across{drawn: visible(drawn), page: visible(page), of: map[*design.Element]*Across{}, texts: map[*design.Element]*design.Element{},
		boxes: map[*design.Element]*design.Element{}, holding: map[*design.Element]int{}, rootDrawn: drawn, rootPage: page}
	for d, p := range o.Hand {
		if under(d, drawn) && under(p, page) {
			a.join(d, p, "", ByHand)
		}
	}
	a.keys()
	a.words()
	a.prompts()
	a.assets()
	a.holders(o.Whole)
	a.leftWords(o.Whole)
	a.holders(o.Whole)
	a.pictures()
	slices.SortStableFunc(a.pairs, func(x, y *Across) int { return cmp.Compare(a.place(x.Drawn), a.place(y.Drawn)) })
	out := make([]Across, len(a.pairs))
	for i, p := range a.pairs {
		out[i] = *p
	}
	return out
}

func under(e, root *design.Element) bool {
	return e.Ancestor(func(x *design.Element) bool { return x == root }) != nil
}

// visible are an element and all below it that show.
func visible(root *design.Element) (out []*design.Element) {
	root.Walk(func(e *design.Element) {
		if e.Hidden || e.Node != nil && e.Node.HTML && (e.Node.Local == "meta" || e.Node.Local == "title") {
			return
		}
		out = append(out, e)
	})
	return out
}

// across pairs a drawing with a page.
type across struct {
	drawn, page         []*design.Element
	rootDrawn, rootPage *design.Element
	pairs               []*Across
	of                  map[*design.Element]*Across         // by element of the drawing
	texts               map[*design.Element]*design.Element // text of the page → text of the drawing
	boxes               map[*design.Element]*design.Element // element of the page → container of the drawing
	order               map[*design.Element]int
	holding             map[*design.Element]int // texts with a partner in an element of the page
}

func (a *across) place(e *design.Element) int {
	if a.order == nil {
		a.order = map[*design.Element]int{}
		for i, x := range a.drawn {
			a.order[x] = i
		}
	}
	return a.order[e]
}

func (a *across) join(d, p *design.Element, part string, why Reason) {
	if a.of[d] != nil {
		return
	}
	x := &Across{d, p, part, why}
	a.pairs = append(a.pairs, x)
	a.of[d] = x
	switch {
	case part != "":
	case d.Words != nil:
		if a.texts[p] == nil {
			for up := p; up != nil; up = up.Parent {
				a.holding[up]++
			}
		}
		a.texts[p] = d
	case paintsBox(d) || d.Kind == design.Box:
		a.boxes[p] = d
	}
}

// once pairs elements by a key that as many have on each side, in their order.
func (a *across) once(key func(*design.Element) string, why Reason) {
	byKey := map[string][2][]*design.Element{}
	var keys []string
	for side, list := range [][]*design.Element{a.drawn, a.page} {
		for _, e := range list {
			if k := key(e); k != "" {
				g := byKey[k]
				if len(g[0])+len(g[1]) == 0 {
					keys = append(keys, k)
				}
				g[side] = append(g[side], e)
				byKey[k] = g
			}
		}
	}
	for _, k := range keys {
		g := byKey[k]
		if len(g[0]) != len(g[1]) {
			continue
		}
		for i := range g[0] {
			if a.texts[g[1][i]] == nil || g[0][i].Words == nil {
				a.join(g[0][i], g[1][i], "", why)
			}
		}
	}
}

// holders pairs containers of the drawing that lie on a background, and boxes that stand for themselves, with the element
// of the page that holds the same texts: the one that paints, or has the component's name.
func (a *across) holders(whole bool) {
	if whole && a.of[a.rootDrawn] == nil {
		a.ground()
	}
	for _, g := range slices.Backward(a.drawn) {
		if a.of[g] != nil || g.Kind != design.Group && g.Kind != design.Box || g.Grounds() != nil || g == a.rootDrawn || g.Casts {
			continue
		}
		inside := a.inside(g)
		if len(inside) == 0 {
			continue
		}
		var partners []*design.Element
		drawn := map[*design.Element]bool{}
		for _, t := range inside {
			drawn[t] = true
			if x := a.of[t]; x != nil && x.Part == "" {
				partners = append(partners, x.Page)
			} else if x != nil {
				partners = append(partners, x.Page)
			}
		}
		if len(partners) == 0 {
			continue
		}
		if p, why := a.holder(g, partners, drawn); p != nil {
			a.join(g, p, "", why)
		}
	}
}

// inside are the texts in a container, or on a box; pictures that are paired count, too.
func (a *across) inside(g *design.Element) (out []*design.Element) {
	if g.Kind == design.Group {
		g.Walk(func(e *design.Element) {
			if e.Words != nil && !e.Hidden || a.of[e] != nil && e != g && e.Kind != design.Group {
				out = append(out, e)
			}
		})
		return out
	}
	if g.Parent == nil {
		return nil
	}
	box := g.BorderBox()
	after := false
	for _, s := range g.Parent.Children { // what is painted on it
		if s == g {
			after = true
			continue
		}
		if !after {
			continue
		}
		s.Walk(func(e *design.Element) {
			if e.Words == nil || e.Hidden {
				return
			}
			b := e.BorderBox()
			if b.X >= box.X-0.5 && b.Right() <= box.Right()+0.5 && b.Y >= box.Y-4 && b.Bottom() <= box.Bottom()+4 {
				out = append(out, e)
			}
		})
	}
	return out
}

// holder is the element of the page that stands for a container.
func (a *across) holder(g *design.Element, partners []*design.Element, drawn map[*design.Element]bool) (*design.Element, Reason) {
	low := partners[0]
	for _, p := range partners[1:] {
		for low != nil && !under(p, low) {
			low = low.Parent
		}
	}
	if low == nil {
		return nil, ""
	}
	own := map[*design.Element]bool{}
	for _, p := range partners {
		if d := a.texts[p]; d != nil && drawn[d] {
			own[p] = true
		}
	}
	var chain []*design.Element // elements that hold these and no other texts of the drawing
	for e := low; e != nil && e != a.rootPage.Parent; e = e.Parent {
		if a.holding[e] > len(own) {
			break
		}
		if d := a.boxes[e]; d == nil || under(d, g) && !paintsBox(d) {
			chain = append(chain, e)
		}
		if e == a.rootPage {
			break
		}
	}
	if len(chain) == 0 {
		if paintsBox(g) && a.boxes[low] == nil && low != a.rootPage && PaintsItself(low) { // what stands beside it in the drawing stands in it on the page
			return low, ByHolding
		}
		return nil, ""
	}
	name := g.Component()
	if g.Marks.Component != "" {
		for _, e := range chain {
			if e.Marks.Component == g.Marks.Component {
				return e, ByMark
			}
		}
		for _, e := range chain {
			if HasClass(e, name) {
				return e, ByClass
			}
		}
	}
	if paintsBox(g) {
		for _, e := range chain {
			if PaintsItself(e) {
				return e, ByHolding
			}
		}
		return nil, ""
	}
	for _, e := range chain { // one that only holds
		if e.Words == nil {
			return e, ByHolding
		}
	}
	return nil, ""
}

// paintsBox reports whether a container lies on a background, or a box paints anything.
func paintsBox(g *design.Element) bool {
	if g.Kind == design.Group {
		return g.Background() != nil
	}
	return len(g.Fills)+len(g.Strokes) > 0
}

// HasClass reports whether an element of a page has a class, or one that begins with it and a hyphen.
func HasClass(e *design.Element, name string) bool {
	if e.Node == nil || name == "" {
		return false
	}
	name = strings.ToLower(name)
	for _, c := range classList(e.Node) {
		if c = strings.ToLower(c); c == name {
			return true
		}
	}
	return false
}

// PaintsItself reports whether an element of a page paints a box: a background, a border, a shadow.
func PaintsItself(e *design.Element) bool {
	d := e.Screen.Document
	if d == nil || d.Styles == nil || e.Node == nil || e.Node.Kind != markup.Element {
		return false
	}
	for _, p := range []string{"background-color", "background-image", "box-shadow"} {
		if d.Styles.Differs(e.Node, p) {
			return true
		}
	}
	for _, side := range []string{"top", "right", "bottom", "left"} {
		if w, _ := d.Styles.Computed(e.Node, "border-"+side+"-width"); w != "0px" && w != "" {
			return true
		}
	}
	return false
}

// ground pairs the box that covers the whole screen with the body of the page.
func (a *across) ground() {
	screen := a.rootDrawn.Screen
	for _, e := range a.drawn {
		if e.Kind == design.Box && len(e.Fills) > 0 {
			if b := e.BorderBox(); b.W >= 0.98*screen.Box.W && b.H >= 0.98*screen.Box.H {
				a.join(e, a.rootPage, "", ByGround)
			}
			return
		}
	}
}
