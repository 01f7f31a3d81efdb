package audit

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/url"
)

// The parts of SARIF 2.1.0 that findings need. https://docs.oasis-open.org/sarif/sarif/v2.1.0/sarif-v2.1.0.html

type sarifLog struct {
	Schema  string     `json:"$schema"`
	Version string     `json:"version"`
	Runs    []sarifRun `json:"runs"`
}

type sarifRun struct {
	Tool struct {
		Driver sarifDriver `json:"driver"`
	} `json:"tool"`
	ColumnKind string        `json:"columnKind"`
	Results    []sarifResult `json:"results"`
}

type sarifDriver struct {
	Name    string      `json:"name"`
	Version string      `json:"version"`
	Rules   []sarifRule `json:"rules"`
}

type sarifRule struct {
	ID            string    `json:"id"`
	Short         sarifText `json:"shortDescription"`
	Full          sarifText `json:"fullDescription"`
	Configuration struct {
		Level string `json:"level"`
	} `json:"defaultConfiguration"`
	Properties struct {
		Tags []string `json:"tags"`
	} `json:"properties"`
}

type sarifText struct {
	Text string `json:"text"`
}

type sarifResult struct {
	Rule         string            `json:"ruleId"`
	Index        int               `json:"ruleIndex"`
	Level        string            `json:"level"`
	Message      sarifText         `json:"message"`
	Locations    []sarifLocation   `json:"locations"`
	Related      []sarifLocation   `json:"relatedLocations,omitempty"`
	Fingerprints map[string]string `json:"partialFingerprints"`
}

type sarifLocation struct {
	ID       int `json:"id,omitempty"`
	Physical struct {
		Artifact struct {
			URI string `json:"uri"`
		} `json:"artifactLocation"`
		Region *sarifRegion `json:"region,omitempty"`
	} `json:"physicalLocation"`
	Logical []sarifLogical `json:"logicalLocations,omitempty"`
	Message *sarifText     `json:"message,omitempty"`
}

type sarifRegion struct {
	Line   int `json:"startLine"`
	Column int `json:"startColumn,omitempty"`
}

type sarifLogical struct {
	Name string `json:"name,omitempty"`
	Full string `json:"fullyQualifiedName,omitempty"`
	Kind string `json:"kind,omitempty"`
}

// SARIF writes the report of an audit. See SARIFOf.
func SARIF(r *Report, version string) ([]byte, error) { return SARIFOf(Rules, r.Findings, version) }

// SARIFOf writes findings of rules in the Static Analysis Results Interchange Format 2.1.0. The first place of a finding is its
// location, the others are related ones. Paths are relative, as the sources were given.
func SARIFOf(rules []Rule, findings []Finding, version string) ([]byte, error) {
	var run sarifRun
	run.Tool.Driver = sarifDriver{Name: "archetyp", Version: version}
	run.ColumnKind, run.Results = "unicodeCodePoints", []sarifResult{}
	index := map[string]int{}
	for i := range rules {
		x := &rules[i]
		rule := sarifRule{ID: x.Name, Short: sarifText{x.What}, Full: sarifText{x.What + "; " + x.Why}}
		rule.Configuration.Level = sarifLevel(x.Level)
		rule.Properties.Tags = []string{x.Group}
		index[x.Name] = i
		run.Tool.Driver.Rules = append(run.Tool.Driver.Rules, rule)
	}
	for _, f := range findings {
		x := sarifResult{Rule: f.Rule, Index: index[f.Rule], Level: sarifLevel(f.Level), Message: sarifText{f.Message + ". " + f.Do},
			Fingerprints: map[string]string{"archetypFinding/v1": f.ID}}
		for i, p := range f.Places {
			l := sarifPlace(p)
			if i == 0 {
				x.Locations = append(x.Locations, l)
				continue
			}
			l.ID = i
			x.Related = append(x.Related, l)
		}
		run.Results = append(run.Results, x)
	}
	var b bytes.Buffer
	enc := json.NewEncoder(&b)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	err := enc.Encode(sarifLog{Schema: "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json", Version: "2.1.0", Runs: []sarifRun{run}})
	if err != nil {
		return nil, fmt.Errorf("writing SARIF: %w", err)
	}
	return b.Bytes(), nil
}

func sarifPlace(p Place) (l sarifLocation) {
	l.Physical.Artifact.URI = (&url.URL{Path: p.Source}).String()
	if u, err := url.Parse(p.Source); err == nil && u.Scheme != "" && u.Host != "" {
		l.Physical.Artifact.URI = p.Source
	}
	if p.Line > 0 {
		l.Physical.Region = &sarifRegion{Line: p.Line, Column: max(p.Column, 1)}
	}
	l.Logical = []sarifLogical{{Name: p.Element, Full: p.Selector, Kind: "element"}}
	return l
}

// sarifLevel is a level as SARIF has it.
func sarifLevel(l Level) string {
	if l == Off {
		return "none"
	}
	return string(l)
}
