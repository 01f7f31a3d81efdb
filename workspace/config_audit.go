package workspace

import (
	"fmt"
	"slices"
	"strings"

	"archetyp/core/audit"
	"archetyp/core/css"
	"archetyp/core/hint"

	"github.com/bmatcuk/doublestar/v4"
)

// AuditConfig is what is audited, and how: by the name of a rule, or of a length that rules judge by.
type AuditConfig map[string]AuditRule

// AuditRule sets a rule: its level alone, or more.
type AuditRule struct {
	Level  string           `yaml:"level"`  // error, warning, note or off; of a length, that length
	In     []string         `yaml:"in"`     // sources, as patterns; none for all
	Except []AuditException `yaml:"except"` // what the rule leaves alone
}

// AuditException is a set of elements that a rule leaves alone.
type AuditException struct {
	Select string `yaml:"select"`
	Reason string `yaml:"reason"`
}

// UnmarshalYAML takes a text for a level.
func (r *AuditRule) UnmarshalYAML(unmarshal func(any) error) error {
	if unmarshal(&r.Level) == nil {
		return nil
	}
	type plain AuditRule
	return unmarshal((*plain)(r))
}

// The lengths that rules of the audit judge by.
const (
	smallestText = "smallest-text"
	targetLength = "target"
)

// checkAudit refuses rules that do not exist, and settings that mean nothing.
func (c *Config) checkAudit(fail func(path, format string, args ...any) error) error {
	known := []string{smallestText, targetLength}
	for i := range audit.Rules {
		known = append(known, audit.Rules[i].Name)
	}
	for name, r := range c.Audit {
		path := "$.audit." + name
		switch {
		case name == smallestText || name == targetLength:
			if l, err := css.ParseLength(r.Level); err != nil || l.Value <= 0 || l.Value > 500 {
				return fail(path, "audit: %s: %q is no length; such as 12px", name, r.Level)
			}
		case audit.RuleNamed(name) == nil:
			near := ""
			if n := hint.Nearest(name, known); n != "" {
				near = fmt.Sprintf("; did you mean %s?", n)
			}
			return fail(path, "audit: there is no rule %q%s", name, near)
		default:
			if err := r.check(); err != nil {
				return fail(path, "audit: %s: %v", name, err)
			}
		}
	}
	return nil
}

func (r *AuditRule) check() error {
	switch audit.Level(r.Level) {
	case "", audit.Error, audit.Warning, audit.Note, audit.Off:
	default:
		return fmt.Errorf("%q is no level; error, warning, note and off are", r.Level)
	}
	for _, x := range r.Except {
		if _, err := css.ParseSelector(x.Select); err != nil {
			return fmt.Errorf("except: the selector %q: %w", x.Select, err)
		}
		if strings.TrimSpace(x.Reason) == "" {
			return fmt.Errorf("except: %s has no reason", x.Select)
		}
	}
	return nil
}

// AuditSettings are the settings of the rules, by name.
func (c *Config) AuditSettings() map[string]audit.Setting {
	out := map[string]audit.Setting{}
	for name, r := range c.Audit {
		s := audit.Setting{Level: audit.Level(r.Level)}
		if len(r.In) > 0 {
			s.In = func(source string) bool {
				return slices.ContainsFunc(r.In, func(pattern string) bool {
					ok, _ := doublestar.Match(pattern, source)
					return ok
				})
			}
		}
		for _, x := range r.Except {
			if sel, err := css.ParseSelector(x.Select); err == nil { // else refused when the configuration was read
				s.Except = append(s.Except, audit.Exception{Select: sel, Reason: x.Reason})
			}
		}
		out[name] = s
	}
	return out
}

// AuditLengths are the smallest size of text, and the least side of what is touched, in px; 0 for the usual one.
func (c *Config) AuditLengths() (smallest, target float64) {
	return px(c.Audit[smallestText].Level, 0, c.RootPx()), px(c.Audit[targetLength].Level, 0, c.RootPx())
}
