package workspace

import "archetyp/core/audit"

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

// checkEditor refuses levels that are none; rules that do not exist are unknown keys.
func (c *Config) checkEditor(fail func(path, format string, args ...any) error) error {
	for _, name := range sorted(c.Editor) {
		if err := (&AuditRule{Level: c.Editor[name]}).check(); err != nil {
			return fail("$.editor."+name, "editor: %s: %v", name, err)
		}
	}
	return nil
}
