package guide

import (
	"archive/zip"
	"bytes"
	"fmt"
	"path"
	"strings"

	"archetyp/core/digest"
)

// Asset is an exported element, with a picture of it.
type Asset struct {
	Name          string
	Width, Height float64 // px
	Picture       Picture
	Files         []AssetFile // all files there are of it
}

// AssetFile is a file of an asset. Density is 0 for a drawing.
type AssetFile struct {
	Path, Set, Format string // the path below the folder that assets go to
	Width, Height     int    // pixels
	Density           float64
	Bytes             int
	Key               string // hash of it
	Make              func() ([]byte, error)
}

// assetModel is an asset as its page shows it.
type assetModel struct {
	Name, ID, Picture string
	Width, Height     float64
	Sets              []assetSet
}

// assetSet is the files that one target wants.
type assetSet struct {
	Name  string
	Files []assetLink
}

type assetLink struct{ Label, Page, Title string }

type assetsPage struct {
	Assets []assetModel
	Zip    string
	Bytes  string
}

// maxZip is the size of all assets up to which they are offered as one file, in bytes.
const maxZip = 64 << 20

// assets adds the page of assets, and all their files, to be taken from it.
func (b *builder) assets() {
	if len(b.in.Assets) == 0 {
		return
	}
	page := assetsPage{}
	taken := map[string]bool{}
	total, key := 0, digest.New()
	for _, a := range b.in.Assets {
		am := assetModel{Name: a.Name, ID: unique(assetID(a.Name), "asset", taken), Width: a.Width, Height: a.Height,
			Picture: "assets/" + a.Name + a.Picture.Extension}
		b.files = append(b.files, File{Path: am.Picture, Key: a.Picture.Key, Make: a.Picture.Make})
		for _, f := range a.Files {
			at := "files/" + f.Path
			total += f.Bytes
			key.Text(f.Path, f.Key)
			b.files = append(b.files, File{Path: at, Key: f.Key, Make: f.Make})
			am.add(f, at)
		}
		page.Assets = append(page.Assets, am)
		b.found = append(b.found, entry{Kind: "asset", Name: a.Name, Page: "assets.html#" + am.ID,
			About: fmt.Sprintf("%s × %s px", short(a.Width), short(a.Height))})
	}
	if total > 0 && total <= maxZip {
		page.Zip, page.Bytes = "files/assets.zip", bytesText(total)
		b.files = append(b.files, File{Path: page.Zip, Key: key.String(), Make: func() ([]byte, error) { return zipped(b.in.Assets) }})
	}
	b.page(shown("Assets", "assets.html", "assets", page))
}

// add puts a file into its set.
func (a *assetModel) add(f AssetFile, at string) {
	i := len(a.Sets) - 1
	if i < 0 || a.Sets[i].Name != f.Set {
		a.Sets = append(a.Sets, assetSet{Name: f.Set})
		i++
	}
	l := assetLink{Label: strings.ToUpper(f.Format), Page: at, Title: f.Path + ", " + bytesText(f.Bytes)}
	switch {
	case f.Density > 0:
		l.Label = short(f.Density) + "x " + l.Label
	case f.Width > 0 && f.Format != "svg" && f.Format != "pdf" && f.Format != "vector":
		l.Label = fmt.Sprintf("%d px %s", f.Width, l.Label)
	}
	a.Sets[i].Files = append(a.Sets[i].Files, l)
}

// assetID is where an asset stands on its page.
func assetID(name string) string { return strings.ReplaceAll(name, " ", "-") }

// zipped packs the files of all assets. It has no time stamps, so the same files give the same bytes.
func zipped(list []Asset) ([]byte, error) {
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	done := map[string]bool{}
	for _, a := range list {
		for _, f := range a.Files {
			if done[f.Path] {
				continue
			}
			done[f.Path] = true
			data, err := f.Make()
			if err != nil {
				return nil, err
			}
			method := zip.Store // pictures are packed already
			if ext := path.Ext(f.Path); ext == ".svg" || ext == ".xml" || ext == ".json" {
				method = zip.Deflate
			}
			to, err := w.CreateHeader(&zip.FileHeader{Name: f.Path, Method: method})
			if err == nil {
				_, err = to.Write(data)
			}
			if err != nil {
				return nil, err
			}
		}
	}
	err := w.Close()
	return out.Bytes(), err
}

// bytesText is a size in words.
func bytesText(n int) string {
	switch {
	case n < 1000:
		return fmt.Sprintf("%d B", n)
	case n < 1e6:
		return fmt.Sprintf("%.1f kB", float64(n)/1e3)
	}
	return fmt.Sprintf("%.1f MB", float64(n)/1e6)
}
