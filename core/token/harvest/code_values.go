package harvest

import (
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"

	lexer "github.com/tdewolff/parse/v2/css"
)

// valuesOf are the values that a declaration holds: kinds and texts by turns. What is put in by var() is left out.
func valuesOf(prop, value string) (out []string) {
	kind := kindOfProperty(prop)
	if kind == "" || value == "" {
		return nil
	}
	switch kind {
	case "shadow":
		if value != "none" && !keyword(value) {
			out = append(out, "shadow", value)
		}
		return append(out, coloursIn(value)...)
	case "family":
		if !keyword(value) && !strings.Contains(value, "var(") {
			out = append(out, "family", value)
		}
		return out
	case "font":
		return fontValues(value)
	case "weight", "line", "layer":
		if !keyword(value) && !strings.Contains(value, "var(") && value != "normal" && value != "auto" {
			out = append(out, kind, value)
		}
		return out
	case "time":
		for _, t := range css.Tokenize(value) {
			if t.Type == lexer.DimensionToken && (strings.HasSuffix(t.Data, "ms") || strings.HasSuffix(t.Data, "s")) {
				out = append(out, "time", t.Data)
			}
		}
		for _, f := range []string{"cubic-bezier(", "steps(", "linear("} {
			for rest := value; ; {
				i := strings.Index(rest, f)
				end := strings.IndexByte(rest, ')')
				if i < 0 || end < i {
					break
				}
				out = append(out, "easing", rest[i:end+1])
				rest = rest[end+1:]
			}
		}
		return out
	case "color":
		return coloursIn(value)
	case "border":
		return coloursIn(value)
	}
	for _, t := range css.Tokenize(value) { // lengths
		if (t.Type == lexer.DimensionToken || t.Type == lexer.PercentageToken && kind == "radius") && !isZero(t.Data) {
			out = append(out, kind, t.Data)
		}
	}
	return out
}

func isZero(s string) bool {
	n := css.NumberPrefix(s)
	v, err := strconv.ParseFloat(s[:n], 64)
	return err == nil && v == 0
}

// keyword reports whether a value says nothing of its own.
func keyword(v string) bool {
	switch strings.ToLower(v) {
	case "inherit", "initial", "unset", "revert", "revert-layer", "none", "auto":
		return true
	}
	return strings.HasPrefix(v, "var(") && strings.Count(v, "(") == 1
}

// kindOfProperty is what the values of a property are.
func kindOfProperty(prop string) string {
	switch prop {
	case "color", "background-color", "background", "background-image", "fill", "stroke", "caret-color", "accent-color", "text-decoration-color", "column-rule-color",
		"-webkit-text-fill-color", "text-decoration", "stop-color", "outline-color", "mask", "mask-image", "scrollbar-color":
		return "color"
	case "font-size":
		return "size"
	case "font-family":
		return "family"
	case "font":
		return "font"
	case "font-weight":
		return "weight"
	case "line-height":
		return "line"
	case "box-shadow", "text-shadow", "filter", "-webkit-box-shadow":
		return "shadow"
	case "gap", "row-gap", "column-gap", "grid-gap", "inset", "top", "right", "bottom", "left":
		return "space"
	case "z-index":
		return "layer"
	}
	switch {
	case strings.HasPrefix(prop, "padding"), strings.HasPrefix(prop, "margin"), strings.HasPrefix(prop, "inset"):
		return "space"
	case strings.HasSuffix(prop, "radius"):
		return "radius"
	case strings.HasPrefix(prop, "border"), strings.HasPrefix(prop, "outline"), strings.HasPrefix(prop, "column-rule"):
		return "border"
	case strings.HasPrefix(prop, "transition"), strings.HasPrefix(prop, "animation"):
		return "time"
	}
	return ""
}

// fontValues are the parts of the shorthand.
func fontValues(value string) (out []string) {
	words := css.SplitTop(value, ' ')
	for i, w := range words {
		size, line, has := strings.Cut(w, "/")
		if l, err := css.ParseLength(size); err == nil && l.Unit != "" {
			out = append(out, "size", size)
			if has && !strings.HasPrefix(line, "var(") {
				out = append(out, "line", line)
			}
			if family := strings.Join(words[i+1:], " "); family != "" && !strings.HasPrefix(family, "var(") {
				out = append(out, "family", family)
			}
			return out
		}
		if n, err := strconv.Atoi(w); err == nil && n >= 1 && n <= 1000 || w == "bold" {
			out = append(out, "weight", w)
		}
	}
	return out
}

// coloursIn are the colours in a value, in the form that says them shortest. A gradient is one, and its colours are.
func coloursIn(value string) (out []string) {
	for _, at := range color.In(value) {
		out = append(out, "color", at.Color.CSS())
	}
	return out
}
