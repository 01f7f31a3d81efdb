package workspace

import (
	"fmt"
	"sort"

	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/safeyaml"

	"github.com/goccy/go-yaml"
)

// ConfigName is the file that makes a folder a workspace.
const ConfigName = "archetyp.yaml"

// Config is archetyp.yaml. Lengths are kept as written and turned into px by the methods.
type Config struct {
	Name    string     `yaml:"name"`
	Root    string     `yaml:"root"`
	Sources []string   `yaml:"sources"`
	Sites   []Site     `yaml:"sites"`
	Scales  Scales     `yaml:"scales"`
	Tokens  TokenFiles `yaml:"tokens"`
	// Contexts says how a resolver's contexts are reached in CSS, by key ("scheme.dark").
	Contexts map[string]Conditions `yaml:"contexts"`
	Outputs  []Output              `yaml:"outputs"`
	Text     TextConfig            `yaml:"text"`
	Assets   AssetConfig           `yaml:"assets"`
	Guide    GuideConfig           `yaml:"guide"`
	Screens  ScreenConfig          `yaml:"screens"`
	Fonts    []string              `yaml:"fonts"`
	Code     CodeConfig            `yaml:"code"`
	// Components are those the team has in code, by name.
	Components map[string]ComponentConfig `yaml:"components"`
	// Shared are libraries of components: what stands under components: upstream.
	Shared []Upstream   `yaml:"-"`
	Marks  []MarkConfig `yaml:"marks"`
	// Audit sets the rules of the audit, by name.
	Audit AuditConfig `yaml:"audit"`
	// Drift says how a site is held against the design.
	Drift DriftConfig `yaml:"drift"`
	// Phases are the team's own, beside agreed, held and built.
	Phases []string `yaml:"phases"`
	// Remarks says what kinds of remarks there are.
	Remarks RemarkConfig `yaml:"remarks"`
	// People are those that remarks are for, by handle: a name as git has it, with or without an address.
	People map[string]string `yaml:"people"`
	// Tickets says how tickets are written, and where they are.
	Tickets TicketConfig `yaml:"tickets"`
	// Editor sets the rules by which the editor looks at code, by name.
	Editor EditorConfig `yaml:"editor"`
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
	// Upstream are files that belong to somebody else. Without a resolver they come before the team's own.
	Upstream []Upstream `yaml:"upstream"`
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
	Source  string   `yaml:"source"`
	Locales []string `yaml:"locales"` // translated to
	Keys    string   `yaml:"keys"`    // the pattern keys are made by; none: only texts that have one count
	Case    string   `yaml:"case"`    // how words are joined in a key: kebab (default), snake, camel, dots
	// what keeps the same words under keys of their own: component, room, screen
	Apart   []string            `yaml:"apart"`
	Fonts   map[string]Families `yaml:"fonts"`   // by locale, the families for letters that the design's own lack
	Outputs []TextOutput        `yaml:"outputs"` // files for code
}

// TextOutput is a file of messages for code, one a locale.
type TextOutput struct {
	As   string `yaml:"as"`
	To   string `yaml:"to"`   // with {locale}
	Keys string `yaml:"keys"` // how keys are spelled: kebab, snake, camel or dots; "" for as they are
}

// GuideConfig says where the style guide goes.
type GuideConfig struct {
	To string `yaml:"to"`
}

// ScreenConfig says which screens the guide publishes, and how. In names, * stands for any letters.
type ScreenConfig struct {
	LeaveOut []string            `yaml:"leave-out"`
	Order    []string            `yaml:"order"`  // the first ones; the rest follows as drawn
	Groups   map[string][]string `yaml:"groups"` // names by group
	About    map[string]string   `yaml:"about"`  // descriptions by name
}

// CodeConfig sets how code is written.
type CodeConfig struct {
	Text    string   `yaml:"text"`    // how words are written, with {key}: an expression of JavaScript, or markup
	Imports []string `yaml:"imports"` // lines that a component of JavaScript begins with
}

// ComponentConfig is a component that the team has in code.
type ComponentConfig struct {
	File   string                       `yaml:"file"`
	Import string                       `yaml:"import"` // the line that makes it known to a component of JavaScript
	Use    string                       `yaml:"use"`    // how it is used, with what it takes in braces
	Values map[string]map[string]string `yaml:"values"` // what values are called in code, by what stands in braces

	upstream []Upstream // of the key that is no component
}

// sharedKey is the key under components: that is no component.
const sharedKey = "upstream"

// UnmarshalYAML takes a list for the libraries that stand under the key that is no component.
func (c *ComponentConfig) UnmarshalYAML(unmarshal func(any) error) error {
	type plain ComponentConfig
	if unmarshal((*plain)(c)) == nil {
		return nil
	}
	if unmarshal(&c.upstream) == nil {
		return nil
	}
	return unmarshal((*plain)(c)) // with its error
}

// MarkConfig gives marks to the elements of a selector.
type MarkConfig struct {
	Select string       `yaml:"select"`
	Marks  design.Marks `yaml:",inline"`
}

// Default is what holds where a configuration says nothing.
func Default(name string) Config {
	return Config{Name: name, Root: "16px", Sources: []string{"*.svg", "*.ora", "design/*.svg", "design/*.ora"},
		Scales:  Scales{Space: "4px"},
		Tokens:  TokenFiles{Files: []string{"tokens/*.tokens.json"}},
		Outputs: []Output{{As: "css", To: "dist/tokens.css", Unit: "px"}},
		Text:    TextConfig{Source: "en", Keys: "{screen}.{component}.{words}"},
		Assets:  AssetConfig{To: "dist/assets"}, Guide: GuideConfig{To: "guide"}}
}

// ParseConfig reads archetyp.yaml strictly. The error is a *FileError with the place.
func ParseConfig(data []byte, shown string) (cfg Config, err error) {
	file, err := safeyaml.Parse(data, maxConfig)
	if err != nil {
		return cfg, YAMLError(err, shown)
	}
	if len(file.Docs) == 1 && file.Docs[0].Body != nil {
		if err := checkKeys(file.Docs[0].Body, "", shown); err != nil {
			return cfg, err
		}
	}
	defer func() {
		if r := recover(); r != nil {
			err = &FileError{File: shown, Msg: fmt.Sprintf("not valid YAML: %v", r)}
		}
	}()
	if err := yaml.Unmarshal(data, &cfg); err != nil {
		return cfg, YAMLError(err, shown)
	}
	cfg.fillIn(Default(""))
	if shared, ok := cfg.Components[sharedKey]; ok {
		cfg.Shared = shared.upstream
		delete(cfg.Components, sharedKey)
	}
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

// YAMLError is a fault in a YAML file of the workspace.
func YAMLError(err error, shown string) error {
	e := safeyaml.Wrap(err)
	return &FileError{File: shown, Position: e.Position, Msg: e.Msg}
}

// maxConfig is how long a configuration may be, in bytes.
const maxConfig = 256 << 10

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
		out = append(out, design.SelectedMarks{Select: sel, Marks: m.Marks})
	}
	return out
}
