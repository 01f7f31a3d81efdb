package cli

import (
	"fmt"
	"os"
	"strings"

	"archetyp/core/hint"

	"github.com/spf13/cobra"
	"github.com/spf13/pflag"
)

// nameCommands has every command with commands of its own say which it has, when one is misspelt.
func nameCommands(c *cobra.Command) {
	if !c.HasSubCommands() {
		return
	}
	c.Args = func(c *cobra.Command, args []string) error {
		if len(args) == 0 {
			return nil
		}
		var names []string
		for _, sub := range c.Commands() {
			if !sub.Hidden {
				names = append(names, sub.Name())
			}
		}
		what := "There are " + strings.Join(names, ", ") + "."
		if near := hint.Nearest(args[0], names); near != "" {
			what = fmt.Sprintf("Did you mean %q? %q lists all.", near, c.CommandPath()+" --help")
		}
		return hint.New(fmt.Sprintf("%q is no command of %s", args[0], c.CommandPath()), what)
	}
	for _, sub := range c.Commands() {
		nameCommands(sub)
	}
}

// nearestFlag is the flag that an unknown one was meant to be; "" for none.
func nearestFlag(c *cobra.Command, err error) string {
	_, name, ok := strings.Cut(err.Error(), "unknown flag: --")
	if !ok {
		return ""
	}
	var names []string
	c.Flags().VisitAll(func(f *pflag.Flag) { names = append(names, f.Name) })
	return hint.Nearest(name, names)
}

// codeFolder is the path of a folder of code that was named.
func (a *app) codeFolder(flag, dir string) (string, error) {
	path := a.path(dir)
	if info, err := os.Stat(path); err != nil || !info.IsDir() {
		return "", hint.New(fmt.Sprintf("%s %s: there is no such folder", flag, dir),
			"Name the folder that the code lies in.")
	}
	return path, nil
}
