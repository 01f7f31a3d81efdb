package design

import "strings"

// Differing is a fact that several elements do not share: each value, and which of them have it.
type Differing struct {
	Section string     `json:"section"`
	Name    string     `json:"name"`
	Values  []Variants `json:"values"`
}

// Variants are the elements (by their place in the list compared) with one value; "none" for those without.
type Variants struct {
	Value    string `json:"value"`
	Elements []int  `json:"elements"`
}

// FollowsPlace reports whether a fact follows from where an element stands among others.
func FollowsPlace(fact string) bool {
	return fact == "insets" || strings.HasPrefix(fact, "centred") || strings.Contains(fact, "container")
}

// Placeless are facts without where an element stands, which no two share: of its boxes only the size is kept.
func Placeless(lines []FactLine) []FactLine {
	var out []FactLine
	for _, f := range lines {
		switch {
		case f.Name == "geometry box":
			f.Name = "size"
			_, f.Value, _ = strings.Cut(f.Value, "  ")
			w, h, _ := strings.Cut(strings.TrimSuffix(f.Value, " px"), " × ")
			f.Value = w + "px × " + h + "px"
		case strings.HasSuffix(f.Name, " box"), strings.HasPrefix(f.Name, "baseline"):
			continue
		}
		out = append(out, f)
	}
	return out
}

// CompareFacts parts the facts of several elements into what all share and what differs, in reading order.
func CompareFacts(lists [][]FactLine) (shared []FactLine, differ []Differing) {
	type key struct{ section, name string }
	var keys []key
	values := map[key][]string{}
	first := map[key]FactLine{}
	for i, lines := range lists {
		seen := map[string]int{}
		for _, f := range lines {
			k := key{f.Section, f.Name}
			if seen[f.Section+f.Name]++; seen[f.Section+f.Name] > 1 {
				values[k][i] += ", " + f.Value // several of one name: layers of a shadow
				continue
			}
			if values[k] == nil {
				keys = append(keys, k)
				values[k] = make([]string, len(lists))
				first[k] = f
			}
			values[k][i] = f.Value
		}
	}
	for _, k := range keys {
		d := Differing{Section: k.section, Name: k.name}
		at := map[string]int{}
		for i, v := range values[k] {
			if v == "" {
				v = "none"
			}
			n, known := at[v]
			if !known {
				n = len(d.Values)
				at[v] = n
				d.Values = append(d.Values, Variants{Value: v})
			}
			d.Values[n].Elements = append(d.Values[n].Elements, i)
		}
		if len(d.Values) > 1 {
			differ = append(differ, d)
			continue
		}
		f := first[k]
		f.Value = values[k][0]
		shared = append(shared, f)
	}
	return shared, differ
}
