package job

import (
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

func (r *run) assetPath(p string) string { return path.Join(r.ws.Config.Assets.To, p) }

// assetsFrom is a hash of what all exported files depend on beside the drawings.
func (r *run) assetsFrom() (string, error) {
	fonts := map[string]string{}
	files, err := r.ws.FontFiles()
	if err != nil {
		return "", err
	}
	for _, f := range files {
		fonts[f] = r.hashes[f]
	}
	cfg := &r.ws.Config
	data, err := json.Marshal([]any{Program, cfg.Name, cfg.Root, cfg.Assets, cfg.Marks, fonts})
	return workspace.Hash(data), err
}

// readManifest reads what was exported last, unless it was made in another way.
func (r *run) readManifest() error {
	from, err := r.assetsFrom()
	if err != nil {
		return err
	}
	r.manifest = &asset.Manifest{From: from, Inputs: map[string]string{}}
	data, err := r.ws.ReadFile(r.assetPath(ManifestName))
	if err != nil {
		data = nil // nothing was exported
	}
	if r.before, err = asset.ReadManifest(data); err != nil {
		r.before = &asset.Manifest{} // made anew; an edit by hand is told when it comes to writing
	}
	r.exported = map[string]bool{r.assetPath(ManifestName): true}
	for _, f := range append(r.before.Files(), r.before.Shared...) {
		r.exported[r.assetPath(f.Path)] = true
	}
	if r.before.From != r.manifest.From {
		r.before = &asset.Manifest{}
	}
	return nil
}

// lockedAs is what the lock knows of files, by path.
func (r *run) lockedAs(files []asset.Record) map[string]string {
	out := map[string]string{}
	for _, f := range files {
		p := r.assetPath(f.Path)
		out[p] = r.lock.Outputs[p]
	}
	return out
}

// assetCacheFile keeps what the assets were last made from: enough to see that nothing has changed.
const assetCacheFile = "assets.json"

type assetCache struct {
	From, Sources string            // hashes
	Linked        map[string]string // files the drawings link to
	Manifest      string            // its hash
	Assets, Files int
	Notes         []string
}

// sourcesSeen is a hash of all drawings.
func (r *run) sourcesSeen() string {
	var b strings.Builder
	for _, p := range r.sources {
		b.WriteString(p + "\x00" + r.hashes[p] + "\x00")
	}
	return workspace.Hash([]byte(b.String()))
}

// assetsUnchanged reports whether the assets are as the drawings want them.
func (r *run) assetsUnchanged() bool {
	var c assetCache
	data, ok := r.ws.Cached(assetCacheFile)
	if !ok || json.Unmarshal(data, &c) != nil || c.Sources != r.sourcesSeen() || c.Manifest == "" || c.Manifest != r.lock.Outputs[r.assetPath(ManifestName)] {
		return false
	}
	from, err := r.assetsFrom()
	if err != nil || from != c.From || !r.disk.Intact(c.Linked) || !r.disk.Intact(r.lock.Outputs) {
		return false
	}
	s := &r.report.Summary
	s.Sources, s.Assets, s.AssetFiles, s.Warnings = len(r.sources), c.Assets, c.Files, c.Notes
	return true
}

// rememberAssets keeps what the assets that lie on disk now were made from.
func (r *run) rememberAssets() error {
	if r.o.DryRun || r.manifest == nil || len(r.unread) > 0 {
		return nil
	}
	c := assetCache{From: r.manifest.From, Sources: r.sourcesSeen(), Linked: r.links, Manifest: workspace.Hash(r.outputs[r.assetPath(ManifestName)]),
		Assets: r.report.Summary.Assets, Files: r.report.Summary.AssetFiles}
	for _, e := range r.manifest.Assets {
		c.Notes = append(c.Notes, e.Notes...)
	}
	data, err := json.Marshal(c)
	if err == nil {
		r.ws.Cache(assetCacheFile, data)
	}
	return err
}

// readChanged reads the drawings whose assets may have changed: all, unless what was exported last holds for others.
func (r *run) readChanged() error {
	linked := map[string]string{}
	for p, h := range r.before.Inputs {
		if _, source := r.hashes[p]; !source {
			linked[p] = h
		}
	}
	whole := r.sources
	if len(r.before.Inputs) > 0 && r.disk.Intact(linked) {
		stale := map[string]bool{}
		for _, p := range r.sources {
			stale[p] = r.before.Inputs[p] != r.hashes[p]
		}
		for _, e := range r.before.Assets {
			stale[e.Source] = stale[e.Source] || !r.disk.Intact(r.lockedAs(e.Files))
		}
		r.stale, r.sources = stale, nil
		for _, p := range whole {
			if stale[p] {
				r.sources = append(r.sources, p)
			}
		}
	}
	keep := maps.Clone(r.hashes)
	for _, p := range whole { // those that need not be read
		if r.stale != nil && !r.stale[p] {
			delete(r.hashes, p)
		}
	}
	err := r.load()
	if err == nil {
		err = r.read()
	}
	maps.Copy(r.hashes, keep)
	r.sources = whole
	if r.stale != nil {
		r.links = joinedLinks(r.links, linked)
	}
	return err
}

func joinedLinks(a, b map[string]string) map[string]string {
	if a == nil {
		return b
	}
	maps.Copy(a, b)
	return a
}

// assets exports the marked elements, side by side. Those that would come out as they lie there are left alone.
func (r *run) assets() error {
	if r.manifest == nil {
		if err := r.readManifest(); err != nil {
			return err
		}
	}
	sets, err := r.ws.Config.AssetSets()
	if err != nil {
		return err
	}
	var faults []string
	r.pictures, faults = asset.Collect(r.docs, sets)
	s := &r.report.Summary
	s.Warnings = append(s.Warnings, faults...)
	untouched := r.untouched()
	names, changed := fitNames(sets, r.pictures, untouched)
	s.Warnings = append(s.Warnings, changed...)
	for _, e := range untouched {
		if !maps.Equal(e.Names, namesOf(names, e.Name)) { // somebody else has its name now: once more, with all
			r.stale, r.docs, r.before, r.report.Summary = nil, nil, &asset.Manifest{}, Summary{}
			if err := r.load(); err != nil {
				return err
			}
			if err := r.read(); err != nil {
				return err
			}
			return r.assets()
		}
	}
	look := asset.Look{Density: r.ws.Config.Assets.Density}
	entries := make([]asset.Entry, len(r.pictures))
	made := make([]*asset.Made, len(r.pictures))
	err = Told(r.o.Progress, "exporting", len(r.pictures), func(i int) (err error) {
		a := r.pictures[i]
		entries[i] = entryOf(a, look, namesOf(names, a.Name))
		old := r.before.Entry(a.Name)
		if old != nil && old.From == entries[i].From && maps.Equal(old.Names, entries[i].Names) && r.disk.Intact(r.lockedAs(old.Files)) {
			entries[i].Bitmap, entries[i].Notes, entries[i].Files = old.Bitmap, old.Notes, old.Files
		} else if made[i], err = asset.Make(a, sets, names, look); err != nil {
			return &workspace.FileError{File: a.Source, Position: a.Element.Position, Msg: err.Error()}
		}
		return nil
	})
	if err != nil {
		return err
	}
	for i := range entries {
		if made[i] != nil {
			entries[i].Bitmap, entries[i].Notes = made[i].Bitmap, made[i].Notes
			for k := range made[i].Files {
				record, err := r.putAsset(&made[i].Files[k], entries[i].Name)
				if err != nil {
					return err
				}
				entries[i].Files = append(entries[i].Files, record)
			}
		}
	}
	r.manifest.Assets = append(entries, untouched...)
	return r.finishAssets(sets)
}

// untouched are the entries of sources that were not read, because nothing about them changed.
func (r *run) untouched() []asset.Entry {
	var out []asset.Entry
	for _, e := range r.before.Assets {
		if r.unread[e.Source] || r.stale != nil && !r.stale[e.Source] && slices.Contains(r.sources, e.Source) {
			out = append(out, e)
		}
	}
	return out
}

// finishAssets adds what is about all assets, and the manifest.
func (r *run) finishAssets(sets []asset.Set) error {
	s := &r.report.Summary
	slices.SortFunc(r.manifest.Assets, func(a, b asset.Entry) int { return strings.Compare(a.Name, b.Name) })
	for _, f := range asset.Share(sets, r.ws.Config.Name, r.manifest.Files()) {
		record, err := r.putAsset(&f, "")
		if err != nil {
			return err
		}
		r.manifest.Shared = append(r.manifest.Shared, record)
	}
	for _, e := range r.manifest.Assets {
		s.Warnings = append(s.Warnings, e.Notes...)
		for _, f := range e.Files {
			if p := r.assetPath(f.Path); r.outputs[p] == nil {
				r.kept[p] = r.lock.Outputs[p]
			}
		}
	}
	for _, p := range r.sources {
		if r.manifest.Inputs[p] = r.hashes[p]; r.unread[p] {
			r.manifest.Inputs[p] = "" // it is looked at again
		}
	}
	maps.Copy(r.manifest.Inputs, r.links)
	data, err := r.manifest.JSON()
	if err != nil {
		return err
	}
	if err := r.put(workspace.Generated, "the assets", r.assetPath(ManifestName), data); err != nil {
		return err
	}
	s.Assets, s.AssetFiles = len(r.manifest.Assets), len(r.manifest.Files())+len(r.manifest.Shared)
	return nil
}

func (r *run) putAsset(f *asset.File, name string) (asset.Record, error) {
	return asset.RecordOf(f, name), r.put(workspace.Generated, "the assets", r.assetPath(f.Path), f.Data)
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
	e := asset.Entry{Name: a.Name, Source: a.Source, Element: a.Element.Selector(), Names: names, Width: a.Box.W / k, Height: a.Box.H / k}
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
func Assets(ws *workspace.Workspace) (list []AssetState, faults []string, err error) {
	r := newRun(ws, Options{DryRun: true})
	for _, stage := range []func() error{r.inputs, r.load, r.wholeLock, r.read, r.readManifest} {
		if err := stage(); err != nil {
			return nil, nil, err
		}
	}
	sets, err := ws.Config.AssetSets()
	if err != nil {
		return nil, nil, err
	}
	found, faults := asset.Collect(r.docs, sets)
	names, changed := fitNames(sets, found, nil)
	look := asset.Look{Density: ws.Config.Assets.Density}
	drawn := map[string]bool{}
	for _, a := range found {
		drawn[a.Name] = true
		s := StateOf(a, sets, look.Density)
		s.Entry = entryOf(a, look, namesOf(names, a.Name))
		old := r.before.Entry(a.Name)
		switch {
		case old == nil:
			s.State = "new"
		case old.From != s.From || !maps.Equal(old.Names, s.Names) || !r.disk.Intact(r.lockedAs(old.Files)):
			s.State = "changed"
		default:
			s.State = "same"
		}
		if old != nil {
			s.Files, s.Notes, s.Bitmap = old.Files, old.Notes, old.Bitmap
		}
		for _, f := range s.Files {
			s.Bytes += f.Bytes
		}
		list = append(list, s)
	}
	for _, e := range r.before.Assets {
		if !drawn[e.Name] {
			s := AssetState{Entry: e, State: "gone"}
			for _, f := range e.Files {
				s.Bytes += f.Bytes
			}
			list = append(list, s)
		}
	}
	return list, append(faults, changed...), nil
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
