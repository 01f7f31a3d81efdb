// Package ora reads OpenRaster files into the document model: a zip archive of layers in, one screen of elements out.
// What a layer's pixels show (a flat colour, a gradient, a rounded rectangle, a soft shadow) is estimated, with its
// error. Start with Read; stack.go walks the layers, and each thing that is seen in pixels has a file of its own.
// https://www.openraster.org/
package ora

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"io"
	"path"
	"strings"

	"archetyp/core/design"
	"archetyp/core/limit"
	"archetyp/core/markup"
)

// Options are what a reading depends on beside the bytes.
type Options struct {
	Marks  []design.SelectedMarks
	Budget *limit.Budget // what the layers may unfold into; nil: the default limits
}

// Limits on what a small file may unfold into.
const (
	maxEntries = 4096
	maxStack   = 4 << 20   // bytes of stack.xml
	maxFile    = 128 << 20 // bytes of one picture, compressed
	maxSide    = 1 << 16   // pixels
	maxOffset  = 1 << 20   // px a layer may lie off the canvas
	maxLayers  = 2000
)

// Is reports whether bytes begin like an OpenRaster file, which is a zip archive.
func Is(src []byte) bool { return bytes.HasPrefix(src, []byte("PK\x03\x04")) }

// Read reads one OpenRaster file. name is kept as the document's name. An error is a *markup.Error; its place, where
// it has one, is in the archive's stack.xml.
func Read(name string, src []byte, o Options) (*design.Document, error) {
	if o.Budget == nil {
		o.Budget = limit.New(limit.Limits{})
	}
	a, err := open(src)
	if err != nil {
		return nil, err
	}
	data, err := a.file("stack.xml", maxStack)
	if err != nil {
		return nil, err
	}
	m, err := markup.ParseXML(data)
	if err != nil {
		var me *markup.Error
		if errors.As(err, &me) {
			return nil, &markup.Error{Position: me.Position, Msg: "in stack.xml: " + me.Msg}
		}
		return nil, err
	}
	if m.Root.Local != "image" {
		return nil, &markup.Error{Position: m.Position(m.Root.Offset),
			Msg: fmt.Sprintf("in stack.xml: the root element is <%s>, not <image>", m.Root.Name)}
	}
	b := &builder{archive: a, opts: o, doc: &design.Document{Name: name, Format: "ora", Markup: m}}
	if err := b.whole(); err != nil {
		return nil, err
	}
	return b.doc, nil
}

// archive is the files of an OpenRaster file by name.
type archive struct{ files map[string]*zip.File }

func fail(format string, args ...any) error { return &markup.Error{Msg: fmt.Sprintf(format, args...)} }

func open(src []byte) (*archive, error) {
	zr, err := zip.NewReader(bytes.NewReader(src), int64(len(src)))
	if err != nil {
		return nil, fail("this is no whole OpenRaster file: its zip archive cannot be read (%v); it may be cut off", err)
	}
	if len(zr.File) > maxEntries {
		return nil, fail("the archive holds %d files; more than %d are not read", len(zr.File), maxEntries)
	}
	a := &archive{files: map[string]*zip.File{}}
	for _, f := range zr.File {
		if !inside(strings.TrimSuffix(f.Name, "/")) {
			return nil, fail("the archive names a file outside itself: %q", markup.Clip(f.Name))
		}
		if a.files[f.Name] != nil {
			return nil, fail("the archive holds %q twice", markup.Clip(f.Name))
		}
		a.files[f.Name] = f
	}
	kind, err := a.file("mimetype", 256)
	if err != nil || strings.TrimSpace(string(kind)) != "image/openraster" {
		return nil, fail("a zip archive, but not an OpenRaster file: its mimetype is not image/openraster")
	}
	return a, nil
}

// inside reports whether a name stays inside the archive.
func inside(name string) bool {
	return name != "" && !path.IsAbs(name) && !strings.Contains(name, `\`) && path.Clean(name) == name && name != ".." &&
		!strings.HasPrefix(name, "../")
}

// file reads one file of the archive, whatever size it claims to have.
func (a *archive) file(name string, most int64) ([]byte, error) {
	f := a.files[name]
	if f == nil {
		return nil, fail("the archive lacks %s", markup.Clip(name))
	}
	tooBig := fail("%s unfolds into more than %d MB", markup.Clip(name), max(most>>20, 1))
	if f.UncompressedSize64 > uint64(most) {
		return nil, tooBig
	}
	r, err := f.Open()
	if err != nil {
		return nil, fail("%s cannot be unpacked: %v", markup.Clip(name), err)
	}
	defer r.Close()
	data, err := io.ReadAll(io.LimitReader(r, most+1))
	if int64(len(data)) > most {
		return nil, tooBig
	}
	if err != nil {
		return nil, fail("%s cannot be unpacked: %v", markup.Clip(name), err)
	}
	return data, nil
}
