package job

import (
	"context"
	"encoding"
	"encoding/json"
	"errors"
	"maps"
	"slices"
	"sync"

	"archetyp/core/design"
	"archetyp/core/font"
	"archetyp/core/guide"
	"archetyp/core/markup"
	"archetyp/core/packed"
	"archetyp/core/text"
	"archetyp/core/token/harvest"
	"archetyp/workspace"

	fastjson "github.com/go-json-experiment/json"
)

// drawing is one source. What most questions need of it is in its record; the document itself is read only where that
// is not enough. All methods may be called side by side.
type drawing struct {
	name   string
	key    string // hash of the file and of what it is read with
	record *record
	doc    func() (*design.Document, error)
}

// record is what a drawing contributes to tokens, texts, guide and lock. It is kept in the cache, so that a drawing
// that has not changed need not be read again.
type record struct {
	Key      string
	Links    map[string]string // what the drawing links to, with hashes
	Warnings []warned          `json:",omitempty"`
	Screens  []guide.Screen
	Families map[string]setIn `json:",omitempty"` // what its texts are set in, by family list
	Assets   int              `json:",omitempty"` // marked elements
	Groups   []int            `json:",omitempty"` // which elements are groups

	elements func() *workspace.LockedElements
	values   func() (*harvest.Values, error)
	texts    func() (*text.Finds, error)
}

type warned struct {
	At  markup.Position
	Msg string
}

// setIn says how much is set in a font family: letters, and the largest size in px.
type setIn struct {
	Letters int
	Largest float64
}

// recordOf describes a document.
func recordOf(d *design.Document, key string, links map[string]string, o text.Options) *record {
	r := &record{Key: key, Links: links, Screens: guide.ScreensOf(d), Families: map[string]setIn{}}
	for _, w := range d.Warnings {
		r.Warnings = append(r.Warnings, warned{w.Position, w.Msg})
	}
	all := d.All()
	for i, e := range all {
		if e.Kind == design.Group {
			r.Groups = append(r.Groups, i)
		}
		if w := e.Words; w != nil && !e.Hidden {
			f := r.Families[w.Family.Value]
			r.Families[w.Family.Value] = setIn{f.Letters + len(w.Words), max(f.Largest, w.Size.Value)}
		}
		if e.Marks.Asset != "" {
			r.Assets++
		}
	}
	for _, s := range d.Screens {
		if s.Root.Marks.Asset != "" && !slices.Contains(all, s.Root) {
			r.Assets++
		}
	}
	r.elements = sync.OnceValue(func() *workspace.LockedElements {
		list := make([]workspace.LockedElement, len(all))
		for i, e := range all {
			list[i] = lockedElement(e)
		}
		raw, err := json.Marshal(list)
		if err != nil {
			raw = []byte("[]") // cannot be: the type can always be written
		}
		return workspace.LockElements(raw)
	})
	r.values = sync.OnceValues(func() (*harvest.Values, error) { return harvest.Find(d), nil })
	r.texts = sync.OnceValues(func() (*text.Finds, error) { return text.Find(d, o), nil })
	return r
}

// count is how many elements there are.
func (r *record) count() int {
	n := 0
	for _, s := range r.Screens {
		n += s.Elements
	}
	return n
}

// pack writes a record: its parts behind one another, so that each can be read by itself.
func (r *record) pack() ([]byte, error) {
	head, err1 := json.Marshal(r)
	elements, err2 := r.elements().MarshalJSON()
	values, err3 := marshal(r.values)
	texts, err4 := marshal(r.texts)
	var w packed.Writer
	for _, part := range [][]byte{head, elements, values, texts} {
		w.String(string(part))
	}
	return w.Bytes(), errors.Join(err1, err2, err3, err4)
}

func marshal[T encoding.BinaryMarshaler](get func() (T, error)) ([]byte, error) {
	v, err := get()
	if err != nil {
		return nil, err
	}
	return v.MarshalBinary()
}

// unpack reads what pack wrote; nil for anything else. A part that is damaged is found in the document, read anew.
func unpack(data []byte, doc func() (*design.Document, error), o text.Options) *record {
	in := packed.NewReader(data)
	head, elements, values, texts := in.String(), in.String(), in.String(), in.String()
	locked := workspace.LockElements([]byte(elements))
	r := &record{elements: func() *workspace.LockedElements { return locked }}
	if in.Err() != nil || fastjson.Unmarshal([]byte(head), r) != nil {
		return nil
	}
	r.values = part(values, &harvest.Values{}, doc, harvest.Find)
	r.texts = part(texts, &text.Finds{}, doc, func(d *design.Document) *text.Finds { return text.Find(d, o) })
	return r
}

// part is a part of a record, read when it is asked for.
func part[T encoding.BinaryUnmarshaler](data string, into T, doc func() (*design.Document, error),
	find func(*design.Document) T) func() (T, error) {
	return sync.OnceValues(func() (T, error) {
		if into.UnmarshalBinary([]byte(data)) == nil {
			return into, nil
		}
		d, err := doc()
		if err != nil {
			return into, err
		}
		return find(d), nil
	})
}

// recordForm is counted up when a record is written in another form, or holds something else.
const recordForm = 2

// recordFolder is where records are kept in the cache.
const recordFolder = "drawings"

func recordFile(source string) string { return recordFolder + "/" + workspace.Hash([]byte(source)) }

// drawingReader reads drawings, or what is remembered of them.
type drawingReader struct {
	ctx   context.Context
	in    *inputs
	with  string // hash of what all drawings are read with
	fonts *font.Set
	faces map[string]*font.Face // by file
	marks []design.SelectedMarks
	texts text.Options
	light bool // no more is made of drawings than is asked for, and nothing recorded
}

func newDrawingReader(ctx context.Context, in *inputs) (*drawingReader, error) {
	cfg := &in.ws.Config
	with, err := digestOf(Program, recordForm, cfg.Root, cfg.Marks, cfg.Limits, in.fontHashes())
	if err != nil {
		return nil, err
	}
	r := &drawingReader{ctx: ctx, in: in, with: with, marks: cfg.SelectedMarks(), texts: TextOptions(in.ws)}
	return r, r.loadFonts()
}

// loadFonts parses the font files of the workspace.
func (r *drawingReader) loadFonts() error {
	r.fonts, r.faces = font.NewSet(nil), map[string]*font.Face{}
	for _, f := range r.in.fonts {
		data, err := r.in.read(f)
		if err != nil {
			return err
		}
		face, err := r.fonts.Add(data, f)
		if err != nil {
			return workspace.FontError(f, err)
		}
		r.faces[f] = face
	}
	return nil
}

func (r *drawingReader) keyOf(name string) string {
	return workspace.Hash([]byte(name + "\x00" + r.in.hashOf(name) + "\x00" + r.with))
}

// open finds a drawing's record, or reads the drawing and records it.
func (r *drawingReader) open(name string) (*drawing, error) {
	if d := r.recorded(name); d != nil {
		return d, nil
	}
	doc, links, err := r.parse(name, false)
	if err != nil {
		return nil, err
	}
	d := &drawing{name: name, key: r.keyOf(name), doc: func() (*design.Document, error) { return doc, nil }}
	d.record = recordOf(doc, d.key, links, r.texts)
	if r.light {
		return d, nil
	}
	return d, r.save(d)
}

// recorded is a drawing that is as it was when it was recorded; nil for none.
func (r *drawingReader) recorded(name string) *drawing {
	data, ok := r.in.ws.Cached(recordFile(name))
	if !ok {
		return nil
	}
	d := &drawing{name: name, key: r.keyOf(name)}
	d.doc = sync.OnceValues(func() (*design.Document, error) {
		doc, _, err := r.parse(name, false)
		return doc, err
	})
	anew := func() (*design.Document, error) {
		r.in.ws.Uncache(recordFolder, func(file string) bool { return file != recordFile(name) })
		return d.doc()
	}
	d.record = unpack(data, anew, r.texts)
	if d.record == nil || d.record.Key != d.key || !r.in.disk.Intact(d.record.Links) {
		return nil
	}
	return d
}

// save keeps the record of a drawing that was read.
func (r *drawingReader) save(d *drawing) error {
	data, err := d.record.pack()
	if err == nil {
		r.in.ws.Cache(recordFile(d.name), data)
	}
	return err
}

// parse reads a drawing, and says what it links to. facts leaves out what only painting needs.
func (r *drawingReader) parse(name string, facts bool) (doc *design.Document, links map[string]string, err error) {
	data, err := r.in.read(name)
	if err != nil {
		return nil, nil, err
	}
	links = map[string]string{}
	cfg := &r.in.ws.Config
	doc, err = workspace.ParseDrawing(data, workspace.Drawing{Shown: name, Fonts: r.fonts.Clone(), Marks: r.marks,
		Root: cfg.RootPx(), Limits: cfg.Budget(), Facts: facts, Context: r.ctx,
		Load: r.in.ws.Links(name, func(path string, data []byte) { links[path] = workspace.Hash(data) })})
	return doc, links, err
}

// linked are the files that drawings link to, with hashes.
func linked(drawings []*drawing) map[string]string {
	var out map[string]string
	for _, d := range drawings {
		if out == nil && len(d.record.Links) > 0 {
			out = map[string]string{}
		}
		maps.Copy(out, d.record.Links)
	}
	return out
}

// forgetRecords takes records out of the cache whose drawings are no more.
func (s *Snapshot) forgetRecords() {
	keep := map[string]bool{}
	for _, name := range s.in.sources {
		keep[recordFile(name)] = true
	}
	s.ws.Uncache(recordFolder, func(name string) bool { return keep[name] })
}
