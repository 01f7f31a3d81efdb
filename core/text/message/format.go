package message

import (
	"fmt"
	"strconv"
	"strings"
)

// Span is a stretch of the words a message says, and the inline elements it stands in, outermost first.
type Span struct {
	Words    string
	Elements []string
}

// Format says a message in a locale with values for its arguments; an argument without one stays as {name}.
func (m Message) Format(locale string, values map[string]string) []Span {
	f := &formatter{locale: locale, values: values}
	f.message(m, "")
	return f.out
}

// Said is Format as plain words.
func (m Message) Said(locale string, values map[string]string) string {
	if words, ok := m.Plain(); ok {
		return words
	}
	var b strings.Builder
	for _, s := range m.Format(locale, values) {
		b.WriteString(s.Words)
	}
	return b.String()
}

type formatter struct {
	locale string
	values map[string]string
	open   []string
	out    []Span
}

func (f *formatter) say(words string) {
	if words == "" {
		return
	}
	if k := len(f.out) - 1; k >= 0 && sameElements(f.out[k].Elements, f.open) {
		f.out[k].Words += words
		return
	}
	f.out = append(f.out, Span{words, append([]string(nil), f.open...)})
}

func sameElements(a, b []string) bool {
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		if a[i] != b[i] {
			return false
		}
	}
	return true
}

// message says the parts; number is what # stands for.
func (f *formatter) message(m Message, number string) {
	for _, p := range m {
		switch p.Kind {
		case Literal:
			f.say(p.Text)
		case Argument:
			v, ok := f.values[p.Name]
			if !ok {
				v = "{" + p.Name + "}"
			}
			f.say(v)
		case Hash:
			f.say(number)
		case Open:
			f.open = append(f.open, p.Name)
		case Close:
			f.open = f.open[:max(0, len(f.open)-1)]
		case Choice:
			v, ok := f.values[p.Name]
			n, err := strconv.Atoi(strings.TrimSpace(v))
			shown := v
			switch {
			case !ok:
				shown = "{" + p.Name + "}"
			case err == nil && p.Offset != 0:
				shown = strconv.Itoa(n - p.Offset)
			}
			if c := p.choose(f.locale, v, n, ok && err == nil); c != nil {
				f.message(c.Message, shown)
			}
		}
	}
}

// choose is the case for a value; the case other where none is for it.
func (p Part) choose(locale, value string, n int, isNumber bool) *Case {
	want := value
	if p.Type != "select" {
		want = "other"
		if isNumber {
			if c := p.Case(fmt.Sprintf("=%d", n)); c != nil {
				return c
			}
			want = PluralForm(locale, n-p.Offset, p.Type == "selectordinal")
		}
	}
	if c := p.Case(want); c != nil {
		return c
	}
	return p.Case("other")
}

// Case is the case of a choice with a selector; nil for none.
func (p Part) Case(selector string) *Case {
	for i := range p.Cases {
		if p.Cases[i].Selector == selector {
			return &p.Cases[i]
		}
	}
	return nil
}

// Values finds what the arguments of a message stand for in words that it says: "3 of 12" says "{n} of {all}" with n 3
// and all 12. ok is false where it cannot say them.
func (m Message) Values(locale, words string) (values map[string]string, ok bool) {
	t := &taking{locale: locale, values: map[string]string{}, budget: 4096}
	ok = t.take(m, words, "", func(rest string) bool { return rest == "" })
	return t.values, ok
}

// taking matches a message against words, to find the values of its arguments.
type taking struct {
	locale string
	values map[string]string
	budget int // of steps
}

// take matches the parts of a message against the beginning of words and hands the rest to then. number is the argument
// that # stands for.
func (t *taking) take(m Message, words, number string, then func(rest string) bool) bool {
	if t.budget--; t.budget < 0 {
		return false
	}
	values, locale := t.values, t.locale
	if len(m) == 0 {
		return then(words)
	}
	p, rest := m[0], m[1:]
	after := func(left string) bool { return t.take(rest, left, number, then) }
	switch p.Kind {
	case Literal:
		left, ok := strings.CutPrefix(words, p.Text)
		return ok && after(left)
	case Argument, Hash:
		name := p.Name
		if p.Kind == Hash {
			name = number
		}
		if v, known := values[name]; known {
			left, ok := strings.CutPrefix(words, v)
			return ok && after(left)
		}
		for i := 1; i <= len(words); i++ { // the shortest first
			values[name] = words[:i]
			if after(words[i:]) {
				return true
			}
			delete(values, name)
		}
		return false
	case Choice:
		for _, c := range p.Cases {
			had, was := values[p.Name]
			ok := t.take(c.Message, words, p.Name, func(left string) bool {
				v, known := values[p.Name]
				if n, err := strconv.Atoi(strings.TrimPrefix(c.Selector, "=")); !known && err == nil {
					values[p.Name], v, known = strconv.Itoa(n), strconv.Itoa(n), true
				}
				if !known {
					if p.Type == "select" {
						values[p.Name] = c.Selector
					} else if n, ok := exampleOf(locale, c.Selector); ok {
						values[p.Name] = strconv.Itoa(n)
					}
				} else if n, err := strconv.Atoi(v); err == nil && p.Type != "select" &&
					p.choose(locale, v, n, true).Selector != c.Selector {
					return false
				}
				return after(left)
			})
			if ok {
				return true
			}
			if was {
				values[p.Name] = had
			} else {
				delete(values, p.Name)
			}
		}
		return false
	}
	return after(words)
}

// exampleOf is a number that takes a form.
func exampleOf(locale, form string) (int, bool) {
	forms, examples := PluralForms(locale)
	for i, f := range forms {
		if f == form {
			return examples[i], true
		}
	}
	return 0, false
}
