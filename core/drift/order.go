package drift

import (
	"fmt"
	"slices"
	"strings"

	"archetyp/core/markup"
	"archetyp/core/match"
)

// order compares the order of what stands in the same container, and finds what went to another one.
func (c *comparing) order(pairs []match.NodePair) {
	byParent := map[*markup.Node][]*markup.Node{}
	var parents []*markup.Node
	for _, p := range pairs { // in document order of the site
		up := parent(p.New)
		if up == nil || silent(p.New) || c.hidden[1][p.New] || strings.EqualFold(up.Local, "head") {
			continue
		}
		was := c.nearest(0, parent(p.Old))
		is := c.nearest(1, up)
		if was != nil && is != nil && c.new[was] != is {
			if c.nearest(0, p.Old) == p.Old {
				c.moved(p.Old, p.New, fmt.Sprintf("%s stands in %s, in the design in %s", called(p.New), called(is), called(was)))
			}
			continue
		}
		if byParent[is] == nil {
			parents = append(parents, is)
		}
		byParent[is] = append(byParent[is], p.New)
	}
	rank := map[*markup.Node]int{} // in the tree: in the file, misplaced elements of tables stand elsewhere
	c.view.Design.Markup.Root.Walk(func(n *markup.Node) bool {
		rank[n] = len(rank)
		return true
	})
	for _, up := range parents {
		list := byParent[up]
		at := make([]int, len(list))
		for i, n := range list {
			at[i] = rank[c.old[n]]
		}
		message := ""
		for _, i := range outOfOrder(at) {
			n := list[i]
			if message == "" { // one for all in a container
				where := "first"
				if i > 0 {
					where = "after " + called(list[i-1])
				}
				message = fmt.Sprintf("%s stands %s, which is another order than in the design", called(n), where)
			}
			c.moved(c.old[n], n, message)
		}
	}
}

func (c *comparing) moved(o, n *markup.Node, message string) {
	c.moving[parent(n)] = true
	if up := c.new[parent(o)]; up != nil {
		c.moving[up] = true
	}
	s := seen{kind: Order, spot: c.spot(o, n, "", "", ""), message: message}
	s.cause.Place = c.markupPlace(n)
	c.out = append(c.out, s)
}

// nearest is the nearest element, itself included, that has a partner.
func (c *comparing) nearest(side int, n *markup.Node) *markup.Node {
	for ; n != nil; n = parent(n) {
		if side == 0 && c.new[n] != nil || side == 1 && c.old[n] != nil {
			return n
		}
	}
	return nil
}

// outOfOrder are the places in a list of numbers that must go for the rest to rise: as few as can be.
func outOfOrder(list []int) (out []int) {
	keep := match.Rising(list)
	for i := range list {
		if _, kept := slices.BinarySearch(keep, i); !kept {
			out = append(out, i)
		}
	}
	return out
}
