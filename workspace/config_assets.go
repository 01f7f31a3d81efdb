package workspace

import (
	"fmt"
	"path"
	"slices"
	"strings"

	"archetyp/core/asset"
	"archetyp/core/color"
	"archetyp/core/hint"
)

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
		advice := "a set of your own says its formats"
		if near := hint.Nearest(sc.Name, names); near != "" {
			advice = fmt.Sprintf("did you mean %q?", near)
		}
		return s, fmt.Errorf("the set %q is not known; %s", sc.Name, advice)
	}
	if err := inside(path.Join("x", s.To)); err != nil || strings.HasPrefix(path.Clean(s.To), "..") {
		return s, fmt.Errorf("the set %s: %q is no place inside the folder of assets", sc.Name, s.To)
	}
	return s, s.Check()
}
