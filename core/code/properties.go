package code

import (
	"regexp"
	"strings"
)

var used = regexp.MustCompile(`var\((--[^\s,)]+)`)

// Properties are the custom properties that a page's rules use.
func (p *Page) Properties() map[string]bool {
	out := map[string]bool{}
	for _, b := range p.Rules {
		for _, d := range b.Declarations {
			for _, m := range used.FindAllStringSubmatch(d.Value, -1) {
				out[m[1]] = true
			}
		}
	}
	return out
}

// KeepProperties leaves of a sheet of custom properties, one declaration a line, those that are used, and those they
// point to. Blocks that would be empty go.
func KeepProperties(sheet string, wanted map[string]bool) string {
	lines := strings.Split(sheet, "\n")
	for grown := true; grown; {
		grown = false
		for _, l := range lines {
			if name, value, ok := declared(l); ok && wanted[name] {
				for _, m := range used.FindAllStringSubmatch(value, -1) {
					grown = grown || !wanted[m[1]]
					wanted[m[1]] = true
				}
			}
		}
	}
	var out []string
	for _, l := range lines {
		if name, _, ok := declared(l); ok && !wanted[name] {
			continue
		}
		if strings.TrimSpace(l) == "}" && len(out) > 0 && strings.HasSuffix(out[len(out)-1], "{") {
			out = out[:len(out)-1]
			continue
		}
		if l == "" && (len(out) == 0 || out[len(out)-1] == "") {
			continue
		}
		out = append(out, l)
	}
	return strings.TrimRight(strings.Join(out, "\n"), "\n") + "\n"
}

// declared reads a line that declares a custom property.
func declared(line string) (name, value string, ok bool) {
	name, value, ok = strings.Cut(strings.TrimSpace(line), ":")
	return name, value, ok && strings.HasPrefix(name, "--")
}
