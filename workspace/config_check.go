package workspace

import (
	"fmt"
	"path/filepath"
	"slices"
	"strings"

	"archetyp/core/css"
	"archetyp/core/limit"
	"archetyp/core/markup"
	"archetyp/core/text"
	"archetyp/core/text/exchange"
	"archetyp/core/text/message"
	"archetyp/core/token/emit"

	"github.com/goccy/go-yaml"
	"github.com/goccy/go-yaml/ast"
)

// check refuses values that mean nothing.
func (c *Config) check(shown string, file *ast.File) error {
	where := func(path string) (at markup.Position) {
		if p, err := yaml.PathString(path); err == nil {
			if n, err := p.FilterFile(file); err == nil && n != nil && n.GetToken() != nil {
				at = markup.Position{Line: n.GetToken().Position.Line, Column: n.GetToken().Position.Column}
			}
		}
		return at
	}
	fail := func(path, format string, args ...any) error {
		return &FileError{File: shown, Position: where(path), Msg: fmt.Sprintf(format, args...)}
	}
	line := func(path string) int { return where(path).Line }
	if err := c.checkOutputs(fail); err != nil {
		return err
	}
	if err := c.checkText(fail); err != nil {
		return err
	}
	if err := c.checkSites(fail); err != nil {
		return err
	}
	if err := c.checkEditor(fail); err != nil {
		return err
	}
	if err := c.checkUpstream(fail); err != nil {
		return err
	}
	if err := c.checkPeople(fail); err != nil {
		return err
	}
	if err := c.checkDrift(fail); err != nil {
		return err
	}
	if err := c.checkAudit(fail); err != nil {
		return err
	}
	if v := c.DrawingsBehind; v != "" && v != "report" && v != "error" {
		return fail("$.drawings-behind", "drawings-behind: %q is not known; report and error are", v)
	}
	for key := range c.Contexts {
		if strings.Count(key, ".") != 1 {
			return fail("$.contexts", "contexts: %q is no context; write modifier.context, such as scheme.dark", key)
		}
		for _, cond := range c.Contexts[key] {
			if err := css.CheckCondition(cond); err != nil {
				return fail("$.contexts", "contexts: %s: %v", key, err)
			}
		}
	}
	if err := c.checkPlaces(fail, line); err != nil {
		return err
	}
	if err := c.checkNumbers(fail); err != nil {
		return err
	}
	if !(c.Assets.Density >= 0 && c.Assets.Density <= 16) {
		return fail("$.assets.density", "assets.density: %g is no density; 1 to 16 are possible", c.Assets.Density)
	}
	if _, err := c.AssetSets(); err != nil {
		return fail("$.assets.sets", "assets.sets: %v", err)
	}
	if t := c.Code.Text; t != "" && !strings.Contains(t, "{key}") {
		return fail("$.code.text", "code.text: %q has no place for the key; write {key} where it goes", t)
	}
	for name, k := range c.Components {
		if k.Use == "" {
			return fail("$.components."+name, "components.%s says no use: how an instance is written, such as "+
				"'<tt-button tone=\"{tone}\">{words}</tt-button>'", name)
		}
	}
	for i, m := range c.Marks {
		if _, err := css.ParseSelector(m.Select); err != nil {
			return fail(fmt.Sprintf("$.marks[%d].select", i), "the selector %q: %v", m.Select, err)
		}
	}
	return nil
}

func (c *Config) checkOutputs(fail func(path, format string, args ...any) error) error {
	for i, o := range c.Outputs {
		at := fmt.Sprintf("$.outputs[%d]", i)
		lang, ok := emit.Of(o.As)
		if !ok {
			return fail(at+".as", "the output %q is not known; there are %s", o.As, strings.Join(emit.Names(), ", "))
		}
		if o.Unit != "" && o.Unit != "px" && o.Unit != "rem" {
			return fail(at+".unit", "the unit %q is not known; px and rem are", o.Unit)
		}
		if o.Package != "" && !emit.KotlinPackage(o.Package) {
			return fail(at+".package", "%q is no package of Kotlin; write words joined with dots, such as com.example.tokens",
				o.Package)
		}
		if lang.Name == "template" && o.Template == "" {
			return fail(at+".as", "a template output names its template: the file")
		}
		if forms := Forms[o.As]; o.Form != "" && !slices.Contains(forms, o.Form) {
			known := "it has none"
			if forms != nil {
				known = "there are " + strings.Join(forms, " and ")
			}
			return fail(at+".form", "the form %q is not known for %s; %s", o.Form, o.As, known)
		}
	}
	return nil
}

// The sizes that mean something, in px.
const (
	minRoot, maxRoot   = 1, 1000
	minScale, maxScale = 0.01, 10000
)

// checkNumbers refuses lengths and limits that mean nothing.
func (c *Config) checkNumbers(fail func(path, format string, args ...any) error) error {
	root := 16.0 // of the root itself
	size := func(at, what, s string, least, most float64) error {
		l, err := css.ParseLength(s)
		if err != nil {
			return fail(at, "%s: %v", what, err)
		}
		if px := l.Px(css.Units{Em: root, Rem: root}); !(px >= least && px <= most) {
			return fail(at, "%s: %s is no size between %gpx and %gpx", what, s, least, most)
		}
		return nil
	}
	if err := size("$.root", "root", c.Root, minRoot, maxRoot); err != nil {
		return err
	}
	root = c.RootPx()
	if c.Scales.Space != "" {
		if err := size("$.scales.space", "scales.space", c.Scales.Space, minScale, maxScale); err != nil {
			return err
		}
	}
	for i, t := range c.Scales.Type {
		if err := size(fmt.Sprintf("$.scales.type[%d]", i), "scales.type", t, minScale, maxScale); err != nil {
			return err
		}
	}
	for name, amount := range c.Limits {
		if _, err := limit.ParseAmount(string(amount)); err != nil {
			return fail("$.limits."+name, "limits: %v", err)
		}
	}
	return nil
}

// checkText refuses what means nothing about texts.
func (c *Config) checkText(fail func(path, format string, args ...any) error) error {
	t := &c.Text
	if err := text.CheckPattern(t.Keys); err != nil {
		return fail("$.text.keys", "text.keys: %v", err)
	}
	if t.Case != "" && !slices.Contains(text.Cases, t.Case) {
		return fail("$.text.case", "text.case: %q is not known; there are %s", t.Case, strings.Join(text.Cases, ", "))
	}
	for _, a := range t.Apart {
		if !slices.Contains([]string{"component", "room", "screen"}, a) {
			return fail("$.text.apart", "text.apart: %q is not known; there are component, room, screen", a)
		}
	}
	for _, l := range append([]string{t.Source}, t.Locales...) {
		if !message.CheckLocale(l) || l == "keys" {
			return fail("$.text", "text: %q is no locale; write a language tag such as de or pt-BR", l)
		}
	}
	for i, o := range t.Outputs {
		at := fmt.Sprintf("$.text.outputs[%d]", i)
		if o.Keys != "" && !slices.Contains(text.Cases, o.Keys) {
			return fail(at+".keys", "text.outputs: keys: %q is no spelling; there are %s", o.Keys,
				strings.Join(text.Cases, ", "))
		}
		f, ok := exchange.Of(o.As)
		if !ok || !f.Code {
			var names []string
			for _, f := range exchange.Formats {
				if f.Code {
					names = append(names, f.Name)
				}
			}
			return fail(at+".as", "text.outputs: %q is no form for code; there are %s", o.As, strings.Join(names, ", "))
		}
	}
	return nil
}

// Forms are those an output comes in, the first by default.
var Forms = map[string][]string{"json": {"nested", "flat"}, "ts": {"nested", "flat"},
	"css-classes": {"class", "fragment"}}

// inside reports whether a place lies within the workspace.
func inside(to string) error {
	if to == "" || !filepath.IsLocal(filepath.FromSlash(to)) || filepath.Clean(to) == "." {
		return fmt.Errorf("%q is no place inside the workspace", to)
	}
	return nil
}
