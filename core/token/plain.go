package token

import "encoding/json"

// PlainProperty is a custom property that a token file carries as CSS text: a value of code that no type of the format holds.
type PlainProperty struct {
	Name  string // with its --
	Value string
}

// PlainKey is where a file keeps them: {"$extensions": {"archetyp": {"properties": {"--x": "…"}}}}.
const PlainKey = "properties"

// Properties are the custom properties that the files of a set carry as CSS text, in order; a later file wins.
func (s *Set) Properties() (out []PlainProperty) {
	at := map[string]int{}
	for _, f := range s.files {
		if f.root == nil {
			continue
		}
		ext, _ := f.root.prop("$extensions")
		ours, _ := ext.member(Extension)
		list, ok := ours.member(PlainKey)
		if !ok {
			continue
		}
		for i := range list.kids {
			var value string
			if json.Unmarshal(list.kids[i].value.raw, &value) != nil {
				continue
			}
			name := list.kids[i].name
			if k, known := at[name]; known {
				out[k].Value = value
				continue
			}
			at[name] = len(out)
			out = append(out, PlainProperty{name, value})
		}
	}
	return out
}
