// Command archetyp extracts specifications, design tokens, texts and assets from design files and keeps them in step
// as a style guide and code.
package main

import (
	"os"

	"archetyp/cli"
)

func main() {
	os.Exit(cli.Run(os.Args[1:], os.Stdin, os.Stdout, os.Stderr))
}
