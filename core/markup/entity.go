package markup

import (
	"regexp"
	"strconv"
	"strings"

	"archetyp/core/limit"
)

// maxNested is how deep entities may hold one another.
const maxNested = 16

var entityDecl = regexp.MustCompile(`<!ENTITY\s+([^\s%"']+)\s+(?:"([^"]*)"|'([^']*)')\s*>`)

// readDoctype keeps the internal entities a document type declares itself; the first declaration of a name counts.
// Parameter entities and external ones are left out.
func (p *xmlParser) readDoctype(s string) {
	for _, m := range entityDecl.FindAllStringSubmatch(s, -1) {
		if _, ok := p.entities[m[1]]; !ok {
			p.entities[m[1]] = m[2] + m[3]
		}
	}
	p.noteMarkup()
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
	if depth > maxNested {
		return p.fail(at, "entities that hold one another more than %d deep; they may be cyclic", maxNested)
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
		if *p.expanded += len(v); *p.expanded > MaxExpansion {
			return p.fail(where, "entities add more than %d MB; the file is not read", MaxExpansion>>20)
		}
		if err := p.expand(b, where, v, depth+1); err != nil {
			return err
		}
	}
}

// references calls each for the references in text, until it says false: their names and where they stand.
func references(s string, each func(name string, begin, end int) bool) {
	for i := 0; ; {
		k := strings.IndexByte(s[i:], '&')
		if k < 0 {
			return
		}
		i += k
		stop := strings.IndexByte(s[i:], ';')
		if stop < 2 || stop > 64 || !each(s[i+1:i+stop], i, i+stop+1) {
			return // what is no reference is an error, reported where the text is read
		}
		i += stop + 1
	}
}

// noteMarkup finds the entities that stand for elements: themselves, or by the entities they name.
func (p *xmlParser) noteMarkup() {
	for name, v := range p.entities {
		if strings.IndexByte(v, '<') >= 0 {
			if p.elements == nil {
				p.elements = map[string]bool{}
			}
			p.elements[name] = true
		}
	}
	for range maxNested {
		known := len(p.elements)
		if known == 0 {
			return
		}
		for name, v := range p.entities {
			references(v, func(ref string, _, _ int) bool {
				if p.elements[ref] {
					p.elements[name] = true
				}
				return true
			})
		}
		if len(p.elements) == known {
			return
		}
	}
}

// markup finds the first reference in text to an entity that stands for elements; begin is -1 where there is none.
func (p *xmlParser) markup(s string) (begin, end int, value string) {
	begin = -1
	if len(p.elements) > 0 {
		references(s, func(name string, from, to int) bool {
			if p.elements[name] {
				begin, end, value = from, to, p.entities[name]
			}
			return begin < 0
		})
	}
	return begin, end, value
}

// include reads what an entity stands for as if it stood where the reference does. All of it has the reference's place
// in the file.
func (p *xmlParser) include(at int, value string) error {
	if p.nested >= maxNested {
		return p.fail(at, "entities that hold one another more than %d deep; they may be cyclic", maxNested)
	}
	if *p.expanded += len(value); *p.expanded > MaxExpansion {
		return p.fail(at, "entities add more than %d MB; the file is not read", MaxExpansion>>20)
	}
	if p.most > 0 {
		if *p.more += strings.Count(value, "<"); *p.more > p.most {
			over := &limit.Error{Kind: limit.Elements, Limit: int64(p.most)}
			return &Error{p.place(at), over.Error(), over.Hint()}
		}
	}
	in := &xmlParser{src: []byte(value), whole: value, doc: p.doc, entities: p.entities, elements: p.elements,
		expanded: p.expanded,
		spaces:   p.spaces, cur: p.cur, depth: p.depth, names: p.names, holder: p, at: at, base: p.cur, nested: p.nested +
			1, most: p.most, more: p.more}
	before := len(p.cur.Children)
	if err := in.run(); err != nil {
		return err
	}
	if p.holder == nil {
		for _, n := range p.cur.Children[before:] {
			n.settle(at)
		}
	}
	return nil
}

// place is an offset's place in the file.
func (p *xmlParser) place(at int) Position {
	for ; p.holder != nil; p = p.holder {
		at = p.at
	}
	return p.lines.Position(at)
}

// settle gives a node and all in it a place in the file.
func (n *Node) settle(at int) {
	n.Offset, n.End = at, at
	for _, c := range n.Children {
		c.settle(at)
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
