package token

import (
	"fmt"
	"math"
	"sort"
	"strconv"
	"strings"

	"archetyp/core/color"
	"archetyp/core/quoting"

	"github.com/tailscale/hujson"
)

// JSON is a value in the form of the format, on one line.
func (v Value) JSON() string {
	switch {
	case v.Alias != "":
		return strconv.Quote("{" + v.Alias + "}")
	case v.Color != nil:
		return v.colorJSON()
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

func (v Value) colorJSON() string {
	c := v.Color
	var parts []string
	for i, x := range c.C {
		if c.None&(1<<i) != 0 {
			parts = append(parts, `"none"`)
		} else if eight := math.Round(x*255) / 255; c.Space == color.SRGB && math.Abs(x-eight) < 1e-6 {
			parts = append(parts, num(math.Round(x*1e6)/1e6)) // six decimals tell 8 bits
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
	} else if v.Hex != "" {
		s += `, "hex": ` + strconv.Quote(v.Hex)
	}
	return s + "}"
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
	return quoting.Quote(s, func(rest string) (string, int) {
		if rest[0] < 0x20 {
			return fmt.Sprintf(`\u%04x`, rest[0]), 1
		}
		return "", 0
	})
}

// addition is a member to put into a file: its path, and its value's text at a depth of nesting.
type addition struct {
	names []string
	text  func(unit string, level int) string
}

// Add puts tokens into the group their path names, at its end. Missing groups are made.
func (e *Editor) Add(tokens []*Token) error {
	if err := e.flush(); err != nil {
		return err
	}
	var list []addition
	for _, t := range tokens {
		list = append(list, addition{strings.Split(t.Path, "."), func(string, int) string { return t.json() }})
	}
	return e.insert(list)
}

// insert puts members into the file in one go: for each group that is there, what is new in it goes behind its last
// member.
func (e *Editor) insert(list []addition) error {
	type place struct {
		object     *hujson.Object
		start, end int
		level      int
		branch     *branch
	}
	var order []*place
	places := map[*hujson.Object]*place{}
	for _, a := range list {
		path := strings.Join(a.names, ".")
		s, rest := e.find(path)
		if rest == nil {
			return e.fail(s.name().StartOffset, path, "there is a token or group of this name already")
		}
		at, level := e.root, 0
		if s.member >= 0 {
			at, level = *s.value(), s.level+1
		}
		obj, ok := at.Value.(*hujson.Object)
		if !ok || isToken(obj) {
			return e.fail(at.StartOffset, path, "would lie inside a token")
		}
		p := places[obj]
		if p == nil {
			p = &place{obj, at.StartOffset, at.EndOffset, level, &branch{}}
			places[obj] = p
			order = append(order, p)
		}
		if !p.branch.put(rest, a.text) {
			return e.fail(at.StartOffset, path, "two of the new tokens cannot both have this name")
		}
	}
	unit := indentUnit(e.data)
	for _, p := range order {
		text := strings.Join(p.branch.members(unit, p.level+1), ",\n")
		from, to := p.start+1, p.end-1 // of an empty group
		comma := ""
		if n := len(p.object.Members); n > 0 {
			from, comma = p.object.Members[n-1].Value.EndOffset, ","
		}
		e.pending = append(e.pending, edit{from, to, comma + "\n" + text + "\n" + strings.Repeat(unit, p.level)})
	}
	return e.flush()
}

// branch is a new group on its way into a file.
type branch struct {
	names []string
	kids  map[string]*branch
	text  func(unit string, level int) string // of a leaf
}

func (b *branch) put(names []string, text func(string, int) string) bool {
	if b.text != nil {
		return false
	}
	if len(names) == 0 {
		if len(b.names) > 0 {
			return false
		}
		b.text = text
		return true
	}
	k := b.kids[names[0]]
	if k == nil {
		if b.kids == nil {
			b.kids = map[string]*branch{}
		}
		k = &branch{}
		b.kids[names[0]] = k
		b.names = append(b.names, names[0])
	}
	return k.put(names[1:], text)
}

func (b *branch) members(unit string, level int) []string {
	in := strings.Repeat(unit, level)
	var out []string
	for _, name := range b.names {
		k := b.kids[name]
		if k.text != nil {
			out = append(out, in+quote(name)+": "+k.text(unit, level))
			continue
		}
		out = append(out, in+quote(name)+": {\n"+strings.Join(k.members(unit, level+1), ",\n")+"\n"+in+"}")
	}
	return out
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

// json is a token on one line.
func (t *Token) json() string {
	s := `{"$type": ` + strconv.Quote(string(t.Type)) + `, "$value": ` + t.Value.JSON()
	if t.Description != "" {
		s += `, "$description": ` + quote(t.Description)
	}
	switch t.Deprecated {
	case "":
	case "deprecated":
		s += `, "$deprecated": true`
	default:
		s += `, "$deprecated": ` + quote(t.Deprecated)
	}
	if own := t.Own.json(); own != "" {
		s += fmt.Sprintf(`, "$extensions": {%q: %s}`, Extension, own)
	}
	return s + "}"
}

// json is what stands under our key; "" for nothing.
func (o Own) json() string {
	var out []string
	if o.Kind != "" {
		out = append(out, `"kind": `+quote(o.Kind))
	}
	if o.Shape != "" {
		out = append(out, `"shape": `+quote(o.Shape))
	}
	if o.Angle != nil {
		out = append(out, `"angle": `+num(*o.Angle))
	}
	if len(o.Written) > 0 {
		var keys, parts []string
		for k := range o.Written {
			keys = append(keys, k)
		}
		sort.Strings(keys)
		for _, k := range keys {
			parts = append(parts, quote(k)+": "+quote(o.Written[k]))
		}
		out = append(out, `"written": {`+strings.Join(parts, ", ")+"}")
	}
	if len(out) == 0 {
		return ""
	}
	return "{" + strings.Join(out, ", ") + "}"
}

// Equal reports whether two hold the same.
func (o Own) Equal(p Own) bool { return o.json() == p.json() }
