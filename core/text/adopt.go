package text

import (
	"slices"
	"strconv"
	"strings"

	"archetyp/core/text/message"
)

// Adopt gives the arguments of a message that are known by their place only ({1}, {2, number}, and a plural whose
// number has no name) the names they have in the source message.
func Adopt(source, target string) string {
	if strings.IndexByte(target, '{') < 0 {
		return target
	}
	s, err := message.Parse(source)
	if err != nil {
		return target
	}
	t, err := message.Parse(target)
	if err != nil {
		return target
	}
	var names []string
	plural := ""
	types := map[string]string{}
	s.Walk(func(p message.Part) {
		if p.Kind != message.Argument && p.Kind != message.Choice {
			return
		}
		if p.Kind == message.Choice && p.Type == "plural" && plural == "" {
			plural = p.Name
		}
		if p.Kind == message.Argument {
			types[p.Name] = p.Type
		}
		if !slices.Contains(names, p.Name) {
			names = append(names, p.Name)
		}
	})
	rename := map[string]string{}
	t.Walk(func(p message.Part) {
		if p.Kind != message.Argument && p.Kind != message.Choice || slices.Contains(names, p.Name) {
			return
		}
		if p.Kind == message.Choice && p.Type == "plural" && plural != "" {
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
	out := renamed(t, rename)
	return retyped(out, types).String()
}

// retyped gives arguments the kinds they have elsewhere.
func retyped(m message.Message, types map[string]string) message.Message {
	for i := range m {
		p := &m[i]
		if t, ok := types[p.Name]; p.Kind == message.Argument && ok && p.Style == "" {
			p.Type = t
		}
		for j := range p.Cases {
			p.Cases[j].Message = retyped(p.Cases[j].Message, types)
		}
	}
	return m
}

// Spread says a message with one plural with all its words inside the forms, as formats do that have no words around a
// plural: "{n, plural, one {#} other {#}} boats" and "{n, plural, one {# boats} other {# boats}}" say the same.
func Spread(words string) string {
	if !strings.Contains(words, "plural") {
		return words
	}
	m, err := message.Parse(words)
	if err != nil || m.Plural() < 0 || len(m) == 1 && !strings.Contains(words, "number}") {
		return words
	}
	at := m.Plural()
	choice := m[at]
	choice.Cases = append([]message.Case(nil), choice.Cases...)
	for i, c := range choice.Cases {
		whole := append(append(append(message.Message(nil), m[:at]...), c.Message...), m[at+1:]...)
		for j := range whole {
			if whole[j].Kind == message.Argument && whole[j].Name == choice.Name && whole[j].Type == "number" &&
				whole[j].Style == "" {
				whole[j] = message.Part{Kind: message.Hash}
			}
		}
		choice.Cases[i].Message = whole
	}
	return message.Message{choice}.String()
}

// keepFractions gives theirs the form other that ours has, in a language that needs it for fractions only: formats with
// a form for each whole number have no place for it, and it comes back as a copy of the form before.
func keepFractions(ours, theirs, locale string) string {
	if !strings.Contains(theirs, "plural") || !strings.Contains(ours, "plural") {
		return theirs
	}
	if forms, _ := message.PluralForms(locale); slices.Contains(forms, "other") {
		return theirs
	}
	a, errA := message.Parse(Spread(ours))
	b, errB := message.Parse(Spread(theirs))
	if errA != nil || errB != nil || a.Plural() < 0 || b.Plural() < 0 {
		return theirs
	}
	mine, yours := a[a.Plural()].Case("other"), &b[b.Plural()]
	last := len(yours.Cases) - 1
	if last < 1 || yours.Cases[last].Selector != "other" ||
		yours.Cases[last].Message.String() != yours.Cases[last-1].Message.String() {
		return theirs
	}
	yours.Cases[last].Message = mine.Message
	return b.String()
}
