package markup

import (
	"regexp"
	"strconv"
	"strings"
)

var entityDecl = regexp.MustCompile(`<!ENTITY\s+([^\s%"']+)\s+(?:"([^"]*)"|'([^']*)')\s*>`)

// readDoctype keeps the text entities a document type declares itself; the first declaration of a name counts.
// Parameter entities and external ones are left out.
func (p *xmlParser) readDoctype(s string) {
	for _, m := range entityDecl.FindAllStringSubmatch(s, -1) {
		if _, ok := p.entities[m[1]]; !ok {
			p.entities[m[1]] = m[2] + m[3]
		}
	}
}

var builtin = map[string]string{"amp": "&", "lt": "<", "gt": ">", "quot": `"`, "apos": "'"}

// unescape resolves references in text that begins at a byte of the file.
func (p *xmlParser) unescape(at int, s string) (string, error) {
	if !strings.Contains(s, "&") {
		return s, nil
	}
	var b strings.Builder
	if err := p.expand(&b, at, s, 0); err != nil {
		return "", err
	}
	return b.String(), nil
}

func (p *xmlParser) expand(b *strings.Builder, at int, s string, depth int) error {
	if depth > 16 {
		return p.fail(at, "entities that hold one another more than 16 deep; they may be cyclic")
	}
	for i := 0; ; {
		k := strings.IndexByte(s[i:], '&')
		if k < 0 {
			b.WriteString(s[i:])
			return nil
		}
		b.WriteString(s[i : i+k])
		i += k
		where := at
		if depth == 0 {
			where += i
		}
		end := strings.IndexByte(s[i:], ';')
		if end < 2 || end > 64 {
			return p.fail(where, "a & that begins no reference; write &amp;")
		}
		name := s[i+1 : i+end]
		i += end + 1
		if name[0] == '#' {
			r, ok := charRef(name[1:])
			if !ok {
				return p.fail(where, "&%s; is no character", name)
			}
			b.WriteRune(r)
			continue
		}
		if v, ok := builtin[name]; ok {
			b.WriteString(v)
			continue
		}
		v, ok := p.entities[name]
		if !ok {
			return p.fail(where, "the entity &%s; is not declared in the file", name)
		}
		if p.expanded += len(v); p.expanded > MaxExpansion {
			return p.fail(where, "entities add more than %d MB; the file is not read", MaxExpansion>>20)
		}
		if err := p.expand(b, where, v, depth+1); err != nil {
			return err
		}
	}
}

func charRef(s string) (rune, bool) {
	base := 10
	if s != "" && (s[0] == 'x' || s[0] == 'X') {
		s, base = s[1:], 16
	}
	v, err := strconv.ParseUint(s, base, 32)
	ok := err == nil && (v >= 0x20 || v == 9 || v == 10 || v == 13) && v <= 0x10FFFF && (v < 0xD800 || v > 0xDFFF)
	return rune(v), ok
}
