package job

import (
	"strings"

	"archetyp/core/phase"
	"archetyp/core/text"
	"archetyp/core/token"
	"archetyp/workspace"
)

// Conflict is something that two people changed at the same time. Both versions are there; one is to be chosen.
type Conflict struct {
	File   string `json:"file"`
	What   string `json:"what"`
	Ours   string `json:"ours,omitempty"`
	Theirs string `json:"theirs,omitempty"`
	Settle string `json:"settle"` // how
}

// TheirsExt is behind the name of a file that could not be merged, for the version of the other side.
const TheirsExt = ".theirs"

// Conflicts lists the conflicts that are left in the workspace.
func Conflicts(ws *workspace.Workspace) (out []Conflict, err error) {
	lib, err := ws.ReadTokens(nil)
	if err != nil {
		return nil, err
	}
	for _, c := range lib.Base.Conflicts() {
		file := "tokens"
		if t := lib.Base.Get(c.Path); t != nil {
			file = t.File
		}
		out = append(out, tokenConflict(file, c))
	}
	c, ok, err := ReadTexts(ws)
	if err != nil {
		return nil, err
	}
	if ok {
		for _, f := range c.Check(text.CheckOptions{Only: []string{"conflict"}}) {
			out = append(out, Conflict{File: workspace.TextDir + "/" + f.Locale + ".json", What: f.Key, Ours: f.Msg, Settle: settleText(f.Key, f.Locale, c.Locale)})
		}
	}
	book, err := readBook(ws)
	if err != nil {
		return nil, err
	}
	for _, k := range book.Keys() {
		for _, x := range book.Entries[k].Or {
			out = append(out, phaseConflict(k, book.Entries[k].Statement, x))
		}
	}
	left, err := ws.Glob([]string{"**/*" + TheirsExt})
	for _, f := range left {
		out = append(out, fileConflict(strings.TrimSuffix(f, TheirsExt)))
	}
	return out, err
}

func tokenConflict(file string, c token.Conflict) Conflict {
	what := c.Path
	if c.Property != "" {
		what += " " + c.Property
	}
	return Conflict{file, what, c.Ours, c.Theirs, "archetyp tokens set " + c.Path + " VALUE"}
}

func settleText(key, locale, source string) string {
	if locale == source {
		return "archetyp text set " + key + " WORDS"
	}
	return "archetyp text set " + key + " WORDS --locale " + locale
}

func phaseConflict(key string, ours, theirs phase.Statement) Conflict {
	return Conflict{phase.FileName, key, ours.Phase + " by " + ours.By, theirs.Phase + " by " + theirs.By, "archetyp phase set SOURCE SELECTOR PHASE"}
}

func fileConflict(file string) Conflict {
	return Conflict{File: file, What: "the file", Ours: file, Theirs: file + TheirsExt,
		Settle: "take what you want of " + file + TheirsExt + ", and remove it"}
}
