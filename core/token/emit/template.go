package emit

import (
	"fmt"
	"strings"
	"text/template"

	"archetyp/core/token"
)

// Template data: what a template of the team's own is given. docs/outputs.md describes it.
type (
	// TemplateData is the whole.
	TemplateData struct {
		Name     string // of the workspace
		Tokens   []TemplateToken
		Contexts []TemplateContext
	}
	// TemplateContext is what is another in a context.
	TemplateContext struct {
		Key, Modifier, Name string
		Conditions          []string // how it is reached in CSS
		Tokens              []TemplateToken
	}
	// TemplateToken is one token.
	TemplateToken struct {
		Path        string
		Type        string
		Alias       string // the token it points to; "" for none
		Value       string // as CSS, every alias followed
		Hex         string // of a colour: #rrggbbaa in sRGB
		Number      float64
		Unit        string            // of a dimension or duration
		Parts       map[string]string // of typography, as CSS; "letterSpacing", …
		Description string
		Deprecated  string
		Group       string // the first name of the path
	}
)

// Template runs the team's own template.
func Template(lib *token.Library, o Options) (string, []Warning, error) {
	t, err := template.New("template").Option("missingkey=error").Funcs(template.FuncMap{
		"kebab":  func(s string) string { return kebab(s, o.Prefix) },
		"snake":  func(s string) string { return snake(s, o.Prefix) },
		"camel":  func(s string) string { return camel(s, o.Prefix) },
		"pascal": func(s string) string { return pascal(s, o.Prefix) },
		"upper":  strings.ToUpper, "lower": strings.ToLower, "quote": quoteJSON,
		"replace": func(old, with, s string) string { return strings.ReplaceAll(s, old, with) },
		"var":     func(path string) string { return "var(" + Property(path, o.Prefix) + ")" },
	}).Parse(o.Template)
	if err != nil {
		return "", nil, templateError(err)
	}
	data := TemplateData{Name: o.Name}
	w := &cssWriter{set: lib.Base, unit: o.Unit, root: o.root(), full: true}
	data.Tokens = templateTokens(w, lib.Base.Tokens, o)
	for _, s := range scopes(lib, o.Includes) {
		w.set = s.set
		data.Contexts = append(data.Contexts, TemplateContext{s.context.Key(), s.context.Modifier, s.context.Name,
			Conditions(lib, s.context, o.Contexts), templateTokens(w, s.tokens, o)})
	}
	b := &limited{left: 64 << 20}
	if err := t.Execute(b, data); err != nil {
		return "", nil, templateError(err)
	}
	return b.String(), sortWarnings(w.warnings), nil
}

// limited refuses to grow beyond what any output needs: a template may loop for ever.
type limited struct {
	strings.Builder
	left int
}

func (l *limited) Write(p []byte) (int, error) {
	if l.left -= len(p); l.left < 0 {
		return 0, fmt.Errorf("the template writes more than 64 MB")
	}
	return l.Builder.Write(p)
}

// templateError is an error of text/template without its own prefix, which names the template twice.
func templateError(err error) error {
	return fmt.Errorf("the template: %s", strings.TrimPrefix(strings.TrimPrefix(err.Error(), "template: "), "template:"))
}

func templateTokens(w *cssWriter, tokens []*token.Token, o Options) []TemplateToken {
	var out []TemplateToken
	for _, t := range tokens {
		if !o.Includes(t.Path) {
			continue
		}
		end := w.set.Resolve(t)
		tt := TemplateToken{Path: t.Path, Type: string(t.Type), Alias: t.Value.Alias, Description: t.Description,
			Deprecated: t.Deprecated}
		tt.Group, _, _ = strings.Cut(t.Path, ".")
		v := end.Value
		switch {
		case v.Color != nil:
			r, g, b, a := v.Color.RGBA8()
			tt.Hex = fmt.Sprintf("#%02x%02x%02x%02x", r, g, b, a)
		case v.Length != nil:
			tt.Number, tt.Unit = v.Length.Value, v.Length.Unit
		case v.Number != nil:
			tt.Number = *v.Number
		}
		if t.Type == token.Typography {
			font, spacing := w.font(end)
			tt.Value = font
			tt.Parts = map[string]string{"letterSpacing": spacing}
			for name, part := range v.Parts {
				if name != "letterSpacing" {
					tt.Parts[name] = w.value(part)
				}
			}
		} else {
			tt.Value, _ = w.token(t)
		}
		out = append(out, tt)
	}
	return out
}
