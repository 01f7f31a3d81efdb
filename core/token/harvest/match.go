package harvest

import "archetyp/core/token"

// match finds the tokens that have the values already.
func (h *Harvest) match(have *token.Set) {
	if have == nil {
		return
	}
	byValue := map[string]string{}
	for _, t := range have.Tokens {
		if t.Value.Alias != "" {
			continue
		}
		if k := have.Key(t); k != "" {
			if _, ok := byValue[k]; !ok {
				byValue[k] = t.Path
			}
		}
	}
	for _, f := range h.Found {
		t := &token.Token{Type: f.Type, Value: f.Value, Own: f.own()}
		kind := f.Kind
		if f.face != nil {
			t.Value = f.face.value("", "")
		}
		f.Token = byValue[have.KeyAs(t, kind)]
		if f.Kind == "radius" && f.size >= token.FullRadius {
			f.Token = have.Full()
		}
		if f.Token == "" && (kind == "space" || kind == "radius") {
			f.Token = byValue[have.KeyAs(t, "")]
		}
	}
}
