package text

import "strconv"

// Adopt gives the arguments of a message that are known by their place only ({1}, {2, number}, and a plural whose
// number has no name) the names they have in the source message.
func Adopt(source, target string) string {
	s, err := Parse(source)
	if err != nil {
		return target
	}
	t, err := Parse(target)
	if err != nil {
		return target
	}
	var names []string
	plural := ""
	types := map[string]string{}
	s.Walk(func(p Part) {
		if p.Kind != Argument && p.Kind != Choice {
			return
		}
		if p.Kind == Choice && p.Type == "plural" && plural == "" {
			plural = p.Name
		}
		if p.Kind == Argument {
			types[p.Name] = p.Type
		}
		if !contains(names, p.Name) {
			names = append(names, p.Name)
		}
	})
	rename := map[string]string{}
	t.Walk(func(p Part) {
		if p.Kind != Argument && p.Kind != Choice || contains(names, p.Name) {
			return
		}
		if p.Kind == Choice && p.Type == "plural" && plural != "" {
			rename["{"+p.Name] = "{" + plural
			return
		}
		if n, err := strconv.Atoi(p.Name); err == nil && n >= 1 && n <= len(names) && rename["{"+p.Name] == "" {
			rename["{"+p.Name] = "{" + names[n-1]
		}
	})
	if len(rename) == 0 {
		return target
	}
	out := t.renamed(rename)
	return out.retyped(types).String()
}

// retyped gives arguments the kinds they have elsewhere.
func (m Message) retyped(types map[string]string) Message {
	for i := range m {
		p := &m[i]
		if t, ok := types[p.Name]; p.Kind == Argument && ok && p.Style == "" {
			p.Type = t
		}
		for j := range p.Cases {
			p.Cases[j].Message = p.Cases[j].Message.retyped(types)
		}
	}
	return m
}
