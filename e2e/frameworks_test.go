package e2e

import (
	"fmt"
	"html"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
)

// sink is markup with every element that pages have.
const sink = `<header class="header"><nav class="navbar nav"><a class="navbar-brand" href="#">Tern &amp; Tide</a><ul class="nav menu"><li class="nav-item active"><a class="nav-link" href="/times">Times</a></li><li><a href="#x">Trips</a></li></ul></nav></header>
<main class="container main"><section class="section"><h1>Island timetable</h1><h2>Crossings</h2><h3>Piers</h3><h4>Skerry Point</h4><h5>Long Sound</h5><h6>Quay</h6>
<p class="lead">Ferries <strong>sail</strong> <em>daily</em>, <small>if the wind</small> <mark>allows</mark>. <a href="https://ferry.example/">Book <b>now</b></a>, <abbr title="Estimated time">ETA</abbr> <code>08:15</code> <kbd>Ctrl</kbd> <samp>ok</samp> <sub>2</sub> <sup>nd</sup> <del>old</del> <ins>new</ins> <u>under</u> <s>struck</s> <i>i</i> <var>x</var> <cite>c</cite> <q>quoted</q> <dfn>d</dfn> <time>9</time> <bdo dir="rtl">rtl</bdo> <big>big</big> <tt>tt</tt></p>
<blockquote class="blockquote"><p>Wind and water.</p><footer>Captain</footer></blockquote><pre><code>pre code</code></pre><hr>
<ul><li>One<ul><li>Two<ul><li>Three</li></ul></li></ul></li></ul><ol><li>One<ol type="a"><li>a</li></ol></li></ol><dl><dt>Pier</dt><dd>Two</dd></dl><address>Quay 1</address>
<figure class="figure"><img src="x.png" alt="" width="40" height="30"><figcaption>Boat</figcaption></figure>
<table class="table table-striped" border="1" cellpadding="4"><caption>Fares</caption><colgroup><col width="20"></colgroup><thead><tr><th>To</th><th align="right">Fare</th></tr></thead><tbody><tr><td>Pier</td><td nowrap>12</td></tr><tr class="active"><td colspan="2">x</td></tr></tbody><tfoot><tr><td>s</td><td>t</td></tr></tfoot></table>
<form class="form"><fieldset><legend>Trip</legend><label class="label form-label" for="n">Name</label><input class="input form-control" id="n" type="text" placeholder="Ada"><input type="email" required><input type="password"><input type="number" value="2"><input type="search"><input type="date"><input type="checkbox" checked><input type="radio"><input type="range"><input type="file"><input type="color"><input type="submit" value="Go"><input type="reset"><input type="button" value="b" disabled><input type="hidden"><input disabled>
<select class="select form-select"><optgroup label="g"><option>One</option><option selected>Two</option></optgroup></select><select multiple><option>m</option></select><textarea class="textarea">Text</textarea><button class="btn button btn-primary is-primary" type="submit">Pay</button><button disabled>No</button><progress value="0.5"></progress><meter value="0.4"></meter><output>o</output></fieldset></form>
<details open><summary>More</summary><p>Inside</p></details><details><summary>Closed</summary></details><dialog open class="modal">d</dialog><div hidden>h</div><center>c</center><font color="#a0b" size="5" face="Arial">f</font>
<svg width="40" height="20" viewBox="0 0 40 20" fill="none"><g stroke="red" stroke-width="2"><circle cx="5" cy="5" r="4" fill="currentColor"/><path d="M0 0h9" opacity=".5"/></g><text x="2" y="9">t</text></svg>
<video></video><audio controls></audio><iframe></iframe><canvas></canvas><object></object><div class="row"><div class="col col-6 column">a</div><div class="col column is-half">b</div></div><div style="color: rgb(10 20 30 / 50%); margin-inline: 1rem auto; --x: 4px; padding: calc(var(--x) * 2) max(1em, 3px)"><span style="all: unset; font: italic 700 1.2em/1.4 Georgia, serif">all</span></div>
</section></main><footer class="footer"><p>End</p></footer>`

var compoundPart = regexp.MustCompile(`(^[a-zA-Z][a-zA-Z0-9]*)|\.((?:[\w-]|\\.)+)|#((?:[\w-]|\\.)+)|\[([\w-]+)(?:[~|^$*]?=["']?([^"'\]]*)["']?)?[^\]]*\]`)

// elementsFor is markup with an element for each selector of a sheet, inside one another as the selector wants.
func elementsFor(sheet string, most int) string {
	var b strings.Builder
	seen := map[string]bool{}
	for _, m := range regexp.MustCompile(`(?s)([^{}@;/]+)\{[^{}]*\}`).FindAllStringSubmatch(sheet, -1) {
		for _, sel := range strings.Split(m[1], ",") {
			sel = regexp.MustCompile(`::?[\w-]+(\([^()]*\))?`).ReplaceAllString(strings.TrimSpace(sel), "")
			if sel == "" || seen[sel] || len(seen) >= most || strings.ContainsAny(sel, "()%") {
				continue
			}
			seen[sel] = true
			end := ""
			for _, c := range strings.FieldsFunc(sel, func(r rune) bool { return r == ' ' || r == '>' || r == '+' || r == '~' }) {
				tag, attrs, classes := "div", "", ""
				for _, p := range compoundPart.FindAllStringSubmatch(c, -1) {
					switch {
					case p[1] != "":
						tag = strings.ToLower(p[1])
					case p[2] != "":
						classes += " " + strings.ReplaceAll(p[2], `\`, "")
					case p[3] != "":
						attrs += fmt.Sprintf(` id="%s"`, html.EscapeString(p[3]))
					case p[4] != "" && p[4] != "class" && p[4] != "style":
						attrs += fmt.Sprintf(` %s="%s"`, p[4], html.EscapeString(p[5]))
					}
				}
				switch tag {
				case "html", "body", "head", "from", "to", "script", "style", "title", "template", "noscript", "plaintext", "frameset", "frame", "iframe", "textarea", "xmp", "noembed", "noframes":
					continue
				}
				if classes != "" {
					attrs += fmt.Sprintf(` class="%s"`, html.EscapeString(strings.TrimSpace(classes)))
				}
				fmt.Fprintf(&b, "<%s%s>", tag, attrs)
				switch tag {
				case "input", "img", "br", "hr", "col", "area", "link", "meta", "source", "embed":
				default:
					end = "</" + tag + ">" + end
				}
			}
			b.WriteString("x" + end + "\n")
		}
	}
	return b.String()
}

// frameworks are style sheets of npm packages, by path in node_modules.
var frameworks = []string{"bootstrap/dist/css/bootstrap.css", "bulma/css/bulma.css", "foundation-sites/dist/css/foundation.css", "uikit/dist/css/uikit.css",
	"@picocss/pico/css/pico.css", "purecss/build/pure.css", "materialize-css/dist/css/materialize.css", "tachyons/css/tachyons.css", "spectre.css/dist/spectre.css", "milligram/dist/milligram.css",
	"@primer/css/dist/primer.css", "water.css/out/water.css", "semantic-ui-css/semantic.css", "normalize.css/normalize.css"}

// frameworkPages are pages made of unmodified style sheets: the sink, and an element for each selector.
func frameworkPages(t testing.TB, most int) (files []string) {
	t.Helper()
	node := needNode(t)
	dir := t.TempDir()
	for _, f := range frameworks {
		path := filepath.Join(node, "node_modules", f)
		data, err := os.ReadFile(path)
		if err != nil {
			continue
		}
		name := strings.Split(strings.TrimPrefix(f, "@"), "/")[0] + ".html"
		write(t, dir, name, fmt.Sprintf("<!doctype html>\n<html lang=en><head><meta charset=utf-8><title>%s</title><link rel=stylesheet href=\"file://%s\"></head><body>%s%s</body></html>",
			name, path, sink, elementsFor(string(data), most)))
		files = append(files, filepath.Join(dir, name))
	}
	return files
}
