package job

import (
	"encoding/json"
	"path"
	"strings"

	"archetyp/core/asset"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/guide"
	"archetyp/core/paint/svg"
	"archetyp/workspace"

	fastjson "github.com/go-json-experiment/json"
)

// guideCacheFile keeps what the files of the guide were last made from, and the components of the drawings.
const guideCacheFile = "guide.json"

type guideCache struct {
	Keys  map[string]string // of files, by path below the guide
	Parts map[string]keptParts
}

// keptParts are the components of a drawing, as long as the key is the same.
type keptParts struct {
	Key   string
	Parts []guide.Part
}

// makeGuide makes the style guide, and counts its pages. Files that would come out as they lie there are left alone.
func (s *Snapshot) makeGuide(a *artefacts, x *exports, o Options) (pages int, save func() error, err error) {
	var was guideCache
	if data, ok := s.ws.Cached(guideCacheFile); !ok || fastjson.Unmarshal(data, &was) != nil {
		was = guideCache{}
	}
	now := guideCache{Keys: map[string]string{}, Parts: map[string]keptParts{}}
	in, err := s.guideInput(&was, &now)
	if err != nil {
		return 0, nil, err
	}
	in.Assets = x.pictured()
	files, err := guide.Files(in)
	if err != nil {
		return 0, nil, err
	}
	var todo []guide.File
	for _, f := range files {
		p := path.Join(s.ws.Config.Guide.To, f.Path)
		if strings.HasSuffix(p, ".html") {
			pages++
		}
		if f.Key != "" {
			now.Keys[f.Path] = f.Key
			switch known := was.Keys[f.Path]; {
			case known == f.Key && s.intact(p):
				a.keep(p, s.lock.Outputs[path.Clean(p)])
				continue
			case o.DryRun && known != "" && known != f.Key:
				if err := a.add(p, &artefact{kind: workspace.Generated, maker: "the guide", stale: true}); err != nil {
					return 0, nil, err
				}
				continue
			}
		}
		todo = append(todo, f)
	}
	made := make([][]byte, len(todo))
	err = Progress(o.Progress, "painting", len(todo), func(i int) (err error) {
		made[i], err = todo[i].Make()
		return err
	})
	if err != nil {
		return 0, nil, err
	}
	for i, f := range todo {
		if err := a.put(workspace.Generated, "the guide", path.Join(s.ws.Config.Guide.To, f.Path), made[i]); err != nil {
			return 0, nil, err
		}
	}
	if o.DryRun { // the files stay as they were, what the drawings hold is known
		now.Keys = was.Keys
		return pages, nil, s.cacheGuide(&now)
	}
	return pages, func() error { return s.cacheGuide(&now) }, nil
}

// intact reports whether a file lies there as the last sync wrote it.
func (s *Snapshot) intact(p string) bool {
	h := s.lock.Outputs[path.Clean(p)]
	if h == "" {
		return false
	}
	now, err := s.in.disk.Hash(path.Clean(p))
	return err == nil && now == h
}

func (s *Snapshot) cacheGuide(now *guideCache) error {
	data, err := json.Marshal(now)
	if err == nil {
		s.ws.Cache(guideCacheFile, data)
	}
	return err
}

// guideInput is what the guide is made of, but for assets. The components of drawings that are as they were are taken
// from the cache.
func (s *Snapshot) guideInput(was, now *guideCache) (*guide.Input, error) {
	values := s.in.ofValues() + s.holdings
	key, err := digestOf(Program, values, s.in.fontHashes())
	if err != nil {
		return nil, err
	}
	in := &guide.Input{Name: s.ws.Config.Name, Key: key, Tokens: s.Tokens.Base, Harvest: s.Harvest,
		Texts: s.Texts.Catalogue, Property: s.ws.Config.Property,
		CodeNames: s.names.Code, Fonts: map[string]guide.Picture{}, Drawings: make([]guide.Drawing, len(s.drawings))}
	s.guideFaces(in)
	parts := make([]keptParts, len(s.drawings))
	err = Parallel(len(s.drawings), func(i int) error {
		d := s.drawings[i]
		parts[i] = keptParts{Key: workspace.Hash([]byte(d.key + values))}
		if old := was.Parts[d.name]; old.Key == parts[i].Key {
			parts[i] = old
			return nil
		}
		doc, err := d.doc()
		if err == nil {
			parts[i].Parts = guide.PartsOf(doc, s.names.Code)
		}
		return err
	})
	for i, d := range s.drawings {
		now.Parts[d.name] = parts[i]
		in.Drawings[i] = guide.Drawing{Name: d.name, Key: d.key, Screens: d.record.Screens, Parts: parts[i].Parts, Doc: d.doc}
	}
	return in, err
}

// guideFaces adds the workspace's fonts. The guide is set in the family that the drawings use most, and its titles in
// another one at the largest size, where the workspace has their files.
func (s *Snapshot) guideFaces(in *guide.Input) {
	has := map[string]bool{}
	for _, f := range s.in.fonts {
		face := s.faces[f]
		has[face.Family] = true
		name := path.Base(f)
		in.Fonts[name] = guide.Picture{Key: s.in.hashOf(f), Make: func() ([]byte, error) { return s.in.read(f) }}
		in.Faces = append(in.Faces, guide.Face{Family: face.Family, Weight: face.Weight, Italic: face.Italic, File: name})
	}
	letters, largest := map[string]int{}, map[string]float64{}
	for _, d := range s.drawings {
		for list, set := range d.record.Families {
			for _, family := range font.Families(list) {
				if has[family] {
					letters[family] += set.Letters
					largest[family] = max(largest[family], set.Largest)
					break
				}
			}
		}
	}
	for _, family := range sortedKeys(letters) {
		if in.Body == "" || letters[family] > letters[in.Body] {
			in.Body = family
		}
	}
	for _, family := range sortedKeys(largest) {
		if family != in.Body && largest[family] >= largest[in.Body] &&
			(in.Title == "" || largest[family] > largest[in.Title]) {
			in.Title = family
		}
	}
}

// pictured are the assets with the picture that the guide shows: as drawn, or where that is pixels alone at 1x.
func (x *exports) pictured() []guide.Asset {
	scale := x.s.ws.Config.Assets.Density
	if scale == 0 {
		scale = 1
	}
	var out []guide.Asset
	for i := range x.manifest.Assets {
		e := &x.manifest.Assets[i]
		g := guide.Asset{Name: e.Name, Width: e.Width * scale, Height: e.Height * scale}
		seen := map[string]bool{}
		for _, f := range e.Files {
			if kind := f.Set + " " + f.Format; f.Format != "json" && !seen[kind] {
				seen[kind] = true
				g.Files = append(g.Files, kind)
			}
			if g.Picture.Make == nil && (f.Format == "svg" || f.Format == "png" || f.Format == "jpeg" || f.Format == "webp") {
				p := assetPath(x.s.ws, f.Path)
				g.Picture = guide.Picture{Key: e.From + p, Extension: path.Ext(p), Make: func() ([]byte, error) {
					if data := x.a.data(p); data != nil {
						return data, nil
					}
					return x.s.ws.ReadFile(p)
				}}
			}
		}
		if g.Picture.Make == nil {
			g.Picture = guide.Picture{Key: e.From, Extension: ".svg", Make: func() ([]byte, error) { return x.drawn(e) }}
		}
		out = append(out, g)
	}
	return out
}

// drawn is an asset as SVG, from its drawing.
func (x *exports) drawn(e *asset.Entry) ([]byte, error) {
	for _, d := range x.s.drawings {
		if d.name != e.Source {
			continue
		}
		doc, err := d.doc()
		if err != nil {
			return nil, err
		}
		found, _ := asset.Collect([]*design.Document{doc}, x.sets)
		for _, a := range found {
			if a.Name == e.Name {
				cut := a.Out(asset.Look{})
				return svg.Write(cut.Paint, cut.Box, svg.Options{}), nil
			}
		}
	}
	return nil, nil // of a drawing that cannot be read
}
