package editor

import (
	"context"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"os"
	"path"
	"path/filepath"
	"strings"

	"archetyp/core/asset"
	"archetyp/core/design"
	"archetyp/core/hint"
	"archetyp/core/offer"
	"archetyp/core/styletext"
	"archetyp/job"
	"archetyp/workspace"
)

// pictureRequest is a picture that is made when a completion or an action is accepted.
type pictureRequest struct {
	URI      string   `json:"uri"`
	Source   string   `json:"source"`
	Selector string   `json:"selector"`
	Files    []string `json:"files"` // from the workspace
	Again    bool     `json:"again"` // over those that are there
}

// pictured are the properties whose value can be a picture.
var pictured = map[string]bool{"background": true, "background-image": true, "mask": true, "mask-image": true, "list-style": true,
	"list-style-image": true, "border-image": true, "border-image-source": true, "content": true, "cursor": true}

// pictureAttribute offers pictures for an attribute.
func (l *list) pictureAttribute(ctx context.Context, p *styletext.Place) {
	if p.Name == "href" && p.Tag != "link" && p.Tag != "image" && p.Tag != "use" {
		return
	}
	from, to := p.From, p.To
	if p.Name == "srcset" {
		before := l.o.text.string[from:min(max(from, l.offset), to)]
		if n := strings.LastIndexByte(before, ','); n >= 0 {
			from += n + 1
			for from < l.offset && l.o.text.string[from] == ' ' {
				from++
			}
		}
		if n := strings.IndexAny(l.o.text.string[from:to], ", "); n >= 0 {
			to = from + n
		}
	}
	l.pictures(ctx, from, to, "%s")
}

// newPictures offers the focused elements as a new picture. form is what is written, with %s for the path.
func (l *list) newPictures(ctx context.Context, from, to int, form string) {
	f, own := l.o.sp.focused(ctx, l.o.a, string(l.o.code().Language))
	if len(own) == 0 {
		return
	}
	typed, whole := l.o.text.string[from:min(max(from, l.offset), to)], l.o.text.string[from:to]
	if form != "%s" {
		typed, whole = "", ""
	}
	for _, file := range l.newNames(own, typed, whole) {
		l.newPicture(f, own, from, to, form, file)
	}
}

// pictures offers the focused elements as a new picture, and the pictures there are.
func (l *list) pictures(ctx context.Context, from, to int, form string) {
	l.newPictures(ctx, from, to, form)
	typed := l.o.text.string[from:min(max(from, l.offset), to)]
	for _, file := range l.o.a.Pictures() {
		rel := l.o.relative(file)
		if typed != "" && !strings.Contains(rel, typed) {
			continue
		}
		it := completionItem{Label: rel, Kind: kindFile, Detail: "asset"}
		if l.c.client.pictures {
			if data, err := os.ReadFile(filepath.Join(l.o.sp.dir, filepath.FromSlash(file))); err == nil && len(data) < 32<<10 {
				it.Documentation = markdown(dataPicture(file, data))
			}
		}
		l.add(it, from, to, fmt.Sprintf(form, rel))
	}
}

// dataPicture is a picture as Markdown.
func dataPicture(file string, data []byte) string {
	kind := map[string]string{".svg": "svg+xml", ".png": "png", ".webp": "webp", ".jpg": "jpeg"}[path.Ext(file)]
	return "![" + path.Base(file) + "](data:image/" + kind + ";base64," + base64.StdEncoding.EncodeToString(data) + ")"
}

// newNames are the paths that a new picture may have, from the document: what is typed where that is a whole path.
func (l *list) newNames(own []*offer.Own, typed, whole string) (out []string) {
	if _, ok := asset.FormatOf(path.Ext(whole)); ok && !strings.Contains(whole, "://") {
		out = append(out, whole)
	}
	dir, name := "media/", design.Slug(own[0].Element.Title())
	if typed != "" && !strings.Contains(typed, "://") {
		dir = typed[:strings.LastIndexByte(typed, '/')+1]
		if base := typed[len(dir):]; base != "" && !strings.HasPrefix(name, base) {
			name = strings.TrimSuffix(base, path.Ext(base))
		}
	}
	if name == "" {
		name = "picture"
	}
	for _, end := range []string{".svg", ".webp", "@2x.webp", ".png"} {
		if file := dir + name + end; file != whole {
			out = append(out, file)
		}
	}
	return out
}

// newPicture offers the focused elements as a file that is made when this is accepted.
func (l *list) newPicture(f job.Focus, own []*offer.Own, from, to int, form, file string) {
	rel := l.o.fileOf(file)
	if rel == "" || l.o.sp.has(rel) {
		return
	}
	var found []*design.Element
	for _, o := range own {
		found = append(found, o.Element)
	}
	it := completionItem{Label: file, Kind: kindFile, Detail: "new picture of " + titles(found),
		Command: &command{Title: "Make " + file, Command: makePicture,
			Arguments: []any{pictureRequest{URI: l.o.uri, Source: f.Source, Selector: f.Selector, Files: []string{rel}}}}}
	l.add(it, from, to, fmt.Sprintf(form, file))
}

// fileOf is the file that an address in a document means, from the workspace; "" for one outside of it.
func (o *openFile) fileOf(address string) string {
	rel := strings.TrimPrefix(address, "/")
	if rel == address {
		rel = path.Join(path.Dir(o.rel()), address)
	}
	if strings.Contains(address, "://") || !filepath.IsLocal(filepath.FromSlash(rel)) {
		return ""
	}
	return rel
}

// has reports whether a file of the workspace is there.
func (sp *space) has(rel string) bool {
	_, err := os.Stat(filepath.Join(sp.dir, filepath.FromSlash(rel)))
	return err == nil
}

// runPicture makes pictures and says so.
func runPicture(ctx context.Context, c *call, args []json.RawMessage) (any, error) {
	var q pictureRequest
	if len(args) != 1 || json.Unmarshal(args[0], &q) != nil {
		return nil, hint.New(makePicture+" needs what to make", "It is meant for completions and actions.")
	}
	sp := c.spaceOf(pathOf(q.URI))
	if sp == nil {
		return nil, hint.New("there is no workspace around "+q.URI, "")
	}
	a := sp.now(ctx)
	if a == nil {
		return nil, hint.New("the workspace cannot be read", "")
	}
	found, err := a.Focused(ctx, job.Focus{Source: q.Source, Selector: q.Selector})
	if err != nil {
		return nil, err
	}
	var said []string
	files := map[string][]byte{}
	for _, file := range q.Files {
		if !filepath.IsLocal(filepath.FromSlash(file)) {
			return nil, hint.New(file+" lies outside the workspace", "Name a file inside it.")
		}
		if sp.has(file) && !q.Again {
			return nil, hint.New(file+" is there already", "The action “Make "+path.Base(file)+" again” writes over it.")
		}
		made, err := a.NewPicture(found, file)
		if err != nil {
			return nil, err
		}
		files[filepath.Join(sp.dir, filepath.FromSlash(file))] = made.Data
		said = append(said, fmt.Sprintf("%s, %d × %d pixels, %d bytes", file, made.Width, made.Height, made.Bytes))
	}
	if err := workspace.Save(files, workspace.Options{Command: "editor"}); err != nil {
		return nil, err
	}
	c.message(messageInfo, "Made "+strings.Join(said, "; "))
	return nil, nil
}
