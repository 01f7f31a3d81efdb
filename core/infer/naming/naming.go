// Package naming proposes names for elements that have none that says anything: from what they are for, the words in
// them, what they stand beside, and how they are marked. Elements go in, names in plain words come out: no two alike among
// siblings, none longer than four words, the same as long as what they are made of is.
package naming

import (
	"strings"
	"unicode"

	"archetyp/core/design"
	"archetyp/core/geom"
	"archetyp/core/infer/role"
)

// Proposal is a name for an element, and what it comes from.
type Proposal struct {
	Element *design.Element
	Name    string
	Why     string
}

// most words of a name.
const most = 4

// Propose names the parts of a document that have no name: groups that hold words or pictures, and pictures. Elements
// come in the order of the document.
func Propose(d *design.Document) (out []Proposal) {
	if d.Styles != nil {
		return nil
	}
	for _, s := range d.Screens {
		n := &namer{roles: role.On(s)}
		n.children(s.Root)
		out = append(out, n.out...)
	}
	return out
}

type namer struct {
	roles *role.Screen
	out   []Proposal
}

// children names the children of an element, then theirs.
func (n *namer) children(parent *design.Element) {
	taken := map[string]bool{}
	for _, e := range parent.Children {
		if e.Name != "" {
			taken[words(e.Name)] = true
		}
	}
	type made struct {
		e             *design.Element
		subject, noun string
		why           string
	}
	var list []made
	count := map[string]int{}
	for _, e := range parent.Children {
		if !n.wants(e) {
			continue
		}
		subject, noun, why := n.name(e, parent)
		list = append(list, made{e, subject, noun, why})
		count[join(subject, noun)]++
	}
	nth := map[string]int{}
	for _, m := range list {
		name := join(m.subject, m.noun)
		if count[name] > 1 || taken[name] { // what else tells them apart
			if more := n.second(m.e, m.subject); more != "" {
				name = join(trimmed(m.subject+" "+more, most-len(strings.Fields(m.noun))), m.noun)
			}
		}
		base := name
		for taken[name] {
			nth[base]++
			name = ordinal(nth[base]+1) + " " + join(trimmed(strings.TrimSuffix(base, " "+m.noun), most-1-len(strings.Fields(m.noun))), m.noun)
			if base == m.noun {
				name = ordinal(nth[base]+1) + " " + m.noun
			}
		}
		taken[name] = true
		n.out = append(n.out, Proposal{m.e, name, m.why})
	}
	for _, e := range parent.Children {
		if e.Kind == design.Group && e.Native != design.Instance && e.Marks.Asset == "" {
			n.children(e)
		}
	}
}

// wants reports whether an element should have a name and has none: a part that people speak of.
func (n *namer) wants(e *design.Element) bool {
	if e.Name != "" || e.Hidden || e.Casts || !e.Geometry.Set {
		return false
	}
	switch e.Kind {
	case design.Image:
		return true
	case design.Group:
		return len(e.Children) > 1 || e.Marks.Component != "" || e.Marks.Asset != ""
	case design.Path:
		return e.Marks.Asset != ""
	}
	return false
}

// nouns are what roles are called.
var nouns = map[role.Role]string{role.Button: "button", role.Link: "link", role.Field: "field", role.Area: "field", role.Search: "search field",
	role.Select: "picker", role.Checkbox: "check box", role.Radio: "radio button", role.Switch: "switch", role.Spin: "counter", role.Tab: "tab",
	role.Tabs: "tabs", role.Navigation: "bar", role.Header: "header", role.Footer: "footer", role.Dialog: "dialog", role.Note: "note",
	role.Status: "badge", role.List: "list", role.Item: "item", role.Table: "table"}

// name is what an element is called: whose it is, what it is, and what says so.
func (n *namer) name(e, parent *design.Element) (subject, noun, why string) {
	if e.Marks.Asset != "" {
		last := e.Marks.Asset[strings.LastIndexByte(e.Marks.Asset, '/')+1:]
		return trimmed(words(last), 3), picture(e), "the asset " + e.Marks.Asset
	}
	found := n.roles.Of(e)
	noun = nouns[found.Role]
	why = found.Why
	if c := words(e.Marks.Component); c != "" {
		noun, why = trimmed(c, 2), "the component "+e.Marks.Component
	}
	switch {
	case noun != "":
	case found.Role == role.Picture || e.Kind == design.Image || !e.Informs():
		noun = picture(e)
	default:
		noun, why = form(e)
	}
	subject = n.subject(e, noun)
	if subject == "" {
		subject = beside(e, parent)
		why += ", beside words"
	}
	if subject == "" && parent.Name != "" && parent != e.Screen.Root {
		subject = trimmed(words(parent.Name), 2)
		why += ", in " + parent.Name
	}
	if subject == "" {
		if subject = colourOf(e); subject != "" {
			why += ", most of it " + subject
		}
	}
	return subject, noun, why
}

// picture is what a picture is called by its size.
func picture(e *design.Element) string {
	if b := e.BorderBox(); max(b.W, b.H) <= 48 {
		return "icon"
	}
	return "picture"
}

// form is what a group of words is called by how it looks.
func form(e *design.Element) (noun, why string) {
	b := e.BorderBox()
	texts := textsIn(e)
	switch {
	case e.Background() != nil && len(texts) > 1 && b.W > 4*b.H:
		return "row", "words on a wide ground"
	case e.Background() != nil && len(texts) > 1:
		return "card", "words on a ground"
	case e.Background() != nil:
		return "label", "a word on a ground"
	case len(texts) > 1 && b.W > 6*b.H:
		return "line", "words side by side"
	}
	return "group", "words that stand together"
}

// subject are the words that say which one it is: a field's label, the largest words of a group.
func (n *namer) subject(e *design.Element, noun string) string {
	texts := textsIn(e)
	if len(texts) == 0 {
		return ""
	}
	best := texts[0]
	for _, t := range texts {
		if noun != "field" && noun != "picker" && said(t) && (!said(best) || t.Words.Size.Value > best.Words.Size.Value) {
			best = t
		}
	}
	if !said(best) {
		return ""
	}
	out := trimmed(words(best.Words.Words), most-len(strings.Fields(noun)))
	return strings.TrimSuffix(strings.TrimSpace(strings.TrimSuffix(out, noun)), " ")
}

// said reports whether a text has words, and not only numbers and signs.
func said(t *design.Element) bool {
	return strings.ContainsFunc(t.Words.Words, unicode.IsLetter)
}

// second are other words in an element, which tell it from others whose first words are the same.
func (n *namer) second(e *design.Element, subject string) string {
	for _, t := range textsIn(e) {
		if w := trimmed(words(t.Words.Words), 2); w != "" && !strings.Contains(" "+subject+" ", " "+w+" ") && !strings.HasPrefix(words(t.Words.Words), subject) {
			return w
		}
	}
	return ""
}

// beside are the words that stand nearest to an element among its siblings.
func beside(e, parent *design.Element) string {
	near, best := 64.0, ""
	for _, o := range parent.Children {
		if o == e || o.Words == nil || o.Hidden || !said(o) {
			continue
		}
		if d := distance(e.BorderBox(), o.BorderBox()); d < near {
			near, best = d, trimmed(words(o.Words.Words), 2)
		}
	}
	return best
}

// distance is how far two boxes are apart, in px.
func distance(a, b geom.Rect) float64 {
	dx := max(a.X-b.Right(), b.X-a.Right(), 0)
	dy := max(a.Y-b.Bottom(), b.Y-a.Bottom(), 0)
	return dx + dy
}

func textsIn(e *design.Element) (out []*design.Element) {
	e.Walk(func(x *design.Element) {
		if x.Words != nil && !x.Hidden && strings.TrimSpace(x.Words.Words) != "" {
			out = append(out, x)
		}
	})
	return out
}

// words are the words of a text in lower case, without signs. Letters and numbers that stand alone at its beginning say
// nothing.
func words(s string) string {
	list := strings.FieldsFunc(strings.ToLower(s), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
	for len(list) > 0 && letters(list[0]) < 2 {
		list = list[1:]
	}
	return strings.Join(list, " ")
}

func letters(s string) (n int) {
	for _, r := range s {
		if unicode.IsLetter(r) {
			n++
		}
	}
	return n
}

// small are words that a name does not end with.
var small = map[string]bool{"a": true, "an": true, "the": true, "of": true, "to": true, "and": true, "or": true, "in": true, "on": true, "at": true,
	"for": true, "by": true, "with": true, "from": true, "is": true, "we": true, "you": true, "your": true, "our": true, "my": true}

// trimmed are the first so many words of a text, none of which is only there to join others at its end.
func trimmed(s string, n int) string {
	list := strings.Fields(s)
	list = list[:min(len(list), max(n, 0))]
	for len(list) > 1 && small[list[len(list)-1]] {
		list = list[:len(list)-1]
	}
	return strings.Join(list, " ")
}

func join(subject, noun string) string { return strings.TrimSpace(subject + " " + noun) }

// ordinal is the word for a place in a row.
func ordinal(n int) string {
	list := []string{"first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth", "eleventh", "twelfth"}
	if n <= len(list) {
		return list[n-1]
	}
	digits := ""
	for ; n > 0; n /= 10 {
		digits = string(rune('0'+n%10)) + digits
	}
	return digits + "th"
}
