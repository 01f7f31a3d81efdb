package job

import (
	"fmt"
	"path"
	"path/filepath"
	"strconv"
	"strings"

	"archetyp/core/asset"
	"archetyp/core/design"
	"archetyp/core/hint"
)

// Export exports elements once, beside the sets of a workspace.
type Export struct {
	Set      *asset.Set
	Folder   string // of the files
	Look     asset.Look
	Strip    bool   // of what repeats one column or row of pixels, only that one
	Of       string // the source, for messages; "" for the workspace
	Progress func(stage string, done, of int)
}

// Cut is an element, or several as one, and what its picture is called.
type Cut struct {
	Name string
	of   func(asset.Look) asset.Cut
}

// Exported is a file of an export.
type Exported struct {
	File    string  `json:"file"`
	Asset   string  `json:"asset"`
	Format  string  `json:"format"`
	Width   int     `json:"width"`
	Height  int     `json:"height"`
	Density float64 `json:"density,omitempty"`
	Bytes   int     `json:"bytes"`
	CSS     string  `json:"css,omitempty"` // that repeats a strip
	Data    []byte  `json:"-"`
}

// Files makes the files of cuts, side by side, and says what deserves a note.
func (x *Export) Files(cuts []Cut) (list []Exported, notes []string, err error) {
	names := make([]string, len(cuts))
	for i := range cuts {
		names[i] = cuts[i].Name
	}
	fitted, notes := x.Set.Fit(names)
	made, repeats := make([]*asset.Made, len(cuts)), make([]func(string) string, len(cuts))
	err = Progress(x.Progress, "exporting", len(cuts), func(i int) (err error) {
		made[i], repeats[i], err = x.make(cuts[i], fitted[cuts[i].Name])
		return err
	})
	if err != nil {
		return nil, nil, err
	}
	for i, c := range cuts {
		notes = append(notes, made[i].Notes...)
		for _, f := range made[i].Files {
			one := Exported{path.Join(x.Folder, f.Path), c.Name, f.Format, f.Width, f.Height, f.Density, len(f.Data), "", f.Data}
			if x.Strip {
				one.CSS = repeats[i](path.Base(one.File))
			}
			list = append(list, one)
		}
	}
	if len(list) == 0 {
		return nil, nil, hint.New(x.of("")+"no file can be made of it: "+strings.Join(notes, "; "),
			"Choose another --format.")
	}
	return list, notes, nil
}

func (x *Export) make(c Cut, name string) (made *asset.Made, repeat func(string) string, err error) {
	cut := c.of(x.Look)
	if x.Strip {
		var ok bool
		if repeat, ok, err = cut.Strip(); err != nil {
			return nil, nil, err
		} else if !ok {
			return nil, nil, hint.New(x.of(c.Name)+" is no strip: neither its columns nor its rows are all alike",
				"\"archetyp assets advise\" lists what is.")
		}
	}
	if made, err = asset.MakeCut(&cut, x.Set, name); err != nil {
		err = fmt.Errorf("%s: %w", x.of(c.Name), err)
	}
	return made, repeat, err
}

// of names a thing in the source, for messages.
func (x *Export) of(name string) string {
	if x.Of == "" {
		return name
	}
	return x.Of + ": " + name
}

// MarkedCuts are the elements of documents that are marked as assets.
func MarkedCuts(docs []*design.Document, sets []asset.Set) ([]Cut, error) {
	list, faults := asset.Collect(docs, sets)
	if len(list) == 0 && len(faults) > 0 {
		return nil, fmt.Errorf("%s", faults[0])
	}
	var out []Cut
	for _, a := range list {
		out = append(out, Cut{a.Name, a.Out})
	}
	return out, nil
}

// JoinedCut is one picture of several elements of one screen, each where it stands.
func JoinedCut(found []*design.Element, name string) ([]Cut, error) {
	for _, e := range found {
		if e.Screen != found[0].Screen {
			return nil, hint.New("--join: the elements stand on different screens",
				"One picture is made of elements of one screen.")
		}
	}
	return []Cut{{name, func(l asset.Look) asset.Cut { return asset.Join(found, l) }}}, nil
}

// CutsOf are pictures of elements, each once. base is the name of one that has none of its own.
func CutsOf(doc *design.Document, found []*design.Element, base string) ([]Cut, error) {
	var out []Cut
	seen := map[*design.Element]bool{}
	taken := map[string]int{}
	for _, e := range found {
		if seen[e] {
			continue
		}
		seen[e] = true
		a := &asset.Asset{Name: cutName(e, base), Element: e, Source: doc.Name, Box: e.Frame()}
		if taken[a.Name]++; taken[a.Name] > 1 {
			a.Name += "-" + strconv.Itoa(taken[a.Name])
		}
		if a.Box.W <= 0 || a.Box.H <= 0 {
			return nil, fmt.Errorf("%s:%d:%d: %s paints nothing", doc.Name, e.Position.Line, e.Position.Column, e.Title())
		}
		out = append(out, Cut{a.Name, a.Out})
	}
	return out, nil
}

// cutName is what the picture of an element is called: as marked, by its name, or by its drawing's.
func cutName(e *design.Element, base string) string {
	if n := e.Marks.Asset; n != "" && asset.ValidName(n) {
		return n
	}
	if e.Parent == nil {
		return base
	}
	if s := design.Slug(e.Title()); s != "" {
		return s
	}
	return base
}

// ExportForm says what an export makes: a set of the workspace, and what is to be otherwise.
type ExportForm struct {
	Set      string   // name; "" for PNG at 1x
	At       []string // densities, as 1.5 or 1.5x
	Formats  []string
	Quality  int // of JPEG; 0 for that of the set
	Current  bool
	Out      string // a folder, or a file, whose name says the format too
	Elements int    // how many there are
}

// Target is the set that a form describes, and the folder its files go to.
func (f *ExportForm) Target(sets []asset.Set) (*asset.Set, string, error) {
	set := &asset.Set{Name: "export", At: []float64{1}, Formats: []string{"png"}, Files: "{name}{x}.{format}", Quality: 85}
	if f.Set != "" {
		named, err := setNamed(sets, f.Set)
		if err != nil {
			return nil, "", err
		}
		set = named
	}
	if len(f.At) > 0 {
		set.At = nil
		for _, w := range f.At {
			d, err := strconv.ParseFloat(strings.TrimSuffix(strings.TrimSpace(w), "x"), 64)
			if err != nil {
				return nil, "", hint.New(fmt.Sprintf("--at %s: %q is no density", strings.Join(f.At, ","), w),
					"For example: --at 1,1.5,2")
			}
			set.At = append(set.At, d)
		}
	}
	if len(f.Formats) > 0 {
		set.Formats = nil
		for _, w := range f.Formats {
			name := strings.ToLower(strings.TrimSpace(w))
			if n, ok := asset.FormatOf(name); ok && n != "vector" {
				name = n
			}
			set.Formats = append(set.Formats, name)
		}
	}
	if f.Quality != 0 {
		set.Quality = f.Quality
	}
	set.Current = set.Current || f.Current
	if ext := path.Ext(f.Out); ext != "" && !strings.HasSuffix(f.Out, "/") {
		return f.oneFile(set, ext)
	}
	return set, f.Out, set.Check()
}

// setNamed is a copy of a set, for files that go elsewhere.
func setNamed(sets []asset.Set, name string) (*asset.Set, error) {
	var names []string
	for _, s := range sets {
		if s.Name == name {
			s.To = ""
			return &s, nil
		}
		names = append(names, s.Name)
	}
	return nil, hint.New(fmt.Sprintf("--set %s: there is no such set", name), "There are "+strings.Join(names, ", ")+".")
}

// oneFile is the target of an export into a file that is named.
func (f *ExportForm) oneFile(set *asset.Set, ext string) (*asset.Set, string, error) {
	format, ok := asset.FormatOf(ext)
	if !ok {
		return nil, "", hint.New(fmt.Sprintf("-o %s: %s is no format that is written", f.Out, ext),
			"There are "+strings.Join(asset.FormatNames(), ", ")+"; a folder's name ends in /.")
	}
	if f.Elements > 1 {
		return nil, "", hint.New(fmt.Sprintf("-o %s: %d elements cannot go into one file", f.Out, f.Elements),
			"--join makes one picture of them; -o FOLDER/ gives each its own.")
	}
	if format == "ico" {
		return nil, "", hint.New("-o "+f.Out+": an icon file is made by the set favicon",
			"For example: archetyp assets export SOURCE SELECTOR --set favicon -o "+path.Dir(f.Out)+"/")
	}
	out := filepath.ToSlash(f.Out)
	set.Formats = []string{format}
	set.Files = strings.TrimSuffix(path.Base(out), ext) + "{x}" + ext
	if set.Kind != "favicon" {
		set.Kind = ""
	}
	if strings.ContainsAny(strings.TrimSuffix(set.Files, "{x}"+ext), "{}") {
		return nil, "", fmt.Errorf("-o %s: a file's name has no braces", f.Out)
	}
	check := *set
	check.Files = "{name}{x}" + ext
	return set, path.Dir(out), check.Check()
}
