package job

import (
	"strings"

	"archetyp/core/color"
	"archetyp/core/design"
	"archetyp/core/drift"
	"archetyp/core/token"
	"archetyp/core/token/emit"
	"archetyp/core/token/harvest"
	"archetyp/workspace"
)

// driftTokens knows the tokens of a workspace for drift.
type driftTokens struct {
	byValue    map[string]string // kind and value → path
	byProperty map[string]string // custom property → path
	value      map[string]string // path → value
	property   map[string]string // path → custom property
	colours    map[string]color.Color
	covered    []string // tokens that values of style sheets can be
}

// DriftTokens are the tokens of a workspace as drift asks for them; nil where there are none.
func DriftTokens(ws *workspace.Workspace) (drift.Tokens, error) {
	if ws == nil {
		return nil, nil
	}
	lib, err := ws.ReadTokens(nil)
	if err != nil || lib == nil || len(lib.Base.Tokens) == 0 {
		return nil, err
	}
	d := &driftTokens{map[string]string{}, map[string]string{}, map[string]string{}, map[string]string{}, map[string]color.Color{}, nil}
	for _, t := range lib.Base.Tokens {
		text := emit.Drawn(lib.Base, t)
		prop := ws.Config.Property(t.Path)
		d.byProperty[prop], d.property[t.Path] = t.Path, prop
		kind := ""
		switch t.Type {
		case token.Color:
			kind = "colour"
			if c, err := color.Parse(text); err == nil {
				d.colours[t.Path] = c
			}
		case token.Shadow:
			kind = "shadow"
		case token.Gradient:
			kind = "gradient"
		case token.Dimension:
			if kind = token.LengthUse(t.Path); kind == "size" {
				kind = "type"
			}
			text = inPixels(text, ws.Config.RootPx())
		default:
			continue
		}
		d.value[t.Path] = text
		if kind != "" && kind != "gradient" && kind != "width" {
			d.covered = append(d.covered, t.Path)
		}
		key := kind + "\x00" + drift.Canonical(text)
		if d.byValue[key] == "" || t.Value.Alias == "" && !strings.Contains(d.byValue[key], ".") {
			d.byValue[key] = t.Path
		}
	}
	return d, nil
}

func (d *driftTokens) Of(kind, value string) string {
	return d.byValue[kind+"\x00"+drift.Canonical(value)]
}
func (d *driftTokens) Property(path string) string  { return d.property[path] }
func (d *driftTokens) Named(property string) string { return d.byProperty[property] }
func (d *driftTokens) Value(path string) string     { return d.value[path] }

// Almost is the token whose colour is hard to tell from another; "" for none.
func (d *driftTokens) Almost(c color.Color) (token string, far float64) {
	for path, own := range d.colours {
		if by, ok := harvest.Almost("color", c.CSS(), own.CSS()); ok && (token == "" || by < far || by == far && path < token) {
			token, far = path, by
		}
	}
	return token, far
}

// coverage counts the values that the sheets of all pages declare.
func coverage(in *drift.In) *drift.Coverage {
	t, ok := in.Tokens.(*driftTokens)
	if !ok {
		return nil
	}
	var sheets []design.StyleSheet
	for i := range in.Pages {
		sheets = append(sheets, in.Pages[i].Views[0].Site.Styles.Sheets()...)
	}
	for i := range in.Drawings {
		sheets = append(sheets, in.Drawings[i].Page.Styles.Sheets()...)
	}
	return drift.Cover(sheets, t, t.covered, t.Almost)
}
