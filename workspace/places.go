package workspace

import (
	"fmt"
	"path"
	"path/filepath"
	"strings"

	"archetyp/core/token/emit"
)

// place is where the configuration has something written.
type place struct {
	at     string // path in the configuration
	what   string // for messages
	to     string
	folder bool
}

// places lists them, in the order of the configuration's keys.
func (c *Config) places() []place {
	var out []place
	for i, o := range c.Outputs {
		lang, _ := emit.Of(o.As)
		out = append(out, place{fmt.Sprintf("$.outputs[%d].to", i), "outputs", o.To, lang.Folder})
	}
	for i, o := range c.Text.Outputs {
		out = append(out, place{fmt.Sprintf("$.text.outputs[%d].to", i), "text.outputs", o.To, false})
	}
	return append(out, place{"$.assets.to", "assets.to", c.Assets.To, true}, place{"$.guide.to", "guide.to", c.Guide.To,
		true})
}

// checkPlaces refuses places where nothing may be written, and two things at one place. line gives the line of a path
// in the configuration; 0 where it is not said there.
func (c *Config) checkPlaces(fail func(at, format string, args ...any) error, line func(at string) int) error {
	taken := map[string]place{}
	for _, p := range c.places() {
		if err := inside(p.to); err != nil {
			return fail(p.at, "%s: %v", p.what, err)
		}
		clean := path.Clean(filepath.ToSlash(p.to))
		if err := sacred(clean); err != nil {
			return fail(p.at, "%s: %q: %v", p.what, p.to, err)
		}
		if what := c.reserved(clean); what != "" {
			return fail(p.at, "%s: %q is %s, and nothing else is written there", p.what, p.to, what)
		}
		if other, twice := taken[fold(clean)]; twice && !strings.Contains(clean, "{") {
			return fail(p.at, "%s: %q is also where %s goes%s; each needs a place of its own", p.what, p.to, other.what,
				onLine(line(other.at)))
		}
		taken[fold(clean)] = p
		for dir := path.Dir(fold(clean)); dir != "."; dir = path.Dir(dir) {
			if other, file := taken[dir]; file && !other.folder {
				return fail(p.at, "%s: %q lies inside %q, which is a file (%s%s)", p.what, p.to, other.to, other.what,
					onLine(line(other.at)))
			}
		}
	}
	return nil
}

func onLine(n int) string {
	if n == 0 {
		return ""
	}
	return fmt.Sprintf(" (line %d)", n)
}
