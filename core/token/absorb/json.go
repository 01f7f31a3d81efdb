package absorb

import (
	"fmt"
	"strings"

	"archetyp/core/markup"
	"archetyp/core/token"
	"archetyp/core/token/emit"

	"github.com/tailscale/hujson"
)

// jsonFile reads {"tokens": …, "contexts": …}, nested or flat.
var jsonFile = Language{
	Read: func(data []byte, file string) ([]Declaration, error) {
		v, err := token.ParseJSON(data, file)
		if err != nil {
			return nil, err
		}
		r := &jsonReader{lines: markup.Lines(data)}
		top, _ := v.Value.(*hujson.Object)
		for _, m := range members(top) {
			obj, _ := m.Value.Value.(*hujson.Object)
			switch name(m) {
			case "tokens":
				r.walk(obj, "", "")
			case "contexts":
				for _, c := range members(obj) {
					inner, _ := c.Value.Value.(*hujson.Object)
					r.walk(inner, "", name(c))
				}
			}
		}
		if len(r.out) == 0 {
			return nil, fmt.Errorf("%s: no \"tokens\" in it", file)
		}
		return r.out, nil
	},
	literal: true,
	name:    func(path string, _ emit.Options) string { return path },
	refs:    func(string) (string, bool) { return "", false },
	where:   func(_ *token.Library, c token.Context, _ emit.Options) []string { return []string{c.Key()} },
}

func members(o *hujson.Object) []hujson.ObjectMember {
	if o == nil {
		return nil
	}
	return o.Members
}

func name(m hujson.ObjectMember) string {
	l, _ := m.Name.Value.(hujson.Literal)
	return l.String()
}

type jsonReader struct {
	lines *markup.LineIndex
	out   []Declaration
}

func (r *jsonReader) walk(obj *hujson.Object, path, where string) {
	for _, m := range members(obj) {
		p := name(m)
		if path != "" {
			p = path + "." + p
		}
		at := r.lines.Position(m.Name.StartOffset)
		switch v := m.Value.Value.(type) {
		case *hujson.Object:
			if font, ok := typography(v); ok {
				r.out = append(r.out, Declaration{where, p, font["fontWeight"] + " " + font["fontSize"] + "/" + font["lineHeight"] +
					" " + font["fontFamily"], at},
					Declaration{where, p + "-letter-spacing", font["letterSpacing"], at})
				continue
			}
			r.walk(v, p, where)
		case hujson.Literal:
			text := string(v)
			if v.Kind() == '"' {
				text = v.String()
			}
			r.out = append(r.out, Declaration{where, p, strings.TrimSpace(text), at})
		}
	}
}

// typography are the parts of an object that is a type style.
func typography(o *hujson.Object) (map[string]string, bool) {
	out := map[string]string{}
	for _, m := range o.Members {
		if l, ok := m.Value.Value.(hujson.Literal); ok {
			out[name(m)] = string(l)
			if l.Kind() == '"' {
				out[name(m)] = l.String()
			}
		}
	}
	for _, part := range []string{"fontFamily", "fontSize", "fontWeight", "letterSpacing", "lineHeight"} {
		if out[part] == "" {
			return nil, false
		}
	}
	return out, true
}
