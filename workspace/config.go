package workspace

import (
	"errors"
	"fmt"
	"path"
	"path/filepath"
	"slices"
	"sort"
	"strconv"
	"strings"

	"archetyp/core/asset"
	"archetyp/core/color"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/limit"
	"archetyp/core/markup"
	"archetyp/core/match"
	"archetyp/core/text"
	"archetyp/core/text/exchange"
	"archetyp/core/token/emit"

	"github.com/goccy/go-yaml"
	"github.com/goccy/go-yaml/ast"
	"github.com/goccy/go-yaml/parser"
)

// ConfigName is the file that makes a folder a workspace.
const ConfigName = "archetyp.yaml"

// Config is archetyp.yaml. Lengths are kept as written and turned into px by the methods.
type Config struct {
	Name    string     `yaml:"name"`
	Root    string     `yaml:"root"`
	Sources []string   `yaml:"sources"`
	Scales  Scales     `yaml:"scales"`
	Tokens  TokenFiles `yaml:"tokens"`
	// Contexts says how a resolver's contexts are reached in CSS, by key ("scheme.dark").
	Contexts map[string]Conditions `yaml:"contexts"`
	Outputs  []Output              `yaml:"outputs"`
	Text     TextConfig            `yaml:"text"`
	Assets   AssetConfig           `yaml:"assets"`
	Guide    GuideConfig           `yaml:"guide"`
	Fonts    []string              `yaml:"fonts"`
	Marks    []MarkConfig          `yaml:"marks"`
	// DrawingsBehind says what sync --check makes of drawings that show another value than their token: report or error.
	DrawingsBehind string `yaml:"drawings-behind"`
	// Limits are what one reading may cost, by kind; docs/limits.md.
	Limits map[string]Amount `yaml:"limits"`
}

// Scales are the values numbers should take.
type Scales struct {
	Space string   `yaml:"space"` // the step
	Type  []string `yaml:"type"`  // font sizes
}

// TokenFiles says which token files are read: those a resolver names, or those that match, merged in name order.
type TokenFiles struct {
	Resolver string   `yaml:"resolver"`
	Files    []string `yaml:"files"`
	Names    string   `yaml:"names"` // a pattern that names of tokens and groups follow, for tokens check
}

// Families are font families, written as one text or a list.
type Families = Conditions

// Conditions are at-rules and selectors, written as one text or a list.
type Conditions []string

// UnmarshalYAML takes a text for a list of one.
func (c *Conditions) UnmarshalYAML(unmarshal func(any) error) error {
	var one string
	if unmarshal(&one) == nil {
		*c = Conditions{one}
		return nil
	}
	var list []string
	err := unmarshal(&list)
	*c = list
	return err
}

// Output is a generated code file.
type Output struct {
	As       string   `yaml:"as"`
	To       string   `yaml:"to"`
	Unit     string   `yaml:"unit"`     // px (default) or rem
	Prefix   string   `yaml:"prefix"`   // of names
	Only     []string `yaml:"only"`     // tokens and groups to write; none for all
	Form     string   `yaml:"form"`     // json, ts: nested (default) or flat; css-classes: class (default) or fragment
	Package  string   `yaml:"package"`  // of Kotlin
	Template string   `yaml:"template"` // file of a template
}

// TextConfig is about the catalogue.
type TextConfig struct {
	Source  string              `yaml:"source"`
	Locales []string            `yaml:"locales"` // translated to
	Keys    string              `yaml:"keys"`    // the pattern keys are made by; none: only texts that have one count
	Case    string              `yaml:"case"`    // how words are joined in a key: kebab (default), snake, camel, dots
	Apart   []string            `yaml:"apart"`   // what keeps the same words under keys of their own: component, room, screen
	Fonts   map[string]Families `yaml:"fonts"`   // by locale, the families for letters that the design's own lack
	Outputs []TextOutput        `yaml:"outputs"` // files for code
}

// TextOutput is a file of messages for code, one a locale.
type TextOutput struct {
	As   string `yaml:"as"`
	To   string `yaml:"to"`   // with {locale}
	Keys string `yaml:"keys"` // how keys are spelled: kebab, snake, camel or dots; "" for as they are
}

// AssetConfig says where exported assets go, and in which sets.
type AssetConfig struct {
	To      string      `yaml:"to"`
	Density float64     `yaml:"density"` // of the drawings: their px for each px on the screen; 1 by default
	Sets    []SetConfig `yaml:"sets"`
}

// SetConfig is a set of files for one target: the name of one that is built in, or what is to be different about it,
// or the team's own.
type SetConfig struct {
	Name       string    `yaml:"name"`
	To         string    `yaml:"to"`
	At         []float64 `yaml:"at"`
	Formats    []string  `yaml:"formats"`
	Files      string    `yaml:"files"`
	Quality    int       `yaml:"quality"`
	Background string    `yaml:"background"`
	Current    *bool     `yaml:"current-color"`
}

// UnmarshalYAML takes a text for the name of a set.
func (s *SetConfig) UnmarshalYAML(unmarshal func(any) error) error {
	var name string
	if unmarshal(&name) == nil {
		*s = SetConfig{Name: name}
		return nil
	}
	type plain SetConfig
	return unmarshal((*plain)(s))
}

// AssetSets are the sets of the configuration, or that for the web where it names none; and behind them those built in
// that an element may name all the same.
func (c *Config) AssetSets() ([]asset.Set, error) {
	built := asset.BuiltIn()
	config := c.Assets.Sets
	if len(config) == 0 {
		config = []SetConfig{{Name: "web"}}
	}
	var out []asset.Set
	named := map[string]bool{}
	for _, sc := range config {
		if named[sc.Name] {
			return nil, fmt.Errorf("the set %q is there twice", sc.Name)
		}
		named[sc.Name] = true
		s, err := sc.set(built)
		if err != nil {
			return nil, err
		}
		out = append(out, s)
	}
	for _, s := range built {
		if !named[s.Name] {
			s.Only = true
			out = append(out, s)
		}
	}
	return out, nil
}

// set is the set that a part of the configuration means.
func (sc *SetConfig) set(built []asset.Set) (asset.Set, error) {
	s := asset.Set{Name: sc.Name, To: sc.Name, At: []float64{1}, Files: "{name}{x}.{format}", Quality: 85}
	for _, b := range built {
		if b.Name == sc.Name {
			s = b
		}
	}
	if sc.To != "" {
		s.To = sc.To
	}
	if sc.At != nil {
		s.At = slices.Clone(sc.At)
		slices.Sort(s.At)
	}
	if sc.Formats != nil {
		s.Formats = sc.Formats
	}
	if sc.Files != "" {
		s.Files = sc.Files
	}
	if sc.Quality != 0 {
		s.Quality = sc.Quality
	}
	if sc.Background != "" {
		col, err := color.Parse(sc.Background)
		if err != nil {
			return s, fmt.Errorf("the background of the set %s: %w", sc.Name, err)
		}
		s.Background = &col
	}
	if sc.Current != nil {
		s.Current = *sc.Current
	}
	if s.Kind == "" && len(s.Formats) == 0 {
		names := make([]string, len(built))
		for i, b := range built {
			names[i] = b.Name
		}
		hint := "a set of your own says its formats"
		if near := Nearest(sc.Name, names); near != "" {
			hint = fmt.Sprintf("did you mean %q?", near)
		}
		return s, fmt.Errorf("the set %q is not known; %s", sc.Name, hint)
	}
	if err := inside(path.Join("x", s.To)); err != nil || strings.HasPrefix(path.Clean(s.To), "..") {
		return s, fmt.Errorf("the set %s: %q is no place inside the folder of assets", sc.Name, s.To)
	}
	return s, s.Check()
}

// GuideConfig says where the style guide goes.
type GuideConfig struct {
	To string `yaml:"to"`
}

// MarkConfig gives marks to the elements of a selector.
type MarkConfig struct {
	Select    string   `yaml:"select"`
	Screen    string   `yaml:"screen"`
	Label     string   `yaml:"label"`
	Component string   `yaml:"component"`
	Variant   string   `yaml:"variant"`
	State     string   `yaml:"state"`
	Asset     string   `yaml:"asset"`
	Formats   []string `yaml:"formats"`
	Sets      []string `yaml:"sets"`
	Text      string   `yaml:"text"`
	Message   string   `yaml:"message"`
	Meaning   string   `yaml:"meaning"`
	Code      string   `yaml:"code"`
	LeadsTo   string   `yaml:"leads-to"`
	Behaviour string   `yaml:"behaviour"`
}

// configKeys are the keys known at each place of the file; a list stands for each of its items.
var configKeys = map[string][]string{
	"":             {"name", "root", "sources", "scales", "tokens", "contexts", "outputs", "text", "assets", "guide", "fonts", "marks", "drawings-behind", "limits"},
	"limits":       limitNames(),
	"scales":       {"space", "type"},
	"tokens":       {"resolver", "files", "names"},
	"outputs":      {"as", "to", "unit", "prefix", "only", "form", "package", "template"},
	"text":         {"source", "locales", "keys", "case", "apart", "fonts", "outputs"},
	"text.outputs": {"as", "to", "keys"},
	"assets":       {"to", "density", "sets"},
	"assets.sets":  {"name", "to", "at", "formats", "files", "quality", "background", "current-color"},
	"guide":        {"to"},
	"marks":        {"select", "screen", "label", "component", "variant", "state", "asset", "formats", "sets", "text", "message", "meaning", "code", "leads-to", "behaviour"},
}

// Default is what holds where a configuration says nothing.
func Default(name string) Config {
	return Config{Name: name, Root: "16px", Sources: []string{"*.svg", "*.ora", "design/*.svg", "design/*.ora"}, Scales: Scales{Space: "4px"},
		Tokens:  TokenFiles{Files: []string{"tokens/*.tokens.json"}},
		Outputs: []Output{{As: "css", To: "dist/tokens.css", Unit: "px"}},
		Text:    TextConfig{Source: "en", Keys: "{screen}.{component}.{words}"},
		Assets:  AssetConfig{To: "dist/assets"}, Guide: GuideConfig{To: "guide"}}
}

// ParseConfig reads archetyp.yaml strictly. The error is a *FileError with the place.
func ParseConfig(data []byte, shown string) (cfg Config, err error) {
	defer func() { // the YAML library is given whatever a person typed
		if r := recover(); r != nil {
			err = &FileError{File: shown, Msg: fmt.Sprintf("not valid YAML: %v", r)}
		}
	}()
	if len(data) > maxConfig {
		return cfg, &FileError{File: shown, Msg: fmt.Sprintf("a configuration of more than %d kB is not read", maxConfig>>10)}
	}
	if err := checkNesting(data, shown); err != nil {
		return cfg, err
	}
	file, err := parser.ParseBytes(data, 0)
	if err != nil {
		return cfg, yamlError(err, shown)
	}
	if len(file.Docs) > 1 {
		return cfg, &FileError{File: shown, Msg: "more than one YAML document in the file"}
	}
	if len(file.Docs) == 1 && file.Docs[0].Body != nil {
		if err := checkKeys(file.Docs[0].Body, "", shown); err != nil {
			return cfg, err
		}
	}
	if err := yaml.Unmarshal(data, &cfg); err != nil {
		return cfg, yamlError(err, shown)
	}
	cfg.fillIn(Default(""))
	return cfg, cfg.check(shown, file)
}

// fillIn takes from d what the configuration leaves open.
func (c *Config) fillIn(d Config) {
	text := func(to *string, or string) {
		if *to == "" {
			*to = or
		}
	}
	text(&c.Root, d.Root)
	text(&c.Scales.Space, d.Scales.Space)
	text(&c.Text.Source, d.Text.Source)
	text(&c.Text.Keys, d.Text.Keys)
	text(&c.Assets.To, d.Assets.To)
	text(&c.Guide.To, d.Guide.To)
	if c.Sources == nil {
		c.Sources = d.Sources
	}
	if c.Tokens.Files == nil {
		c.Tokens.Files = d.Tokens.Files
	}
	if c.Outputs == nil {
		c.Outputs = d.Outputs
	}
}

func yamlError(err error, shown string) error {
	fe := &FileError{File: shown, Msg: "not valid YAML"}
	var ye yaml.Error
	if errors.As(err, &ye) {
		fe.Msg = ye.GetMessage()
		if t := ye.GetToken(); t != nil && t.Position != nil {
			fe.Position = markup.Position{Line: t.Position.Line, Column: t.Position.Column}
		}
	}
	return fe
}

// checkKeys refuses unknown keys, with the nearest known one.
func checkKeys(n ast.Node, where, shown string) error {
	var pairs []*ast.MappingValueNode
	switch n := n.(type) {
	case *ast.MappingNode:
		pairs = n.Values
	case *ast.MappingValueNode:
		pairs = []*ast.MappingValueNode{n}
	case *ast.SequenceNode:
		for _, v := range n.Values {
			if err := checkKeys(v, where, shown); err != nil {
				return err
			}
		}
		return nil
	default:
		return nil
	}
	known := configKeys[where]
	for _, p := range pairs {
		key := p.Key.String()
		at := p.Key.GetToken().Position
		fe := &FileError{File: shown, Position: markup.Position{Line: at.Line, Column: at.Column}}
		switch {
		case known == nil:
			fe.Msg = fmt.Sprintf("%s takes no keys", where)
			return fe
		case !slices.Contains(known, key):
			fe.Msg = fmt.Sprintf("the key %q is not known", key)
			if fe.Hint = "The keys here are " + strings.Join(known, ", ") + "."; Nearest(key, known) != "" {
				fe.Hint = fmt.Sprintf("Did you mean %q?", Nearest(key, known))
			}
			if where != "" {
				fe.Msg += " under " + where
			}
			return fe
		}
		inner := strings.TrimPrefix(where+"."+key, ".")
		_, listed := configKeys[inner]
		if p.Value != nil && (listed || where == "" && key != "contexts") { // whose keys are the team's own
			if err := checkKeys(p.Value, inner, shown); err != nil {
				return err
			}
		}
	}
	return nil
}

// Nearest is the word of a list that takes the fewest single-letter changes to reach; "" where more than half of the
// letters would change.
func Nearest(word string, list []string) string {
	best, cost, letters := "", 1<<30, []rune(word)
	letters = letters[:min(len(letters), 64)]
	for _, w := range list {
		if c := match.Distance(letters, []rune(w)); c < cost {
			best, cost = w, c
		}
	}
	if 2*cost > len([]rune(word))+1 {
		return ""
	}
	return best
}

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
			return fail(at+".package", "%q is no package of Kotlin; write words joined with dots, such as com.example.tokens", o.Package)
		}
		if lang.Name == "template" && o.Template == "" {
			return fail(at+".as", "a template output names its template: the file")
		}
		if forms := Forms[o.As]; o.Form != "" && !slices.Contains(forms, o.Form) {
			return fail(at+".form", "the form %q is not known for %s; %s", o.Form, o.As, map[bool]string{true: "it has none", false: "there are " + strings.Join(forms, " and ")}[forms == nil])
		}
	}
	if err := c.checkText(fail); err != nil {
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
	for i, m := range c.Marks {
		if _, err := css.ParseSelector(m.Select); err != nil {
			return fail(fmt.Sprintf("$.marks[%d].select", i), "the selector %q: %v", m.Select, err)
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

// Amount is a number such as 250000, 500k or 400M.
type Amount string

// UnmarshalYAML takes a number as it is written.
func (a *Amount) UnmarshalYAML(unmarshal func(any) error) error {
	var n int64
	if unmarshal(&n) == nil {
		*a = Amount(strconv.FormatInt(n, 10))
		return nil
	}
	return unmarshal((*string)(a))
}

func limitNames() []string {
	var out []string
	for _, k := range limit.Kinds {
		out = append(out, k.Name)
	}
	return out
}

// Budget is what one reading may cost.
func (c *Config) Budget() limit.Limits {
	var out limit.Limits
	for i, k := range limit.Kinds {
		if amount, ok := c.Limits[k.Name]; ok {
			out[i], _ = limit.ParseAmount(string(amount)) // checked when the configuration was read
		}
	}
	return out
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
		if !text.CheckLocale(l) || l == "keys" {
			return fail("$.text", "text: %q is no locale; write a language tag such as de or pt-BR", l)
		}
	}
	for i, o := range t.Outputs {
		at := fmt.Sprintf("$.text.outputs[%d]", i)
		if o.Keys != "" && !slices.Contains(text.Cases, o.Keys) {
			return fail(at+".keys", "text.outputs: keys: %q is no spelling; there are %s", o.Keys, strings.Join(text.Cases, ", "))
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
var Forms = map[string][]string{"json": {"nested", "flat"}, "ts": {"nested", "flat"}, "css-classes": {"class", "fragment"}}

// inside says whether a place lies within the workspace.
func inside(to string) error {
	if to == "" || !filepath.IsLocal(filepath.FromSlash(to)) || filepath.Clean(to) == "." {
		return fmt.Errorf("%q is no place inside the workspace", to)
	}
	return nil
}

// RootPx is the size of 1rem in px.
func (c *Config) RootPx() float64 { return px(c.Root, 16, 16) }

// SpaceStep is the step of the spacing scale in px; 0 for none.
func (c *Config) SpaceStep() float64 { return px(c.Scales.Space, 0, c.RootPx()) }

// TypeScale are the font sizes of the scale in px.
func (c *Config) TypeScale() []float64 {
	var out []float64
	for _, s := range c.Scales.Type {
		out = append(out, px(s, 0, c.RootPx()))
	}
	sort.Float64s(out)
	return out
}

func px(s string, or, root float64) float64 {
	l, err := css.ParseLength(s)
	if err != nil {
		return or
	}
	return l.Px(css.Units{Em: root, Rem: root})
}

// SelectedMarks are the marks given by selector.
func (c *Config) SelectedMarks() []design.SelectedMarks {
	var out []design.SelectedMarks
	for _, m := range c.Marks {
		sel, err := css.ParseSelector(m.Select)
		if err != nil {
			continue // refused when the configuration was read
		}
		out = append(out, design.SelectedMarks{Select: sel, Marks: design.Marks{Screen: m.Screen, Label: m.Label, Component: m.Component,
			Variant: m.Variant, State: m.State, Asset: m.Asset, Formats: m.Formats, Sets: m.Sets, Text: m.Text, Message: m.Message, Meaning: m.Meaning, Code: m.Code,
			LeadsTo: m.LeadsTo, Behaviour: m.Behaviour}})
	}
	return out
}
