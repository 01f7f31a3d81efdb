// Package fonts finds the fonts of this machine. Only commands that answer use them; what is written never depends on
// them.
package fonts

import (
	"io"
	"log"
	"os"
	"path/filepath"
	"sync"

	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/fontscan"
)

// Machine looks up font files among those installed. The list is made when it is first asked for.
type Machine struct {
	once sync.Once
	all  []fontscan.Footprint
}

// Find gives the file of an installed family nearest to weight and slant.
func (m *Machine) Find(family string, weight int, italic bool) (data []byte, file string, ok bool) {
	m.once.Do(func() {
		dir, err := os.UserCacheDir()
		if err != nil {
			dir = os.TempDir()
		}
		m.all, _ = fontscan.SystemFonts(log.New(io.Discard, "", 0), filepath.Join(dir, "archetyp"))
	})
	want, best, bestCost := font.NormalizeFamily(family), "", 1<<30
	for _, f := range m.all {
		if f.Family != want || f.Location.Index != 0 {
			continue
		}
		cost := int(f.Aspect.Weight) - weight
		if cost < 0 {
			cost = -cost
		}
		if (f.Aspect.Style == font.StyleItalic) != italic {
			cost += 2000
		}
		if f.Aspect.Stretch != font.StretchNormal {
			cost += 4000
		}
		if cost < bestCost {
			best, bestCost = f.Location.File, cost
		}
	}
	if best == "" {
		return nil, "", false
	}
	data, err := os.ReadFile(best)
	return data, best, err == nil
}
