package computed

import (
	"math"
	"slices"

	"archetyp/core/css/grammar"
)

// What single properties make of their values, beside units and colours.

// computing is what becomes of values beside their units and colours.
var computing = map[string]func(*Style, *Value) *Value{
	"border-top-width": lineWidth, "border-right-width": lineWidth, "border-bottom-width": lineWidth, "border-left-width": lineWidth,
	"outline-width": lineWidth, "column-rule-width": lineWidth, "-webkit-text-stroke-width": strokeWidth,
	"opacity": share, "fill-opacity": share, "stroke-opacity": share, "stop-opacity": share, "flood-opacity": share, "shape-image-threshold": share,
	"font-stretch": stretch, "word-spacing": spacing, "text-align": matchParent, "zoom": zoom, "scale": factors,
	"font-feature-settings": features, "baseline-shift": shift, "outline-offset": whole, "stroke-width": inPx, "stroke-dashoffset": inPx, "stroke-dasharray": inPx,
}

// inPx gives numbers of SVG their unit.
func inPx(_ *Style, v *Value) *Value {
	out := slices.Clone(v.Parts)
	for i := range out {
		if out[i].Kind == grammar.Number {
			out[i] = grammar.Part{Kind: grammar.Dimension, Num: out[i].Num, Text: "px"}
		}
	}
	return &Value{Parts: out}
}

// whole is a length in whole px, towards zero.
func whole(_ *Style, v *Value) *Value {
	if p := v.Parts[0]; p.Kind == grammar.Dimension && p.Num != math.Trunc(p.Num) {
		if p.Num > 0 && p.Num < 1 {
			return px(1)
		}
		return px(math.Trunc(p.Num))
	}
	return v
}

// lineWidth is a width in whole px, and at least one: https://www.w3.org/TR/css-values-4/#snap-a-length-as-a-border-width
func lineWidth(_ *Style, v *Value) *Value {
	w, ok := map[string]float64{"thin": 1, "medium": 3, "thick": 5}[v.Parts[0].Keyword()]
	if !ok {
		w = v.Parts[0].Num
	}
	switch {
	case w > 0 && w < 1:
		w = 1
	default:
		w = math.Floor(w)
	}
	return px(w)
}

func strokeWidth(_ *Style, v *Value) *Value {
	if w, ok := map[string]float64{"thin": 1, "medium": 3, "thick": 5}[v.Parts[0].Keyword()]; ok {
		return px(w)
	}
	return v
}

func share(_ *Style, v *Value) *Value {
	n := v.Parts[0].Num
	if v.Parts[0].Kind == grammar.Percentage {
		n /= 100
	}
	return &Value{Parts: []grammar.Part{{Kind: grammar.Number, Num: max(0, min(1, n))}}}
}

func stretch(_ *Style, v *Value) *Value {
	if n, ok := map[string]float64{"normal": 100, "ultra-condensed": 50, "extra-condensed": 62.5, "condensed": 75, "semi-condensed": 87.5, "semi-expanded": 112.5,
		"expanded": 125, "extra-expanded": 150, "ultra-expanded": 200}[v.Parts[0].Keyword()]; ok {
		return &Value{Parts: []grammar.Part{{Kind: grammar.Percentage, Num: n}}}
	}
	return v
}

func spacing(_ *Style, v *Value) *Value {
	if v.Parts[0].Is("normal") {
		return px(0)
	}
	return v
}

func matchParent(s *Style, v *Value) *Value {
	switch v.Parts[0].Keyword() {
	case "match-parent":
		if s.parent != nil {
			return s.parent.value(id("text-align"))
		}
		return &Value{Parts: word("start")}
	case "-webkit-match-parent":
		if s.parent == nil {
			return &Value{Parts: word("start")}
		}
		above, rtl := s.parent.word("text-align"), s.parent.word("direction") == "rtl"
		switch {
		case above == "start" && !rtl, above == "end" && rtl:
			above = "left"
		case above == "start", above == "end":
			above = "right"
		}
		return &Value{Parts: word(above)}
	case "-internal-center": // of th: in the middle where nothing above says otherwise
		if s.parent != nil && s.parent.word("text-align") != "start" {
			return s.parent.value(id("text-align"))
		}
		return &Value{Parts: word("-internal-center")}
	}
	return v
}

func zoom(_ *Style, v *Value) *Value {
	p := v.Parts[0]
	n := p.Num
	if p.Kind == grammar.Percentage {
		n /= 100
	}
	if p.Kind == grammar.Word || n == 0 {
		n = 1
	}
	return &Value{Parts: []grammar.Part{{Kind: grammar.Number, Num: n}}}
}

func factors(_ *Style, v *Value) *Value {
	out := slices.Clone(v.Parts)
	for i := range out {
		if out[i].Kind == grammar.Percentage {
			out[i] = grammar.Part{Kind: grammar.Number, Num: out[i].Num / 100}
		}
	}
	if len(out) == 3 && out[2].Num == 1 {
		out = out[:2]
	}
	return &Value{Parts: oneIfSame(out)}
}

func features(_ *Style, v *Value) *Value {
	var out []grammar.Part
	for _, p := range v.Parts {
		if p.Is("on") || p.Kind == grammar.Number && p.Num == 1 {
			continue
		}
		if p.Is("off") {
			p = grammar.Part{Kind: grammar.Number, Int: true}
		}
		out = append(out, p)
	}
	return &Value{Parts: out}
}

func shift(_ *Style, v *Value) *Value {
	if v.Parts[0].Is("baseline") {
		return px(0)
	}
	return v
}
