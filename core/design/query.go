package design

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/css"
	"archetyp/core/geom"
	"archetyp/core/markup"
)

// All lists the elements of every screen, in order.
func (d *Document) All() []*Element {
	var out []*Element
	for _, s := range d.Screens {
		out = append(out, s.Elements...)
	}
	return out
}

// Query lists the elements a selector means. A selector that means a run inside a text (a tspan) means the text.
func (d *Document) Query(sel *css.Selector) []*Element {
	var out []*Element
	match := css.NewMatcher(nil, nil)
	for _, e := range d.All() {
		if part, ok := strings.CutPrefix(e.Shape, "::"); ok {
			if match.MatchesPart(sel, e.Node.Parent, part) {
				out = append(out, e)
			}
			continue
		}
		if match.Matches(sel, e.Node) || e.Words != nil && matchesInside(match, sel, e.Node) {
			out = append(out, e)
		}
	}
	return out
}

// Named lists the elements of a name, or of a path of names or an id; capitals count only where they tell several
// apart.
func (d *Document) Named(name string) []*Element {
	var exact, folded []*Element
	for _, e := range d.All() {
		switch {
		case e.Name == name || e.Path == name || e.ID == name:
			exact = append(exact, e)
		case strings.EqualFold(e.Name, name) || strings.EqualFold(e.Path, name):
			folded = append(folded, e)
		}
	}
	if len(exact) > 0 {
		return exact
	}
	return folded
}

func matchesInside(match *css.Matcher, sel *css.Selector, n *markup.Node) bool {
	for _, c := range n.Children {
		if c.Kind == markup.Element && (match.Matches(sel, c) || matchesInside(match, sel, c)) {
			return true
		}
	}
	return false
}

// Selector is a short selector that means this element: its id, else the way down from the nearest element with one.
// An id that stands twice in the file does not count.
func (e *Element) Selector() string {
	var parts []string
	end := ""
	for n := e.Node; n != nil; n = n.Parent {
		if n.Kind != markup.Element { // a stretch of text, or a shadow root
			continue
		}
		if strings.HasPrefix(n.Local, "::") {
			end = n.Local
			continue
		}
		if id := n.ID(); id != "" && !e.ambiguous(id) {
			parts = append([]string{"#" + css.Ident(id)}, parts...)
			break
		}
		part := css.Ident(n.Local)
		if n.Parent != nil {
			part += ":nth-child(" + strconv.Itoa(n.Nth) + ")"
		}
		parts = append([]string{part}, parts...)
	}
	return strings.Join(parts, " > ") + end
}

// ambiguous reports whether an id stands more than once in the element's file.
func (e *Element) ambiguous(id string) bool {
	return e.Screen != nil && e.Screen.Document != nil && e.Screen.Document.Markup != nil &&
		e.Screen.Document.Markup.Repeated(id)
}

// Container is the nearest box the element lies in: the background of a group around it, else the screen.
func (e *Element) Container() geom.Rect {
	if c := e.ContainerElement(); c != nil {
		return c.BorderBox()
	}
	return geom.Rect{W: e.Screen.Box.W, H: e.Screen.Box.H}
}

// BorderBox is the box that stands for the element in CSS, in px of the screen: its layout box; of a text its glyph
// cells.
func (e *Element) BorderBox() geom.Rect {
	if e.Kind == Text || !e.Layout.Set {
		return e.Geometry.Value
	}
	return e.Layout.Value
}

// Background is the box of a group that all it holds lies on: its first filled box, where it contains all that comes
// after, or else an outlined one; nil otherwise. Boxes without a fill before it, such as a focus ring, and copies that
// only cast its shadow do not count.
func (e *Element) Background() *Element {
	e = e.inner()
	i := e.backgroundAt()
	if i < 0 {
		return nil
	}
	return e.Children[i].box()
}

// inner is the group itself, or the one it is only wrapped around.
func (e *Element) inner() *Element {
	for e.Kind == Group && len(e.Children) == 1 && e.Children[0].Kind == Group {
		e = e.Children[0]
	}
	return e
}

// box is the element itself, or the one thing a group holds: programs wrap boxes, and use them by reference.
func (e *Element) box() *Element {
	for e.Kind == Group && len(e.Children) == 1 && !e.Opacity.Set && !e.Blend.Set {
		e = e.Children[0]
	}
	return e
}

// Grounds is the group whose background the element is; nil for none.
func (e *Element) Grounds() *Element {
	for p := e.Parent; p != nil; p = p.Parent {
		if p.Background() == e {
			return p
		}
		if len(p.Children) != 1 {
			return nil
		}
	}
	return nil
}

// AllShadows are those of the element and of what it lies on.
func (e *Element) AllShadows() []Fact[Shadow] {
	out := append([]Fact[Shadow](nil), e.Shadows...)
	var wrappers []*Element // from the element down to its face
	for x, face := e, e.Face(); x != face; {
		if i := x.backgroundAt(); i >= 0 {
			x = x.Children[i]
		} else {
			x = x.Children[0]
		}
		wrappers = append(wrappers, x)
	}
	for _, x := range slices.Backward(wrappers) {
		out = append(out, x.Shadows...)
	}
	return out
}

// backgroundAt is where among the children the background is, −1 for nowhere. It is worked out once: every element
// asks for that of the groups it is in.
func (e *Element) backgroundAt() int {
	if v := e.ground.Load(); v != 0 {
		return int(v) - 2
	}
	i := e.findBackground()
	e.ground.Store(int32(i) + 2)
	return i
}

func (e *Element) findBackground() int {
	if e.Kind != Group || len(e.Children) < 2 {
		return -1
	}
	for i, c := range e.Children[:len(e.Children)-1] {
		box := c.box()
		if c.Casts || box.Kind == Box && !c.Hidden && len(box.Fills) == 0 {
			continue
		}
		if box.Kind != Box || c.Hidden || !e.holdsRest(i) {
			return e.outlinedBackground()
		}
		return i
	}
	if i := e.castBackground(); i >= 0 {
		return i
	}
	return e.outlinedBackground()
}

// holdsRest reports whether all visible children after one lie on its box, in 0.5 px.
func (e *Element) holdsRest(i int) bool {
	box := e.Children[i].box().Geometry.Value
	for _, k := range e.Children[i+1:] {
		if !k.Hidden && k.Geometry.Set && !box.Contains(k.Geometry.Value, 0.5) && !k.surrounds(box) {
			return false
		}
	}
	return true
}

// surrounds reports whether the element is nothing but a line, at one distance all round a box: a border outside, or the
// ring of what is focused.
func (e *Element) surrounds(box geom.Rect) bool {
	if e.Kind != Box || len(e.Fills) > 0 || len(e.Strokes) != 1 {
		return false
	}
	d := Insets(box, e.Geometry.Value)
	for _, v := range d[1:] {
		if math.Abs(v-d[0]) > 0.05 {
			return false
		}
	}
	return d[0] >= -0.05 && d[0] <= 16
}

// outlinedBackground is the last of the boxes at the beginning that have a stroke and no fill, where all that comes
// after lies inside, words or a picture among it: a border without a fill is a box, too.
func (e *Element) outlinedBackground() int {
	last := -1
	for i, c := range e.Children[:len(e.Children)-1] {
		box := c.box()
		if box.Kind != Box || len(box.Fills) > 0 {
			break
		}
		if !c.Hidden && len(box.Strokes) > 0 {
			last = i
		}
	}
	if last < 0 || !e.holdsRest(last) || !inform(e.Children[last+1:], 0) {
		return -1
	}
	return last
}

// Informs reports whether the element is or holds words or a bitmap, in at most 8 levels. Shapes alone are an icon.
func (e *Element) Informs() bool { return inform([]*Element{e}, -1) }

func inform(list []*Element, depth int) bool {
	return depth < 8 && slices.ContainsFunc(list, func(e *Element) bool {
		return !e.Hidden && (e.Words != nil || e.Kind == Image || inform(e.Children, depth+1))
	})
}

// castBackground is the last child, where all before it are copies that cast its shadow, or lines round it: a card with
// nothing on it.
func (e *Element) castBackground() int {
	last := len(e.Children) - 1
	for _, c := range e.Children[:last] {
		if !c.Casts && !c.surrounds(e.Children[last].box().Geometry.Value) {
			return -1
		}
	}
	if box := e.Children[last].box(); box.Kind == Box && !box.Hidden && len(box.Fills) > 0 {
		return last
	}
	return -1
}

// Border is the frame that stands for the border of a group's background, where the background has no stroke itself: a
// box with nothing but a stroke, evenly half its width inside, on, or half its width outside the background's edges.
// The stroke says which. frame is nil where there is none.
func (e *Element) Border() (frame *Element, stroke Fact[Stroke]) {
	e = e.inner()
	i := e.backgroundAt()
	if i < 0 || len(e.Background().Strokes) > 0 {
		return nil, stroke
	}
	out := e.Background().Geometry.Value
	for _, c := range e.Children[i+1:] {
		if c.Kind != Box || c.Hidden || len(c.Fills) > 0 || len(c.Strokes) != 1 {
			continue
		}
		s := c.Strokes[0].Value
		d := Insets(c.Geometry.Value, out)
		near := func(v float64) bool {
			return math.Abs(d[0]-v) <= 0.05 && math.Abs(d[1]-v) <= 0.05 && math.Abs(d[2]-v) <= 0.05 && math.Abs(d[3]-v) <= 0.05
		}
		switch {
		case near(s.Width / 2):
			s.Align = Inside
		case near(-s.Width / 2):
			s.Align = Outside
		case near(0):
			s.Align = Centred
		default:
			continue
		}
		s.Frame = true
		return c, Derive(s, "the frame "+c.Selector()+" over the background")
	}
	return nil, stroke
}

// FocusRing is the frame that stands around a group's background at one distance on all sides, as the outline of what
// is focused does; nil for none.
func (e *Element) FocusRing() *Element {
	bg := e.Background()
	if bg == nil {
		return nil
	}
	for _, c := range e.Children {
		if c == bg || c.Hidden || c.Kind != Box || len(c.Fills) > 0 || len(c.Strokes) != 1 {
			continue
		}
		d := Insets(bg.Layout.Value, c.Geometry.Value)
		width := c.Strokes[0].Value.Width
		even := true
		for _, v := range d[1:] {
			even = even && math.Abs(v-d[0]) <= 0.05
		}
		if even && d[0] > width/2+0.05 && d[0] <= 16 {
			return c
		}
	}
	return nil
}

// BorderWidth is how wide the border of a group's background is, in px; 0 for none.
func (e *Element) BorderWidth() float64 {
	if bg := e.Background(); bg != nil && len(bg.Strokes) > 0 {
		return bg.Strokes[0].Value.Shown
	}
	if frame, s := e.Border(); frame != nil {
		return s.Value.Shown
	}
	return 0
}

// Contents are the visible elements of a group that lie on its background; without one, all visible ones.
func (e *Element) Contents() []*Element {
	var out []*Element
	e = e.inner()
	for _, c := range e.Children[e.backgroundAt()+1:] {
		if !c.Hidden && !c.Casts && c.Geometry.Set {
			out = append(out, c)
		}
	}
	return out
}

// Line reports whether the element has no area that a fill could show on.
func (e *Element) Line() bool {
	g := e.Geometry.Value
	return e.Kind != Group && e.Words == nil && (g.W == 0 || g.H == 0 || e.Paint != nil && e.Paint.Path != nil &&
		len(e.Paint.Path.Points) < 3)
}

// Ancestor is the nearest element, itself included, for which ok holds; nil for none.
func (e *Element) Ancestor(ok func(*Element) bool) *Element {
	for ; e != nil; e = e.Parent {
		if ok(e) {
			return e
		}
	}
	return nil
}

// Component is the component the element is or belongs to: the nearest mark; "" for none.
func (e *Element) Component() string {
	if a := e.Ancestor(func(x *Element) bool { return x.Marks.Component != "" }); a != nil {
		return a.Marks.Component
	}
	return ""
}

// NearestName is the element's own name, or that of the nearest ancestor that has one below the screen.
func (e *Element) NearestName() string {
	if a := e.Ancestor(func(x *Element) bool { return x.Name != "" }); a != nil && a != e.Screen.Root {
		return a.Name
	}
	return ""
}

// Walk visits the element and all below it.
func (e *Element) Walk(visit func(*Element)) {
	visit(e)
	for _, c := range e.Children {
		c.Walk(visit)
	}
}

// SetPaths gives every element of a screen its name path, unique in it. Unnamed elements count by kind: "path 2".
func (s *Screen) SetPaths() {
	used := map[string]int{}
	var walk func(e *Element, prefix string)
	walk = func(e *Element, prefix string) {
		counts := map[string]int{}
		for _, c := range e.Children {
			step := c.Name
			if step == "" {
				counts[string(c.Kind)]++
				step = string(c.Kind) + " " + strconv.Itoa(counts[string(c.Kind)])
			}
			step = strings.ReplaceAll(step, "/", "∕")
			path := prefix + step
			if used[path]++; used[path] > 1 {
				path += " (" + strconv.Itoa(used[path]) + ")"
			}
			c.Path = path
			walk(c, path+"/")
		}
	}
	s.Root.Path = ""
	walk(s.Root, "")
}

// Alone is the paint of one element by itself, in screen pixels: with its own effects, without what lies under it
// and without those of its containers.
func Alone(e *Element) *PaintNode {
	above := e.Matrix
	if inv, ok := e.Paint.Matrix.Inverse(); ok {
		above = e.Matrix.Mul(inv)
	}
	return &PaintNode{Matrix: above, Opacity: 1, Children: []*PaintNode{e.Paint}}
}

// WholePixels grows a rectangle to whole pixels.
func WholePixels(r geom.Rect) geom.Rect {
	const eps = 1e-6
	x, y := math.Floor(r.X+eps), math.Floor(r.Y+eps)
	return geom.Rect{X: x, Y: y, W: math.Ceil(r.Right()-eps) - x, H: math.Ceil(r.Bottom()-eps) - y}
}

// Picture is what to paint for the whole screen: the picture the source brings along, else its paint tree.
func (s *Screen) Picture() *PaintNode {
	if s.Merged != nil {
		return s.Merged
	}
	return s.Paint
}

// Title is what to call an element in a sentence: its name, else its words, else what it is.
func (e *Element) Title() string {
	switch {
	case e.Name != "":
		return e.Name
	case e.Words != nil && e.Words.Words != "":
		return "“" + strings.ReplaceAll(e.Words.Words, "\n", " ") + "”"
	}
	return "unnamed " + string(e.Kind)
}
