package page

import (
	"strings"

	"archetyp/core/css"
)

// What attributes of SVG elements declare.

// geometry are the attributes of SVG elements that are properties there.
var geometry = map[string]string{"svg": "x y width height", "rect": "x y width height rx ry", "image": "x y width height", "foreignObject": "x y width height",
	"use": "x y width height", "circle": "cx cy r", "ellipse": "cx cy rx ry", "path": "d"}

func (h *hinter) svg() {
	n := h.n
	for i := range n.Attrs {
		a := &n.Attrs[i]
		switch {
		case a.Space == "" && css.IsPresentationAttribute(a.Local):
			v := a.Value
			if a.Local == "font-size" || strings.HasSuffix(a.Local, "-spacing") || a.Local == "stroke-width" || a.Local == "stroke-dashoffset" {
				v = withUnit(v)
			}
			h.add(a.Local, v)
		case a.Local == "transform" && n.Local != "pattern" && n.Local != "linearGradient" && n.Local != "radialGradient":
			h.add("transform", svgTransform(a.Value))
		}
	}
	for _, g := range strings.Fields(geometry[n.Local]) {
		v, ok := n.Attr(g)
		switch {
		case ok && g == "d":
			h.add(g, "path("+css.String(v)+")")
		case ok:
			h.add(g, withUnit(v))
		}
	}
}

// withUnit gives a number of SVG the unit px, which it has there.
func withUnit(v string) string {
	v = strings.TrimSpace(v)
	if n := css.NumberPrefix(v); n > 0 && n == len(v) {
		return v + "px"
	}
	return v
}

// svgTransform is a transform attribute as CSS writes it.
func svgTransform(v string) string {
	list, err := css.ParseFunctions(v)
	if err != nil {
		return v
	}
	var out []string
	for _, f := range list {
		args := strings.FieldsFunc(f.Args, func(r rune) bool { return r == ',' || r == ' ' || r == '\t' || r == '\n' || r == '\r' })
		switch f.Name {
		case "translate":
			for i := range args {
				args[i] = withUnit(args[i])
			}
		case "rotate", "skewx", "skewy":
			if len(args) == 3 {
				out = append(out, "translate("+withUnit(args[1])+","+withUnit(args[2])+") rotate("+args[0]+"deg) translate("+negated(args[1])+","+negated(args[2])+")")
				continue
			}
			for i := range args {
				if css.NumberPrefix(args[i]) == len(args[i]) {
					args[i] += "deg"
				}
			}
		}
		out = append(out, f.Name+"("+strings.Join(args, ",")+")")
	}
	return strings.Join(out, " ")
}

func negated(v string) string {
	if rest, ok := strings.CutPrefix(v, "-"); ok {
		return withUnit(rest)
	}
	return "-" + withUnit(strings.TrimPrefix(v, "+"))
}
