package token

import "encoding/json"

// Remembered is a token as the lock keeps it.
type Remembered struct {
	Path  string
	Type  Type
	Value string // JSON as the format has it
	Own   string // JSON under our key; "" for nothing
}

// Remember is what the lock keeps of a token.
func Remember(t *Token) Remembered { return Remembered{t.Path, t.Type, t.Value.JSON(), t.Own.json()} }

// Recall makes a library of what a lock kept: the tokens of the default contexts, and by context ("scheme.dark") those
// that were others there. Only the names, contexts and defaults of modifiers count.
func Recall(modifiers []*Modifier, base []Remembered, contexts map[string][]Remembered) *Library {
	l := &Library{Base: NewSet(recalled(base)), remembered: map[string][]*Token{},
		resolver: &Resolver{Modifiers: modifiers}}
	for _, m := range modifiers {
		for _, name := range m.Contexts {
			c := Context{m.Name, name, name == l.start(m), l.Base}
			if !c.Default {
				l.remembered[c.Key()] = recalled(contexts[c.Key()])
				c.Set = l.Set(Input{m.Name: name})
			}
			l.Contexts = append(l.Contexts, c)
		}
	}
	return l
}

// Lead is the value with its aliases to tokens that have another path now leading there; now is by the paths before.
func (r Remembered) Lead(now map[string]string) string {
	value, ok := r.value()
	if !ok {
		return r.Value
	}
	return back(value, now).JSON()
}

func (r Remembered) value() (Value, bool) {
	v, err := readJSON([]byte(r.Value), "")
	if err != nil {
		return Value{}, false
	}
	rd := &reader{file: &File{src: []byte(r.Value)}, path: r.Path}
	value, fault := rd.value(v, r.Type)
	return value, fault == nil
}

func recalled(list []Remembered) []*Token {
	var out []*Token
	for _, r := range list {
		value, ok := r.value()
		if !ok {
			continue
		}
		t := &Token{Path: r.Path, Type: r.Type, Value: value}
		if r.Own != "" {
			t.Own = parseOwn([]byte(r.Own))
		}
		out = append(out, t)
	}
	return out
}

// parseOwn reads what stands under our key; what is something else counts as nothing.
func parseOwn(data []byte) Own {
	var raw struct {
		Angle   *float64          `json:"angle"`
		Kind    string            `json:"kind"`
		Shape   string            `json:"shape"`
		Written map[string]string `json:"written"`
	}
	if json.Unmarshal(data, &raw) != nil {
		return Own{}
	}
	return Own{raw.Angle, raw.Kind, raw.Shape, raw.Written}
}

// overlaid is the remembered set of a choice of contexts, those of later modifiers over those of earlier ones.
func (l *Library) overlaid(in Input) *Set {
	tokens := append([]*Token(nil), l.Base.Tokens...)
	at := make(map[string]int, len(tokens))
	for i, t := range tokens {
		at[t.Path] = i
	}
	for _, m := range l.resolver.Modifiers {
		for _, t := range l.remembered[m.Name+"."+in[m.Name]] {
			if i, ok := at[t.Path]; ok {
				tokens[i] = t
				continue
			}
			at[t.Path] = len(tokens)
			tokens = append(tokens, t)
		}
	}
	return NewSet(tokens)
}
