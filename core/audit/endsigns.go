package audit

import (
	"strings"

	"archetyp/core/design"
)

// endSign is the sign that words end with; "" for none.
func endSign(s string) string {
	r := []rune(strings.TrimSpace(s))
	if len(r) == 0 || !strings.ContainsRune(".!?:…。！？：", r[len(r)-1]) {
		return ""
	}
	return string(r[len(r)-1])
}

var endSigns = Rule{Name: "end-signs", Group: "words", Level: Note,
	What:  "texts of one kind that end with a full stop in most places and without one in a few",
	Why:   "whoever writes the next one does not know which holds",
	check: checkEndSigns,
}

func checkEndSigns(c *checker) {
	for _, s := range c.alike() {
		if len(s.Instances) < 3 || !c.worthOne(s) {
			continue
		}
		columns := map[int][]*design.Element{}
		for _, x := range s.Instances {
			n := 0
			x.Element.Walk(func(e *design.Element) {
				if e.Words != nil && !e.Hidden {
					columns[n] = append(columns[n], e)
					n++
				}
			})
		}
		for n := 0; len(columns[n]) == len(s.Instances); n++ {
			c.endsOf(columns[n])
		}
	}
}

// endsOf reports the few of alike texts that end otherwise than the many.
func (c *checker) endsOf(list []*design.Element) {
	var with, without []*design.Element
	for _, e := range list {
		words := e.Words.Words
		if len(strings.Fields(words)) < 3 {
			return
		}
		switch endSign(words) {
		case ".":
			with = append(with, e)
		case "":
			without = append(without, e)
		default:
			return
		}
	}
	switch {
	case len(with) == 0 || len(without) == 0:
	case len(with) >= 2*len(without):
		c.find(without, "End it with a full stop as the others.", "“%s” ends without a full stop; %d others have one", clip(without[0].Words.Words), len(with))
	case len(without) >= 2*len(with):
		c.find(with, "Leave the full stop out as in the others.", "“%s” ends with a full stop; %d others have none", clip(with[0].Words.Words), len(without))
	}
}
