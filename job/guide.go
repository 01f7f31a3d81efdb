package job

import (
	"path"
	"strings"

	"archetyp/core/asset"
	"archetyp/core/font"
	"archetyp/core/guide"
	"archetyp/core/paint/svg"
	"archetyp/workspace"
)

// guide makes the style guide: pages at once, pictures side by side.
func (r *run) guide() error {
	in := &guide.Input{Name: r.ws.Config.Name, Docs: r.docs, Tokens: r.set, Harvest: r.harvest, Texts: r.texts_.Catalogue,
		Assets: r.pictures, AssetFiles: r.guidePictures(), Property: r.ws.Config.Property, CodeNames: r.names.Code, Fonts: map[string][]byte{}}
	for _, f := range sortedKeys(r.faces) {
		face := r.faces[f]
		name := path.Base(f)
		in.Fonts[name] = r.files[f]
		in.Faces = append(in.Faces, guide.Face{Family: face.Family, Weight: face.Weight, Italic: face.Italic, File: name})
	}
	in.Body, in.Title = r.guideFonts()
	jobs, err := guide.Jobs(in)
	if err != nil {
		return err
	}
	made := make([][]byte, len(jobs))
	err = Told(r.o.Progress, "painting", len(jobs), func(i int) (err error) {
		made[i], err = jobs[i].Make()
		return err
	})
	if err != nil {
		return err
	}
	for i, j := range jobs {
		if err := r.put(workspace.Generated, "the guide", path.Join(r.ws.Config.Guide.To, j.Path), made[i]); err != nil {
			return err
		}
		if strings.HasSuffix(j.Path, ".html") {
			r.report.Summary.GuidePages++
		}
	}
	return nil
}

// guidePictures are the pictures the guide shows of the assets: as drawn, or where that is pixels alone at 1x.
func (r *run) guidePictures() map[string]guide.AssetFile {
	out := map[string]guide.AssetFile{}
	for _, e := range r.manifest.Assets {
		var g guide.AssetFile
		seen := map[string]bool{}
		for _, f := range e.Files {
			if kind := f.Set + " " + f.Format; f.Format != "json" && !seen[kind] {
				seen[kind] = true
				g.Files = append(g.Files, kind)
			}
			if g.Data != nil || f.Format != "svg" && f.Format != "png" && f.Format != "jpeg" && f.Format != "webp" {
				continue
			}
			p := r.assetPath(f.Path)
			if g.Data = r.outputs[p]; g.Data == nil {
				g.Data, _ = r.ws.ReadFile(p) // seen a moment ago; a page without it does no harm
			}
			g.Extension = path.Ext(p)
		}
		out[e.Name] = g
	}
	for _, a := range r.pictures {
		if g := out[a.Name]; g.Data == nil {
			cut := a.Out(asset.Look{})
			g.Data, g.Extension = svg.Write(cut.Paint, cut.Box, svg.Options{}), ".svg"
			out[a.Name] = g
		}
	}
	return out
}

// guideFonts are the families the drawings use most, and for titles another one at the largest size, where the
// workspace has their files.
func (r *run) guideFonts() (body, title string) {
	has := map[string]bool{}
	for _, f := range r.faces {
		has[f.Family] = true
	}
	letters, largest := map[string]int{}, map[string]float64{}
	for _, d := range r.docs {
		for _, e := range d.All() {
			if e.Words == nil || e.Hidden {
				continue
			}
			for _, fam := range font.Families(e.Words.Family.Value) {
				if has[fam] {
					letters[fam] += len(e.Words.Words)
					largest[fam] = max(largest[fam], e.Words.Size.Value)
					break
				}
			}
		}
	}
	for _, fam := range sortedKeys(letters) {
		if body == "" || letters[fam] > letters[body] {
			body = fam
		}
	}
	for _, fam := range sortedKeys(largest) {
		if fam != body && largest[fam] >= largest[body] && (title == "" || largest[fam] > largest[title]) {
			title = fam
		}
	}
	return body, title
}
