package token

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"github.com/tailscale/hujson"
)

// JSON is a value in the form of the format, on one line.
func (v Value) JSON() string {
	switch {
	case v.Alias != "":
		return strconv.Quote("{" + v.Alias + "}")
	case v.Color != nil:
		c := v.Color
		var parts []string
		for i, x := range c.C {
			if c.None&(1<<i) != 0 {
				parts = append(parts, `"none"`)
			} else {
				parts = append(parts, num(x))
			}
		}
		s := fmt.Sprintf(`{"colorSpace": %q, "components": [%s]`, string(c.Space), strings.Join(parts, ", "))
		if c.None&8 != 0 {
			s += `, "alpha": "none"`
		} else if c.Alpha != 1 {
			s += `, "alpha": ` + num(c.Alpha)
		}
		if c.InSRGB() {
			opaque := *c
			opaque.Alpha = 1
			s += `, "hex": ` + strconv.Quote(opaque.Hex())
		}
		return s + "}"
	case v.Length != nil:
		return fmt.Sprintf(`{"value": %s, "unit": %q}`, num(v.Length.Value), v.Length.Unit)
	case v.Number != nil:
		return num(*v.Number)
	case v.Boolean != nil:
		return strconv.FormatBool(*v.Boolean)
	case v.Bezier != nil:
		b := v.Bezier
		return fmt.Sprintf("[%s, %s, %s, %s]", num(b[0]), num(b[1]), num(b[2]), num(b[3]))
	case len(v.Words) == 1:
		return quote(v.Words[0])
	case len(v.Words) > 1:
		var q []string
		for _, w := range v.Words {
			q = append(q, quote(w))
		}
		return "[" + strings.Join(q, ", ") + "]"
	case v.Parts != nil:
		var out []string
		for _, k := range partOrder {
			if p, ok := v.Parts[k]; ok && k == "dashArray" { // a list, also of one
				var dashes []string
				for _, d := range p.List {
					dashes = append(dashes, d.JSON())
				}
				out = append(out, `"dashArray": [`+strings.Join(dashes, ", ")+"]")
			} else if ok {
				out = append(out, fmt.Sprintf("%q: %s", k, p.JSON()))
			}
		}
		return "{" + strings.Join(out, ", ") + "}"
	case len(v.List) == 1 && v.List[0].Alias == "":
		if _, stop := v.List[0].Parts["position"]; !stop {
			return v.List[0].JSON()
		}
	}
	var out []string
	for _, e := range v.List {
		out = append(out, e.JSON())
	}
	return "[" + strings.Join(out, ", ") + "]"
}

var partOrder = strings.Fields(`fontFamily fontSize fontWeight letterSpacing lineHeight color width style duration delay
	timingFunction offsetX offsetY blur spread inset position dashArray lineCap`)

// num prints a number so that reading it back gives the same one, or a decimal of at most 6 places where the number
// is that to within what 8-bit colours and layout can tell.
func num(f float64) string {
	if r := math.Round(f*1e6) / 1e6; math.Abs(r-f) < 1e-9 {
		f = r
	}
	return strconv.FormatFloat(f+0, 'f', -1, 64)
}

func quote(s string) string {
	var b strings.Builder
	b.WriteByte('"')
	for _, r := range s {
		switch {
		case r == '"' || r == '\\':
			b.WriteByte('\\')
			b.WriteRune(r)
		case r < 0x20:
			fmt.Fprintf(&b, `\u%04x`, r)
		default:
			b.WriteRune(r)
		}
	}
	b.WriteByte('"')
	return b.String()
}

// Add puts tokens into a file's bytes (empty for a new file): into the group their path names, at its end; all other
// bytes stay as they are.
func Add(data []byte, file string, tokens []*Token) ([]byte, error) {
	if len(strings.TrimSpace(string(data))) == 0 {
		data = []byte("{\n}\n")
	}
	for _, t := range tokens {
		var err error
		if data, err = addOne(data, file, t); err != nil {
			return nil, err
		}
	}
	return data, nil
}

func addOne(data []byte, file string, t *Token) ([]byte, error) {
	v, err := hujson.Parse(data)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	names := strings.Split(t.Path, ".")
	obj, ok := v.Value.(*hujson.Object)
	end := v.EndOffset
	level := 0
	for ok && level < len(names)-1 {
		m, has := member(obj, names[level])
		if !has {
			break
		}
		if obj, ok = m.Value.(*hujson.Object); !ok {
			return nil, fmt.Errorf("%s: %s is no group", file, strings.Join(names[:level+1], "."))
		}
		end = m.EndOffset
		level++
	}
	if !ok {
		return nil, fmt.Errorf("%s: a token file is a JSON object", file)
	}
	if _, has := member(obj, names[level]); has {
		return nil, fmt.Errorf("%s: the token %s is there already", file, t.Path)
	}
	unit := indentUnit(data)
	text := t.json(names[level:], unit, level+1)
	close := end - 1 // the group's closing brace
	for data[close] != '}' {
		close--
	}
	last := close
	for last > 0 && (data[last-1] == ' ' || data[last-1] == '\n' || data[last-1] == '\t' || data[last-1] == '\r') {
		last--
	}
	comma := ","
	if len(obj.Members) == 0 {
		comma = ""
	}
	out := append([]byte(nil), data[:last]...)
	out = append(out, comma+"\n"+text+"\n"+strings.Repeat(unit, level)...)
	return append(out, data[close:]...), nil
}

// indentUnit is what a file indents by.
func indentUnit(data []byte) string {
	for _, line := range strings.Split(string(data), "\n") {
		if trimmed := strings.TrimLeft(line, " \t"); trimmed != "" && len(trimmed) < len(line) {
			return line[:len(line)-len(trimmed)]
		}
	}
	return "  "
}

// json is the token inside the groups that are still missing.
func (t *Token) json(names []string, unit string, level int) string {
	in := strings.Repeat(unit, level)
	if len(names) > 1 {
		return in + quote(names[0]) + ": {\n" + t.json(names[1:], unit, level+1) + "\n" + in + "}"
	}
	s := in + quote(names[0]) + `: {"$type": ` + strconv.Quote(string(t.Type)) + `, "$value": ` + t.Value.JSON()
	if t.Description != "" {
		s += `, "$description": ` + quote(t.Description)
	}
	if t.Angle != nil || t.Radial {
		var ext []string
		if t.Radial {
			ext = append(ext, `"kind": "radial"`)
		}
		if t.Angle != nil {
			ext = append(ext, `"angle": `+num(*t.Angle))
		}
		s += fmt.Sprintf(`, "$extensions": {%q: {%s}}`, Extension, strings.Join(ext, ", "))
	}
	return s + "}"
}
