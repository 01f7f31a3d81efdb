package asset

import (
	"bytes"
	"crypto/sha256"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"sort"
)

// Manifest lists every file that was exported, and what it was made from. docs/schema/assets-manifest.schema.json
// says the same.
type Manifest struct {
	Version int `json:"version"`
	// hash of what all depends on: the sets, the marks of the configuration, the program
	From   string            `json:"from"`
	Inputs map[string]string `json:"inputs"` // source, or file that one links to → hash
	Assets []Entry           `json:"assets"`
	Shared []Record          `json:"shared,omitempty"` // files about several assets
}

// ManifestVersion is that of the form of the manifest.
const ManifestVersion = 1

// Entry is an asset in the manifest.
type Entry struct {
	Name    string            `json:"name"`
	Source  string            `json:"source"`
	Element string            `json:"element"` // a selector
	From    string            `json:"from"`    // hash of what it paints
	Names   map[string]string `json:"names,omitempty"`
	Width   float64           `json:"width"` // at 1x, px
	Height  float64           `json:"height"`
	Bitmap  float64           `json:"bitmapDensity,omitempty"` // of an asset that is a bitmap
	Notes   []string          `json:"notes,omitempty"`
	Files   []Record          `json:"files"`
}

// Record is a file in the manifest.
type Record struct {
	Path    string  `json:"path"`
	Set     string  `json:"set"`
	Asset   string  `json:"-"`
	Format  string  `json:"format"`
	Width   int     `json:"width,omitempty"` // pixels; px for vectors
	Height  int     `json:"height,omitempty"`
	Density float64 `json:"density,omitempty"`
	Bytes   int     `json:"bytes"`
	Hash    string  `json:"hash"` // sha256-…, as https://www.w3.org/TR/SRI/ writes it
}

// RecordOf describes a file.
func RecordOf(f *File, asset string) Record {
	sum := sha256.Sum256(f.Data)
	return Record{f.Path, f.Set, asset, f.Format, f.Width, f.Height, f.Density, len(f.Data),
		"sha256-" + base64.StdEncoding.EncodeToString(sum[:])}
}

// ReadManifest reads a manifest; an empty one for nothing, or for one of another form.
func ReadManifest(data []byte) (*Manifest, error) {
	m := &Manifest{}
	if len(data) == 0 {
		return m, nil
	}
	if err := json.Unmarshal(data, m); err != nil {
		return &Manifest{}, fmt.Errorf("not a manifest of assets: %w", err)
	}
	if m.Version != ManifestVersion {
		return &Manifest{}, nil
	}
	for i := range m.Assets {
		for k := range m.Assets[i].Files {
			m.Assets[i].Files[k].Asset = m.Assets[i].Name
		}
	}
	return m, nil
}

// JSON writes the manifest: one line a file, in the order of names, so that it merges well.
func (m *Manifest) JSON() ([]byte, error) {
	m.Version = ManifestVersion
	sort.Slice(m.Assets, func(i, j int) bool { return m.Assets[i].Name < m.Assets[j].Name })
	var b bytes.Buffer
	line := func(v any) error {
		data, err := marshal(v)
		b.Write(data)
		return err
	}
	inputs, err := json.MarshalIndent(m.Inputs, "  ", "  ")
	if err != nil {
		return nil, err
	}
	from, err := marshal(m.From)
	if err != nil {
		return nil, err
	}
	fmt.Fprintf(&b, "{\n  \"version\": %d,\n  \"from\": %s,\n  \"inputs\": %s,\n  \"assets\": [", m.Version, from, inputs)
	for i, a := range m.Assets {
		if i > 0 {
			b.WriteByte(',')
		}
		files := a.Files
		a.Files = nil
		head, err := marshal(a)
		if err != nil {
			return nil, err
		}
		b.WriteString("\n    ")
		b.Write(bytes.TrimSuffix(head, []byte("null}")))
		b.WriteByte('[')
		for k, f := range files {
			if k > 0 {
				b.WriteByte(',')
			}
			b.WriteString("\n      ")
			if err := line(f); err != nil {
				return nil, err
			}
		}
		b.WriteString("]}")
	}
	b.WriteString("]")
	if len(m.Shared) > 0 {
		b.WriteString(",\n  \"shared\": [")
		for i, f := range m.Shared {
			if i > 0 {
				b.WriteByte(',')
			}
			b.WriteString("\n    ")
			if err := line(f); err != nil {
				return nil, err
			}
		}
		b.WriteString("]")
	}
	b.WriteString("\n}\n")
	return b.Bytes(), nil
}

func marshal(v any) ([]byte, error) {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	err := e.Encode(v)
	return bytes.TrimSuffix(b.Bytes(), []byte("\n")), err
}

// Entry is the manifest's entry of a name.
func (m *Manifest) Entry(name string) *Entry {
	for i := range m.Assets {
		if m.Assets[i].Name == name {
			return &m.Assets[i]
		}
	}
	return nil
}

// Files are all files of the manifest that belong to assets.
func (m *Manifest) Files() []Record {
	var out []Record
	for _, a := range m.Assets {
		out = append(out, a.Files...)
	}
	return out
}

// Share makes the files about several assets: style sheets, descriptions of folders, a site's manifest.
func Share(sets []Set, site string, records []Record) []File {
	var out []File
	for i := range sets {
		s := &sets[i]
		switch s.Kind {
		case "web":
			out = append(out, s.snippets(records)...)
		case "ios":
			out = append(out, s.catalogue(records)...)
		case "favicon":
			out = append(out, s.siteManifest(site, records)...)
		}
	}
	return out
}
