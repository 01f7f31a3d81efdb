package job

import (
	"context"
	"fmt"
	"sort"
	"strings"

	"archetyp/core/quoting"
	"archetyp/core/read/capture"
	"archetyp/core/token/harvest"
	"archetyp/workspace"
)

// SiteBegun says what a workspace begun from a site holds.
type SiteBegun struct {
	Config   string
	Captured *Captured
	Tokens   int
	Plain    int
}

// BeginSite begins a workspace around a live site: its capture, and with harvest its custom properties as tokens.
func BeginSite(ctx context.Context, dir string, s workspace.Site, harvestTokens bool, o CaptureOptions) (*SiteBegun, error) {
	ws, err := workspace.Bare(dir)
	if err != nil {
		return nil, err
	}
	defer ws.Close()
	got, err := Capture(ctx, ws, s, o)
	if err != nil {
		return nil, err
	}
	out := &SiteBegun{Captured: got}
	change := &workspace.Change{}
	var made *harvest.CodeTokens
	title := s.Name
	source := CaptureFolder(s.Name) + "/" + capture.Name
	if harvestTokens {
		data, err := ws.ReadFile(source)
		if err != nil {
			return nil, err
		}
		doc, err := workspace.ParseDrawing(data, workspace.Drawing{Shown: source, Load: ws.Links(source, nil)})
		if err != nil {
			return nil, err
		}
		if len(doc.Screens) > 0 && doc.Screens[0].Name != "" {
			title = doc.Screens[0].Name
		}
		c, err := HarvestSheets(nil, doc)
		if err != nil {
			return nil, err
		}
		made = c.Code.Tokens("site")
		out.Tokens, out.Plain = made.Tokens, made.Plain
		for _, name := range sortedKeys(made.Files) {
			change.Put(ws, workspace.Settings, "tokens/"+name, made.Files[name])
		}
	}
	out.Config = siteConfig(title, s, source, made)
	if _, err := workspace.ParseConfig([]byte(out.Config), workspace.ConfigName); err != nil {
		return nil, err
	}
	change.Put(ws, workspace.Settings, workspace.ConfigName, []byte(out.Config))
	return out, ws.Apply(change)
}

// siteConfig is the configuration of a workspace around a site.
func siteConfig(title string, s workspace.Site, source string, t *harvest.CodeTokens) string {
	var b strings.Builder
	fmt.Fprintf(&b, "name: %s\n", quoting.JSON(title))
	fmt.Fprintf(&b, "sources:\n  - %s\n", quoting.JSON(source))
	fmt.Fprintf(&b, "sites:\n  - {name: %s, url: %s, viewports: [390x844, 1280x800], follow: %d", quoting.JSON(s.Name), quoting.JSON(s.URL), s.Follow)
	if s.Browser {
		b.WriteString(", browser: true")
	}
	b.WriteString("}\n")
	if t != nil {
		fmt.Fprintf(&b, "tokens:\n  resolver: tokens/%s\n", t.Resolver)
		var keys []string
		for k := range t.Contexts {
			keys = append(keys, k)
		}
		sort.Strings(keys)
		if len(keys) > 0 {
			b.WriteString("contexts:\n")
		}
		for _, k := range keys {
			var list []string
			for _, c := range t.Contexts[k] {
				list = append(list, quoting.JSON(c))
			}
			fmt.Fprintf(&b, "  %s: [%s]\n", k, strings.Join(list, ", "))
		}
	}
	b.WriteString("outputs:\n  - {as: css, to: dist/tokens.css}\n")
	b.WriteString("text: {source: en, keys: \"{screen}.{component}.{words}\"}\n")
	b.WriteString("guide: {to: guide}\n")
	return b.String()
}
