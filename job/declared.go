package job

import (
	"bytes"
	"path"
)

// Declared are the custom properties that code of the workspace declares, outputs among it.
func (a *Answers) Declared() (map[string]bool, error) {
	out := map[string]bool{}
	for _, p := range a.Desk.Library.Base.Properties() {
		out[p.Name] = true
	}
	err := walkCode(a.WS, a.WS.Dir, func(file string) bool { return styled[path.Ext(file)] }, func(_ string, data []byte) error {
		declaredIn(data, out)
		return nil
	})
	return out, err
}

// styled are the kinds of files in which custom properties are declared.
var styled = map[string]bool{".css": true, ".scss": true, ".less": true, ".pcss": true, ".html": true, ".htm": true, ".vue": true, ".svelte": true,
	".astro": true, ".jsx": true, ".tsx": true, ".js": true, ".ts": true}

// declaredIn notes the custom properties that a text declares: names with a colon behind them, or in @property.
func declaredIn(data []byte, into map[string]bool) {
	for i := 0; i+2 < len(data); {
		n := bytes.Index(data[i:], []byte("--"))
		if n < 0 {
			return
		}
		from := i + n
		for i = from; i < len(data) && nameByte(data[i]); i++ {
		}
		end := i
		for i < len(data) && (data[i] == ' ' || data[i] == '"' || data[i] == '\'') {
			i++
		}
		if i < len(data) && (data[i] == ':' || data[i] == ',' && data[max(0, from-1)] != '(') ||
			bytes.HasSuffix(data[:from], []byte("@property ")) {
			into[string(data[from:end])] = true
		}
		i = max(i, from+2)
	}
}
