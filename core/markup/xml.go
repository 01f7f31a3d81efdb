package markup

import (
	"bytes"
	"fmt"
	"maps"
	"slices"
	"strings"
	"unicode/utf8"

	"archetyp/core/limit"

	"github.com/tdewolff/parse/v2"
	"github.com/tdewolff/parse/v2/xml"
)

// Limits keep hostile files from taking memory or stack without bound.
const (
	MaxDepth     = 1024     // elements inside one another
	MaxExpansion = 10 << 20 // bytes that entities may add to a file
)

// ParseXML reads a well-formed XML file: UTF-8, or what its byte order mark or declaration says. External entities
// are never fetched. The error is an *Error with the place.
func ParseXML(src []byte) (*Document, error) { return parseXML(src, 0) }

// ParseXMLWithin is ParseXML for a file of so many elements at most.
func ParseXMLWithin(src []byte, budget *limit.Budget) (*Document, error) {
	return parseXML(src, int(budget.Limit(limit.Elements)))
}

func parseXML(src []byte, most int) (*Document, error) {
	src, err := toUTF8(src)
	if err != nil {
		return nil, err
	}
	if at := beyond(src, most); at >= 0 {
		over := &limit.Error{Kind: limit.Elements, Limit: int64(most)}
		return nil, &Error{Lines(src[:at+1]).Position(at), over.Error(), over.Hint()}
	}
	p := &xmlParser{src: src, whole: string(src), lines: Lines(src), entities: map[string]string{},
		names: map[string]string{}, expanded: new(int), most: most, more: new(int)}
	p.doc = &Document{lines: p.lines}
	if err := p.run(); err != nil {
		return nil, err
	}
	return p.doc, nil
}

// beyond is the place of the first start tag over a number; -1 where there are no more. Looking first costs little, and
// a file that is far too large none of the memory of reading it. most is 0 for any number.
func beyond(src []byte, most int) int {
	if most == 0 {
		return -1
	}
	for i, n := 0, 0; ; {
		k := bytes.IndexByte(src[i:], '<')
		if k < 0 {
			return -1
		}
		i += k
		switch rest := src[i:]; {
		case bytes.HasPrefix(rest, []byte("<!--")):
			i = skipPast(src, i+4, "-->")
		case bytes.HasPrefix(rest, []byte("<![CDATA[")):
			i = skipPast(src, i+9, "]]>")
		case bytes.HasPrefix(rest, []byte("<?")):
			i = skipPast(src, i+2, "?>")
		case len(rest) > 1 && rest[1] != '/' && rest[1] != '!':
			if n++; n > most {
				return i
			}
			i++
		default:
			i++
		}
	}
}

// skipPast is the offset behind the next end at or after i.
func skipPast(src []byte, i int, end string) int {
	if k := bytes.Index(src[min(i, len(src)):], []byte(end)); k >= 0 {
		return i + k + len(end)
	}
	return len(src)
}

type xmlParser struct {
	src      []byte
	lines    *LineIndex
	doc      *Document
	entities map[string]string
	elements map[string]bool // entities that stand for elements
	expanded *int            // bytes that entities added
	offset   int             // of the token in hand
	spaces   []map[string]string
	cur      *Node
	depth    int

	whole string            // src as one string, of which words are parts
	names map[string]string // of elements and attributes, each kept once
	slab  []Node            // nodes to hand out
	attrs map[string]bool   // of the tag being read, where it has many

	holder *xmlParser // of what an entity stands for: what reads the text that refers to it
	at     int        // where it does
	base   *Node      // the element that holds it
	nested int        // how deep entities with markup lie in one another
	most   int        // elements there may be; 0 for any number
	more   *int       // elements that entities added
}

// node hands out a node; they are made many at a time.
func (p *xmlParser) node() *Node {
	if len(p.slab) == 0 {
		p.slab = make([]Node, min(512, 8+len(p.src)/256))
	}
	n := &p.slab[0]
	p.slab = p.slab[1:]
	return n
}

// name is a name, the same string each time it comes.
func (p *xmlParser) name(b []byte) string {
	if s, ok := p.names[string(b)]; ok {
		return s
	}
	s := string(b)
	if len(p.names) < 4096 {
		p.names[s] = s
	}
	return s
}

// part is a stretch of the file as a string, where it stands there as it is.
func (p *xmlParser) part(at int, data []byte) string {
	if at+len(data) <= len(p.whole) && p.whole[at:at+len(data)] == string(data) {
		return p.whole[at : at+len(data)]
	}
	return string(data)
}

func (p *xmlParser) fail(offset int, format string, args ...any) error {
	msg := fmt.Sprintf(format, args...)
	if p.holder != nil {
		msg += ", in what an entity stands for"
	}
	return &Error{Position: p.place(offset), Msg: msg}
}

func (p *xmlParser) run() error {
	// The lexer writes into its input, and wants room for a byte at the end.
	work := make([]byte, len(p.src), len(p.src)+1)
	copy(work, p.src)
	blankInstructions(work)
	lex := xml.NewLexer(parse.NewInputBytes(work))
	var node *Node // start tag being read
	inPI := false
	for {
		tt, data := lex.Next()
		at := p.offset
		p.offset += len(data)
		switch tt {
		case xml.ErrorToken:
			return p.finish(node != nil || inPI)
		case xml.DOCTYPEToken:
			p.readDoctype(string(lex.Text()))
		case xml.CommentToken:
			if !bytes.HasSuffix(data, []byte("-->")) {
				return p.fail(at, "a comment that never ends")
			}
		case xml.StartTagPIToken:
			inPI = true
		case xml.StartTagClosePIToken:
			inPI, p.offset = false, p.after(at, "?>")
		case xml.StartTagToken:
			node = p.node()
			node.Name, node.Offset = p.name(lex.Text()), at
			if !validName(node.Name) {
				return p.fail(at, "%q is no element name", node.Name)
			}
		case xml.AttributeToken:
			if inPI {
				continue
			}
			if err := p.attribute(node, at, data, lex); err != nil {
				return err
			}
		case xml.StartTagCloseToken, xml.StartTagCloseVoidToken:
			p.offset = p.after(at, ">")
			if inPI {
				inPI = false
				continue
			}
			if err := p.open(node); err != nil {
				return err
			}
			if tt == xml.StartTagCloseVoidToken {
				p.close()
			}
			node = nil
		case xml.EndTagToken:
			if err := p.end(strings.TrimSpace(string(lex.Text())), at); err != nil {
				return err
			}
		case xml.TextToken:
			if err := p.text(at, data); err != nil {
				return err
			}
		case xml.CDATAToken:
			if !bytes.HasSuffix(data, []byte("]]>")) {
				return p.fail(at, "a CDATA section that never ends")
			}
			if p.cur != nil && len(lex.Text()) > 0 {
				p.cur.Append(&Node{Kind: Text, Data: string(lex.Text()), Offset: at, End: p.offset})
			}
		}
	}
}

// end closes the element in hand, which an end tag names.
func (p *xmlParser) end(name string, at int) error {
	switch {
	case p.cur == p.base:
		return p.fail(at, "</%s> closes nothing", name)
	case p.cur.Name != name:
		return p.fail(at, "</%s> where </%s> is wanted (opened at line %d)", name, p.cur.Name, p.place(p.cur.Offset).Line)
	}
	p.close()
	return nil
}

// blankInstructions empties processing instructions, since the lexer takes a > inside one for its end.
func blankInstructions(src []byte) {
	for i := 0; i < len(src); {
		k := bytes.IndexByte(src[i:], '<')
		if k < 0 {
			return
		}
		i += k
		rest := src[i:]
		switch {
		case bytes.HasPrefix(rest, []byte("<!--")):
			i = skipPast(src, i+4, "-->")
		case bytes.HasPrefix(rest, []byte("<![CDATA[")):
			i = skipPast(src, i+9, "]]>")
		case bytes.HasPrefix(rest, []byte("<?")):
			end := skipPast(src, i+2, "?>")
			for j := i + 3; j < end-2; j++ {
				if src[j] != '\n' {
					src[j] = ' '
				}
			}
			i = end
		default:
			i++
		}
	}
}

// after is the offset behind the next want at or after at: the lexer drops white space in tags without counting it.
func (p *xmlParser) after(at int, want string) int {
	if i := bytes.Index(p.src[min(at, len(p.src)):], []byte(want)); i >= 0 {
		return at + i + len(want)
	}
	return len(p.src)
}

func (p *xmlParser) finish(inTag bool) error {
	switch {
	case inTag:
		return p.fail(len(p.src), "the file ends inside a tag; it seems to be cut off")
	case p.holder != nil && p.cur != p.base:
		return p.fail(0, "<%s> is not closed", p.cur.Name)
	case p.holder == nil && p.cur != nil:
		pos := p.lines.Position(p.cur.Offset)
		return p.fail(len(p.src), "the file ends before <%s> of line %d is closed; it seems to be cut off", p.cur.Name,
			pos.Line)
	case p.doc.Root == nil:
		return p.fail(0, "no element in the file: this is not XML")
	}
	return nil
}

func (p *xmlParser) attribute(node *Node, at int, data []byte, lex *xml.Lexer) error {
	// the lexer skips white space before an attribute: find it again
	name := p.name(lex.Text())
	if i := bytes.Index(p.src[at:], lex.Text()); i >= 0 {
		at += i
	}
	p.offset = at + len(bytes.TrimLeft(data, " \t\r\n"))
	val := lex.AttrVal()
	if !validName(name) {
		return p.fail(at, "%q is no attribute name in <%s>", Clip(name), node.Name)
	}
	if len(val) < 2 || (val[0] != '"' && val[0] != '\'') {
		return p.fail(at, "the attribute %s has no quoted value", name)
	}
	if val[len(val)-1] != val[0] {
		return p.fail(at, "the value of %s never ends; the file seems to be cut off", name)
	}
	if bytes.IndexByte(val, '<') >= 0 {
		return p.fail(at, "a < inside the value of %s; write &lt;", name)
	}
	if p.repeats(node, name) {
		return p.fail(at, "the attribute %s stands twice in <%s>", name, node.Name)
	}
	v, err := p.unescape(at, p.part(at+bytes.IndexByte(p.src[at:], val[0])+1, val[1:len(val)-1]))
	if err != nil {
		return err
	}
	if node.Attrs == nil {
		node.Attrs = make([]Attr, 0, 4)
	}
	node.Attrs = append(node.Attrs, Attr{Name: name, Local: name, Value: v})
	return nil
}

// fewAttrs are looked through one by one; more are kept in a set.
const fewAttrs = 16

// repeats reports whether a tag has an attribute already.
func (p *xmlParser) repeats(node *Node, name string) bool {
	if len(node.Attrs) < fewAttrs {
		return slices.ContainsFunc(node.Attrs, func(a Attr) bool { return a.Name == name })
	}
	if len(node.Attrs) == fewAttrs {
		p.attrs = make(map[string]bool, 4*fewAttrs)
		for i := range node.Attrs {
			p.attrs[node.Attrs[i].Name] = true
		}
	}
	if p.attrs[name] {
		return true
	}
	p.attrs[name] = true
	return false
}

// Clip is as much of a text of the input as a message repeats.
func Clip(s string) string {
	const most = 40
	if len(s) <= most {
		return s
	}
	n := most
	for n > 0 && !utf8.RuneStart(s[n]) {
		n--
	}
	return s[:n] + "…"
}

func (p *xmlParser) open(n *Node) error {
	if p.depth++; p.depth > MaxDepth {
		return p.fail(n.Offset, "more than %d elements inside one another", MaxDepth)
	}
	if p.cur == nil && p.doc.Root != nil {
		return p.fail(n.Offset, "a second element beside the root element <%s>", p.doc.Root.Name)
	}
	scope := map[string]string(nil)
	if len(p.spaces) > 0 {
		scope = p.spaces[len(p.spaces)-1]
	}
	own, copied := scope, false
	declare := func(prefix, uri string) {
		if !copied { // the first declaration here
			own, copied = maps.Clone(scope), true
			if own == nil {
				own = map[string]string{}
			}
		}
		own[prefix] = uri
	}
	for _, a := range n.Attrs {
		if a.Name == "xmlns" {
			declare("", a.Value)
		} else if pre, ok := strings.CutPrefix(a.Name, "xmlns:"); ok {
			declare(pre, a.Value)
		}
	}
	p.spaces = append(p.spaces, own)
	prefix, local, ok := strings.Cut(n.Name, ":")
	if !ok {
		prefix, local = "", n.Name
	}
	n.Local, n.Space = local, own[prefix]
	for i := range n.Attrs {
		a := &n.Attrs[i]
		if pre, loc, ok := strings.Cut(a.Name, ":"); ok {
			a.Local, a.Space = loc, own[pre]
			switch {
			case pre == "xml":
				a.Space = XML
			case pre == "xlink" && a.Space == "":
				a.Space = XLink
			case a.Space == "":
				a.Space = pre // undeclared: keep it apart from the plain ones
			}
		}
	}
	n.End = p.offset
	if p.cur == nil {
		p.doc.Root = n
	} else {
		p.cur.Append(n)
	}
	p.cur = n
	return nil
}

func (p *xmlParser) close() {
	p.cur.End = p.offset
	p.cur = p.cur.Parent
	p.spaces = p.spaces[:len(p.spaces)-1]
	p.depth--
}

func (p *xmlParser) text(at int, data []byte) error {
	if p.cur == nil {
		if len(bytes.TrimSpace(data)) > 0 {
			i := bytes.IndexFunc(data, func(r rune) bool { return r > ' ' })
			return p.fail(at+max(i, 0), "text outside the root element: this is not an XML file")
		}
		return nil
	}
	words := p.part(at, data)
	for {
		begin, end, value := p.markup(words)
		if begin < 0 {
			return p.words(at, words)
		}
		if err := p.words(at, words[:begin]); err != nil {
			return err
		}
		if err := p.include(at+begin, value); err != nil {
			return err
		}
		at, words = at+end, words[end:]
	}
}

// words appends text, references resolved.
func (p *xmlParser) words(at int, raw string) error {
	s, err := p.unescape(at, raw)
	if err != nil || s == "" { // an entity may stand for nothing
		return err
	}
	n := p.node()
	n.Kind, n.Data, n.Offset, n.End = Text, s, at, at+len(raw)
	p.cur.Append(n)
	return nil
}

func validName(s string) bool {
	if s == "" {
		return false
	}
	for i, r := range s {
		switch {
		case r >= 'a' && r <= 'z', r >= 'A' && r <= 'Z', r == '_', r == ':', r >= 0x80:
		case i > 0 && (r >= '0' && r <= '9' || r == '-' || r == '.'):
		default:
			return false
		}
	}
	return true
}
