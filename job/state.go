package job

import (
	"context"
	"fmt"
	"path"
	"slices"
	"strings"
	"sync"

	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/core/text"
	"archetyp/core/token"
	"archetyp/workspace"
)

// state is one side of a comparison.
type state struct {
	ws      *workspace.Workspace
	guest   bool
	sources []string
	tokens  *token.Library
	texts   *text.Catalogue
	reader  func() (*drawingReader, error)
}

func openState(ws *workspace.Workspace, revision string) (s *state, err error) {
	s = &state{ws: ws}
	if revision != "" {
		if s.ws, err = ws.At(workspace.EditionRevision(revision)); err != nil {
			return nil, err
		}
		s.guest = true
	}
	if s.sources, err = s.ws.Sources(); err != nil {
		return s, err
	}
	if s.tokens, err = s.ws.LoadTokens(s.ws.Reader(nil), nil); err != nil {
		return s, err
	}
	s.texts, _, err = ReadTexts(s.ws)
	s.reader = sync.OnceValues(func() (*drawingReader, error) { return plainReader(s.ws) })
	return s, err
}

func (s *state) close() {
	if s.guest {
		s.ws.Close()
	}
}

// document reads a source; nil where the state has none of that name.
func (s *state) document(source string) (*design.Document, error) {
	if !slices.Contains(s.sources, source) {
		return nil, nil
	}
	r, err := s.reader()
	if err != nil {
		return nil, err
	}
	doc, _, err := r.parse(source, false)
	return doc, err
}

// plainReader reads drawings of a workspace in full, and keeps no records.
func plainReader(ws *workspace.Workspace) (*drawingReader, error) {
	in := &inputs{ws: ws, disk: ws.Seen(), hashes: map[string]string{}}
	var err error
	if in.fonts, err = ws.FontFiles(); err != nil {
		return nil, err
	}
	r := &drawingReader{ctx: context.Background(), in: in, marks: ws.Config.SelectedMarks(), texts: TextOptions(ws)}
	return r, r.loadFonts()
}

// EditionSource parts the name of a source in a revision, "edition/3:booking" or "main:design/booking.svg".
func EditionSource(arg string) (revision, source string, ok bool) {
	revision, source, ok = strings.Cut(arg, ":")
	if !ok || revision == "" || source == "" || strings.HasPrefix(source, "//") || len(revision) == 1 {
		return "", "", false
	}
	return workspace.EditionRevision(revision), source, true
}

// SourceAt reads a source of a revision by its path or name.
func SourceAt(ws *workspace.Workspace, revision, name string) (*design.Document, error) {
	s, err := openState(ws, revision)
	if err != nil {
		return nil, err
	}
	defer s.close()
	for _, f := range s.sources {
		base := path.Base(f)
		if f == name || base == name || strings.TrimSuffix(base, path.Ext(base)) == name {
			doc, err := s.document(f)
			if err == nil {
				doc.Name = f
			}
			return doc, err
		}
	}
	return nil, hint.New(fmt.Sprintf("%s has no source %s", revision, name), "It has "+strings.Join(s.sources, ", ")+".")
}
