package drift

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"sync"

	"archetyp/core/audit"
	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/digest"
)

// Run compares.
func Run(in In) (*Report, error) {
	r := &Report{}
	lists := make([][]seen, len(in.Pages)+len(in.Drawings)+len(in.Sheets))
	pairs := make([]Pair, len(lists))
	drawings := make([]*drawn, len(in.Drawings))
	var wait sync.WaitGroup
	for i := range in.Pages {
		wait.Go(func() { lists[i], pairs[i] = comparePages(&in, &in.Pages[i]) })
	}
	for i := range in.Drawings {
		k := len(in.Pages) + i
		wait.Go(func() { drawings[i], lists[k], pairs[k] = compareDrawing(&in, &in.Drawings[i]) })
	}
	wait.Wait()
	for i := range in.Sheets {
		k := len(in.Pages) + len(in.Drawings) + i
		held, list, pair, err := compareSheet(&in, &in.Sheets[i])
		if err != nil {
			return nil, err
		}
		lists[k], pairs[k] = list, pair
		drawings = append(drawings, held...)
	}
	lists = append(lists, variables(&in))
	r.Pairs = pairs
	r.Differences = gather(&in, slices.Concat(lists...))
	elsewhere(r.Differences, drawings)
	return r, nil
}

// elsewhere marks differences whose declaration is as designed on other elements, and those of one declaration for which
// the design has several values: none of these can just be changed.
func elsewhere(list []Difference, drawings []*drawn) {
	if len(drawings) == 0 {
		return
	}
	key := func(place design.StylePlace, property string) string { return placeKey(place) + "\x00" + property }
	differ, wanted := map[string]int{}, map[string]bool{}
	for i := range list {
		d := &list[i]
		for _, s := range d.Spots {
			wanted[s.Prop] = true
		}
		if !d.Cause.Lacking {
			differ[key(d.Cause.Place, d.Property)]++
		}
	}
	right := map[string]bool{}
	for _, d := range drawings {
		for _, t := range d.tried {
			if !t.right || !wanted[t.property] {
				continue
			}
			if w := winner(d.page.Styles.Why(t.node, t.property)); w != nil {
				right[key(w.Place, t.property)] = true
			}
			for _, v := range d.variables(t.node, t.property) {
				right[key(v.Place, t.property)] = true
			}
		}
	}
	for i := range list {
		d := &list[i]
		if d.Cause.Lacking || d.Property == "" {
			continue
		}
		d.Elsewhere = differ[key(d.Cause.Place, d.Property)] > 1 || slices.ContainsFunc(d.Spots, func(s Spot) bool { return right[key(d.Cause.Place, s.Prop)] })
		if d.Elsewhere {
			d.Edit = nil
		}
	}
}

// gather makes one difference of all that one cause makes another.
func gather(in *In, list []seen) []Difference {
	groups := map[string][]seen{}
	var order []string
	for _, s := range list {
		key := s.key()
		if groups[key] == nil {
			order = append(order, key)
		}
		groups[key] = append(groups[key], s)
	}
	out := make([]Difference, 0, len(order))
	for _, key := range order {
		list := groups[key]
		idle := !slices.ContainsFunc(list, func(s seen) bool { return !s.idle })
		list = slices.DeleteFunc(list, func(s seen) bool { return s.idle && !idle })
		d := difference(in, list)
		if d.Level != audit.Off {
			out = append(out, d)
		}
	}
	slices.SortStableFunc(out, func(a, b Difference) int {
		return cmp.Or(cmp.Compare(slices.Index(audit.Levels, a.Level), slices.Index(audit.Levels, b.Level)),
			cmp.Compare(slices.Index(Kinds, a.Kind), slices.Index(Kinds, b.Kind)), cmp.Compare(a.Cause.Place.File, b.Cause.Place.File),
			cmp.Compare(a.Cause.Place.Line, b.Cause.Place.Line), cmp.Compare(a.Cause.Place.Column, b.Cause.Place.Column))
	})
	return out
}

// key is the same for all that one cause makes another.
func (s *seen) key() string {
	place := fmt.Sprintf("%s:%d:%d", s.cause.Place.File, s.cause.Place.Line, s.cause.Place.Column)
	switch {
	case s.kind == Order:
		return "order\x00" + s.spot.Site.Source + s.message
	case s.kind == Missing && s.cause.Lacking && s.spot.Site.Selector+s.spot.Design.Selector != "" && strings.HasPrefix(s.message, "the site lacks ") && s.spot.Why == "":
		return "missing\x00" + s.message
	case s.kind == Words:
		return "words\x00" + place + "\x00" + s.spot.Prop + "\x00" + s.spot.Was + "\x00" + s.spot.Is
	case s.message != "":
		return string(s.kind) + "\x00" + place + "\x00" + s.spot.Design.Source + s.spot.Design.Selector + "\x00" + s.spot.Prop + "\x00" + s.message
	case s.cause.Variable != "":
		return place + "\x00" + s.cause.Property
	case s.old == nil && s.claimed != "": // of a drawing: another value may be meant elsewhere
		return string(s.kind) + "\x00" + place + "\x00" + s.property + "\x00" + s.spot.Was + "\x00" + s.cause.Selector + "\x00" + s.spot.View.State + "\x00" + s.local()
	case s.cause.Lacking && s.old != nil:
		return "lacking\x00" + s.cause.Property + "\x00" + s.cause.Selector + "\x00" + fmt.Sprint(s.old.Place.Line, s.old.Place.Column, s.old.Place.File)
	}
	return place + "\x00" + s.cause.Property
}

// local is where a difference is that no rule is behind.
func (s *seen) local() string {
	if s.cause.Selector != "" {
		return ""
	}
	return s.spot.Site.Source + s.spot.Site.Selector
}

// difference is one of what was seen of one cause.
func difference(in *In, list []seen) Difference {
	first := list[0]
	d := Difference{Kind: first.kind, Cause: first.cause, Property: first.cause.Property, Message: first.message}
	if first.property != "" {
		d.Property = first.property
	}
	var longs []string
	seenAt := map[string]bool{}
	for _, s := range list {
		at := s.spot.Screen + "\x00" + s.spot.Site.Source + "\x00" + s.spot.Site.Selector + "\x00" + s.spot.Design.Selector + "\x00" + s.spot.Prop + "\x00" + s.spot.Was + "\x00" + s.spot.Is
		if !seenAt[at] {
			seenAt[at] = true
			d.Spots = append(d.Spots, s.spot)
		}
		if s.spot.Prop != "" && !slices.Contains(longs, s.spot.Prop) {
			longs = append(longs, s.spot.Prop)
		}
		if s.far > d.Distance && (d.Unit == "" || s.unit == d.Unit) {
			d.Distance, d.Unit = math.Round(s.far*1e4)/1e4, s.unit
		}
	}
	if len(longs) > 0 && (len(longs) > 1 || longs[0] != d.Property) {
		d.Longs = longs
	}
	d.Design, d.Site = Value{Text: first.spot.Was, Token: first.token}, Value{Text: first.spot.Is}
	if first.message == "" {
		d.values(in, &first, longs)
	}
	d.Level = levelOf(&d)
	if !first.idle || first.old != nil {
		d.Edit = d.edit(in, &first)
	}
	if l, ok := in.Levels[d.Kind]; ok && l != "" {
		d.Level = l
	}
	if first.idle {
		d.Level = audit.Note
		d.Message += "; nothing on these pages uses it"
	}
	d.ID = d.identify(&first)
	return d
}

// values fills in what the two sides say, and what would mend it.
func (d *Difference) values(in *In, first *seen, longs []string) {
	c := &d.Cause
	if len(longs) > 1 && !d.same() {
		first.spot.Was, first.spot.Is = "", ""
	}
	if c.Variable != "" {
		if first.old != nil {
			d.Design.Declared = first.old.Value
		}
		d.Site.Declared = c.Value
	} else {
		if first.old != nil && first.old.Prop == d.Property {
			d.Design.Declared = first.old.Value
		}
		if !c.Lacking {
			d.Site.Declared = c.Value
		}
	}
	if first.spot.Was == "" && d.Design.Declared != "" {
		d.Design.Text = d.Design.Declared
	}
	if first.spot.Is == "" && d.Site.Declared != "" {
		d.Site.Text = d.Site.Declared
	}
	d.tokens(in)
	switch {
	case c.Variable != "" && first.claimed != "":
		d.Mend = c.Variable + ": " + d.Design.Text + ";"
		if in.Tokens != nil && in.Tokens.Value(d.Design.Token) != "" {
			d.Mend = c.Variable + ": " + in.Tokens.Value(d.Design.Token) + ";"
		}
	case first.claimed != "":
		d.Mend = first.claimed
		if v := in.own(d.Design.Token); v != "" {
			property, _, _ := strings.Cut(first.claimed, ":")
			d.Mend = property + ": var(" + v + ");"
		}
	case first.old != nil:
		d.Mend = first.old.Prop + ": " + first.old.Value + ";"
	case !c.Lacking && c.Property != "":
		d.Mend = "remove " + c.Property + ": " + c.Value + ";"
	}
	d.Message = d.sentence()
}

// same reports whether all longhands have the same value on each side, as the four sides of a box.
func (d *Difference) same() bool {
	for _, s := range d.Spots {
		if s.Was != d.Spots[0].Was || s.Is != d.Spots[0].Is {
			return false
		}
	}
	return len(d.Spots) > 0
}

// tokens names the tokens that the two values are.
func (d *Difference) tokens(in *In) {
	if in.Tokens == nil {
		return
	}
	prop := d.Property
	if d.Cause.Variable != "" && len(d.Longs) > 0 {
		prop = d.Longs[0]
	}
	if d.Design.Token == "" {
		if v := onlyVar(d.Design.Declared); v != "" {
			d.Design.Token = in.Tokens.Named(v)
		}
	}
	if d.Design.Token == "" && d.Design.Text != "" {
		d.Design.Token = in.tokenOf(prop, d.Design.Text)
	}
	if d.Site.Text != "" {
		d.Site.Token = in.tokenOf(prop, d.Site.Text)
	}
}

// tokenOf is the token that has a value of a property; "" for none.
func (in *In) tokenOf(property, value string) string {
	if in.Tokens == nil {
		return ""
	}
	if kind := TokenKind(property, value); kind != "" {
		return in.Tokens.Of(kind, value)
	}
	return ""
}

// onlyVar is the custom property that is all of a value; "" for none.
func onlyVar(v string) string {
	name, ok := strings.CutPrefix(strings.TrimSpace(v), "var(")
	if !ok || !strings.HasSuffix(name, ")") || strings.ContainsAny(name[:len(name)-1], "(,) ") {
		return ""
	}
	return name[:len(name)-1]
}

// sentence says a difference in one line.
func (d *Difference) sentence() string {
	what := d.Property
	if d.Cause.Variable != "" {
		what = d.Cause.Variable
	}
	if d.Cause.Selector != "" {
		what = d.Cause.Selector + " " + what
	} else if len(d.Spots) > 0 && d.Spots[0].Site.Element != "" {
		what = d.Spots[0].Site.Element + " " + what
	}
	if st := d.Spots[0].View.State; st != "" && !strings.Contains(what, ":"+st) {
		what += " (:" + st + ")"
	}
	return fmt.Sprintf("%s is %s, in the design %s", what, d.Site.words(), d.Design.words())
}

// words is a value with its token.
func (v Value) words() string {
	text := plainColours(v.Text)
	switch {
	case text == "" || v.Text == "" && v.Declared == "":
		return "not declared"
	case v.Declared != "" && strings.Contains(v.Declared, "var("):
		text += " (" + v.Declared + ")"
	case v.Token != "":
		text += " (" + v.Token + ")"
	}
	return text
}

// plainColours is a computed value with its colours as people write them.
func plainColours(text string) string {
	list := color.In(text)
	for i := len(list) - 1; i >= 0; i-- {
		c := list[i]
		text = text[:c.From] + c.Color.CSS() + text[c.To:]
	}
	return strings.ReplaceAll(text, "rgb(0 0 0 / 0)", "transparent")
}

// Where errors begin: colours far enough apart to be taken for others at a glance, lengths that shift what is around.
const (
	grossColour = 0.05 // OKLab
	grossLength = 4    // px
)

// usual is how grave differences of a kind are, where nothing says how far apart the values are.
func (k Kind) usual() audit.Level {
	switch k {
	case Extra, Other:
		return audit.Warning
	case Motion:
		return audit.Note
	}
	return audit.Error
}

// levelOf is how grave a difference is: as its kind is, or only a warning where the values are near each other.
func levelOf(d *Difference) audit.Level {
	near := false
	switch d.Kind {
	case Colour:
		near = d.Unit == "OKLab" && d.Distance < grossColour
	case Type:
		near = d.Unit == "px" && d.Distance < 1
	case Size, Space, Radius, Border, Shadow, Layout:
		near = d.Unit == "px" && d.Distance < grossLength || d.Unit == "OKLab" && d.Distance < grossColour || d.Unit != "px" && d.Unit != "OKLab" && d.Unit != ""
	}
	if near {
		return audit.Warning
	}
	return d.Kind.usual()
}

// identify names a difference by what it is and by the rule or element it is at, not by lines: it stays while the files
// around it change.
func (d *Difference) identify(first *seen) string {
	at := d.Cause.Selector + "\x00" + strings.Join(d.Cause.Within, " ")
	if d.Cause.Selector == "" {
		at = first.spot.Screen + "\x00" + first.spot.Site.Selector + "\x00" + first.spot.Design.Selector
	}
	return digest.Of(string(d.Kind), d.Property, d.Cause.Variable, at, first.spot.View.State, d.Design.Text, d.Site.Text)
}
