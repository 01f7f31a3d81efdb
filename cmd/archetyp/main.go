// Command archetyp extracts specifications, design tokens, texts and assets from design files and keeps them in step
// as a style guide and code.
package main

import (
	"os"
	"runtime/debug"

	"archetyp/cli"
)

func main() {
	debug.SetGCPercent(400)          // a program that lives for a second: collect garbage seldom,
	debug.SetMemoryLimit(1000 << 20) // and often again where a lot is held
	os.Exit(cli.Run(os.Args[1:], os.Stdin, os.Stdout, os.Stderr))
}
