package drift

import (
	"archetyp/core/audit"
)

// Rules are the kinds of differences as rules of a report.
func Rules() (out []audit.Rule) {
	for _, k := range Kinds {
		out = append(out, audit.Rule{Name: k.Rule(), Group: "drift", Level: k.usual(), What: k.What(), Why: "the site is not as the design says"})
	}
	return out
}

// Rule is the name of a kind as a rule.
func (k Kind) Rule() string { return "drift-" + string(k) }

// Findings are the differences as findings of an audit, at their causes.
func (r *Report) Findings() *audit.Report {
	out := &audit.Report{Accepted: r.Accepted}
	for i := range r.Differences {
		out.Findings = append(out.Findings, r.Differences[i].Finding())
	}
	return out
}

// Finding is a difference as a finding: at its cause first, then at the elements it touches.
func (d *Difference) Finding() audit.Finding {
	f := audit.Finding{Rule: d.Kind.Rule(), Group: "drift", Level: d.Level, Message: d.Message, Why: d.Kind.What(), Do: d.Do(), ID: d.ID}
	first := d.Spots[0]
	f.Places = []audit.Place{{Source: d.Cause.Place.File, Line: d.Cause.Place.Line, Column: d.Cause.Place.Column, Screen: first.Screen, Element: first.Site.Element,
		Selector: first.Site.Selector, Path: d.Cause.Selector}}
	for _, s := range d.Spots {
		if s.Site.Selector != "" && len(f.Places) < 50 {
			f.Places = append(f.Places, audit.Place{Source: s.Site.Source, Line: s.Site.Line, Column: s.Site.Column, Screen: s.Screen, Element: s.Site.Element, Selector: s.Site.Selector})
		}
	}
	return f
}

// Do is what to do about a difference, in a sentence.
func (d *Difference) Do() string {
	switch {
	case d.Mend != "" && d.Edit == nil && d.Cause.Lacking && d.Cause.Selector != "":
		return "Declare " + d.Mend
	case d.Mend != "":
		return "Write " + d.Mend
	}
	switch d.Kind {
	case Words:
		return "Take over the words of the design, or change them there."
	case Missing:
		return "Build it, or take it out of the design."
	case Extra:
		return "Draw it, or take it out of the site."
	case Order:
		return "Put it where the design has it."
	case Picture:
		return "Export the picture of the design again."
	}
	return "Make it what the design says."
}
