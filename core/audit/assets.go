package audit

import (
	"archetyp/core/design"
)

// advised reports the advice on pictures: for those that are not marked, or for those that are.
func (c *checker) advised(unmarked bool) {
	for _, a := range c.advice() {
		if a.Act == "" || (a.Asset == "") != unmarked || !c.isInterface(a.Element.Screen) || a.Element.Kind == design.Image && a.Asset != "" {
			continue
		}
		c.find([]*design.Element{a.Element}, sentence(a.Act), "%s: %s", a.Element.Title(), a.Why)
	}
}

// sentence is an instruction with a capital and a full stop.
func sentence(s string) string {
	if s == "" {
		return s
	}
	r := []rune(s)
	if r[0] >= 'a' && r[0] <= 'z' {
		r[0] -= 'a' - 'A'
	}
	if last := r[len(r)-1]; last != '.' && last != '"' {
		r = append(r, '.')
	}
	return string(r)
}
