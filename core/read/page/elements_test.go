package page_test

import (
	"strings"
	"testing"

	"archetyp/core/css"
)

// elementProperties are those in which elements differ by themselves.
var elementProperties = strings.Fields(`display color background-color font-family font-size font-weight font-style text-align text-decoration-line vertical-align white-space-collapse text-wrap-mode list-style-type list-style-position border-top-width border-top-style border-top-color border-bottom-width border-left-width border-collapse border-spacing border-top-left-radius cursor overflow-x overflow-y unicode-bidi direction visibility position float text-transform text-indent letter-spacing word-spacing line-height box-sizing appearance user-select quotes resize object-fit table-layout caption-side counter-reset counter-increment align-items text-rendering outline-style field-sizing`)

// elements are what a browser gives elements without a style sheet: the values that differ from those of an unknown one.
var elements = []struct{ tag, attribute, want string }{
	{"a", "", ""},
	{"a", `href="#"`, "color: rgb(0, 0, 238); text-decoration-line: underline; border-top-color: rgb(0, 0, 238); cursor: pointer"},
	{"abbr", "", ""},
	{"address", "", "display: block; font-style: italic; unicode-bidi: isolate"},
	{"article", "", "display: block; unicode-bidi: isolate"},
	{"aside", "", "display: block; unicode-bidi: isolate"},
	{"audio", "", "display: none"},
	{"audio", "controls", ""},
	{"b", "", "font-weight: 700"},
	{"bdi", "", "unicode-bidi: isolate"},
	{"bdo", `dir="rtl"`, "unicode-bidi: isolate-override; direction: rtl"},
	{"big", "", "font-size: 19.2px"},
	{"blockquote", "", "display: block; unicode-bidi: isolate"},
	{"br", "", ""},
	{"button", "", "display: inline-block; background-color: rgb(239, 239, 239); font-family: Arial; font-size: 13.3333px; text-align: center; border-top-width: 2px; border-top-style: outset; border-bottom-width: 2px; border-left-width: 2px; cursor: default; box-sizing: border-box; appearance: auto"},
	{"button", "disabled", "display: inline-block; color: rgba(16, 16, 16, 0.3); background-color: rgba(239, 239, 239, 0.3); font-family: Arial; font-size: 13.3333px; text-align: center; border-top-width: 2px; border-top-style: outset; border-top-color: rgba(118, 118, 118, 0.3); border-bottom-width: 2px; border-left-width: 2px; cursor: default; box-sizing: border-box; appearance: auto"},
	{"canvas", "", "overflow-x: clip; overflow-y: clip"},
	{"center", "", "display: block; text-align: -webkit-center; unicode-bidi: isolate"},
	{"cite", "", "font-style: italic"},
	{"code", "", "font-family: monospace; font-size: 13px"},
	{"dd", "", "display: block; unicode-bidi: isolate"},
	{"del", "", "text-decoration-line: line-through"},
	{"details", "", "display: block"},
	{"details", "open", "display: block"},
	{"dfn", "", "font-style: italic"},
	{"dialog", "", "display: none; background-color: rgb(255, 255, 255); border-top-width: 3px; border-top-style: solid; border-bottom-width: 3px; border-left-width: 3px; position: absolute"},
	{"dialog", "open", "display: block; background-color: rgb(255, 255, 255); border-top-width: 3px; border-top-style: solid; border-bottom-width: 3px; border-left-width: 3px; position: absolute"},
	{"dir", "", "display: block; unicode-bidi: isolate"},
	{"div", "", "display: block; unicode-bidi: isolate"},
	{"div", `align="center"`, "display: block; text-align: -webkit-center; unicode-bidi: isolate"},
	{"div", `dir="rtl"`, "display: block; unicode-bidi: isolate; direction: rtl"},
	{"div", "hidden", "display: none; unicode-bidi: isolate"},
	{"dl", "", "display: block; unicode-bidi: isolate"},
	{"dt", "", "display: block; unicode-bidi: isolate"},
	{"em", "", "font-style: italic"},
	{"embed", "", "overflow-x: clip; overflow-y: clip"},
	{"fieldset", "", "display: block; border-top-width: 2px; border-top-style: groove; border-top-color: rgb(239, 239, 239); border-bottom-width: 2px; border-left-width: 2px"},
	{"fieldset", "disabled", "display: block; border-top-width: 2px; border-top-style: groove; border-top-color: rgb(239, 239, 239); border-bottom-width: 2px; border-left-width: 2px"},
	{"figcaption", "", "display: block; unicode-bidi: isolate"},
	{"figure", "", "display: block; unicode-bidi: isolate"},
	{"font", `color="red"`, "color: rgb(255, 0, 0); border-top-color: rgb(255, 0, 0)"},
	{"font", `size="5"`, "font-size: 24px"},
	{"font", `face="Arial"`, "font-family: Arial"},
	{"footer", "", "display: block; unicode-bidi: isolate"},
	{"form", "", "display: block; unicode-bidi: isolate"},
	{"h1", "", "display: block; font-size: 32px; font-weight: 700; unicode-bidi: isolate"},
	{"h2", "", "display: block; font-size: 24px; font-weight: 700; unicode-bidi: isolate"},
	{"h3", "", "display: block; font-size: 18.72px; font-weight: 700; unicode-bidi: isolate"},
	{"h4", "", "display: block; font-weight: 700; unicode-bidi: isolate"},
	{"h5", "", "display: block; font-size: 13.28px; font-weight: 700; unicode-bidi: isolate"},
	{"h6", "", "display: block; font-size: 10.72px; font-weight: 700; unicode-bidi: isolate"},
	{"h1", `align="right"`, "display: block; font-size: 32px; font-weight: 700; text-align: right; unicode-bidi: isolate"},
	{"header", "", "display: block; unicode-bidi: isolate"},
	{"hr", "", "display: block; color: rgb(128, 128, 128); border-top-width: 1px; border-top-style: inset; border-top-color: rgb(128, 128, 128); border-bottom-width: 1px; border-left-width: 1px; overflow-x: hidden; overflow-y: hidden; unicode-bidi: isolate"},
	{"hr", "noshade", "display: block; color: rgb(128, 128, 128); background-color: rgb(128, 128, 128); border-top-width: 1px; border-top-style: solid; border-top-color: rgb(128, 128, 128); border-bottom-width: 1px; border-left-width: 1px; overflow-x: hidden; overflow-y: hidden; unicode-bidi: isolate"},
	{"hr", `size="1"`, "display: block; color: rgb(128, 128, 128); border-top-width: 1px; border-top-style: inset; border-top-color: rgb(128, 128, 128); border-left-width: 1px; overflow-x: hidden; overflow-y: hidden; unicode-bidi: isolate"},
	{"hr", `color="red"`, "display: block; color: rgb(128, 128, 128); background-color: rgb(255, 0, 0); border-top-width: 1px; border-top-style: solid; border-top-color: rgb(255, 0, 0); border-bottom-width: 1px; border-left-width: 1px; overflow-x: hidden; overflow-y: hidden; unicode-bidi: isolate"},
	{"hr", `align="left"`, "display: block; color: rgb(128, 128, 128); border-top-width: 1px; border-top-style: inset; border-top-color: rgb(128, 128, 128); border-bottom-width: 1px; border-left-width: 1px; overflow-x: hidden; overflow-y: hidden; unicode-bidi: isolate"},
	{"i", "", "font-style: italic"},
	{"iframe", "", "border-top-width: 2px; border-top-style: inset; border-bottom-width: 2px; border-left-width: 2px; overflow-x: clip; overflow-y: clip"},
	{"iframe", `frameborder="0"`, "border-top-style: inset; overflow-x: clip; overflow-y: clip"},
	{"img", "", "overflow-x: clip; overflow-y: clip"},
	{"img", `align="left"`, "display: block; vertical-align: top; overflow-x: clip; overflow-y: clip; float: left"},
	{"img", `border="2"`, "border-top-width: 2px; border-top-style: solid; border-bottom-width: 2px; border-left-width: 2px; overflow-x: clip; overflow-y: clip"},
	{"img", `hspace="3"`, "overflow-x: clip; overflow-y: clip"},
	{"input", "", "display: inline-block; background-color: rgb(255, 255, 255); font-family: Arial; font-size: 13.3333px; border-top-width: 2px; border-top-style: inset; border-top-color: rgb(118, 118, 118); border-bottom-width: 2px; border-left-width: 2px; cursor: text; overflow-x: clip; overflow-y: clip; appearance: auto"},
	{"input", `type="text"`, "display: inline-block; background-color: rgb(255, 255, 255); font-family: Arial; font-size: 13.3333px; border-top-width: 2px; border-top-style: inset; border-top-color: rgb(118, 118, 118); border-bottom-width: 2px; border-left-width: 2px; cursor: text; overflow-x: clip; overflow-y: clip; appearance: auto"},
	{"input", `type="password"`, "display: inline-block; background-color: rgb(255, 255, 255); font-family: Arial; font-size: 13.3333px; border-top-width: 2px; border-top-style: inset; border-top-color: rgb(118, 118, 118); border-bottom-width: 2px; border-left-width: 2px; cursor: text; overflow-x: clip; overflow-y: clip; appearance: auto"},
	{"input", `type="email"`, "display: inline-block; background-color: rgb(255, 255, 255); font-family: Arial; font-size: 13.3333px; border-top-width: 2px; border-top-style: inset; border-top-color: rgb(118, 118, 118); border-bottom-width: 2px; border-left-width: 2px; cursor: text; overflow-x: clip; overflow-y: clip; appearance: auto"},
	{"input", `type="search"`, "display: inline-block; background-color: rgb(255, 255, 255); font-family: Arial; font-size: 13.3333px; border-top-width: 2px; border-top-style: inset; border-top-color: rgb(118, 118, 118); border-bottom-width: 2px; border-left-width: 2px; cursor: text; overflow-x: clip; overflow-y: clip; box-sizing: border-box; appearance: auto"},
	{"input", `type="number"`, "display: inline-block; background-color: rgb(255, 255, 255); font-family: Arial; font-size: 13.3333px; border-top-width: 2px; border-top-style: inset; border-top-color: rgb(118, 118, 118); border-bottom-width: 2px; border-left-width: 2px; cursor: text; overflow-x: clip; overflow-y: clip; appearance: auto"},
	{"input", `type="checkbox"`, "display: inline-block; font-family: Arial; font-size: 13.3333px; cursor: default; box-sizing: border-box; appearance: auto"},
	{"input", `type="radio"`, "display: inline-block; font-family: Arial; font-size: 13.3333px; border-top-left-radius: 50%; cursor: default; box-sizing: border-box; appearance: auto"},
	{"input", `type="range"`, "display: inline-block; color: rgb(157, 150, 142); background-color: rgb(255, 255, 255); font-family: Arial; font-size: 13.3333px; border-top-color: rgb(157, 150, 142); cursor: default; appearance: auto"},
	{"input", `type="color"`, "display: inline-block; background-color: rgb(239, 239, 239); font-family: Arial; font-size: 13.3333px; border-top-width: 1px; border-top-style: solid; border-bottom-width: 1px; border-left-width: 1px; cursor: default; overflow-x: clip; overflow-y: clip; box-sizing: border-box; appearance: auto"},
	{"input", `type="date"`, "display: inline-block; background-color: rgb(255, 255, 255); font-family: monospace; font-size: 13.3333px; border-top-width: 2px; border-top-style: inset; border-top-color: rgb(118, 118, 118); border-bottom-width: 2px; border-left-width: 2px; cursor: default; overflow-x: clip; overflow-y: clip; appearance: auto"},
	{"input", `type="file"`, "display: inline-block; font-family: Arial; font-size: 13.3333px; white-space-collapse: preserve; text-wrap-mode: nowrap; cursor: default; overflow-x: clip; overflow-y: clip; align-items: baseline"},
	{"input", `type="hidden"`, "display: none; font-family: Arial; font-size: 13.3333px; cursor: default; overflow-x: clip; overflow-y: clip"},
	{"input", `type="submit"`, "display: inline-block; background-color: rgb(239, 239, 239); font-family: Arial; font-size: 13.3333px; text-align: center; white-space-collapse: preserve; text-wrap-mode: nowrap; border-top-width: 2px; border-top-style: outset; border-bottom-width: 2px; border-left-width: 2px; cursor: default; overflow-x: clip; overflow-y: clip; box-sizing: border-box; appearance: auto; user-select: none"},
	{"input", `type="reset"`, "display: inline-block; background-color: rgb(239, 239, 239); font-family: Arial; font-size: 13.3333px; text-align: center; white-space-collapse: preserve; text-wrap-mode: nowrap; border-top-width: 2px; border-top-style: outset; border-bottom-width: 2px; border-left-width: 2px; cursor: default; overflow-x: clip; overflow-y: clip; box-sizing: border-box; appearance: auto; user-select: none"},
	{"input", `type="button"`, "display: inline-block; background-color: rgb(239, 239, 239); font-family: Arial; font-size: 13.3333px; text-align: center; white-space-collapse: preserve; text-wrap-mode: nowrap; border-top-width: 2px; border-top-style: outset; border-bottom-width: 2px; border-left-width: 2px; cursor: default; overflow-x: clip; overflow-y: clip; box-sizing: border-box; appearance: auto; user-select: none"},
	{"input", `type="image"`, "display: inline-block; font-family: Arial; font-size: 13.3333px; cursor: pointer; overflow-x: clip; overflow-y: clip"},
	{"input", "disabled", "display: inline-block; color: rgb(84, 84, 84); background-color: rgba(239, 239, 239, 0.3); font-family: Arial; font-size: 13.3333px; border-top-width: 2px; border-top-style: inset; border-top-color: rgba(118, 118, 118, 0.3); border-bottom-width: 2px; border-left-width: 2px; cursor: default; overflow-x: clip; overflow-y: clip; appearance: auto"},
	{"input", "readonly", "display: inline-block; background-color: rgb(255, 255, 255); font-family: Arial; font-size: 13.3333px; border-top-width: 2px; border-top-style: inset; border-top-color: rgb(118, 118, 118); border-bottom-width: 2px; border-left-width: 2px; cursor: text; overflow-x: clip; overflow-y: clip; appearance: auto"},
	{"ins", "", "text-decoration-line: underline"},
	{"kbd", "", "font-family: monospace; font-size: 13px"},
	{"label", "", "cursor: default"},
	{"legend", "", "display: block; unicode-bidi: isolate"},
	{"li", "", "display: list-item; unicode-bidi: isolate"},
	{"li", `type="a"`, "display: list-item; list-style-type: lower-alpha; unicode-bidi: isolate"},
	{"link", "", "display: none"},
	{"main", "", "display: block; unicode-bidi: isolate"},
	{"map", "", ""},
	{"mark", "", "background-color: rgb(255, 255, 0)"},
	{"marquee", "", "display: inline-block; text-wrap-mode: nowrap; overflow-x: hidden; overflow-y: hidden"},
	{"menu", "", "display: block; unicode-bidi: isolate"},
	{"meta", "", "display: none"},
	{"meter", "", "display: inline-block; vertical-align: -3.2px; box-sizing: border-box; appearance: auto"},
	{"nav", "", "display: block; unicode-bidi: isolate"},
	{"nobr", "", "text-wrap-mode: nowrap"},
	{"noscript", "", ""},
	{"object", "", "overflow-x: clip; overflow-y: clip"},
	{"ol", "", "display: block; list-style-type: decimal; unicode-bidi: isolate"},
	{"ol", `type="a"`, "display: block; list-style-type: lower-alpha; unicode-bidi: isolate"},
	{"ol", `type="I"`, "display: block; list-style-type: upper-roman; unicode-bidi: isolate"},
	{"ol", `start="3"`, "display: block; list-style-type: decimal; unicode-bidi: isolate"},
	{"optgroup", "", "display: block; font-weight: 700"},
	{"option", "", "display: block; text-wrap-mode: nowrap"},
	{"option", "disabled", "display: block; color: rgb(128, 128, 128); text-wrap-mode: nowrap; border-top-color: rgb(128, 128, 128)"},
	{"output", "", "unicode-bidi: isolate"},
	{"p", "", "display: block; unicode-bidi: isolate"},
	{"p", `align="center"`, "display: block; text-align: -webkit-center; unicode-bidi: isolate"},
	{"picture", "", ""},
	{"plaintext", "", "display: block; font-family: monospace; font-size: 13px; white-space-collapse: preserve; text-wrap-mode: nowrap; unicode-bidi: isolate"},
	{"param", "", "display: none"},
	{"pre", "", "display: block; font-family: monospace; font-size: 13px; white-space-collapse: preserve; text-wrap-mode: nowrap; unicode-bidi: isolate"},
	{"pre", "wrap", "display: block; font-family: monospace; font-size: 13px; white-space-collapse: preserve; unicode-bidi: isolate"},
	{"progress", "", "display: inline-block; vertical-align: -3.2px; box-sizing: border-box; appearance: auto"},
	{"q", "", ""},
	{"rp", "", "display: none"},
	{"rt", "", ""},
	{"ruby", "", "display: ruby"},
	{"s", "", "text-decoration-line: line-through"},
	{"samp", "", "font-family: monospace; font-size: 13px"},
	{"script", "", "display: none"},
	{"search", "", "display: block; unicode-bidi: isolate"},
	{"section", "", "display: block; unicode-bidi: isolate"},
	{"select", "", "display: inline-block; background-color: rgb(239, 239, 239); font-family: Arial; font-size: 13.3333px; white-space-collapse: preserve; text-wrap-mode: nowrap; border-top-width: 1px; border-top-style: solid; border-top-color: rgb(118, 118, 118); border-bottom-width: 1px; border-left-width: 1px; cursor: default; overflow-x: clip; overflow-y: clip; box-sizing: border-box; appearance: auto; align-items: center"},
	{"select", "multiple", "display: inline-block; background-color: rgb(255, 255, 255); font-family: Arial; font-size: 13.3333px; vertical-align: text-bottom; text-wrap-mode: nowrap; border-top-width: 1px; border-top-style: solid; border-top-color: rgb(118, 118, 118); border-bottom-width: 1px; border-left-width: 1px; border-top-left-radius: 2px; cursor: default; overflow-x: hidden; overflow-y: scroll; box-sizing: border-box; appearance: auto; align-items: flex-start"},
	{"select", `size="3"`, "display: inline-block; background-color: rgb(255, 255, 255); font-family: Arial; font-size: 13.3333px; vertical-align: text-bottom; text-wrap-mode: nowrap; border-top-width: 1px; border-top-style: solid; border-top-color: rgb(118, 118, 118); border-bottom-width: 1px; border-left-width: 1px; border-top-left-radius: 2px; cursor: default; overflow-x: hidden; overflow-y: scroll; box-sizing: border-box; appearance: auto; align-items: flex-start"},
	{"slot", "", "display: contents"},
	{"small", "", "font-size: 13.3333px"},
	{"source", "", ""},
	{"span", "", ""},
	{"span", `translate="no"`, ""},
	{"strike", "", "text-decoration-line: line-through"},
	{"strong", "", "font-weight: 700"},
	{"style", "", "display: none"},
	{"sub", "", "font-size: 13.3333px; vertical-align: sub"},
	{"summary", "", "display: block; unicode-bidi: isolate"},
	{"sup", "", "font-size: 13.3333px; vertical-align: super"},
	{"table", "", "display: table; border-spacing: 2px; unicode-bidi: isolate; box-sizing: border-box"},
	{"table", `border="1"`, "display: table; border-top-width: 1px; border-top-style: outset; border-bottom-width: 1px; border-left-width: 1px; border-spacing: 2px; unicode-bidi: isolate; box-sizing: border-box"},
	{"table", `cellpadding="4"`, "display: table; border-spacing: 2px; unicode-bidi: isolate; box-sizing: border-box"},
	{"table", `cellspacing="3"`, "display: table; border-spacing: 3px; unicode-bidi: isolate; box-sizing: border-box"},
	{"table", `bgcolor="red"`, "display: table; background-color: rgb(255, 0, 0); border-spacing: 2px; unicode-bidi: isolate; box-sizing: border-box"},
	{"table", `align="center"`, "display: table; border-spacing: 2px; unicode-bidi: isolate; box-sizing: border-box"},
	{"table", `align="right"`, "display: table; border-spacing: 2px; unicode-bidi: isolate; float: right; box-sizing: border-box"},
	{"table", `rules="all"`, "display: table; border-top-style: hidden; border-collapse: collapse; border-spacing: 2px; unicode-bidi: isolate; box-sizing: border-box"},
	{"table", `frame="box"`, "display: table; border-top-width: 1px; border-top-style: solid; border-bottom-width: 1px; border-left-width: 1px; border-spacing: 2px; unicode-bidi: isolate; box-sizing: border-box"},
	{"template", "", "display: none"},
	{"textarea", "", "display: inline-block; background-color: rgb(255, 255, 255); font-family: monospace; font-size: 13.3333px; white-space-collapse: preserve; border-top-width: 1px; border-top-style: solid; border-top-color: rgb(118, 118, 118); border-bottom-width: 1px; border-left-width: 1px; cursor: text; overflow-x: auto; overflow-y: auto; appearance: auto; resize: both"},
	{"textarea", "disabled", "display: inline-block; color: rgb(84, 84, 84); background-color: rgba(239, 239, 239, 0.3); font-family: monospace; font-size: 13.3333px; white-space-collapse: preserve; border-top-width: 1px; border-top-style: solid; border-top-color: rgba(118, 118, 118, 0.3); border-bottom-width: 1px; border-left-width: 1px; cursor: default; overflow-x: auto; overflow-y: auto; appearance: auto; resize: both"},
	{"textarea", `wrap="off"`, "display: inline-block; background-color: rgb(255, 255, 255); font-family: monospace; font-size: 13.3333px; white-space-collapse: preserve; text-wrap-mode: nowrap; border-top-width: 1px; border-top-style: solid; border-top-color: rgb(118, 118, 118); border-bottom-width: 1px; border-left-width: 1px; cursor: text; overflow-x: auto; overflow-y: auto; appearance: auto; resize: both"},
	{"time", "", ""},
	{"title", "", "display: none"},
	{"track", "", ""},
	{"tt", "", "font-family: monospace; font-size: 13px"},
	{"u", "", "text-decoration-line: underline"},
	{"ul", "", "display: block; unicode-bidi: isolate"},
	{"ul", `type="square"`, "display: block; list-style-type: square; unicode-bidi: isolate"},
	{"var", "", "font-style: italic"},
	{"video", "", "overflow-x: clip; overflow-y: clip; object-fit: contain"},
	{"wbr", "", ""},
	{"xmp", "", "display: block; font-family: monospace; font-size: 13px; white-space-collapse: preserve; text-wrap-mode: nowrap; unicode-bidi: isolate"},
	{"x-a", "", ""},
	{"x-a", "hidden", "display: none"},
	{"div", `hidden="until-found"`, "display: block; unicode-bidi: isolate"},
	{"div", "popover", "display: none; background-color: rgb(255, 255, 255); border-top-width: 3px; border-top-style: solid; border-bottom-width: 3px; border-left-width: 3px; overflow-x: auto; overflow-y: auto; unicode-bidi: isolate; position: fixed"},
	{"div", "contenteditable", "display: block; unicode-bidi: isolate"},
}

// TestElements holds what elements are by themselves, and what their attributes do, against what a browser printed.
func TestElements(t *testing.T) {
	held := 0
	for _, c := range elements {
		p := readPage(t, "<!doctype html><body><div id=host><x-plain></x-plain><"+c.tag+" "+c.attribute+"></"+c.tag+"></div>", css.Medium{}, nil)
		sel, err := css.ParseSelector("#host > " + c.tag + ":last-child")
		if err != nil {
			t.Fatal(err)
		}
		nodes := p.Nodes(sel)
		if len(nodes) != 1 {
			continue // the parser puts it elsewhere: a row of a table, for example
		}
		held++
		var got []string
		for _, name := range elementProperties {
			is, _ := p.Computed(nodes[0], name)
			if is != of(t, p, "x-plain", name) {
				got = append(got, name+": "+is)
			}
		}
		if g := strings.Join(got, "; "); g != c.want {
			t.Errorf("<%s %s>\n got %s\nwant %s", c.tag, c.attribute, g, c.want)
		}
	}
	if held < 130 {
		t.Errorf("only %d are held", held)
	}
}
