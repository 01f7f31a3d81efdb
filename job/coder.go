package job

import (
	"strings"

	"archetyp/core/code"
	"archetyp/core/design"
	"archetyp/core/text"
	"archetyp/workspace"
)

// CodeOptions are the options that a workspace sets: names of tokens, linked components, and how words are written. ws may be nil; shown is the drawing's path from the workspace.
func CodeOptions(ws *workspace.Workspace, doc *design.Document, shown, language string) (o code.Options, err error) {
	names, err := Named(ws, doc, shown)
	if err != nil || ws == nil {
		return o, err
	}
	o.Tokens = names.Code
	o.Components = linkedComponents(ws)
	form := wordsForm(ws.Config.Code.Text, language)
	if form == "" && len(o.Components) == 0 {
		return o, nil
	}
	catalogue, ok, err := ReadTexts(ws)
	if err != nil || !ok {
		return o, err
	}
	keys := keysIn(catalogue, shown)
	o.Keys = func(e *design.Element) string { return keys[e.Selector()] }
	if form != "" {
		o.Words = wordsAs(form, keys)
	}
	return o, nil
}

// linkedComponents are the components the team has in code.
func linkedComponents(ws *workspace.Workspace) map[string]code.Linked {
	out := map[string]code.Linked{}
	for name, c := range ws.Config.Components {
		out[name] = code.Linked{File: c.File, Import: c.Import, Use: c.Use, Values: c.Values}
	}
	return out
}

// wordsAs writes the texts that have keys in a form.
func wordsAs(form string, keys map[string]string) func(e *design.Element) (string, bool) {
	return func(e *design.Element) (string, bool) {
		if e == nil || keys[e.Selector()] == "" {
			return "", false
		}
		return strings.ReplaceAll(form, "{key}", keys[e.Selector()]), true
	}
}

// wordsForm is how words are written in a language; "" for as they are. An expression of JavaScript is none of HTML.
func wordsForm(form, language string) string {
	switch markup := strings.HasPrefix(form, "<") || strings.HasPrefix(form, "{"); {
	case form == "" || markup:
		return form
	case language == "jsx":
		return "{" + form + "}"
	}
	return ""
}

// keysIn are the keys of the texts in a drawing, by selector.
func keysIn(c *text.Catalogue, source string) map[string]string { return keysBySource(c)[source] }

// keysBySource are the keys of texts, by source and selector.
func keysBySource(c *text.Catalogue) map[string]map[string]string {
	keys := map[string]map[string]string{}
	for _, e := range c.Entries {
		for _, p := range e.Places {
			if p.Attribute != "" {
				continue
			}
			if keys[p.Source] == nil {
				keys[p.Source] = map[string]string{}
			}
			keys[p.Source][p.Selector] = e.Key
		}
	}
	return keys
}
