package editor

import (
	"context"
	"fmt"
	"path"
	"slices"
	"strings"

	"archetyp/core/asset"
	"archetyp/core/lint"
	"archetyp/core/styletext"
)

// actions are what can be done at a place: mending what was found, focusing the element that is meant, making the
// picture that a path names.
func actions(ctx context.Context, c *call, p *struct {
	TextDocument textDocument `json:"textDocument"`
	Range        lspRange     `json:"range"`
	Context      struct {
		Only []string `json:"only"`
	} `json:"context"`
}) (any, error) {
	out := []codeAction{}
	o := c.open(ctx, p.TextDocument.URI)
	if o == nil || o.code == nil {
		return out, nil
	}
	e := c.client.encoding
	from, to := o.text.offset(p.Range.Start, e), o.text.offset(p.Range.End, e)
	c.caretAt(o, from)
	if !o.a.Generated(o.rel()) {
		out = append(out, c.mends(o, from, to)...)
	}
	out = append(out, c.focusing(o, from)...)
	out = append(out, c.makingPicture(ctx, o, from)...)
	return slices.DeleteFunc(out, func(a codeAction) bool {
		return len(p.Context.Only) > 0 && !slices.ContainsFunc(p.Context.Only, func(k string) bool {
			return a.Kind == k || strings.HasPrefix(a.Kind, k+".")
		})
	}), nil
}

// mends are the replacements of what was found between two bytes, and that of all in the document.
func (c *call) mends(o *openFile, from, to int) (out []codeAction) {
	var all []textEdit
	rules := map[string][]textEdit{}
	here := map[string]bool{}
	for _, f := range o.sp.findings(o, 0) {
		if f.Replace == "" {
			continue
		}
		edit := textEdit{o.text.span(f.From, f.To, c.client.encoding), f.Replace}
		rules[f.Rule] = append(rules[f.Rule], edit)
		if f.Rule == "raw-value" || f.Rule == "deprecated-token" { // what shows stays as it is
			all = append(all, edit)
		}
		if f.To < from || f.From > to {
			continue
		}
		here[f.Rule] = true
		out = append(out, codeAction{Title: f.Title, Kind: "quickfix", IsPreferred: f.Rule == "raw-value", Edit: c.edit(o.document, []textEdit{edit}),
			Diagnostics: []diagnostic{{Range: edit.Range, Severity: severity(f.Level), Code: f.Rule, Source: "archetyp", Message: f.Msg}}})
	}
	for _, r := range lint.Rules {
		if n := len(rules[r.Name]); here[r.Name] && n > 1 {
			out = append(out, codeAction{Title: fmt.Sprintf("Mend all %d of %s in this file", n, r.Name), Kind: "quickfix",
				Edit: c.edit(o.document, rules[r.Name])})
		}
	}
	if len(all) > 0 {
		out = append(out, codeAction{Title: fmt.Sprintf("Write tokens for all %d values of this file that are one", len(all)),
			Kind: "source.fixAll", Edit: c.edit(o.document, all)})
	}
	return out
}

// edit is an edit of one document.
func (c *call) edit(d *document, edits []textEdit) *workspaceEdit {
	return c.edits(map[string][]textEdit{d.uri: edits})
}

// edits are edits of documents by URI, with their versions where the client takes those.
func (c *call) edits(byURI map[string][]textEdit) *workspaceEdit {
	if !c.client.changes {
		return &workspaceEdit{Changes: byURI}
	}
	w := &workspaceEdit{}
	for _, uri := range sortedKeys(byURI) {
		v := versioned{URI: uri}
		if d := c.docs[uri]; d != nil {
			v.Version = &d.version
		}
		w.DocumentChanges = append(w.DocumentChanges, documentEdit{v, byURI[uri]})
	}
	return w
}

// mostActions is how many elements one name is offered to focus.
const mostActions = 4

// focusing offers to focus the elements that a class, an id or a rule's selector names.
func (c *call) focusing(o *openFile, offset int) (out []codeAction) {
	name := o.target(offset).class
	if name == "" {
		p := o.code().At(offset)
		if p.Rule < 0 || p.Kind == styletext.Class {
			return nil
		}
		name = lastName(o.code().Rules[p.Rule].Selector)
	}
	if name == "" {
		return nil
	}
	for i, p := range o.a.Called(name) {
		if i == mostActions {
			break
		}
		title := p.Path[strings.LastIndexByte(p.Path, '/')+1:]
		if p.State != "" {
			title += ", " + p.State
		}
		out = append(out, codeAction{Title: fmt.Sprintf("Focus %s (%s)", title, p.Source), Kind: "refactor",
			Command: &command{"Focus " + title, focusElement, []any{focusRequest{o.uri, p.Source, p.Index}}}})
	}
	return out
}

// lastName is the last class or id of a selector; "" for none.
func lastName(selector string) string {
	i := strings.LastIndexAny(selector, ".#")
	if i < 0 {
		return ""
	}
	name := selector[i+1:]
	if end := strings.IndexAny(name, " :>+~,[()"); end >= 0 {
		name = name[:end]
	}
	return name
}

// makingPicture offers to make the pictures that a path names of the focused elements: those that are not there, or all
// of them again.
func (c *call) makingPicture(ctx context.Context, o *openFile, offset int) []codeAction {
	p := o.code().At(offset)
	isPath := p.Kind == styletext.Value && p.Function == "url" || p.Kind == styletext.Attribute && (p.Name == "src" || p.Name == "srcset" || p.Name == "poster")
	f, own := o.sp.focused(ctx, o.a, string(o.code().Language))
	if !isPath || len(own) == 0 {
		return nil
	}
	of := own[0].Element.Title()
	if len(own) > 1 {
		of = fmt.Sprintf("the %d focused elements", len(own))
	}
	var missing, there pictureRequest
	var named, again []string
	for _, part := range strings.Split(o.text.string[p.From:p.To], ",") {
		file, _, _ := strings.Cut(strings.TrimSpace(part), " ")
		rel := o.fileOf(file)
		if _, ok := asset.FormatOf(path.Ext(file)); !ok || rel == "" || o.a.Generated(rel) {
			continue
		}
		if o.sp.has(rel) {
			there.Files, again = append(there.Files, rel), append(again, file)
		} else {
			missing.Files, named = append(missing.Files, rel), append(named, file)
		}
	}
	var out []codeAction
	add := func(title string, q pictureRequest, kind string) {
		q.URI, q.Source, q.Selector = o.uri, f.Source, f.Selector
		out = append(out, codeAction{Title: title, Kind: kind, Command: &command{title, makePicture, []any{q}}})
	}
	if len(named) > 0 {
		add(fmt.Sprintf("Make %s of %s", strings.Join(named, ", "), of), missing, "quickfix")
	}
	if len(again) > 0 {
		there.Again = true
		add(fmt.Sprintf("Make %s again of %s", strings.Join(again, ", "), of), there, "refactor")
	}
	return out
}
