package asset

import (
	"fmt"
	"path"
	"strings"

	"archetyp/core/code"
	"archetyp/core/hint"
)

// OfPage is the file of a picture that a page of code shows: SVG, and PNG in two densities' worth of pixels where it
// holds any.
func OfPage(p *code.Picture) ([]byte, error) {
	set := Set{Name: "page", Files: "{name}.{format}", Formats: []string{"svg"}, At: []float64{1}}
	if p.Bitmap {
		set.Formats, set.At = []string{"png"}, []float64{2}
	}
	cut := Join(p.Of, Look{})
	if len(p.Of) == 1 { // without what the groups around it do
		cut = (&Asset{Element: p.Of[0], Box: p.Box}).Out(Look{})
	}
	cut.Box = p.Box
	made, err := MakeCut(&cut, &set, path.Base(p.Name))
	if err != nil {
		return nil, fmt.Errorf("the picture %s: %w", p.Name, err)
	}
	if len(made.Files) == 0 {
		return nil, hint.New("the picture "+p.Name+" cannot be written: "+strings.Join(made.Notes, "; "),
			"Mark it as an asset, and choose its formats.")
	}
	return made.Files[0].Data, nil
}
