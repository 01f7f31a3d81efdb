package asset

import (
	"fmt"
	"testing"
)

// icon is a drawing of a few shapes, such as icons are made of.
const icon = `<g data-asset="icons/i%d"><rect x="4" y="6" width="56" height="52" rx="6" fill="#0b6e8f"/><path d="M10 44c6-8 12-8 18 0s12 8 18 0 6-8 8-6v14H10z" fill="#cfe6ef"/>` +
	`<circle cx="44" cy="20" r="8" fill="url(#sun)"/><path d="M14 34h24l-4 8H18z" fill="#e4572e" stroke="#10243a" stroke-width="2"/></g>` +
	`<linearGradient id="sun"><stop stop-color="#ffd98a"/><stop offset="1" stop-color="#f2a541"/></linearGradient>`

// BenchmarkMake makes one icon in each set.
func BenchmarkMake(b *testing.B) {
	list, faults := Collect(drawing(b, fmt.Sprintf(icon, 1)), BuiltIn())
	if len(list) != 1 {
		b.Fatal(faults)
	}
	for _, s := range BuiltIn() {
		s.Only = false
		names, _ := s.Fit([]string{list[0].Name})
		b.Run(s.Name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if _, err := Make(list[0], []Set{s}, map[string]Names{s.Name: names}, Look{}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// BenchmarkFit makes the names of many assets fit.
func BenchmarkFit(b *testing.B) {
	var names []string
	for i := range 10_000 {
		names = append(names, fmt.Sprintf("icons/Way out-%d", i/2*(1+i%2)))
	}
	s := BuiltIn()[1]
	for b.Loop() {
		s.Fit(names)
	}
}

// BenchmarkAdvise looks at a screen of 200 icons.
func BenchmarkAdvise(b *testing.B) {
	content := ""
	for i := range 200 {
		content += fmt.Sprintf(icon, i)
	}
	docs := drawing(b, content)
	for b.Loop() {
		if len(Advise(docs, BuiltIn(), 1)) == 0 {
			b.Fatal("nothing is said")
		}
	}
}
