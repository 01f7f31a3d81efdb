package code

import (
	"cmp"
	"regexp"
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/design"
)

// Classes are the single-purpose classes of a team: each has few declarations, and an element has several of them.
type Classes struct {
	list   []teamClass       // those with most declarations first
	values map[string]string // of the custom properties that the sheet declares
}

// teamClass is a class and its declarations, normalised so that they can be compared.
type teamClass struct {
	name string
	says []design.Declaration
}

var oneClass = regexp.MustCompile(`^\.(-?[\pL_][\pL\d_-]*)$`)

// ParseClasses takes the rules of a style sheet that are for one class alone and stand under no condition. faults are
// what is no CSS.
func ParseClasses(sheet string) (c *Classes, faults []css.Error) {
	list, faults := css.ParseScoped(sheet)
	c = &Classes{values: map[string]string{}}
	at := map[string]int{}
	for _, d := range list {
		switch {
		case len(d.Around) > 0:
			continue
		case strings.HasPrefix(d.Prop, "--") && d.Selector == ":root":
			c.values[d.Prop] = d.Value
			continue
		}
		m := oneClass.FindStringSubmatch(d.Selector)
		if m == nil {
			continue
		}
		i, known := at[m[1]]
		if !known {
			i = len(c.list)
			at[m[1]] = i
			c.list = append(c.list, teamClass{name: m[1]})
		}
		c.list[i].says = append(c.list[i].says, design.Declaration{Prop: d.Prop, Value: d.Value})
	}
	for i := range c.list {
		for k := range c.list[i].says {
			c.list[i].says[k] = c.plain(c.list[i].says[k])
		}
	}
	slices.SortStableFunc(c.list, func(a, b teamClass) int { return cmp.Compare(len(b.says), len(a.says)) })
	return c, faults
}

// plain is a declaration with the custom properties that the sheet declares set in, and one way of writing it.
func (c *Classes) plain(d design.Declaration) design.Declaration {
	value := strings.Join(strings.Fields(d.Value), " ")
	for range 8 { // as deep as they lead to each other
		next := used.ReplaceAllStringFunc(value, func(s string) string {
			name := used.FindStringSubmatch(s)[1]
			if v, ok := c.values[name]; ok {
				return "\x00" + v + "\x01"
			}
			return s
		})
		next = strings.ReplaceAll(strings.ReplaceAll(next, "\x01)", ""), "\x00", "")
		if next == value {
			break
		}
		value = next
	}
	return design.Declaration{Prop: d.Prop, Value: value}
}

// take removes the declarations that classes already have from a rule, and returns the names of these classes.
func (c *Classes) take(b *Block) (names []string) {
	if c == nil {
		return nil
	}
	for _, class := range c.list {
		at := make([]int, 0, len(class.says))
		for _, d := range class.says {
			if i := slices.IndexFunc(b.Declarations, func(o design.Declaration) bool { return c.plain(o) == d }); i >= 0 {
				at = append(at, i)
			}
		}
		if len(class.says) == 0 || len(at) < len(class.says) {
			continue
		}
		names = append(names, class.name)
		left := b.Declarations[:0:0]
		for i, d := range b.Declarations {
			if !slices.Contains(at, i) {
				left = append(left, d)
			}
		}
		b.Declarations = left
	}
	return names
}
