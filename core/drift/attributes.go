package drift

import (
	"fmt"
	"slices"
	"strings"

	"archetyp/core/css/computed"
	"archetyp/core/markup"
)

// spoken are attributes that are read, pictured those that say which picture is shown, and changing those that change what
// a control or table shows.
var (
	spoken   = []string{"alt", "title", "placeholder", "aria-label", "label", "value", "summary"}
	pictured = []string{"src", "srcset", "poster", "data"}
	changing = []string{"disabled", "checked", "selected", "hidden", "open", "dir", "colspan", "rowspan", "type", "size", "start", "multiple", "controls"}
)

// attributes compares attributes that show.
func (c *comparing) attributes(o, n *markup.Node) {
	one := func(kind Kind, name, what string) {
		was, hadIt := o.Attr(name)
		is, hasIt := n.Attr(name)
		if kind == Picture {
			was, is = relative(was, c.pair.Bases[0]), relative(is, c.pair.Bases[1])
		}
		if was == is && hadIt == hasIt || hadIt != hasIt && was == is && kind == Words {
			return
		}
		s := seen{kind: kind, spot: c.spot(o, n, name, was, is), message: fmt.Sprintf("%s %s %s, in the design %s", what, called(n), attribute(is, hasIt), attribute(was, hadIt))}
		s.cause.Place, s.cause.Property, s.cause.Value = c.markupPlace(n), name, is
		c.out = append(c.out, s)
	}
	for _, name := range spoken {
		if name == "value" && n.Local != "input" && n.Local != "button" {
			continue
		}
		one(Words, name, "the "+name+" of")
	}
	if !n.HTML {
		for _, name := range shapeAttributes(o, n) {
			one(Picture, name, "the "+name+" of")
		}
		return
	}
	for _, name := range pictured {
		one(Picture, name, "the "+name+" of")
	}
	for _, name := range changing {
		one(Other, name, "the "+name+" of")
	}
}

// geometry are attributes of shapes that are names of properties, too.
var geometry = []string{"d", "x", "y", "width", "height", "cx", "cy", "r", "rx", "ry"}

// shapeAttributes are the attributes that make up a shape of an inline picture, but those that are properties of style.
func shapeAttributes(o, n *markup.Node) (out []string) {
	for _, list := range [][]markup.Attr{o.Attrs, n.Attrs} {
		for _, a := range list {
			switch {
			case a.Name == "class", a.Name == "id", a.Name == "style", a.Name == "role", strings.HasPrefix(a.Name, "aria-"), strings.HasPrefix(a.Name, "data-"),
				strings.HasPrefix(a.Name, "xmlns"), strings.HasPrefix(a.Name, "on"), computed.Known(a.Name) && !slices.Contains(geometry, a.Name), a.Name == "focusable", a.Name == "version":
			default:
				if !slices.Contains(out, a.Name) {
					out = append(out, a.Name)
				}
			}
		}
	}
	return out
}

func attribute(v string, there bool) string {
	if !there {
		return "is not there"
	}
	return "is " + fmt.Sprintf("%q", short(v))
}
