package workspace

import (
	"bytes"
	"fmt"
	"strings"

	"github.com/goccy/go-yaml"
	"github.com/goccy/go-yaml/parser"
)

// RenameOnly gives a token or group its new name in "only:" of the outputs, every other byte kept; ok is false where it
// is not named there.
func RenameOnly(config []byte, from, to string) (out []byte, ok bool) {
	file, err := parser.ParseBytes(config, 0)
	if err != nil {
		return config, false
	}
	lines := bytes.SplitAfter(config, []byte("\n"))
	cfg, err := ParseConfig(config, ConfigName)
	if err != nil {
		return config, false
	}
	for i, o := range cfg.Outputs {
		for k := len(o.Only) - 1; k >= 0; k-- { // from behind, so that columns in front stay
			name := o.Only[k]
			if name != from && !strings.HasPrefix(name, from+".") {
				continue
			}
			at, err := yaml.PathString(fmt.Sprintf("$.outputs[%d].only[%d]", i, k))
			if err != nil {
				continue
			}
			node, err := at.FilterFile(file)
			if err != nil || node == nil {
				continue
			}
			pos := node.GetToken().Position
			line := lines[pos.Line-1]
			start := len(string([]rune(string(line))[:pos.Column-1]))
			j := bytes.Index(line[start:], []byte(name))
			if j < 0 || j > 1 { // a quotation mark at most stands before it
				continue
			}
			renamed := to + strings.TrimPrefix(name, from)
			lines[pos.Line-1] = append(append(append([]byte(nil), line[:start+j]...), renamed...), line[start+j+len(name):]...)
			ok = true
		}
	}
	return bytes.Join(lines, nil), ok
}
