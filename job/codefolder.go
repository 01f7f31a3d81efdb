package job

import (
	"fmt"
	"path"
	"slices"

	"archetyp/core/asset"
	"archetyp/core/code"
	"archetyp/core/css"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/token/emit"
	"archetyp/workspace"
)

// CodeFolder is a page as a folder that runs: the page or component itself, one style sheet, the pictures it shows, and
// the workspace's fonts that it is set in. Names are paths from that folder.
//
// As drawn has a face that stood in for a missing family do so again.
func CodeFolder(p *code.Page, main string, text []byte, doc *design.Document, ws *workspace.Workspace,
	asDrawn bool) (map[string][]byte, error) {
	files := map[string][]byte{main: text}
	fonts, err := pageFonts(doc, ws, files, asDrawn)
	if err != nil {
		return nil, err
	}
	tokens, err := pageTokens(p, ws)
	if err != nil {
		return nil, err
	}
	files["style.css"] = []byte(fonts + tokens + code.Print(p.Rules))
	pictures := make([][]byte, len(p.Pictures))
	err = Progress(nil, "", len(pictures), func(i int) (err error) {
		pictures[i], err = asset.OfPage(p.Pictures[i])
		return err
	})
	if err != nil {
		return nil, err
	}
	for i, pic := range p.Pictures {
		files[pic.File()] = pictures[i]
	}
	return files, nil
}

// pageFonts adds the workspace's fonts that a document is set in, and gives the rules for them. As drawn, a face that
// stood in for a missing family does so again.
func pageFonts(doc *design.Document, ws *workspace.Workspace, files map[string][]byte, asDrawn bool) (string, error) {
	var own []string
	if ws != nil {
		var err error
		if own, err = ws.FontFiles(); err != nil {
			return "", err
		}
	}
	var rules []code.Block
	for _, f := range doc.Fonts {
		name := "fonts/" + path.Base(f.File)
		switch {
		case f.Found && slices.Contains(own, f.File):
			data, err := ws.ReadFile(f.File)
			if err != nil {
				return "", err
			}
			files[name] = data
		case !f.Found && asDrawn && f.Family != "":
			name = fmt.Sprintf("fonts/stand-in-%s-%d.ttf", design.Slug(f.Family), f.Weight)
			files[name] = font.Fallback(f.Family, f.Weight)
		default:
			continue
		}
		b := code.Block{Selector: "@font-face", Declarations: []design.Declaration{
			{Prop: "font-family", Value: css.String(f.Family)}, {Prop: "font-weight", Value: fmt.Sprint(f.Weight)},
			{Prop: "src", Value: "url(" + css.String(name) + ")"}}}
		if f.Italic {
			b.Declarations = append(b.Declarations, design.Declaration{Prop: "font-style", Value: "italic"})
		}
		rules = append(rules, b)
	}
	if len(rules) == 0 {
		return "", nil
	}
	return code.Print(rules) + "\n", nil
}

// pageTokens are the custom properties that a page uses, with those they point to, in every context.
func pageTokens(p *code.Page, ws *workspace.Workspace) (string, error) {
	used := p.Properties()
	if ws == nil || len(used) == 0 {
		return "", nil
	}
	lib, err := ws.ReadTokens(nil)
	if err != nil {
		return "", err
	}
	output := workspace.Output{As: "css", Unit: "px"}
	for _, o := range ws.Config.Outputs {
		if o.As == "css" {
			output = o
			break
		}
	}
	options, err := ws.EmitOptions(output, ws.ReadFile)
	if err != nil {
		return "", err
	}
	text, _, err := emit.CSS(lib, options)
	if err != nil {
		return "", err
	}
	return code.KeepProperties(text, used) + "\n", nil
}
