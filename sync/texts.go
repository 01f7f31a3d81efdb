package sync

import (
	"encoding/json"

	"archetyp/core/design"
	"archetyp/core/match"
	"archetyp/core/text"
	"archetyp/workspace"
)

// texts collects the words of the drawings into the catalogue of the source language.
func (r *run) texts() error {
	cfg := &r.ws.Config.Text
	old, err := text.ReadCatalogue(cfg.Source, r.files[r.wordsFile()], r.files[keysFile])
	if err != nil {
		return &workspace.FileError{File: r.wordsFile(), Msg: err.Error(), Hint: "Take it from version control."}
	}
	if r.texts_, err = text.Collect(r.docs, old, cfg.Source, cfg.Keys); err != nil {
		return &workspace.FileError{File: workspace.ConfigName, Msg: "text.keys: " + err.Error()}
	}
	c := r.texts_.Catalogue
	for _, e := range c.Entries {
		if !e.Unused {
			r.report.Summary.Texts++
		}
	}
	r.report.Summary.Folded = r.texts_.Count("folded")
	r.put(r.wordsFile(), c.LocaleJSON())
	r.put(keysFile, c.KeysJSON())
	return nil
}

func jsonOf(v any) (json.RawMessage, error) {
	data, err := json.Marshal(v)
	return data, err
}

func lockedElement(e *design.Element) workspace.LockedElement {
	return workspace.LockedElement{Identity: match.Of(e), Facts: factsHash(e)}
}
