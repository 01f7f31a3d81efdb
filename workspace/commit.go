package workspace

import (
	"bytes"
	"fmt"
	"strings"

	"archetyp/core/hint"
)

// CommitAll commits all that differs in the workspace, and nothing outside of it.
func (w *Workspace) CommitAll(message string) error {
	return w.commit(message, []string{"--all", "--", "."}, []string{"--", "."})
}

// CommitFile commits one file, and nothing else, under somebody's name.
func (w *Workspace) CommitFile(file, message, by string) error {
	by = strings.Join(strings.Fields(strings.Map(func(r rune) rune {
		if strings.ContainsRune("<>\n\r\x00", r) {
			return ' '
		}
		return r
	}, by)), " ")
	only := []string{"--", ":(literal)" + file}
	return w.commit(message, only, append([]string{"--author=" + by + " <>"}, only...))
}

// commit runs git add and git commit with these arguments. No hooks run.
func (w *Workspace) commit(message string, add, only []string) error {
	return w.locking(func() error {
		if _, err := w.git(append([]string{"add"}, add...)...); err != nil {
			return err
		}
		c := w.gitCommand(append([]string{"commit", "--quiet", "--no-verify", "--no-gpg-sign", "--cleanup=verbatim", "--file=-"}, only...)...)
		c.Stdin = strings.NewReader(message + "\n")
		var errs bytes.Buffer
		c.Stderr, c.Stdout = &errs, &errs
		if c.Run() != nil {
			return identity(errs.String(), "commit")
		}
		return nil
	})
}

// identity is the error of a git that could not commit.
func identity(said, what string) error {
	if strings.Contains(said, "user.email") || strings.Contains(said, "empty ident") || strings.Contains(said, "tell me who you are") {
		return hint.New("git does not know who you are", "Say it once: git config user.name \"Your Name\", git config user.email you@example.org")
	}
	line := strings.SplitN(strings.TrimSpace(said), "\n", 2)[0]
	return fmt.Errorf("git %s: %s", what, strings.TrimPrefix(line, "fatal: "))
}
