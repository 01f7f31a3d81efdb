package text

import (
	"fmt"
	"slices"
	"sort"
	"strings"
	"unicode"
	"unicode/utf8"

	"archetyp/core/text/message"
)

// Finding is something a check found.
type Finding struct {
	Rule   string `json:"rule"`
	Key    string `json:"key"`
	Locale string `json:"locale,omitempty"`
	Msg    string `json:"message"`
}

// Rules are the names of the rules of Check and what each looks for, in the order they are listed.
var Rules = [][2]string{
	{"conflict", "texts that two people changed at the same time, until one wording is chosen"},
	{"invalid", "messages that are no valid ICU MessageFormat"},
	{"lost", "arguments or inline elements that a translation lacks or adds"},
	{"forms", "plural forms the language needs and a translation lacks"},
	{"missing", "texts without a translation"},
	{"outdated", "translations of words that have changed since"},
	{"sample", "messages with arguments that no longer say the words of the design"},
	{"spaces", "white space at the ends, or doubled, that differs from the source"},
	{"end", "a sign at the end that differs from the source: . ! ? : …"},
	{"differs", "the same words translated differently under two keys"},
	{"unused", "keys that no drawing has any more"},
	{"unknown", "translations of keys that there are none of"},
	{"pattern", "keys that do not follow the pattern, and were given by nobody"},
}

// CheckOptions say what is checked.
type CheckOptions struct {
	Locales []string // none for all
	Pattern string
	Case    string
	Only    []string // rules; none for all
}

// Check looks over the catalogue. Findings come by rule, key and locale.
func (c *Catalogue) Check(o CheckOptions) []Finding {
	k := &checker{c: c, o: o}
	if len(o.Locales) == 0 {
		k.o.Locales = c.Locales
	}
	if o.Pattern != "" {
		shape := keyShape(o.Pattern, o.Case)
		for _, e := range c.Used() {
			if !e.Marked && !e.Given && !shape.MatchString(e.Key) {
				k.find("pattern", e, "", "does not follow %s", o.Pattern)
			}
		}
	}
	for _, e := range c.Entries {
		k.entry(e)
	}
	k.differing()
	order := map[string]int{}
	for i, r := range Rules {
		order[r[0]] = i
	}
	sort.SliceStable(k.out, func(i, j int) bool {
		a, b := k.out[i], k.out[j]
		if a.Rule != b.Rule {
			return order[a.Rule] < order[b.Rule]
		}
		if a.Key != b.Key {
			return a.Key < b.Key
		}
		return a.Locale < b.Locale
	})
	return k.out
}

type checker struct {
	c   *Catalogue
	o   CheckOptions
	out []Finding
}

func (k *checker) find(rule string, e *Entry, locale, format string, args ...any) {
	if len(k.o.Only) > 0 && !slices.Contains(k.o.Only, rule) {
		return
	}
	k.out = append(k.out, Finding{rule, e.Key, locale, fmt.Sprintf(format, args...)})
}

func (k *checker) entry(e *Entry) {
	if e.Or != "" {
		k.find("conflict", e, k.c.Locale, "“%s” or “%s”: choose with \"archetyp text set\"", short(e.Words), short(e.Or))
	}
	for _, l := range k.c.Locales {
		if t := e.In[l]; t != nil && t.Or != "" {
			k.find("conflict", e, l, "“%s” or “%s”: choose with \"archetyp text set\"", short(t.Words), short(t.Or))
		}
	}
	if e.Words == "" {
		for _, l := range k.o.Locales {
			if t := e.In[l]; t != nil && t.Words != "" {
				k.find("unknown", e, l, "a translation of nothing: the source language has no such key")
			}
		}
		return
	}
	if e.Unused {
		k.find("unused", e, "", "no drawing has “%s” any more", short(e.Words))
		return
	}
	m, err := message.Parse(e.Words)
	if err != nil {
		k.find("invalid", e, k.c.Locale, "%v", err)
		return
	}
	if e.Said != "" {
		if _, ok := m.Values(k.c.Locale, e.Said); !ok {
			k.find("sample", e, "", "the design says “%s”, which “%s” cannot say", short(e.Said), short(e.Words))
		}
	}
	for _, l := range k.o.Locales {
		k.translation(e, m, l)
	}
}

func (k *checker) translation(e *Entry, source message.Message, locale string) {
	t := e.In[locale]
	if t == nil || t.Words == "" {
		k.find("missing", e, locale, "“%s” has no translation", short(e.Words))
		return
	}
	m, err := message.Parse(t.Words)
	if err != nil {
		k.find("invalid", e, locale, "%v", err)
		return
	}
	if t.Of != "" {
		k.find("outdated", e, locale, "“%s” is of “%s”; now it is “%s”", short(t.Words), short(t.Of), short(e.Words))
	}
	if why := Lost(e.Words, t.Words, locale); why != "" {
		k.find("lost", e, locale, "“%s” %s", short(t.Words), why)
	}
	if lack := lackingForms(m, locale); lack != "" {
		k.find("forms", e, locale, "%s", lack)
	}
	a, b := source.Said(k.c.Locale, nil), m.Said(locale, nil)
	if leading(a) != leading(b) || trailing(a) != trailing(b) || strings.Contains(b, "  ") && !strings.Contains(a, "  ") {
		k.find("spaces", e, locale, "“%s” has other white space than “%s”", short(t.Words), short(e.Words))
	}
	if x, y := endSign(a), endSign(b); x != y {
		k.find("end", e, locale, "“%s” ends with %s, “%s” with %s", short(t.Words), sign(y), short(e.Words), sign(x))
	}
}

func lackingForms(m message.Message, locale string) string {
	out := ""
	m.Walk(func(p message.Part) {
		if p.Kind != message.Choice || p.Type != "plural" || out != "" {
			return
		}
		need, _ := message.PluralForms(locale)
		var lack []string
		for _, f := range need {
			if p.Case(f) == nil && f != "other" {
				lack = append(lack, f)
			}
		}
		if len(lack) > 0 {
			out = fmt.Sprintf("{%s, plural, …} lacks the forms %s, which %s has", p.Name, strings.Join(lack, ", "), locale)
		}
	})
	return out
}

// differing finds the same source words with different translations.
func (k *checker) differing() {
	type said struct{ words, meaning string }
	first := map[said]*Entry{}
	for _, l := range k.o.Locales {
		clear(first)
		for _, e := range k.c.Used() {
			t := e.In[l]
			if t == nil || t.Words == "" || t.Of != "" {
				continue
			}
			id := said{e.Words, e.Meaning}
			if o := first[id]; o == nil {
				first[id] = e
			} else if o.In[l].Words != t.Words {
				k.find("differs", e, l, "“%s” is “%s” here and “%s” under %s", short(e.Words), short(t.Words), short(o.In[l].Words),
					o.Key)
			}
		}
	}
}

func leading(s string) string { return s[:len(s)-len(strings.TrimLeftFunc(s, unicode.IsSpace))] }

func trailing(s string) string { return s[len(strings.TrimRightFunc(s, unicode.IsSpace)):] }

// ends are signs at the end of a text, with those of other scripts that do the same.
var ends = map[rune]string{'.': ".", '。': ".", '।': ".", '։': ".", '۔': ".", '!': "!", '！': "!", '?': "?", '？': "?",
	'؟': "?", ';': ";", '؛': ";", ':': ":", '：': ":", '…': "…"}

func endSign(s string) string {
	s = strings.TrimRightFunc(s, func(r rune) bool {
		return unicode.IsSpace(r) || unicode.In(r, unicode.Pf, unicode.Pe, unicode.Cf) || r == '"'
	})
	if strings.HasSuffix(s, "...") {
		return "…"
	}
	r, _ := utf8.DecodeLastRuneInString(s)
	return ends[r]
}

func sign(s string) string {
	if s == "" {
		return "no sign"
	}
	return s
}

func short(s string) string {
	r := []rune(strings.ReplaceAll(s, "\n", " "))
	if len(r) <= 60 {
		return string(r)
	}
	return string(r[:59]) + "…"
}
