package asset

import (
	"fmt"
	"hash/fnv"
	"path"
	"slices"
	"sort"
	"strings"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/paint/svg"
)

// Verdict says what a painted thing had best be.
type Verdict string

// The verdicts.
const (
	AsCSS     Verdict = "css"     // a style sheet can draw it
	AsText    Verdict = "text"    // words, set as such
	AsStrip   Verdict = "strip"   // a repeating strip: one pixel of it will do, or a gradient
	AsPicture Verdict = "picture" // nothing but a picture will do
)

// Advice is what is said about one painted thing.
type Advice struct {
	Element *design.Element
	Source  string
	Asset   string // its name, where it is marked
	Verdict Verdict
	Why     string
	CSS     string   // the declarations that draw it
	Act     string   // what should be done; "" where all is well
	Mark    string   // the name that the element may be marked with; "" where it needs none
	Others  []string // names of the assets it is about too
}

// Advise looks at every painted thing of the screens: whether it must be a picture at all, and what is wrong with
// those that are marked. Elements are listed in the order they are drawn.
func Advise(docs []*design.Document, sets []Set, density float64) []Advice {
	if density == 0 {
		density = 1
	}
	a := &adviser{sets: sets, density: density, marked: map[*design.Element]*Asset{}, drawings: map[any]string{},
		seen: map[uint64]string{}, names: map[string]bool{}}
	list, _ := Collect(docs, sets)
	for _, as := range list {
		a.marked[as.Element] = as
		a.names[strings.ToLower(as.Name)] = true
		if ref := drawingOf(as.Element); ref != nil {
			a.drawings[ref] = as.Name
		}
		a.seen[hashOf(svg.Write(design.Alone(as.Element), as.Element.Painted.Value, svg.Options{Rough: true}))] = as.Name
	}
	for _, d := range docs {
		a.source = d.Name
		for _, s := range d.Screens {
			a.walk(s.Root)
		}
	}
	a.twins(list)
	return a.out
}

type adviser struct {
	sets     []Set
	density  float64
	marked   map[*design.Element]*Asset
	seen     map[uint64]string // unmarked drawings that were reported, and where
	names    map[string]bool   // of assets, and those that were suggested, in lower case
	drawings map[any]string    // what assets are made of: another instance needs no mark
	source   string
	out      []Advice
}

// drawingOf is the markup an instance is made of.
func drawingOf(e *design.Element) any {
	if e.Node == nil || e.Native != design.Instance || e.Node.Href() == "" {
		return nil
	}
	return e.Node.Href()
}

func (a *adviser) walk(e *design.Element) {
	if e.Hidden {
		return
	}
	if as := a.marked[e]; as != nil {
		a.asset(as)
		return
	}
	if e.Marks.Asset != "" { // another instance of one that is marked
		return
	}
	if e.Kind != design.Group {
		a.loose(e)
		return
	}
	if e.Parent != nil && drawn(e) {
		a.icon(e)
		return
	}
	for rest := e.Children; len(rest) > 0; {
		switch n := a.together(rest); {
		case n > 1 && n == len(e.Children):
			a.icon(e)
			return
		case n > 1:
			a.joined(rest[:n])
			rest = rest[n:]
		default:
			a.walk(rest[0])
			rest = rest[1:]
		}
	}
}

// together is how many elements from the first on are free forms that touch: one drawing that nobody grouped.
func (a *adviser) together(list []*design.Element) int {
	var box geom.Rect
	for i, e := range list {
		_, css := cssOf(e)
		b := e.Painted.Value
		if e.Hidden || e.Kind != design.Path && e.Kind != design.Box || a.marked[e] != nil || e.Marks.Asset != "" || css ||
			b.W <= 0 || b.H <= 0 || i > 0 && box.Grow(1).Intersect(b).Empty() {
			return i
		}
		box = box.Union(b)
	}
	return len(list)
}

// joined asks to make one picture of forms that touch.
func (a *adviser) joined(forms []*design.Element) {
	e := forms[0]
	all := &design.PaintNode{Opacity: 1, Matrix: geom.Identity}
	var box geom.Rect
	for _, f := range forms {
		all.Children = append(all.Children, design.Alone(f))
		box = box.Union(f.Painted.Value)
	}
	with := path.Base(forms[1].Path)
	if more := len(forms) - 2; more > 0 {
		with += " and the " + count(more, "form") + " after it"
	}
	if !a.known(e, all, box) {
		a.say(e, Advice{Verdict: AsPicture, Act: fmt.Sprintf("group it with %s and mark the group: data-asset=%q", with,
			a.suggestion(e))}, "a free form that no style sheet can draw, and touches the next; nobody marked them")
	}
	for _, f := range forms[1:] {
		a.say(f, Advice{Verdict: AsPicture}, "it touches %s", e.Path)
	}
}

// drawn reports whether a group is a drawing: shapes alone, one of which no style sheet can draw, and no larger than
// icons and emblems are.
func drawn(e *design.Element) bool {
	if b := e.Painted.Value; b.W > 160 || b.H > 160 {
		return false
	}
	free, shapes := 0, 0
	only := true
	e.Walk(func(x *design.Element) {
		switch {
		case x.Hidden || x.Kind == design.Group:
		case x.Kind == design.Text || x.Kind == design.Image || x.Marks.Asset != "" || x.Marks.Component != "":
			only = false
		default:
			shapes++
			if _, ok := cssOf(x); !ok {
				free++
			}
		}
	})
	return only && free > 0 && (shapes > 1 || e.Native == design.Instance) && e.Marks.Component == ""
}

func (a *adviser) say(e *design.Element, what Advice, why string, args ...any) {
	if as := a.marked[e]; as != nil {
		what.Asset = as.Name
	}
	what.Element, what.Source, what.Why = e, a.source, fmt.Sprintf(why, args...)
	a.out = append(a.out, what)
}

// icon judges a group of shapes that nobody marked.
func (a *adviser) icon(e *design.Element) {
	if ref := drawingOf(e); ref != nil && a.drawings[ref] != "" {
		a.say(e, Advice{Verdict: AsPicture}, "another instance of %s", a.drawings[ref])
		return
	}
	n := 0
	e.Walk(func(x *design.Element) {
		if x.Kind != design.Group && !x.Hidden {
			n++
		}
	})
	a.unmarked(e, "a drawing of "+count(n, "shape")+" that no style sheet can draw")
}

// unmarked asks for a mark, once for each drawing.
func (a *adviser) unmarked(e *design.Element, what string) {
	if !a.known(e, design.Alone(e), e.Painted.Value) {
		name := a.suggestion(e)
		a.say(e, Advice{Verdict: AsPicture, Act: fmt.Sprintf("mark it: data-asset=%q", name), Mark: name}, "%s, and nobody marked it", what)
	}
}

// known says where a drawing was reported already.
func (a *adviser) known(e *design.Element, paint *design.PaintNode, box geom.Rect) bool {
	h := hashOf(svg.Write(paint, box, svg.Options{Rough: true}))
	if at, known := a.seen[h]; known {
		a.say(e, Advice{Verdict: AsPicture}, "the same drawing as %s", at)
		return true
	}
	a.seen[h] = e.Path
	return false
}

func count(n int, word string) string {
	if n == 1 {
		return "one " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}

// suggestion is a name that no asset has, and that was suggested for nothing else.
func (a *adviser) suggestion(e *design.Element) string {
	name := design.Slug(e.NearestName())
	if name == "" {
		name = design.Slug(strings.TrimSuffix(path.Base(a.source), path.Ext(a.source)))
	}
	if name == "" {
		name = "name"
	}
	folder := "pictures/"
	if e.Painted.Value.W <= 64 && e.Painted.Value.H <= 64 {
		folder = "icons/"
	}
	one := folder + name
	for i := 2; a.names[one]; i++ {
		one = fmt.Sprintf("%s%s-%d", folder, name, i)
	}
	a.names[one] = true
	return one
}

// loose judges an element that stands for itself and is not marked.
func (a *adviser) loose(e *design.Element) {
	switch e.Kind {
	case design.Text:
		a.say(e, Advice{Verdict: AsText}, "words can be words")
		return
	case design.Image:
		if s, ok := stripOf(e); ok {
			a.say(e, Advice{Verdict: AsStrip, CSS: s.css}, "%s", s.why)
			return
		}
		a.unmarked(e, "a bitmap")
		return
	}
	if text, ok := cssOf(e); ok {
		a.say(e, Advice{Verdict: AsCSS, CSS: text}, "%s", cssWhy(e))
		return
	}
	if e.Painted.Value.W <= 0 || e.Painted.Value.H <= 0 {
		return
	}
	a.unmarked(e, "a free form that no style sheet can draw")
}

// asset judges an element that is marked.
func (a *adviser) asset(as *Asset) {
	e := as.Element
	words, others := 0, 0
	e.Walk(func(x *design.Element) {
		switch {
		case x.Hidden || x.Kind == design.Group:
		case x.Kind == design.Text:
			words++
		default:
			others++
		}
	})
	switch {
	case words > 0 && others == 0:
		a.say(e, Advice{Verdict: AsText, Act: "take the mark away and set the words as text"},
			"marked, but it is nothing but words")
		return
	case e.Kind == design.Image:
		if s, ok := stripOf(e); ok {
			a.say(e, Advice{Verdict: AsStrip, CSS: s.css, Act: "take the mark away, or export one pixel of it"}, "%s", s.why)
			return
		}
	case e.Kind != design.Group:
		if text, ok := cssOf(e); ok {
			a.say(e, Advice{Verdict: AsCSS, CSS: text, Act: "take the mark away and let CSS draw it"}, "marked, but %s",
				cssWhy(e))
			return
		}
	}
	cut := as.Out(Look{Density: a.density})
	if b := cut.Bitmap; b != nil {
		var lacking []string
		for _, s := range as.Targets(a.sets) {
			for _, d := range s.At {
				if d > b.Density*1.005 {
					lacking = append(lacking, num(d)+"x")
				}
			}
		}
		if len(lacking) > 0 {
			slices.Sort(lacking)
			a.say(e, Advice{Verdict: AsPicture, Act: "put a larger picture into the drawing"},
				"a bitmap with pixels for %sx alone; %s are asked for", num(round2(b.Density)), strings.Join(slices.Compact(lacking), ", "))
			return
		}
		a.say(e, Advice{Verdict: AsPicture}, "a bitmap with pixels for %sx", num(round2(b.Density)))
		return
	}
	if words > 0 {
		a.say(e, Advice{Verdict: AsPicture}, "a drawing with words in it: they will not be translated")
		return
	}
	a.say(e, Advice{Verdict: AsPicture}, "a drawing that no style sheet can draw")
}

// twins finds the same drawing under several names, in the same colour or in others.
func (a *adviser) twins(list []*Asset) {
	same, alike := map[uint64][]*Asset{}, map[uint64][]*Asset{}
	colour := map[*Asset]string{}
	for _, as := range list {
		cut := as.Out(Look{Density: a.density})
		o := svg.Options{Rough: true}
		h := hashOf(svg.Write(cut.Paint, cut.Box, o))
		same[h] = append(same[h], as)
		if c := oneColour(cut.Paint); c != nil {
			colour[as] = c.CSS()
			o.Current = c
			h = hashOf(svg.Write(cut.Paint, cut.Box, o))
			alike[h] = append(alike[h], as)
		}
	}
	about := func(group []*Asset, act, why string) {
		var names []string
		for _, as := range group {
			names = append(names, as.Name)
		}
		a.out = append(a.out, Advice{Element: group[0].Element, Source: group[0].Source, Asset: group[0].Name,
			Verdict: AsPicture, Why: why, Act: act, Others: names[1:]})
	}
	for _, h := range sortedHashes(same) {
		if group := same[h]; len(group) > 1 {
			about(group, "keep one and use it everywhere", "the same picture under several names")
		}
	}
	for _, h := range sortedHashes(alike) {
		group := alike[h]
		var colours []string
		for _, as := range group {
			colours = append(colours, colour[as])
		}
		slices.Sort(colours)
		if colours = slices.Compact(colours); len(colours) > 1 {
			about(group, "keep one with current-color: true and let CSS give it its colour",
				"one drawing in several colours: "+strings.Join(colours, ", "))
		}
	}
}

func hashOf(data []byte) uint64 {
	h := fnv.New64a()
	_, _ = h.Write(data)
	return h.Sum64()
}

func sortedHashes(m map[uint64][]*Asset) []uint64 {
	var out []uint64
	for h := range m {
		out = append(out, h)
	}
	sort.Slice(out, func(i, j int) bool { return m[out[i]][0].Name < m[out[j]][0].Name })
	return out
}
