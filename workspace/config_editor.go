package workspace

import (
	"fmt"

	"archetyp/core/audit"
	"archetyp/core/lint"
	"archetyp/core/match"
)

// EditorConfig is how grave what the editor finds in code is, by the name of a rule.
type EditorConfig map[string]string

// Levels are the levels of the rules that are set.
func (c EditorConfig) Levels() map[string]audit.Level {
	out := map[string]audit.Level{}
	for name, level := range c {
		out[name] = audit.Level(level)
	}
	return out
}

// checkEditor refuses rules that do not exist, and levels that are none.
func (c *Config) checkEditor(fail func(path, format string, args ...any) error) error {
	var known []string
	for _, r := range lint.Rules {
		known = append(known, r.Name)
	}
	for _, name := range sorted(c.Editor) {
		path := "$.editor." + name
		if lint.Named(name) == nil {
			near := ""
			if n := match.Nearest(name, known); n != "" {
				near = fmt.Sprintf("; did you mean %s?", n)
			}
			return fail(path, "editor: there is no rule %q%s", name, near)
		}
		if err := (&AuditRule{Level: c.Editor[name]}).check(); err != nil {
			return fail(path, "editor: %s: %v", name, err)
		}
	}
	return nil
}
