package editor

import (
	"fmt"
	"sync"

	"archetyp/core/audit"
	"archetyp/core/lint"
	"archetyp/job"
)

// publish looks a document over and sends what was found, unless the document has changed meanwhile.
func (sp *space) publish(d *document) {
	defer func() {
		if r := recover(); r != nil {
			sp.s.logf("looking over %s: %v", d.uri, r)
		}
	}()
	a := sp.now(sp.s.ctx)
	if a == nil || !sp.s.current(d) {
		return
	}
	found := sp.diagnostics(&openFile{d, sp, a}, sp.s.call().client.encoding)
	if !sp.s.current(d) || sp.s.ctx.Err() != nil {
		return
	}
	_ = sp.s.conn.Notify(sp.s.ctx, "textDocument/publishDiagnostics", publishDiagnostics{d.uri, &d.version, found})
}

// current reports whether a document is open as it is.
func (s *Server) current(d *document) bool {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.docs[d.uri] == d
}

// publishAll looks all open documents of a workspace over.
func (sp *space) publishAll() {
	for _, d := range sp.s.call().docs {
		if _, inside := sp.rel(d.file); inside && d.file != "" && sp.s.ctx.Err() == nil {
			sp.publish(d)
		}
	}
}

// diagnostics are the findings in a document.
func (sp *space) diagnostics(o *openFile, e encoding) []diagnostic {
	out := []diagnostic{}
	if o.a.Generated(o.rel()) {
		level := o.a.Lint(nil).Level("generated-file")
		if level != audit.Off && !o.a.AsWritten(o.rel(), []byte(o.text.string)) {
			end, _ := o.text.line(0)
			out = append(out, diagnostic{Range: o.text.span(0, len(end), e), Severity: severity(level), Code: "generated-file", Source: "archetyp",
				Message: o.rel() + " is generated: sync stops at edits of it. Change the tokens, or take the edits over with \"archetyp tokens absorb\"."})
		}
		return out
	}
	if o.code == nil {
		for _, f := range sp.faults(o) {
			at := o.text.at(f.Line, f.Column)
			s, start := o.text.line(f.Line - 1)
			severe := severityError
			if f.Warning {
				severe = severityWarning
			}
			out = append(out, diagnostic{Range: o.text.span(at, max(at, start+len(s)), e), Severity: severe, Code: "fault", Source: "archetyp", Message: f.Msg})
		}
		return out
	}
	out = append(out, sp.driftsIn(o, e)...)
	for _, f := range sp.findings(o, mostFindings+1) {
		g := diagnostic{Range: o.text.span(f.From, f.To, e), Severity: severity(f.Level), Code: f.Rule, Source: "archetyp", Message: f.Msg}
		if f.Replace != "" {
			g.Data = &mend{f.Replace, f.Title}
		}
		if f.Rule == "deprecated-token" {
			g.Tags = []int{2}
		}
		out = append(out, g)
		if len(out) == mostFindings {
			out = append(out, diagnostic{Range: o.text.span(f.To, f.To, e), Severity: severityInfo, Source: "archetyp",
				Message: fmt.Sprintf("there may be more findings than these %d", mostFindings)})
			break
		}
	}
	return out
}

// mostFindings is how many findings of one document are sent.
const mostFindings = 500

// findings are what the rules find in code: not many more than most, or all for 0.
func (sp *space) findings(o *openFile, most int) []lint.Finding {
	sp.mu.Lock()
	known := sp.declared
	sp.mu.Unlock()
	in := o.a.Lint(known)
	in.Most = most
	in.Also = sync.OnceValue(func() map[string]bool { return sp.openNames() })
	return in.Check(o.code())
}

// openNames are the custom properties that open documents declare.
func (sp *space) openNames() map[string]bool {
	out := map[string]bool{}
	for _, d := range sp.s.call().docs {
		if d.code == nil {
			continue
		}
		for _, name := range d.declared() {
			out[name] = true
		}
	}
	return out
}

// faults are those of a token file or the configuration.
func (sp *space) faults(o *openFile) []job.Fault {
	return job.Faults(sp.dir, sp.buffers(), o.rel())
}

// severity is how the protocol counts a level.
func severity(l audit.Level) int {
	switch l {
	case audit.Error:
		return severityError
	case audit.Warning:
		return severityWarning
	}
	return severityInfo
}
