package code

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"archetyp/core/design"
	"archetyp/core/escape"
)

// Linked is a component that the team has in code.
type Linked struct {
	File   string                       // where it lives
	Import string                       // the line that makes it known, in JSX
	Use    string                       // how it is used, with {words}, {key}, {state}, {asset} and the variants in braces
	Values map[string]map[string]string // what values are called in code, by what stands in braces
}

// Usage is how an instance of a linked component is used.
type Usage struct {
	Component string   `json:"component"`
	File      string   `json:"file"`
	Line      string   `json:"line"`
	Lost      []string `json:"lost,omitempty"` // what the drawing says and the template has no place for: "tone=quiet"
}

var slot = regexp.MustCompile(`\{([A-Za-z][\w-]*)\}`)

// braces keeps JSX from reading braces as code; HTML reads them as they are.
var braces = strings.NewReplacer("{", "&#123;", "}", "&#125;")

// Usage is the line for an instance. What stands in braces and the instance has no value for is left empty.
func (o Options) Usage(e *design.Element) (u Usage, ok bool) {
	l, ok := o.Components[e.Marks.Component]
	if !ok || e.Marks.Component == "" || l.Use == "" {
		return u, false
	}
	values, order := o.values(e)
	used := map[string]bool{}
	u = Usage{Component: e.Marks.Component, File: l.File}
	u.Line = slot.ReplaceAllStringFunc(l.Use, func(s string) string {
		name := s[1 : len(s)-1]
		used[name] = true
		value := values[name]
		if renamed, ok := l.Values[name][value]; ok {
			value = renamed
		}
		if name == "words" && o.Words != nil {
			if code, ok := o.Words(firstText(e)); ok {
				return code
			}
		}
		return braces.Replace(escape.In("html", escape.Attribute, value))
	})
	for _, name := range order {
		if used[name] || values[name] == "" || name == "key" || name == "asset" {
			continue
		}
		u.Lost = append(u.Lost, fmt.Sprintf("%s=%s", name, values[name]))
	}
	return u, true
}

// values are the properties of an instance, by their name in templates.
func (o Options) values(e *design.Element) (values map[string]string, order []string) {
	values = map[string]string{}
	set := func(name, value string) {
		if _, known := values[name]; !known && value != "" {
			values[name] = value
			order = append(order, name)
		}
	}
	for _, v := range strings.Fields(e.Marks.Variant) {
		name, value, ok := strings.Cut(v, "=")
		if !ok {
			name, value = "variant", v
		}
		set(name, value)
	}
	if e.Marks.State != "default" {
		set("state", e.Marks.State)
	}
	if t := firstText(e); t != nil {
		set("words", strings.ReplaceAll(t.Words.Words, "\n", " "))
		if o.Keys != nil {
			set("key", o.Keys(t))
		}
	}
	e.Walk(func(x *design.Element) {
		if x.Marks.Asset != "" {
			set("asset", x.Marks.Asset)
		}
	})
	return values, order
}

// firstText is the first text in an element; nil for none.
func firstText(e *design.Element) (found *design.Element) {
	e.Walk(func(x *design.Element) {
		if found == nil && x.Words != nil && !x.Hidden && x.Words.Words != "" {
			found = x
		}
	})
	return found
}

// imports are the lines that make the linked components of a page known, each once.
func (p *Page) imports() (out []string) {
	for _, u := range p.Usages {
		if l := p.linked[u.Component]; l.Import != "" && !slices.Contains(out, l.Import) {
			out = append(out, l.Import)
		}
	}
	return append(out, p.Imports...)
}
