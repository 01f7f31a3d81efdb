// Package styletext finds the styles in a text of code while it is being written: style sheets, style attributes,
// style objects of JSX and tagged templates. In goes a text in CSS, SCSS, HTML, a single-file component or JSX; out come
// its rules, declarations, tags and words with their places. Nothing here fails, since code that is being typed is rarely
// whole.
//
// All places are offsets in bytes.
package styletext

import (
	"path"
	"sort"
	"strings"
)

// Language is what a text is written in.
type Language string

// The languages. Component stands for single-file components, which are HTML around a script; Script for TypeScript
// without tags.
const (
	CSS       Language = "css"
	SCSS      Language = "scss"
	HTML      Language = "html"
	Component Language = "component"
	JSX       Language = "jsx"
	Script    Language = "script"
)

// languages are those of file name extensions, and of the names that editors give them.
var languages = map[string]Language{
	"css": CSS, "pcss": CSS, "postcss": CSS, "scss": SCSS, "less": SCSS, "sass": "", "html": HTML, "htm": HTML, "xhtml": HTML, "php": HTML, "erb": HTML,
	"handlebars": HTML, "hbs": HTML, "njk": HTML, "vue": Component, "svelte": Component, "astro": Component,
	"jsx": JSX, "tsx": JSX, "js": JSX, "mjs": JSX, "ts": Script, "mts": Script, "javascript": JSX, "typescript": Script, "javascriptreact": JSX, "typescriptreact": JSX,
}

// LanguageOf is the language of a file, by the name that an editor has for it, else by its own; ok is false for a file
// that holds no styles.
func LanguageOf(id, file string) (Language, bool) {
	for _, name := range []string{id, strings.TrimPrefix(path.Ext(file), ".")} {
		if l := languages[strings.ToLower(name)]; l != "" {
			return l, true
		}
	}
	return "", false
}

// Code is what was found in a text. Rules and declarations stand in the order of the text.
type Code struct {
	Text     string
	Language Language
	Regions  []Region
	Rules    []Rule
	Decls    []Decl
	Tags     []Tag   // of HTML and JSX
	Words    []Words // between tags
}

// RegionKind is what a region holds.
type RegionKind int

// The kinds of regions: rules; declarations, with rules among them or not; the properties of an object of JavaScript.
const (
	Sheet RegionKind = iota
	List
	Object
)

// Region is a part of a text that holds styles.
type Region struct {
	Kind     RegionKind
	From, To int
	Slashes  bool // there are comments of one line, behind //
}

// Rule is a rule, an at-rule, or the whole of a List or an Object, which has no selector.
type Rule struct {
	Selector string // as written; "" for none
	From, To int    // of the selector
	Open     int    // behind the brace
	Close    int    // of the closing brace, or where it would stand
	Parent   int    // index into the rules; -1 for none
	Region   int
}

// At reports whether a rule is an at-rule.
func (r *Rule) At() bool { return strings.HasPrefix(r.Selector, "@") }

// Decl is a declaration. One that is not finished may have no value, and no colon.
type Decl struct {
	Property string // in lower case; of a style object as CSS has it
	Value    string // as written, without the quotes of an object's
	From, To int    // of the property
	Colon    int    // -1 for none
	ValueAt  int    // where the value begins, or would
	End      int    // behind the value: of the semicolon, or what else ends it
	Rule     int    // index into the rules; -1 for none
	Region   int
}

// Tag is a tag of HTML or JSX.
type Tag struct {
	Name     string
	From, To int
	Closing  bool
	Attrs    []Attr
}

// Attr is an attribute. A value in braces is an expression of JSX.
type Attr struct {
	Name     string
	At       int // of the name
	From, To int // of the value without quotes or braces; both -1 for none
	Quote    byte
}

// Words are the words between two tags, without the space around them.
type Words struct {
	From, To int
	In       string // the tag they stand in; "" for none
}

// Read finds the styles in a text.
func Read(text string, l Language) *Code {
	c := &Code{Text: text, Language: l}
	switch l {
	case CSS, SCSS:
		c.Rules, c.Decls = make([]Rule, 0, strings.Count(text, "{")+1), make([]Decl, 0, strings.Count(text, ";")+8)
		c.Regions = []Region{{Sheet, 0, len(text), l == SCSS}}
	case HTML, Component:
		(&tagScanner{c: c}).html()
	case JSX, Script:
		(&tagScanner{c: c}).code(0, false)
	}
	sort.SliceStable(c.Regions, func(i, j int) bool { return c.Regions[i].From < c.Regions[j].From })
	for i := range c.Regions {
		c.scan(i)
	}
	return c
}

// RuleOf is the rule of a declaration, at-rules within it passed over; nil for none.
func (c *Code) RuleOf(d *Decl) *Rule {
	for i := d.Rule; i >= 0; i = c.Rules[i].Parent {
		if !c.Rules[i].At() {
			return &c.Rules[i]
		}
	}
	return nil
}

// DeclsIn are the declarations that stand right in a rule.
func (c *Code) DeclsIn(rule int) (out []*Decl) {
	i := sort.Search(len(c.Decls), func(i int) bool { return c.Decls[i].From >= c.Rules[rule].Open })
	for ; i < len(c.Decls) && c.Decls[i].From <= c.Rules[rule].Close; i++ {
		if c.Decls[i].Rule == rule {
			out = append(out, &c.Decls[i])
		}
	}
	return out
}
