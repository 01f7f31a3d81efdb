package text

import (
	"slices"
	"sort"
	"strings"

	"archetyp/core/hint"
	"archetyp/core/text/message"
)

// Remembered is one translation of a memory.
type Remembered struct {
	Key            string // the key it was made under; "" for none
	Source, Target string
}

// Filled is what the memory says for one key.
type Filled struct {
	Key    string `json:"key"`
	Source string `json:"source"`
	Target string `json:"target"`
	From   string `json:"from"`  // the source words in the memory
	Score  int    `json:"score"` // 1–100
	Done   bool   `json:"done"`  // put into the catalogue; otherwise only proposed
}

// Least is the score below which a likeness is no help.
const Least = 60

// Fill takes translations from a memory for what a locale lacks: words that are the same under the same key first, then
// the same words, then words that are alike. Those that score at least are put into the catalogue, the others are only
// proposed. Arguments and inline elements of the source must be in what is taken.
func (c *Catalogue) Fill(memory []Remembered, locale string, atLeast int, f Filter) []Filled {
	c.AddLocale(locale)
	x := newIndex(memory)
	f.Locale = locale
	if len(f.States) == 0 {
		f.States = []State{Initial, Outdated}
	}
	var out []Filled
	for _, e := range c.Pick(f) {
		r, score := x.best(e, locale)
		if r == nil {
			continue
		}
		one := Filled{Key: e.Key, Source: e.Words, Target: r.Target, From: r.Source, Score: score, Done: score >= atLeast}
		if one.Target != "" && Lost(e.Words, one.Target, locale) != "" {
			moved, ok := carry(e.Words, r.Source, r.Target)
			if !ok {
				continue
			}
			one.Target = moved
			if score == 100 {
				one.Score = 99
			}
			one.Done = one.Score >= atLeast
		}
		if t := e.In[locale]; t != nil && t.Words == one.Target && t.Of == "" {
			continue
		}
		if one.Done {
			state := Translated
			if one.Score < 100 {
				state = Initial
			}
			*e.in(locale) = Translation{Words: one.Target, State: state, Score: one.Score}
		}
		out = append(out, one)
	}
	return out
}

// carry puts the arguments of a source in place of those the memory's message has, where they are as many.
func carry(source, from, target string) (string, bool) {
	s, err1 := message.Parse(source)
	f, err2 := message.Parse(from)
	t, err3 := message.Parse(target)
	if err1 != nil || err2 != nil || err3 != nil {
		return "", false
	}
	a, b := namesIn(s), namesIn(f)
	if len(a) != len(b) || len(a) == 0 {
		return "", false
	}
	rename := map[string]string{}
	for i := range b {
		rename[b[i]] = a[i]
	}
	out := renamed(t, rename).String()
	return out, Lost(source, out, "") == ""
}

// namesIn are the arguments and elements in the order they come first.
func namesIn(m message.Message) []string {
	var out []string
	m.Walk(func(p message.Part) {
		name := ""
		switch p.Kind {
		case message.Argument, message.Choice:
			name = "{" + p.Name
		case message.Open, message.Empty:
			name = "<" + p.Name
		}
		if name != "" && !slices.Contains(out, name) {
			out = append(out, name)
		}
	})
	return out
}

func renamed(m message.Message, names map[string]string) message.Message {
	out := append(message.Message(nil), m...)
	for i := range out {
		p := &out[i]
		switch p.Kind {
		case message.Argument, message.Choice:
			if n, ok := strings.CutPrefix(names["{"+p.Name], "{"); ok {
				p.Name = n
			}
		case message.Open, message.Close, message.Empty:
			if n, ok := strings.CutPrefix(names["<"+p.Name], "<"); ok {
				p.Name = n
			}
		}
		p.Cases = append([]message.Case(nil), p.Cases...)
		for j := range p.Cases {
			p.Cases[j].Message = renamed(p.Cases[j].Message, names)
		}
	}
	return out
}

// index finds messages of a memory by their words.
type index struct {
	memory []Remembered
	exact  map[string][]int
	words  map[string][]int // by each of their words
	split  [][]string
}

func newIndex(memory []Remembered) *index {
	x := &index{memory: memory, exact: map[string][]int{}, words: map[string][]int{}, split: make([][]string, len(memory))}
	for i, r := range memory {
		x.exact[r.Source] = append(x.exact[r.Source], i)
		x.split[i] = wordsOf(r.Source)
		seen := map[string]bool{}
		for _, w := range x.split[i] {
			if !seen[w] {
				seen[w] = true
				x.words[w] = append(x.words[w], i)
			}
		}
	}
	return x
}

func wordsOf(s string) []string { return strings.Fields(strings.ToLower(s)) }

// mostWeighed is how many messages of a memory are compared letter by letter with one text.
const mostWeighed = 200

// best is what the memory has nearest to an entry: under its key, then by its words alone, then alike.
func (x *index) best(e *Entry, locale string) (*Remembered, int) {
	if same := x.exact[e.Words]; len(same) > 0 {
		pick := same[0]
		for _, i := range same {
			if k := x.memory[i].Key; k != "" && (k == e.Key || slices.Contains(e.Formerly, k)) {
				pick = i
				break
			}
		}
		return &x.memory[pick], 100
	}
	// rare words say most: gather those that share them, most shared first
	own := wordsOf(e.Words)
	sort.SliceStable(own, func(i, j int) bool { return len(x.words[own[i]]) < len(x.words[own[j]]) })
	shared := map[int]int{}
	var found []int
	for _, w := range own {
		if len(found) > mostWeighed {
			break
		}
		for _, i := range x.words[w] {
			if shared[i] == 0 {
				found = append(found, i)
			}
			shared[i]++
			if len(found) > 10*mostWeighed {
				break
			}
		}
	}
	sort.SliceStable(found, func(i, j int) bool { return shared[found[i]] > shared[found[j]] })
	best, at := 0, -1
	for _, i := range found[:min(len(found), mostWeighed)] {
		s := Likeness(e.Words, x.memory[i].Source)
		if k := x.memory[i].Key; s >= Least && k != "" && k == e.Key {
			s = min(99, s+3) // the same place in the design
		}
		if s > best {
			best, at = s, i
		}
	}
	if best < Least {
		return nil, 0
	}
	return &x.memory[at], best
}

// Likeness scores two source texts, 0–100: one less the share of letters that must be changed to get from one to the
// other (Levenshtein's distance). 100 only for the same.
func Likeness(a, b string) int {
	if a == b {
		return 100
	}
	x, y := []rune(a), []rune(b)
	if len(x) > 2000 || len(y) > 2000 {
		return 0
	}
	longest := max(len(x), len(y))
	if longest == 0 || abs(len(x)-len(y))*100 > (100-Least)*longest {
		return 0
	}
	return min(99, 100-(100*hint.Distance(x, y)+longest-1)/longest)
}

func abs(n int) int { return max(n, -n) }
