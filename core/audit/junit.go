package audit

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"strings"
)

type junitSuites struct {
	XMLName xml.Name     `xml:"testsuites"`
	Suites  []junitSuite `xml:"testsuite"`
}

type junitSuite struct {
	Name     string      `xml:"name,attr"`
	Tests    int         `xml:"tests,attr"`
	Failures int         `xml:"failures,attr"`
	Errors   int         `xml:"errors,attr"`
	Skipped  int         `xml:"skipped,attr"`
	Cases    []junitCase `xml:"testcase"`
}

type junitCase struct {
	Name    string        `xml:"name,attr"`
	Class   string        `xml:"classname,attr"`
	Failure *junitFailure `xml:"failure,omitempty"`
}

type junitFailure struct {
	Message string `xml:"message,attr"`
	Type    string `xml:"type,attr"`
	Text    string `xml:",chardata"`
}

// JUnit writes findings as test results in the form that servers for continuous integration read: a case for each rule,
// which fails at findings of a level or graver; others are in none.
func JUnit(name string, rules []Rule, findings []Finding, fail Level) ([]byte, error) {
	suite := junitSuite{Name: name}
	for i := range rules {
		r := &rules[i]
		var list []string
		for _, f := range findings {
			if f.Rule != r.Name || fail == "" || !f.Level.Weighs(fail) {
				continue
			}
			p := f.Places[0]
			list = append(list, fmt.Sprintf("%s:%d:%d: %s. %s", p.Source, p.Line, p.Column, f.Message, f.Do))
		}
		c := junitCase{Name: r.Name, Class: name + "." + r.Group}
		suite.Tests++
		if len(list) > 0 {
			suite.Failures++
			c.Failure = &junitFailure{Message: xmlText(fmt.Sprintf("%s: %s", r.What, count(len(list), "finding"))), Type: r.Name, Text: xmlText(strings.Join(list, "\n"))}
		}
		suite.Cases = append(suite.Cases, c)
	}
	var b bytes.Buffer
	b.WriteString(xml.Header)
	enc := xml.NewEncoder(&b)
	enc.Indent("", "  ")
	if err := enc.Encode(junitSuites{Suites: []junitSuite{suite}}); err != nil {
		return nil, err
	}
	b.WriteByte('\n')
	return b.Bytes(), nil
}

// xmlText is a text without the characters that XML has no way to write.
func xmlText(s string) string {
	return strings.Map(func(r rune) rune {
		if r < 0x20 && r != '\n' && r != '\t' || r == 0xFFFE || r == 0xFFFF {
			return '\uFFFD'
		}
		return r
	}, s)
}
