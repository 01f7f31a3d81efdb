// Package targets writes style sheets so that older browsers understand them. A sheet goes in, one with prefixes and
// older ways of writing values comes out.
package targets

import (
	"fmt"
	"regexp"
	"strings"

	"archetyp/core/hint"

	"github.com/evanw/esbuild/pkg/api"
)

// engines are the browsers that prefixes can be written for.
var engines = map[string]api.EngineName{"chrome": api.EngineChrome, "edge": api.EngineEdge, "firefox": api.EngineFirefox,
	"ie": api.EngineIE, "ios": api.EngineIOS, "opera": api.EngineOpera, "safari": api.EngineSafari}

var target = regexp.MustCompile(`^([a-z]+)(\d+(?:\.\d+)*)$`)

// For writes a style sheet so that browsers as old as the targets understand it, such as chrome90 or safari14: with
// prefixes, and with what they have instead of newer ways of writing values.
func For(sheet string, targets []string) (string, error) {
	if len(targets) == 0 {
		return sheet, nil
	}
	o := api.TransformOptions{Loader: api.LoaderCSS, Charset: api.CharsetUTF8, LogLevel: api.LogLevelSilent}
	for _, t := range targets {
		m := target.FindStringSubmatch(strings.ToLower(strings.TrimSpace(t)))
		if m == nil || engines[m[1]] == 0 && m[1] != "chrome" {
			return "", hint.New(fmt.Sprintf("%q is no browser and version", t),
				"For example: --targets safari14,chrome90. There are chrome, edge, firefox, ie, ios, opera and safari.")
		}
		o.Engines = append(o.Engines, api.Engine{Name: engines[m[1]], Version: m[2]})
	}
	out := api.Transform(sheet, o)
	if len(out.Errors) > 0 {
		return "", fmt.Errorf("the style sheet for %s: %s", strings.Join(targets, ", "), out.Errors[0].Text)
	}
	return string(out.Code), nil
}
