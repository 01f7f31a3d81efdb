package job

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"path"
	"slices"
	"strings"

	"archetyp/core/asset"
	"archetyp/core/design"
	"archetyp/workspace"
)

// ManifestName is the list of all exported files, in the folder of assets.
const ManifestName = "assets.json"

func assetPath(ws *workspace.Workspace, p string) string { return path.Join(ws.Config.Assets.To, p) }

// assetsFrom is a hash of what all exported files depend on beside the drawings.
func (in *inputs) assetsFrom() (string, error) {
	cfg := &in.ws.Config
	return digestOf(Program, cfg.Name, cfg.Root, cfg.Assets, cfg.Marks, in.fontHashes())
}

// exports are the assets of a workspace: as they were exported last, and as they are now.
type exports struct {
	s        *Snapshot
	a        *artefacts
	sets     []asset.Set
	manifest *asset.Manifest // of the assets as they will lie on disk
	before   *asset.Manifest // as they lay there; empty where they were made in another way
	files    map[string]bool // paths of the manifest that lay there
	pictures []*asset.Asset  // those of drawings that had to be read
	warnings []string
}

// lastExports reads what was exported last.
func (s *Snapshot) lastExports(a *artefacts) (*exports, error) {
	x := &exports{s: s, a: a, manifest: &asset.Manifest{Inputs: map[string]string{}}}
	var err error
	if x.manifest.From, err = s.in.assetsFrom(); err != nil {
		return nil, err
	}
	if x.sets, err = s.ws.Config.AssetSets(); err != nil {
		return nil, err
	}
	data, err := s.ws.ReadFile(assetPath(s.ws, ManifestName))
	if err != nil {
		data = nil // nothing was exported
	}
	if x.before, err = asset.ReadManifest(data); err != nil {
		x.before = &asset.Manifest{} // made anew; an edit by hand is reported when it comes to writing
	}
	x.files = map[string]bool{assetPath(s.ws, ManifestName): true}
	for _, f := range append(x.before.Files(), x.before.Shared...) {
		x.files[assetPath(s.ws, f.Path)] = true
	}
	if x.before.From != x.manifest.From {
		x.before = &asset.Manifest{}
	}
	return x, nil
}

// intact reports whether the files of an entry lie there as they were written.
func (x *exports) intact(e *asset.Entry) bool {
	files := map[string]string{}
	for _, f := range e.Files {
		p := assetPath(x.s.ws, f.Path)
		files[p] = x.s.lock.Outputs[p]
	}
	return x.s.in.disk.Intact(files)
}

// changed lists the drawings whose assets may have changed.
func (x *exports) changed() []*drawing {
	entries, broken := map[string]int{}, map[string]bool{}
	for i := range x.before.Assets {
		e := &x.before.Assets[i]
		entries[e.Source]++
		broken[e.Source] = broken[e.Source] || !x.intact(e)
	}
	var out []*drawing
	for _, d := range x.s.drawings {
		same := !broken[d.name] && d.record.Assets == entries[d.name] &&
			(d.record.Assets == 0 || x.before.Inputs[d.name] == x.s.in.hashOf(d.name))
		for p, h := range d.record.Links {
			same = same && (d.record.Assets == 0 || x.before.Inputs[p] == h)
		}
		if !same {
			out = append(out, d)
		}
	}
	return out
}

// unlike lists the sources that must be looked at: all but those that the last export was made from as they are now,
// whose files lie there. It needs no drawing.
func (x *exports) unlike() []string {
	links := map[string]string{}
	for p, h := range x.before.Inputs {
		if !slices.Contains(x.s.in.sources, p) {
			links[p] = h
		}
	}
	if len(x.before.Inputs) == 0 || !x.s.in.disk.Intact(links) {
		return x.s.in.sources
	}
	broken := map[string]bool{}
	for i := range x.before.Assets {
		e := &x.before.Assets[i]
		broken[e.Source] = broken[e.Source] || !x.intact(e)
	}
	var out []string
	for _, p := range x.s.in.sources {
		if broken[p] || x.before.Inputs[p] != x.s.in.hashOf(p) {
			out = append(out, p)
		}
	}
	return out
}

// links are the files that drawings link to, with hashes: of those that were not opened, as the last export knew them.
func (x *exports) links() map[string]string {
	out := linked(x.s.drawings)
	if x.s.partly {
		if out == nil {
			out = map[string]string{}
		}
		for p, h := range x.before.Inputs {
			if _, source := x.s.in.hashes[p]; !source && out[p] == "" {
				out[p] = h
			}
		}
	}
	return out
}

// makeAssets exports the marked elements, side by side. Those that would come out as they lie there are left alone.
func (s *Snapshot) makeAssets(ctx context.Context, a *artefacts, o Options) (*exports, error) {
	x, err := s.lastExports(a)
	if err != nil {
		return nil, err
	}
	of := x.changed()
	untouched := x.untouched(of)
	names, err := x.collect(of, untouched)
	if err != nil {
		return nil, err
	}
	if len(of) < len(s.in.sources) && x.renamed(untouched, names) { // somebody else has a name now: once more, with all
		if s.partly {
			if err := s.readDrawings(ctx, s.in.sources, o); err != nil {
				return nil, err
			}
			s.partly = false
		}
		x.before = &asset.Manifest{}
		untouched = x.untouched(s.drawings)
		if names, err = x.collect(s.drawings, untouched); err != nil {
			return nil, err
		}
	}
	if err := x.export(names, o); err != nil {
		return nil, err
	}
	x.manifest.Assets = append(x.manifest.Assets, untouched...)
	return x, x.finish()
}

// untouched are the entries of sources that are not looked at: nothing about them changed, or they cannot be read.
func (x *exports) untouched(looked []*drawing) []asset.Entry {
	again := map[string]bool{}
	for _, d := range looked {
		again[d.name] = true
	}
	var out []asset.Entry
	for _, e := range x.before.Assets {
		if x.s.unread[e.Source] || !again[e.Source] && slices.Contains(x.s.in.sources, e.Source) {
			out = append(out, e)
		}
	}
	return out
}

// collect finds the assets of drawings, and the names that fit every set.
func (x *exports) collect(of []*drawing, untouched []asset.Entry) (map[string]asset.Names, error) {
	docs, err := docsOf(of)
	if err != nil {
		return nil, err
	}
	var changed []string
	x.pictures, x.warnings = asset.Collect(docs, x.sets)
	names, changed := fitNames(x.sets, x.pictures, untouched)
	x.warnings = append(x.warnings, changed...)
	return names, nil
}

// renamed reports whether an asset that is not looked at has to have another name, or shares it with one that is.
func (x *exports) renamed(untouched []asset.Entry, names map[string]asset.Names) bool {
	taken := map[string]bool{}
	for _, a := range x.pictures {
		taken[strings.ToLower(a.Name)] = true
	}
	return slices.ContainsFunc(untouched, func(e asset.Entry) bool {
		return taken[strings.ToLower(e.Name)] || !maps.Equal(e.Names, namesOf(names, e.Name))
	})
}

// export makes the files of the assets found, and their entries.
func (x *exports) export(names map[string]asset.Names, o Options) error {
	look := asset.Look{Density: x.s.ws.Config.Assets.Density}
	entries := make([]asset.Entry, len(x.pictures))
	made := make([]*asset.Made, len(x.pictures))
	err := Progress(o.Progress, "exporting", len(x.pictures), func(i int) (err error) {
		a := x.pictures[i]
		entries[i] = entryOf(a, look, namesOf(names, a.Name))
		old := x.before.Entry(a.Name)
		if old != nil && old.From == entries[i].From && maps.Equal(old.Names, entries[i].Names) && x.intact(old) {
			entries[i].Bitmap, entries[i].Notes, entries[i].Files = old.Bitmap, old.Notes, old.Files
		} else if made[i], err = asset.Make(a, x.sets, names, look); err != nil {
			return &workspace.FileError{File: a.Source, Position: a.Element.Position, Msg: err.Error()}
		}
		return nil
	})
	if err != nil {
		return err
	}
	for i := range entries {
		if made[i] == nil {
			continue
		}
		entries[i].Bitmap, entries[i].Notes = made[i].Bitmap, made[i].Notes
		for k := range made[i].Files {
			record, err := x.put(&made[i].Files[k], entries[i].Name)
			if err != nil {
				return err
			}
			entries[i].Files = append(entries[i].Files, record)
		}
	}
	x.manifest.Assets = entries
	return nil
}

// finish adds what is about all assets, and the manifest.
func (x *exports) finish() error {
	ws := x.s.ws
	slices.SortFunc(x.manifest.Assets, func(a, b asset.Entry) int { return strings.Compare(a.Name, b.Name) })
	for _, f := range asset.Share(x.sets, ws.Config.Name, x.manifest.Files()) {
		record, err := x.put(&f, "")
		if err != nil {
			return err
		}
		x.manifest.Shared = append(x.manifest.Shared, record)
	}
	for _, e := range x.manifest.Assets {
		x.warnings = append(x.warnings, e.Notes...)
		for _, f := range e.Files {
			if p := assetPath(ws, f.Path); x.a.data(p) == nil {
				x.a.keep(p, x.s.lock.Outputs[p])
			}
		}
	}
	for _, p := range x.s.in.sources {
		if x.manifest.Inputs[p] = x.s.in.hashOf(p); x.s.unread[p] {
			x.manifest.Inputs[p] = "" // it is looked at again
		}
	}
	maps.Copy(x.manifest.Inputs, x.links())
	data, err := x.manifest.JSON()
	if err != nil {
		return err
	}
	return x.a.put(workspace.Generated, "the assets", assetPath(ws, ManifestName), data)
}

func (x *exports) put(f *asset.File, name string) (asset.Record, error) {
	return asset.RecordOf(f, name), x.a.put(workspace.Generated, "the assets", assetPath(x.s.ws, f.Path), f.Data)
}

// count counts the files of the assets.
func (x *exports) count() int { return len(x.manifest.Files()) + len(x.manifest.Shared) }

// assetCacheFile keeps what the assets were last made from: enough to see that nothing has changed.
const assetCacheFile = "assets.json"

type assetCache struct {
	From, Sources string            // hashes
	Linked        map[string]string // files the drawings link to
	Manifest      string            // its hash
	Assets, Files int
	Notes         []string
}

// assetsUnchanged reports whether the assets are as the drawings have them, and counts them.
func (in *inputs) assetsUnchanged(l *workspace.Lock, s *Summary) bool {
	var c assetCache
	data, ok := in.ws.Cached(assetCacheFile)
	if !ok || json.Unmarshal(data, &c) != nil || c.Sources != in.ofDrawings() || c.Manifest == "" ||
		c.Manifest != l.Outputs[assetPath(in.ws, ManifestName)] {
		return false
	}
	from, err := in.assetsFrom()
	if err != nil || from != c.From || !in.disk.Intact(c.Linked) || !in.disk.Intact(l.Outputs) {
		return false
	}
	s.Sources, s.Assets, s.AssetFiles, s.Warnings = len(in.sources), c.Assets, c.Files, c.Notes
	return true
}

// remember keeps what the assets that lie on disk now were made from.
func (x *exports) remember() error {
	if len(x.s.unread) > 0 {
		return nil
	}
	ws := x.s.ws
	c := assetCache{From: x.manifest.From, Sources: x.s.in.ofDrawings(), Linked: x.links(),
		Manifest: workspace.Hash(x.a.data(assetPath(ws, ManifestName))),
		Assets:   len(x.manifest.Assets), Files: x.count()}
	for _, e := range x.manifest.Assets {
		c.Notes = append(c.Notes, e.Notes...)
	}
	data, err := json.Marshal(c)
	if err == nil {
		ws.Cache(assetCacheFile, data)
	}
	return err
}

// fitNames makes the names of all assets fit for every set.
func fitNames(sets []asset.Set, list []*asset.Asset, more []asset.Entry) (map[string]asset.Names, []string) {
	var all []string
	for _, a := range list {
		all = append(all, a.Name)
	}
	for _, e := range more {
		all = append(all, e.Name)
	}
	names := map[string]asset.Names{}
	var changed []string
	for i := range sets {
		fitted, said := sets[i].Fit(all)
		names[sets[i].Name] = fitted
		if !sets[i].Only {
			changed = append(changed, said...)
		}
	}
	return names, changed
}

func namesOf(names map[string]asset.Names, name string) map[string]string {
	out := map[string]string{}
	for set, n := range names {
		if n[name] != name {
			out[set] = n[name]
		}
	}
	return out
}

// entryOf describes an asset as it is now, but for its files.
func entryOf(a *asset.Asset, look asset.Look, names map[string]string) asset.Entry {
	paint := design.Alone(a.Element)
	if a.Element.Parent == nil {
		paint = a.Element.Screen.Picture()
	}
	k := look.Density
	if k == 0 {
		k = 1
	}
	e := asset.Entry{Name: a.Name, Source: a.Source, Element: a.Element.Selector(), Names: names, Width: a.Box.W / k,
		Height: a.Box.H / k}
	e.From = workspace.Hash([]byte(fmt.Sprint(paint.Digest(), a.Box, a.Formats, a.Sets)))
	if len(names) == 0 {
		e.Names = nil
	}
	return e
}

// AssetState is an asset as it is drawn, and how its files stand to that.
type AssetState struct {
	asset.Entry
	Line    int
	Sets    []string
	Formats []string // in all of them, each once
	State   string   // new, changed, same or gone; "" where there is no workspace
	Bytes   int
}

// Assets are the assets of a workspace: those that are drawn, and those whose files are still there. Nothing is
// written.
func Assets(ctx context.Context, ws *workspace.Workspace) (list []AssetState, faults []string, err error) {
	s, err := newSnapshot(ws)
	if err != nil {
		return nil, nil, err
	}
	s.followMoves()
	if err := s.readDrawings(ctx, s.in.sources, Options{Only: "assets"}); err != nil {
		return nil, nil, err
	}
	x, err := s.lastExports(newArtefacts())
	if err != nil {
		return nil, nil, err
	}
	var marked []*drawing
	for _, d := range s.drawings {
		if d.record.Assets > 0 {
			marked = append(marked, d)
		}
	}
	names, err := x.collect(marked, nil)
	if err != nil {
		return nil, nil, err
	}
	look := asset.Look{Density: ws.Config.Assets.Density}
	drawn := map[string]bool{}
	for _, a := range x.pictures {
		drawn[a.Name] = true
		st := StateOf(a, x.sets, look.Density)
		st.Entry = entryOf(a, look, namesOf(names, a.Name))
		x.compare(&st)
		list = append(list, st)
	}
	for _, e := range x.before.Assets {
		if !drawn[e.Name] {
			st := AssetState{Entry: e, State: "gone"}
			st.weigh()
			list = append(list, st)
		}
	}
	return list, x.warnings, nil
}

// compare says how an asset stands to its files.
func (x *exports) compare(s *AssetState) {
	old := x.before.Entry(s.Name)
	switch {
	case old == nil:
		s.State = "new"
		return
	case old.From != s.From || !maps.Equal(old.Names, s.Names) || !x.intact(old):
		s.State = "changed"
	default:
		s.State = "same"
	}
	s.Files, s.Notes, s.Bitmap = old.Files, old.Notes, old.Bitmap
	s.weigh()
}

// weigh adds up the bytes of the files.
func (s *AssetState) weigh() {
	for _, f := range s.Files {
		s.Bytes += f.Bytes
	}
}

// StateOf describes an asset for which no files are known.
func StateOf(a *asset.Asset, sets []asset.Set, density float64) AssetState {
	s := AssetState{Entry: entryOf(a, asset.Look{Density: density}, nil), Line: a.Element.Position.Line}
	for _, t := range a.Targets(sets) {
		s.Sets = append(s.Sets, t.Name)
		for _, f := range a.FormatsIn(&t) {
			if !slices.Contains(s.Formats, f) {
				s.Formats = append(s.Formats, f)
			}
		}
	}
	return s
}
