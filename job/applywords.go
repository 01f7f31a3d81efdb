package job

import (
	"context"
	"fmt"
	"slices"

	"archetyp/core/hint"
	"archetyp/core/text"
	"archetyp/core/text/fit"
)

// Words puts the words of a locale into the drawings. Those of several lines wrap again in their room.
func (a *Applying) Words(ctx context.Context, source, locale string) error {
	c, err := a.catalogue(ctx)
	if err != nil {
		return err
	}
	if locale == c.Locale {
		return hint.New(locale+" is the source language: its words are those of the drawings", "\"archetyp text set KEY WORDS --apply\" changes them.")
	}
	if !slices.Contains(c.Locales, locale) {
		return hint.New("there is no locale "+locale, "text: locales: in the configuration lists them.")
	}
	return a.words(c, source, locale, nil)
}

// Word gives a key other words in the source language, in every drawing that shows it.
func (a *Applying) Word(ctx context.Context, key, words string) error {
	c, err := a.catalogue(ctx)
	if err != nil {
		return err
	}
	c = c.Clone()
	e := c.Get(key)
	if e == nil || e.Unused {
		return hint.New("there is no text under the key "+key, "\"archetyp text list\" lists them.")
	}
	e.Words, e.Said = words, ""
	return a.words(c, "", c.Locale, map[string]bool{key: true})
}

// catalogue is what a sync would make of the texts now.
func (a *Applying) catalogue(ctx context.Context) (*text.Catalogue, error) {
	s, err := Read(ctx, a.ws)
	if err != nil {
		return nil, err
	}
	return s.Texts.Catalogue, nil
}

func (a *Applying) words(c *text.Catalogue, source, locale string, keys map[string]bool) error {
	m := Measurer(a.ws, a.fonts)
	for _, name := range Drawings(c, "") {
		if source != "" && name != source {
			continue
		}
		one := AppliedOne{What: "words", Old: c.Locale, New: locale}
		if keys != nil {
			one.What, one.Old, one.New = sortedKeys(keys)[0], "", ""
			if e := c.Get(one.What); e != nil {
				one.New = e.Words
				if !slices.ContainsFunc(e.Places, func(p text.Place) bool { return p.Source == name }) {
					continue
				}
			}
		}
		d, err := a.drawing(name)
		if err != nil {
			return err
		}
		if err := a.revised(d).Writable(); err != nil {
			if err := a.refuse(name, one, err); err != nil {
				return err
			}
			continue
		}
		if d.doc.Format != "svg" {
			continue
		}
		placed, err := fit.PlaceKeys(d.now, d.doc, c, locale, m, keys)
		if err != nil {
			return fmt.Errorf("%s: %w", name, err)
		}
		for _, why := range placed.Skipped {
			a.Refused = append(a.Refused, Refused{name, one.What, one.Old, one.New, why})
		}
		one.Elements = placed.Count
		if err := a.take(d, placed.Edits, one); err != nil {
			return err
		}
	}
	return nil
}
