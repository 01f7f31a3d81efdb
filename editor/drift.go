package editor

import (
	"strings"

	"archetyp/core/drift"
)

// findDrift holds the site of the configuration against the drawings, and shows what differs in open style sheets.
func (sp *space) findDrift() {
	a := sp.now(sp.s.ctx)
	if a == nil {
		return
	}
	list, err := a.Drift(sp.s.ctx)
	if err != nil {
		sp.s.logf("comparing the site of %s: %v", sp.dir, err)
		return
	}
	byFile := map[string][]drift.Difference{}
	for _, d := range list {
		byFile[d.Cause.Place.File] = append(byFile[d.Cause.Place.File], d)
	}
	sp.mu.Lock()
	had := len(sp.drifts) > 0
	sp.drifts = byFile
	sp.mu.Unlock()
	if had || len(byFile) > 0 {
		sp.publishAll()
	}
}

// driftsIn are the differences of a style sheet at their declarations, where these still stand where they were.
func (sp *space) driftsIn(o *openFile, e encoding) (out []diagnostic) {
	sp.mu.Lock()
	list := sp.drifts[o.rel()]
	sp.mu.Unlock()
	for i := range list {
		d := &list[i]
		at := o.text.at(d.Cause.Place.Line, d.Cause.Place.Column)
		rest := o.text.string[min(at, len(o.text.string)):]
		property := d.Cause.Property
		if property == "" || !strings.HasPrefix(strings.ToLower(rest), strings.ToLower(property)) {
			if d.Cause.Selector == "" || !strings.HasPrefix(rest, d.Cause.Selector) { // of a rule that lacks something
				continue
			}
			property = d.Cause.Selector
		}
		g := diagnostic{Severity: severity(d.Level), Code: d.Kind.Rule(), Source: "archetyp", Message: d.Message + ". " + d.Do()}
		from, to := at, at+len(property)
		if d.Edit != nil && d.Edit.Was != "" && d.Edit.Is != "" {
			if k := strings.Index(rest, d.Edit.Was); k >= 0 && k < strings.IndexAny(rest+";", ";}") {
				from, to = at+k, at+k+len(d.Edit.Was)
				g.Data = &mend{d.Edit.Is, "Write " + d.Edit.Is + ", as designed"}
			}
		}
		g.Range = o.text.span(from, to, e)
		out = append(out, g)
	}
	return out
}
