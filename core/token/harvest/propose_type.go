package harvest

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
)

// types are named by the rank of their size around the body, and by their weight where a size comes in several. The
// body is the size that most is read in; the family it is set in needs no name, one for large sizes alone is the
// titles'.
func (n *namer) types(found []*Found) {
	if len(found) == 0 {
		return
	}
	body := bodyOf(found)
	var up, down []float64 // sizes of the body's family
	for _, f := range found {
		switch s := f.face.size; {
		case f.face.first() != body.first():
		case s > body.size && !slices.Contains(up, s):
			up = append(up, s)
		case s < body.size && !slices.Contains(down, s):
			down = append(down, s)
		}
	}
	slices.Sort(up)
	slices.Sort(down)
	slices.Reverse(down)
	sizeName := map[float64]string{body.size: "body"}
	for i, s := range up {
		sizeName[s] = "heading-" + ranks(len(up), 0)[i]
		if len(up) == 1 {
			sizeName[s] = "heading"
		}
	}
	for i, s := range down {
		sizeName[s] = "fine-" + pxName(s)
		if i < 3 {
			sizeName[s] = []string{"small", "caption", "fine"}[i]
		}
	}
	plainFirst := slices.SortedStableFunc(slices.Values(found), func(a, b *Found) int {
		return cmp.Compare(math.Abs(a.face.spacing), math.Abs(b.face.spacing))
	})
	for _, f := range plainFirst {
		if f.Token != "" {
			continue
		}
		name := ""
		if f.face.first() == body.first() {
			name = sizeName[f.face.size]
		} else {
			name = otherFamily(found, f, body)
		}
		if f.face.weight != plainWeight(found, f) {
			name += "-" + weightWord(f.face.weight)
		}
		f.Proposed = n.typeName(name, f)
	}
}

func pxName(px float64) string {
	return strings.ReplaceAll(strings.TrimSuffix(css.Px(px), "px"), ".", "-")
}

// bodyOf is the face that most is read in; 16 px, 1rem, wherever it is used.
func bodyOf(found []*Found) *typeFace {
	weight := func(f *Found) (w float64) {
		for _, u := range f.Uses {
			w += u.weight
		}
		if f.face.size == 16 {
			w *= 100
		}
		return w
	}
	return slices.MaxFunc(found, func(a, b *Found) int {
		switch d := weight(a) - weight(b); {
		case d > 0:
			return 1
		case d < 0:
			return -1
		}
		return 0
	}).face
}

// otherFamily names a style of another family than the body's: a title, where that family is used for nothing smaller
// than a heading, else by the family.
func otherFamily(found []*Found, f *Found, body *typeFace) string {
	var sizes []float64
	for _, o := range found {
		if o.face.first() == f.face.first() && !slices.Contains(sizes, o.face.size) {
			sizes = append(sizes, o.face.size)
		}
	}
	slices.Sort(sizes)
	name := "title"
	if sizes[0] < 1.2*body.size {
		name = cmp.Or(design.Slug(f.face.first()), "plain")
		if strings.Contains(name, "mono") || strings.Contains(name, "code") {
			name = "mono"
		}
	}
	if len(sizes) > 1 {
		i, _ := slices.BinarySearch(sizes, f.face.size)
		name += "-" + ranks(len(sizes), (len(sizes)-1)/2)[i]
	}
	return name
}

// plainWeight is the weight that a size of a family has by itself: 400 where it comes in that, else the lightest.
func plainWeight(found []*Found, f *Found) int {
	w := f.face.weight
	for _, o := range found {
		if o.face.first() == f.face.first() && o.face.size == f.face.size {
			if o.face.weight == 400 {
				return 400
			}
			w = min(w, o.face.weight)
		}
	}
	return w
}

// weightWord is the word for a weight. https://learn.microsoft.com/typography/opentype/spec/os2#usweightclass
func weightWord(w int) string {
	words := []string{"thin", "extralight", "light", "regular", "medium", "semibold", "bold", "extrabold", "black"}
	return words[max(0, min(8, (w+50)/100-1))]
}

// typeName claims a name; styles that differ in letter spacing alone are told apart by it.
func (n *namer) typeName(name string, f *Found) string {
	if free := n.free("type." + name); free != "" {
		return free
	}
	spaced := "wide"
	switch s := f.face.spacing; {
	case s == 0:
		return n.claim("type." + name)
	case s < 0:
		spaced = "tight"
	}
	if free := n.free("type." + name + "-" + spaced); free != "" {
		return free
	}
	return n.claim(fmt.Sprintf("type.%s-%s-%s", name, spaced, pxName(math.Abs(f.face.spacing))))
}
