package job

import (
	"encoding/json"
	"path"
	"strings"
	"unicode/utf8"

	"archetyp/core/asset"
	"archetyp/core/code"
	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/guide"
	"archetyp/core/paint/svg"
	"archetyp/core/token/emit"
	"archetyp/workspace"

	fastjson "github.com/go-json-experiment/json"
)

// guideCacheFile keeps what the files of the guide were last made from, and the components of the drawings.
const guideCacheFile = "guide.json"

type guideCache struct {
	Keys  map[string]string // of files, by path below the guide
	Holds map[string]held
}

// held is what the guide shows of a drawing beyond its own pages, as long as the key is the same.
type held struct {
	Key   string
	Holds guide.Holds
}

// makeGuide makes the style guide, and counts its pages. Files that would come out as they lie there are left alone.
func (s *Snapshot) makeGuide(a *artefacts, x *exports, o Options) (pages int, save func() error, err error) {
	var was guideCache
	if data, ok := s.ws.Cached(guideCacheFile); !ok || fastjson.Unmarshal(data, &was) != nil {
		was = guideCache{}
	}
	now := guideCache{Keys: map[string]string{}, Holds: map[string]held{}}
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

// guideInput is what the guide is made of, but for assets. What drawings that are as they were hold is taken from the
// cache.
func (s *Snapshot) guideInput(was, now *guideCache) (*guide.Input, error) {
	values := s.in.ofValues() + s.holdings
	cfg := &s.ws.Config
	used, usedKey := s.usedComponents()
	key, err := digestOf(Program, values, s.in.fontHashes(), usedKey)
	if err != nil {
		return nil, err
	}
	in := &guide.Input{Name: cfg.Name, Key: key, Library: s.Tokens, Tokens: s.Tokens.Base, Harvest: s.Harvest,
		Texts: s.Texts.Catalogue, Property: cfg.Property, CodeNames: s.names.Code, Find: s.names.Finder,
		Code: s.codeOptions, Use: used, Fonts: map[string]guide.Picture{}, Drawings: make([]guide.Drawing, len(s.drawings)),
		Screens: guide.Arrangement{LeaveOut: cfg.Screens.LeaveOut, Order: cfg.Screens.Order, Groups: cfg.Screens.Groups,
			About: cfg.Screens.About}}
	if in.Annotations, err = s.annotations(); err != nil {
		return nil, err
	}
	in.Drift = s.lock.Drift
	if in.Shared, err = s.shared(); err != nil {
		return nil, err
	}
	if in.Emit, err = s.guideTokens(); err != nil {
		return nil, err
	}
	s.guideFaces(in)
	holds := make([]held, len(s.drawings))
	err = Parallel(len(s.drawings), func(i int) error {
		d := s.drawings[i]
		holds[i] = held{Key: workspace.Hash([]byte(d.key + values + Program))}
		if old := was.Holds[d.name]; old.Key == holds[i].Key {
			holds[i] = old
			return nil
		}
		doc, err := d.doc()
		if err == nil {
			holds[i].Holds = guide.HoldsOf(doc, s.names.Code)
		}
		return err
	})
	for i, d := range s.drawings {
		now.Holds[d.name] = holds[i]
		in.Drawings[i] = guide.Drawing{Name: d.name, Key: d.key, Screens: d.record.Screens, Holds: holds[i].Holds, Doc: d.doc}
	}
	return in, err
}

// guideTokens are the options that the guide's custom properties are written with: those of the first CSS output.
func (s *Snapshot) guideTokens() (emit.Options, error) {
	for _, o := range s.ws.Config.Outputs {
		if o.As == "css" {
			return s.ws.EmitOptions(o, s.ws.ReadFile)
		}
	}
	return s.ws.EmitOptions(workspace.Output{As: "css", Unit: "px"}, s.ws.ReadFile)
}

// codeOptions are the options that elements of a drawing are written with in a language, as CodeOptions reads them from
// the workspace. They may be asked for concurrently.
func (s *Snapshot) codeOptions(source, language string) code.Options {
	s.keysOnce.Do(func() { s.keys = keysBySource(s.Texts.Catalogue) })
	keys := s.keys[source]
	o := code.Options{Tokens: s.names.Code, Components: linkedComponents(s.ws),
		Keys: func(e *design.Element) string { return keys[e.Selector()] }}
	if form := wordsForm(s.ws.Config.Code.Text, language); form != "" {
		o.Words = wordsAs(form, keys)
	}
	return o
}

// mostExcerpt is how many lines of a component's file the guide shows.
const mostExcerpt = 40

// usedComponents are the components the team has in code, with the beginning of their files, and a sum of it all.
func (s *Snapshot) usedComponents() (out map[string]guide.Use, key string) {
	out = map[string]guide.Use{}
	for _, name := range sortedKeys(s.ws.Config.Components) {
		c := s.ws.Config.Components[name]
		u := guide.Use{File: c.File, Import: c.Import, Line: c.Use}
		if data, err := s.ws.ReadFile(c.File); err == nil && utf8.Valid(data) {
			lines := strings.SplitAfterN(string(data), "\n", mostExcerpt+1)
			u.Excerpt = strings.Join(lines[:min(len(lines), mostExcerpt)], "")
		}
		out[name] = u
		key += name + "\x00" + u.File + "\x00" + u.Import + "\x00" + u.Line + "\x00" + u.Excerpt + "\x00"
	}
	return out, workspace.Hash([]byte(key))
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

// pictured are the assets with all their files, and the picture that the guide shows: as drawn, or where that is pixels
// alone at 1x.
func (x *exports) pictured() []guide.Asset {
	scale := x.s.ws.Config.Assets.Density
	if scale == 0 {
		scale = 1
	}
	var out []guide.Asset
	for i := range x.manifest.Assets {
		e := &x.manifest.Assets[i]
		g := guide.Asset{Name: e.Name, Width: e.Width * scale, Height: e.Height * scale}
		for _, f := range e.Files {
			p := assetPath(x.s.ws, f.Path)
			make := func() ([]byte, error) {
				if data := x.a.data(p); data != nil {
					return data, nil
				}
				return x.s.ws.ReadFile(p)
			}
			if f.Format != "json" {
				g.Files = append(g.Files, guide.AssetFile{Path: f.Path, Set: f.Set, Format: f.Format, Width: f.Width, Height: f.Height,
					Density: f.Density, Bytes: f.Bytes, Key: f.Hash, Make: make})
			}
			if g.Picture.Make == nil && (f.Format == "svg" || f.Format == "png" || f.Format == "jpeg" || f.Format == "webp") {
				g.Picture = guide.Picture{Key: e.From + p, Extension: path.Ext(p), Make: make}
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
