package harvest

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/css"
)

// CodeTokens are the custom properties of a page as files of tokens.
type CodeTokens struct {
	Files    map[string][]byte   // by name: token files, and the resolver
	Resolver string              // the name of the resolver
	Contexts map[string][]string // how each is reached in CSS: "scheme.dark" → conditions
	Tokens   int
	Plain    int // values that no type of the format holds, kept as CSS text
}

// Tokens makes token files of the custom properties that hold for the whole page: under their own names, with their
// aliases, a context for each condition they stand under. What no type of the format holds is kept as CSS text.
func (c *Code) Tokens(name string) *CodeTokens {
	out := &CodeTokens{Files: map[string][]byte{}, Resolver: name + ".resolver.json", Contexts: map[string][]string{}}
	type group struct {
		conditions []string
		body       []byte
		file       string
	}
	var groups []*group
	known := map[string]bool{}
	for again := true; again; { // aliases of aliases
		again = false
		for _, p := range c.Properties {
			if i := slices.IndexFunc(p.In, func(in CodeIn) bool { return in.Context == "" }); p.Whole && i >= 0 && !known[p.Name] && nameFits(p.Name) {
				if _, _, ok := tokenValue(p.Name, p.In[i].Value, known); ok {
					known[p.Name], again = true, true
				}
			}
		}
	}
	for _, context := range c.Contexts {
		body, tokens, plain := c.tokenFile(context, known)
		if tokens+plain == 0 {
			continue
		}
		if context == "" {
			out.Files[name+".tokens.json"] = body
			out.Tokens, out.Plain = tokens, plain
			continue
		}
		condition, ok := conditionOf(context)
		if !ok {
			continue
		}
		if i := slices.IndexFunc(groups, func(g *group) bool { return bytes.Equal(g.body, body) }); i >= 0 {
			groups[i].conditions = append(groups[i].conditions, condition)
			continue
		}
		groups = append(groups, &group{conditions: []string{condition}, body: body})
	}
	if out.Files[name+".tokens.json"] == nil {
		out.Files[name+".tokens.json"] = []byte("{}\n")
	}
	var modifiers, order strings.Builder
	taken := map[string]bool{}
	for _, g := range groups {
		modifier, context := nameOf(g.conditions)
		for base, i := modifier, 2; taken[modifier]; i++ {
			modifier = base + "-" + strconv.Itoa(i)
		}
		taken[modifier] = true
		g.file = name + "." + modifier + ".tokens.json"
		out.Files[g.file] = g.body
		out.Contexts[modifier+"."+context] = g.conditions
		if modifiers.Len() > 0 {
			modifiers.WriteString(",")
		}
		fmt.Fprintf(&modifiers, "\n    %q: {\"contexts\": {\"usual\": [], %q: [{\"$ref\": %q}]}, \"default\": \"usual\"}", modifier, context, g.file)
		fmt.Fprintf(&order, ", {\"$ref\": %q}", "#/modifiers/"+modifier)
	}
	text := fmt.Sprintf("{\n  \"name\": %q,\n  \"version\": \"2025.10\",\n  \"sets\": {\n    \"base\": {\"sources\": [{\"$ref\": %q}]}\n  }", name, name+".tokens.json")
	if modifiers.Len() > 0 {
		text += ",\n  \"modifiers\": {" + modifiers.String() + "\n  }"
	}
	out.Files[out.Resolver] = []byte(text + ",\n  \"resolutionOrder\": [{\"$ref\": \"#/sets/base\"}" + order.String() + "]\n}\n")
	return out
}

// conditionOf is a context as it is written in the configuration: an at-rule, or a selector.
func conditionOf(context string) (string, bool) {
	return context, css.CheckCondition(context) == nil
}

// nameOf names a modifier and its context by the conditions.
func nameOf(conditions []string) (modifier, context string) {
	all := strings.ToLower(strings.Join(conditions, " "))
	switch {
	case strings.Contains(all, "dark"):
		return "scheme", "dark"
	case strings.Contains(all, "light"):
		return "scheme", "light"
	case strings.Contains(all, "width"):
		return "width", "other"
	case strings.Contains(all, "motion"):
		return "motion", "reduced"
	case strings.Contains(all, "contrast"):
		return "contrast", "more"
	}
	return "place", "other"
}

// tokenFile is the token file of one context.
func (c *Code) tokenFile(context string, known map[string]bool) (body []byte, tokens, plain int) {
	var members, kept []string
	for _, p := range c.Properties {
		if !p.Whole {
			continue
		}
		for _, in := range p.In {
			if in.Context != context {
				continue
			}
			key, _ := json.Marshal(strings.TrimPrefix(p.Name, "--"))
			if typ, value, ok := tokenValue(p.Name, in.Value, known); ok && nameFits(p.Name) {
				t := ""
				if typ != "" {
					t = "\"$type\": \"" + typ + "\", "
				}
				members = append(members, fmt.Sprintf("  %s: {%s\"$value\": %s}", key, t, value))
				tokens++
				continue
			}
			name, _ := json.Marshal(p.Name)
			text, _ := json.Marshal(in.Value)
			kept = append(kept, fmt.Sprintf("    %s: %s", name, text))
			plain++
		}
	}
	var b bytes.Buffer
	b.WriteString("{\n")
	b.WriteString(strings.Join(members, ",\n"))
	if len(kept) > 0 {
		if len(members) > 0 {
			b.WriteString(",\n")
		}
		b.WriteString("  \"$extensions\": {\"archetyp\": {\"properties\": {\n" + strings.Join(kept, ",\n") + "\n  }}}")
	}
	b.WriteString("\n}\n")
	return b.Bytes(), tokens, plain
}

// nameFits reports whether a token may have the name, and be written as the same custom property again.
func nameFits(name string) bool {
	name = strings.TrimPrefix(name, "--")
	for i := 0; i < len(name); i++ {
		c := name[i]
		if !(c >= 'a' && c <= 'z' || c >= '0' && c <= '9' || c >= 'A' && c <= 'Z' || c == '-' || c == '_') {
			return false
		}
	}
	return name != "" && name[0] != '-'
}

// tokenValue is a value in the token format; ok is false for what no type holds.
func tokenValue(name, text string, known map[string]bool) (typ, value string, ok bool) {
	text = strings.TrimSpace(text)
	if inner, is := strings.CutPrefix(text, "var("); is && strings.HasSuffix(inner, ")") {
		ref := strings.TrimSpace(inner[:len(inner)-1])
		if known[ref] {
			return "", `"{` + strings.TrimPrefix(ref, "--") + `}"`, true
		}
		return "", "", false
	}
	if c, err := color.Parse(text); err == nil && c.None == 0 {
		return "color", colorJSON(c), true
	}
	if n := css.NumberPrefix(text); n > 0 {
		v, err := strconv.ParseFloat(text[:n], 64)
		if err != nil {
			return "", "", false
		}
		num := strconv.FormatFloat(v, 'f', -1, 64)
		switch unit := text[n:]; unit {
		case "px", "rem":
			return "dimension", fmt.Sprintf(`{"value": %s, "unit": %q}`, num, unit), true
		case "ms", "s":
			return "duration", fmt.Sprintf(`{"value": %s, "unit": %q}`, num, unit), true
		case "":
			if strings.Contains(name, "weight") && v >= 1 && v <= 1000 {
				return "fontWeight", num, true
			}
			return "number", num, true
		}
	}
	if list, ok := strings.CutPrefix(text, "cubic-bezier("); ok && strings.HasSuffix(list, ")") {
		var p []string
		for _, f := range strings.Split(list[:len(list)-1], ",") {
			v, err := strconv.ParseFloat(strings.TrimSpace(f), 64)
			if err != nil {
				return "", "", false
			}
			p = append(p, strconv.FormatFloat(v, 'f', -1, 64))
		}
		if len(p) == 4 {
			return "cubicBezier", "[" + strings.Join(p, ", ") + "]", true
		}
	}
	return "", "", false
}

func colorJSON(c color.Color) string {
	var p []string
	for _, v := range c.C {
		p = append(p, strconv.FormatFloat(v, 'f', -1, 64))
	}
	alpha := ""
	if c.Alpha != 1 {
		alpha = ", \"alpha\": " + strconv.FormatFloat(c.Alpha, 'f', -1, 64)
	}
	return fmt.Sprintf("{\"colorSpace\": %q, \"components\": [%s]%s}", c.Space, strings.Join(p, ", "), alpha)
}
