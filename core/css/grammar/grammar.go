// Package grammar holds values against the Value Definition Syntax in which CSS specifications write what a property
// takes, such as `[ <length> | <percentage> ]{1,4}`. In go a grammar and the text of a value, out come its parts, in
// the order in which the grammar names them.
// https://www.w3.org/TR/css-values-4/#value-defs
package grammar

import (
	"fmt"
	"strconv"
	"strings"
	"sync"
)

// Grammar is a compiled definition. It is safe to use side by side.
type Grammar struct{ root *node }

type op uint8

const (
	opSeq     op = iota // a b
	opOr                // a | b
	opAny               // a || b
	opAll               // a && b
	opRepeat            // a{min,max}, with # separated by commas
	opWord              // a keyword
	opMark              // , or /
	opType              // <length>
	opCall              // name( a )
	opNothing           // an empty grammar
)

type node struct {
	op       op
	kids     []*node
	text     string // keyword, mark, type or function name
	min, max int    // of a repetition; max -1 for no end
	commas   bool
	low, up  *float64                        // range of a type
	read     func(*Part, *node) (Part, bool) // of a type that is read here
}

// Must compiles a definition that is written in the program.
func Must(definition string) *Grammar {
	g, err := Compile(definition)
	if err != nil {
		panic(err)
	}
	return g
}

// Compile reads a definition. Types are those of this package; see Types.
func Compile(definition string) (*Grammar, error) {
	p := &parser{text: definition}
	p.next()
	n, err := p.alternatives()
	if err == nil && p.tok != "" {
		err = p.fail()
	}
	if err != nil {
		return nil, err
	}
	return &Grammar{n}, nil
}

// named are the grammars of types that are defined by others, compiled when they are first used.
var named sync.Map // string → *node

func typeNode(name string) (*node, error) {
	if n, ok := named.Load(name); ok {
		return n.(*node), nil
	}
	definition, ok := Types[name]
	if !ok {
		return nil, fmt.Errorf("the type <%s> is not known", name)
	}
	g, err := Compile(definition)
	if err != nil {
		return nil, fmt.Errorf("<%s>: %w", name, err)
	}
	named.Store(name, g.root)
	return g.root, nil
}

type parser struct {
	text string
	i    int
	tok  string
}

func (p *parser) fail() error { return fmt.Errorf("%q is not expected in %q", p.tok, p.text) }

// next goes on to the next token: a bracket, a combinator, a multiplier, a <type>, or a word.
func (p *parser) next() {
	for p.i < len(p.text) && (p.text[p.i] == ' ' || p.text[p.i] == '\n' || p.text[p.i] == '\t') {
		p.i++
	}
	rest := p.text[p.i:]
	n := 0
	switch {
	case rest == "":
	case strings.HasPrefix(rest, "||"), strings.HasPrefix(rest, "&&"):
		n = 2
	case rest[0] == '<':
		n = through(rest, '>')
	case rest[0] == '{':
		n = through(rest, '}')
	case strings.IndexByte("[]|?*+#!,/()", rest[0]) >= 0:
		n = 1
	default:
		for n < len(rest) && strings.IndexByte(" \n\t[]|?*+#!,/()&<{", rest[n]) < 0 {
			n++
		}
		if n < len(rest) && rest[n] == '(' {
			n++
		}
	}
	p.tok = rest[:n]
	p.i += n
}

// through is how far a text goes with a closing sign; all of it where there is none.
func through(rest string, sign byte) int {
	if n := strings.IndexByte(rest, sign); n >= 0 {
		return n + 1
	}
	return len(rest)
}

// alternatives reads a | b, which binds least; then ||, &&, and what stands side by side.
func (p *parser) alternatives() (*node, error) {
	return p.level(opOr, "|", func() (*node, error) {
		return p.level(opAny, "||", func() (*node, error) {
			return p.level(opAll, "&&", p.sequence)
		})
	})
}

func (p *parser) level(o op, sign string, below func() (*node, error)) (*node, error) {
	n, err := below()
	if err != nil || p.tok != sign {
		return n, err
	}
	out := &node{op: o, kids: []*node{n}}
	for p.tok == sign && n.op != opNothing {
		p.next()
		if n, err = below(); err != nil {
			return nil, err
		}
		out.kids = append(out.kids, n)
	}
	if n.op == opNothing {
		return nil, p.fail()
	}
	return out, nil
}

func (p *parser) sequence() (*node, error) {
	var kids []*node
	for p.tok != "" && p.tok != "]" && p.tok != ")" && p.tok != "|" && p.tok != "||" && p.tok != "&&" {
		n, err := p.term()
		if err != nil {
			return nil, err
		}
		kids = append(kids, n)
	}
	switch len(kids) {
	case 0:
		return &node{op: opNothing}, nil
	case 1:
		return kids[0], nil
	}
	return &node{op: opSeq, kids: kids}, nil
}

func (p *parser) term() (*node, error) {
	n, err := p.single()
	if err != nil {
		return nil, err
	}
	for {
		rep := &node{op: opRepeat, kids: []*node{n}, min: 1, max: 1}
		switch {
		case p.tok == "?":
			rep.min = 0
		case p.tok == "*":
			rep.min, rep.max = 0, -1
		case p.tok == "+":
			rep.max = -1
		case p.tok == "#":
			rep.max, rep.commas = -1, true
			if p.i < len(p.text) && p.text[p.i] == '{' {
				p.next()
				if !rep.bounds(p.tok) {
					return nil, p.fail()
				}
			}
		case strings.HasPrefix(p.tok, "{"):
			if !rep.bounds(p.tok) {
				return nil, p.fail()
			}
		case p.tok == "!":
			p.next()
			continue
		default:
			return n, nil
		}
		p.next()
		n = rep
	}
}

// bounds reads {a,b}.
func (n *node) bounds(tok string) bool {
	low, up, two := strings.Cut(strings.Trim(tok, "{}"), ",")
	var err error
	if n.min, err = strconv.Atoi(low); err != nil || n.min < 0 || !strings.HasSuffix(tok, "}") {
		return false
	}
	n.max = n.min
	if !two {
		return true
	}
	n.max = -1
	if up == "" {
		return true
	}
	n.max, err = strconv.Atoi(up)
	return err == nil && n.max >= n.min
}

func (p *parser) single() (*node, error) {
	tok := p.tok
	switch {
	case tok == "[":
		p.next()
		n, err := p.alternatives()
		if err == nil && p.tok != "]" {
			err = p.fail()
		}
		p.next()
		return n, err
	case tok == "," || tok == "/":
		p.next()
		return &node{op: opMark, text: tok}, nil
	case strings.HasPrefix(tok, "<"):
		p.next()
		if !strings.HasSuffix(tok, ">") || strings.Count(tok, "[") != strings.Count(tok, "]") {
			return nil, fmt.Errorf("%q is not expected in %q", tok, p.text)
		}
		return typed(strings.Trim(tok, "<>"))
	case len(tok) > 1 && strings.HasSuffix(tok, "("):
		p.next()
		n, err := p.alternatives()
		if err == nil && p.tok != ")" {
			err = p.fail()
		}
		p.next()
		return &node{op: opCall, text: tok[:len(tok)-1], kids: []*node{n}}, err
	case tok == "" || strings.Contains("]|?*+#!()&{", tok[:1]):
		return nil, p.fail()
	}
	p.next()
	if strings.ContainsAny(tok, "'\"<>;") {
		return nil, fmt.Errorf("%q is not expected in %q", tok, p.text)
	}
	return &node{op: opWord, text: strings.ToLower(tok)}, nil
}

// typed is the node of a type such as `length [0,∞]`.
func typed(text string) (*node, error) {
	name, bounds, ranged := strings.Cut(text, " [")
	n := &node{op: opType, text: strings.TrimSpace(name)}
	if n.read = basic(n.text); n.read == nil {
		if _, known := Types[n.text]; !known {
			return nil, fmt.Errorf("the type <%s> is not known", n.text)
		}
	}
	if ranged {
		low, up, _ := strings.Cut(strings.TrimSuffix(bounds, "]"), ",")
		n.low, n.up = limitOf(low), limitOf(up)
	}
	return n, nil
}

func limitOf(s string) *float64 {
	v, err := strconv.ParseFloat(strings.TrimSpace(s), 64)
	if err != nil { // ∞
		return nil
	}
	return &v
}
