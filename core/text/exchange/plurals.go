package exchange

import (
	"strings"

	"archetyp/core/text"
	"archetyp/core/text/message"
)

// pluralForm is one form of a message with a plural, as a unit of its own.
type pluralForm struct {
	text.Unit
	key, form string
	source    string // the whole source message
}

// onePlural is a message that is one plural and nothing but words and arguments around and in it: its place, and the
// parts. ok is false for others.
func onePlural(msg string) (m message.Message, at int, ok bool) {
	m, err := message.Parse(msg)
	if err != nil || m.Plural() < 0 {
		return nil, 0, false
	}
	at = m.Plural()
	choices := 0
	m.Walk(func(p message.Part) {
		if p.Kind == message.Choice {
			choices++
		}
	})
	return m, at, choices == 1 && m[at].Offset == 0
}

// formOf is a message with its plural said in one form; # becomes the number part.
func formOf(m message.Message, at int, form string, number message.Part) message.Message {
	c := m[at].Case(form)
	if c == nil {
		c = m[at].Case("other")
	}
	out := append(message.Message(nil), m[:at]...)
	for _, p := range c.Message {
		if p.Kind == message.Hash {
			p = number
		}
		out = append(out, p)
	}
	return append(out, m[at+1:]...)
}

// numberOf is how the number of a plural is written where there is no #.
func numberOf(name string) message.Part {
	return message.Part{Kind: message.Argument, Name: name, Type: "number"}
}

// choiceOf is a message that is one plural of forms; the number part becomes #.
func choiceOf(name string, forms []string, messages []message.Message) message.Message {
	choice := message.Part{Kind: message.Choice, Name: name, Type: "plural"}
	for i, f := range forms {
		m := append(message.Message(nil), messages[i]...)
		for j := range m {
			if m[j].Kind == message.Argument && m[j].Name == name && m[j].Type == "number" {
				m[j] = message.Part{Kind: message.Hash}
			}
		}
		choice.Cases = append(choice.Cases, message.Case{Selector: f, Message: m})
	}
	// a form for fractions, which the language has no whole numbers in
	if len(choice.Cases) > 0 && choice.Case("other") == nil {
		choice.Cases = append(choice.Cases, message.Case{Selector: "other",
			Message: choice.Cases[len(choice.Cases)-1].Message})
	}
	return message.Message{choice}
}

// splitPlural gives a unit for each form the target language has, for a message that is one plural; nil for others.
func splitPlural(u *text.Unit, target string) []pluralForm {
	m, at, ok := onePlural(u.Source)
	if !ok {
		return nil
	}
	name := m[at].Name
	var t message.Message
	tat := 0
	if u.Target != "" {
		if t, tat, ok = onePlural(u.Target); !ok || t[tat].Name != name {
			return nil
		}
	}
	var names []string
	for _, c := range m[at].Cases {
		if target == "" || strings.HasPrefix(c.Selector, "=") {
			names = append(names, c.Selector)
		}
	}
	if target != "" {
		forms, _ := message.PluralForms(target)
		names = append(names, forms...)
	}
	if t != nil {
		for _, c := range t[tat].Cases {
			names = append(names, c.Selector)
		}
	}
	seen := map[string]bool{}
	var out []pluralForm
	for _, f := range append(names, "other") {
		if seen[f] {
			continue
		}
		seen[f] = true
		one := pluralForm{Unit: *u, key: u.Key, form: f, source: u.Source}
		one.Source = formOf(m, at, f, numberOf(name)).String()
		if t != nil && t[tat].Case(f) != nil {
			one.Target = formOf(t, tat, f, numberOf(name)).String()
		} else {
			one.Target, one.State = "", text.Initial
		}
		out = append(out, one)
	}
	return out
}

// plurals puts the forms of a key together again.
func (r *reader2) plurals() {
	if len(r.forms) == 0 {
		return
	}
	byKey := map[string][]pluralForm{}
	for _, f := range r.forms {
		byKey[f.key] = append(byKey[f.key], f)
	}
	kept := r.d.Units[:0]
	for _, u := range r.d.Units {
		forms, isPlural := byKey[u.Key]
		switch {
		case !isPlural:
			kept = append(kept, u)
		case len(forms) > 0:
			kept = append(kept, joinForms(forms))
			byKey[u.Key] = nil // once, should a cut have come between them
		}
	}
	r.d.Units = kept
}

func joinForms(forms []pluralForm) text.Unit {
	u := forms[0].Unit
	u.Key, u.Source, u.Target, u.State = forms[0].key, forms[0].source, "", text.Final
	m, at, ok := onePlural(u.Source)
	if !ok {
		return u
	}
	var names []string
	var messages []message.Message
	whole := true
	for _, f := range forms {
		fm, err := message.Parse(f.Target)
		if f.Target == "" || err != nil {
			whole = whole && f.form == "other"
			continue
		}
		names, messages = append(names, f.form), append(messages, fm)
		if u.State != text.Outdated && (f.State == text.Outdated || stateOrder(f.State) < stateOrder(u.State)) {
			u.State = f.State
		}
	}
	switch {
	case len(names) == 0:
		u.State = text.Initial
		return u
	case !whole:
		u.State = text.Initial
	}
	u.Target = choiceOf(m[at].Name, names, messages).String()
	return u
}
