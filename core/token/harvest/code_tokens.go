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
	"archetyp/core/token"
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
		if css.CheckCondition(context) != nil {
			continue
		}
		if i := slices.IndexFunc(groups, func(g *group) bool { return bytes.Equal(g.body, body) }); i >= 0 {
			groups[i].conditions = append(groups[i].conditions, context)
			continue
		}
		groups = append(groups, &group{conditions: []string{context}, body: body})
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
					t = "\"$type\": \"" + string(typ) + "\", "
				}
				members = append(members, fmt.Sprintf("  %s: {%s\"$value\": %s}", key, t, value.JSON()))
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

// tokenValue is a value in the token format; typ is "" for an alias, ok false for what no type holds.
func tokenValue(name, text string, known map[string]bool) (typ token.Type, v token.Value, ok bool) {
	text = strings.TrimSpace(text)
	if inner, is := strings.CutPrefix(text, "var("); is && strings.HasSuffix(inner, ")") {
		ref := strings.TrimSpace(inner[:len(inner)-1])
		return "", token.Value{Alias: strings.TrimPrefix(ref, "--")}, known[ref]
	}
	if c, err := color.Parse(text); err == nil && c.None == 0 {
		return token.Color, token.Value{Color: &c}, true
	}
	if n := css.NumberPrefix(text); n > 0 {
		x, err := strconv.ParseFloat(text[:n], 64)
		if err != nil {
			return "", v, false
		}
		switch unit := text[n:]; unit {
		case "px", "rem":
			return token.Dimension, token.Value{Length: &token.Length{Value: x, Unit: unit}}, true
		case "ms", "s":
			return token.Duration, token.Value{Length: &token.Length{Value: x, Unit: unit}}, true
		case "":
			if strings.Contains(name, "weight") && x >= 1 && x <= 1000 {
				return token.FontWeight, token.Value{Number: &x}, true
			}
			return token.Number, token.Value{Number: &x}, true
		}
	}
	if list, is := strings.CutPrefix(text, "cubic-bezier("); is && strings.HasSuffix(list, ")") {
		points := strings.Split(list[:len(list)-1], ",")
		if len(points) != 4 {
			return "", v, false
		}
		var b [4]float64
		for i, p := range points {
			x, err := strconv.ParseFloat(strings.TrimSpace(p), 64)
			if err != nil {
				return "", v, false
			}
			b[i] = x
		}
		return token.CubicBezier, token.Value{Bezier: &b}, true
	}
	return "", v, false
}
