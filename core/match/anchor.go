package match

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/digest"
)

// Anchor is what a phase or a remark remembers an element by, on its own, without the drawing it was made in. Without
// any of the fields below Screen it is the whole screen. Lengths are in px.
type Anchor struct {
	Source string `yaml:"source" json:"source"` // the drawing
	Screen string `yaml:"screen" json:"screen"`
	Select string `yaml:"select,omitempty" json:"select,omitempty"` // as it is addressed
	Kind   string `yaml:"kind,omitempty" json:"kind,omitempty"`
	Mark   string `yaml:"mark,omitempty" json:"mark,omitempty"`
	ID     string `yaml:"id,omitempty" json:"id,omitempty"`
	Path   string `yaml:"path,omitempty" json:"path,omitempty"`   // names from the screen down, for one that has a name
	In     string `yaml:"in,omitempty" json:"in,omitempty"`       // id or name of the nearest container that has one of its own
	Order  string `yaml:"order,omitempty" json:"order,omitempty"` // among those of its kind in there: "2 of 8"
	Words  string `yaml:"words,omitempty" json:"words,omitempty"`
	Look   string `yaml:"look,omitempty" json:"look,omitempty"`        // hash of how it looks, place and words aside
	Twins  int    `yaml:"twins,omitempty" json:"twins,omitempty"`      // others in there that looked and read the same
	More   int    `yaml:"more,omitempty" json:"more,omitempty"`        // likewise, elsewhere in the drawing
	Box    []Px   `yaml:"box,omitempty,flow" json:"box,omitempty"`     // x, y, width, height on the screen
	Inset  []Px   `yaml:"inset,omitempty,flow" json:"inset,omitempty"` // from the corner of that container
}

// Px is a length in px.
type Px float64

// MarshalYAML writes whole lengths without a fraction.
func (p Px) MarshalYAML() (any, error) {
	if p == Px(int64(p)) {
		return int64(p), nil
	}
	return float64(p), nil
}

// nth is a number of a list; not a number where there are fewer.
func nth(list []Px, i int) float64 {
	if i >= len(list) {
		return math.NaN()
	}
	return float64(list[i])
}

// Whole reports whether an anchor is a whole screen.
func (a *Anchor) Whole() bool { return a.Kind == "" && a.Select == "" }

// Field is a set of drawings in which anchors are found. It is prepared once for many.
type Field struct {
	docs  []*design.Document
	known map[*design.Document]*known
	looks map[*design.Element]string
}

// known is a drawing with all that its elements can be known by.
type known struct {
	elements []*design.Element
	anchors  []Anchor
	twins    map[string]int // by container, look and words
	alike    map[string]int // by look and words
	ids      map[string]int // how many have an id, a name or a mark
	names    map[string]int
	marks    map[string]int
}

// NewField prepares drawings.
func NewField(docs []*design.Document) *Field {
	return &Field{docs: docs, known: map[*design.Document]*known{}, looks: map[*design.Element]string{}}
}

// Anchor remembers an element of one of the drawings.
func (f *Field) Anchor(doc *design.Document, e *design.Element) Anchor {
	k := f.know(doc)
	i := slices.Index(k.elements, e)
	if i < 0 || e == e.Screen.Root {
		return Anchor{Source: doc.Name, Screen: e.Screen.Name, ID: e.Screen.Root.ID}
	}
	a := k.anchors[i]
	a.Twins = k.twins[twin(&a)] - 1
	a.More = k.alike[a.Look+"\x00"+a.Words] - 1 - a.Twins
	if k.marks[a.Mark] > 1 { // one of several instances
		a.Mark = ""
	}
	if k.ids[a.ID] > 1 {
		a.ID = ""
	}
	if k.names[e.Name] > 1 { // its number changes when another comes or goes
		a.Path = ""
	}
	return a
}

// know reads all that the elements of a drawing can be known by.
func (f *Field) know(doc *design.Document) *known {
	if k := f.known[doc]; k != nil {
		return k
	}
	k := &known{elements: doc.All(), twins: map[string]int{}, alike: map[string]int{}, ids: map[string]int{}, names: map[string]int{}, marks: map[string]int{}}
	for _, e := range k.elements {
		k.ids[e.ID]++
		k.names[e.Name]++
	}
	orders := map[string]int{}
	for _, e := range k.elements {
		a := f.of(doc, e, k)
		orders[a.In+"\x00"+a.Kind]++
		a.Order = fmt.Sprint(orders[a.In+"\x00"+a.Kind])
		k.marks[a.Mark]++
		k.twins[twin(&a)]++
		k.alike[a.Look+"\x00"+a.Words]++
		k.anchors = append(k.anchors, a)
	}
	for i := range k.anchors {
		a := &k.anchors[i]
		a.Order += fmt.Sprint(" of ", orders[a.In+"\x00"+a.Kind])
	}
	f.known[doc] = k
	return k
}

// of is an anchor without its order and its twins.
func (f *Field) of(doc *design.Document, e *design.Element, k *known) Anchor {
	id := Of(e)
	b := e.BorderBox()
	a := Anchor{Source: doc.Name, Screen: id.Screen, Select: e.Selector(), Kind: string(e.Kind), Mark: id.Mark, ID: id.ID,
		Box: []Px{tenth(b.X), tenth(b.Y), tenth(b.W), tenth(b.H)}, Look: f.look(e)}
	if e.Name != "" {
		a.Path = e.Path
	}
	a.Words = wordsIn(e)
	for p := e.Parent; p != nil; p = p.Parent {
		switch {
		case p == e.Screen.Root:
			a.In = "screen " + id.Screen
		case p.ID != "" && k.ids[p.ID] == 1:
			a.In = p.ID
		case p.Name != "" && k.names[p.Name] == 1:
			a.In = p.Name
		default:
			continue
		}
		c := p.BorderBox()
		a.Inset = []Px{tenth(b.X - c.X), tenth(b.Y - c.Y)}
		break
	}
	return a
}

// mostWords is how many letters of its words an anchor keeps.
const mostWords = 80

// wordsIn are the words of an element, or of those in it.
func wordsIn(e *design.Element) string {
	var list []string
	n := 0
	e.Walk(func(x *design.Element) {
		if x.Words != nil && n < mostWords {
			list = append(list, x.Words.Words)
			n += len(x.Words.Words) + 1
		}
	})
	words := []rune(strings.Join(list, " "))
	return string(words[:min(len(words), mostWords)])
}

func tenth(v float64) Px { return Px(math.Round(v*10) / 10) }

func twin(a *Anchor) string { return a.In + "\x00" + a.Look + "\x00" + a.Words }

// look is a hash of the facts of an element that neither its place nor its words change, and of those of what lies in it.
func (f *Field) look(e *design.Element) string {
	if l, ok := f.looks[e]; ok {
		return l
	}
	var b strings.Builder
	b.WriteString(string(e.Kind))
	for _, l := range design.Placeless(e.Facts()) {
		if e.Words != nil && ofWords[l.Name] || design.FollowsPlace(l.Name) {
			continue
		}
		b.WriteString("\x00" + l.Name + "=" + l.Value)
	}
	for _, c := range e.Children {
		b.WriteString("\x01" + f.look(c))
	}
	f.looks[e] = digest.Of(b.String())
	return f.looks[e]
}

// State is a hash of all that shows of an element, its own place aside: its facts, its words, what lies in it and where.
func (f *Field) State(e *design.Element) string {
	d := digest.New()
	origin := e.BorderBox()
	e.Walk(func(x *design.Element) {
		if x.Hidden {
			return
		}
		d.Text(string(x.Kind))
		for _, l := range design.Placeless(x.Facts()) {
			if !design.FollowsPlace(l.Name) {
				d.Text(l.Name, l.Value)
			}
		}
		if x != e {
			b := x.BorderBox()
			d.Num(float64(tenth(b.X-origin.X)), float64(tenth(b.Y-origin.Y)))
		}
	})
	return d.String()
}

var ofWords = map[string]bool{"words": true, "lines": true, "size": true, "text-align": true}

// Found is where an anchor is now.
type Found struct {
	Doc     *design.Document
	Element *design.Element // nil for lost; the root of a screen
	Why     Reason          // or why it is lost
}

// Reasons why an anchor is found or lost, beside those of pairs.
const (
	ByTraits  Reason = "alike in kind, words, look and place"
	ByScreen  Reason = "the screen of that name"
	BySelect  Reason = "the selector" // somebody wrote it by hand
	NoSource  Reason = "the drawing is gone"
	NoScreen  Reason = "the screen is gone"
	NotThere  Reason = "nothing is enough like it any more"
	Ambiguous Reason = "several elements could be it"
)

// What a trait counts for or against an element, and what is enough. They were set so that of thousands of random edits
// none led to another element (anchor_test.go holds that).
const (
	sameMark, sameID      = 4, 4
	samePath              = 2
	sameWords, likelyText = 3, 1.5
	onlyOne               = 1 // the words, or the look, were nobody else's
	sameLook              = 2
	sameBox, samePoint    = 2, 1.5
	sameInset             = 1.5
	sameContainer         = 1
	sameOrder             = 1.5
	ofTwins               = 1 // at most, for look and words that others have, too
	otherID, otherWords   = -2, -2
	otherMark             = -2
	otherKind             = -3

	enough = 4
	ahead  = 1.5 // of the second best
)

// Find finds the element that an anchor means: in its own drawing, or, where that is gone, in all. It is lost where
// nothing, or more than one element, is enough like what it was.
func (f *Field) Find(a *Anchor) Found {
	docs := f.docs
	if i := slices.IndexFunc(docs, func(d *design.Document) bool { return d.Name == a.Source }); i >= 0 {
		docs = docs[i : i+1]
	}
	if a.Whole() {
		return findScreen(a, docs)
	}
	if a.Kind == "" {
		return findSelected(a, docs)
	}
	best, second := 0.0, 0.0
	found := Found{Why: NotThere}
	if len(docs) == 0 {
		found.Why = NoSource
	}
	for _, d := range docs {
		k := f.know(d)
		for i := range k.anchors {
			score, why := weigh(a, &k.anchors[i], k)
			switch {
			case score > best:
				best, second, found = score, best, Found{d, k.elements[i], why}
			case score > second:
				second = score
			}
		}
	}
	switch {
	case best < enough:
		return Found{Why: found.lost(NotThere)}
	case best-second < ahead:
		return Found{Why: Ambiguous}
	}
	return found
}

// lost is why nothing was found.
func (f *Found) lost(why Reason) Reason {
	if f.Why == NoSource {
		return NoSource
	}
	return why
}

// weigh says how much an element of a drawing is what an anchor means.
func weigh(a, e *Anchor, k *known) (score float64, why Reason) {
	why = ByTraits
	if a.Kind != e.Kind {
		score += otherKind
	}
	if a.Screen != e.Screen {
		score--
	}
	switch {
	case a.Mark != "" && a.Mark == e.Mark && k.marks[a.Mark] == 1:
		score += sameMark
		why = ByMark
	case a.Mark == e.Mark && a.Mark != "":
		score++
	case a.Mark != "" && e.Mark != "":
		score += otherMark
	}
	switch {
	case a.ID != "" && a.ID == e.ID && k.ids[a.ID] == 1:
		score += sameID
		why = ByID
	case a.ID != "" && e.ID != "" && a.ID != e.ID:
		score += otherID
	case a.ID == "" && e.ID != "":
		score-- // it had none
	}
	if a.Path != "" && a.Path == e.Path && (a.ID == "" || last(a.Path) != a.ID) {
		score += samePath
	}
	alike := 0.0
	switch {
	case a.Words == "" && e.Words == "":
	case a.Words == e.Words:
		alike += sameWords
	case Words(a.Words, e.Words) > 0.6:
		score += likelyText
	default:
		score += otherWords
	}
	if a.Look == e.Look {
		alike += sameLook
	}
	switch whole := a.Words == e.Words && a.Look == e.Look; {
	case whole && a.Twins == 0 && a.In == e.In && k.twins[twin(e)] == 1:
		alike += onlyOne
	case whole && (a.Twins > 0 || a.In != e.In && (a.Words == "" || a.More > 0)): // shared by others, so it is weak evidence
		alike = min(alike, ofTwins)
	}
	score += alike
	same := func(i int) bool { return near(nth(a.Box, i), nth(e.Box, i)) }
	level := near(nth(a.Box, 0)+nth(a.Box, 2), nth(e.Box, 0)+nth(e.Box, 2)) || // at the right, or centred
		near(nth(a.Box, 0)+nth(a.Box, 2)/2, nth(e.Box, 0)+nth(e.Box, 2)/2)
	switch {
	case same(0) && same(1) && same(2) && same(3):
		score += sameBox
	case a.Kind == string(design.Text) && same(1) && (same(0) || level):
		score += samePoint
	case a.In == e.In && near(nth(a.Inset, 0), nth(e.Inset, 0)) && near(nth(a.Inset, 1), nth(e.Inset, 1)):
		score += sameInset
	}
	if a.In == e.In {
		score += sameContainer
		if a.Order == e.Order {
			score += sameOrder
		}
	}
	return score, why
}

func near(a, b float64) bool { return math.Abs(a-b) < 0.25 }

// findSelected finds the one element that a selector means, which is all that somebody wrote.
func findSelected(a *Anchor, docs []*design.Document) Found {
	sel, err := css.ParseSelector(a.Select)
	if err != nil {
		return Found{Why: Reason("its selector is none: " + err.Error())}
	}
	found := Found{Why: NotThere}
	if len(docs) == 0 {
		found.Why = NoSource
	}
	for _, d := range docs {
		for _, e := range d.Query(sel) {
			if a.Screen != "" && e.Screen.Name != a.Screen {
				continue
			}
			if found.Element != nil {
				return Found{Why: Ambiguous}
			}
			found = Found{d, e, BySelect}
		}
	}
	return found
}

// findScreen finds a whole screen: by its name, by its id, or as the only one of its drawing.
func findScreen(a *Anchor, docs []*design.Document) Found {
	if len(docs) == 0 {
		return Found{Why: NoSource}
	}
	for _, same := range []struct {
		why Reason
		of  func(*design.Screen) bool
	}{
		{ByScreen, func(s *design.Screen) bool { return s.Name == a.Screen }},
		{ByID, func(s *design.Screen) bool { return a.ID != "" && s.Root.ID == a.ID }},
	} {
		var found []Found
		for _, d := range docs {
			for _, s := range d.Screens {
				if same.of(s) {
					found = append(found, Found{d, s.Root, same.why})
				}
			}
		}
		if len(found) == 1 {
			return found[0]
		}
	}
	if len(docs) == 1 && docs[0].Name == a.Source && len(docs[0].Screens) == 1 && a.ID == "" {
		s := docs[0].Screens[0]
		return Found{docs[0], s.Root, Reason(fmt.Sprintf("the only screen of %s", a.Source))}
	}
	return Found{Why: NoScreen}
}

// Look is a hash of how an element looks, its place and its words aside, with what lies in it.
func (f *Field) Look(e *design.Element) string { return f.look(e) }
