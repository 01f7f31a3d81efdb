package audit

import (
	"archetyp/core/hint"
	"bytes"
	"encoding/json"
	"fmt"
)

// Baseline are findings that the team knows and accepts, by their ids.
type Baseline struct {
	Version  int        `json:"baseline"` // 1
	Accepted []Accepted `json:"accepted"`
}

// Accepted is a finding that is accepted, with what it said when it was.
type Accepted struct {
	ID      string `json:"id"`
	Rule    string `json:"rule"`
	Message string `json:"message"`
	Place   string `json:"place"`
	Reason  string `json:"reason,omitempty"`
	Expires string `json:"expires,omitempty"` // the last day it is accepted, as 2027-01-31; "" for always
}

// ReadBaseline reads a baseline; shown is its path for messages.
func ReadBaseline(data []byte, shown string) (*Baseline, error) {
	var b Baseline
	if err := json.Unmarshal(data, &b); err != nil {
		return nil, hint.New(shown+": this is no baseline: "+err.Error(), "\"archetyp audit --baseline FILE --accept\" writes one.")
	}
	if b.Version != 1 {
		return nil, hint.New(fmt.Sprintf("%s: this baseline has version %d; 1 is known", shown, b.Version), "\"archetyp audit --baseline FILE --accept\" writes one.")
	}
	return &b, nil
}

// Known takes the findings out of a report that are accepted on a day (as 2027-01-31), and says how many they are and
// which of the baseline are no more. Those that have expired stay, and say so.
func (b *Baseline) Known(r *Report, day string) (known int, gone []Accepted) {
	left := map[string]Accepted{}
	for _, a := range b.Accepted {
		left[a.ID] = a
	}
	var out []Finding
	for _, f := range r.Findings {
		if a, ok := left[f.ID]; ok {
			delete(left, f.ID)
			if a.Expires == "" || day <= a.Expires {
				known++
				continue
			}
			f.Message += ", which was accepted until " + a.Expires
		}
		out = append(out, f)
	}
	r.Findings = out
	for _, a := range b.Accepted {
		if _, ok := left[a.ID]; ok {
			gone = append(gone, a)
		}
	}
	return known, gone
}

// Accept is a baseline with all findings of a report, until a day or for always (""); those that were in it before keep
// their reasons and days where none are given.
func (b *Baseline) Accept(r *Report, reason, until string) ([]byte, error) {
	before := map[string]Accepted{}
	if b != nil {
		for _, a := range b.Accepted {
			before[a.ID] = a
		}
	}
	out := Baseline{Version: 1, Accepted: []Accepted{}}
	for _, f := range r.Findings {
		a := Accepted{ID: f.ID, Rule: f.Rule, Message: f.Message, Reason: reason, Expires: until}
		if old, ok := before[f.ID]; ok && reason == "" {
			a.Reason = old.Reason
			if until == "" {
				a.Expires = old.Expires
			}
		}
		if p := f.Places[0]; p.Path != "" {
			a.Place = p.Source + ": " + p.Path
		} else {
			a.Place = p.Source + ": " + p.Screen
		}
		out.Accepted = append(out.Accepted, a)
	}
	var buf bytes.Buffer
	enc := json.NewEncoder(&buf)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	err := enc.Encode(out)
	return buf.Bytes(), err
}
